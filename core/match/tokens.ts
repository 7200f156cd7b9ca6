/** A title as the words that tell goods apart: folded, without noise, measures in one unit each. */

/** Words that say nothing of the goods; what a workspace begins with, and edits. */
export const NOISE: readonly string[] = [
  ...[
    'new',
    'original',
    'top',
    'sale',
    'offer',
    'special',
    'quality',
    'premium',
    'best',
    'free',
    'shipping',
    'delivery',
  ],
  ...['the', 'a', 'an', 'and', 'or', 'for', 'with', 'of', 'in', 'by', 'to', 'from', 'your'],
  ...[
    'neu',
    'angebot',
    'und',
    'oder',
    'mit',
    'fur',
    'der',
    'die',
    'das',
    'aus',
    'im',
    'von',
    'versand',
    'gratis',
  ],
  ...['nouveau', 'et', 'ou', 'avec', 'pour', 'le', 'la', 'les', 'de', 'du', 'des', 'en', 'livraison'],
  ...['nuevo', 'y', 'con', 'para', 'el', 'los', 'las', 'envio', 'nuovo', 'e', 'per', 'il', 'spedizione'],
  ...['pcs', 'pc', 'piece', 'pieces', 'pack', 'set', 'stuck', 'stk', 'er', 'lot'],
];

/** Small letters without marks: `Größe` is `grosse`. */
export const fold = (text: string): string =>
  text
    .toLowerCase()
    .replaceAll('ß', 'ss')
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '');

type Dimension = 'volume' | 'weight' | 'length' | 'power' | 'size';
/** Units with their dimension and what one of them is in the least of it. */
const UNITS: Readonly<Record<string, readonly [Dimension, number]>> = {
  ml: ['volume', 1],
  cl: ['volume', 10],
  dl: ['volume', 100],
  l: ['volume', 1000],
  ltr: ['volume', 1000],
  liter: ['volume', 1000],
  litre: ['volume', 1000],
  g: ['weight', 1],
  gr: ['weight', 1],
  kg: ['weight', 1000],
  mm: ['length', 1],
  cm: ['length', 10],
  m: ['length', 1000],
  w: ['power', 1],
  kw: ['power', 1000],
};
const SIZES: ReadonlySet<string> = new Set(['xs', 's', 'm', 'l', 'xl', 'xxl', 'xxxl']);

export type Tokens = {
  /** Each word once. */
  readonly words: readonly string[];
  /** Measures by dimension, each as a number in the least unit, rising. */
  readonly measures: ReadonlyMap<Dimension, readonly string[]>;
  /** Words of letters and digits together, such as models and article numbers have. */
  readonly models: readonly string[];
};

const MEASURE = /(\d+(?:[.,]\d+)?)\s?(ml|cl|dl|ltr|liter|litre|l|kg|gr|g|mm|cm|m|kw|w)\b/g;
const MODEL = /^(?=.*\d)(?=.*[a-z])[a-z\d]{4,20}$/;
/** Titles are read no further. */
const LONGEST = 400;

/** Takes a title apart. Where every word is noise, the words stay: a title of them is still a title. */
export function tokensOf(title: string, noise: ReadonlySet<string>): Tokens {
  const measures = new Map<Dimension, string[]>();
  // A decimal point stays between digits; hyphens within a model hold it together.
  const text = fold(title.slice(0, LONGEST)).replace(/(?<=[a-z\d])-(?=[a-z]*\d)/g, '');
  const rest = text.replace(MEASURE, (whole, digits: string, unit: string) => {
    const known = UNITS[unit];
    if (known === undefined) return whole;
    const [dimension, times] = known;
    const value = String(Math.round(Number(digits.replace(',', '.')) * times * 1000) / 1000);
    const of = measures.get(dimension) ?? [];
    if (!of.includes(value)) measures.set(dimension, [...of, value].sort());
    return ' ';
  });
  const all = [...new Set(rest.split(/[^\p{L}\p{N}]+/u).filter((w) => w !== ''))];
  const sizes = all.filter((w) => SIZES.has(w));
  if (sizes.length > 0) measures.set('size', sizes.sort());
  const plain = all.filter((w) => !SIZES.has(w));
  const told = plain.filter((w) => !noise.has(w));
  const words = told.length > 0 ? told : plain;
  return { words, measures, models: words.filter((w) => MODEL.test(w)) };
}

/** Whether two titles give one dimension in different measures: then they are different goods, however alike. */
export function contradict(a: Tokens['measures'], b: Tokens['measures']): boolean {
  for (const [dimension, values] of a) {
    const others = b.get(dimension);
    if (others !== undefined && !values.some((v) => others.includes(v))) return true;
  }
  return false;
}
