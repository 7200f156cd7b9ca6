import { describe, expect, it } from 'vitest';
import { plainLane, taxCardOf } from '../testing/documents.ts';
import { randomLane } from '../testing/lanes.ts';
import { Draw } from '../testing/draw.ts';
import { evaluate } from '../lane/evaluate.ts';
import type { LaneDocument, LaneDocumentInput } from '../lane/schema.ts';
import { launch } from './launch.ts';
import { lacksOfLine } from './bounds.ts';
import { admissibleOrders, breakQuantities } from './orders.ts';
import { monthOf } from './launch.ts';
import { quantitiesToCompare } from './orders.ts';
import { launchPlan, launchResult } from './schema.ts';
import { cases, enough } from '../testing/seed.ts';

const plan = (over: object = {}) => launchPlan.parse(over);
const quote = (over: object = {}) => [
  {
    source: { kind: 'quote' as const, currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 5 }], ...over },
  },
];
const lane = (over: Partial<LaneDocumentInput> = {}): LaneDocument =>
  plainLane({ price: 20, goods: quote(), orderQuantity: 100, demand: { kind: 'typed', units: 50 }, ...over });

describe('11 launch budget', () => {
  it('one-offs 300, goods 100 x 5, adverts 10 x 20 days, 15 units 4 off, 10 % contingency: 1166', () => {
    const r = launch(
      lane({ goods: quote({ oneOffs: [{ name: 'tooling', amount: 100 }] }) }),
      plan({
        cash: 2000,
        reserve: 500,
        contingency: 0.1,
        oneOffs: [{ name: 'photos', amount: 200 }],
        advertising: { kind: 'daily', perDay: 10, days: 20 },
        discounts: { units: 15, discount: 4 },
      }),
    );
    expect(r.oneOffs).toEqual([
      { name: 'photos', amount: 200, source: 'plan' },
      { name: 'tooling', amount: 100, source: 'quote' },
    ]);
    expect(r.budget?.lines).toEqual({
      oneOffs: 300,
      goods: 500,
      advertising: 200,
      discounts: 60,
      contingency: 106,
    });
    expect(r.budget?.total).toBeCloseTo(1166, 9);
    expect(r.budget?.leftOfCash).toBeCloseTo(334, 9);
    // (2000 - 500) / 1.1 - 300 - 200 - 60
    expect(r.productBudget).toBeCloseTo(1500 / 1.1 - 560, 9);
    expect(r.mostUnits).toBe(160);
    expect(r.mostPerUnit).toBeCloseTo((1500 / 1.1 - 560) / 100, 9);
    expect(r.mostUnitPrice).toBeCloseTo((1500 / 1.1 - 560) / 100, 9);
    expect(launchResult.parse(r)).toEqual(r);
  });
  it('counts VAT paid on goods in full, and adverts by units at cpc / conversion', () => {
    const doc = lane({
      goods: quote({ vat: 'added', vatRate: 0.2 }),
      adverts: { keywords: [{ low: 0.5, high: 0.5, conversionRate: 0.1 }] },
    });
    const r = launch(doc, plan({ advertising: { kind: 'units', units: 30 } }));
    expect(r.budget?.lines).toMatchObject({ goods: 600, advertising: 150 });
  });
  it('a line says which costs it lacks: the goods those of their way in, the contingency those of any', () => {
    const doc = lane({ imported: true, route: null });
    const unit = evaluate(doc);
    const careful = launch(doc, plan({ contingency: 0.1 }));
    expect(lacksOfLine('goods', unit, careful)).toEqual(expect.arrayContaining(['freight']));
    expect(lacksOfLine('goods', unit, careful)).not.toContain('advertising');
    expect(lacksOfLine('contingency', unit, careful)).toEqual(careful.incomplete);
    expect(lacksOfLine('contingency', unit, launch(doc, plan()))).toEqual([]);
    expect(lacksOfLine('discounts', unit, careful)).toEqual([]);
    expect(lacksOfLine('goods', evaluate(lane()), launch(lane(), plan()))).toEqual([]);
  });
  it('says what is left out, and what is not known', () => {
    expect(launch(lane(), plan())).toMatchObject({
      incomplete: ['advertising'],
      budget: { lines: { advertising: null }, total: 500 },
    });
    expect(launch(lane({ goods: null }), plan({ cash: 100 }))).toMatchObject({
      mostUnits: null,
      reasons: { budget: 'blank: goods' },
    });
    expect(launch(lane({ orderQuantity: null }), plan())).toMatchObject({
      budget: null,
      reasons: { budget: 'blank: orderQuantity', productBudget: 'blank: cash' },
    });
  });
  it('restates in the home currency: 500 EUR are 625 USD at 1.25', () => {
    const doc = lane({
      homeCurrency: 'USD',
      rates: {
        tax: taxCardOf('exclusive', 0),
        exchange: { date: '2026-11-20', base: 'EUR', rates: { USD: 1.25 } },
      },
    });
    const r = launch(doc, plan({ cash: 1000 }));
    expect([r.currency, r.budget?.lines.goods, r.mostUnits, r.mostUnitPriceCurrency]).toEqual([
      'USD',
      625,
      160,
      'EUR',
    ]);
    expect(r.mostUnitPrice).toBeCloseTo(8, 9);
  });
  it('shelf-price band: 3 to 5 times what of 10 a unit is goods (here all of it, or as the workspace says)', () => {
    expect(launch(lane(), plan({ cash: 1000 })).shelfPriceBand).toEqual({ low: 30, high: 50 });
    expect(
      launch(lane({ goods: null, price: null }), plan({ cash: 1000, goodsShareOfLanded: 0.6 }))
        .shelfPriceBand,
    ).toEqual({ low: 18, high: 30 });
  });
  it('orders come in whole cartons of every component, from the minimum on', () => {
    expect(admissibleOrders(lane({ goods: quote({ carton: { units: 24 }, minimumOrder: 100 }) }))).toEqual({
      step: 24,
      first: 120,
    });
    // Breaks at 50 and 200 in cartons of 24 are reached with 72 and 216; one below the order is reached
    // already.
    expect(
      breakQuantities(
        lane({
          orderQuantity: 30,
          goods: quote({
            carton: { units: 24 },
            priceBreaks: [
              { minQty: 0, unitPrice: 5 },
              { minQty: 20, unitPrice: 4.9 },
              { minQty: 50, unitPrice: 4.5 },
              { minQty: 200, unitPrice: 4 },
            ],
          }),
        }),
      ),
    ).toEqual([30, 72, 216]);
    expect(
      admissibleOrders(
        lane({
          goods: [
            {
              unitsInSoldPack: 4,
              unitsInBoughtPack: 6,
              source: quote({ carton: { units: 10 } })[0]?.source as never,
            },
          ],
        }),
      ),
    ).toEqual({ step: 15, first: 15 });
    expect(
      admissibleOrders(
        lane({
          goods: [
            ...quote({ carton: { units: 6 } }),
            ...quote({ carton: { units: 8 }, priceBreaks: [{ minQty: 50, unitPrice: 1 }] }),
          ],
        }),
      ),
    ).toEqual({ step: 24, first: 72 });
  });
  it('more can cost less at a price break: 200 at 3 fit where 150 at 5 do not', () => {
    const goods = quote({
      priceBreaks: [
        { minQty: 0, unitPrice: 5 },
        { minQty: 200, unitPrice: 3 },
      ],
    });
    expect(launch(lane({ goods }), plan({ cash: 620 })).mostUnits).toBe(206);
    expect(launch(lane({ goods }), plan({ cash: 590 })).mostUnits).toBe(118);
  });
  it('none fits: 0, and what the smallest order lacks', () => {
    expect(launch(lane({ goods: quote({ minimumOrder: 100 }) }), plan({ cash: 420 }))).toMatchObject({
      mostUnits: 0,
      shortfall: 80,
      smallestOrder: 100,
    });
  });
  it(
    'goal 1200 a month and 150 of fixed costs at 15 a unit: 90 units, 2.96 a day; the launch money ' +
      'is back from what sales bring in',
    () => {
      const r = launch(
        lane(),
        plan({
          monthlyProfitGoal: 1200,
          monthlyFixedCosts: 150,
          advertising: { kind: 'daily', perDay: 0, days: 0 },
        }),
      );
      expect(r.unitsADay).toBeCloseTo(90 / 30.4375, 12);
      // 500 of launch cash; a month brings 50 times 15 of profit and 5 that were paid for the goods. Cover is
      // two months.
      expect(r.monthsToPayBack).toBeCloseTo(500 / (50 * (15 + 5)), 12);
      expect(launch(lane(), plan({ dailyProfitGoal: 15 })).unitsADay).toBeCloseTo(1, 12);
      expect(launch(lane({ price: 4 }), plan({ monthlyProfitGoal: 100 }))).toMatchObject({
        unitsADay: null,
        monthsToPayBack: null,
        reasons: { unitsADay: 'not above zero: unitProfit' },
      });
    },
  );
  it('one-offs of 470 are back after 32 units; the month is counted on the sales plan', () => {
    expect(launch(lane(), plan({ oneOffs: [{ name: 'a', amount: 470 }] }))).toMatchObject({
      breakEvenUnits: 32,
      breakEvenMonth: 1,
    });
    expect([monthOf(120, 50, null), monthOf(100, 50, null), monthOf(1, 0, null)]).toEqual([3, 2, null]);
    expect(monthOf(100, 50, [0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0], 1)).toBe(3);
  });
  it('proposes half, all and twice the order, in cartons, from the minimum on', () => {
    expect(quantitiesToCompare({ step: 24, first: 120 }, 300)).toEqual([144, 312, 600]);
    expect(quantitiesToCompare({ step: 24, first: 480 }, 300)).toEqual([480, 600]);
  });
  it('compares quantities with their price breaks', () => {
    const goods = quote({
      priceBreaks: [
        { minQty: 0, unitPrice: 5 },
        { minQty: 200, unitPrice: 4 },
      ],
      carton: { units: 50 },
    });
    const r = launch(lane({ goods }), plan({ quantities: [100, 200, 210] }));
    expect(
      r.compared.map((c) => [c.quantity, c.unitLandedCash, c.lines.goods, c.admissible, c.coverMonths]),
    ).toEqual([
      [100, 5, 500, true, 2],
      [200, 4, 800, true, 4],
      [210, 4, 840, false, 4.2],
    ]);
  });
});

