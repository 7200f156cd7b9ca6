import { describe, expect, it } from 'vitest';
import { marketplaceCard } from '../cards/rates.ts';
import { marketplaceCardOf } from '../testing/documents.ts';
import { candidateOf, firstSource, isHeading, newCandidate } from './newCandidate.ts';
import type { NewCandidate } from './newCandidate.ts';
import { settings } from './settings.ts';

const typed = (over: Partial<NewCandidate> = {}): NewCandidate =>
  newCandidate.parse({
    name: ' Bird house ',
    way: 'ownBrand',
    price: 39.9,
    cost: 9.5,
    costCurrency: 'USD',
    sides: [30, 20, 15],
    kg: 1.2,
    marketplaceCardId: null,
    country: 'DE',
    ...over,
  });
const { defaults } = settings.parse({ defaults: { leadDays: 35 } });

describe('a product that is typed in', () => {
  it('is a candidate under its trimmed name, with what is known of the goods', () => {
    expect(candidateOf(typed({ origin: 'CN', hsCode: '4421' }), null)).toMatchObject({
      name: 'Bird house',
      way: 'ownBrand',
      stage: 'idea',
      product: { sides: [30, 20, 15], kg: 1.2, origin: 'CN', hsCode: '4421', category: null },
    });
  });
  it('is in the first category of its marketplace unless one is chosen', () => {
    const card = marketplaceCard.parse(marketplaceCardOf([{ upTo: null, pct: 0.1 }]));
    expect(candidateOf(typed(), card).product.category).toBe('any');
    expect(candidateOf(typed({ category: 'garden' }), card).product.category).toBe('garden');
  });
  it.each([
    ['ownBrand', 'FOB', 35],
    ['wholesale', 'DAP', 3],
    ['supplierShips', 'EXW', 0],
    ['feeCheck', 'EXW', 0],
  ] as const)('by the way %s is quoted %s and takes %i days', (way, incoterm, leadDays) => {
    expect(firstSource(typed({ way }), defaults)).toMatchObject({
      kind: 'quote',
      currency: 'USD',
      incoterm,
      leadDays,
      priceBreaks: [{ minQty: 0, unitPrice: 9.5 }],
    });
  });
  it('from a shop stands on its shelf', () => {
    expect(firstSource(typed({ way: 'retail' }), defaults)).toMatchObject({
      kind: 'retail',
      currency: 'USD',
      shelfPrice: 9.5,
    });
  });
  it('without a cost leaves it blank: it is no 0', () => {
    expect(firstSource(typed({ cost: null }), defaults)).toMatchObject({
      priceBreaks: [{ unitPrice: null }],
    });
    expect(firstSource(typed({ cost: null, way: 'retail' }), defaults)).toMatchObject({ shelfPrice: null });
  });
});

describe('what is typed', () => {
  it('names the field that is wrong', () => {
    const wrong = (over: object) =>
      newCandidate.safeParse({ ...typed(), ...over }).error?.issues.map((x) => x.path.join('.'));
    expect(wrong({ name: '  ' })).toEqual(['name']);
    expect(wrong({ price: -1 })).toEqual(['price']);
    expect(wrong({ cost: Number.NaN })).toEqual(['cost']);
    expect(wrong({ sides: [1, 2, 0] })).toEqual(['sides.2']);
    expect(wrong({ country: 'de' })).toEqual(['country']);
    expect(wrong({ hsCode: '44' })).toEqual(['hsCode']);
  });
  it('a heading of the tariff has 4 to 10 digits', () => {
    expect(['442', '4421', '4421909790', '44219097901', '44.21', ''].map(isHeading)).toEqual([
      false,
      true,
      true,
      false,
      false,
      false,
    ]);
  });
});
