/**
 * Made-up suppliers' lists, drawn from a seed: goods for gardens and window sills, barcodes from GS1's
 * demonstration prefix 952. Rule of the figures: a purchase price between 0.60 and 38, most of them low; a
 * shelf price of 1.15 to 3.4 times that, ending in .99; sizes and weights that go with each other; units a
 * month falling with the price. One row in eight has no market figures.
 */
import { checkDigit } from '../core/goods/gtin.ts';
import { starterCards } from './starterCards.ts';
import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** A seeded source of what a row draws. */
class Draw {
  private readonly rng;
  constructor(seed: number) {
    this.rng = xoroshiro128plus(seed);
  }
  int(from: number, to: number): number {
    return uniformInt(this.rng, from, to);
  }
  /** From 0 up to, not including, 1. */
  next(): number {
    return this.int(0, 999_999_999) / 1e9;
  }
  chance(p: number): boolean {
    return this.next() < p;
  }
  pick<T>(list: readonly T[]): T {
    return list[this.int(0, list.length - 1)] as T;
  }
}

const THINGS = [
  'Plant pot',
  'Seed tray',
  'Bird feeder',
  'Jute twine',
  'Watering rose',
  'Trellis clip',
  'Herb label',
  'Moss pole',
  'Cork mat',
  'Bee hotel',
  'Slug collar',
  'Frost fleece',
  'Hose guide',
  'Cold frame hinge',
  'Butterfly dish',
  'Hedgehog bowl',
  'Compost liner',
  'Root riddle',
  'Leaf scoop',
  'Window box',
] as const;
const KINDS = [
  'terracotta',
  'glazed',
  'larch',
  'coir',
  'galvanised',
  'willow',
  'slate',
  'recycled',
  'enamel',
  'felt',
  'bamboo',
  'brass',
] as const;
const BRANDS = [
  'Larkmoor',
  'Tiefgrün',
  'Oldenbeet',
  'Pentlow',
  'Saatwerk',
  'Quillfen',
  'Morgenrain',
  'Brackwater',
] as const;
const GROUPS = ['garden', 'wildlife', 'home', 'books'] as const;
const PACKS = ['', '', '', '', 'pack of 3', 'set of 6', '4er-Pack', '12 Stück'] as const;

export type DemoRow = {
  barcode: string;
  title: string;
  brand: string;
  group: string;
  cost: number;
  vat: number;
  length: number;
  width: number;
  height: number;
  kg: number;
  shelf: number | null;
  units: number | null;
  minimum: number;
  stock: number;
};

/** A made-up title; some name a pack. */
function titleOf(d: Draw): string {
  const title = `${d.pick(THINGS)} ${d.pick(KINDS)} ${d.int(2, 98)}`;
  const pack = d.chance(0.15) ? d.pick(PACKS) : '';
  return pack === '' ? title : `${title}, ${pack}`;
}

/** The n-th made-up row, the same at every draw. */
export function demoRow(n: number, seed = 1): DemoRow {
  const d = new Draw(Math.imul(n + 1, 2654435761) ^ seed);
  const body = `952${String((seed * 100_000_000 + n) % 1_000_000_000).padStart(9, '0')}`;
  const cost = Number((0.6 + 37 * d.next() ** 3).toFixed(2));
  const size = 4 + 40 * d.next() ** 1.5;
  const [length, width, height] = [size, size * (0.4 + 0.6 * d.next()), size * (0.15 + 0.6 * d.next())].map(
    (x) => Number(x.toFixed(1)),
  ) as [number, number, number];
  const hasMarket = d.chance(0.875);
  return {
    barcode: body + checkDigit(body),
    title: titleOf(d),
    brand: d.pick(BRANDS),
    group: d.pick(GROUPS),
    cost,
    vat: d.chance(0.9) ? 0.19 : 0.07,
    length,
    width,
    height,
    kg: Number(Math.max(0.03, ((length * width * height) / 5000) * (0.3 + d.next())).toFixed(3)),
    shelf: hasMarket ? Math.max(0.99, Math.floor(cost * (1.15 + 2.25 * d.next())) + 0.99) : null,
    units: hasMarket ? Math.round(2 + (600 / (1 + cost)) * d.next() ** 2) : null,
    minimum: d.pick([1, 1, 6, 12, 24]),
    stock: d.int(0, 4000),
  };
}

