/**
 * Units a month, by how far they can be trusted, the share of a variation, and what of them could be one's own
 * (evidence, section 4). A listing and its variations are never added or mixed.
 */
import { offerSplit, runningLimit } from '../rules/demand.ts';
import type { Offer, UnitsKnown } from './schema.ts';
import type { EvidenceSettings } from './settings.ts';

/** Where a figure of units stands, best first. */
export const RUNGS = [
  'typed',
  'statedVariation',
  'statedListing',
  'estimatedVariation',
  'estimatedListing',
  'fromRank',
] as const;
export type Rung = (typeof RUNGS)[number];
/** A figure with the range the truth may lie in; the three are one where it is stated. */
export type Range = { readonly expected: number; readonly low: number; readonly high: number };
export type Share =
  | ({ readonly known: true; readonly typed: boolean; readonly ratings: number | null } & Range)
  /** `fewRatings`: under 30 of the whole listing. */
  | { readonly known: false; readonly why: 'noRatings' | 'fewRatings'; readonly ratings: number | null };
export type Units =
  | ({ readonly known: true; readonly rung: Rung; readonly estimated: boolean } & Range)
  | { readonly known: false; readonly why: 'noFigure' | 'noShare' };

const LEAST_RATINGS = 30;
/** Of the normal distribution: 90 % lie within so many deviations. */
const Z90 = 1.6448536269514722;

const exactly = (x: number): Range => ({ expected: x, low: x, high: x });
const times = (a: Range, b: Range): Range => ({
  expected: a.expected * b.expected,
  low: a.low * b.low,
  high: a.high * b.high,
});

/**
 * The range of a share after `part` of `whole` (Wilson, 90 %): `(p + z^2/2n -+ z * sqrt(p(1-p)/n + z^2/4n^2)) / (1
 * + z^2/n)`.
 *
 * @example wilson(45, 150) // { low: 0.242..., high: 0.364... }
 */
export function wilson(part: number, whole: number): { readonly low: number; readonly high: number } {
  const p = part / whole;
  const z2 = Z90 * Z90;
  const middle = p + z2 / (2 * whole);
  const half = Z90 * Math.sqrt((p * (1 - p)) / whole + z2 / (4 * whole * whole));
  const of = 1 + z2 / whole;
  return { low: Math.max(0, (middle - half) / of), high: Math.min(1, (middle + half) / of) };
}

/**
 * Share of a variation in its listing: its ratings over all of them. A listing without variations: 1.
 *
 * @example shareOf({ hasVariations: true, ratingsVariation: 45, ratingsListing: 150, typedShare: null
 * }).expected // 0.3
 */
export function shareOf(
  u: Pick<UnitsKnown, 'hasVariations' | 'ratingsVariation' | 'ratingsListing' | 'typedShare'>,
): Share {
  if (!u.hasVariations) return { known: true, typed: false, ratings: null, ...exactly(1) };
  if (u.typedShare !== null)
    return { known: true, typed: true, ratings: u.ratingsListing, ...exactly(u.typedShare) };
  const { ratingsVariation: part, ratingsListing: whole } = u;
  if (part === null || whole === null) return { known: false, why: 'noRatings', ratings: whole };
  if (whole < LEAST_RATINGS) return { known: false, why: 'fewRatings', ratings: whole };
  const own = Math.min(part, whole);
  const range = wilson(own, whole);
  const expected = own / whole;
  // At all or nothing the range ends there; what computing loses must not push it inside.
  return {
    known: true,
    typed: false,
    ratings: whole,
    expected,
    low: Math.min(expected, range.low),
    high: Math.max(expected, range.high),
  };
}

/**
 * Units a month at a rank, by the category's curve: a straight line between its points in the logarithms of both;
 * nothing outside them.
 *
 * @example unitsAtRank([{ rank: 10, units: 1000 }, { rank: 1000, units: 10 }], 100) // 100
 */
export function unitsAtRank(curve: UnitsKnown['curve'], rank: number): number | null {
  const points = [...curve].sort((a, b) => a.rank - b.rank);
  for (let i = 0; i < points.length; i++) {
    const a = points[i] as (typeof points)[number];
    if (a.rank === rank) return a.units;
    const b = points[i + 1];
    if (b === undefined || rank < a.rank || rank > b.rank || b.rank === a.rank) continue;
    const t = Math.log(rank / a.rank) / Math.log(b.rank / a.rank);
    return a.units * (b.units / a.units) ** t;
  }
  return null;
}

