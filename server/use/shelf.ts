/** What is known of goods that somebody holds at a shelf: their listings on a market, each with its evidence. */
import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { FeedRow } from '../../between/feed.ts';
import type { ShelfKnown } from '../../between/shelfSaid.ts';
import { fastestFirst, shelfListingOf } from '../../core/check/listing.ts';
import type { ListingFacts } from '../../core/check/listing.ts';
import type { ShelfListing } from '../../core/check/schema.ts';
import { composeEvidence, NO_WATCH } from '../../core/evidence/observed.ts';
import type { KeptMarket, Observation } from '../../core/evidence/observed.ts';
import type { Fault } from '../../core/fault.ts';
import { packIn } from '../../core/goods/packs.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import { barcodeKey, candidate, goodsMark, listRow, rateCard, supplierList } from '../db/schema.ts';
import { today } from '../env.ts';
import { askFeed } from '../outside/feed.ts';
import type { Feed } from '../outside/feed.ts';
import { askedFor } from './watching.ts';

/** Listings of which everything is asked; of the others a search's row is enough until one is chosen. */
const IN_FULL = 3;
const MOST = 20;
/** What decides at a shelf: prices of the past, who offers, how many sell, whether one may. */
const KINDS = ['history', 'offers', 'units', 'permission'] as const;

export type ShelfQuestion = {
  readonly market: string;
  /** Barcode, listing code, or words of its name; the first that is given. */
  readonly gtin: string | null;
  readonly code: string | null;
  readonly words: string | null;
};
/** What went wrong while asking; what it would have said is not known. */
export type ShelfAnswer = ShelfKnown & { readonly faults: readonly Fault[] };

/** Everything known of goods at a shelf; a feed that is away leaves what the workspace knows itself. */
export async function shelfSaid(
  workspaceId: string,
  feed: Feed | null,
  settings: Settings,
  q: ShelfQuestion,
  signal: AbortSignal,
): Promise<ShelfAnswer> {
  const own = await ownOf(workspaceId, q);
  const { rows, faults, asOf } =
    feed === null ? { rows: [], faults: [], asOf: today() } : await rowsOf(feed, q, signal);
  const known = fastestFirst(rows).slice(0, MOST);
  const listings = await Promise.all(
    known.map(async (row, i) => {
      const facts = factsOf(row, asOf);
      if (feed === null || i >= IN_FULL) return shelfListingOf(facts, null);
      const full = await inFull(feed, settings, q.market, row.listing, signal);
      faults.push(...full.faults);
      return shelfListingOf(facts, full.document);
    }),
  );
  return {
    listings: fastestFirst(listings.length > 0 ? listings : own.listings),
    candidate: own.candidate,
    mark: own.mark,
    faults: [...new Map(faults.map((f) => [JSON.stringify(f), f])).values()],
    at: new Date().toISOString(),
  };
}

type Row = FeedRow & { readonly pack?: number };
async function rowsOf(
  feed: Feed,
  q: ShelfQuestion,
  signal: AbortSignal,
): Promise<{ rows: Row[]; faults: Fault[]; asOf: string }> {
  const none = { rows: [], faults: [], asOf: today() };
  if (q.code !== null) {
    const said = await askFeed(feed, 'listing', { market: q.market, code: q.code }, signal);
    // What is no listing's code may be a word of a name.
    if (!said.ok && said.fault.code === 'feedUnknown')
      return rowsOf(feed, { ...q, code: null, words: q.code }, signal);
    if (!said.ok) return { ...none, faults: [said.fault] };
    const { units, ...l } = said.value;
    return { rows: [{ ...l, units: units?.units ?? null, paid: false }], faults: [], asOf: l.asOf };
  }
  const said =
    q.gtin !== null
      ? await askFeed(feed, 'barcode', { market: q.market, gtin: q.gtin }, signal)
      : await askFeed(feed, 'search', { market: q.market, words: q.words ?? '', limit: MOST }, signal);
  return said.ok
    ? { rows: [...said.value.listings], faults: [], asOf: said.value.asOf }
    : { ...none, faults: [said.fault] };
}