export const TIDY_HEADER = [
  'Barcode',
  'Title',
  'Brand',
  'Category',
  'Net price',
  'VAT rate',
  'Length cm',
  'Width cm',
  'Height cm',
  'Weight kg',
  'Shelf price',
  'Monthly units',
  'Minimum order',
  'Stock',
];
/** The mapping of a tidy list. */
export const TIDY_MAP = {
  columns: {
    identifier: 'Barcode',
    title: 'Title',
    brand: 'Brand',
    category: 'Category',
    cost: 'Net price',
    vatRate: 'VAT rate',
    length: 'Length cm',
    width: 'Width cm',
    height: 'Height cm',
    weight: 'Weight kg',
    price: 'Shelf price',
    units: 'Monthly units',
    minimumOrder: 'Minimum order',
    stock: 'Stock',
  },
} as const;

/** What the demo company screens a list with: its first marketplace at home, and its hurdles for wholesale. */
export function demoScreen() {
  const card = (key: string) => starterCards().find((c) => c.key === key)?.data;
  return {
    format: 'bold-margin/screen',
    version: 1,
    country: 'DE',
    currency: 'EUR',
    rates: { marketplace: card('Alderway/DE'), tax: card('DE'), exchange: card('exchange') },
    assumptions: {
      homeCurrency: 'EUR',
      date: '2026-11-24',
      standing: { kind: 'registered' },
      purchase: { currency: 'EUR', vat: 'added', vatRate: 0.19 },
      inbound: { perUnit: 0.2, perKg: 0.15 },
      prep: 0.25,
      returns: { rate: 0.04, resaleShare: 0.5 },
      advertPerSale: 0,
      unitsShare: 0.3,
      category: 'garden',
      hurdles: [
        { figure: 'unitProfit', bound: 'atLeast', level: 2, near: 0.15 },
        { figure: 'roi', bound: 'atLeast', level: 0.25, near: 0.15 },
      ],
    },
  };
}

/** A tidy row: decimal point, one comma-separated line. */
export function tidyLine(r: DemoRow): string {
  return [
    r.barcode,
    `"${r.title.replaceAll('"', '""')}"`,
    r.brand,
    r.group,
    r.cost.toFixed(2),
    r.vat,
    r.length,
    r.width,
    r.height,
    r.kg,
    r.shelf?.toFixed(2) ?? '',
    r.units ?? '',
    r.minimum,
    r.stock,
  ].join(',');
}

/**
 * A messy file: two lines above the header, semicolons, decimal commas, grams, and every tenth row with
 * something wrong with it: barcodes with a wrong digit, without their zeros, in exponent form or missing,
 * prices on request, below nothing or blank, rows twice. Text for Windows-1252.
 */
