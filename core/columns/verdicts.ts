/** Rows of a list held against hurdles. */
import { isUnknown } from '../rules/numbers.ts';
import { boundOf } from '../lane/bounds.ts';
import { blanksIn } from '../lane/blanks.ts';
import { FIGURE_BLANKS } from '../lane/figures.ts';
import { verdictOf } from '../lane/hurdles.ts';
import type { Verdict } from '../lane/hurdles.ts';
import type { Hurdle } from '../lane/hurdleSchema.ts';
import { isMoney } from '../lane/figures.ts';
import { exchangeFactor } from '../money/money.ts';
import type { Assumptions, ListRates } from './assumptions.ts';
import type { ListColumns, ListResults } from './columns.ts';

export const VERDICTS = ['pass', 'near', 'fail', 'unknown'] as const satisfies readonly Verdict[];
const AT = { pass: 0, near: 1, fail: 2, unknown: 3 } as const;

/** A figure of a row that a hurdle may be about; NaN where the columns do not hold it. */
function figureAt(h: Hurdle, columns: ListColumns, out: ListResults, share: number, i: number): number {
  switch (h.figure) {
    case 'unitProfit':
      return out.unitProfit[i] as number;
    case 'margin':
      return out.margin[i] as number;
    case 'roi':
      return out.roi[i] as number;
    case 'marginOnShelfPrice':
      return (out.gross[i] as number) > 1e-12
        ? (out.unitProfit[i] as number) / (out.gross[i] as number)
        : Number.NaN;
    case 'markup':
      return (out.landedCost[i] as number) > 1e-12
        ? (out.netRevenue[i] as number) / (out.landedCost[i] as number) - 1
        : Number.NaN;
    case 'priceMultiple':
      return (out.goods[i] as number) > 1e-12
        ? (out.gross[i] as number) / (out.goods[i] as number)
        : Number.NaN;
    case 'expectedMonthlyUnits':
      return (columns.units[i] as number) * share;
    case 'profitPerMonth':
      return out.profitPerMonth[i] as number;
    case 'gross':
      return out.gross[i] as number;
    default:
      return Number.NaN;
  }
}

/**
 * The worst verdict of all hurdles for every row, as its place in `VERDICTS`: fail before unknown before near
 * before pass. Without hurdles a row with an answer passes.
 */
export function judgeRows(
  set: Assumptions,
  rates: ListRates,
  columns: ListColumns,
  out: ListResults,
  into: Uint8Array,
  from = 0,
  to = columns.length,
): void {
  const factor = exchangeFactor(rates.exchange, set.homeCurrency, rates.currency);
  const held = set.hurdles.map((h) => ({
    h,
    level: h.level * (isMoney(h.figure) ? factor : 1),
    blanks: FIGURE_BLANKS[h.figure],
  }));
  const returnRate = set.returns === null || set.returns === 'none' ? 0 : (set.returns.rate ?? 0);
  for (let i = from; i < to; i++) {
    let near = false;
    let unknown = isUnknown(out.unitProfit[i] as number);
    let fails = false;
    for (let k = 0; k < held.length && !fails; k++) {
      const { h, level, blanks } = held[k] as (typeof held)[number];
      const value = figureAt(h, columns, out, set.unitsShare, i);
      if (isUnknown(value) || isUnknown(level)) {
        unknown = true;
        continue;
      }
      const v = verdictOf(
        h,
        value,
        level,
        boundOf(h.figure, blanksIn((out.blanks[i] as number) & blanks), value, returnRate),
      );
      if (v === 'fail') fails = true;
      else if (v === 'unknown') unknown = true;
      else if (v === 'near') near = true;
    }
    into[i] = fails ? AT.fail : unknown ? AT.unknown : near ? AT.near : AT.pass;
  }
}
