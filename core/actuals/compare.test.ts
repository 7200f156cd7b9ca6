/** Plan against actual: parts that add up, where each line is known from, month by month. */
import { describe, expect, it } from 'vitest';
import { evaluate } from '../lane/evaluate.ts';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { Draw } from '../testing/draw.ts';
import { RUN_SEED } from '../testing/seed.ts';
import { unitsInMonth } from '../lane/steps/demand.ts';
import { daysBefore, daysBetween } from '../money/days.ts';
import { taxCardOf } from '../testing/documents.ts';
import { asPlanned, BASE, readAll, sumsOf } from '../testing/settled.ts';
import type { Said } from '../testing/settled.ts';
import { ACTUAL_LINES, actualOf } from './actual.ts';
import type { Settled } from './actual.ts';
import { compare, mixOf, mixPartOf, plannedOf, standsAt } from './compare.ts';
import type { Compared } from './compare.ts';
import { monthCompared, placeSettled, soldOf, unitsPlanned } from './onSale.ts';
import type { MonthSold } from './onSale.ts';
import { SETTLED_KINDS } from './schema.ts';
import { kindsOfCodes, kindsSettled, sharedOut } from './sums.ts';

const settledOf = (rows: readonly Said[]) => {
  const sums = sumsOf(readAll(rows).lines);
  return {
    own: kindsOfCodes(sums, ['A']),
    shared: kindsOfCodes(sharedOut(sums).by, ['A']),
    kinds: new Set(['2026-09', '2026-10', '2026-11'].flatMap((m) => [...kindsSettled(sums, m)])),
  };
};
/** Over all months at once, as one month would be. */
const compared = (doc: LaneDocument, settled: Settled, units: number | null): Compared =>
  compare(doc, actualOf(doc, settled), units);
const lineOf = (c: Compared, line: string) => c.lines.find((l) => l.line === line);

