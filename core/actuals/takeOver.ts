/** What really came, as inputs of the lane: origin actual, with the day and the number of units behind each. */
import { route } from '../cards/carriage.ts';
import { adverts } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { seasonIndex } from '../lane/steps/demand.ts';
import { daysBetween } from '../money/days.ts';
import { minorDigits, powerOfTen } from '../money/money.ts';
import { DAYS_A_MONTH } from '../rules/result.ts';
import { roundMinor } from '../rules/numbers.ts';
import { unitAt } from './actual.ts';
import type { MonthSold } from './onSale.ts';
import type { Period } from './drift.ts';

export const TAKEN_OVER = ['price', 'returnRate', 'freight', 'adverts', 'units', 'season'] as const;
export type TakenOver = (typeof TAKEN_OVER)[number];

/** Units behind a figure below which it is not offered: it would say too little. */
const LEAST_UNITS = 15;
/** Clicks below which what one costs, and how many buy, is not offered. */
const LEAST_CLICKS = 50;
/** Months of a year that must have been sold in before they say a season. */
const SEASON_MONTHS = 12;

/** A value for the lane at a path of its own. `units`: sold units behind it. */
export type Offer = {
  readonly what: TakenOver;
  readonly path: readonly (string | number)[];
  readonly value: unknown;
  /** Choices of the lane that stood in its place. */
  readonly clears?: readonly 'freightCardId'[];
  /** As it is shown: the price, the share, units a month; null: twelve factors. */
  readonly figure: number | null;
  readonly was: number | null;
  readonly units: number;
  /** Of adverts, whose figure is what a click costs: the share of clicks that buy (null: no report tells), of sales. */
  readonly buy?: number | null;
  readonly ofSales?: number;
};

/** Mean season of the days from one month to another, each month as long as it is; 1 where there is no season. */
function meanSeason(doc: LaneDocument, months: readonly MonthSold[]): number {
  if (doc.season === null || months.length === 0) return 1;
  const index = seasonIndex(doc.season);
  return months.reduce((s, m) => s + (index[Number(m.month.slice(5)) - 1] ?? 1), 0) / months.length;
}

/** Twelve factors by what was sold in each month of the year, where all twelve were sold in. */
function seasonOf(months: readonly MonthSold[]): number[] | null {
  const sums = new Array<number>(12).fill(0);
  const times = new Array<number>(12).fill(0);
  for (const { month, actual } of months) {
    const at = Number(month.slice(5)) - 1;
    sums[at] = (sums[at] as number) + actual.shipped;
    times[at] = (times[at] as number) + 1;
  }
  if (times.filter((n) => n > 0).length < SEASON_MONTHS) return null;
  const means = sums.map((s, i) => s / (times[i] as number));
  const mean = means.reduce((a, b) => a + b, 0) / 12;
  return mean === 0 ? null : means.map((m) => Math.round((m / mean) * 100) / 100);
}

/** Units a month of a period, the season of its days taken out. */
export function pacePerMonth(doc: LaneDocument, period: Period, months: readonly MonthSold[]): number {
  const days = Math.max(1, daysBetween(period.from, period.to) + 1);
  const mean = meanSeason(doc, months);
  return mean > 0 ? (period.compared.actual.shipped * DAYS_A_MONTH) / days / mean : 0;
}

/** A difference of what freight costs a unit below which it is as planned. */
const AS_PLANNED = 0.005;

/** What the way in cost a unit by orders that came in, as one leg in place of the lane's. */
function freightOffer(doc: LaneDocument, { compared }: Period): Offer | null {
  const line = compared.lines.find((l) => l.line === 'freight');
  if (line?.from !== 'received' || line.actual === null) return null;
  const rate = Math.round(line.actual * 1e4) / 1e4;
  const now = doc.route === 'none' ? null : doc.route;
  const was = unitAt(doc, null).lines.freight;
  if (Math.abs(rate - was) <= AS_PLANNED * Math.max(rate, was)) return null;
  const legs = [{ stage: 'main', basis: 'perUnit', rate, currency: doc.currency }];
  return {
    ...{ what: 'freight', path: ['route'], value: route.parse({ ...now, legs }), clears: ['freightCardId'] },
    ...{ figure: rate, was: Number.isNaN(was) ? null : was, units: compared.actual.shipped },
  };
}

