/** The launch of a lane: its own days, demand, season and ramp in the run; the calendar; the plan at its edge. */
import { describe, expect, it } from 'vitest';
import { evaluate } from '../lane/evaluate.ts';
import { quote } from '../lane/schema.ts';
import { plainLane, taxCardOf } from '../testing/documents.ts';
import { calendarOf, dayText } from './calendar.ts';
import { cashOf } from './cash.ts';
import type { CaseCash, CashRuns } from './cash.ts';
import { CASH_CASES, cashPlan } from './schema.ts';
import type { CashPlan } from './schema.ts';

const planOf = (over: object = {}): CashPlan => cashPlan.parse(over);
const PACKS = { unitsInSoldPack: 1, unitsInBoughtPack: 1 };
const goodsWith = (leadDays: number | null) => [
  {
    name: '',
    unitsInSoldPack: 1,
    unitsInBoughtPack: 1,
    source: quote.parse({
      kind: 'quote',
      currency: 'EUR',
      incoterm: 'DDP',
      leadDays,
      priceBreaks: [{ minQty: 0, unitPrice: 10 }],
    }),
  },
];
const LANE = plainLane({
  price: 40,
  goods: goodsWith(9.2),
  demand: { kind: 'typed', units: 60 },
  payoutEveryDays: 14,
  payoutDelayDays: 3,
  orderQuantity: 100,
});
const runs = (over: object = {}, plan: object = {}): CashRuns => {
  const said = cashOf({ ...LANE, ...over } as typeof LANE, planOf({ start: '2026-11-29', ...plan }));
  if (!said.known) throw new Error(`${said.lacks} ${said.problems}`);
  return said;
};
const expected = (over: object = {}, plan: object = {}): CaseCash => runs(over, plan).cases.expected;

describe('the launch of a lane', () => {
  it('days round up, the goods are paid at once, and the money is back when payouts have brought it', () => {
    const one = expected({}, { reorder: { kind: 'none' } });
    expect(runs().onSale).toBe(10);
    expect([one.moneyNeeded, one.neededOn]).toEqual([1000, 0]);
    // 25 units at 40 bring it: the fourth fortnight from day 10 ends after the stock is sold; the first pays 1,104.
    expect(one.payback).toBe(10 + 13 + 3);
    expect(one.unitsSold).toBeCloseTo(100, 9);
    expect(one.daysShort).toBeGreaterThan(200);
    expect(one.profitLost).toBeCloseTo(one.unitsLost * (evaluate(LANE).figures.unitProfit as number), 6);
  });
  it('the three cases sell less and more, and evaluate the lane at their units', () => {
    const { cases } = runs({}, { reorder: { kind: 'cover', days: 30 } });
    expect(CASH_CASES.map((c) => cases[c].units)).toEqual([36, 60, 78]);
    expect(cases.low.unitsSold).toBeLessThan(cases.expected.unitsSold);
    expect(cases.high.unitsSold).toBeGreaterThan(cases.expected.unitsSold);
  });
  it('the first order alone needs no more than with those that follow', () => {
    const all = expected({}, { safetyDays: 60 });
    expect(all.run.orders.length).toBeGreaterThan(1);
    expect(all.firstOrder.moneyNeeded).toBeLessThanOrEqual(all.moneyNeeded);
    expect(all.firstOrder.payback).toBe(expected({}, { reorder: { kind: 'none' } }).payback);
  });
  it('self-funding waits for the balance, and orders once it is there', () => {
    const launch = { cash: 1000, reserve: 0 };
    const soon = { launch, safetyDays: 60, reorder: { kind: 'same', notBefore: 1 } };
    const eager = expected({}, soon);
    const waits = expected({}, { ...soon, selfFunding: true });
    expect(eager.lowestBalance).toBeLessThan(-900);
    expect(waits.lowestBalance).toBeGreaterThanOrEqual(-1e-9);
    expect(waits.run.orders[1]?.day).toBeGreaterThan(eager.run.orders[1]?.day as number);
  });
  it('says by when to order for the peak, and when that is too late', () => {
    const season = [1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1.2, 3];
    const { peaks } = runs({ season }, { start: '2026-06-01', horizon: 365 });
    expect(peaks).toHaveLength(1);
    expect(peaks[0]).toMatchObject({ from: '2026-12-01', to: '2026-12-31', tooLate: false });
    expect(peaks[0]?.orderBy).toBe('2026-11-07');
    expect(peaks[0]?.units).toBeCloseTo((31 * 60 * (3 / (14.2 / 12))) / 30.4375, 6);
    expect(runs({ season }, { start: '2026-11-20' }).peaks[0]).toMatchObject({ tooLate: true });
    expect(runs({ season: null }).peaks).toEqual([]);
  });
  it.each([
    ['no units', { demand: null }, 'demand'],
    ['no lead time', { goods: goodsWith(null) }, 'leadDays'],
    ['no payout terms', { payoutEveryDays: null }, 'payoutEvery'],
    ['no delay of payouts', { payoutDelayDays: null }, 'payoutDelay'],
    ['no route', { route: null }, 'transitDays'],
    ['no quantity', { orderQuantity: null }, 'orderQuantity'],
    ['no returns', { returns: null }, 'returns'],
  ])('%s: it says what is missing, and gives no figure', (_, over, names) => {
    const said = cashOf({ ...LANE, ...over } as typeof LANE, planOf());
    expect(said.known).toBe(false);
    if (!said.known) expect(said.lacks).toContain(names);
  });
  it('a reorder of a size that nobody has a price for gives no figure', () => {
    const source = quote.parse({
      kind: 'quote',
      currency: 'EUR',
      incoterm: 'DDP',
      leadDays: 9,
      priceBreaks: [
        { minQty: 0, unitPrice: 10 },
        { minQty: 150, unitPrice: null },
      ],
    });
    const open = { ...LANE, goods: [{ ...goodsWith(40)[0], source }] } as typeof LANE;
    expect(cashOf(open, planOf({ reorder: { kind: 'cover', days: 30 } })).known).toBe(true);
    expect(cashOf(open, planOf({ reorder: { kind: 'cover', days: 200 } }))).toEqual({
      known: false,
      lacks: [],
      problems: ['reorderUnknown'],
    });
  });
  it('a supplier who ships has no stock: breakage and resale are problems, and a plan that is open is named', () => {
    const ships = { method: 'supplierShips', supplierDelivery: 'none', breakage: 0.1 };
    const said = cashOf({ ...LANE, ...ships } as typeof LANE, planOf());
    expect(said).toMatchObject({ known: false, problems: ['shipsWithoutStock'] });
    const open = cashOf(LANE, planOf({ launch: { advertising: { kind: 'daily', perDay: null, days: 3 } } }));
    expect(open).toMatchObject({ known: false, lacks: ['launch'] });
  });
});

