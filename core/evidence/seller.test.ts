import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sellerChanges, sellerSaid } from './seller.ts';
import type { SellerGoods } from './seller.ts';

const goods = (listing: string, over: Partial<SellerGoods> = {}): SellerGoods => ({
  listing,
  title: listing,
  brand: '',
  category: 'garden',
  price: 10,
  units: 10,
  daysListed: 400,
  ...over,
});

describe('another seller’s shop', () => {
  it('adds up what is known, and says of how many goods that is', () => {
    const said = sellerSaid(
      [
        goods('a', { units: 70, price: 20, brand: 'Fen', daysListed: 10 }),
        goods('b', { units: 20, price: null, category: 'pets' }),
        goods('c', { units: null, price: 40, brand: 'Fen' }),
        goods('d', { units: 10, price: 30, daysListed: null }),
      ],
      30,
    );
    expect(said).toMatchObject({
      listings: 4,
      units: 100,
      unitsOf: 3,
      revenue: 70 * 20 + 10 * 30,
      revenueOf: 2,
      prices: { low: 25, middle: 30, high: 35 },
      // The best fifth of three is one.
      bestFifth: 0.7,
      fresh: 1,
      brands: [{ name: 'Fen', listings: 2, share: 0.7 }],
      categories: [
        { name: 'garden', listings: 3, share: 0.8 },
        { name: 'pets', listings: 1, share: 0.2 },
      ],
    });
  });
  it('knows nothing of nothing', () => {
    expect(sellerSaid([], 30)).toEqual({
      listings: 0,
      units: null,
      unitsOf: 0,
      revenue: null,
      revenueOf: 0,
      prices: null,
      bestFifth: null,
      fresh: 0,
      brands: [],
      categories: [],
    });
    expect(sellerSaid([goods('a', { units: 0, price: 5, brand: 'B' })], 30)).toMatchObject({
      units: 0,
      bestFifth: null,
      brands: [{ name: 'B', listings: 1, share: null }],
    });
  });
  it('shares of its categories come to one where all goods have one and some are sold', () => {
    const any = fc.record({
      category: fc.constantFrom('a', 'b', 'c'),
      units: fc.option(fc.integer({ min: 1, max: 500 })),
    });
    fc.assert(
      fc.property(fc.array(any, { minLength: 1, maxLength: 40 }), (all) => {
        const said = sellerSaid(
          all.map((g, i) => goods(String(i), g)),
          30,
        );
        fc.pre(said.units !== null);
        const sum = said.categories.reduce((n, c) => n + (c.share ?? 0), 0);
        expect(sum).toBeCloseTo(1, 9);
        expect(said.categories.reduce((n, c) => n + c.listings, 0)).toBe(all.length);
      }),
    );
  });
});

describe('what changed in a shop', () => {
  const of = (prices: Record<string, number | null>) =>
    Object.entries(prices).map(([listing, price]) => ({ listing, price }));
  const before = of({ a: 10, b: 10, c: 10, d: 10, e: null, f: 0 });
  const now = of({ a: 9.5, b: 10.5, c: 10.49, e: 5, f: 5, g: 7 });
  it('goods that came, went, or moved by a twentieth', () => {
    expect(sellerChanges(before, now, true)).toEqual({
      fresh: ['g'],
      gone: ['d'],
      cheaper: ['a'],
      dearer: ['b'],
    });
  });
  it('where only a part of a shop is seen, none is said to have come or gone', () => {
    expect(sellerChanges(before, now, false)).toMatchObject({ fresh: [], gone: [], cheaper: ['a'] });
  });
  it('the same shop has not changed', () => {
    expect(sellerChanges(before, before, true)).toEqual({ fresh: [], gone: [], cheaper: [], dearer: [] });
  });
});
