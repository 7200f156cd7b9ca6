import { enterWorkspace } from '../../server/auth/session.ts';
import { earlierObservations } from '../../server/use/evidence.ts';
import { answering } from '../answers.ts';
import type { Route } from './+types/marketEarlier.ts';

/** What was known of one kind of evidence before. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const asked = new URL(request.url).searchParams;
  const [market, kind] = [asked.get('market') ?? '', asked.get('kind') ?? ''];
  return Response.json({
    earlier: await earlierObservations(entry.workspaceId, params.candidate, market, kind),
  });
});
