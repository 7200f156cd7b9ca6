import { enterWorkspace } from '../../server/auth/session.ts';
import { candidateNames } from '../../server/use/candidates.ts';
import type { Route } from './+types/names.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  return { names: await candidateNames(entry.workspaceId) };
});
