import { describe, expect, it } from 'vitest';
import { plainLane } from '../testing/documents.ts';
import { allInOne } from './fewOrMany.ts';
import { launchPlan } from './schema.ts';

const lane = (price: number, cost: number, units: number | null, more: object = {}) =>
  plainLane({
    price,
    orderQuantity: 50,
    demand: units === null ? null : { kind: 'typed', units },
    goods: [
      { source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: cost }], ...more } },
    ],
  } as never);
const PLAN = launchPlan.parse({ cash: 2000, reserve: 200, oneOffs: [{ name: 'Photos', amount: 100 }] });

describe('few dear against many cheap', () => {
  it('what the cash buys of each, what that keeps, and in how many months', () => {
    // 1,700 are left for goods: 34 at 50, 340 at 5.
    expect(allInOne(lane(90, 50, 17), PLAN)).toEqual({
      units: 34,
      landedCash: 50,
      unitProfit: 40,
      profit: 34 * 40 - 100,
      months: 2,
      profitPerMonth: (34 * 40 - 100) / 2,
      lacks: [],
    });
    expect(allInOne(lane(9, 5, 85), PLAN)).toMatchObject({ units: 340, profit: 340 * 4 - 100, months: 4 });
  });
  it('adverts and discounts of the launch come off, a price break counts from the order that reaches it', () => {
    const plan = {
      ...PLAN,
      advertising: { kind: 'daily' as const, perDay: 10, days: 10 },
      discounts: { units: 5, discount: 4 },
    };
    const said = allInOne(lane(90, 50, 17), plan);
    // 1,580 are left for goods.
    expect(said).toMatchObject({ units: 31, profit: 31 * 40 - 100 - 100 - 20 });
    const cheaper = lane(90, 50, 17, {
      priceBreaks: [
        { minQty: 0, unitPrice: 50 },
        { minQty: 40, unitPrice: 40 },
      ],
    });
    expect(allInOne(cheaper, PLAN)).toMatchObject({ units: 42, landedCash: 40 });
  });
  it('cash that does not reach the smallest order buys none', () => {
    expect(allInOne(lane(90, 50, 17, { minimumOrder: 100 }), PLAN)).toMatchObject({ units: 0, profit: null });
  });
  it('what is not known is not nothing', () => {
    expect(allInOne(lane(90, 50, null), PLAN)).toMatchObject({
      months: null,
      profitPerMonth: null,
      profit: 1260,
    });
    expect(allInOne({ ...lane(90, 50, 17), prep: null }, PLAN)).toMatchObject({ lacks: ['prep'] });
    expect(allInOne(lane(90, 50, 17), { ...PLAN, cash: null })).toMatchObject({ units: null, profit: null });
  });
});
