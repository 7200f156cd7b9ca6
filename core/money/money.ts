import { isKnown } from '../rules/numbers.ts';
import { daysBetween } from './days.ts';
/**
 * Numbers and money. Amounts are plain numbers in major units (12.90 = twelve euros ninety); the currency is
 * known from the type that holds them. Inside the core an unknown amount is NaN, which spreads through sums
 * by itself; at the edge of the core (`toResult`) it becomes `null` with a reason, so no NaN ever leaves it.
 */

/** Largest amount the core accepts, in major units; keeps every product of inputs far from Infinity. */
export const MAX_AMOUNT = 1e12;
/** The least that a measure above 0 may be; keeps quotients finite. */
export const LEAST_MEASURE = 1e-9;

/** Minor digits of the currencies that do not have two (ISO 4217). */
const MINOR_DIGITS: ReadonlyMap<string, number> = new Map([
  ...['BIF', 'CLP', 'DJF', 'GNF', 'ISK', 'JPY', 'KMF', 'KRW', 'PYG'].map((c) => [c, 0] as const),
  ...['RWF', 'UGX', 'UYI', 'VND', 'VUV', 'XAF', 'XOF', 'XPF'].map((c) => [c, 0] as const),
  ...['BHD', 'IQD', 'JOD', 'KWD', 'LYD', 'OMR', 'TND'].map((c) => [c, 3] as const),
]);

/** Decimal places of a currency's minor unit: 2 for EUR, 0 for JPY, 3 for KWD. */
export function minorDigits(currency: string): number {
  return MINOR_DIGITS.get(currency) ?? 2;
}

const POWERS = [1, 10, 100, 1000];

/** 10 ** digits for the digits a currency may have. */
export function powerOfTen(digits: number): number {
  return POWERS[digits] ?? 10 ** digits;
}

/** Units of each currency per base unit, as published on one date. */
export type ExchangeTable = {
  readonly date: string;
  readonly base: string;
  readonly rates: Readonly<Record<string, number>>;
};

/** Factor that turns an amount in `from` into `to`: `rate[to] / rate[from]`; NaN where the table lacks either. */
export function exchangeFactor(table: ExchangeTable | null, from: string, to: string): number {
  if (from === to) return 1;
  if (table === null) return Number.NaN;
  const a = from === table.base ? 1 : table.rates[from];
  const b = to === table.base ? 1 : table.rates[to];
  return a === undefined || b === undefined ? Number.NaN : b / a;
}

/** A rate an amount was converted at: `factor` of `to` for one of `from`, as published on `date`. */
export type Conversion = {
  readonly from: string;
  readonly to: string;
  readonly factor: number;
  readonly date: string;
};

/**
 * The rates at which amounts of these lanes are turned into `to`, each once, with its age in days on the
 * lane's own day.
 */
export function conversionsOf(
  lanes: readonly {
    readonly currency: string;
    readonly date: string;
    readonly rates: { readonly exchange: ExchangeTable | null };
  }[],
  to: string,
): (Conversion & { days: number })[] {
  const used = new Map<string, Conversion & { days: number }>();
  for (const {
    currency: from,
    date,
    rates: { exchange },
  } of lanes) {
    if (from === to || exchange === null) continue;
    const factor = exchangeFactor(exchange, from, to);
    if (isKnown(factor))
      used.set(`${from}${exchange.date}`, {
        from,
        to,
        factor,
        date: exchange.date,
        days: Math.max(0, daysBetween(exchange.date, date)),
      });
  }
  return [...used.values()];
}

/**
 * Rounds amounts to the currency's minor unit so that they add up to `shownTotal`, or else to their own
 * rounded total (largest remainder). Nulls stay out.
 */
export function roundToTotal(
  values: readonly (number | null)[],
  digits: number,
  shownTotal: number | null = null,
): (number | null)[] {
  const power = 10 ** digits;
  const total = Math.round((shownTotal ?? values.reduce<number>((s, v) => s + (v ?? 0), 0)) * power);
  const floors = values.map((v) => (v === null ? null : Math.floor(v * power + 1e-9)));
  let left = total - floors.reduce<number>((s, v) => s + (v ?? 0), 0);
  const byRemainder = values
    .map((v, i) => ({ i, rest: v === null ? -1 : v * power - (floors[i] ?? 0) }))
    .filter((x) => x.rest >= 0 || values[x.i] !== null)
    .sort((a, b) => b.rest - a.rest);
  const out = [...floors];
  for (const { i } of byRemainder) {
    if (left <= 0) break;
    out[i] = (out[i] ?? 0) + 1;
    left--;
  }
  // A total that was itself rounded down may lie under the sum of the floors.
  for (const { i } of [...byRemainder].reverse()) {
    if (left >= 0) break;
    out[i] = (out[i] ?? 0) - 1;
    left++;
  }
  return out.map((v) => (v === null ? null : v / power));
}
