/** A figure that lacks cost lines is a bound, and which way it errs (economics, section 11, Bounds). */
import type { Blank } from './blanks.ts';
import { FIGURE } from './figures.ts';
import type { Figure } from './figures.ts';

/**
 * `atMost`: the figure is no more than this, since what is missing only takes from it; `atLeast`: no less;
 * `notKnown`: returns are
 * missing, which may take or give, so the amount stands before them and bounds nothing.
 */
export const BOUNDS = ['atMost', 'atLeast', 'notKnown'] as const;
export type Bound = (typeof BOUNDS)[number];

/**
 * How a sum that should hold these costs errs while they are blank; null: nothing is missing. `whole` is how
 * it errs without the costs.
 */
export function boundWithout(blanks: readonly string[], whole: 'atMost' | 'atLeast'): Bound | null {
  const costs = blanks.filter((b) => b !== 'demand');
  return costs.length === 0 ? null : costs.includes('returns') ? 'notKnown' : whole;
}

/**
 * How a figure of a lane errs while it lacks the blanks that it names; null: it is whole. `onCost` is the
 * unit profit over the cost or cash it is a return on: far below 0 a return is no bound, since a loss about
 * as large as the cost weighs less on a cost that turns out higher. Of a higher cost at least the part `1 -
 * returnRate` is lost; of cash paid and reclaimed, nothing.
 */
export function boundOf(
  figure: Figure,
  incomplete: readonly Blank[] | undefined,
  onCost = 0,
  returnRate = 0,
): Bound | null {
  if (incomplete === undefined || incomplete.length === 0) return null;
  if (
    FIGURE[figure].errs === 'no' ||
    (figure === 'roi' && onCost < returnRate - 1) ||
    (figure === 'yearlyReturnOnCash' && onCost < 0)
  )
    return 'notKnown';
  return boundWithout(incomplete, FIGURE[figure].errs === 'falls' ? 'atMost' : 'atLeast');
}
