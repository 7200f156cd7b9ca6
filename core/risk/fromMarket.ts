/** What evidence says of inputs that are not certain: the band of prices, and what of a listing's units may be mine. */
import { historySection } from '../evidence/keeps.ts';
import { unitsSection } from '../evidence/market.ts';
import type { EvidenceDocument } from '../evidence/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import type { Range, RiskInput } from './schema.ts';

/**
 * Ranges of price and units as the market has them, in the lane's currency; without what is not known. Prices are seen
 * with delivery, of which the lane's own charge is taken off.
 */
export function marketRanges(doc: EvidenceDocument, lane: LaneDocument): Partial<Record<RiskInput, Range>> {
  const ranges: Partial<Record<RiskInput, Range>> = {};
  const history = historySection(doc, lane);
  if (history !== null && history.currency === lane.currency && history.band !== null) {
    const bare = (price: number): number => Math.max(0, price - lane.shippingCharged);
    const [low, high] = [bare(history.band.low), bare(history.band.high)];
    ranges.price = { low, likely: Math.min(high, Math.max(low, lane.price ?? low)), high };
  }
  const mine = unitsSection(doc, lane)?.mine;
  if (mine?.known) ranges.units = { low: mine.low, likely: mine.expected, high: mine.high };
  return ranges;
}
