import { enterWorkspace } from '../../server/auth/session.ts';
import { loadWeighedLanes } from '../../server/use/weigh.ts';
import type { Route } from './+types/weighLanes.ts';
import { answering } from '../answers.ts';

/** The lanes of a candidate that is opened in the list. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  return { id: params.candidate, lanes: await loadWeighedLanes(entry.workspaceId, params.candidate) };
});
