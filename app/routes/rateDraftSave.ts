import { data } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { saveDraft } from '../../server/use/cardDrafts.ts';
import type { Route } from './+types/rateDraftSave.ts';
import { answering } from '../answers.ts';

const cell = z.union([z.string().max(2000), z.number(), z.boolean(), z.null()]);
/** Cells of a card as a browser sends them: ten sheets, some thousand rows. */
export const cellsSchema = z.record(z.string().max(40), z.array(z.array(cell).max(60)).max(20_000));
const body = z.strictObject({ edition: z.number().int(), cells: cellsSchema });

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = body.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return data({ ok: false as const }, 400);
  const saved = await saveDraft(
    entry.workspaceId,
    params.draft,
    parsed.data.edition,
    parsed.data.cells,
    entry.person.id,
  );
  return data(saved, saved.ok ? 200 : 'gone' in saved ? 404 : 409);
});
