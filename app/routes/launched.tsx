import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { loadLaunched, unlaunchLane } from '../../server/use/launched.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { LaunchedPage } from '../features/selling/LaunchedPage.tsx';
import { answering } from '../answers.ts';
import type { Route } from './+types/launched.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const { workspaceId } = await enterWorkspace(request, params.workspace);
  return { page: await loadLaunched(workspaceId, params.lane) };
});

export const meta: Route.MetaFunction = () => [{ title: 'On sale · Bold Margin' }];

/** Takes the lane off sale. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  await unlaunchLane(entry.workspaceId, params.lane);
  throw redirect(`/w/${entry.slug}/selling`);
});

export default function Launched() {
  const { page } = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <LaunchedPage page={page} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
