import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { queryIn } from '../../core/lists/query.ts';
import type { ListQuery } from '../../core/lists/query.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import type { Entry } from '../../server/auth/session.ts';
import { askList, ScreeningAway } from '../../server/screening/client.ts';
import { tallyOf } from '../../server/use/goods.ts';
import { countLooks } from '../../server/use/closerLooks.ts';
import { extrasOf, loadList, lookOf } from '../../server/use/lists.ts';
import { cardsOfList } from '../../server/use/listCards.ts';
import { loadViews } from '../../server/use/listViews.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { ListPage } from '../features/lists/List.tsx';
import type { Route } from './+types/list.ts';
import { readAgainFor } from '../readAgain.ts';
import { answering } from '../answers.ts';
import { workShown } from '../workShown.ts';

/** Rows of the first window, rendered by the server. */
const FIRST_WINDOW = 60;

type Page = NonNullable<Awaited<ReturnType<typeof loadList>>>;
type Run = Page['work'][number];

/** The first rows; null where the screening is away: the page then asks by itself. */
const firstWindow = (entry: Entry, page: Page, query: ListQuery, show: 'kept' | 'removed') =>
  askList(entry.workspaceId, page, {
    asker: entry.person.id,
    query,
    show,
    from: 0,
    count: FIRST_WINDOW,
    remedies: true,
    figures: [],
    facets: false,
  }).catch((e) => {
    if (e instanceof ScreeningAway) return null;
    throw e;
  });

/** How many rows the run that is shown took, and how; 0 before there is one. */
const countsOf = (run: Partial<Run['data']>) => ({
  valid: run.valid ?? 0,
  invalid: run.invalid ?? 0,
  repaired: run.repaired ?? 0,
  completed: run.completed ?? 0,
  garbled: run.garbled ?? 0,
  troubles: run.troubles ?? {},
  changes: run.changes ?? {},
  gone: run.gone ?? null,
});

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
  const show = search.get('removed') === '1' ? 'removed' : 'kept';
  const answer = shown === null ? null : await firstWindow(entry, page, query, show);
  return {
    list: {
      id: list.id,
      name: list.name,
      extras: extrasOf(list),
      listCurrency: list.settings.assumptions.purchase.currency,
      isCatalogue: list.catalogue !== null,
      looked: await countLooks(entry.workspaceId, list.id),
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
    work: {
      id: newest.id,
      startedAt: newest.data.startedAt ?? null,
      shown: newest.id === shown?.id,
      ...workShown(newest),
    },
    home: page.settings.homeCurrency,
    counts: countsOf(shown?.data ?? {}),
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
export const shouldRevalidate = readAgainFor();

export default function List() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <ListPage key={loaded.list.id} {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />
  );
}
