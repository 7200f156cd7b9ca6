import { describe, expect, it } from 'vitest';
import type { MarketplaceCard } from './rates.ts';
import { marketplaceCard, taxCard } from './rates.ts';
import { marketplaceCardOf, taxCardOf } from '../testing/documents.ts';
import { randomLane } from '../testing/lanes.ts';
import { percentText, readCell } from './cells.ts';
import type { Cell, Column } from './cells.ts';
import { sayFault } from '../../words/index.ts';
import { fault } from '../fault.ts';
import type { CellError, Tables } from './reader.ts';
import { CARD_KINDS, cardDocument, cardKey, benchmarkCard, freightCard, postageCard } from './schema.ts';
import type { CardData, CardKind } from './schema.ts';
import { cannotBeInForce, compareCards, draftOf, readTables, sheetsOf, tablesOf } from './tables.ts';
import { cases, enough } from '../testing/seed.ts';

const market = marketplaceCard.parse({
  ...marketplaceCardOf([
    { upTo: 10, pct: 0.0875 },
    { upTo: null, pct: 0.15 },
  ]),
  payment: { base: 'buyerPays', pct: 0.021, fixed: 0.25 },
  surcharges: [{ name: 'Levy', pct: 0.02, of: ['referral', 'fulfilment'] }],
  feeVat: { treatment: 'charged', rate: 0.19, bears: ['referral', 'storage'] },
  warehouse: {
    tiers: [
      {
        name: 'Small',
        maxL: 30,
        maxW: 20,
        maxH: 10,
        maxKg: 1,
        packagingKg: 0.05,
        bands: [
          {
            upToPrice: 10,
            table: {
              steps: [
                { upToKg: 0.5, fee: 2 },
                { upToKg: 1, fee: 2.4 },
              ],
              stepKg: 0.5,
              stepFee: 0.3,
            },
          },
          { upToPrice: null, table: { steps: [{ upToKg: 1, fee: 3 }] } },
        ],
      },
      {
        name: 'Large',
        maxKg: 30,
        divisor: 5000,
        bands: [
          {
            upToPrice: null,
            table: {
              steps: [
                { upToKg: 5, fee: 6 },
                { upToKg: 30, fee: 14 },
              ],
              stepKg: 1,
              stepFee: 0.4,
            },
          },
        ],
      },
    ],
    addOns: { dangerous: 0.6, oversize: 2.5 },
    peak: [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0.25, 0.25],
  },
  storage: {
    perM3Month: [16, 16, 16, 16, 16, 16, 16, 16, 16, 24, 24, 24],
    longStay: [
      { fromMonths: 6, toMonths: 12, rate: 50 },
      { fromMonths: 12, toMonths: null, rate: 100 },
    ],
  },
  payoutEveryDays: 14,
  payoutDelayDays: 3,
});
const tax = taxCard.parse({
  ...taxCardOf('inclusive', 0.19),
  vatRates: { standard: 0.19, reduced: 0.07 },
  duties: [
    { heading: '44', origins: ['CN', 'IN'], pct: 0.03, perKg: 0.1 },
    { heading: '', origins: null, pct: 0.02 },
    { heading: '4421', origins: ['CN'], pct: 0.1, additional: true },
  ],
  importCharges: [{ name: 'Clearance', pct: 0.01, min: 20, max: 90, flat: 5 }],
});
const sea = freightCard.parse({
  name: 'Sea to the north',
  inForceFrom: '2026-10-01',
  from: 'CN',
  to: 'DE',
  mode: 'sea',
  route: {
    legs: [
      {
        name: 'Vessel',
        stage: 'main',
        basis: 'perCbm',
        rate: 140,
        currency: 'USD',
        minCbm: 1,
        fuelSurcharge: 0.08,
      },
      {
        name: 'Courier',
        stage: 'inbound',
        basis: 'perKg',
        rate: null,
        currency: 'EUR',
        divisor: 5000,
        bands: [
          { upToKg: 20, rate: 1.1 },
          { upToKg: 100, rate: 0.8 },
        ],
        buyerPays: true,
      },
    ],
    packingAllowance: 0.1,
    insuranceRate: 0.003,
    transitDays: 36,
    inboundDays: 4,
  },
});
const post = postageCard.parse({
  name: 'Parcels at home',
  inForceFrom: '2026-10-01',
  country: 'DE',
  zones: [
    {
      name: 'near',
      share: 0.7,
      postage: {
        currency: 'EUR',
        steps: [
          { upToKg: 1, fee: 3.9 },
          { upToKg: 5, fee: 5.2 },
        ],
        stepKg: 1,
        stepFee: 0.5,
      },
    },
    { name: 'islands', share: 0.3, postage: { currency: 'EUR', steps: [{ upToKg: 30, fee: 12 }] } },
  ],
  vat: 'added',
  vatRate: 0.19,
  recoverable: null,
  packagingKg: 0.2,
});
const bank = benchmarkCard.parse({
  name: 'Savings',
  inForceFrom: '2026-09-01',
  currency: 'EUR',
  rate: 0.0225,
});
const exchange = { date: '2026-11-20', base: 'EUR', rates: { USD: 1.0834, PLN: 4.2711 }, source: 'typed' };
const CARDS: [CardKind, CardData][] = [
  ['marketplace', market],
  ['tax', tax],
  ['freight', sea],
  ['postage', post],
  ['exchange', exchange],
  ['benchmark', bank],
];

