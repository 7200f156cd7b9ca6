import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { makeColumns } from '../columns/columns.ts';
import { mapIssues } from '../lists/map.ts';
import { RowReader } from '../lists/rows.ts';
import {
  CATALOGUE_HEAD,
  CATALOGUE_MAP,
  leftOut,
  LEFT_OUT,
  MARKET_HEAD,
  MARKET_MAP,
  paidOn,
  rowOfGoods,
  rowOfListing,
  shopVatBack,
} from './catalogue.ts';
import { CATALOGUE_START, placeAfter } from './place.ts';
import type { CataloguePage } from './place.ts';
import { catalogueChoice, catalogueFilters, sameReading, shopGoods } from './schema.ts';
import type { ShopGoods } from './schema.ts';

const DAY = '2026-11-30';
const goods = (over: Partial<ShopGoods> = {}): ShopGoods =>
  shopGoods.parse({
    code: 'A1',
    title: 'Bee house larch',
    brand: 'Fenwick',
    category: 'Bee houses',
    gtin: '9520000010010',
    price: 12,
    promotion: null,
    stock: 4,
    pieces: 2,
    kg: 0.9,
    vatRate: 0.19,
    reviews: 30,
    ...over,
  });
const filters = (over: object = {}) => catalogueFilters.parse({ inStock: false, ...over });

describe('which goods of a catalogue are taken', () => {
  it.each([
    ['noPrice', { price: null }, {}],
    ['tooCheap', {}, { priceFrom: 12.01 }],
    ['tooDear', {}, { priceTo: 11.99 }],
    ['tooDear', { promotion: { price: 9, until: '2026-11-29' } }, { priceTo: 10 }],
    ['notInStock', { stock: 0 }, { inStock: true }],
    ['notPromoted', {}, { promotedOnly: true }],
    ['notPromoted', { promotion: { price: 9, until: '2026-11-29' } }, { promotedOnly: true }],
    ['fewReviews', {}, { reviewsFrom: 31 }],
  ])('not those that are %s: %j under %j', (why, g, f) => {
    expect(leftOut(goods(g), filters(f), DAY)).toBe(why);
  });
  it.each([
    [{}, { priceFrom: 12, priceTo: 12, reviewsFrom: 30, inStock: true }],
    [{ stock: null }, { inStock: true }],
    [{ reviews: null }, { reviewsFrom: 100 }],
    [{ promotion: { price: 9, until: DAY } }, { priceTo: 10, promotedOnly: true }],
    [{ promotion: { price: 9, until: null } }, { promotedOnly: true }],
    [{ price: null, promotion: { price: 9, until: null } }, {}],
  ])('unknown is not too little: %j under %j', (g, f) => {
    expect(leftOut(goods(g), filters(f), DAY)).toBeNull();
  });
  it('a promotion counts up to its last day', () => {
    const g = goods({ promotion: { price: 9, until: DAY } });
    expect([paidOn(g, DAY), paidOn(g, '2026-12-01')]).toEqual([9, 12]);
  });
});

describe('VAT that a shop charges', () => {
  it('comes back by one’s standing at home, and abroad only to who is registered there', () => {
    const standings = { DE: { kind: 'notRegistered' }, PL: { kind: 'registered' } } as const;
    expect(shopVatBack('DE', 'DE', standings)).toBeNull();
    expect(shopVatBack('PL', 'DE', standings)).toBe(true);
    expect(shopVatBack('GB', 'DE', standings)).toBe(false);
    expect(shopVatBack('DE', 'PL', standings)).toBe(false);
  });
});

const cells = (row: readonly (string | number | null)[]): string[] =>
  row.map((c) => (c === null ? '' : String(c)));

describe('goods as rows', () => {
  it('the mappings fit the headings', () => {
    expect(mapIssues(CATALOGUE_MAP, CATALOGUE_HEAD)).toEqual([]);
    expect(mapIssues(MARKET_MAP, MARKET_HEAD, ['identifier'])).toEqual([]);
  });
  it('read back as what was written', () => {
    const columns = makeColumns(1);
    const reader = new RowReader(CATALOGUE_MAP, CATALOGUE_HEAD);
    const g = goods({ promotion: { price: 9.5, until: '2026-12-05' } });
    const row = cells(rowOfGoods(g, DAY));
    expect(row).toHaveLength(CATALOGUE_HEAD.length);
    const read = reader.read(row, 2, columns, 0, () => -1);
    expect(read).toMatchObject({ troubles: [], code: '9520000010010', pack: 2 });
    expect([columns.cost[0], columns.kg[0], columns.vatRate[0]]).toEqual([9.5, 0.9, 0.19]);
    const extras = Object.fromEntries(CATALOGUE_HEAD.map((h, i) => [h, row[i]]));
    expect(extras).toMatchObject({
      shopCode: 'A1',
      shopCategory: 'Bee houses',
      priceBefore: '12',
      promotionUntil: '2026-12-05',
    });
  });
  it('a listing too; what is not known stays so', () => {
    const columns = makeColumns(1);
    const reader = new RowReader(MARKET_MAP, MARKET_HEAD, 'reference');
    const listing = {
      listing: 'LT1',
      title: 'Bee house',
      brand: '',
      category: 'wildlife',
      gtin: '9520000010010',
      price: 33.9,
      units: null,
      rank: 4,
      offers: 2,
      sides: [14, 10, 6],
      kg: null,
      pack: 1,
    };
    const row = cells(rowOfListing(listing));
    expect(row).toHaveLength(MARKET_HEAD.length);
    expect(reader.read(row, 2, columns, 0, () => 7).troubles).toEqual([]);
    expect([columns.price[0], columns.units[0], columns.kg[0]]).toEqual([33.9, Number.NaN, Number.NaN]);
    expect([columns.a[0], columns.b[0], columns.c[0], columns.category[0]]).toEqual([14, 10, 6, 7]);
    const bare = cells(rowOfListing({ ...listing, sides: null }));
    expect(bare).toHaveLength(MARKET_HEAD.length);
  });
});

