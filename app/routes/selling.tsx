import { data, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { shortText } from '../../core/money/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { lanesToLaunch, launchLane } from '../../server/use/launched.ts';
import { loadSelling } from '../../server/use/selling.ts';
import { LARGEST_REPORT } from '../../server/use/settlements.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { SellingPage } from '../features/selling/SellingPage.tsx';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/selling.ts';

/** Lanes that stand on the page at first: the most urgent ones. */
const SHOWN_LANES = 12;

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const { workspaceId } = await enterWorkspace(request, params.workspace);
  const all = new URL(request.url).searchParams.has('all');
  return {
    ...(await loadSelling(workspaceId, all ? undefined : SHOWN_LANES)),
    choices: await lanesToLaunch(workspaceId),
    largest: LARGEST_REPORT,
    today: today(),
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Selling · Bold Margin' }];

const told = z.strictObject({
  laneId: z.string().max(64),
  codes: z.array(shortText.min(1)).max(50),
  since: z.string().max(20),
});

/** Puts a lane on sale. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = told.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  await launchLane(entry.workspaceId, parsed.data, entry.person.id);
  return data({ launched: parsed.data.laneId });
});

export default function Selling() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <SellingPage {...loaded} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
