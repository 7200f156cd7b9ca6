/**
 * The days of a window, one after another, each with its price, what a unit would have kept, rank, offers, own
 * shop, promotion.
 */
import type { Window } from '../../../core/evidence/history.ts';
import type { HistorySaid } from '../../../core/evidence/keeps.ts';
import type { DayRow } from '../../../core/evidence/schema.ts';
import { dayAfter, daysBetween } from '../../../core/money/days.ts';

export type ShownDay = {
  readonly day: string;
  readonly price: number | null;
  readonly unitProfit: number | null;
  /** From the break-even price up to the day's, where it keeps something; from it down, where it loses. */
  readonly keeps: readonly [number, number] | null;
  readonly loses: readonly [number, number] | null;
  readonly rank: number | null;
  readonly offers: number | null;
  readonly ownShop: boolean | null;
  readonly promotion: boolean;
  readonly observed: boolean;
};
const DAYS: Readonly<Record<Exclude<Window, 'all'>, number>> = { '30': 30, '90': 90, '180': 180 };
/** Longer than this no chart is: some ten years. */
const MOST = 3660;

export function daysShown(days: readonly DayRow[], history: HistorySaid | null, window: Window): ShownDay[] {
  const known = new Map(days.map((d) => [d.day, d]));
  const first = days.reduce((a, d) => (a === '' || d.day < a ? d.day : a), '');
  if (history === null || first === '') return [];
  const all = daysBetween(first, history.now) + 1;
  const length = Math.max(0, Math.min(window === 'all' ? MOST : DAYS[window], all));
  const profits = new Map((history.margin?.days ?? []).map((d) => [d.day, d.unitProfit]));
  const even = history.breakEven;
  const shown: ShownDay[] = [];
  let day = new Date(Date.parse(`${history.now}T00:00:00Z`) - (length - 1) * 86_400_000)
    .toISOString()
    .slice(0, 10);
  for (let i = 0; i < length; i++) {
    const own = known.get(day);
    const price = own?.price ?? null;
    const unitProfit = profits.get(day) ?? null;
    const drawn = price !== null && even !== null;
    shown.push({
      day,
      price,
      unitProfit,
      keeps: drawn && price >= even ? [even, price] : null,
      loses: drawn && price < even ? [price, even] : null,
      rank: own?.rank ?? null,
      offers: own?.offers ?? null,
      ownShop: own?.ownShop ?? null,
      promotion: own?.promotion === true,
      observed: own !== undefined,
    });
    day = dayAfter(day);
  }
  return shown;
}
