/** Other sellers' shops: looked at through the feed, followed, held against what one can buy oneself. */
import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { ListRow } from '../../between/ask.ts';
import type { FeedAnswer, FeedRow } from '../../between/feed.ts';
import { sellerChanges, sellerSaid } from '../../core/evidence/seller.ts';
import type { SellerChanges, SellerSaid } from '../../core/evidence/seller.ts';
import type { EvidenceSettings } from '../../core/evidence/settings.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { readGtin } from '../../core/goods/gtin.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { listRow, supplierList, watchedSeller } from '../db/schema.ts';
import type { SellerKept } from '../db/schema.ts';
import { askFeed } from '../outside/feed.ts';
import type { Feed } from '../outside/feed.ts';
import { refused } from '../refusal.ts';
import { askRow, ScreeningAway } from '../screening/client.ts';
import { feedOf } from './feeds.ts';
import { loadList } from './lists.ts';
import type { ListPage } from './lists.ts';

/** Goods of a shop that are looked at, the best selling first; and goods whose other sellers are asked for. */
const MOST_GOODS = 1000;
const PAGE = 200;
const ASKED_FOR_OTHERS = 6;
const MOST_WATCHED = 100;

export type ShopSeen = {
  readonly asOf: string;
  readonly currency: string;
  readonly tax: 'included' | 'excluded';
  readonly goods: readonly FeedRow[];
  /** Whether these are all it has. */
  readonly whole: boolean;
};

/** The goods of a seller, the best selling first. */
export async function seenShop(
  feed: Feed,
  market: string,
  seller: string,
  signal?: AbortSignal,
): Promise<ShopSeen | Fault> {
  const goods = new Map<string, FeedRow>();
  let cursor: string | null = null;
  let said: FeedAnswer<'search'> | null = null;
  do {
    const params = { market, seller, sort: 'units', limit: PAGE };
    const page: Awaited<ReturnType<typeof askFeed<'search'>>> = await askFeed(
      feed,
      'search',
      cursor === null ? params : { ...params, cursor },
      signal,
    );
    if (!page.ok) return page.fault;
    said = page.value;
    const before = goods.size;
    // A feed that takes no sellers answers with everybody's goods.
    for (const g of said.listings) if (g.seller === seller) goods.set(g.listing, g);
    cursor = goods.size === before ? null : said.next;
  } while (cursor !== null && goods.size < MOST_GOODS);
  const { asOf, currency, tax } = said;
  const all = [...goods.values()].slice(0, MOST_GOODS);
  return { asOf, currency, tax, goods: all, whole: cursor === null };
}

/** Others who offer its best selling goods, with how many of these, most first. */
async function othersOf(
  feed: Feed,
  market: string,
  { goods }: ShopSeen,
  seller: string,
  signal?: AbortSignal,
): Promise<{ seller: string; shared: number }[]> {
  const shared = new Map<string, number>();
  const best = goods.slice(0, ASKED_FOR_OTHERS);
  const answers = await Promise.all(
    best.map((g) => askFeed(feed, 'offers', { market, code: g.listing }, signal)),
  );
  for (const a of answers)
    for (const name of new Set(a.ok ? a.value.offers.flatMap((o) => (o.ownShop ? [] : [o.seller])) : []))
      if (name !== seller && name !== '') shared.set(name, (shared.get(name) ?? 0) + 1);
  return [...shared]
    .map(([name, n]) => ({ seller: name, shared: n }))
    .sort((a, b) => b.shared - a.shared || a.seller.localeCompare(b.seller))
    .slice(0, 12);
}

/** Goods of a shop that stand in a list of ours: what they cost there, and what that list makes of them. */
export type OurGoods = {
  readonly goods: FeedRow;
  readonly cost: number;
  readonly currency: string;
  readonly list: string;
  readonly listId: string;
  /** As the list weighs it; null where the list is for another market, or the screening does not answer. */
  readonly row: ListRow | null;
};

/** Goods that are weighed by their lists, the best selling first. */
const MOST_OURS = 40;

