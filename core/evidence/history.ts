/**
 * The prices of a listing by day (evidence, section 3): windows, gaps, trend, spikes, and the basis a lane may take
 * its price from. A row without a price: nobody offered that day; no row: the day was not observed.
 */
import { daysBefore, daysBetween, dayAfter } from '../money/days.ts';
import { mean, percentile, percentileOfSorted, rising } from './statistics.ts';

/** The price a buyer paid that day, delivery included, in the currency of the market; null: nobody offered. */
export type DayPrice = { readonly day: string; readonly price: number | null };

export type Spread = {
  readonly days: number;
  readonly mean: number | null;
  readonly median: number | null;
  readonly low: number | null;
  readonly high: number | null;
};
/** What else a day may say beside its price. */
export type DayFacts = DayPrice & { readonly ownShop?: boolean | null; readonly promotion?: boolean };
/** Days of a window on which the marketplace's own shop offered, of those on which that is known. */
export type OwnShop = { readonly days: number; readonly known: number; readonly share: number | null };
/** Two days or more in a row without an offer. */
export type Gap = { readonly from: string; readonly to: string };
export const BASES = ['now', 'mean30', 'mean90', 'trend'] as const;
export type Basis = (typeof BASES)[number];
/** A price to go by, or how many priced days there are of those it takes. */
export type BasisPrice =
  | { readonly known: true; readonly price: number; readonly days: number }
  | { readonly known: false; readonly days: number; readonly needs: number };
export type Window = '30' | '90' | '180' | 'all';
export type History = {
  readonly now: string;
  /** By the days of a window that ends on and includes now; `all`: of every day. */
  readonly windows: Readonly<Record<Window, Spread>>;
  /** The same without the days of a known promotion; null where no day is one. */
  readonly withoutPromotions: Readonly<Record<Window, Spread>> | null;
  readonly ownShop: Readonly<Record<'30' | '90' | '180', OwnShop>>;
  readonly gaps: readonly Gap[];
  /** 10th to 90th percentile of 180 days; null with fewer than 30 priced days. */
  readonly band: { readonly low: number; readonly high: number } | null;
  readonly trend: number | null;
  readonly standing: 'spike' | 'dip' | 'usual' | 'unknown';
  readonly bases: Readonly<Record<Basis, BasisPrice>>;
};

const WINDOWS = { '30': 30, '90': 90, '180': 180 } as const;
const BAND_DAYS = 30;
const NEEDS: Readonly<Record<Basis, number>> = { now: 1, mean30: 10, mean90: 30, trend: 60 };
const FAR_OVER = 1.25;
const FAR_UNDER = 0.8;
const APART = 0.05;

const isPrice = (price: number | null): boolean => price === null || (Number.isFinite(price) && price >= 0);

/** Rows in the order of their days; of two of one day the later stands, and what is no price is none. */
export function byDay<D extends DayPrice>(rows: readonly D[]): D[] {
  // Rows as they are stored are in order already.
  if (rows.every((r, i) => isPrice(r.price) && (i === 0 || r.day > (rows[i - 1] as D).day))) return [...rows];
  const days = new Map<string, D>();
  for (const row of rows) {
    const { day, price } = row;
    days.set(day, isPrice(price) ? row : { ...row, price: null });
  }
  return [...days.values()].sort((a, b) => (a.day < b.day ? -1 : 1));
}

function spreadOf(prices: readonly number[]): Spread {
  const own = rising(prices);
  return {
    days: prices.length,
    mean: mean(prices),
    median: percentileOfSorted(own, 0.5),
    low: percentileOfSorted(own, 0),
    high: percentileOfSorted(own, 1),
  };
}

/** Days of the window that ends on and includes a day. */
const within = <D extends DayPrice>(days: readonly D[], today: string, n: number): readonly D[] => {
  if (days.length === 0) return days;
  const before = daysBefore(today, n);
  return days.filter((d) => d.day > before);
};
const pricesOf = (days: readonly DayPrice[]): number[] => days.flatMap((d) => d.price ?? []);
const pricesWithin = (days: readonly DayPrice[], today: string, n: number): number[] =>
  pricesOf(within(days, today, n));

