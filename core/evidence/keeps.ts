/**
 * What a unit keeps at the market's own prices: over its history, of each variation, as offers leave or undercut. All
 * of it is the lane's ladder; where the lane lacks a cost each amount is a bound, and `lacks` names what is missing.
 */
import { boundWithout } from '../lane/bounds.ts';
import type { Bound } from '../lane/bounds.ts';
import type { Blank } from '../lane/blanks.ts';
import { evaluate } from '../lane/evaluate.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { BREAK_EVEN, priceFor, priceLadder } from '../lane/solve.ts';
import { grossOf, itemPrice } from '../rules/revenue.ts';
import { BASES, historyOf } from './history.ts';
import type { Basis, History } from './history.ts';
import { marginOverTime } from './marginOverTime.ts';
import type { MarginOverTime } from './marginOverTime.ts';
import { offersSaid } from './offers.ts';
import type { OfferCase, OffersSaid } from './offers.ts';
import type { EvidenceDocument } from './schema.ts';
import { shareOf, unitsOf } from './units.ts';
import type { Share } from './units.ts';

export type Lacking = {
  /** Costs the lane lacks at any price. */
  readonly lacks: readonly Blank[];
  /** How what a unit keeps errs by that; a break-even price errs the other way. Null: nothing is missing. */
  readonly bound: Bound | null;
};
/** What the unit profit of a lane lacks whichever price it is tried at (economics, section 11). */
export function lackingOf(lane: LaneDocument | null): Lacking {
  const missing = lane === null ? [] : (evaluate(lane).incomplete.unitProfit ?? []);
  const lacks = missing.filter((b) => b !== 'price');
  return { lacks, bound: boundWithout(lacks, 'atMost') };
}

/** Break-even price of the lane, with delivery; null without one, or where none is found. */
export function breakEvenOf(lane: LaneDocument | null): number | null {
  if (lane === null) return null;
  const { price } = priceFor(lane, BREAK_EVEN);
  return price === null ? null : grossOf(itemPrice(price, lane.averageDiscount), lane.shippingCharged);
}

/** One's own price with delivery: the lane's, else the document's. */
export function myPriceOf(doc: EvidenceDocument, lane: LaneDocument | null): number | null {
  const price = lane?.price ?? null;
  if (lane === null || price === null) return doc.mine.price;
  return grossOf(itemPrice(price, lane.averageDiscount), lane.shippingCharged);
}

/** What a unit keeps at each price, in order; null where the price, the lane or the answer is not known. */
function keepsAt(lane: LaneDocument | null, prices: readonly (number | null)[]): (number | null)[] {
  if (lane === null) return prices.map(() => null);
  const ladder = priceLadder(
    lane,
    prices.map((p) => p ?? Number.NaN),
  );
  return prices.map((p, i) => (p === null ? null : (ladder[i]?.unitProfit ?? null)));
}

export type HistorySaid = History &
  Lacking & {
    readonly currency: string;
    /** With delivery; null without a lane, or where none is found. */
    readonly breakEven: number | null;
    readonly margin: MarginOverTime | null;
    /** What a unit keeps at each price a lane may go by; null where that price or the profit is not known. */
    readonly atBases: Readonly<Record<Basis, number | null>>;
  };
/** Null: no prices are known. The margin needs a lane in the same currency. */
export function historySection(doc: EvidenceDocument, lane: LaneDocument | null): HistorySaid | null {
  if (doc.prices === null) return null;
  const { currency, days } = doc.prices;
  const own = lane !== null && lane.currency === currency ? lane : null;
  const history = historyOf(days, doc.now);
  const prices = BASES.map((of) => {
    const basis = history.bases[of];
    return basis.known ? basis.price : null;
  });
  const at = keepsAt(own, prices);
  return {
    currency,
    ...history,
    atBases: Object.fromEntries(BASES.map((of, i) => [of, at[i] ?? null])) as Record<Basis, number | null>,
    breakEven: breakEvenOf(own),
    margin: own === null ? null : marginOverTime(own, days, doc.now),
    ...lackingOf(own),
  };
}

export type VariationSaid = {
  readonly code: string;
  readonly name: string;
  readonly price: number | null;
  readonly share: Share;
  /** Units a month of the listing that are this variation's; null: one of the two is not known. */
  readonly units: number | null;
  /** Of a bought unit, currency of the first quote; null: as the lane buys. */
  readonly cost: number | null;
  readonly stock: number | null;
  /** At its price, and at its own cost where that is known. */
  readonly unitProfit: number | null;
};
/** The lane with another cost of its first goods at every quantity; null where it does not buy any. */
export function atCost(lane: LaneDocument, cost: number): LaneDocument | null {
  if (!Array.isArray(lane.goods)) return null;
  const [first, ...others] = lane.goods as ReadonlyArray<(typeof lane.goods)[number]>;
  if (first === undefined) return null;
  const source =
    first.source.kind === 'quote'
      ? {
          ...first.source,
          priceBreaks: [{ minQty: first.source.priceBreaks[0]?.minQty ?? 0, unitPrice: cost }],
        }
      : { ...first.source, shelfPrice: cost };
  return { ...lane, goods: [{ ...first, source }, ...others] };
}
/**
 * Each variation with its share by ratings, what of the listing's units are its own, and what a unit keeps at
 * its price.
 */
export function variationsSection(doc: EvidenceDocument, lane: LaneDocument | null): VariationSaid[] {
  const all = doc.variations;
  const ratings = all.every((v) => v.ratings !== null)
    ? all.reduce((s, v) => s + (v.ratings as number), 0)
    : null;
  const listing = doc.units === null ? null : unitsOf(ofTheListing(doc.units), doc.settings);
  const keeps = keepsAt(
    lane,
    all.map((v) => v.price),
  );
  return all.map(({ code, name, price, ratings: own, cost, stock }, i) => {
    const share = shareOf({
      hasVariations: true,
      ratingsVariation: own,
      ratingsListing: ratings,
      typedShare: null,
    });
    const units = listing?.known === true && share.known ? listing.expected * share.expected : null;
    const bought = cost === null || lane === null ? null : atCost(lane, cost);
    const unitProfit = bought === null ? (keeps[i] ?? null) : (keepsAt(bought, [price])[0] ?? null);
    return { code, name, price, share, units, cost, stock, unitProfit };
  });
}
/** What is known of the whole listing, without what one variation was said to sell. */
const ofTheListing = (units: NonNullable<EvidenceDocument['units']>) => ({
  ...units,
  typed: null,
  statedVariation: null,
  estimatedVariation: null,
  hasVariations: false,
});

export type OffersSection = Omit<OffersSaid, 'cases'> &
  Lacking & {
    readonly currency: string;
    readonly cases: readonly (OfferCase & { readonly unitProfit: number | null })[];
  };
/** Null: no offers are known. What a unit keeps needs a lane in the same currency. */
export function offersSection(doc: EvidenceDocument, lane: LaneDocument | null): OffersSection | null {
  if (doc.offers === null) return null;
  const { list, currency } = doc.offers;
  const said = offersSaid(list, currency, doc.settings.undercutBy);
  const own = lane !== null && lane.currency === currency ? lane : null;
  const keeps = keepsAt(
    own,
    said.cases.map((c) => c.price),
  );
  return {
    ...said,
    currency,
    cases: said.cases.map((c, i) => ({ ...c, unitProfit: keeps[i] ?? null })),
    ...lackingOf(own),
  };
}