describe('most units against trying every order', () => {
  it('agrees on random lanes with breaks, cartons, bands and container steps', () => {
    let compared = 0;
    for (let seed = 0; seed < 1500 && compared < cases(120); seed++) {
      const doc = { ...randomLane(seed, 0), monthsHeld: 1 };
      const draw = new Draw(seed);
      const orders = admissibleOrders(doc);
      const cashOf = (q: number): number | null => {
        const cash = evaluate({ ...doc, orderQuantity: q }).figures.landedCash;
        const rate = doc.rates.exchange;
        const per = (c: string): number | undefined =>
          rate === null ? undefined : c === rate.base ? 1 : rate.rates[c];
        const a = per(doc.currency);
        const b = per(doc.homeCurrency);
        return cash === null
          ? null
          : doc.currency === doc.homeCurrency
            ? cash * q
            : a === undefined || b === undefined
              ? null
              : (cash * q * b) / a;
      };
      const some = orders.first + orders.step * draw.int(0, 40);
      const near = cashOf(some);
      if (near === null || near <= 0 || orders.step > 500) continue;
      const cash = near * (0.9 + draw.next() * 0.3);
      let most = 0;
      // Unit costs fall at most by half in these lanes, so an order of four times the cash fits no more.
      for (let q = orders.first, missed = 0; missed < 3 && q < 60_000; q += orders.step) {
        const c = cashOf(q);
        if (c !== null && c <= cash + 1e-9) most = q;
        missed = c !== null && c > 4 * cash ? missed + 1 : 0;
      }
      if (most > 50_000) continue;
      const got = launch(doc, plan({ cash, advertising: { kind: 'daily', perDay: 0, days: 0 } }));
      // One-offs of the quotes come out of the budget too.
      const oneOffs = got.oneOffs.reduce((s, o) => s + (o.amount ?? Number.NaN), 0);
      if (!(oneOffs === 0)) continue;
      // Where the smallest order's cost is unknown (its price is still to be quoted), none fitting is not known either.
      const expected = most === 0 && cashOf(orders.first) === null ? null : most;
      expect(`${seed}: ${got.mostUnits}`).toBe(`${seed}: ${expected}`);
      compared++;
    }
    expect(compared).toBeGreaterThan(enough(40));
  });
});
