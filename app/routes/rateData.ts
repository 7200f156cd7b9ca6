import { enterWorkspace } from '../../server/auth/session.ts';
import { loadCards } from '../../server/use/cards.ts';
import type { Route } from './+types/rateData.ts';
import { answering } from '../answers.ts';

/** The figures of card versions by id, read when somebody asks what they would change. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const ids = (new URL(request.url).searchParams.get('ids') ?? '').split(',').filter(Boolean).slice(0, 12);
  return { cards: Object.fromEntries((await loadCards(entry.workspaceId, ids)).map((c) => [c.id, c.data])) };
});
