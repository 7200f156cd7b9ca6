/** Rivals by bands of price: how much is sold where, and how hard it is to be seen there (evidence, section 5). */
import { minorDigits } from '../money/money.ts';
import { countedRows, revenueOf } from './rivals.ts';
import { median, percentile } from './statistics.ts';
import type { Rival } from './schema.ts';

export type PriceBand = {
  /** From this price on; null: from nothing. */
  readonly from: number | null;
  /** Under this price; null: without end. */
  readonly to: number | null;
  readonly rows: number;
  /** Of the rows whose units are known; null where none are. */
  readonly revenue: number | null;
  readonly medianReviews: number | null;
  readonly mine: boolean;
};
const MOST_BANDS = 8;
/** Quarters of a step's leading digit: 1, 2, 2.5, 5. */
const LEADS = [4, 8, 10, 20];

/** The smallest step of 1, 2, 2.5, 5 times a power of ten, in whole minor units, that needs at most eight bands. */
export function bandStep(low: number, high: number): number {
  for (let power = 1; ; power *= 10)
    for (const lead of LEADS) {
      const step = (lead * power) / 4;
      if (!Number.isInteger(step)) continue;
      if (Math.floor(high / step) - Math.floor(low / step) + 1 <= MOST_BANDS) return step;
    }
}

/** Bands from the 5th to the 95th percentile of the counted prices, and what lies beyond them. */
export function priceBands(rows: readonly Rival[], currency: string, mine: number | null): PriceBand[] {
  const counted = countedRows(rows);
  const own = rows.filter((r, i) => counted[i] === true && r.price !== null);
  const prices = own.map((r) => r.price as number);
  if (prices.length === 0) return [];
  const power = 10 ** minorDigits(currency);
  const minor = (p: number): number => Math.round(p * power * 1e6) / 1e6;
  const low = minor(percentile(prices, 0.05) as number);
  const high = minor(percentile(prices, 0.95) as number);
  const step = bandStep(low, high);
  const [first, last] = [Math.floor(low / step), Math.floor(high / step)];
  const edges = Array.from({ length: last - first + 2 }, (_, i) => (first + i) * step);
  const limits: [number | null, number | null][] = [
    [null, edges[0] as number],
    ...edges.slice(1).map((to, i): [number, number] => [edges[i] as number, to]),
    [edges[edges.length - 1] as number, null],
  ];
  return limits.flatMap(([from, to]) => {
    const within = (p: number | null): boolean =>
      p !== null && (from === null || minor(p) >= from) && (to === null || minor(p) < to);
    const band = own.filter((r) => within(r.price));
    const open = from === null || to === null;
    if (open && band.length === 0 && !within(mine)) return [];
    const revenue = band.flatMap((r) => revenueOf(r) ?? []);
    return [
      {
        from: from === null ? null : from / power,
        to: to === null ? null : to / power,
        rows: band.length,
        revenue: revenue.length === 0 ? null : revenue.reduce((a, b) => a + b, 0),
        medianReviews: median(band.flatMap((r) => r.reviews ?? [])),
        mine: within(mine),
      },
    ];
  });
}
