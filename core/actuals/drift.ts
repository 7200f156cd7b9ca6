/** Lines of a lane on sale that have left the plan for two periods running, and how it stands lately. */
import { daysBefore, daysBetween, firstOfNextMonth } from '../money/days.ts';
import { exchangeFactor } from '../money/money.ts';
import type { ActualLine } from './actual.ts';
import { standsAt } from './compare.ts';
import type { Compared, Stands } from './compare.ts';
import type { DriftWidth } from './driftWidth.ts';
import { together } from './onSale.ts';
import type { MonthSold, OnSale } from './onSale.ts';

/** Whole months with enough units in them to say something. `from` and `to`: first and last day. */
export type Period = { readonly from: string; readonly to: string; readonly compared: Compared };

/** `planned` and `actual` a unit over both periods; the price as it stands on the shelf. */
export type Drift = {
  readonly what: 'price' | ActualLine;
  readonly planned: number;
  readonly actual: number;
  /** What it brings a unit beside the plan: below 0 it costs. */
  readonly each: number;
  /** The same over a year at the pace of the two periods. */
  readonly year: number;
};
export type Lately = Period & { readonly stands: Stands; readonly drifts: readonly Drift[] };

const shippedIn = (months: readonly MonthSold[]): number => months.reduce((s, m) => s + m.actual.shipped, 0);

/** The last two periods, the later one first; fewer where too little was sold. */
function lastTwo(months: readonly MonthSold[], least: number): MonthSold[][] {
  const periods: MonthSold[][] = [];
  let open: MonthSold[] = [];
  for (const month of [...months].reverse()) {
    open = [month, ...open];
    if (shippedIn(open) < least) continue;
    periods.push(open);
    open = [];
    if (periods.length === 2) break;
  }
  return periods;
}

function periodOf(lane: OnSale, months: readonly MonthSold[], last: string | null): Period {
  const first = `${(months[0] as MonthSold).month}-01`;
  const end = daysBefore(firstOfNextMonth(`${(months.at(-1) as MonthSold).month}-01`), 1);
  return {
    from: first < lane.since ? lane.since : first,
    to: last !== null && last < end ? last : end,
    compared: together(lane.document, months),
  };
}

/** What each line, and the price, is a unit, planned at the price that is paid and actual. */
function gapsOf(c: Compared): Map<Drift['what'], Omit<Drift, 'year'>> {
  const gaps = new Map<Drift['what'], Omit<Drift, 'year'>>();
  const { shipped } = c.actual;
  if (c.parts === null || shipped === 0) return gaps;
  const [planned, actual] = [c.planned.price, c.actual.price];
  if (planned !== null && actual !== null)
    gaps.set('price', { what: 'price', planned, actual, each: c.parts.price / shipped });
  for (const l of c.lines)
    if (l.rate !== null && l.actual !== null)
      gaps.set(l.line, {
        what: l.line,
        planned: l.actual + l.rate / shipped,
        actual: l.actual,
        each: l.rate / shipped,
      });
  return gaps;
}

/**
 * How a lane stands in its last two periods, and which lines left the plan in both of them the same way; null: less
 * than two periods have been settled.
 *
 * @param last the last day that a report of the place speaks of
 */
export function latelyOf(
  lane: OnSale,
  months: readonly MonthSold[],
  last: string | null,
  width: DriftWidth,
): Lately | null {
  const [late, early] = lastTwo(months, width.units);
  if (late === undefined || early === undefined) return null;
  const { document: doc } = lane;
  const both = periodOf(lane, [...early, ...late], last);
  const periods = [early, late].map((p) => gapsOf(together(doc, p)));
  const factor = exchangeFactor(doc.rates.exchange, doc.homeCurrency, doc.currency);
  // Without a rate nobody knows the amount: the share alone decides.
  const least = Number.isFinite(factor) ? width.amount * factor : 0;
  const leaves = (gap: Omit<Drift, 'year'> | undefined): gap is Omit<Drift, 'year'> =>
    gap !== undefined &&
    gap.each !== 0 &&
    Math.abs(gap.actual - gap.planned) > width.share * Math.abs(gap.planned) &&
    Math.abs(gap.each) > least;
  const days = Math.max(1, daysBetween(both.from, both.to) + 1);
  const perYear = (both.compared.actual.shipped * DAYS_A_YEAR) / days;
  const drifts = [...gapsOf(both.compared).values()]
    .filter(({ what, each }) =>
      periods.every((p) => leaves(p.get(what)) && Math.sign(p.get(what)?.each ?? 0) === Math.sign(each)),
    )
    .map((gap) => ({ ...gap, year: gap.each * perYear }))
    .sort((a, b) => a.year - b.year);
  return { ...both, stands: standsAt(both.compared), drifts };
}
const DAYS_A_YEAR = 365;
