/**
 * A daily series as it is stored: the first day, and each figure as a text of the days one after another. A blank
 * day stands as `.` (not observed) or `-` (nobody offered), so that two years of a listing take some 12 kB.
 */
import { z } from 'zod';
import { dayAfter, dayNumber } from '../money/days.ts';
import { currency, day } from '../money/schema.ts';
import { byDay } from './history.ts';
import type { DayRow } from './schema.ts';

const NOT_OBSERVED = '.';
const NOBODY = '-';
/** Some 55 years: no series of days is longer. */
const MOST_DAYS = 20_000;
/** Decimals that are kept of a price: more than any currency has. */
const DECIMALS = 4;

export const daySeries = z.strictObject({
  currency,
  from: day,
  prices: z.string().max(400_000),
  ranks: z.string().max(400_000).default(''),
  offers: z.string().max(200_000).default(''),
  /** Of each day `1` the own shop offered, `0` it did not, `.` not known. */
  ownShop: z.string().max(MOST_DAYS).default(''),
  /** Of each day `1` with a known promotion, else `0`. */
  promotion: z.string().max(MOST_DAYS).default(''),
});
export type DaySeries = z.output<typeof daySeries>;

const short = (x: number): string => String(Number.isInteger(x) ? x : Number(x.toFixed(DECIMALS)));
/**
 * Rows of days as a series; null of none. Of two rows of one day the later stands.
 * @throws RangeError where the days lie further apart than a series may be long
 */
export function packDays(rows: readonly DayRow[], ofCurrency: string): DaySeries | null {
  const days = byDay(rows);
  const [first, last] = [days[0], days.at(-1)];
  if (first === undefined || last === undefined) return null;
  const from = dayNumber(first.day);
  const length = dayNumber(last.day) - from + 1;
  if (length > MOST_DAYS) throw new RangeError(`${length} days`);
  const known: (DayRow | null)[] = Array.from({ length }, () => null);
  for (const row of days) known[dayNumber(row.day) - from] = row;
  const numbers = (of: (row: DayRow) => number | null): string => {
    const cells = known.map((r) => {
      const x = r === null ? null : of(r);
      return x === null ? NOT_OBSERVED : short(x);
    });
    return cells.every((c) => c === NOT_OBSERVED) ? '' : cells.join(' ');
  };
  return {
    currency: ofCurrency,
    from: first.day,
    prices: known
      .map((r) => (r === null ? NOT_OBSERVED : r.price === null ? NOBODY : short(r.price)))
      .join(' '),
    ranks: numbers((r) => r.rank),
    offers: numbers((r) => r.offers),
    ownShop: marks(known, (r) => r.ownShop),
    promotion: known.some((r) => r?.promotion) ? marks(known, (r) => r.promotion) : '',
  };
}
function marks(known: readonly (DayRow | null)[], of: (row: DayRow) => boolean | null): string {
  const text = known
    .map((r) => {
      const x = r === null ? null : of(r);
      return x === null ? NOT_OBSERVED : x ? '1' : '0';
    })
    .join('');
  return /^\.*$/.test(text) ? '' : text;
}

/** The days of a series, those not observed left out. */
export function unpackDays(s: DaySeries): DayRow[] {
  const prices = s.prices.split(' ');
  const ranks = s.ranks === '' ? [] : s.ranks.split(' ');
  const offers = s.offers === '' ? [] : s.offers.split(' ');
  const number = (cell: string | undefined): number | null => {
    const x = Number(cell ?? NOT_OBSERVED);
    return cell === undefined || cell === '' || !Number.isFinite(x) || x < 0 ? null : x;
  };
  const rows: DayRow[] = [];
  let at = s.from;
  for (let i = 0; i < prices.length && i < MOST_DAYS; i++) {
    const shop = s.ownShop[i];
    const rank = number(ranks[i]);
    const count = number(offers[i]);
    const seen = prices[i] !== NOT_OBSERVED || rank !== null || count !== null;
    if (seen)
      rows.push({
        day: at,
        price: number(prices[i]),
        rank,
        offers: count,
        ownShop: shop === '1' ? true : shop === '0' ? false : null,
        promotion: s.promotion[i] === '1',
      });
    at = dayAfter(at);
  }
  return rows;
}
