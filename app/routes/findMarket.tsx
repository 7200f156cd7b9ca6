import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { PICKS, RANGE_FIGURES, SORTS } from '../../between/feed.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { askFeed } from '../../server/outside/feed.ts';
import { findIn } from '../../server/use/findIn.ts';
import { keepListing, listingKept, listingMarks, markListings } from '../../server/use/listingMarks.ts';
import type { ListingMark } from '../../server/use/listingMarks.ts';
import { FindMarketPage } from '../features/find/FindMarket.tsx';
import { marksShown } from '../features/find/useFound.ts';
import type { FoundRows } from '../features/find/useFound.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { inWords } from '../../words/index.ts';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/findMarket.ts';

const number = z.coerce.number().finite().optional().catch(undefined);
const text = z.string().trim().max(200).default('').catch('');
/** Lists of what was decided here, beside those of the feed. */
const DECIDED = ['shortlisted', 'dropped'] as const;

/** What the address asks: blank means no limit. */
const asked = z.object({
  market: text,
  words: text,
  category: text,
  seller: text,
  brand: text,
  sort: z.enum(SORTS).catch('relevance'),
  list: z
    .enum([...PICKS, ...DECIDED])
    .optional()
    .catch(undefined),
  cursor: text,
  ...(Object.fromEntries(
    RANGE_FIGURES.flatMap((f) => [
      [`${f}From`, number],
      [`${f}To`, number],
    ]),
  ) as Record<`${(typeof RANGE_FIGURES)[number]}${'From' | 'To'}`, typeof number>),
});
const PAGE = 40;

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const query = Object.fromEntries([...new URL(request.url).searchParams].filter(([, v]) => v.trim() !== ''));
  const q = asked.parse(query);
  const at = await findIn(entry.workspaceId, q.market);
  if (at === null) throw redirect(`/w/${entry.slug}`);
  const { feed, market, marks, ...frame } = at;
  const decided = DECIDED.find((d) => d === q.list);
  const asks =
    q.list !== undefined || Object.keys(query).some((k) => !['market', 'sort', 'dropped'].includes(k));
  const said =
    asks && decided === undefined && feed !== null && market !== null
      ? await found(feed, market, q, query, request.signal)
      : null;
  return {
    ...frame,
    market,
    hasFeed: feed !== null,
    marks: marksShown(marks),
    found:
      decided !== undefined
        ? rowsDecided(marks.filter((m) => m.state === decided))
        : said !== null && 'listings' in said
          ? said
          : null,
    wrong: said !== null && 'wrong' in said ? said.wrong : null,
  };
});

/** Listings as they were when they were decided about; null without any. */
function rowsDecided(marks: readonly ListingMark[]): FoundRows | null {
  const [first] = marks;
  if (first === undefined) return null;
  const own = marks.filter((m) => m.currency === first.currency);
  const asOf = own.reduce((day, m) => (m.asOf < day ? m.asOf : day), first.asOf);
  return { asOf, currency: first.currency, total: null, next: null, listings: own.map((m) => m.row) };
}

async function found(
  feed: Parameters<typeof askFeed>[0],
  market: string,
  q: z.output<typeof asked>,
  query: Record<string, string>,
  signal: AbortSignal,
): Promise<FoundRows | { wrong: string }> {
  const pick = PICKS.find((p) => p === q.list);
  if (pick !== undefined) {
    const said = await askFeed(feed, 'picks', { market, what: pick, limit: PAGE }, signal);
    return said.ok ? { ...said.value, total: null, next: null } : { wrong: inWords(said.fault) };
  }
  const { market: _, list: __, ...own } = q;
  const params = Object.fromEntries(
    Object.entries(own).filter(([k, v]) => v !== undefined && v !== '' && (k in query || k === 'sort')),
  ) as Record<string, string | number>;
  const said = await askFeed(feed, 'search', { market, limit: PAGE, ...params }, signal);
  return said.ok ? said.value : { wrong: inWords(said.fault) };
}

export const meta: Route.MetaFunction = () => [{ title: 'Find · Bold Margin' }];

const act = z.discriminatedUnion('what', [
  z.strictObject({ what: z.literal('keep'), kept: listingKept }),
  z.strictObject({ what: z.literal('mark'), marks: listingMarks }),
]);

/** Keeps a listing as a candidate that follows it, or notes that listings are shortlisted or dropped. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const sent = act.safeParse(await request.json().catch(() => null));
  if (!sent.success) return unfit(sent.error);
  const { workspaceId, person } = entry;
  if (sent.data.what === 'mark') {
    await markListings(workspaceId, sent.data.marks, person.id);
    return data({ ok: true });
  }
  const id = await keepListing(workspaceId, sent.data.kept, person.id);
  throw redirect(`/w/${entry.slug}/weigh/${id}/market`);
});

export default function FindMarket() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <FindMarketPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
