/** Hurdles of one's own held against what a lane really brought. */
import { verdictOf } from '../lane/hurdles.ts';
import type { HurdleResult } from '../lane/hurdles.ts';
import type { Hurdle } from '../lane/hurdleSchema.ts';
import { isMoney } from '../lane/figures.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';
import { atLeast, within } from '../rules/numbers.ts';
import { DAYS_A_MONTH } from '../rules/result.ts';
import type { Compared } from './compare.ts';

/** Figures of a hurdle that settlements know; others say nothing of what came. */
function actualFigure(figure: Hurdle['figure'], c: Compared, days: number): number | null {
  const perMonth = (x: number | null): number | null => (x === null ? null : (x * DAYS_A_MONTH) / days);
  switch (figure) {
    case 'unitProfit':
      return c.unitProfit;
    case 'margin':
      return c.margin;
    case 'roi':
      return c.roi;
    case 'gross':
      return c.actual.shipped === 0 ? null : c.actual.gross / c.actual.shipped;
    case 'expectedMonthlyUnits':
      return perMonth(c.actual.shipped);
    case 'profitPerMonth':
      return perMonth(c.actual.profit);
    default:
      return null;
  }
}

/**
 * Hurdles as they are passed by what came; a profit that lacks a cost is at most what it says.
 *
 * @param days that `compared` is of
 */
export function hurdlesOnActuals(
  doc: LaneDocument,
  hurdles: readonly Hurdle[],
  compared: Compared,
  days: number,
): HurdleResult[] {
  return hurdles.flatMap((h): HurdleResult[] => {
    const value = actualFigure(h.figure, compared, Math.max(1, days));
    if (value === null) return [];
    const factor = isMoney(h.figure) ? exchangeFactor(doc.rates.exchange, doc.homeCurrency, doc.currency) : 1;
    const level = h.level * factor;
    if (Number.isNaN(level)) return [{ hurdle: h, level: null, value, verdict: 'unknown', short: null }];
    const counted = h.figure === 'gross' || h.figure === 'expectedMonthlyUnits';
    const bound = !counted && compared.actual.lacks.length > 0 ? 'atMost' : null;
    const passes = h.bound === 'atLeast' ? atLeast(value, level) : within(value, level);
    return [
      {
        hurdle: h,
        level,
        value,
        verdict: verdictOf(h, value, level, bound),
        short: passes ? 0 : Math.abs(level - value),
      },
    ];
  });
}