/** What a click costs by a lane's keywords, those it has no price of left out; null: it has none. */
export function clickCostOf({ adverts }: LaneDocument): number | null {
  if (adverts === null || adverts === 'none') return null;
  const known = adverts.keywords.flatMap(({ low, high, weight }) =>
    low === null || high === null ? [] : [low + weight * (high - low)],
  );
  return known.length === 0 ? null : known.reduce((s, c) => s + c, 0) / known.length;
}

/** What a click cost, how many bought, and what part of sales came by adverts, as one keyword; null: too few clicks. */
function advertsOffer(doc: LaneDocument, months: readonly MonthSold[], shipped: number): Offer | null {
  const told = months.flatMap((m) => m.account.adverts ?? []);
  const sum = (of: (a: (typeof told)[number]) => number): number => told.reduce((s, a) => s + of(a), 0);
  const [clicks, cost, units] = [sum((a) => a.clicks), sum((a) => a.cost), sum((a) => a.units)];
  if (clicks < LEAST_CLICKS || cost <= 0) return null;
  const four = (x: number): number => Math.round(x * 1e4) / 1e4;
  const click = four(cost / clicks);
  const now = doc.adverts === 'none' ? null : doc.adverts;
  const first = now?.keywords[0];
  const buy = units > 0 ? Math.min(1, four(units / clicks)) : (first?.conversionRate ?? null);
  const ofSales = units > 0 ? Math.min(1, four(units / shipped)) : (now?.adShare ?? 1);
  const keyword = {
    text: now?.keywords.length === 1 ? (first?.text ?? '') : '',
    weight: 0.5,
    expectedClicks: null,
  };
  const value = {
    keywords: [{ ...keyword, low: click, high: click, conversionRate: buy }],
    adShare: ofSales,
  };
  if (JSON.stringify(adverts.parse(value)) === JSON.stringify(now)) return null;
  return {
    ...{ what: 'adverts', path: ['adverts'], value: adverts.parse(value) },
    ...{ figure: click, was: clickCostOf(doc), units, ofSales, buy: units > 0 ? buy : null },
  };
}

/**
 * What of a lane could be taken over: the price, the share that comes back and units a month of the period, and the
 * season where a whole year was sold in, and where advert reports name it what a click costs and how many buy. What the
 * lane says already is not offered; nothing is made up of what no report tells.
 *
 * @param doc the lane as it is now
 * @param months of the period
 * @param whole all months on sale, without the last where that is not over
 */
export function offersOf(
  doc: LaneDocument,
  period: Period,
  months: readonly MonthSold[],
  whole: readonly MonthSold[],
): Offer[] {
  const { actual } = period.compared;
  if (actual.shipped < LEAST_UNITS) return [];
  const offers: Offer[] = [];
  const units = actual.shipped;
  const price =
    actual.price === null ? null : roundMinor(actual.price, powerOfTen(minorDigits(doc.currency)));
  if (price !== null && price !== doc.price)
    offers.push({ what: 'price', path: ['price'], value: price, figure: price, was: doc.price, units });
  const rate = Math.round((actual.returned / units) * 1e4) / 1e4;
  const said = doc.returns === null || doc.returns === 'none' ? null : doc.returns;
  if (said !== null && rate < 0.99 && rate !== said.rate && actual.lines.returns.from === 'settled')
    offers.push({
      what: 'returnRate',
      path: ['returns', 'rate'],
      value: rate,
      figure: rate,
      was: said.rate,
      units,
    });
  const freight = freightOffer(doc, period);
  if (freight !== null) offers.push(freight);
  const byAdverts = advertsOffer(doc, months, units);
  if (byAdverts !== null) offers.push(byAdverts);
  const season = seasonOf(whole);
  const perMonth = Math.round(pacePerMonth(season === null ? doc : { ...doc, season }, period, months));
  const typed = doc.demand?.kind === 'typed' ? doc.demand.units : null;
  if (perMonth > 0 && perMonth !== typed)
    offers.push({
      what: 'units',
      path: ['demand'],
      value: { kind: 'typed', units: perMonth },
      figure: perMonth,
      was: typed,
      units,
    });
  if (season !== null && JSON.stringify(season) !== JSON.stringify(doc.season))
    offers.push({
      what: 'season',
      path: ['season'],
      value: season,
      figure: null,
      was: null,
      units: whole.reduce((s, m) => s + m.actual.shipped, 0),
    });
  return offers;
}
