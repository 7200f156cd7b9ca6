import { describe, expect, it } from 'vitest';
import { evaluate } from './evaluate.ts';
import { laneDocument } from './schema.ts';
import type { LaneDocumentInput } from './schema.ts';
import { priceFor } from './solve.ts';
import { plainLane, taxCardOf, marketplaceCardOf } from '../testing/documents.ts';

/** The worked examples of economics.md, section 16. */
describe('worked examples', () => {
  it('1: a retail purchase through coupon, tax, gift card and cashback', () => {
    const doc = plainLane({
      goods: [
        {
          source: {
            kind: 'retail',
            currency: 'EUR',
            shelfPrice: 20,
            discounts: [
              { kind: 'percent', share: 0.25 },
              { kind: 'coupon', amount: 6, covers: 2 },
            ],
            salesTax: 0.08,
            giftCard: { discount: 0.05 },
            cashback: { share: 0.04 },
          },
        },
      ],
    });
    const r = evaluate(doc);
    expect(r.lines.goods).toBeCloseTo(11.832, 10);
    expect(r.figures.landedCash).toBeCloseTo(12.312, 10);
  });

  it('2: an own brand shipped in by sea', () => {
    const r = evaluate(laneDocument.parse(importedLane));
    expect(r.problems).toEqual([]);
    expect(r.figures.importVat).toBeCloseTo(0.91568625, 12);
    expect(r.figures.landedCost).toBeCloseTo(5.07843125, 12);
    expect(r.figures.landedCash).toBeCloseTo(5.9941175, 12);
    expect(r.lines.storage).toBeCloseTo(0.04, 12);
    expect(r.lines.returns).toBeCloseTo(0.77903921875, 12);
    expect(r.figures.unitProfit).toBeCloseTo(5.38252953125, 12);
  });

  it('3: a whole-tier referral fee makes a dip above the break-even price', () => {
    const doc = plainLane({
      price: 12,
      goods: [{ source: { kind: 'quote', currency: 'USD', priceBreaks: [{ minQty: 1, unitPrice: 7 }] } }],
      currency: 'USD',
      homeCurrency: 'USD',
      country: 'US',
      orderQuantity: 1,
      referralApplies: true,
      typed: { fulfilmentFee: 2 },
      product: { category: 'any' },
      rates: {
        tax: { ...taxCardOf('exclusive', 0), currency: 'USD' },
        marketplace: {
          ...marketplaceCardOf([
            { upTo: 10, pct: 0.08 },
            { upTo: null, pct: 0.15 },
          ]),
          currency: 'USD',
        },
      },
    });
    const answer = priceFor(doc);
    expect(answer.price).toBe(9.78);
    expect(answer.dips).toEqual([{ from: 10.01, to: 10.58 }]);
  });
});

const importedLane: LaneDocumentInput = {
  format: 'bold-margin/lane',
  version: 1,
  date: '2026-11-24',
  homeCurrency: 'EUR',
  country: 'DE',
  currency: 'EUR',
  imported: true,
  price: 24,
  standing: { kind: 'registered' },
  orderQuantity: 500,
  goods: [
    {
      source: {
        kind: 'quote',
        currency: 'EUR',
        incoterm: 'FOB',
        priceBreaks: [{ minQty: 1, unitPrice: 4 }],
        carton: { units: 20, volumeM3: 0.05 },
      },
    },
  ],
  route: {
    insuranceRate: 0.005,
    legs: [
      { stage: 'main', basis: 'perCbm', rate: 90, currency: 'EUR' },
      { stage: 'inbound', basis: 'perCarton', rate: 4, currency: 'EUR' },
    ],
  },
  product: { sides: [20, 10, 10], kg: 0.5, category: 'any', hsCode: '4421', origin: 'CN' },
  prep: { standard: 0.3, currency: 'EUR' },
  typed: { fulfilmentFee: 3.12 },
  storage: 'card',
  returns: { rate: 0.05, resaleShare: 0.5, handling: { amount: 1, currency: 'EUR' } },
  adverts: { keywords: [{ low: 0.4, high: 0.6, conversionRate: 0.1 }], adShare: 0.4 },
  demand: { kind: 'typed', units: 250 },
  rates: {
    tax: {
      ...taxCardOf('inclusive', 0.2),
      duties: [{ heading: '44', origins: null, pct: 0.05 }],
      importCharges: [{ name: 'clearance', flat: 60 }],
    },
    marketplace: {
      ...marketplaceCardOf([{ upTo: null, pct: 0.15 }]),
      refund: { adminPct: 0.2, adminMax: 5 },
      storage: { perM3Month: Array(12).fill(20) },
    },
  },
};
