/** The choice among options as a program of zeros and ones (planning, section 2). */
import { calendarOf } from '../cash/calendar.ts';
import { lastDay } from './options.ts';
import type { Option } from './options.ts';
import type { PurseDocument } from './schema.ts';

/** Maximise `objective * x`, each x 0 or 1 but the first `free`, which may be any number from 0 on, in all rows. */
export type Mip = {
  readonly objective: readonly number[];
  readonly free: number;
  readonly rows: readonly MipRow[];
  /** A choice to begin with; null: none is known. */
  readonly start: readonly number[] | null;
};
export type MipRow = {
  readonly lower: number;
  readonly upper: number;
  readonly columns: readonly number[];
  readonly values: readonly number[];
};
/** `gap`: how far from the best the answer may be, as a share of it; null where that is not known. */
export type Solved = {
  readonly status: 'best' | 'outOfTime' | 'infeasible';
  readonly x: readonly number[] | null;
  readonly gap: number | null;
};
export type Solver = (mip: Mip, seconds: number) => Solved;

/** What a plan takes besides the options: cash, and which lanes must be launched. */
export type Terms = {
  readonly cash: number;
  /** Lanes (by index) of which exactly one option is chosen. */
  readonly must: ReadonlySet<number>;
};

/** Cash that is there for launches in each week: less reserve and the fixed costs up to its end. */
export function availableBy(p: PurseDocument, cash: number): Float64Array {
  const available = new Float64Array(p.weeks + 1);
  const calendar = calendarOf(p.start, lastDay(p) + 1, 'month');
  let fixed = 0;
  for (let w = 0; w <= p.weeks; w++) {
    for (let t = 7 * w; t < 7 * w + 7; t++) if (calendar.monthEnd[t] === t) fixed += p.monthlyFixedCosts;
    available[w] = cash - p.reserve - fixed;
  }
  return available;
}

/** Breaks ties in favour of what ties up less. */
const TIE = 1e-6;
export const objectiveOf = (o: Option): number => o.worth - TIE * o.moneyNeeded;

/**
 * Options that a choice can come down to: one that brings no more than another of its lane and leaves the account no
 * fuller in any week is never needed, where starts in a week are not counted.
 */
export function worthTrying(options: readonly Option[], p: PurseDocument): Option[] {
  const byLane = groupedBy(options, (o) => o.lane);
  return [...byLane.values()].flatMap((own) => {
    const kept: Option[] = [];
    for (const o of [...own].sort((a, b) => objectiveOf(b) - objectiveOf(a)))
      if (!kept.some((k) => (p.perWeek === null || k.week === o.week) && leavesAsMuch(k, o))) kept.push(o);
    return kept;
  });
}
function groupedBy<T, K>(all: readonly T[], key: (x: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const x of all) groups.set(key(x), [...(groups.get(key(x)) ?? []), x]);
  return groups;
}
const leavesAsMuch = (a: Option, b: Option): boolean =>
  a.lowest.every((x, w) => x >= (b.lowest[w] as number) - 1e-12);

/** Rows of a purse over so many columns before the options' own (`shift`). */
export function rowsOf(
  options: readonly Option[],
  p: PurseDocument,
  { cash, must }: Terms,
  shift = 0,
): MipRow[] {
  const rows: MipRow[] = [];
  const row = (lower: number, upper: number, isIn: (o: Option) => boolean): void => {
    const columns = options.flatMap((o, i) => (isIn(o) ? [i + shift] : []));
    if (columns.length > 0 || lower > 0) rows.push({ lower, upper, columns, values: columns.map(() => 1) });
  };
  const none = Number.NEGATIVE_INFINITY;
  for (let lane = 0; lane < p.lanes.length; lane++) row(must.has(lane) ? 1 : none, 1, (o) => o.lane === lane);
  const candidateOf = (o: Option): string => (p.lanes[o.lane] as (typeof p.lanes)[number]).candidate;
  const candidates = groupedBy(p.lanes, (l) => l.candidate);
  for (const [candidate, own] of candidates)
    if (own.length > p.lanesPerCandidate) row(none, p.lanesPerCandidate, (o) => candidateOf(o) === candidate);
  for (const set of p.neverTogether) {
    const keys = new Set(set);
    row(none, 1, (o) => keys.has((p.lanes[o.lane] as (typeof p.lanes)[number]).key));
  }
  const { most, perWeek } = p;
  if (most !== null) row(none, most, () => true);
  if (perWeek !== null) for (let w = 0; w <= p.weeks; w++) row(none, perWeek, (o) => o.week === w);
  rows.push(...cashRows(options, availableBy(p, cash), shift));
  return rows;
}

/** The account may not fall under the reserve in any week; weeks in which it cannot are left out. */
function cashRows(options: readonly Option[], available: Float64Array, shift: number): MipRow[] {
  const rows: MipRow[] = [];
  for (let w = 0; w < available.length; w++) {
    const columns: number[] = [];
    const values: number[] = [];
    const worst = new Map<number, number>();
    options.forEach((o, i) => {
      const f = o.lowest[w] as number;
      if (f === 0) return;
      columns.push(i + shift);
      values.push(f);
      worst.set(o.lane, Math.min(worst.get(o.lane) ?? 0, f));
    });
    const least = -(available[w] as number);
    const lowest = [...worst.values()].reduce((a, b) => a + b, 0);
    if (lowest < least || least > 0)
      rows.push({ lower: least, upper: Number.POSITIVE_INFINITY, columns, values });
  }
  return rows;
}