describe('the VAT account', () => {
  /** Goods with VAT on them, sold with VAT in the price: the first periods come in, the later ones are paid. */
  const registered = {
    price: 60,
    goods: [{ source: { ...goodsWith(40)[0]?.source, vat: 'added', vatRate: 0.2 }, name: '', ...PACKS }],
    rates: { tax: taxCardOf('inclusive', 0.2) },
  };
  const vatDays = (vat: object): [number, number][] => {
    const { run } = runsOn('2027-01-01', plainLane({ ...LANE, ...registered } as never), { vat });
    return [...run.flows.vat].flatMap((x, t): [number, number][] => (x === 0 ? [] : [[t, x]]));
  };
  function runsOn(start: string, doc: typeof LANE, plan: object): CaseCash {
    const said = cashOf(doc, planOf({ start, horizon: 300, ...plan }));
    if (!said.known) throw new Error(`${said.lacks} ${said.problems}`);
    return said.cases.expected;
  }
  it('what is owed is paid so many days after its period, what is reclaimed comes in after its own', () => {
    const flows = vatDays({ period: 'month', settledAfter: 20, reclaimedAfter: 5 });
    expect(flows.some(([, x]) => x > 0)).toBe(true);
    expect(flows.some(([, x]) => x < 0)).toBe(true);
    const { monthEnd } = calendarOf('2027-01-01', 301, 'month');
    for (const [t, x] of flows) expect(monthEnd[t - (x > 0 ? 5 : 20)], `day ${t}`).toBe(t - (x > 0 ? 5 : 20));
  });
  it('on the last day of the period itself, where it takes no days', () => {
    const { monthEnd } = calendarOf('2027-01-01', 301, 'month');
    for (const [t] of vatDays({ period: 'month', settledAfter: 0, reclaimedAfter: 0 }))
      expect(monthEnd[t]).toBe(t);
  });
  it('by quarters there are fewer of them, and over all the same is settled or still to come', () => {
    const doc = plainLane({ ...LANE, ...registered } as never);
    const all = (period: string): number => {
      const { run } = runsOn('2027-01-01', doc, { vat: { period, settledAfter: 20, reclaimedAfter: 5 } });
      return run.flows.vat.reduce((a, b) => a + b, 0) + run.toCome.vat;
    };
    const quarters = vatDays({ period: 'quarter', settledAfter: 20, reclaimedAfter: 5 });
    expect(quarters.length).toBeLessThanOrEqual(4);
    expect(all('quarter')).toBeCloseTo(all('month'), 6);
    expect(all('year')).toBeCloseTo(all('month'), 6);
  });
});

describe('days and the calendar', () => {
  it('months, quarters and years end where the calendar has it', () => {
    const c = calendarOf('2027-12-30', 70, 'quarter');
    expect([c.month[0], c.month[2], c.ordinal[2]]).toEqual([11, 0, 1]);
    expect([c.monthEnd[0], c.monthEnd[2]]).toEqual([1, 32]);
    // 31 March 2028; the year before it is a leap year's February away.
    expect([
      dayText('2027-12-30', c.periodEnd[0] as number),
      dayText('2027-12-30', c.periodEnd[2] as number),
    ]).toEqual(['2027-12-31', '2028-03-31']);
    expect(dayText('2027-12-30', calendarOf('2027-12-30', 9, 'year').periodEnd[5] as number)).toBe(
      '2028-12-31',
    );
  });
});

describe('the plan at its edge', () => {
  it.each([
    ['a horizon of 0', { horizon: 0 }, 'horizon'],
    ['a ramp of zeros', { ramp: [0, 0] }, 'ramp'],
    ['a reserve share over 1', { reserveShare: 1.5 }, 'reserveShare'],
    ['a start that is no day', { start: 'soon' }, 'start'],
    ['a field nobody knows', { speed: 1 }, ''],
  ])('%s is refused with its field', (_, over, field) => {
    const read = cashPlan.safeParse(over);
    expect(read.success).toBe(false);
    if (!read.success) expect(String(read.error.issues[0]?.path[0] ?? '')).toBe(field);
  });
});
