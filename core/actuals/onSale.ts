/** A lane on sale: what was planned and what came of it, month by month and whole. */
import type { LaneDocument } from '../lane/schema.ts';
import { evaluate } from '../lane/evaluate.ts';
import { unitsInMonth } from '../lane/steps/demand.ts';
import { dayNumber, daysBefore, firstOfNextMonth } from '../money/days.ts';
import { DAYS_A_MONTH } from '../rules/result.ts';
import { accountOf, addActuals, actualOf } from './actual.ts';
import type { AccountOf, Actual } from './actual.ts';
import { compare } from './compare.ts';
import type { Compared } from './compare.ts';
import { FirstOut } from './received.ts';
import type { Layer, Remaining } from './received.ts';
import { settledRule } from './schema.ts';
import type { SettledKind } from './schema.ts';
import { kindsOfCodes, kindsSettled, sharedOut } from './sums.ts';
import type { KindSums, SettledSums, SharedOut } from './sums.ts';

/** The lane as it stood, the codes by which reports name its goods, and when it began. */
export type OnSale = {
  readonly document: LaneDocument;
  readonly codes: readonly string[];
  readonly since: string;
  /** Factors for the 1st, 2nd, 3rd ... month on sale, the last repeats. */
  readonly ramp: readonly number[];
  /** Goods as they came in with orders, the earliest first; none: no order is known. */
  readonly layers?: readonly Layer[];
};

/** What was settled in one place, and up to which day reports speak (null: none does). */
export type PlaceSettled = {
  readonly sums: SettledSums;
  readonly shared: SharedOut;
  readonly last: string | null;
};
export const placeSettled = (sums: SettledSums, last: string | null): PlaceSettled => ({
  sums,
  shared: sharedOut(sums),
  last,
});

/** Most months that are looked at: ten years. */
const MOST_MONTHS = 120;

/**
 * Units that a lane was planned to sell from one day to another, both included: its units a month by ramp and season.
 *
 * @param perMonth the lane's expected monthly units; null: not known, and nothing is
 * @param since first day on sale: the ramp begins there, and nothing was planned before
 */
export function unitsPlanned(
  perMonth: number | null,
  season: readonly number[] | null,
  ramp: readonly number[],
  since: string,
  from: string,
  to: string,
): number | null {
  if (perMonth === null) return null;
  let sum = 0;
  const start = dayNumber(since);
  const last = dayNumber(to);
  let day = Math.max(start, dayNumber(from));
  let month = from < since ? since : from;
  while (day <= last) {
    const next = firstOfNextMonth(month);
    const step = Math.floor((day - start) / DAYS_A_MONTH);
    // As many days as are of one calendar month and one factor of the ramp.
    const sameFactor = step >= ramp.length - 1 ? last : Math.ceil((step + 1) * DAYS_A_MONTH) + start - 1;
    const until = Math.min(last, dayNumber(next) - 1, sameFactor);
    const factor = ramp[Math.min(step, ramp.length - 1)] ?? 1;
    const perDay = unitsInMonth(perMonth, season, Number(month.slice(5, 7))) / DAYS_A_MONTH;
    sum += factor * perDay * (until - day + 1);
    day = until + 1;
    if (day >= dayNumber(next)) month = next;
  }
  return sum;
}

/** Whether a marketplace settled any of it: a month that reports of one's own tell of alone is still open. */
const isSettled = (kinds: KindSums): boolean =>
  Object.keys(kinds).some((kind) => settledRule(kind as SettledKind).is !== 'told');

/** Months from the first day on sale, or the first that was settled, to the last that a report speaks of. */
function monthsOf({ codes, since }: OnSale, { sums, last }: PlaceSettled): string[] {
  const settled = codes.flatMap((c) =>
    [...(sums.get(c) ?? [])].flatMap(([month, kinds]) => (isSettled(kinds) ? [month] : [])),
  );
  if (settled.length === 0) return [];
  const known = [since.slice(0, 7), ...settled, ...(last === null ? [] : [last.slice(0, 7)])].sort();
  const months: string[] = [];
  for (
    let day = `${known[0]}-01`;
    day.slice(0, 7) <= (known.at(-1) as string) && months.length < MOST_MONTHS;
    day = firstOfNextMonth(day)
  )
    months.push(day.slice(0, 7));
  return months;
}

/** `units` planned; null: not known. */
export type MonthSold = {
  readonly month: string;
  readonly units: number | null;
  readonly actual: Actual;
  readonly account: AccountOf;
};
export type Sold = {
  readonly months: readonly MonthSold[];
  /** All months: what each came to added up; null: nothing has been settled. */
  readonly whole: Compared | null;
  /** Units that left the shelf in all months, those that came back to it taken off. */
  readonly left: number;
  /** What orders brought and has not left, the earliest first. */
  readonly rest: readonly Remaining[];
};

/** Several months held against the plan as one. */
export function together(doc: LaneDocument, months: readonly MonthSold[]): Compared {
  const units = months.reduce<number | null>(
    (s, m) => (s === null || m.units === null ? null : s + m.units),
    0,
  );
  const actuals = months.map((m) => m.actual);
  return compare(doc, addActuals(doc, actuals), units);
}

/** A month by itself held against the plan. */
export const monthCompared = (doc: LaneDocument, { actual, units }: MonthSold): Compared =>
  compare(doc, actual, units);

/** Units that left the shelf: sold and lost, less those that came back and are sold again. */
export function leftShelf(doc: LaneDocument, own: KindSums): number {
  const { returns } = doc;
  const again = returns === null || returns === 'none' ? 0 : returns.resaleShare;
  const back = (own.refund?.units ?? 0) * again;
  return (own.sale?.units ?? 0) + (own.reimbursement?.units ?? 0) - back;
}

/** Plan against actual. The plan reaches to the last day that a report speaks of. */
export function soldOf(lane: OnSale, place: PlaceSettled): Sold {
  const { document: doc, codes, since, ramp } = lane;
  const perMonth = evaluate(doc).figures.expectedMonthlyUnits;
  const out = new FirstOut(lane.layers ?? []);
  let left = 0;
  const months = monthsOf(lane, place).map((month): MonthSold => {
    const end = daysBefore(firstOfNextMonth(`${month}-01`), 1);
    const until = place.last !== null && place.last < end ? place.last : end;
    const own = kindsOfCodes(place.sums, codes, month);
    const taken = leftShelf(doc, own);
    left += taken;
    const settled = {
      own,
      shared: kindsOfCodes(place.shared.by, codes, month),
      kinds: kindsSettled(place.sums, month),
      received: out.take(taken),
    };
    const actual = actualOf(doc, settled);
    const units = unitsPlanned(perMonth, doc.season, ramp, since, `${month}-01`, until);
    return { month, units, actual, account: accountOf(doc, settled, actual) };
  });
  return { months, whole: months.length === 0 ? null : together(doc, months), left, rest: out.rest() };
}
