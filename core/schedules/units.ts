/** Units of weight, length, volume and money in the words of fee tables, and what they are in ours (kg, cm, m3). */

type Unit = { readonly words: readonly string[]; readonly factor: number };

/** kg in one of each. */
const WEIGHTS: readonly Unit[] = [
  {
    factor: 1,
    words: [
      'kgs',
      'kg',
      'kilogramm',
      'kilograms?',
      'kilogrammes?',
      'kilogramos?',
      'chilogrammi',
      'kilos?',
      'キログラム',
      'キロ',
      '公斤',
    ],
  },
  {
    factor: 0.001,
    words: ['gr', 'g', 'gramm', 'grams?', 'grammes?', 'gramos?', 'grammi', 'gramów', 'グラム'],
  },
  { factor: 0.45359237, words: ['lbs', 'lb', 'pounds?', 'libras?', 'libbre', 'livres?', 'funtów', 'ポンド'] },
  {
    factor: 0.028349523125,
    words: ['oz', 'ounces?', 'onces?', 'onzas?', 'once', 'unzen?', 'uncji', 'オンス'],
  },
];
/** cm in one of each. */
const LENGTHS: readonly Unit[] = [
  { factor: 0.1, words: ['mm', 'millimetres?', 'millimeters?', 'ミリ'] },
  {
    factor: 1,
    words: [
      'cm',
      'centimetres?',
      'centimeters?',
      'zentimeter',
      'centimètres?',
      'centímetros?',
      'centimetri',
      'センチ',
    ],
  },
  { factor: 100, words: ['metres?', 'meters?', 'mètres?', 'metros?', 'metri', 'm'] },
  {
    factor: 2.54,
    words: ['inches', 'inch', 'in', 'zoll', 'pouces?', 'pulgadas?', 'pollici', 'cali', 'インチ', '["″”]'],
  },
  { factor: 30.48, words: ['ft', 'feet', 'foot'] },
];
/** m3 in one of each. */
const VOLUMES: readonly Unit[] = [
  {
    factor: 1,
    words: [
      'm3',
      'm³',
      'cbm',
      'cubic met(?:er|re)s?',
      'kubikmeter',
      'mètres? cubes?',
      'metros? cúbicos?',
      'metr[oi] cub[oi]',
      'metr[a-zó]* sześcienn[a-z]*',
      '立方メートル',
    ],
  },
  {
    factor: 0.028316846592,
    words: ['ft3', 'ft³', 'cu\\.? ?ft', 'cubic f(?:oo|ee)t', 'kubikfuß', 'pieds? cubes?', 'pies? cúbicos?'],
  },
  { factor: 0.000001, words: ['cm3', 'cm³', 'cubic centimet(?:er|re)s?'] },
  { factor: 0.001, words: ['dm3', 'dm³', 'litres?', 'liters?', 'liter', 'litros?', 'litri', 'litrów'] },
];

/** Japanese goes on without a blank behind a unit. */
const END = '(?![A-Za-zÀ-ž\\d])';
const patternOf = (units: readonly Unit[]): string => units.flatMap((u) => u.words).join('|');
const found = (units: readonly Unit[], word: string): number | null =>
  units.find((u) => u.words.some((w) => new RegExp(`^(?:${w})$`, 'iu').test(word)))?.factor ?? null;

export const WEIGHT_UNIT = `(?:${patternOf(WEIGHTS)})${END}`;
export const LENGTH_UNIT = `(?:${patternOf(LENGTHS)})(?![A-Za-zÀ-ž\\d²³])`;
export const VOLUME_UNIT = `(?:${patternOf(VOLUMES)})(?![A-Za-zÀ-ž\\d])`;
const cache = new Map<string, number | null>();
const cached = (units: readonly Unit[], name: string, word: string): number | null => {
  const key = `${name} ${word}`;
  let factor = cache.get(key);
  if (factor === undefined) {
    factor = found(units, word);
    if (cache.size < 2000) cache.set(key, factor);
  }
  return factor;
};
/** kg in one unit of weight so named; null where it is none. */
export const kgIn = (word: string): number | null => cached(WEIGHTS, 'kg', word.trim());
/** cm in one unit of length so named. */
export const cmIn = (word: string): number | null => cached(LENGTHS, 'cm', word.trim());

/** Behind no number "GR" is a country. */
const unitIn = (text: string, units: readonly Unit[], before: string): number | null => {
  const at = new RegExp(`(?:^|[\\s(/,\\d${before}])(${patternOf(units)})(?![A-Za-zÀ-ž\\d²³])`, 'iu').exec(
    text.replace(/(?<!\d\s?)\bGR\b/gu, ' '),
  );
  return at === null ? null : found(units, at[1] as string);
};
/** The unit that a heading or a sentence names, as a factor into ours; null where it names none. */
export const weightUnitIn = (text: string): number | null => unitIn(text, WEIGHTS, '');
/** "in" is inches behind a number or at the end of a heading; anywhere else it is a word. */
export const lengthUnitIn = (text: string): number | null =>
  unitIn(text.replace(/(?<![\d"”½¼¾(,/]\s?)\bin\b(?!\s*\)|\s*$)/giu, ' '), LENGTHS, '');
export const volumeUnitIn = (text: string): number | null => unitIn(text, VOLUMES, '');

const SIGNS: Readonly<Record<string, string>> = {
  '€': 'EUR',
  '£': 'GBP',
  zł: 'PLN',
  '₹': 'INR',
  '₺': 'TRY',
  Kč: 'CZK',
  Ft: 'HUF',
};
/** Signs that several currencies share: the card's own counts where it is one of them. */
const SHARED: Readonly<Record<string, readonly string[]>> = {
  $: ['USD', 'AUD', 'CAD', 'NZD', 'SGD', 'HKD', 'MXN', 'BRL'],
  '¥': ['JPY', 'CNY'],
  '￥': ['JPY', 'CNY'],
  円: ['JPY'],
  kr: ['SEK', 'NOK', 'DKK', 'ISK'],
};
export const MONEY_SIGN = '(?:€|£|\\$|¥|￥|円|₹|₺|zł|Kč|kr|Ft)';

/**
 * The currency that a text names by sign or code; a shared sign is the card's currency where that is one of
 * them, else the first. Null where it names none.
 */
export function currencyIn(text: string, own: string, isCurrency: (code: string) => boolean): string | null {
  const sign = new RegExp(MONEY_SIGN, 'u').exec(text)?.[0];
  for (const [code] of text.matchAll(/(?<![A-Za-z])[A-Z]{3}(?![A-Za-z])/g)) if (isCurrency(code)) return code;
  if (sign === undefined) return null;
  if (SIGNS[sign] !== undefined) return SIGNS[sign] as string;
  const shared = SHARED[sign] ?? [];
  return shared.includes(own) ? own : (shared[0] ?? null);
}

const IN3_PER_LB = 16.387064 / 0.45359237;

/** cm3 a kg, of a divisor in cm3 a kg or in3 a lb: those of pounds are below 1,000. */
export const divisorOf = (n: number, imperial: boolean): number =>
  imperial && n < 1000 ? n * IN3_PER_LB : n;
