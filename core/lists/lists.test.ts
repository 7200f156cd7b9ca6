import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeColumns } from '../columns/columns.ts';
import { checkDigit } from '../goods/gtin.ts';
import { amountOf, decimalOf, UNREADABLE } from './amounts.ts';
import { LastEdition } from './editions.ts';
import { sayFault } from '../../words/index.ts';
import { guessMap, listMap, mapIssues } from './map.ts';
import { FILLED, Reference } from './reference.ts';
import { KeyIndex, RowReader, faultOfRow } from './rows.ts';

const code = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + checkDigit(body);
};

describe('figures as files write them', () => {
  it('plain numbers are read to the last bit, with point and with comma', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 999_999_999 }), fc.integer({ min: 0, max: 4 }), (n, decimals) => {
        const text = (n / 10 ** decimals).toFixed(decimals);
        expect(amountOf(text, false)).toBe(Number(text));
        expect(amountOf(text.replace('.', ','), true)).toBe(Number(text));
      }),
    );
  });
  it.each([
    ['1,234.50', false, 1234.5],
    ['1.234,50', true, 1234.5],
    ['1 234,50', true, 1234.5],
    ['€12.90', false, 12.9],
    ['12,90 EUR', true, 12.9],
    ['19 %', false, 19],
    ['-4.5', false, -4.5],
    ['.5', false, 0.5],
    ['4.1E+3', false, 4100],
    ['zł 12,00', true, 12],
    ['CHF 12.00', false, 12],
  ])('%s', (text, comma, x) => expect(amountOf(text, comma)).toBe(x));
  it.each([
    'abc',
    '12.34.56',
    '1,23,456.0',
    '12 pcs.',
    '2026-11-24',
    '1e999',
    '12..5',
    '--5',
    '12a',
    'NaN',
    'Infinity',
    '١٢',
  ])('%s is no number', (text) => expect(amountOf(text, false)).toBe(UNREADABLE));
  it('blank is unknown, not 0', () =>
    expect([amountOf('', false), amountOf('  ', true), amountOf('-', true)].every(Number.isNaN)).toBe(true));
  it('how a file writes its decimals is seen from its figures', () => {
    expect(
      decimalOf([
        ['12,90', '1.200,00'],
        ['3,5', 'Text, with comma'],
      ]),
    ).toBe('comma');
    expect(
      decimalOf([
        ['12.90', '1,200.00'],
        ['3.5', '1,234'],
      ]),
    ).toBe('point');
    expect(decimalOf([['12', '13']])).toBe('point');
  });
});

describe('a mapping', () => {
  it('is guessed from headings in several languages and from what stands in the columns', () => {
    const german = guessMap(
      ['Artikel', 'EAN', 'EK-Preis', 'Warengruppe', 'Gewicht (g)', 'UVP'],
      [['Topf', code(1), '4,50', 'Garten', '850', '12,90']],
    );
    expect(german).toMatchObject({
      decimal: 'comma',
      weightUnit: 'g',
      columns: {
        title: 'Artikel',
        identifier: 'EAN',
        cost: 'EK-Preis',
        category: 'Warengruppe',
        weight: 'Gewicht (g)',
        price: 'UVP',
      },
    });
    const odd = guessMap(
      ['Ref', 'Libellé', "Prix d'achat", 'Nr'],
      [
        ['A1', 'Pot', '4.50', code(2)],
        ['A2', 'Bac', '5.10', code(3)],
      ],
    );
    expect(odd.columns).toMatchObject({ identifier: 'Nr', title: 'Libellé', cost: "Prix d'achat" });
    // The supplier's own number of an article goes along as it is.
    expect(odd.extras).toEqual(['Ref']);
    expect(
      guessMap(['Art.-Nr.', 'EAN', 'Netto', 'Farbe'], [['A-7', code(1), '4,50', 'blau']]).extras,
    ).toEqual(['Art.-Nr.']);
    expect(guessMap(['Price list'], [['for gardeners']]).columns.cost).toBeUndefined();
  });
  it('says what is missing, chosen twice or not in the file', () => {
    expect(mapIssues(listMap.parse({ columns: { title: 'Name' } }), ['Name']).map(sayFault)).toEqual([
      { problem: 'No column is the barcode', remedy: 'Choose the column that holds it.' },
      { problem: 'No column is the purchase price', remedy: 'Choose the column that holds it.' },
    ]);
    expect(
      mapIssues(listMap.parse({ columns: { identifier: 'EAN', cost: 'EAN', brand: 'Maker' } }), [
        'EAN',
        'Price',
      ]).map((i) => sayFault(i).problem),
    ).toEqual(['The file has no column "Maker" (brand)', 'The column "EAN" is chosen for two things']);
  });
});

