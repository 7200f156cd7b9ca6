/** Means, medians and percentiles of what is known; null of nothing. */

const sorted = (values: readonly number[]): number[] => [...values].sort((a, b) => a - b);

/**
 * @example mean([1, 2, 6]) // 3
 * @example mean([]) // null
 */
export const mean = (values: readonly number[]): number | null =>
  values.length === 0 ? null : values.reduce((sum, x) => sum + x, 0) / values.length;

/**
 * Percentile `p` (a fraction), linear between ranks: rank `(n - 1) * p` from 0 (evidence, section 3).
 *
 * @example percentile([10, 12, 14, 16], 0.25) // 11.5
 * @example percentile([], 0.5) // null
 */
export function percentile(values: readonly number[], p: number): number | null {
  if (values.length === 0) return null;
  const own = sorted(values);
  const h = (own.length - 1) * p;
  const [low, high] = [Math.floor(h), Math.ceil(h)];
  const [a, b] = [own[low] as number, own[high] as number];
  return low === high ? a : a + (h - low) * (b - a);
}

/** @example median([10, 11, 12, 15]) // 11.5 */
export const median = (values: readonly number[]): number | null => percentile(values, 0.5);
