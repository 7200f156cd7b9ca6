/** The same money left in the bank, for comparison. */
import type { Run } from './run.ts';

/**
 * Interest that the money which is out would have brought: each day's, at a rate a year, without interest on interest.
 *
 * @param rate a year, as a fraction
 * @returns home currency
 */
export const inBank = (run: Pick<Run, 'cumulated'>, rate: number): number =>
  run.cumulated.reduce((sum, x) => sum + Math.max(0, -x), 0) * (rate / 365);

/** What a run has brought by its horizon, with what is still to come and goods at what it cost to land them. */
export const broughtBy = (
  run: Pick<Run, 'cumulated' | 'toCome'>,
  left: Readonly<Record<string, { readonly landedCost: number }>>,
): { readonly cash: number; readonly toCome: number; readonly goods: number } => ({
  cash: run.cumulated[run.cumulated.length - 1] as number,
  toCome: Object.values(run.toCome).reduce((a, b) => a + b, 0),
  goods: Object.values(left).reduce((sum, l) => sum + l.landedCost, 0),
});