function spreadsOf(days: readonly DayPrice[], today: string): Record<Window, Spread> {
  return {
    '30': spreadOf(pricesWithin(days, today, WINDOWS['30'])),
    '90': spreadOf(pricesWithin(days, today, WINDOWS['90'])),
    '180': spreadOf(pricesWithin(days, today, WINDOWS['180'])),
    all: spreadOf(days.flatMap((d) => d.price ?? [])),
  };
}

/** Days of a window on which the own shop offered, of those on which that is known. */
export function ownShopOf(days: readonly DayFacts[], today: string, n: number): OwnShop {
  const known = within(days, today, n).flatMap((d) => d.ownShop ?? []);
  const there = known.filter(Boolean).length;
  return { days: there, known: known.length, share: known.length === 0 ? null : there / known.length };
}

/** Months, year-month, in which a listing was without an offer on more than half of the days observed. */
export function outOfStockMonths(rows: readonly DayPrice[]): string[] {
  const months = new Map<string, { days: number; without: number }>();
  for (const { day, price } of byDay(rows)) {
    const own = months.get(day.slice(0, 7)) ?? { days: 0, without: 0 };
    own.days++;
    if (price === null) own.without++;
    months.set(day.slice(0, 7), own);
  }
  return [...months].flatMap(([month, { days, without }]) => (2 * without > days ? [month] : []));
}

/** Days without an offer, two or more in a row; a day that was not observed ends a gap. */
export function gapsOf(days: readonly DayPrice[]): Gap[] {
  const gaps: Gap[] = [];
  let from: string | null = null;
  let to = '';
  const close = (): void => {
    if (from !== null && daysBetween(from, to) >= 1) gaps.push({ from, to });
    from = null;
  };
  for (const { day, price } of days) {
    if (price !== null) close();
    else {
      if (from !== null && dayAfter(to) !== day) close();
      from ??= day;
      to = day;
    }
  }
  close();
  return gaps;
}

/**
 * Everything a history of days says of the price, as of `now` (the last row's day unless given). Rows after it do
 * not count. Gaps are out of every average; nothing replaces a basis that is short of days.
 */
export function historyOf(rows: readonly DayFacts[], now: string | null = null): History {
  const all = byDay(rows);
  const today = now ?? all[all.length - 1]?.day ?? '';
  const days = all.filter((d) => d.day <= today);
  const windows = spreadsOf(days, today);
  const half = pricesWithin(days, today, WINDOWS['180']);
  const band =
    half.length < BAND_DAYS
      ? null
      : { low: percentile(half, 0.1) as number, high: percentile(half, 0.9) as number };
  const trend = windows['180'].median;
  const price = days.find((d) => d.day === today)?.price ?? null;
  const basis = (of: Basis, value: number | null, n: number): BasisPrice =>
    value === null || n < NEEDS[of]
      ? { known: false, days: n, needs: NEEDS[of] }
      : { known: true, price: value, days: n };
  return {
    now: today,
    windows,
    withoutPromotions: days.some((d) => d.promotion === true)
      ? spreadsOf(
          days.filter((d) => d.promotion !== true),
          today,
        )
      : null,
    ownShop: {
      '30': ownShopOf(days, today, 30),
      '90': ownShopOf(days, today, 90),
      '180': ownShopOf(days, today, 180),
    },
    gaps: gapsOf(days),
    band,
    trend,
    standing: standingOf(price, windows['90'], band, trend),
    bases: {
      now: basis('now', price, price === null ? 0 : 1),
      mean30: basis('mean30', windows['30'].mean, windows['30'].days),
      mean90: basis('mean90', windows['90'].mean, windows['90'].days),
      trend: basis('trend', trend, windows['180'].days),
    },
  };
}

/** Whether today's price is far from its usual one: of the last 90 days, or past the band of 180. */
function standingOf(
  price: number | null,
  quarter: Spread,
  band: History['band'],
  trend: number | null,
): History['standing'] {
  if (price === null || (quarter.days < BAND_DAYS && band === null)) return 'unknown';
  const usual = quarter.days >= BAND_DAYS ? quarter.median : null;
  const over = usual !== null && price > FAR_OVER * usual;
  const under = usual !== null && price < FAR_UNDER * usual;
  const past = band !== null && trend !== null;
  if (over || (past && price > band.high && price > (1 + APART) * trend)) return 'spike';
  if (under || (past && price < band.low && price < (1 - APART) * trend)) return 'dip';
  return 'usual';
}
