/** A run by calendar month: the table whose columns add up to the change of the balance, and the days as rows. */
import { monthText } from '../money/days.ts';
import { calendarOf, dayText } from './calendar.ts';
import { FLOWS, TO_COME } from './run.ts';
import type { Flow, Run, ToCome } from './run.ts';

export type MonthRow = Readonly<Record<Flow, number>> & {
  readonly month: string;
  readonly sold: number;
  /** Cumulated flow with the cash at hand, at the end of the month and at its lowest. */
  readonly end: number;
  readonly lowest: number;
};

/** Months of a run, the first and the last as far as they go. Home currency; `cash`: at hand on day 0. */
export function monthsOf(run: Run, start: string, cash: number): MonthRow[] {
  const days = run.cumulated.length;
  const calendar = calendarOf(start, days, 'month');
  const rows: MonthRow[] = [];
  for (let from = 0; from < days; ) {
    const to = Math.min(days - 1, calendar.monthEnd[from] as number);
    const sum = (of: Float64Array): number => of.slice(from, to + 1).reduce((a, b) => a + b, 0);
    rows.push({
      month: monthText(start, calendar.ordinal[from] as number),
      sold: sum(run.sold),
      ...(Object.fromEntries(FLOWS.map((f) => [f, sum(run.flows[f])])) as Record<Flow, number>),
      end: cash + (run.cumulated[to] as number),
      lowest: cash + Math.min(...run.cumulated.slice(from, to + 1)),
    });
    from = to + 1;
  }
  return rows;
}

/** In which column of the table each kind of what is still to come stands. */
const COLUMN_OF: Readonly<Record<ToCome, Flow>> = {
  payouts: 'payouts',
  reserves: 'payouts',
  vat: 'vat',
  goods: 'goods',
  cashback: 'goods',
  way: 'way',
  ready: 'ready',
};
/** What is still to come after the horizon, by the columns of the months. */
export function toComeByFlow({ toCome }: Pick<Run, 'toCome'>): Record<Flow, number> {
  const sums = Object.fromEntries(FLOWS.map((f) => [f, 0])) as Record<Flow, number>;
  for (const kind of TO_COME) sums[COLUMN_OF[kind]] += toCome[kind];
  return sums;
}

export type DayRow = Readonly<Record<Flow, number>> & {
  readonly day: string;
  readonly balance: number;
  readonly cumulated: number;
  readonly stock: number;
  readonly sold: number;
  readonly lost: number;
  readonly onOrder: number;
  readonly returning: number;
};
/** Days of a run, each with its flows and what is in stock at its end. */
export function daysOfRun(run: Run, start: string, cash: number): DayRow[] {
  const at = (of: Float64Array, t: number): number => of[t] as number;
  return Array.from(run.cumulated, (cumulated, t) => ({
    day: dayText(start, t),
    balance: cash + cumulated,
    cumulated,
    stock: at(run.stock, t),
    sold: at(run.sold, t),
    lost: at(run.lost, t),
    onOrder: at(run.onOrder, t),
    returning: at(run.returning, t),
    ...(Object.fromEntries(FLOWS.map((f) => [f, at(run.flows[f], t)])) as Record<Flow, number>),
  }));
}
