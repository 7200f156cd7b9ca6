import { data } from 'react-router';
import { z } from 'zod';
import { patch } from '../../core/workspace/patch.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { savePatches } from '../../server/use/savePatches.ts';
import type { Route } from './+types/sheetSave.ts';
import { inWords } from '../../words/index.ts';
import { answering } from '../answers.ts';

const body = z.strictObject({ patches: z.array(patch).min(1).max(500) });

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = body.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return data({ ok: false as const, invalid: [] }, 400);
  const saved = await savePatches(
    entry.workspaceId,
    params.candidate,
    parsed.data.patches as never,
    entry.person.id,
  );
  const told =
    'invalid' in saved
      ? {
          ...saved,
          invalid: saved.invalid.map(({ patch: p, fault }) => ({ patch: p, message: inWords(fault) })),
        }
      : saved;
  return data(told, saved.ok ? 200 : 'gone' in saved ? 404 : 'conflicts' in saved ? 409 : 422);
});
