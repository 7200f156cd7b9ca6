import { describe, expect, it } from 'vitest';
import { plainLane } from '../testing/documents.ts';
import { evaluate } from './evaluate.ts';
import { trial } from './trial.ts';

describe('worst, expected and best', () => {
  const doc = plainLane({
    price: 20,
    goods: [
      { source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 8 }] } },
      { source: { kind: 'retail', currency: 'EUR', shelfPrice: 2 } },
    ],
    demand: { kind: 'offerSplit', listingUnits: 100, band: 0.01, rivals: [20] },
  });
  it('multiplies the price and every cost of goods', () => {
    expect(evaluate(trial(doc, 50, 0.9, 1.1)).figures.unitProfit).toBeCloseTo(18 - 11, 12);
    expect(evaluate(trial(doc, 50, 1, 1)).figures.unitProfit).toBeCloseTo(10, 12);
  });
  it('keeps the units a month, although a dearer offer would be out of the running', () => {
    expect(evaluate({ ...doc, price: 22 }).figures.expectedMonthlyUnits).toBe(0);
    expect(evaluate(trial(doc, 50, 1.1, 1)).figures.expectedMonthlyUnits).toBe(50);
  });
  it('leaves unknown what is unknown', () => {
    expect(trial(plainLane({ price: null, goods: null }), null, 1.1, 0.9)).toMatchObject({
      price: null,
      goods: null,
      demand: null,
    });
  });
});
