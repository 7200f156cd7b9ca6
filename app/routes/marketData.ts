import { enterWorkspace } from '../../server/auth/session.ts';
import { loadMarkets } from '../../server/use/keptMarkets.ts';
import { answering } from '../answers.ts';
import type { Route } from './+types/marketData.ts';

/** What is kept of a candidate's markets, for the sheet to show beside its costs. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const only = new URL(request.url).searchParams.get('market');
  return Response.json(await loadMarkets(entry.workspaceId, params.candidate, only));
});
