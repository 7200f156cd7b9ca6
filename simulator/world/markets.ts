/** The markets of the invented world. Each speaks a language, has a level of prices, and is large or young. */
import type { Language } from './words.ts';

export type Market = {
  readonly market: string;
  readonly marketplace: string;
  readonly country: string;
  readonly currency: string;
  readonly language: Language;
  /** Units of its currency for what costs a euro, and digits of its prices. */
  readonly perEuro: number;
  readonly digits: number;
  readonly listings: number;
  /** How much is sold there beside the largest. */
  readonly size: number;
  /** Days of history that there are. */
  readonly history: number;
};
const COUNTRIES: Readonly<Record<string, readonly [string, Language, number, number]>> = {
  DE: ['EUR', 'de', 1, 2],
  FR: ['EUR', 'fr', 1.02, 2],
  ES: ['EUR', 'es', 0.95, 2],
  IT: ['EUR', 'it', 0.98, 2],
  PL: ['PLN', 'pl', 3.9, 2],
  GB: ['GBP', 'en', 0.86, 2],
  US: ['USD', 'en', 0.92, 2],
  JP: ['JPY', 'ja', 150, 0],
  AE: ['AED', 'ar', 3.6, 2],
};
const PLACES: Readonly<Record<string, readonly string[]>> = {
  Alderway: ['DE', 'FR', 'ES', 'IT', 'PL', 'GB', 'US', 'JP'],
  Nordkai: ['DE', 'FR', 'PL', 'GB'],
  Sundra: ['DE', 'ES', 'IT', 'GB', 'AE'],
  Copperlane: ['DE', 'US', 'JP', 'AE'],
};
/** Large markets have this many listings; young ones fewer, and a thin history. */
export const LARGE = 40_000;
const YOUNG = new Set(['Alderway/PL', 'Sundra/AE', 'Copperlane/AE', 'Nordkai/PL']);
const SIZES: Readonly<Record<string, number>> = {
  DE: 1,
  US: 1.8,
  GB: 0.9,
  FR: 0.7,
  IT: 0.5,
  ES: 0.5,
  JP: 0.8,
  PL: 0.25,
  AE: 0.2,
};

export const MARKETS: readonly Market[] = Object.entries(PLACES).flatMap(([marketplace, countries]) =>
  countries.map((country): Market => {
    const [currency, language, perEuro, digits] = COUNTRIES[country] as (typeof COUNTRIES)[string];
    const market = `${marketplace}/${country}`;
    const young = YOUNG.has(market);
    const main = marketplace === 'Alderway';
    return {
      market,
      marketplace,
      country,
      currency,
      language,
      perEuro,
      digits,
      listings: young ? 9000 : main ? 48_000 : LARGE,
      size: (SIZES[country] as number) * (main ? 1 : 0.4),
      history: young ? 150 : 760,
    };
  }),
);
export const marketNamed = (market: string): Market | undefined => MARKETS.find((m) => m.market === market);
export const marketNumber = (m: Market): number => MARKETS.indexOf(m);
