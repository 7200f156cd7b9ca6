import { priceFor } from '../lane/solve.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { exchangeFactor, minorDigits } from '../money/money.ts';

/** How prices end where one sells: 12.99, 12.95, 13, or as they come out. */
export const HABITS = ['99', '95', 'whole', 'none'] as const;
export type Habit = (typeof HABITS)[number];

/**
 * The price nearest to `x` that ends as the habit wants (`up`: the lowest not under it), at least the lowest
 * such price. Currency with two minor digits: the fraction is .99, .95 or .00. Without minor digits (yen):
 * the last two digits are 80 for both endings (such as 2,980), 00 for whole. With three: .990 and .950.
 */
export function priceByHabit(x: number, currency: string, habit: Habit, up = false): number {
  const digits = minorDigits(currency);
  const scale = 10 ** digits;
  if (habit === 'none') return (up ? Math.ceil(x * scale - 1e-7) : Math.round(x * scale)) / scale;
  // In units of `unit` prices end on `ending`.
  const unit = digits === 0 ? 100 : 1;
  const ending = digits === 0 ? (habit === 'whole' ? 0 : 80) : habit === 'whole' ? 0 : Number(`0.${habit}`);
  const n = up ? Math.ceil((x - ending) / unit - 1e-9) : Math.round((x - ending) / unit);
  const least = habit === 'whole' ? unit : ending;
  return Number(Math.max(least, n * unit + ending).toFixed(digits));
}

/**
 * One shelf price, given in `from`, restated in the lane's currency by its own exchange table and ended by
 * habit; null without a rate.
 */
export function sharedPrice(doc: LaneDocument, price: number, from: string, habit: Habit): number | null {
  const x = price * exchangeFactor(doc.rates.exchange, from, doc.currency);
  return Number.isNaN(x) ? null : priceByHabit(x, doc.currency, habit);
}

/**
 * The lowest price ended by habit at which the lane keeps the margin (a fraction of net revenue); null where
 * none does.
 */
export function priceForMargin(doc: LaneDocument, margin: number, habit: Habit): number | null {
  const { price } = priceFor(doc, { figure: 'margin', value: margin });
  if (price === null) return null;
  // A fee may rise just above the exact price; then the next price of the habit is tried.
  let at = priceByHabit(price, doc.currency, habit, true);
  for (let i = 0; i < 40; i++) {
    const meets = priceFor({ ...doc, price: at }, { figure: 'margin', value: margin });
    if (!meets.dips.some((d) => at >= d.from - 1e-9 && (d.to === null || at <= d.to + 1e-9))) return at;
    at = priceByHabit(at + 10 ** -minorDigits(doc.currency), doc.currency, habit, true);
  }
  return null;
}

export type Spread = {
  readonly low: number;
  readonly high: number;
  readonly median: number;
  /** high / low - 1 */
  readonly gap: number;
};

/** How far a price lies from the median, as a share of it; null where either is not known. */
export const offMedian = (price: number | null, spread: Spread | null): number | null =>
  price === null || spread === null ? null : price / spread.median - 1;

/** How far prices in one currency lie apart; null without any. */
export function spreadOf(prices: readonly (number | null)[]): Spread | null {
  const known = prices.filter((p): p is number => p !== null && p > 0).sort((a, b) => a - b);
  const [low, high] = [known[0], known[known.length - 1]];
  if (low === undefined || high === undefined) return null;
  const mid = Math.floor((known.length - 1) / 2);
  const median =
    known.length % 2 === 1
      ? (known[mid] as number)
      : ((known[mid] as number) + (known[mid + 1] as number)) / 2;
  return { low, high, median, gap: high / low - 1 };
}
