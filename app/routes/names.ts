import { enterWorkspace } from '../../server/auth/session.ts';
import { candidateNames } from '../../server/use/candidates.ts';
import type { Route } from './+types/names.ts';
import { answering } from '../answers.ts';
import { lastAnswer } from '../whenAway.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  return { names: await candidateNames(entry.workspaceId) };
});

/** Without a network the command bar goes on with the names it knew. */
export const clientLoader = lastAnswer<Awaited<ReturnType<typeof loader>>>({ names: [] });