describe('plan against actual', () => {
  it('where all goes as planned no part is anything, and what no report says stands as planned', () => {
    const c = compared(BASE, settledOf(asPlanned(BASE, 100)), 100);
    expect(c.parts).toMatchObject({ leavesOut: [], difference: 0, volume: 0, price: 0, rate: 0 });
    expect(c.parts?.unit).toBeCloseTo(c.planned.unitProfit as number, 9);
    expect(c.unitProfit).toBeCloseTo(c.planned.unitProfit as number, 3);
    expect(lineOf(c, 'goods')).toMatchObject({ from: 'asPlanned', actual: 5, rate: 0 });
    expect(lineOf(c, 'referral')).toMatchObject({ from: 'settled', actual: 3.6, planned: 3.6 });
    expect(lineOf(c, 'outputVat')?.from).toBe('reckoned');
    expect(lineOf(c, 'outputVat')?.actual).toBeCloseTo(4, 9);
    expect(lineOf(c, 'returns')?.from).toBe('asPlanned');
    expect(standsAt(c)).toEqual({ standing: 'asPlanned', because: null, amount: null });
  });
  it('more units at another price, and a dearer fee, are told apart', () => {
    const rows = asPlanned(BASE, 120, 22).map((s) =>
      s.what === 'fulfilment' ? { ...s, amount: '-492' } : s,
    );
    const c = compared(BASE, settledOf(rows), 100);
    const up = plannedOf(BASE, 100).unitProfit as number;
    expect(c.actual.price).toBe(22);
    expect(c.parts?.volume).toBeCloseTo(20 * up, 2);
    const at22 = evaluate({ ...BASE, price: 22 }).figures.unitProfit as number;
    expect(c.parts?.price).toBeCloseTo(120 * (at22 - up), 2);
    expect(lineOf(c, 'fulfilment')?.rate).toBe(-120);
    expect(c.parts?.rate).toBe(-120);
    expect(standsAt(c)).toMatchObject({ standing: 'paysLess', because: 'price' });
  });
  it('a refund gives back revenue and fees, keeps its fee, and half of what came back is worth its cost', () => {
    const rows: Said[] = [
      ...asPlanned(BASE, 100),
      { what: 'refund', order: 'O9', amount: '-24' },
      { what: 'referral', order: 'O9', amount: '3.6' },
      { what: 'refundFee', order: 'O9', amount: '-0.72' },
    ];
    const c = compared(BASE, settledOf(rows), 100);
    // 20 net less 3.60 back, the fee, handling of 1, half a unit of 5 back on the shelf.
    expect(lineOf(c, 'returns')?.actual).toBeCloseTo((20 - 3.6 + 0.72 + 1 - 2.5) / 100, 9);
    expect(lineOf(c, 'referral')?.actual).toBeCloseTo(3.6, 9);
    expect(c.actual.returned).toBe(1);
  });
  it('a refund before its sale counts in its month by the VAT of the lane', () => {
    const c = compared(BASE, settledOf([{ what: 'refund', amount: '-24' }]), 0);
    expect(c.actual).toMatchObject({ shipped: 0, returned: 1, price: null });
    expect(c.actual.lines.returns.amount).toBeCloseTo(20 + 1 - 2.5, 9);
    expect(c.unitProfit).toBeNull();
    expect(c.parts?.difference).toBeCloseTo(-(20 + 1 - 2.5), 2);
  });
  it('units that were lost cost what they cost to land, and what is paid for them comes in', () => {
    const rows: Said[] = [...asPlanned(BASE, 100), { what: 'reimbursement', amount: '18', qty: '2' }];
    const c = compared(BASE, settledOf(rows), 100);
    expect(c.actual.lost).toBe(2);
    expect(c.actual.lines.breakage.amount).toBeCloseTo(10, 9);
    expect(c.actual.lines.reimbursement.amount).toBe(-18);
    expect(c.parts?.difference).toBe(8);
  });
  it('VAT is that of the report where it says any: in a column, beside, or kept by the marketplace', () => {
    const column = compared(BASE, settledOf([{ amount: '24', tax: '4.5' }]), 1);
    expect(lineOf(column, 'outputVat')).toMatchObject({ from: 'settled', actual: 4.5 });
    const beside = compared(BASE, settledOf([{ amount: '20' }, { what: 'vat', amount: '4' }]), 1);
    expect([beside.actual.gross, beside.actual.lines.outputVat.amount]).toEqual([24, 4]);
    const kept = compared(BASE, settledOf([{ amount: '24' }, { what: 'vatWithheld', amount: '-4' }]), 1);
    expect([kept.actual.gross, kept.actual.lines.outputVat.amount]).toEqual([24, 4]);
    const back = compared(
      BASE,
      settledOf([
        { amount: '20' },
        { what: 'vat', amount: '4' },
        { what: 'refund', amount: '-20' },
        { what: 'vat', amount: '-4' },
      ]),
      1,
    );
    expect(back.actual.lines.outputVat.amount).toBe(4);
    expect(back.actual.lines.returns.amount).toBeCloseTo(20 + 1 - 2.5, 9);
  });
  it('where tax is added at checkout it is no part of the price', () => {
    const doc = laneDocument.parse({ ...BASE, rates: { ...BASE.rates, tax: taxCardOf('exclusive', 0) } });
    const c = compared(doc, settledOf([{ amount: '25.92', tax: '1.92' }]), 1);
    expect([c.actual.gross, c.actual.lines.outputVat.amount, c.actual.price]).toEqual([24, 0, 24]);
  });
  it('VAT on fees is a cost for one trader and comes back for another', () => {
    const rows: Said[] = [{}, { what: 'referral', amount: '-4.32', tax: '-0.72' }];
    const { lines } = compared(BASE, settledOf(rows), 1).actual;
    expect(lines.referral.amount).toBeCloseTo(3.6, 9);
    expect(lines.feeVat).toEqual({ amount: 0, from: 'settled' });
    const small = laneDocument.parse({ ...BASE, standing: { kind: 'notRegistered' } });
    expect(compared(small, settledOf(rows), 1).actual.lines.feeVat.amount).toBeCloseTo(0.72, 9);
  });
  it('a part of the account’s charges is marked as shared; what orders really cost stands in for the plan', () => {
    const settled = settledOf([
      ...asPlanned(BASE, 100).slice(0, 3),
      { what: 'adverts', item: '', amount: '-100' },
    ]);
    const c = compared(BASE, { ...settled, received: { goods: { share: 1, each: 5.5 } } }, 100);
    expect(lineOf(c, 'adverts')).toMatchObject({ from: 'shared', actual: 1, rate: 100 });
    expect(lineOf(c, 'goods')).toMatchObject({ from: 'received', actual: 5.5, rate: -50 });
    expect(lineOf(c, 'storage')?.from).toBe('asPlanned');
  });
  it('a line unknown to the plan is left out on both sides and named; without VAT there are no parts', () => {
    const doc = laneDocument.parse({
      ...BASE,
      prep: null,
      typed: { fulfilmentFee: null },
      product: { category: 'any' },
    });
    const rows = asPlanned(BASE, 100, 22);
    const c = compared(doc, settledOf(rows), 100);
    expect(c.planned.lines).toMatchObject({ prep: null, fulfilment: null });
    expect(c.parts?.leavesOut).toEqual(expect.arrayContaining(['prep', 'fulfilment']));
    expect([lineOf(c, 'fulfilment')?.rate, lineOf(c, 'prep')?.rate]).toEqual([null, null]);
    expect(lineOf(c, 'fulfilment')?.actual).toBeCloseTo(3.1, 9);
    // What follows the price is the same whatever is left out.
    const whole = compared(BASE, settledOf(rows), 100);
    expect(c.parts?.price).toBeCloseTo(whole.parts?.price ?? Number.NaN, 1);
    expect([c.parts?.volume, c.planned.lacks]).toEqual([0, expect.arrayContaining(['prep'])]);
    expect(c.actual.lacks).toEqual(['prep']);
    expect(c.actual.profit).not.toBeNull();
    expect(standsAt(c)).toMatchObject({ standing: 'paysLess', because: 'price' });
    const nowhere = compared(
      laneDocument.parse({ ...BASE, standing: null }),
      settledOf(asPlanned(BASE, 1)),
      1,
    );
    expect([nowhere.actual.profit, nowhere.unitProfit, nowhere.parts]).toEqual([null, null, null]);
    expect(standsAt(nowhere).standing).toBe('open');
    const noPrice = compared(laneDocument.parse({ ...BASE, price: null }), settledOf(asPlanned(BASE, 1)), 1);
    expect([noPrice.parts, noPrice.actual.price]).toEqual([null, 24]);
  });
  it('says why a product loses', () => {
    const rows = asPlanned(BASE, 100).map((s) => (s.what === 'adverts' ? { ...s, amount: '-1500' } : s));
    const c = compared(BASE, settledOf(rows), 100);
    expect(standsAt(c)).toMatchObject({ standing: 'loses', because: 'adverts', amount: -1300 });
  });
  it('parts add up to the whole difference to the cent, whatever is settled', () => {
    const d = new Draw(RUN_SEED);
    const reached = new Set<string>();
    for (let i = 0; i < 400; i++) {
      const rows: Said[] = Array.from({ length: d.int(1, 40) }, () => {
        const what = d.pick(SETTLED_KINDS);
        const incoming = ['sale', 'delivery', 'vat', 'reimbursement'].includes(what) || d.chance(0.1);
        reached.add(what);
        return {
          what,
          order: `O${d.int(1, 9)}`,
          item: d.chance(0.85) ? 'A' : d.chance(0.5) ? 'B' : '',
          amount: String(((incoming ? 1 : -1) * d.int(0, 100_000)) / 1000),
          qty: d.chance(0.5) ? '' : String(d.int(0, 4)),
          date: `2026-${d.pick(['09', '10', '11'])}-05`,
        };
      });
      const unitsOfPlan = d.int(0, 200);
      const c = compared(BASE, settledOf(rows), unitsOfPlan);
      const { parts, actual, planned } = c;
      expect(parts).not.toBeNull();
      if (parts === null) continue;
      const whole = (actual.profit as number) - unitsOfPlan * (planned.unitProfit as number);
      expect(Math.abs(parts.difference - whole)).toBeLessThan(0.00501);
      const cents = (x: number): number => Math.round(x * 100) + 0;
      expect(cents(parts.volume ?? Number.NaN) + cents(parts.price) + cents(parts.rate)).toBe(
        cents(parts.difference),
      );
      expect(c.lines.reduce((s, l) => s + cents(l.rate ?? 0), 0)).toBe(cents(parts.rate));
      const spent = ACTUAL_LINES.reduce((s, l) => s + (actual.lines[l].amount as number), 0);
      expect(actual.gross - spent).toBeCloseTo(actual.profit as number, 6);
      reached.add(standsAt(c).standing);
      // Month by month it is the same money.
      const sums = sumsOf(readAll(rows).lines);
      const lane = { document: BASE, codes: ['A'], since: '2026-09-01', ramp: [1] };
      const sold = soldOf(lane, placeSettled(sums, '2026-11-30'));
      const all = sold.months.map((m) => m.actual);
      if (sold.whole === null) continue;
      const whole3 = sold.whole.actual;
      expect(all.reduce((s, a) => s + (a.profit as number), 0)).toBeCloseTo(whole3.profit as number, 6);
      expect(all.reduce((s, a) => s + a.shipped, 0)).toBe(actual.shipped);
      expect(whole3.gross).toBeCloseTo(actual.gross, 6);
      for (const line of ACTUAL_LINES) reached.add(whole3.lines[line].from);
    }
    expect([...reached].sort()).toEqual(
      expect.arrayContaining([...SETTLED_KINDS, 'loses', 'partly', 'settled', 'asPlanned']),
    );
  });
});

