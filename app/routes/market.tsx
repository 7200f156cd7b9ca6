import { data, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { loadMarketSheet, sheetState } from '../../server/use/candidates.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { MarketPage } from '../features/market/MarketPage.tsx';
import { readAgainFor } from '../readAgain.ts';
import { answering } from '../answers.ts';
import type { Route } from './+types/market.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const asked = new URL(request.url).searchParams;
  const which = { lane: asked.get('lane'), all: asked.has('all') };
  const found = await loadMarketSheet(entry.workspaceId, params.candidate, which);
  if (found === null) throw data(null, 404);
  const { sheet, markets, hasFeed } = found;
  return {
    settings: sheet.settings,
    today: sheet.today,
    cards: sheet.cards,
    markets,
    hasFeed,
    state: sheetState(sheet),
  };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.state.candidate.data.name ?? ''} · Bold Margin` },
];
/** Another market is read when it is looked at; what else stands in the address asks for nothing. */
export const shouldRevalidate = readAgainFor('lane', 'all');

export default function MarketRoute() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <MarketPage
      key={loaded.state.candidate.id}
      {...loaded}
      canEdit={head.role !== 'viewer'}
      base={`/w/${head.slug}/weigh`}
    />
  );
}
