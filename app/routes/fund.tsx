import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { candidateNames, loadMarketSheet, loadSheet } from '../../server/use/candidates.ts';
import { learnedIn } from '../../server/use/laneBooks.ts';
import { agreedOrders } from '../../server/use/orders.ts';
import { settingsOf } from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { FundPage } from '../features/fund/Fund.tsx';
import type { Route } from './+types/fund.ts';
import { answering } from '../answers.ts';
import { readAgainFor } from '../readAgain.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const url = new URL(request.url);
  const names = await candidateNames(entry.workspaceId);
  const wanted = url.searchParams.get('candidate') ?? names[0]?.id ?? null;
  // What the market says is read where ranges are offered from it.
  const withMarket =
    wanted !== null && url.searchParams.get('view') === 'sure'
      ? await loadMarketSheet(entry.workspaceId, wanted, { all: true })
      : null;
  const sheet = withMarket?.sheet ?? (wanted === null ? null : await loadSheet(entry.workspaceId, wanted));
  const settings = sheet?.settings ?? (await settingsOf(entry.workspaceId));
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  return {
    names,
    settings,
    markets: withMarket?.markets ?? [],
    learned: withMarket === null ? {} : await learnedIn(entry.workspaceId),
    ordered: wanted === null ? [] : await agreedOrders(entry.workspaceId, wanted),
    sheet:
      sheet === null
        ? null
        : {
            today: sheet.today,
            cards: sheet.cards,
            state: {
              candidate: { id: sheet.candidate.id, data: sheet.candidate.data },
              quotes: sheet.quotes.map(({ id, data: d }) => ({ id, data: d })),
              lanes: sheet.lanes
                .filter((l) => l.scenarioOf === null)
                .map(({ id, position, data: d }) => ({ id, position, data: d, scenarioOf: null })),
            },
          },
  };
});

export const shouldRevalidate = readAgainFor('candidate', 'view');

export const meta: Route.MetaFunction = () => [{ title: 'Fund · Bold Margin' }];

export default function Fund() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <FundPage
      key={loaded.sheet?.state.candidate.id ?? 'none'}
      {...loaded}
      canEdit={head.role !== 'viewer'}
      base={`/w/${head.slug}`}
    />
  );
}