/** Where goods of a shop stand in our lists: of each the row at the lowest cost, by lists of one currency. */
export async function ourGoods(
  workspaceId: string,
  market: string,
  goods: readonly FeedRow[],
): Promise<OurGoods[]> {
  const byKey = new Map<number, FeedRow>();
  for (const g of goods) {
    const read = g.gtin === null ? null : readGtin(g.gtin);
    if (read?.ok === true && !byKey.has(Number(read.key))) byKey.set(Number(read.key), g);
  }
  const places = await placesOf(workspaceId, [...byKey.keys()]);
  const sold = (key: number): number => byKey.get(key)?.units ?? -1;
  const most = [...places].sort((a, b) => sold(b.key) - sold(a.key)).slice(0, MOST_OURS);
  const pages = new Map<string, ListPage | null>();
  for (const { listId } of most)
    if (!pages.has(listId)) pages.set(listId, await loadList(workspaceId, listId));
  return Promise.all(
    most.map(async ({ key, line, cost, list, listId, currency }) => {
      const page = pages.get(listId) ?? null;
      const card = page?.screen?.rates.marketplace;
      const same = card != null && `${card.marketplace}/${card.country}` === market;
      const opened = page !== null && same ? await rowOf(workspaceId, page, line) : null;
      return { goods: byKey.get(key) as FeedRow, cost, currency, list, listId, row: opened };
    }),
  );
}

async function rowOf(workspaceId: string, page: ListPage, line: number): Promise<ListRow | null> {
  try {
    return (await askRow(workspaceId, page, line))?.row ?? null;
  } catch (e) {
    if (e instanceof ScreeningAway) return null;
    throw e;
  }
}

type PlaceOf = {
  readonly key: number;
  readonly line: number;
  readonly cost: number;
  readonly list: string;
  readonly listId: string;
  readonly currency: string;
};

/** Rows of these barcodes in the lists that are there; of each the one at the lowest cost. */
async function placesOf(workspaceId: string, keys: readonly number[]): Promise<PlaceOf[]> {
  if (keys.length === 0) return [];
  return inWorkspace(workspaceId, async (tx) => {
    const lists = await tx
      .select({
        runId: supplierList.runId,
        id: supplierList.id,
        name: supplierList.name,
        currency: sql<string>`${supplierList.settings} -> 'assumptions' -> 'purchase' ->> 'currency'`,
      })
      .from(supplierList)
      .where(
        and(
          eq(supplierList.workspaceId, workspaceId),
          isNull(supplierList.deletedAt),
          isNotNull(supplierList.runId),
        ),
      )
      .orderBy(desc(supplierList.createdAt))
      .limit(500);
    const byRun = new Map(lists.map((l) => [l.runId as string, l]));
    if (byRun.size === 0) return [];
    const rows = await tx
      .select({ key: listRow.key, line: listRow.line, cost: listRow.cost, runId: listRow.runId })
      .from(listRow)
      .where(
        and(
          eq(listRow.workspaceId, workspaceId),
          inArray(listRow.runId, [...byRun.keys()]),
          inArray(listRow.key, [...keys]),
        ),
      )
      .orderBy(asc(listRow.cost))
      .limit(5000);
    const found = new Map<number, PlaceOf>();
    for (const { runId, ...row } of rows) {
      const list = byRun.get(runId);
      if (found.has(row.key) || list === undefined) continue;
      found.set(row.key, { ...row, list: list.name, listId: list.id, currency: list.currency });
    }
    return [...found.values()];
  });
}

export type SellerPage = {
  readonly seen: ShopSeen | null;
  readonly said: SellerSaid | null;
  readonly others: { seller: string; shared: number }[];
  readonly ours: readonly OurGoods[];
  /** Since when it is followed, and what changed since it was looked at before; null: it is not followed. */
  readonly watch: {
    readonly since: string;
    readonly seenAsOf: string;
    readonly changes: SellerChanges;
  } | null;
  readonly fault: Fault | null;
};

