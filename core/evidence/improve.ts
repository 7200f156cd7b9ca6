/** What buyers complain of, as a lane that asks: what if it were mended, at this cost and for this price. */
import type { StoredLane } from '../workspace/records.ts';
import type { Complaint } from './schema.ts';

/**
 * The lane with the improvement's cost on every unit, and the price it may carry where one is given; null: neither is
 * known, so that there is nothing to ask.
 */
export function improvedLane(lane: StoredLane, c: Complaint): StoredLane | null {
  if (c.cost === null && c.price === null) return null;
  const name = (c.improvement.trim() || c.theme).slice(0, 200);
  const line = {
    amount: c.cost,
    currency: lane.currency,
    vat: 'none',
    vatRate: 0,
    recoverable: null,
  } as const;
  return {
    ...lane,
    name,
    price: c.price ?? lane.price,
    otherPerUnit: c.cost === null ? lane.otherPerUnit : [...lane.otherPerUnit, { name, line }].slice(-50),
  };
}
