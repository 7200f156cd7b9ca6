import type { Format } from './locale.ts';

const PERCENT = new Set(['margin', 'roi', 'marginOnShelfPrice', 'markup', 'yearlyReturnOnCash']);
const MONEY = new Set(['unitProfit', 'profitPerMonth', 'gross']);

/** A hurdle's level, value or shortfall in the figure's own unit: a share, money in `currency`, or a plain number. */
export function hurdleAmount(x: number | null, figure: string, currency: string, f: Format): string {
  return PERCENT.has(figure) ? f.percent(x) : MONEY.has(figure) ? f.money(x, currency) : f.number(x);
}
