import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { CLAIM_STATES, FEE_KINDS } from '../../core/actuals/fees.ts';
import { stopped } from '../../core/actuals/letGo.ts';
import { TAKEN_OVER } from '../../core/actuals/takeOver.ts';
import { positive } from '../../core/money/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { stateClaim } from '../../server/use/claims.ts';
import { countStock, dropCount, letGo, takeOver, unlaunchLane } from '../../server/use/launched.ts';
import { keepLeftOver } from '../../server/use/leftOver.ts';
import { loadLaunched } from '../../server/use/selling.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { LaunchedPage } from '../features/selling/LaunchedPage.tsx';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/launched.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const { workspaceId } = await enterWorkspace(request, params.workspace);
  return { page: await loadLaunched(workspaceId, params.lane), today: today() };
});

export const meta: Route.MetaFunction = () => [{ title: 'On sale · Bold Margin' }];

const day = z.string().max(20);
const text = z.string().max(200);
const told = z.discriminatedUnion('intent', [
  z.strictObject({ intent: z.literal('off') }),
  z.strictObject({ intent: z.literal('count'), day, units: z.number().min(0).max(1e9) }),
  z.strictObject({ intent: z.literal('dropCount'), day }),
  stopped.pick({ reason: true, note: true }).extend({ intent: z.literal('letGo') }),
  z.strictObject({ intent: z.literal('goOn') }),
  z.strictObject({
    intent: z.literal('leftOver'),
    of: z.string().max(64),
    price: positive,
    name: z.string().max(100),
  }),
  z.strictObject({ intent: z.literal('takeOver'), whats: z.array(z.enum(TAKEN_OVER)).max(10) }),
  z.strictObject({
    intent: z.literal('claim'),
    place: text,
    code: text,
    kind: z.enum(FEE_KINDS),
    month: text,
    why: z.enum(['twice', 'aboveCard']),
    state: z.enum(CLAIM_STATES),
  }),
]);

/** Everything that is said or decided of a lane on sale. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const { workspaceId, person, slug } = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = told.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const act = parsed.data;
  const { lane } = params;
  switch (act.intent) {
    case 'off':
      await unlaunchLane(workspaceId, lane);
      throw redirect(`/w/${slug}/selling`);
    case 'count':
      await countStock(workspaceId, lane, { day: act.day, units: act.units });
      break;
    case 'dropCount':
      await dropCount(workspaceId, lane, act.day);
      break;
    case 'letGo':
      await letGo(workspaceId, lane, { reason: act.reason, note: act.note, by: person.name }, person.id);
      break;
    case 'goOn':
      await letGo(workspaceId, lane, null, person.id);
      break;
    case 'leftOver': {
      const { intent: _, ...said } = act;
      const candidateId = await keepLeftOver(workspaceId, lane, said, person.id);
      throw redirect(`/w/${slug}/weigh/${candidateId}`);
    }
    case 'takeOver':
      await takeOver(workspaceId, lane, act.whats, person.id);
      break;
    default: {
      const { intent: _, state, ...key } = act;
      await stateClaim(workspaceId, key, { state, note: '' }, person.id);
    }
  }
  return data({ done: true as const });
});

export default function Launched() {
  const { page, today } = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <LaunchedPage
      key={page.laneId}
      page={page}
      base={`/w/${head.slug}`}
      today={today}
      canEdit={head.role !== 'viewer'}
    />
  );
}
