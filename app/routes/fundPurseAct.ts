import { data } from 'react-router';
import { z } from 'zod';
import { day } from '../../core/money/schema.ts';
import { pursePart } from '../../core/workspace/purse.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { adoptPlan, purseWork, savePurse, startPurse, stopPurse } from '../../server/use/purse.ts';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/fundPurseAct.ts';

const id = z.string().min(1).max(64);
const body = z.discriminatedUnion('act', [
  z.strictObject({ act: z.literal('keep'), changed: pursePart }),
  z.strictObject({
    act: z.literal('adopt'),
    launches: z
      .array(z.strictObject({ candidate: id, lane: id, quantity: z.number().min(1e-6).max(1e9), start: day }))
      .min(1)
      .max(1000),
  }),
  z.strictObject({ act: z.literal('solve'), seconds: z.number().min(1).max(600) }),
  z.strictObject({ act: z.literal('stop') }),
]);

/** How far the server is with the purse. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  return Response.json(await purseWork(entry.workspaceId));
});

/** Keeps the rules of the purse, has the server solve it, or makes its plan the launch plans of the candidates. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const sent = body.safeParse(await request.json().catch(() => null));
  if (!sent.success) return unfit(sent.error);
  if (sent.data.act === 'adopt')
    return data({ refused: await adoptPlan(entry.workspaceId, sent.data.launches, entry.person.id) });
  if (sent.data.act === 'solve') await startPurse(entry.workspaceId, sent.data.seconds, entry.person.id);
  else if (sent.data.act === 'stop') await stopPurse(entry.workspaceId);
  else await savePurse(entry.workspaceId, sent.data.changed);
  return data({ refused: [] });
});
