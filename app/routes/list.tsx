import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { queryIn } from '../../core/lists/query.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { askList, ScreeningAway } from '../../server/screening/client.ts';
import { tallyOf } from '../../server/use/goods.ts';
import { extrasOf, loadList, lookOf } from '../../server/use/lists.ts';
import { cardsOfList } from '../../server/use/listCards.ts';
import { loadViews } from '../../server/use/listViews.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { ListPage } from '../features/lists/List.tsx';
import type { Route } from './+types/list.ts';
import { inWords } from '../../words/index.ts';
import { answering } from '../answers.ts';

/** Rows of the first window, rendered by the server. */
const FIRST_WINDOW = 60;

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const page = await loadList(entry.workspaceId, params.list);
  if (page === null) throw data(null, 404);
  const { list, shown, screen } = page;
  const newest = page.work.find((w) => w.kind === 'readList') ?? null;
  // Not read and not being read: its columns are chosen first.
  if (screen === null || list.settings === null || newest === null)
    throw redirect(`/w/${entry.slug}/lists/${list.id}/setup`);
  const search = new URL(request.url).searchParams;
  const look = await lookOf(entry.workspaceId, list);
  const addressed = ['limit', 'words', 'brand', 'category', 'verdict', 'flag', 'sort', 'text', 'all'].some(
    (k) => search.has(k),
  );
  const query = addressed ? queryIn(search) : look.query;
  const answer =
    shown === null
      ? null
      : await askList(entry.workspaceId, page, {
          asker: entry.person.id,
          query,
          show: search.get('removed') === '1' ? 'removed' : 'kept',
          from: 0,
          count: FIRST_WINDOW,
          remedies: true,
          figures: [],
          facets: false,
        }).catch((e) => {
          if (e instanceof ScreeningAway) return null;
          throw e;
        });
  const work =
    newest === null
      ? null
      : {
          id: newest.id,
          state: newest.state,
          done: newest.done,
          total: newest.total,
          error: newest.error === null ? null : inWords(newest.error),
          startedAt: newest.data.startedAt ?? null,
          shown: newest.id === shown?.id,
        };
  return {
    list: {
      id: list.id,
      name: list.name,
      extras: extrasOf(list),
      listCurrency: list.settings.assumptions.purchase.currency,
      hasPrevious: list.previousId !== null,
      hasReference: list.reference !== null,
      has: Object.keys(list.map?.columns ?? {}),
    },
    supplierName: page.supplierName,
    own: list.settings,
    screen,
    look,
    query,
    answer,
    work,
    home: page.settings.homeCurrency,
    counts: {
      valid: shown?.data.valid ?? 0,
      invalid: shown?.data.invalid ?? 0,
      repaired: shown?.data.repaired ?? 0,
      completed: shown?.data.completed ?? 0,
      garbled: shown?.data.garbled ?? 0,
      troubles: shown?.data.troubles ?? {},
      changes: shown?.data.changes ?? {},
      gone: shown?.data.gone ?? null,
    },
    views: (await loadViews(entry.workspaceId)).map(({ id, name, look: l, assumptions }) => ({
      id,
      name,
      look: l,
      assumptions,
    })),
    cards: await cardsOfList(entry.workspaceId, list.settings),
    tally: await tallyOf(entry.workspaceId, list.id),
  };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.list.name ?? ''} · Bold Margin` },
];
/** What is asked anew at every limit goes its own way, past this loader. */
export const shouldRevalidate = ({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: {
  currentUrl: URL;
  nextUrl: URL;
  formMethod?: string;
  defaultShouldRevalidate: boolean;
}) =>
  formMethod === undefined && currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search
    ? false
    : defaultShouldRevalidate;

export default function List() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <ListPage key={loaded.list.id} {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />
  );
}
