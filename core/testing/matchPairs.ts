/** Invented goods of a source with the listing that each really is, or none: what matching is measured on. */
import { checkDigit } from '../goods/gtin.ts';
import type { Goods, Listing } from '../match/match.ts';
import type { Draw } from './draw.ts';

const BRANDS = [
  'Fennwick',
  'Ortolan',
  'Hazelby',
  'Quillmoor',
  'Tarnside',
  'Wrenmere',
  'Brackenhall',
  'Sorrelton',
  '',
  '',
];
const THINGS = [
  'bird bath',
  'nest box',
  'lantern',
  'watering can',
  'door mat',
  'plant stand',
  'rain gauge',
  'hose reel',
  'kneeling pad',
  'seed tray',
  'wind chime',
  'garden fork',
  'storage basket',
  'candle holder',
  'towel rail',
];
const MATERIALS = [
  'oak',
  'cork',
  'copper',
  'zinc',
  'slate',
  'jute',
  'bamboo',
  'willow',
  'stoneware',
  'felt',
  'brass',
  'larch',
];
const COLOURS = ['blue', 'green', 'red', 'grey', 'black', 'white', 'ochre', 'teal'];
const WORDS = [
  'weatherproof',
  'hanging',
  'folding',
  'stackable',
  'handmade',
  'round',
  'square',
  'tall',
  'slim',
  'glazed',
  'braided',
  'ribbed',
];
const CHATTER = ['NEW', 'original', 'top quality', 'special offer', 'free shipping', 'best', 'sale'];
const SIZES = ['0.5 l', '1 l', '2 l', '5 l', '20 cm', '30 cm', '45 cm', '60 cm', '1.2 m'];

/** Goods of which no word is in any listing. */
const STRANGE = { brand: '', words: ['carbon', 'bicycle'], size: '', colour: '', model: '', pack: 1 };

export type Pair = {
  readonly goods: Goods /** Place of the right listing; -1: there is none. */;
  readonly right: number;
};

const keyOf = (n: number): string => {
  const digits = `952${String(n).padStart(9, '0')}`;
  return `${digits}${checkDigit(digits)}`.padStart(14, '0');
};

type Thing = { brand: string; words: string[]; size: string; colour: string; model: string; pack: number };
function thing(d: Draw, i: number): Thing {
  return {
    brand: d.pick(BRANDS),
    words: [
      d.pick(MATERIALS),
      d.pick(THINGS),
      ...(d.chance(0.7) ? [d.pick(WORDS)] : []),
      ...(d.chance(0.3) ? [d.pick(WORDS)] : []),
    ],
    size: d.chance(0.6) ? d.pick(SIZES) : '',
    colour: d.chance(0.5) ? d.pick(COLOURS) : '',
    model: d.chance(0.35)
      ? `${d.pick(['KX', 'RT', 'ZL', 'BM'])}${100 + (i % 900)}${d.pick(['a', 'b', 'c', 'd'])}`
      : '',
    pack: d.chance(0.12) ? d.pick([2, 4, 6]) : 1,
  };
}
const titleOf = (t: Thing): string =>
  [t.brand, ...t.words, t.colour, t.size, t.model, t.pack > 1 ? `pack of ${t.pack}` : '']
    .filter(Boolean)
    .join(' ');

/** Listings of a market, many of them alike but for a colour or a size. */
export function someListings(d: Draw, count: number): { listings: Listing[]; things: Thing[] } {
  const things: Thing[] = [];
  while (things.length < count) {
    const first = thing(d, things.length);
    things.push(first);
    // Variations of the same goods.
    for (let k = d.int(0, 3); k > 0 && things.length < count; k--)
      things.push({
        ...first,
        colour: d.pick(COLOURS),
        size: d.pick(SIZES),
        model: first.model && `${first.model}${k}`,
      });
  }
  const listings = things.map(
    (t, i): Listing => ({
      code: `L${i}`,
      key: d.chance(0.9) ? keyOf(i) : '',
      model: '',
      brand: t.brand,
      title: titleOf(t),
      pack: '',
      units: d.chance(0.9) ? d.int(0, 500) : null,
    }),
  );
  return { listings, things };
}

/** Goods as shops write them: noise, other orders, brands left out, barcodes missing or those of other goods. */
export function somePairs(d: Draw, count: number, things: readonly Thing[]): Pair[] {
  return Array.from({ length: count }, (_, n) => {
    const isThere = d.chance(0.85);
    const right = isThere ? d.int(0, things.length - 1) : -1;
    const t = isThere ? (things[right] as Thing) : d.chance(0.05) ? STRANGE : thing(d, 100_000 + n);
    const words = t.words.filter(() => d.chance(0.94));
    const parts = [
      d.chance(0.75) ? t.brand : '',
      ...(d.chance(0.4) ? [...words].reverse() : words),
      d.chance(0.9) ? t.colour : '',
      d.chance(0.9) ? (d.chance(0.3) ? t.size.replace(' ', '') : t.size) : '',
      d.chance(0.5) ? t.model.toUpperCase() : '',
      d.chance(0.4) ? d.pick(CHATTER) : '',
      t.pack > 1 ? `${t.pack} pcs` : '',
    ];
    const wrong = d.chance(0.03);
    const has = d.chance(0.4);
    return {
      right,
      goods: {
        key: !has
          ? ''
          : wrong
            ? keyOf(d.int(0, things.length - 1))
            : isThere
              ? keyOf(right)
              : keyOf(500_000 + n),
        model: d.chance(0.3) ? t.model : '',
        brand: d.chance(0.6) ? t.brand : '',
        title: parts.filter(Boolean).join(' ') || t.words.join(' '),
        pack: '',
      },
    };
  });
}
