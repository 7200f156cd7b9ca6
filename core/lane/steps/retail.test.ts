import { describe, expect, it } from 'vitest';
import { evaluate } from '../evaluate.ts';
import { retailPurchase } from '../schema.ts';
import { workings } from '../workings.ts';
import { plainLane } from '../../testing/documents.ts';
import { discountSteps, retailSteps } from './retail.ts';

const shop = (over: object) =>
  retailPurchase.parse({ kind: 'retail', currency: 'EUR', shelfPrice: 20, ...over });
const both = [
  { kind: 'coupon', amount: 6, covers: 2 },
  { kind: 'percent', share: 0.25 },
];

describe('a retail price step by step', () => {
  it('percentages first unless the order is as listed', () => {
    expect(discountSteps(shop({ discounts: both }), 20).map((d) => [d.discount.kind, d.price])).toEqual([
      ['percent', 15],
      ['coupon', 12],
    ]);
    expect(discountSteps(shop({ discounts: both, reordered: true }), 20).map((d) => d.price)).toEqual([
      17, 12.75,
    ]);
    expect(
      discountSteps(shop({ discounts: [{ kind: 'coupon', amount: 30, covers: 1 }] }), 20)[0]?.price,
    ).toBe(0);
  });
  it('is the example of the formulas: tax, gift card, cashback', () => {
    const s = shop({
      discounts: both,
      salesTax: 0.08,
      giftCard: { discount: 0.05 },
      cashback: { share: 0.04 },
    });
    expect(retailSteps(s, 20)).toMatchObject({
      afterDiscounts: 12,
      net: 12,
      vat: 0,
      salesTax: expect.closeTo(0.96, 9),
      atTill: expect.closeTo(12.96, 9),
      giftCardSaving: expect.closeTo(0.648, 9),
      cashback: expect.closeTo(0.48, 9),
    });
    expect(evaluate(plainLane({ goods: [{ source: s }] })).lines.goods).toBeCloseTo(11.832, 9);
    expect(retailSteps(shop({ ...s, exempt: true }), 20).salesTax).toBe(0);
  });
  it('cashback leaves out the part paid by gift card, and takes tax in, where the shop does so', () => {
    const s = { salesTax: 0.1, giftCard: { discount: 0.05, part: 0.5 } };
    expect(
      retailSteps(shop({ ...s, cashback: { share: 0.1, taxCounts: true, giftCardsCount: false } }), 20)
        .cashback,
    ).toBeCloseTo(0.1 * 22 * 0.5, 9);
    expect(retailSteps(shop({ ...s, cashback: { share: 0.1 } }), 20).cashback).toBeCloseTo(2, 9);
  });
  it('two shops asked one after the other do not share a step', () => {
    const [a, b] = [retailSteps(shop({}), 20), retailSteps(shop({}), 30)];
    expect([a.atTill, b.atTill]).toEqual([20, 30]);
  });
});

it('a converted line names its rate and day, one that is not names none', () => {
  const rates = {
    tax: plainLane().rates.tax,
    exchange: { date: '2026-11-20', base: 'EUR', rates: { USD: 1.25 } },
  };
  const w = workings(
    plainLane({
      rates,
      goods: [{ source: { kind: 'quote', currency: 'USD', priceBreaks: [{ minQty: 0, unitPrice: 5 }] } }],
    }),
  );
  expect(w.goods?.[0]?.rates).toEqual([{ from: 'USD', to: 'EUR', factor: 0.8, date: '2026-11-20' }]);
  expect(w.unitProfit?.every((s) => s.rates.length === 0)).toBe(true);
});