export function messyFile(rows: number): string {
  const comma = (x: number, digits: number): string => x.toFixed(digits).replace('.', ',');
  const lines = [
    'Preisliste Winter;;;;;;',
    ';;;;;;',
    'Artikelbezeichnung;EAN;Marke;Warengruppe;EK netto;MwSt;Maße (L x B x H);Gewicht (g);UVP;Absatz/Monat;VE',
  ];
  for (let i = 0; i < rows; i++) {
    const r = demoRow(i, 7);
    const d = new Draw(i + 99);
    let code = r.barcode;
    let price = `${comma(r.cost, 2)} €`;
    if (i % 10 === 3) {
      const at = d.int(0, 8);
      if (at === 0) code = code.slice(0, -1) + ((Number(code.slice(-1)) + 1) % 10);
      else if (at === 1) code = '';
      else if (at === 2) code = `${code[0]},${code.slice(1, 6)}E+12`;
      else if (at === 3) code = code.slice(0, 9);
      else if (at === 4) price = 'auf Anfrage';
      else if (at === 5) price = '';
      else if (at === 6) price = '-1,00';
      else if (at === 7) code = demoRow(i - 1, 7).barcode;
      else {
        const upc = `0000${String(i).padStart(7, '0')}`;
        code = String(Number(upc + checkDigit(upc)));
      }
    }
    const pack = d.chance(0.2) ? d.pick(['6', '12', '4er-Pack']) : '';
    lines.push(
      [
        r.title.replaceAll(';', ','),
        code,
        r.brand,
        r.group,
        price,
        `${Math.round(r.vat * 100)} %`,
        `${comma(r.length, 1)} x ${comma(r.width, 1)} x ${comma(r.height, 1)}`,
        String(Math.round(r.kg * 1000)),
        r.shelf === null ? '' : comma(r.shelf, 2),
        r.units ?? '',
        pack,
      ].join(';'),
    );
  }
  return `${lines.join('\r\n')}\r\n`;
}

/**
 * Market figures for goods of the messy list that name none, as somebody keeps them: every other product has
 * two listings, at two prices.
 */
export function marketFigures(rows: number): string {
  const lines = ['Barcode,Title,Shelf price,Monthly units'];
  for (let i = 0; i < rows; i++) {
    const r = demoRow(i, 7);
    if (r.shelf !== null) continue;
    const d = new Draw(i + 501);
    const price = Math.floor(r.cost * (1.3 + 2 * d.next())) + 0.99;
    const units = Math.round(2 + (500 / (1 + r.cost)) * d.next());
    lines.push(`${r.barcode},"${r.title}",${price.toFixed(2)},${units}`);
    if (i % 2 === 0)
      lines.push(
        `${r.barcode},"${r.title}, boxed",${(price + 2).toFixed(2)},${Math.max(1, Math.round(units * 0.6))}`,
      );
  }
  return `${lines.join('\n')}\n`;
}

/** Text in the bytes of Windows-1252; the euro sign is the only one beyond Latin-1 that the messy file has. */
export function windows1252(text: string): Uint8Array {
  return Uint8Array.from(text, (c) => (c === '€' ? 0x80 : c.charCodeAt(0)));
}

/**
 * A workbook as suppliers send them: terms on the first sheet, the goods of two seasons on the others,
 * headings under a title.
 */
export function workbookSheets(rows: number): { name: string; rows: (string | number | null)[][] }[] {
  const season = (
    name: string,
    from: number,
    n: number,
  ): { name: string; rows: (string | number | null)[][] } => ({
    name,
    rows: [
      [`${name} range`],
      [],
      [
        'Article',
        'EAN code',
        'Trade price',
        'Pack size',
        'RRP',
        'Sales a month',
        'Weight g',
        'L cm',
        'W cm',
        'H cm',
        'Group',
        'Maker',
        'Carton',
        'From quantity',
        'Price from quantity',
        'Finish',
        'Page',
      ],
      ...Array.from({ length: n }, (_, i) => {
        const r = demoRow(from + i, 5);
        return [
          r.title,
          r.barcode,
          r.cost,
          i % 9 === 0 ? 6 : 1,
          r.shelf,
          r.units,
          Math.round(r.kg * 1000),
          r.length,
          r.width,
          r.height,
          r.group,
          r.brand,
          [6, 12, 24][i % 3] as number,
          i % 2 === 0 ? 48 : null,
          i % 2 === 0 ? Number((r.cost * 0.92).toFixed(2)) : null,
          KINDS[i % KINDS.length] as string,
          `https://brindle-vale.example/${r.barcode}`,
        ];
      }),
    ],
  });
  return [
    { name: 'Terms', rows: [['Prices in EUR, without VAT, delivered'], ['Carriage paid from 250 EUR']] },
    season('Autumn', 0, rows),
    season('Spring', 50_000, Math.round(rows / 2)),
  ];
}