/** The sheets of a card with one cell replaced; `row` as a spreadsheet counts, the header being 1. */
function withCell(
  kind: CardKind,
  data: CardData,
  sheet: string,
  row: number,
  column: string,
  value: Cell,
): Tables {
  const tables = structuredClone(draftOf(kind, data)) as Record<string, Cell[][]>;
  const rows = tables[sheet] as Cell[][];
  if (sheet === 'card') (rows.find((r) => r[0] === column) as Cell[])[1] = value;
  else {
    const at =
      sheetsOf(kind)
        .find((s) => s.key === sheet)
        ?.columns.findIndex((c) => c.key === column) ?? -1;
    while (rows.length < row - 1) rows.push([]);
    (rows[row - 2] as Cell[])[at] = value;
  }
  return tables;
}
type Told = CellError & ReturnType<typeof sayFault>;
function errors(kind: CardKind, tables: Tables, decimalComma = false): readonly Told[] {
  const read = readTables(kind, tables, { decimalComma });
  return read.ok ? [] : read.errors.map((e) => ({ ...e, ...sayFault(e) }));
}

/**
 * A random card as an importer would let it pass: size tiers under names of their own, no maximum under a
 * minimum.
 */
function named(c: MarketplaceCard): MarketplaceCard {
  const tidy = <T extends { min: number | null; max: number | null }>(x: T): T =>
    x.min !== null && x.max !== null && x.max < x.min ? { ...x, max: null } : x;
  return {
    ...c,
    categories: c.categories.map((x) => ({ ...x, referral: tidy(x.referral) })),
    warehouse:
      c.warehouse === null
        ? null
        : { ...c.warehouse, tiers: c.warehouse.tiers.map((t, i) => ({ ...t, name: `tier ${i}` })) },
  };
}

describe('a card as sheets of cells', () => {
  it.each(CARDS)('%s: reads back exactly, as text and as numbers', (kind, data) => {
    expect(readTables(kind, draftOf(kind, data))).toEqual({ ok: true, data });
    expect(readTables(kind, tablesOf(kind, data))).toEqual({ ok: true, data });
    expect(
      cardDocument.parse(
        JSON.parse(JSON.stringify({ format: 'bold-margin/rate-card', version: 1, kind, data })),
      ),
    ).toMatchObject({ kind, data });
  });
  it('random cards read back exactly', () => {
    let seen = 0;
    for (let seed = 1; seed <= cases(400); seed++) {
      const { rates } = randomLane(seed, seed % 3);
      for (const [kind, data] of [
        ['marketplace', rates.marketplace === null ? null : named(rates.marketplace)],
        [
          'tax',
          rates.tax === null
            ? null
            : {
                ...rates.tax,
                importCharges: [],
                duties: rates.tax.duties.filter(
                  (d, i, all) =>
                    d.additional ||
                    all.findIndex(
                      (x) =>
                        !x.additional && x.heading === d.heading && String(x.origins) === String(d.origins),
                    ) === i,
                ),
              },
        ],
        ['exchange', rates.exchange],
      ] as [CardKind, CardData | null][]) {
        if (data === null) continue;
        seen++;
        expect(readTables(kind, draftOf(kind, data))).toEqual({ ok: true, data });
        expect(readTables(kind, tablesOf(kind, data))).toEqual({ ok: true, data });
      }
    }
    expect(seen).toBeGreaterThan(enough(800));
  });
  it('percentages are exact', () => {
    for (const x of [0.0875, 0.15, 0.1, 1 / 3, 0.07, 0.29, 0.57, 1e-7, 0.123456789012]) {
      const read = readCell({ key: 'pct', kind: 'share' }, percentText(x), { decimalComma: false });
      expect(read).toBe(x);
    }
    expect([percentText(0.0875), percentText(0.29), percentText(1)]).toEqual(['8.75%', '29%', '100%']);
  });
  it('what a card is about, and that its day is free', () => {
    expect(
      CARD_KINDS.map((k) => cardKey(k, (CARDS.find(([kind]) => kind === k) as [CardKind, CardData])[1])),
    ).toEqual(['Testmarket/DE', 'DE', 'Sea to the north', 'Parcels at home', 'exchange', 'EUR']);
    const others = [{ kind: 'marketplace' as const, key: 'Testmarket/DE', inForceFrom: '2026-01-01' }];
    expect(cannotBeInForce('marketplace', market, others)).toMatchObject({
      sheet: 'card',
      column: 'inForceFrom',
      ...fault('dayTaken', { card: 'Testmarket/DE', day: '2026-01-01' }),
    });
    expect(cannotBeInForce('marketplace', { ...market, inForceFrom: '2026-01-02' }, others)).toBeNull();
    expect(
      cannotBeInForce('exchange', exchange, [
        { kind: 'exchange', key: 'exchange', inForceFrom: '2026-11-20' },
      ])?.column,
    ).toBe('date');
  });
});