/** Everything a seller's shop is shown with. A feed that does not answer leaves what is known. */
export async function loadSeller(
  workspaceId: string,
  feed: Feed | null,
  s: EvidenceSettings,
  market: string,
  seller: string,
  signal?: AbortSignal,
): Promise<SellerPage> {
  const kept = await watchedIn(workspaceId, market, seller);
  const seen = feed === null ? fault('feedNone') : await seenShop(feed, market, seller, signal);
  if (feed === null || 'code' in seen)
    return {
      seen: null,
      said: null,
      others: [],
      ours: [],
      watch: kept === null ? null : watchOf(kept, null),
      fault: 'code' in seen ? seen : null,
    };
  return {
    seen,
    said: sellerSaid(seen.goods, s.newcomerDays),
    others: await othersOf(feed, market, seen, seller, signal),
    ours: await ourGoods(workspaceId, market, seen.goods),
    watch: kept === null ? null : watchOf(kept, seen),
    fault: null,
  };
}

const NO_CHANGES: SellerChanges = { fresh: [], gone: [], cheaper: [], dearer: [] };
const watchOf = ({ createdAt, data }: KeptRow, seen: ShopSeen | null): SellerPage['watch'] => ({
  since: createdAt.toISOString().slice(0, 10),
  seenAsOf: data.asOf,
  changes:
    seen === null || seen.currency !== data.currency
      ? NO_CHANGES
      : sellerChanges(data.goods, seen.goods, seen.whole && data.whole),
});

type KeptRow = typeof watchedSeller.$inferSelect;
const which = (workspaceId: string, market: string, seller: string) =>
  and(
    eq(watchedSeller.workspaceId, workspaceId),
    eq(watchedSeller.market, market),
    eq(watchedSeller.seller, seller),
  );
async function watchedIn(workspaceId: string, market: string, seller: string): Promise<KeptRow | null> {
  const [row] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select()
      .from(watchedSeller)
      .where(which(workspaceId, market, seller)),
  );
  return row ?? null;
}

/** What is kept of a shop: enough to say what has changed. */
export const keptOf = ({ asOf, currency, whole, goods }: ShopSeen): SellerKept => ({
  asOf,
  currency,
  whole,
  goods: goods.map(({ listing, title, price }) => ({ listing, title: title.slice(0, 200), price })),
});

/**
 * Follows a seller from now on, or notes that one has seen what changed.
 * @throws Refusal `invalid` where the feed does not answer, or too many are followed
 */
export async function watchSeller(
  workspaceId: string,
  market: string,
  seller: string,
  by: string,
): Promise<void> {
  const feed = await feedOf(workspaceId);
  if (feed === null) throw refused('feedNone');
  const seen = await seenShop(feed, market, seller);
  if ('code' in seen) throw refused(seen.code, seen.detail);
  if (seen.goods.length === 0) throw refused('sellerNothing', { seller });
  await inWorkspace(workspaceId, async (tx) => {
    const [n] = await tx
      .select({ n: sql<number>`count(*)::int` })
      .from(watchedSeller)
      .where(eq(watchedSeller.workspaceId, workspaceId));
    if ((n?.n ?? 0) >= MOST_WATCHED) throw refused('sellersTooMany', { most: MOST_WATCHED });
    await keepSeen(tx, workspaceId, market, seller, keptOf(seen), by);
  });
}

/** Keeps what a shop has now as what it will be held against. */
export async function keepSeen(
  tx: Tx,
  workspaceId: string,
  market: string,
  seller: string,
  data: SellerKept,
  by: string,
): Promise<void> {
  const now = { data, askedAt: new Date() };
  await tx
    .insert(watchedSeller)
    .values({ workspaceId, market, seller, createdBy: by, ...now })
    .onConflictDoUpdate({
      target: [watchedSeller.workspaceId, watchedSeller.market, watchedSeller.seller],
      set: now,
    });
}

export async function unwatchSeller(workspaceId: string, market: string, seller: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) => tx.delete(watchedSeller).where(which(workspaceId, market, seller)));
}

/** The sellers that are followed. */
export async function watchedSellers(
  workspaceId: string,
): Promise<{ market: string; seller: string; asOf: string; goods: number }[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select({
        market: watchedSeller.market,
        seller: watchedSeller.seller,
        asOf: sql<string>`${watchedSeller.data} ->> 'asOf'`,
        goods: sql<number>`jsonb_array_length(${watchedSeller.data} -> 'goods')::int`,
      })
      .from(watchedSeller)
      .where(eq(watchedSeller.workspaceId, workspaceId))
      .orderBy(watchedSeller.seller, watchedSeller.market),
  );
}
