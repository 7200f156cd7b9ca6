import { redirect } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { isWorkspaceDeleted } from '../../server/use/workspaces.ts';
import type { Route } from './+types/workspaceHome.ts';
import { answering } from '../answers.ts';

/** On to the candidates; a deleted workspace stays here, where its frame says so and offers the way back. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  if (!(await isWorkspaceDeleted(entry.workspaceId))) throw redirect(`/w/${entry.slug}/weigh`);
  return null;
});

export default function WorkspaceHome() {
  return null;
}
