/**
 * Season and direction of monthly volumes, of a search term or of units sold (evidence, section 2): which months
 * of the year stand out, and whether there is more of it from year to year.
 */
import { mean, median } from './statistics.ts';

/** A month as year-month, and its volume: 0 is a value, a month that is not known is left out. */
export type MonthValue = { readonly month: string; readonly value: number };

/** The twelve calendar months against their mean, January first: their own mean is 1. */
export type Season =
  | {
      readonly known: true;
      readonly index: readonly number[];
      /** Calendar months, 1 to 12, that stand out; none where nothing does. */
      readonly peaks: readonly number[];
      readonly seasonal: boolean;
      /** One year only: season, growth and chance cannot be told apart. */
      readonly oneYear: boolean;
      /** Whole years that it rests on. */
      readonly years: number;
      /** Growth that was taken out first: `ln` of the factor a year; 0 where too few pairs are known. */
      readonly growth: number;
    }
  /** `few`: under twelve months; `gaps`: no twelve in a row, or nothing in them. */
  | { readonly known: false; readonly why: 'few' | 'gaps'; readonly months: number };
export type Direction =
  | {
      readonly known: true;
      readonly direction: 'growing' | 'steady' | 'fading';
      /** Change a year, a fraction. */
      readonly change: number;
      /** Share of the pairs that go the way of the change. */
      readonly agreeing: number;
      readonly pairs: number;
    }
  | { readonly known: false; readonly pairs: number };

const LEAST_MONTHS = 12;
const TWO_YEARS = 24;
const LEAST_PAIRS = 6;
const PEAK = 1.2;
const FLAT = 0.8;
const PEAK_OF_YEAR = 1.1;
const PEAK_YEARS = 2 / 3;
const MOVES = 0.05;
const AGREE = 0.75;

/** Months counted from year 0, so that two of them can be subtracted; null where the text is none. */
function monthNumber(month: string): number | null {
  const parts = /^(\d{4})-(0[1-9]|1[0-2])/.exec(month);
  return parts === null ? null : 12 * Number(parts[1]) + Number(parts[2]) - 1;
}
const calendarMonth = (n: number): number => (n % 12) + 1;

const monthText = (n: number): string =>
  `${String(Math.floor(n / 12)).padStart(4, '0')}-${String(calendarMonth(n)).padStart(2, '0')}`;
/** The first day of the month after the last of a series: as of then all of it counts. */
export function monthAfter(series: readonly MonthValue[]): string {
  const last = Math.max(-1, ...series.map((x) => monthNumber(x.month) ?? -1));
  return `${monthText(last + 1)}-01`;
}

/** The known months before that of `now`, by number; a later entry of one month stands. */
export function monthsBefore(series: readonly MonthValue[], now: string): Map<number, number> {
  const end = monthNumber(now);
  const known = new Map<number, number>();
  for (const { month, value } of series) {
    const n = monthNumber(month);
    if (n !== null && (end === null || n < end) && Number.isFinite(value) && value >= 0) known.set(n, value);
  }
  return known;
}

/** Ratios of months a year apart, both known: `value(t + 12) / value(t)`, the first above 0. */
function ratios(known: ReadonlyMap<number, number>, from: number, to: number): number[] {
  const found: number[] = [];
  for (let t = from; t + 12 <= to; t++) {
    const [a, b] = [known.get(t), known.get(t + 12)];
    if (a !== undefined && b !== undefined && a > 0) found.push(b / a);
  }
  return found;
}

/** `g`: the median of the logarithms of all ratios above 0; 0 with fewer than six. */
function growthOf(known: ReadonlyMap<number, number>, first: number, last: number): number {
  const logs = ratios(known, first, last)
    .filter((x) => x > 0)
    .map(Math.log);
  return logs.length < LEAST_PAIRS ? 0 : (median(logs) ?? 0);
}

/**
 * The season of a series as of a day. With two years and more growth is taken out first: `w(t) = value(t) *
 * exp(-g * t / 12)`; then each month is held against the mean of its twelve, twelve months back from the last.
 *
 * @example seasonOf([], '2026-11-29') // { known: false, why: 'few', months: 0 }
 */