const factsOf = (row: Row, asOf: string): ListingFacts => ({
  code: row.listing,
  title: row.title,
  brand: row.brand,
  rank: row.rank,
  offers: row.offers,
  pack: row.pack ?? packIn(row.title)?.pieces ?? 1,
  kg: row.kg,
  category: row.category,
  price: row.price,
  units: row.units,
  asOf,
  source: 'feed',
});

/** The evidence of one listing as its page would have it. */
async function inFull(feed: Feed, settings: Settings, market: string, listing: string, signal: AbortSignal) {
  const kept: KeptMarket = { market, watch: { ...NO_WATCH, listing }, observations: [] };
  const { seen, faults } = await askedFor(feed, kept, KINDS, signal);
  const [marketplace = '', country = ''] = market.split('/');
  const { document } = composeEvidence({
    market: { marketplace, country },
    today: today(),
    observations: seen.map((o): Observation => ({ ...o, id: o.kind })),
    watch: kept.watch,
    settings: settings.evidence,
    hurdles: [],
  });
  return { document, faults };
}

/** What the workspace knows of a barcode itself: its candidates, decisions, and the shelf prices in its lists. */
async function ownOf(
  workspaceId: string,
  q: ShelfQuestion,
): Promise<Pick<ShelfAnswer, 'listings' | 'candidate' | 'mark'>> {
  const { gtin } = q;
  if (gtin === null) return { listings: [], candidate: null, mark: null };
  const key = Number(gtin);
  return inWorkspace(workspaceId, async (tx) => {
    const [known] = await tx
      .select({ id: candidate.id, name: sql<string>`${candidate.data} ->> 'name'` })
      .from(candidate)
      .where(
        and(
          eq(candidate.workspaceId, workspaceId),
          sql`${barcodeKey(candidate.data)} = ${gtin.padStart(14, '0')}`,
          sql`${candidate.data} ->> 'gtin' is not null`,
          isNull(candidate.deletedAt),
        ),
      )
      .limit(1);
    const [mark] = await tx
      .select({ state: goodsMark.state, reason: goodsMark.reason, name: goodsMark.name })
      .from(goodsMark)
      .where(and(eq(goodsMark.workspaceId, workspaceId), eq(goodsMark.key, key), isNotNull(goodsMark.state)));
    const [ours] = await tx
      .select({
        title: listRow.title,
        brand: listRow.brand,
        category: listRow.category,
        price: listRow.price,
        units: listRow.units,
        at: supplierList.updatedAt,
      })
      .from(listRow)
      .innerJoin(
        supplierList,
        and(
          eq(supplierList.workspaceId, listRow.workspaceId),
          sql`${supplierList.runId}::uuid = ${listRow.runId}`,
        ),
      )
      // A list's prices are those of the market whose card it is weighed on.
      .innerJoin(
        rateCard,
        and(
          eq(rateCard.workspaceId, supplierList.workspaceId),
          sql`${rateCard.id} = ${supplierList.settings} ->> 'marketplaceCardId'`,
          eq(rateCard.key, q.market),
        ),
      )
      .where(
        and(
          eq(listRow.workspaceId, workspaceId),
          eq(listRow.key, key),
          isNotNull(listRow.price),
          isNull(supplierList.deletedAt),
        ),
      )
      .orderBy(desc(supplierList.updatedAt))
      .limit(1);
    return {
      listings: ours === undefined ? [] : [ofList(ours)],
      candidate: known ?? null,
      mark: mark?.state == null ? null : { ...mark, state: mark.state },
    };
  });
}

const ofList = (r: {
  readonly title: string;
  readonly brand: string;
  readonly category: string;
  readonly price: number | null;
  readonly units: number | null;
  readonly at: Date;
}): ShelfListing =>
  shelfListingOf(
    {
      code: '',
      title: r.title,
      brand: r.brand,
      rank: null,
      offers: null,
      pack: packIn(r.title)?.pieces ?? 1,
      kg: null,
      category: r.category,
      price: r.price,
      units: r.units,
      asOf: r.at.toISOString().slice(0, 10),
      source: 'list',
    },
    null,
  );
