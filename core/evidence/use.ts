/**
 * What evidence may write into a lane: each a few fields with the value they get. Nothing is written by itself; the
 * lane notes the day and the source.
 */
import { priceOfGross } from '../rules/revenue.ts';
import { roundMinor } from '../rules/numbers.ts';
import { minorDigits } from '../money/money.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { myPriceOf } from './keeps.ts';
import { splitRivals, withDelivery } from './units.ts';
import type { Basis } from './history.ts';
import type { EvidenceDocument } from './schema.ts';
import type { Sections } from './market.ts';

export const USES = ['price', 'units', 'season', 'adverts', 'returns', 'offers', 'rivalPrices'] as const;
export type Use = (typeof USES)[number];
export type LaneChange = { readonly path: readonly (string | number)[]; readonly to: unknown };

/**
 * The changes of one use; null: evidence does not say enough. `basis`: which price is meant. Prices with delivery
 * become shelf prices by the lane's own delivery and discount, rounded to what can be typed.
 */
export function laneChanges(
  use: Use,
  doc: EvidenceDocument,
  lane: LaneDocument,
  s: Sections,
  basis: Basis = 'now',
): LaneChange[] | null {
  switch (use) {
    case 'price': {
      const known = s.history?.bases[basis];
      if (known?.known !== true || s.history?.currency !== lane.currency) return null;
      const price = priceOfGross(known.price, lane.shippingCharged, lane.averageDiscount);
      return price < 0
        ? null
        : [{ path: ['price'], to: roundMinor(price, 10 ** minorDigits(lane.currency)) }];
    }
    case 'units': {
      const mine = s.units?.mine;
      return mine?.known !== true
        ? null
        : [{ path: ['demand'], to: { kind: 'typed', units: mine.expected } }];
    }
    case 'offers':
      return offerSplitOf(doc, lane, s);
    case 'season': {
      const { season } = s.season.together;
      const own = season.known ? season : s.season.listing.season;
      return own.known
        ? [{ path: ['season'], to: own.index.map((x) => Math.max(0, Number(x.toFixed(4)))) }]
        : null;
    }
    case 'adverts': {
      const { bids } = s.terms;
      if (!bids.known) return null;
      const before = lane.adverts === null || lane.adverts === 'none' ? null : lane.adverts;
      const rate = before?.keywords[0]?.conversionRate ?? null;
      const keywords = bids.keywords.slice(0, 500).map((k) => ({ ...k, conversionRate: rate }));
      return [{ path: ['adverts'], to: { keywords, adShare: before?.adShare ?? 1 } }];
    }
    case 'returns': {
      if (doc.returnRate === null || doc.returnRate > 0.99) return null;
      const before = lane.returns === null || lane.returns === 'none' ? NO_RETURNS : lane.returns;
      return [{ path: ['returns'], to: { ...before, rate: doc.returnRate } }];
    }
    default: {
      const prices = offerPrices(doc, lane);
      return prices === null || prices.length === 0
        ? null
        : [{ path: ['rivalPrices'], to: prices.slice(0, 50) }];
    }
  }
}
const NO_RETURNS = { resaleShare: 0, handling: null, disposal: null };

/** Rivals' prices with delivery of the offers, rising; null in another currency, or where none is known. */
function offerPrices(doc: EvidenceDocument, lane: LaneDocument): number[] | null {
  if (doc.offers === null || doc.offers.currency !== lane.currency) return null;
  const prices = doc.offers.list.flatMap((o) => (o.of === 'other' ? (withDelivery(o) ?? []) : []));
  return [...new Set(prices)].sort((a, b) => a - b);
}

/** The offer split of the lane's own demand, so that it expects of the listing what the market's page says. */
function offerSplitOf(doc: EvidenceDocument, lane: LaneDocument, s: Sections): LaneChange[] | null {
  if (doc.offers === null || doc.offers.currency !== lane.currency || s.units?.units.known !== true)
    return null;
  const { units, ownShopShare } = s.units;
  const to = {
    kind: 'offerSplit',
    listingUnits: units.expected,
    // The share of the variation is in the units already.
    variationShare: 1,
    retailArmShare: ownShopShare ?? 0,
    band: doc.mine.band,
    rivals: splitRivals(doc.offers.list, myPriceOf(doc, lane), ownShopShare),
  };
  return [{ path: ['demand'], to }];
}
