import { data } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { editionOf } from '../../server/use/editions.ts';
import type { Route } from './+types/edition.ts';
import { answering } from '../answers.ts';

/** When a candidate was last changed and by whom, `mine` where it was the one who asks. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const found = await editionOf(entry.workspaceId, params.candidate);
  if (found === null) throw data(null, 404);
  return data(
    { at: found.at, by: found.by?.name ?? null, mine: found.by?.id === entry.person.id },
    { headers: { 'cache-control': 'no-store' } },
  );
});