export function seasonOf(series: readonly MonthValue[], now: string): Season {
  const known = monthsBefore(series, now);
  if (known.size < LEAST_MONTHS) return { known: false, why: 'few', months: known.size };
  const [first, last] = [Math.min(...known.keys()), Math.max(...known.keys())];
  const oneYear = known.size < TWO_YEARS;
  const growth = oneYear ? 0 : growthOf(known, first, last);
  const years = wholeYears(known, growth, first, last, oneYear ? 1 : Number.POSITIVE_INFINITY);
  if (years.length === 0) return { known: false, why: 'gaps', months: known.size };
  // By calendar month: the mean of its ratios over the years, then divided by the mean of the twelve.
  const byMonth = Array.from({ length: 12 }, (_, m) => mean(years.map((y) => y[m] as number)) as number);
  const level = mean(byMonth) as number;
  const index = byMonth.map((x) => x / level);
  const standsOut = (m: number): boolean =>
    oneYear ||
    years.filter((y) => (y[m] as number) >= PEAK_OF_YEAR - 1e-9).length >= PEAK_YEARS * years.length - 1e-9;
  const seasonal = !index.every((x) => x >= FLAT - 1e-9 && x < PEAK - 1e-9);
  const peaks = index.flatMap((x, m) => (x >= PEAK - 1e-9 && standsOut(m) ? [m + 1] : []));
  return { known: true, index, peaks, seasonal, oneYear, years: years.length, growth };
}

/** Ratios of whole years, January first, from the last value back; none that lacks a month or is all 0. */
function wholeYears(
  known: ReadonlyMap<number, number>,
  growth: number,
  first: number,
  last: number,
  most: number,
): number[][] {
  const years: number[][] = [];
  for (let end = last; end - 11 >= first && years.length < most; end -= 12) {
    const w = Array.from({ length: 12 }, (_, i) => {
      const t = end - 11 + i;
      const value = known.get(t);
      return value === undefined ? null : { t, w: value * Math.exp((-growth * (t - last)) / 12) };
    });
    if (w.some((x) => x === null)) continue;
    const own = w as { t: number; w: number }[];
    const level = mean(own.map((x) => x.w)) as number;
    if (level <= 0) continue;
    const year: number[] = Array.from({ length: 12 }, () => 0);
    for (const x of own) year[calendarMonth(x.t) - 1] = x.w / level;
    years.push(year);
  }
  return years;
}

/**
 * Whether there is more from year to year: the median of the ratios of the last twelve months to the twelve
 * before. Fewer than six pairs: not known.
 */
export function directionOf(series: readonly MonthValue[], now: string): Direction {
  const known = monthsBefore(series, now);
  if (known.size === 0) return { known: false, pairs: 0 };
  const last = Math.max(...known.keys());
  const changes = ratios(known, last - 23, last).map((x) => x - 1);
  if (changes.length < LEAST_PAIRS) return { known: false, pairs: changes.length };
  const change = median(changes) as number;
  const up = changes.filter((x) => x > 0).length / changes.length;
  const down = changes.filter((x) => x < 0).length / changes.length;
  const direction =
    change > MOVES && up >= AGREE ? 'growing' : change < -MOVES && down >= AGREE ? 'fading' : 'steady';
  const agreeing = change > 0 ? up : change < 0 ? down : 1 - up - down;
  return { known: true, direction, change, agreeing, pairs: changes.length };
}

/** A term of several, with its weight: 1 unless another is typed. */
export type WeighedSeries = { readonly series: readonly MonthValue[]; readonly weight: number };

/**
 * The sum of several terms by their weights, over the months that every one has. It says when people search; since
 * terms share buyers it is no demand.
 */
export function together(terms: readonly WeighedSeries[], now: string): MonthValue[] {
  const known = terms.map((t) => monthsBefore(t.series, now));
  const [first, ...others] = known;
  if (first === undefined) return [];
  return [...first.keys()]
    .filter((n) => others.every((o) => o.has(n)))
    .sort((a, b) => a - b)
    .map((n) => ({
      month: monthText(n),
      value: known.reduce((sum, k, i) => sum + (k.get(n) as number) * (terms[i] as WeighedSeries).weight, 0),
    }));
}