describe('rows of a file', () => {
  const header = ['ean', 'name', 'price', 'vat', 'size', 'weight', 'shelf', 'pack', 'moq'];
  const map = listMap.parse({
    columns: {
      identifier: 'ean',
      title: 'name',
      cost: 'price',
      vatRate: 'vat',
      size: 'size',
      weight: 'weight',
      price: 'shelf',
      packSize: 'pack',
      minimumOrder: 'moq',
    },
    weightUnit: 'g',
    lengthUnit: 'mm',
  });
  const read = (rows: string[][]) => {
    const reader = new RowReader(map, header);
    const columns = makeColumns(rows.length);
    return { columns, all: rows.map((r, i) => reader.read(r, i + 2, columns, i, () => -1)) };
  };
  it('a good row fills its place, in centimetres, kilograms and fractions', () => {
    const { columns, all } = read([
      [code(1), 'Saucers, set of 3', '4.50', '19', '200 x 150 x 80 mm', '850', '12.90', '', '24'],
    ]);
    expect(all[0]).toMatchObject({ troubles: [], code: code(1), repaired: false, pack: 3 });
    expect([
      columns.cost[0],
      columns.a[0],
      columns.b[0],
      columns.c[0],
      columns.kg[0],
      columns.price[0],
      columns.vatRate[0],
      columns.minimumOrder[0],
    ]).toEqual([4.5, 20, 15, 8, 0.85, 12.9, 0.19, 24]);
    expect(columns.units[0]).toBeNaN();
  });
  it('each trouble is named with value and remedy; a row may have two', () => {
    const bad = code(7).slice(0, -1) + ((Number(code(7).slice(-1)) + 1) % 10);
    const rows = [
      ['', 'a', '4'],
      [bad, 'b', '4'],
      ['12345', 'c', '4'],
      ['4.00638E+12', 'd', '4'],
      [code(2), 'e', ''],
      [code(3), 'f', 'on request'],
      [code(4), 'g', '-2'],
      [code(5), 'h', '1e308'],
      ['', 'i', ''],
    ];
    const { all } = read(rows);
    expect(
      all.map((r) => r.troubles.map((t) => (t.what === 'duplicate' ? t.what : `${t.what}: ${t.why}`))),
    ).toEqual([
      ['barcode: missing'],
      ['barcode: wrongCheckDigit'],
      ['barcode: wrongLength'],
      ['barcode: digitsLost'],
      ['cost: missing'],
      ['cost: text'],
      ['cost: negative'],
      ['cost: absurd'],
      ['barcode: missing', 'cost: missing'],
    ]);
    for (const r of all)
      for (const t of r.troubles)
        for (const s of Object.values(sayFault(faultOfRow(t)))) expect(s.length).toBeGreaterThan(10);
  });
  it(
    'the second of two rows of one product is the one refused, and names the first, however the code ' +
      'is written',
    () => {
      const upc = `0${'1234567890'}`;
      const full = upc + checkDigit(upc);
      const { all } = read([
        [code(1), 'a', '4'],
        [full, 'b', '5'],
        [`0${full}`, 'c', '6'],
        [code(1), 'd', 'text'],
        [code(1), 'e', '7'],
      ]);
      expect(all.map((r) => r.troubles.map((t) => t.what))).toEqual([
        [],
        [],
        ['duplicate'],
        ['cost'],
        ['duplicate'],
      ]);
      expect(all[2]?.troubles[0]).toMatchObject({ first: 3 });
      expect(all[4]?.troubles[0]).toMatchObject({ first: 2 });
    },
  );
  it('ragged rows, right-to-left and emoji titles, and NUL bytes do no harm', () => {
    const { all } = read([
      [code(1)],
      [code(2), 'עציץ 🌱\u0000', '3'],
      [],
      [code(3), 'x', '3', '', '', '', '', '', '', 'more', 'than', 'enough'],
    ]);
    expect(all.map((r) => r.troubles.length)).toEqual([1, 0, 2, 0]);
  });
  it('a hundred thousand barcodes are told apart', () => {
    const seen = new KeyIndex();
    for (let i = 1; i <= 100_000; i++) expect(seen.note(code(i).padStart(14, '0'), i)).toBe(0);
    for (let i = 1; i <= 100_000; i += 997) expect(seen.note(code(i).padStart(14, '0'), 5)).toBe(i);
  });
});

