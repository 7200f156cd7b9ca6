/** Other sellers' shops: looked at through the feed, and followed. */
import { and, eq, sql } from 'drizzle-orm';
import type { FeedAnswer, FeedRow } from '../../between/feed.ts';
import { sellerChanges, sellerSaid } from '../../core/evidence/seller.ts';
import type { SellerChanges, SellerSaid } from '../../core/evidence/seller.ts';
import type { EvidenceSettings } from '../../core/evidence/settings.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { watchedSeller } from '../db/schema.ts';
import type { SellerKept } from '../db/schema.ts';
import { askFeed } from '../outside/feed.ts';
import type { Fed, Feed } from '../outside/feed.ts';
import { refused } from '../refusal.ts';
import { feedOf } from './feeds.ts';
import { ourGoods } from './ourGoods.ts';
import type { OurGoods } from './ourGoods.ts';

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
    const page: Fed<'search'> = await askFeed(
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