describe('bad cells name sheet, row, column and remedy', () => {
  const cases: [string, CardKind, CardData, [string, number, string, Cell], Partial<Told>][] = [
    [
      'tiers out of order',
      'marketplace',
      {
        ...market,
        categories: [
          {
            ...(market.categories[0] as MarketplaceCard['categories'][number]),
            referral: {
              ...(market.categories[0] as MarketplaceCard['categories'][number]).referral,
              tiers: [
                { upTo: 10, pct: 0.1 },
                { upTo: 20, pct: 0.1 },
                { upTo: null, pct: 0.1 },
              ],
            },
          },
        ],
      },
      ['referralTiers', 3, 'upTo', '5'],
      {
        sheet: 'referralTiers',
        row: 3,
        column: 'upTo',
        problem: 'This tier ends at 5, under the 10 of row 2: they are out of order',
        remedy: 'Sort the rows by rising limit.',
      },
    ],
    [
      'tiers that overlap',
      'marketplace',
      market,
      ['referralTiers', 3, 'upTo', '10'],
      {
        sheet: 'referralTiers',
        row: 3,
        column: 'upTo',
        problem: 'This tier ends at 10 as row 2 does: the two overlap',
      },
    ],
    [
      'a gap above the last tier',
      'marketplace',
      market,
      ['referralTiers', 3, 'upTo', '50'],
      {
        sheet: 'referralTiers',
        row: 3,
        column: 'upTo',
        problem: 'Nothing applies above 50: the last tier leaves a gap',
        remedy: 'Leave the limit of the last row blank.',
      },
    ],
    [
      'a tier after the open one',
      'marketplace',
      market,
      ['referralTiers', 2, 'upTo', ''],
      { row: 3, problem: 'This tier stands after the open one of row 2, so it would never apply' },
    ],
    [
      'long stay with a gap',
      'marketplace',
      market,
      ['longStay', 3, 'fromMonths', '14'],
      {
        sheet: 'longStay',
        row: 3,
        column: 'fromMonths',
        problem: 'From 12 to 14 months nothing applies: there is a gap after row 2',
      },
    ],
    [
      'long stay that overlaps',
      'marketplace',
      market,
      ['longStay', 3, 'fromMonths', '10'],
      {
        problem: 'The band starts at 10 months, before row 2 ends at 12: they overlap',
        remedy: 'Start it at 12.',
      },
    ],
    [
      'weight steps out of order',
      'marketplace',
      market,
      ['weightSteps', 3, 'upToKg', '0.2'],
      {
        sheet: 'weightSteps',
        row: 3,
        column: 'upToKg',
        problem: 'This step ends at 0.2 kg, under the 0.5 kg of row 2: they are out of order',
      },
    ],
    [
      'a percentage over 1',
      'marketplace',
      market,
      ['referralTiers', 3, 'pct', '15'],
      {
        sheet: 'referralTiers',
        row: 3,
        column: 'pct',
        problem: '15 is over 1, that is over 100 %',
        remedy: 'Write 15% or 0.15 for 15 per cent.',
      },
    ],
    [
      'a missing country',
      'marketplace',
      market,
      ['card', 0, 'country', ''],
      {
        sheet: 'card',
        row: 6,
        column: 'country',
        problem: 'This is missing',
        remedy: 'Write a two-letter country code such as DE.',
      },
    ],
    [
      'an unknown country',
      'tax',
      tax,
      ['duties', 2, 'origins', 'CN QQ'],
      { sheet: 'duties', row: 2, column: 'origins', problem: '"QQ" is not a country' },
    ],
    [
      'an unknown currency',
      'exchange',
      exchange,
      ['rates', 2, 'currency', 'USX'],
      {
        sheet: 'rates',
        row: 2,
        column: 'currency',
        problem: '"USX" is not a currency',
        remedy: 'Use a three-letter code such as EUR.',
      },
    ],
    [
      'a duplicate key',
      'exchange',
      exchange,
      ['rates', 3, 'currency', 'USD'],
      {
        sheet: 'rates',
        row: 3,
        problem: '"USD" stands in row 2 already',
        remedy: 'Keep one of the two rows.',
      },
    ],
    [
      'a wrong decimal mark',
      'exchange',
      exchange,
      ['rates', 2, 'rate', '1,0834'],
      {
        sheet: 'rates',
        row: 2,
        column: 'rate',
        problem: '"1,0834" has a comma where the decimal point belongs',
        remedy: 'Write 1.0834, or say that this file is written with decimal commas.',
      },
    ],
    [
      'thousands marks',
      'marketplace',
      market,
      ['months', 2, 'storagePerM3', '1,234.50'],
      { row: 2, problem: '"1,234.50" is not a number' },
    ],
    [
      'a rate of zero',
      'exchange',
      exchange,
      ['rates', 2, 'rate', '0'],
      { sheet: 'rates', row: 2, column: 'rate', problem: 'A rate of 0 cannot be used' },
    ],
    [
      'a card without a date',
      'tax',
      tax,
      ['card', 0, 'inForceFrom', ''],
      {
        sheet: 'card',
        row: 3,
        column: 'inForceFrom',
        problem: 'This is missing',
        remedy: 'Write a day such as 2026-12-01.',
      },
    ],
    [
      'a day that does not exist',
      'tax',
      tax,
      ['card', 0, 'inForceFrom', '2026-02-30'],
      { column: 'inForceFrom', problem: '"2026-02-30" is not a day' },
    ],
    [
      'a category that does not exist',
      'marketplace',
      market,
      ['referralTiers', 2, 'category', 'toys'],
      { sheet: 'referralTiers', row: 2, column: 'category', problem: 'There is no category "toys"' },
    ],
    [
      'a size tier without a fee',
      'marketplace',
      market,
      ['sizeTiers', 4, 'name', 'Huge'],
      { sheet: 'sizeTiers', row: 4, column: 'name', problem: 'The size tier "Huge" has no fee' },
    ],
    [
      'a missing month',
      'marketplace',
      market,
      ['months', 5, 'storagePerM3', ''],
      {
        sheet: 'months',
        row: 5,
        column: 'storagePerM3',
        problem: 'Month 4 is missing',
        remedy: 'Give all twelve months, or none.',
      },
    ],
    [
      'a negative fee',
      'marketplace',
      market,
      ['weightSteps', 2, 'fee', '-2'],
      { sheet: 'weightSteps', row: 2, column: 'fee', problem: '-2 is below 0' },
    ],
    [
      'a choice that is not known',
      'freight',
      sea,
      ['legs', 2, 'basis', 'perTon'],
      { sheet: 'legs', row: 2, column: 'basis', problem: '"perTon" is not known here' },
    ],
    [
      'a leg with rate and bands',
      'freight',
      sea,
      ['legs', 3, 'rate', '2'],
      { sheet: 'legs', row: 3, column: 'rate', problem: 'The leg has a rate and weight bands' },
    ],
    [
      'zones that do not add up',
      'postage',
      post,
      ['zones', 2, 'share', '60%'],
      { sheet: 'zones', row: 3, column: 'share', problem: 'The shares of the zones add up to 90 %' },
    ],
    [
      'postage steps out of order',
      'postage',
      post,
      ['weightSteps', 3, 'upToKg', '0.5'],
      {
        sheet: 'weightSteps',
        row: 3,
        column: 'upToKg',
        problem: 'This step ends at 0.5 kg, under the 1 kg of row 2: they are out of order',
      },
    ],
    [
      'a second price of each further step of postage',
      'postage',
      post,
      ['weightSteps', 3, 'eachFurtherKg', '2'],
      {
        sheet: 'weightSteps',
        row: 4,
        column: 'eachFurtherKg',
        problem: 'Row 3 says already what each further step costs',
      },
    ],
    [
      'postage without a first step',
      'postage',
      post,
      ['weightSteps', 5, 'zone', 'near'],
      { sheet: 'zones', row: 3, column: 'zone', problem: 'The zone "islands" has no postage' },
    ],
    [
      'a schema limit, found in its cell',
      'marketplace',
      market,
      ['weightSteps', 2, 'upToKg', '0'],
      { sheet: 'weightSteps', row: 2, column: 'upToKg' },
    ],
  ];
  it.each(cases)('%s', (_, kind, data, [sheet, row, column, value], wanted) => {
    const found = errors(kind, withCell(kind, data, sheet, row, column, value));
    expect(found).toEqual(expect.arrayContaining([expect.objectContaining(wanted)]));
    for (const e of found) expect(e.remedy.length).toBeGreaterThan(5);
  });
  it('a row with cells past the last column', () => {
    const tables = structuredClone(draftOf('exchange', exchange)) as Record<string, Cell[][]>;
    tables.rates?.[0]?.push('1.1');
    expect(errors('exchange', tables)).toMatchObject([
      { sheet: 'rates', row: 2, problem: 'The row has more cells than the 2 columns' },
    ]);
  });
  it('decimal commas are read where the file is said to have them', () => {
    const tables = withCell('exchange', exchange, 'rates', 2, 'rate', '1,0834');
    expect(readTables('exchange', tables, { decimalComma: true })).toEqual({ ok: true, data: exchange });
    expect(readCell({ key: 'pct', kind: 'share' } as Column, '8,75%', { decimalComma: true })).toBe(0.0875);
  });
  it('an unknown field and one given twice', () => {
    const tables = {
      ...draftOf('benchmark', bank),
      card: [...(draftOf('benchmark', bank).card ?? []), ['rate', '3%'], ['colour', 'blue']],
    };
    expect(errors('benchmark', tables)).toMatchObject([
      { problem: 'The field "rate" stands in row 6 already' },
      { problem: 'There is no field "colour"' },
    ]);
  });
});

