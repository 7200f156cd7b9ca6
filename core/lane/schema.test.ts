import { describe, expect, it } from 'vitest';
import { inWords } from '../../words/index.ts';
import { firstIssue, issuesOf } from '../issues.ts';
import { randomLane } from '../testing/lanes.ts';
import { marketplaceCardOf, taxCardOf } from '../testing/documents.ts';
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import { laneDocument } from './schema.ts';

const least = {
  format: 'bold-margin/lane',
  version: 1,
  date: '2026-11-24',
  homeCurrency: 'EUR',
  country: 'DE',
  currency: 'EUR',
  rates: {},
};
const problems = (over: object): string[] => {
  const parsed = laneDocument.safeParse({ ...least, ...over });
  return parsed.success ? [] : issuesOf(parsed.error).map(inWords);
};
const quote = (over: object) => ({
  goods: [
    { source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 4 }], ...over } },
  ],
});

describe('a lane document', () => {
  it('needs no more than where, when and in which currency; the rest is blank or a default that says so', () => {
    const doc = laneDocument.parse(least);
    expect(doc).toMatchObject({
      price: null,
      goods: null,
      route: null,
      prep: null,
      returns: null,
      adverts: null,
      demand: null,
      averageDiscount: 0,
      method: 'warehouse',
      imported: false,
    });
  });
  it('comes back the same after being written and read', () => {
    for (let seed = 0; seed < 200; seed++) {
      const doc = randomLane(seed);
      expect(laneDocument.parse(JSON.parse(JSON.stringify(doc)))).toEqual(doc);
    }
  });
  it.each<[string, object, RegExp]>([
    ['a day that is not in the calendar', { date: '2026-02-30' }, /^date: No such day/],
    ['a currency in words', { currency: 'euro' }, /^currency: Use a three-letter currency code/],
    ['a country in words', { country: 'Germany' }, /^country: Use a two-letter country code/],
    ['a price as text', { price: '12,90' }, /^price: This is not a number\. Give a number\./],
    ['a price below nothing', { price: -1 }, /^price: This is under 0\. Use at least 0\./],
    ['a price past every bound', { price: 1e13 }, /^price: This is over 1000000000000/],
    ['a discount of all', { averageDiscount: 1 }, /^averageDiscount: This is over 0\.99/],
    ['an order of nothing', { orderQuantity: 0 }, /^orderQuantity: This is under/],
    [
      'a misspelt field',
      { prise: 12 },
      /^\(document\): There is no field "prise" here\. Remove it, or check the spelling\./,
    ],
    [
      'another version',
      { version: 2 },
      /^version: The version is missing, or that of another version of the program\. Use one of: 1\./,
    ],
    [
      'an unheard-of Incoterms rule',
      quote({ incoterm: 'FOO' }),
      /^goods.*Use one of: EXW, FCA|^goods: This is none of what may stand here/,
    ],
    [
      'price breaks out of order',
      quote({
        priceBreaks: [
          { minQty: 100, unitPrice: 4 },
          { minQty: 50, unitPrice: 5 },
        ],
      }),
      /Sort price breaks|none of what may stand/,
    ],
    ['a season that never sells', { season: Array(12).fill(0) }, /At least one month must sell/],
    ['eleven months', { season: Array(11).fill(1) }, /^season/],
    ['half a parcel', { product: { sides: [10, 20] } }, /^product\.sides/],
    ['a side of nothing', { product: { sides: [10, 20, 0] } }, /^product\.sides\.2: This is under/],
    ['an HS code with dots', { product: { hsCode: '4421.99' } }, /Give 4 to 10 digits of the HS code/],
    ['all that comes back', { returns: { rate: 1 } }, /^returns/],
    [
      'a share over one',
      { adverts: { keywords: [{ low: 1, high: 2, conversionRate: 0.1 }], adShare: 1.5 } },
      /^adverts/,
    ],
  ])('refuses %s, saying where and what to do', (_, over, message) => {
    const said = problems(over);
    expect(said.length).toBeGreaterThan(0);
    expect(said.some((s) => message.test(s)) || message.test(said.join('\n'))).toBe(true);
  });
  it('names kind and version before anything else', () => {
    const parsed = laneDocument.safeParse({ hello: 'world' });
    expect(parsed.success ? '' : inWords(firstIssue(parsed.error))).toBe(
      'format: This value is not known here. Use one of: bold-margin/lane.',
    );
  });
});

describe('rate cards', () => {
  const referral = (tiers: { upTo: number | null; pct: number }[]) =>
    marketplaceCard.safeParse(marketplaceCardOf(tiers)).success;
  it('take tiers that rise and end open, and no others', () => {
    expect(
      referral([
        { upTo: 10, pct: 0.1 },
        { upTo: null, pct: 0.2 },
      ]),
    ).toBe(true);
    expect(referral([{ upTo: 10, pct: 0.1 }])).toBe(false);
    expect(
      referral([
        { upTo: 10, pct: 0.1 },
        { upTo: 10, pct: 0.2 },
        { upTo: null, pct: 0.2 },
      ]),
    ).toBe(false);
    expect(
      referral([
        { upTo: null, pct: 0.1 },
        { upTo: null, pct: 0.2 },
      ]),
    ).toBe(false);
    expect(referral([{ upTo: null, pct: 1.2 }])).toBe(false);
    expect(referral([])).toBe(false);
  });
  it('take a category key once, weight steps that rise, twelve months', () => {
    const card = marketplaceCardOf([{ upTo: null, pct: 0.1 }]);
    const twice = { ...card, categories: [...card.categories, ...card.categories] };
    expect(marketplaceCard.safeParse(twice).error?.issues[0]?.message).toBe('categoryKeys');
    const warehouse = (steps: object[]) => ({
      ...card,
      warehouse: { tiers: [{ name: 'a', bands: [{ upToPrice: null, table: { steps } }] }] },
    });
    expect(
      marketplaceCard.safeParse(
        warehouse([
          { upToKg: 1, fee: 2 },
          { upToKg: 2, fee: 3 },
        ]),
      ).success,
    ).toBe(true);
    expect(
      marketplaceCard.safeParse(
        warehouse([
          { upToKg: 2, fee: 2 },
          { upToKg: 1, fee: 3 },
        ]),
      ).success,
    ).toBe(false);
    expect(marketplaceCard.safeParse({ ...card, storage: { perM3Month: [1, 2, 3] } }).success).toBe(false);
    expect(marketplaceCard.safeParse({ ...card, inForceFrom: 'soon' }).success).toBe(false);
  });
  it('take VAT rates as shares and duty headings as digits', () => {
    expect(taxCard.safeParse({ ...taxCardOf('inclusive', 19) }).success).toBe(false);
    expect(
      taxCard.safeParse({
        ...taxCardOf('inclusive', 0.19),
        duties: [{ heading: '44.21', origins: null, pct: 0.1 }],
      }).success,
    ).toBe(false);
  });
});