/** An estimate with its range: the one it came with, else that of the settings. */
function estimated(
  e: { readonly units: number; readonly low: number | null; readonly high: number | null },
  s: EvidenceSettings,
): Range {
  return {
    expected: e.units,
    low: Math.min(e.units, e.low ?? e.units * (1 - s.estimateUnder)),
    high: Math.max(e.units, e.high ?? e.units * (1 + s.estimateOver)),
  };
}

/** Units a month of the variation (of the listing, where it has none): the best that is known, and by what. */
export function unitsOf(u: UnitsKnown, s: EvidenceSettings): Units {
  const share = shareOf(u);
  const whole = (rung: Rung, units: Range): Units => ({
    known: true,
    rung,
    estimated: rung !== 'typed' && rung !== 'statedVariation' && rung !== 'statedListing',
    ...units,
  });
  if (u.typed !== null) return whole('typed', exactly(u.typed));
  if (u.statedVariation !== null) return whole('statedVariation', exactly(u.statedVariation));
  if (u.statedListing !== null && share.known)
    return whole('statedListing', times(exactly(u.statedListing), share));
  if (u.estimatedVariation !== null) return whole('estimatedVariation', estimated(u.estimatedVariation, s));
  if (u.estimatedListing !== null && share.known)
    return whole('estimatedListing', times(estimated(u.estimatedListing, s), share));
  const atRank = u.rank === null ? null : unitsAtRank(u.curve, u.rank);
  if (atRank !== null && share.known)
    return whole('fromRank', times(estimated({ units: atRank, low: null, high: null }, s), share));
  const lacksShare = u.statedListing !== null || u.estimatedListing !== null || atRank !== null;
  return { known: false, why: lacksShare ? 'noShare' : 'noFigure' };
}

export type MyUnits =
  | ({
      readonly known: true;
      /** Rivals near enough to share with; our own offer not counted. */
      readonly rivals: number;
      readonly inTheRunning: boolean;
      readonly rung: Rung;
    } & Range)
  | { readonly known: false; readonly why: 'noUnits' | 'noOffers' | 'noPrice' };

/** What a buyer pays for an offer, delivery included; null where that is not known. */
export const withDelivery = (o: Offer): number | null => (o.delivery === null ? null : o.price + o.delivery);

/**
 * Prices of the offers one shares the units with, in their order: not our own, nor the own shop's where its days are
 * taken off. An offer whose delivery is not known can only be dearer than its bare price, so it is set no lower
 * than the lowest that is known, one's own included: it may be in the running, but prices nobody out.
 *
 * @param price one's own, with delivery; null: not known
 * @param ownShopShare share of days on which the marketplace's own shop offers; null: not known, it counts as a rival
 */
export function splitRivals(
  offers: readonly Offer[],
  price: number | null,
  ownShopShare: number | null,
): number[] {
  const others = offers.filter((o) => o.of !== 'ours' && !(o.of === 'ownShop' && ownShopShare !== null));
  const known = [...(price === null ? [] : [price]), ...others.flatMap((o) => withDelivery(o) ?? [])];
  const floor = known.length === 0 ? 0 : Math.min(...known);
  return others.map((o) => withDelivery(o) ?? Math.max(o.price, floor));
}

/**
 * Units a month that could be one's own: the offer split (economics, section 10) on the variation's units. Who is in
 * the running is judged once, by `band`; the low figure counts rivals within twice of it, the high one within half.
 *
 * @param price one's own, with delivery, in the currency of the offers
 * @param ownShopShare share of days on which the marketplace's own shop offers; null: not known, it counts as a rival
 */
export function myUnits(
  units: Units,
  offers: readonly Offer[] | null,
  price: number | null,
  band: number,
  ownShopShare: number | null,
): MyUnits {
  if (!units.known) return { known: false, why: 'noUnits' };
  if (offers === null) return { known: false, why: 'noOffers' };
  if (price === null) return { known: false, why: 'noPrice' };
  const others = splitRivals(offers, price, ownShopShare);
  const floor = Math.min(price, ...others);
  const within = (width: number): number => others.filter((p) => p <= runningLimit(floor, width)).length;
  const inTheRunning = price <= runningLimit(floor, band);
  const rivals = within(band);
  const split = (all: number, count: number): number =>
    inTheRunning ? offerSplit(all, 1, ownShopShare ?? 0, count) : 0;
  return {
    known: true,
    rivals,
    inTheRunning,
    rung: units.rung,
    expected: split(units.expected, rivals),
    low: split(units.low, within(2 * band)),
    high: split(units.high, within(band / 2)),
  };
}
