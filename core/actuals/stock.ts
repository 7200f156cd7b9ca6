/** What is on the shelf, and what it cost. */
import { SUM_LINES } from '../lane/costLines.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { unitAt } from './actual.ts';
import type { Layer, Remaining } from './received.ts';

/** Sold units that somebody counted at the end of a day. */
export type Count = { readonly day: string; readonly units: number };

/** `units` null: nobody counted, and no orders say. `value` null: a cost of them is not known. */
export type Stock = {
  readonly units: number | null;
  readonly from: 'counted' | 'orders' | null;
  /** At what it cost to land, sales currency. */
  readonly value: number | null;
};

/** Landed cost of a unit: as its order says, and as planned where that says nothing; NaN: not known. */
function landedOf(lines: Layer['lines'], planned: ReturnType<typeof unitAt>['lines']): number {
  return SUM_LINES.landedCost.reduce((s, l) => s + (lines[l] ?? planned[l]), 0);
}

/**
 * The stock of a lane on the last day that reports speak of. A count goes before orders: from it on, what came in is
 * added and what left is taken off. By orders alone it is what has not left of them; where more left than came in,
 * there were goods that no order knows, and nobody knows how many.
 *
 * @param left units that left in all months
 * @param leftSince units that left after the day of the count
 */
export function stockOf(
  doc: LaneDocument,
  layers: readonly Layer[],
  rest: readonly Remaining[],
  left: number,
  counted: Count | null,
  leftSince: number,
): Stock {
  const planned = unitAt(doc, null).lines;
  if (counted !== null) {
    const came = layers.filter((l) => l.day > counted.day).reduce((s, l) => s + l.units, 0);
    const units = Math.max(0, counted.units + came - leftSince);
    const each = landedOf(layers.at(-1)?.lines ?? {}, planned);
    return { units, from: 'counted', value: orNull(units === 0 ? 0 : units * each) };
  }
  const came = layers.reduce((s, l) => s + l.units, 0);
  if (came === 0 || left > came + 1e-9) return { units: null, from: null, value: null };
  const value = rest.reduce((s, l) => s + l.units * landedOf(l.lines, planned), 0);
  return { units: rest.reduce((s, l) => s + l.units, 0), from: 'orders', value: orNull(value) };
}
const orNull = (x: number): number | null => (Number.isFinite(x) ? x : null);
