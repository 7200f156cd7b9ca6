import type { NumberKind } from './Field.tsx';
import type { Format } from './locale.ts';

const PERCENT = new Set(['margin', 'roi', 'marginOnShelfPrice', 'markup', 'yearlyReturnOnCash']);
const MONEY = new Set(['unitProfit', 'profitPerMonth', 'gross']);

/** The unit the level of a hurdle is in: a share, money in the home currency, or a plain number. */
export const hurdleKind = (figure: string): NumberKind =>
  PERCENT.has(figure) ? 'percent' : MONEY.has(figure) ? 'money' : 'number';

/** A hurdle's level, value or shortfall in the figure's own unit: a share, money in `currency`, or a plain number. */
export function hurdleAmount(x: number | null, figure: string, currency: string, f: Format): string {
  const kind = hurdleKind(figure);
  return kind === 'percent' ? f.percent(x) : kind === 'money' ? f.money(x, currency) : f.number(x);
}