describe('units of the plan', () => {
  it('follow ramp and season from the first day on sale', () => {
    const month = unitsPlanned(304.375, null, [1], '2026-10-01', '2026-10-01', '2026-10-31');
    expect(month).toBeCloseTo(310, 9);
    expect(unitsPlanned(304.375, null, [1], '2026-10-11', '2026-10-01', '2026-10-20')).toBeCloseTo(100, 9);
    expect(unitsPlanned(304.375, null, [0.5, 1], '2026-09-01', '2026-09-01', '2026-10-10')).toBeCloseTo(
      31 * 5 + 9 * 10,
      9,
    );
    const season = [1, 1, 1, 1, 1, 1, 1, 1, 1, 3, 0, 0];
    expect(unitsPlanned(304.375, season, [1], '2026-10-01', '2026-10-01', '2026-10-02')).toBeCloseTo(60, 9);
    expect(unitsPlanned(null, null, [1], '2026-10-01', '2026-10-01', '2026-10-02')).toBeNull();
    expect(unitsPlanned(100, null, [1], '2026-12-01', '2026-10-01', '2026-10-02')).toBe(0);
  });
});

it('units of the plan are those of its days one by one', () => {
  const draw = new Draw(5);
  const season = [2, 1, 1, 1, 0.5, 0.5, 0.5, 1, 1, 1, 1, 1.5];
  for (let n = 0; n < 200; n++) {
    const since = daysBefore('2026-08-15', Math.floor(draw.next() * 900));
    const from = daysBefore('2026-11-30', Math.floor(draw.next() * 700));
    const to = daysBefore(from, -Math.floor(draw.next() * 200) + 3);
    const ramp = Array.from({ length: 1 + Math.floor(draw.next() * 5) }, () => draw.next());
    let sum = 0;
    for (let day = from; day <= to; day = daysBefore(day, -1)) {
      if (day < since) continue;
      const step = Math.floor(daysBetween(since, day) / 30.4375);
      const factor = ramp[Math.min(step, ramp.length - 1)] as number;
      sum += (factor * unitsInMonth(100, season, Number(day.slice(5, 7)))) / 30.4375;
    }
    expect(unitsPlanned(100, season, ramp, since, from, to)).toBeCloseTo(sum, 6);
  }
});