describe('two versions compared', () => {
  it('names each row that was added, taken out or changed, with both values', () => {
    const first = market.categories[0] as MarketplaceCard['categories'][number];
    const next: MarketplaceCard = {
      ...market,
      inForceFrom: '2026-12-01',
      itemFee: 0.3,
      categories: [
        {
          ...first,
          referral: {
            ...first.referral,
            min: 0.3,
            tiers: [
              { upTo: 12, pct: 0.0875 },
              { upTo: null, pct: 0.16 },
            ],
          },
        },
      ],
      surcharges: [],
    };
    expect(compareCards('marketplace', market, next)).toEqual([
      {
        sheet: 'card',
        row: 'inForceFrom',
        kind: 'changed',
        cells: [{ column: 'inForceFrom', from: '2026-01-01', to: '2026-12-01' }],
      },
      { sheet: 'card', row: 'itemFee', kind: 'changed', cells: [{ column: 'itemFee', from: 0, to: 0.3 }] },
      { sheet: 'categories', row: 'any', kind: 'changed', cells: [{ column: 'min', from: null, to: 0.3 }] },
      {
        sheet: 'referralTiers',
        row: 'any · 12',
        kind: 'added',
        cells: [{ column: 'pct', from: null, to: 0.0875 }],
      },
      {
        sheet: 'referralTiers',
        row: 'any · ',
        kind: 'changed',
        cells: [{ column: 'pct', from: 0.15, to: 0.16 }],
      },
      {
        sheet: 'referralTiers',
        row: 'any · 10',
        kind: 'removed',
        cells: [{ column: 'pct', from: 0.0875, to: null }],
      },
      {
        sheet: 'surcharges',
        row: 'Levy',
        kind: 'removed',
        cells: [
          { column: 'pct', from: 0.02, to: null },
          { column: 'of', from: ['referral', 'fulfilment'], to: null },
        ],
      },
    ]);
    expect(compareCards('marketplace', market, structuredClone(market))).toEqual([]);
  });
  it('against nothing, every row is added', () => {
    const rows = compareCards('exchange', null, exchange);
    expect(rows.filter((r) => r.sheet === 'rates')).toMatchObject([
      { row: 'USD', kind: 'added' },
      { row: 'PLN', kind: 'added' },
    ]);
  });
});