const page = (over: Partial<CataloguePage> = {}): CataloguePage => ({
  goods: 200,
  total: 450,
  next: '200',
  edition: 'a',
  asOf: DAY,
  isAgain: false,
  ...over,
});
const TWO = [{ goods: 450 }, { goods: 60 }];

describe('the place in a catalogue', () => {
  it('goes through a category, then to the next, and says how many goods there will be', () => {
    let p = placeAfter(CATALOGUE_START, page(), TWO);
    expect(p).toMatchObject({ category: 0, cursor: '200', goods: 200, expected: 510, pages: 1, short: 0 });
    p = placeAfter(p, page({ next: '400' }), TWO);
    p = placeAfter(p, page({ goods: 50, next: null }), TWO);
    expect(p).toMatchObject({ category: 1, cursor: null, here: 0, goods: 450, expected: 510, short: 0 });
    p = placeAfter(p, page({ goods: 60, total: 60, next: null }), TWO);
    expect(p).toMatchObject({
      category: 2,
      goods: 510,
      expected: 510,
      pages: 4,
      changed: false,
      repeated: 0,
    });
  });
  it('says what is missing of a category that ends early', () => {
    const p = placeAfter(CATALOGUE_START, page({ next: null }), TWO);
    expect(p).toMatchObject({ category: 1, short: 250, expected: 260, repeated: 0 });
  });
  it('leaves a category whose pages come again', () => {
    const p = placeAfter(placeAfter(CATALOGUE_START, page(), TWO), page({ isAgain: true, next: '400' }), TWO);
    expect(p).toMatchObject({ category: 1, goods: 200, short: 250, repeated: 1 });
  });
  it('leaves a category that leads in a circle, with other goods on each page', () => {
    let p = CATALOGUE_START;
    for (const next of ['200', '400', '200']) p = placeAfter(p, page({ total: 9000, next }), TWO);
    expect(p).toMatchObject({ category: 1, goods: 600, short: 8400, repeated: 1 });
  });
  it('takes no more than a list may have, and says what it left', () => {
    const p = placeAfter(CATALOGUE_START, page({ goods: 1_000_000, total: 1_200_000 }), TWO);
    expect(p).toMatchObject({ category: 2, expected: 1_000_000, short: 200_060, repeated: 0 });
  });
  it('notes that it is another catalogue', () => {
    const p = placeAfter(CATALOGUE_START, page(), TWO);
    expect(placeAfter(p, page({ edition: 'b', next: '400' }), TWO)).toMatchObject({
      changed: true,
      edition: 'a',
    });
  });
  it('comes to an end whatever a shop answers, and never counts below 0', () => {
    const any = fc.record({
      goods: fc.nat(200),
      total: fc.nat(1000),
      next: fc.option(fc.constantFrom('a', 'b', 'c')),
      edition: fc.constantFrom('x', 'y'),
      asOf: fc.constant(DAY),
      isAgain: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.infiniteStream(any), (pages) => {
        let p = CATALOGUE_START;
        let n = 0;
        for (const next of pages) {
          if (p.category >= TWO.length) break;
          const was = p;
          p = placeAfter(p, next, TWO);
          expect(p.goods).toBeGreaterThanOrEqual(was.goods);
          expect(p.expected).toBeGreaterThanOrEqual(p.goods);
          expect(p.short).toBeGreaterThanOrEqual(0);
          n++;
        }
        // Three cursors make four pages of a category at most, and the one that shows the circle.
        expect(n).toBeLessThanOrEqual(10);
      }),
    );
  });
});

describe('two readings', () => {
  const choice = (over: object = {}) =>
    catalogueChoice.parse({
      shop: 's',
      name: 'Shop',
      country: 'DE',
      currency: 'EUR',
      tax: 'included',
      categories: [
        { key: 'a', name: 'A', goods: 1 },
        { key: 'b', name: 'B', goods: 2 },
      ],
      market: 'Alderway/DE',
      filters: {},
      ...over,
    });
  it('are of the same goods where shop, market, categories and limits are the same', () => {
    const other = choice({
      name: 'Renamed',
      categories: [
        { key: 'b', name: 'B', goods: 9 },
        { key: 'a', name: 'A', goods: 9 },
      ],
    });
    expect(sameReading(choice(), other)).toBe(true);
    expect(sameReading(choice(), choice({ filters: { priceTo: 5 } }))).toBe(false);
    expect(sameReading(choice(), choice({ market: null }))).toBe(false);
    expect(LEFT_OUT).toContain('seenBefore');
  });
});