describe('market figures joined by barcode', () => {
  const key = (n: number): string => code(n).padStart(14, '0');
  const reference = (rows: [key: string, price: number, units: number, kg: number][]): Reference => {
    const r = new Reference();
    const columns = makeColumns(rows.length);
    rows.forEach(([k, price, units, kg], i) => {
      columns.price[i] = price;
      columns.units[i] = units;
      columns.kg[i] = kg;
      r.add(k, i + 2, columns, i, i + 1);
    });
    return r;
  };
  const known = Number.NaN;
  it('fill what the list lacks, and leave what it says', () => {
    const r = reference([[key(1), 19.9, 40, 0.5]]);
    const list = makeColumns(2);
    list.price[0] = 25;
    expect(r.complete(key(1), list, 0, 'first')).toEqual({
      filled: FILLED.units | FILLED.weight,
      matches: 1,
      row: 2,
      pack: 1,
    });
    expect([list.price[0], list.units[0], list.kg[0]]).toEqual([25, 40, 0.5]);
    expect(r.complete(key(2), list, 1, 'first')).toEqual({ filled: 0, matches: 0, row: 0, pack: 0 });
    expect(list.price[1]).toBeNaN();
  });
  it('of several listings the one by rule: sells fastest, cheapest, first; all of them can be shown', () => {
    const r = reference([
      [key(5), 30, known, 1],
      [key(9), 1, 1, 1],
      [key(5), 22, 10, 1],
      [key(5), 24, 90, 1],
    ]);
    const chosen = (choice: 'sellsFastest' | 'cheapest' | 'first'): number =>
      r.complete(key(5), makeColumns(1), 0, choice).row;
    expect([chosen('sellsFastest'), chosen('cheapest'), chosen('first')]).toEqual([5, 4, 2]);
    expect(r.listings(key(5)).map((l) => [l.row, l.price])).toEqual([
      [2, 30],
      [4, 22],
      [5, 24],
    ]);
    expect(r.listings(key(7))).toEqual([]);
    expect([...r.several()].map((x) => [x.key, x.listings.length])).toEqual([[Number(key(5)), 3]]);
  });
  it('ten thousand rows are kept apart', () => {
    const r = reference(Array.from({ length: 10_000 }, (_, i) => [key(i % 4000), i, i, 1]));
    expect(r.count).toBe(10_000);
    for (let i = 0; i < 4000; i += 371)
      expect(r.listings(key(i)).map((l) => l.price)).toEqual([
        i,
        i + 4000,
        ...(i + 8000 < 10_000 ? [i + 8000] : []),
      ]);
  });
});

describe('the next edition of a list', () => {
  const key = (n: number): string => code(n).padStart(14, '0');
  it('says what is new, dearer, cheaper, the same, and how many are gone', () => {
    const last = new LastEdition();
    for (const [n, cost] of [
      [1, 4],
      [2, 5],
      [3, 6],
      [4, 7],
      [2, 99],
    ] as const)
      last.add(key(n), cost);
    expect(
      [
        [1, 4.5],
        [2, 5.001],
        [3, 5.5],
        [8, 1],
        [1, 4.5],
      ].map(([n, cost]) => last.compare(key(n as number), cost as number).change),
    ).toEqual(['dearer', 'same', 'cheaper', 'new', 'dearer']);
    expect([last.count, last.gone, last.compare(key(1), 9).before]).toEqual([4, 1, 4]);
  });
  it('grows with the list', () => {
    const last = new LastEdition();
    for (let i = 0; i < 5000; i++) last.add(key(i), i / 10);
    for (let i = 0; i < 5000; i += 2) expect(last.compare(key(i), i / 10).change).toBe('same');
    expect(last.gone).toBe(2500);
  });
});
