/** What a market feed says of a candidate's market, as observations, and what of it people should know. */
import type { FeedAnswer, FeedRow, Question } from '../../between/feed.ts';
import type { Fault } from '../../core/fault.ts';
import { OBSERVED } from '../../core/evidence/observed.ts';
import type { KeptMarket, ObservedKind, ObservedValue } from '../../core/evidence/observed.ts';
import type { EvidenceSettings } from '../../core/evidence/settings.ts';
import { packDays } from '../../core/evidence/series.ts';
import { daysBetween } from '../../core/money/days.ts';
import { today } from '../env.ts';
import { askFeed } from '../outside/feed.ts';
import type { Feed } from '../outside/feed.ts';
import type { NewObservation } from './evidence.ts';

/** What is asked about a market: by the listing, and by the words of a search. */
type Wanted = { readonly kind: ObservedKind; readonly older: number };
/** Days after which a kind is asked for again. */
const AGAIN: Readonly<Partial<Record<ObservedKind, keyof EvidenceSettings['ages'] | number>>> = {
  history: 1,
  offers: 1,
  units: 7,
  permission: 'searches',
  complaints: 'searches',
  rivals: 7,
  terms: 'searches',
  bids: 'searches',
};
const FIRST_PAGE = 24;

/** The kinds of a market that are due: never observed, or older than they may be. */
function dueKinds(kept: KeptMarket, s: EvidenceSettings, all: boolean): Wanted[] {
  const day = today();
  const { listing, search } = kept.watch;
  return (Object.keys(AGAIN) as ObservedKind[]).flatMap((kind) => {
    const ofSearch = kind === 'rivals' || kind === 'terms' || kind === 'bids';
    if (ofSearch ? search === '' && (kind === 'rivals' || listing === '') : listing === '') return [];
    const last = kept.observations.find((o) => o.kind === kind);
    const again = AGAIN[kind] as keyof EvidenceSettings['ages'] | number;
    const older = last === undefined ? Number.POSITIVE_INFINITY : daysBetween(last.asOf, day);
    return all || older >= (typeof again === 'number' ? again : s.ages[again]) ? [{ kind, older }] : [];
  });
}

const rivalOf = (r: FeedRow): ObservedValue<'rivals'>['rows'][number] => ({
  listing: r.listing.slice(0, 200),
  title: r.title.slice(0, 200),
  brand: r.brand.slice(0, 200),
  seller: r.seller.slice(0, 200),
  price: r.price,
  units: r.units,
  reviews: r.reviews,
  rating: r.rating,
  daysListed: r.daysListed,
  offers: r.offers,
  paid: r.paid,
});
type Terms = FeedAnswer<'terms'>['terms'];
const termsOf = (terms: Terms | FeedAnswer<'listing-terms'>['terms']): ObservedValue<'terms'> =>
  OBSERVED.terms.parse({
    terms: terms.map((t) => ({
      term: t.term.slice(0, 200),
      language: '',
      volumes: t.volumes,
      sales: t.sales,
      freePlace: 'freePlace' in t ? t.freePlace : null,
      paidPlace: 'paidPlace' in t ? t.paidPlace : null,
    })),
  });
function unitsOf(l: FeedAnswer<'listing'>): ObservedValue<'units'> {
  const { units } = l;
  const estimate =
    units === null || units.stated ? null : { units: units.units, low: units.low, high: units.high };
  return OBSERVED.units.parse({
    units: {
      statedListing: units?.stated === true ? units.units : null,
      estimatedListing: estimate,
      rank: l.rank,
      curve: l.curve,
      hasVariations: l.variations.length > 0,
      ratingsListing: l.reviews,
    },
    unitsByMonth: l.unitsByMonth,
    variations: l.variations,
    about: { sides: l.sides, kg: l.kg, category: l.category.slice(0, 200) },
  });
}

