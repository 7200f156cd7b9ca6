/** What cannot be, or is not known: each says which input to change, and no figure stands as if it were clean. */
import { describe, expect, it } from 'vitest';
import { laneDocument } from '../lane/schema.ts';
import { plainLane, taxCardOf } from '../testing/documents.ts';
import { cashOf } from './cash.ts';
import { cashPlan } from './schema.ts';

const quote = (more: object = {}) => ({
  source: {
    kind: 'quote',
    currency: 'EUR',
    priceBreaks: [{ minQty: 0, unitPrice: 10 }],
    leadDays: 20,
    ...more,
  },
});
const LANE = plainLane({
  price: 25,
  orderQuantity: 100,
  demand: { kind: 'typed', units: 60 },
  goods: [quote()],
  payoutEveryDays: 14,
  payoutDelayDays: 3,
  rates: { tax: taxCardOf('exclusive', 0) },
} as never);
const lane = (more: object) => laneDocument.parse({ ...LANE, ...more });
const PLAN = cashPlan.parse({ start: '2026-12-01' });

describe('a lane that lacks something', () => {
  it.each([
    ['units a month', { demand: null }, 'demand'],
    ['a lead time', { goods: [quote({ leadDays: null })] }, 'leadDays'],
    ['days of transit', { route: { legs: [], transitDays: null } }, 'transitDays'],
    ['days between payouts', { payoutEveryDays: null }, 'payoutEvery'],
    ['days a payout takes', { payoutDelayDays: null }, 'payoutDelay'],
    ['a quantity', { orderQuantity: null }, 'orderQuantity'],
    ['a price', { price: null }, 'price'],
    ['a cost', { prep: null }, 'prep'],
  ])('%s: named, and nothing else is said', (_, more, lacks) => {
    const said = cashOf(lane(more), PLAN);
    expect(said.known).toBe(false);
    if (!said.known) expect(said.lacks).toContain(lacks);
    expect(Object.keys(said)).toEqual(['known', 'lacks', 'problems']);
  });
  it('an amount of the launch that was opened and not filled in', () => {
    for (const launch of [
      { oneOffs: [{ name: 'Photos', amount: null }] },
      { advertising: { kind: 'daily', perDay: 5, days: null } },
      { advertising: { kind: 'units', units: null } },
    ])
      expect(cashOf(LANE, cashPlan.parse({ launch }))).toMatchObject({ known: false, lacks: ['launch'] });
  });
  it('a currency without a rate', () => {
    const said = cashOf(lane({ homeCurrency: 'GBP' }), PLAN);
    expect(said).toMatchObject({ known: false, problems: ['noExchangeRate'] });
    const quoted = cashOf(lane({ goods: [quote({ currency: 'USD' })] }), PLAN);
    expect(quoted).toMatchObject({ known: false, problems: ['noExchangeRate'] });
  });
  it('a supplier who ships cannot break goods, nor sell them again', () => {
    const ships = { method: 'supplierShips', goods: [quote()], supplierDelivery: 'none', breakage: 0.1 };
    expect(cashOf(lane(ships), PLAN)).toMatchObject({
      known: false,
      problems: expect.arrayContaining(['shipsWithoutStock']),
    });
  });
});

describe('a plan that cannot be', () => {
  it.each([
    ['no days', { horizon: 0 }, 'horizon'],
    ['more than five years', { horizon: 1826 }, 'horizon'],
    ['half a day', { horizon: 10.5 }, 'horizon'],
    ['a ramp of zeros', { ramp: [0, 0] }, 'rampSellsNothing'],
    ['a ramp of nothing', { ramp: [] }, 'ramp'],
    ['a start that is no day', { start: '2026-02-30' }, 'start'],
    ['a reserve of more than a payout', { reserveShare: 1.2 }, 'reserveShare'],
    ['returns on sale before they are back', { returnedAfter: 0 }, 'returnedAfter'],
    ['cover for no days', { reorder: { kind: 'cover', days: 0 } }, 'days'],
    ['a case under nothing', { cases: { low: -1 } }, 'low'],
    ['a reserve under nothing', { launch: { reserve: -5 } }, 'reserve'],
  ])('%s is refused at the edge', (_, plan, why) => {
    const read = cashPlan.safeParse(plan);
    expect(read.success).toBe(false);
    expect(JSON.stringify(read.error?.issues)).toContain(why);
  });
  it.each([
    ['a deposit over one', { goods: [quote({ depositShare: 1.5 })] }],
    ['a season with negative months', { season: [1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, -1] }],
    ['a season of zeros', { season: new Array(12).fill(0) }],
    ['a season of eleven months', { season: new Array(11).fill(1) }],
  ])('%s is refused with the lane', (_, more) => {
    expect(laneDocument.safeParse({ ...LANE, ...more }).success).toBe(false);
  });
});

describe('what is odd and can be', () => {
  const run = (doc: typeof LANE, plan: object = {}) => {
    const said = cashOf(doc, cashPlan.parse({ start: '2026-12-01', ...plan }));
    if (!said.known) throw new Error(`${said.lacks} ${said.problems}`);
    return said.cases.expected;
  };
  it('a start in the past runs from its day', () => {
    const past = cashOf(LANE, cashPlan.parse({ start: '2020-02-29', horizon: 30 }));
    expect(past).toMatchObject({ known: true, start: '2020-02-29' });
  });
  it('a horizon of a day is two days of figures', () => {
    expect(run(LANE, { horizon: 1 }).run.cumulated).toHaveLength(2);
  });
  it('1e12 units a month sell what there is, and every figure stays a number', () => {
    const c = run(lane({ demand: { kind: 'typed', units: 1e12 } }), { horizon: 365 });
    expect(Number.isFinite(c.end)).toBe(true);
    expect(Number.isFinite(c.unitsLost)).toBe(true);
    expect(c.daysShort).toBeGreaterThan(300);
  });
  it('no units at all sell nothing and bring nothing back', () => {
    const c = run(lane({ demand: { kind: 'typed', units: 0 } }));
    expect(c).toMatchObject({ unitsSold: 0, payback: null, daysShort: 0, moneyNeeded: 1000 });
  });
  it('a reserve over the cash lets no reorder that waits for cash through', () => {
    const launch = { cash: 1000, reserve: 50_000 };
    const c = run(LANE, { selfFunding: true, launch });
    expect(c.run.orders).toHaveLength(1);
  });
});
