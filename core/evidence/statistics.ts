/** Means, medians and percentiles of what is known; null of nothing. */

/**
 * @example mean([1, 2, 6]) // 3
 * @example mean([]) // null
 */
export const mean = (values: readonly number[]): number | null =>
  values.length === 0 ? null : values.reduce((sum, x) => sum + x, 0) / values.length;

/**
 * Percentile `p` (a fraction) of values that rise, linear between ranks: rank `(n - 1) * p` from 0 (evidence, section
 * 3).
 *
 * @example percentileOfSorted([10, 12, 14, 16], 0.25) // 11.5
 * @example percentileOfSorted([], 0.5) // null
 */
export function percentileOfSorted(rising: ArrayLike<number>, p: number): number | null {
  if (rising.length === 0) return null;
  const h = (rising.length - 1) * p;
  const [low, high] = [Math.floor(h), Math.ceil(h)];
  const [a, b] = [rising[low] as number, rising[high] as number];
  return low === high ? a : a + (h - low) * (b - a);
}

/** Numbers in rising order; typed, so that the engine sorts them as numbers. */
export const rising = (values: readonly number[]): Float64Array => Float64Array.from(values).sort();

/**
 * The same of values in any order.
 *
 * @example percentile([16, 10, 14, 12], 0.25) // 11.5
 */
export const percentile = (values: readonly number[], p: number): number | null =>
  percentileOfSorted(rising(values), p);

/** @example median([10, 11, 12, 15]) // 11.5 */
export const median = (values: readonly number[]): number | null => percentile(values, 0.5);