type Asking = <Q extends Question>(
  question: Q,
  params: Readonly<Record<string, string | number>>,
) => Promise<FeedAnswer<Q> | null>;
type Seen = Pick<NewObservation, 'kind' | 'value' | 'asOf' | 'stated'>;

/** What is asked for a kind, and what its answer is worth; null: no answer, or none that fits. */
const ASKS: Readonly<Partial<Record<ObservedKind, (ask: Asking, kept: KeptMarket) => Promise<Seen | null>>>> =
  {
    history: async (ask, { market, watch, observations }) => {
      // From the last day on: that one may not have been over.
      const last = observations.find((o) => o.kind === 'history' && o.source === 'feed');
      const said = await ask('history', {
        market,
        code: watch.listing,
        ...(last === undefined ? {} : { from: last.asOf }),
      });
      const packed = said === null ? null : packDays(said.days, said.currency);
      return said === null || packed === null
        ? null
        : { kind: 'history', value: packed, asOf: said.asOf, stated: true };
    },
    offers: async (ask, { market, watch }) => {
      const said = await ask('offers', { market, code: watch.listing });
      if (said === null) return null;
      const list = said.offers.map(({ ownShop, ...o }) => ({
        ...o,
        seller: o.seller.slice(0, 200),
        of: ownShop ? 'ownShop' : 'other',
      }));
      return { kind: 'offers', value: { currency: said.currency, list }, asOf: said.asOf, stated: true };
    },
    units: async (ask, { market, watch }) => {
      const said = await ask('listing', { market, code: watch.listing });
      return said === null
        ? null
        : { kind: 'units', value: unitsOf(said), asOf: said.asOf, stated: said.units?.stated === true };
    },
    permission: async (ask, { market, watch }) => {
      const said = await ask('permission', { market, code: watch.listing });
      if (said === null) return null;
      const { state, by, units, price, asOf } = said;
      return {
        kind: 'permission',
        value: {
          state,
          by,
          units,
          price,
          asked: null,
          answered: state === 'approval' ? null : asOf,
          who: '',
        },
        asOf,
        stated: true,
      };
    },
    complaints: async (ask, { market, watch }) => {
      const said = await ask('complaints', { market, code: watch.listing });
      if (said === null) return null;
      const complaints = said.complaints.map((c) => ({
        ...c,
        theme: c.theme.slice(0, 200),
        improvement: '',
        cost: null,
        price: null,
      }));
      return { kind: 'complaints', value: { complaints, returnRate: null }, asOf: said.asOf, stated: true };
    },
    rivals: async (ask, { market, watch }) => {
      const said = await ask('search', { market, words: watch.search, limit: FIRST_PAGE });
      if (said === null) return null;
      const { currency, tax, asOf } = said;
      return {
        kind: 'rivals',
        value: { currency, tax, from: watch.search, rows: said.listings.map(rivalOf) },
        asOf,
        stated: false,
      };
    },
    terms: async (ask, { market, watch }) => {
      const words = watch.search === '' ? null : await ask('terms', { market, words: watch.search });
      const own = watch.listing === '' ? null : await ask('listing-terms', { market, code: watch.listing });
      const terms = [...(words?.terms ?? []), ...(own?.terms ?? [])];
      const asOf = own?.asOf ?? words?.asOf;
      return asOf === undefined || terms.length === 0
        ? null
        : { kind: 'terms', value: termsOf(terms), asOf, stated: true };
    },
  };

export type Update = { readonly seen: readonly NewObservation[]; readonly faults: readonly Fault[] };

/** Asks the feed for what is due of a market. What breaks the contract is told, and nothing of it is kept. */
export async function updateOf(
  feed: Feed,
  kept: KeptMarket,
  s: EvidenceSettings,
  all: boolean,
  signal?: AbortSignal,
): Promise<Update> {
  return askedFor(
    feed,
    kept,
    dueKinds(kept, s, all).map((d) => d.kind),
    signal,
  );
}

