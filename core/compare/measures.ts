import type { LaneResult } from '../lane/result.ts';

/** What may decide which lane is best; money in the home currency. */
export const MEASURES = [
  'unitProfit',
  'margin',
  'roi',
  'profitPerMonth',
  'yearlyReturnOnCash',
  'launchCash',
] as const;
export type Measure = (typeof MEASURES)[number];
/** Whether a measure is a share, not money. */
export const isShare = (m: Measure): boolean => m === 'margin' || m === 'roi' || m === 'yearlyReturnOnCash';

/** Value of a measure from a lane's result in the home currency and what its launch takes; null is unknown. */
export function measured(
  measure: Measure,
  home: LaneResult | null,
  launchCash: number | null,
): number | null {
  return measure === 'launchCash' ? launchCash : (home?.figures[measure] ?? null);
}

/** Whether the figure that a measure reads had to leave something out. */
export function isWhole(measure: Measure, result: LaneResult): boolean {
  return (result.incomplete[measure === 'launchCash' ? 'landedCash' : measure]?.length ?? 0) === 0;
}

/**
 * Orders by a measure, best first: whole figures before incomplete ones, unknown last; less cash is better,
 * more of all else.
 */
export function byMeasure<T>(
  measure: Measure,
  value: (x: T) => number | null,
  whole: (x: T) => boolean,
): (a: T, b: T) => number {
  const sign = measure === 'launchCash' ? 1 : -1;
  return (a, b) => {
    const [x, y] = [value(a), value(b)];
    if (x === null || y === null) return x === y ? 0 : x === null ? 1 : -1;
    const [p, q] = [whole(a), whole(b)];
    return p === q ? sign * (x - y) : p ? -1 : 1;
  };
}
