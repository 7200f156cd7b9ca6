/** What units that are left are still good for once a lane is let go: what they cost is spent. */
import type { LaneDocument } from '../lane/schema.ts';
import { priceFor } from '../lane/solve.ts';
import { unitAt } from './actual.ts';

/**
 * What a unit brings that is paid for and on the shelf, sales currency, and the lowest price at which it still brings
 * something; null: not known.
 */
export type LeftOver = { readonly brings: number | null; readonly floor: number | null };

export function leftOverOf(doc: LaneDocument): LeftOver {
  const { unitProfit, landedCost } = unitAt(doc, null);
  if (!Number.isFinite(landedCost)) return { brings: null, floor: null };
  const { price } = priceFor(doc, { figure: 'unitProfit', value: -landedCost });
  return { brings: Number.isFinite(unitProfit) ? unitProfit + landedCost : null, floor: price };
}