/** What a feed says of a market, of these kinds. */
export async function askedFor(
  feed: Feed,
  kept: KeptMarket,
  kinds: readonly ObservedKind[],
  signal?: AbortSignal,
): Promise<Update> {
  const faults = new Map<string, Fault>();
  const ask: Asking = async (question, params) => {
    const said = await askFeed(feed, question, params, signal);
    if (said.ok) return said.value;
    faults.set(`${said.fault.code}${said.fault.detail.question ?? ''}`, said.fault);
    return null;
  };
  const found = await Promise.all(kinds.map((kind) => ASKS[kind]?.(ask, kept) ?? null));
  const seen = found.filter((x) => x !== null);
  if (kinds.includes('bids')) {
    const bids = await bidsFor(ask, kept, seen);
    if (bids !== null) seen.push(bids);
  }
  return { seen: seen.map((x) => ({ ...x, source: 'feed' })), faults: [...faults.values()] };
}

/** Bids of the ticked terms; where none is ticked yet, of the most searched. */
async function bidsFor(ask: Asking, kept: KeptMarket, seen: readonly Seen[]): Promise<Seen | null> {
  const ticked = Object.entries(kept.watch.terms).flatMap(([key, t]) => (t.ticked ? [key] : []));
  const fresh = seen.find((x) => x.kind === 'terms')?.value as ObservedValue<'terms'> | undefined;
  const most = [...(fresh?.terms ?? [])]
    .sort((a, b) => (b.volumes.at(-1)?.value ?? 0) - (a.volumes.at(-1)?.value ?? 0))
    .map((t) => t.term);
  const terms = [...new Set([...ticked, ...most])].slice(0, 40);
  if (terms.length === 0) return null;
  const said = await ask('bids', { market: kept.market, terms: terms.join('|') });
  if (said === null) return null;
  const bids = said.bids.map((b) => ({
    ...b,
    term: b.term.slice(0, 200),
    source: b.source.slice(0, 200),
    language: '',
  }));
  return { kind: 'bids', value: { bids }, asOf: said.asOf, stated: false };
}

export type Change = {
  readonly what: 'rivalLeft' | 'ownShopBack' | 'permissionChanged';
  readonly detail: Record<string, string | number>;
};

/** What has changed between what was known of a market and what is seen now. */
export function changesOf(kept: KeptMarket, seen: readonly NewObservation[]): Change[] {
  const before = <K extends ObservedKind>(kind: K): ObservedValue<K> | null => {
    const own = kept.observations.find((o) => o.kind === kind);
    const read = own === undefined ? null : OBSERVED[kind].safeParse(own.value);
    return read?.success ? (read.data as ObservedValue<K>) : null;
  };
  const now = <K extends ObservedKind>(kind: K): ObservedValue<K> | null =>
    (seen.find((o) => o.kind === kind)?.value as ObservedValue<K> | undefined) ?? null;
  const changes: Change[] = [];
  const [offersBefore, offersNow] = [before('offers'), now('offers')];
  if (offersBefore !== null && offersNow !== null) {
    const there = new Set(offersNow.list.map((o) => o.seller));
    const left = offersBefore.list.filter((o) => o.of === 'other' && o.seller !== '' && !there.has(o.seller));
    if (left.length > 0)
      changes.push({ what: 'rivalLeft', detail: { seller: left[0]?.seller ?? '', count: left.length } });
    const shop = (v: ObservedValue<'offers'>): boolean => v.list.some((o) => o.of === 'ownShop');
    if (!shop(offersBefore) && shop(offersNow)) changes.push({ what: 'ownShopBack', detail: {} });
  }
  const [was, is] = [before('permission'), now('permission')];
  if (was !== null && is !== null && was.state !== is.state)
    changes.push({ what: 'permissionChanged', detail: { before: was.state, after: is.state } });
  return changes;
}
