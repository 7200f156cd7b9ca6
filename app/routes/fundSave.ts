import { data } from 'react-router';
import { z } from 'zod';
import { fundPart } from '../../core/workspace/fundPlan.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { saveFundPlan } from '../../server/use/savePatches.ts';
import type { Route } from './+types/fundSave.ts';
import { answering, unfit } from '../answers.ts';

/** What of the plan was changed: two people who fill in different fields keep both. */
const body = z.strictObject({ changed: fundPart, candidate: z.string().max(64) });

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = body.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const found = await saveFundPlan(
    entry.workspaceId,
    parsed.data.candidate,
    parsed.data.changed,
    entry.person.id,
  );
  return data({ error: found ? null : 'gone' }, found ? 200 : 404);
});
