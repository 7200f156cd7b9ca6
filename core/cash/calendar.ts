/** Days of a run against the calendar: which month a day lies in, and on which day months and VAT periods end. */
import type { CashPlan } from './schema.ts';

export type Calendar = {
  /** Calendar month of a day, 0 January. */
  readonly month: Uint8Array;
  /** Months counted from the first of the run, by day. */
  readonly ordinal: Uint16Array;
  /** Last day of the calendar month and of the VAT period that a day lies in, counted from day 0. */
  readonly monthEnd: Int32Array;
  readonly periodEnd: Int32Array;
  /** Calendar month of the first day, year and month. */
  readonly first: { readonly year: number; readonly month: number };
};
const DAY = 86_400_000;
const MONTHS_IN: Readonly<Record<CashPlan['vat']['period'], number>> = { month: 1, quarter: 3, year: 12 };

/** The calendar of so many days from a day on. */
export function calendarOf(start: string, days: number, period: CashPlan['vat']['period']): Calendar {
  const at = Date.parse(`${start}T00:00:00Z`);
  const [year, month] = [Number(start.slice(0, 4)), Number(start.slice(5, 7)) - 1];
  const out = {
    month: new Uint8Array(days),
    ordinal: new Uint16Array(days),
    monthEnd: new Int32Array(days),
    periodEnd: new Int32Array(days),
    first: { year, month: month + 1 },
  };
  const span = MONTHS_IN[period];
  const endOf = (n: number): number => Math.round((Date.UTC(year, n + 1, 0) - at) / DAY);
  let n = month;
  for (let t = 0; t < days; ) {
    const monthEnd = endOf(n);
    // Quarters and years are those of the calendar.
    const periodEnd = endOf(n - ((((n % 12) + 12) % 12) % span) + span - 1);
    for (; t <= monthEnd && t < days; t++) {
      out.month[t] = n % 12;
      out.ordinal[t] = n - month;
      out.monthEnd[t] = monthEnd;
      out.periodEnd[t] = periodEnd;
    }
    n++;
  }
  return out;
}

/** A day counted from another, as year-month-day. */
export const dayText = (start: string, t: number): string =>
  new Date(Date.parse(`${start}T00:00:00Z`) + t * DAY).toISOString().slice(0, 10);
