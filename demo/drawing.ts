/** What all starter cards are drawn with: the random source, the example rates, rounding to marketable amounts. */
import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';
import type { CardData, CardKind } from '../core/cards/schema.ts';
import { minorDigits, powerOfTen } from '../core/money/money.ts';
import { roundMinor } from '../core/rules/numbers.ts';
import type { ExchangeTable } from '../core/money/money.ts';

/** Example exchange rates per euro: round figures, not those of any day. */
export const EXAMPLE_RATES: ExchangeTable & { source: string } = {
  date: '2026-11-20',
  base: 'EUR',
  source: 'Example rates, round figures',
  rates: { USD: 1.1, GBP: 0.86, PLN: 4.3, JPY: 162, AED: 4.04, CNY: 7.9, INR: 96, TRY: 46 },
};

export type StarterCard = { kind: CardKind; key: string; name: string; inForceFrom: string; data: CardData };

export type Draw = (low: number, high: number, step: number) => number;

/** A draw from `low` to `high` on a grid of `step`, all values equally likely. */
export function drawer(seed: number): Draw {
  const rng = xoroshiro128plus(seed);
  return (low, high, step) =>
    Number((low + step * uniformInt(rng, 0, Math.round((high - low) / step))).toFixed(6));
}

export const money = (euros: number, currency: string): number => {
  const x = euros * (currency === 'EUR' ? 1 : (EXAMPLE_RATES.rates[currency] as number));
  return roundMinor(x, powerOfTen(minorDigits(currency)));
};