describe('a lane on sale', () => {
  const onSale = (over: object = {}) => ({
    document: BASE,
    codes: ['A'],
    since: '2026-09-16',
    ramp: [1],
    ...over,
  });
  const soldBy = (rows: readonly Said[], last: string | null, over: object = {}) =>
    soldOf(onSale(over), placeSettled(sumsOf(readAll(rows).lines), last));
  const rows: Said[] = [
    { date: '2026-09-20', amount: '240', qty: '10' },
    { date: '2026-09-30', what: 'storage', amount: '-4' },
    { date: '2026-11-02', amount: '48', qty: '2' },
  ];
  it('has months from its first day to the last that a report speaks of, and the plan of those days', () => {
    const { months, whole } = soldBy(rows, '2026-11-10');
    expect(months.map((m) => m.month)).toEqual(['2026-09', '2026-10', '2026-11']);
    const units = months.map((m) => m.units as number);
    expect(units.map((u) => Math.round(u * 100) / 100)).toEqual([49.28, 101.85, 32.85]);
    expect(whole?.planned.units).toBeCloseTo(
      units.reduce((a, b) => a + b),
      9,
    );
    expect(months[1]?.actual).toMatchObject({ shipped: 0, gross: 0, profit: 0, price: null });
    expect(whole?.actual).toMatchObject({ shipped: 12, gross: 288, price: 24 });
  });
  it('a fee that no report of a month has a line of stands as planned there, and in the whole in part', () => {
    const { months, whole } = soldBy(rows, '2026-11-10');
    const storage = (c: Compared | null | undefined) => c?.lines.find((l) => l.line === 'storage');
    const planned = evaluate(BASE).lines.storage as number;
    const of = (m: MonthSold | undefined) => (m === undefined ? null : monthCompared(BASE, m));
    expect(storage(of(months[0]))).toMatchObject({ from: 'settled', actual: 0.4 });
    expect(storage(of(months[2]))?.from).toBe('asPlanned');
    expect(storage(of(months[2]))?.actual).toBeCloseTo(planned, 9);
    expect(storage(whole)?.from).toBe('partly');
    expect(storage(whole)?.actual).toBeCloseTo((4 + 2 * planned) / 12, 9);
  });
  it('where it is not known how many were planned, nothing is said of their number', () => {
    const document = laneDocument.parse({ ...BASE, demand: null });
    const { whole } = soldBy(rows, '2026-11-10', { document });
    expect(whole?.planned.units).toBeNull();
    expect(whole?.parts?.volume).toBeNull();
    const { price, rate, difference } = whole?.parts ?? { price: 0, rate: 0, difference: 0 };
    expect(difference).toBeCloseTo(price + rate, 9);
    expect(mixPartOf(whole as Compared)).toBeNull();
    expect(mixOf([])).toBeNull();
  });
  it('of which nothing was settled has no months, whatever else was', () => {
    expect(soldBy([{ item: 'B' }], '2026-11-10')).toMatchObject({ months: [], whole: null });
    expect(soldBy(rows, null).months).toHaveLength(3);
    // Settled before it is said to have begun: nothing was planned then.
    const early = soldBy([{ date: '2026-08-05' }, ...rows], '2026-11-10');
    expect(early.months[0]).toMatchObject({ month: '2026-08', units: 0 });
    expect(soldBy([{ date: '1999-01-05' }, ...rows], '2026-11-10').months).toHaveLength(120);
  });
});

it('of several lanes, what the ones that pay more sold beyond plan is the mix', () => {
  const dear = laneDocument.parse({ ...BASE, price: 34 });
  const [a, b] = [
    compared(BASE, settledOf(asPlanned(BASE, 50)), 100),
    compared(dear, settledOf(asPlanned(dear, 150)), 100),
  ];
  const said = mixOf([a, b].flatMap((c) => mixPartOf(c) ?? []));
  const [ua, ub] = [a.planned.unitProfit as number, b.planned.unitProfit as number];
  expect(said?.volume).toBe(0);
  expect(said?.mix).toBeCloseTo(50 * (ub - ua), 1);
  expect(mixOf([])).toBeNull();
});
