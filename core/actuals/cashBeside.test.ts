/** The cash of a lane on sale beside its plan: one that went as planned, and what moves the day the money is back. */
import { describe, expect, it } from 'vitest';
import { cashPlan } from '../cash/schema.ts';
import { expectedCash } from '../cash/cash.ts';
import { dayText } from '../cash/calendar.ts';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { orderProgress, orderTerms } from '../orders/schema.ts';
import type { Order } from '../orders/schema.ts';
import { Draw } from '../testing/draw.ts';
import { RUN_SEED } from '../testing/seed.ts';
import { asPlanned, BASE, readAll, sumsOf } from '../testing/settled.ts';
import type { Said } from '../testing/settled.ts';
import { cashBeside } from './cashBeside.ts';
import type { SoFar } from './cashBeside.ts';
import { placeSettled, soldOf } from './onSale.ts';
import { paidFor } from './paid.ts';
import type { LanePaid } from './paid.ts';

const goods = (BASE.goods as Exclude<LaneDocument['goods'], null | 'none'>).map((g) => ({
  ...g,
  source: { ...g.source, leadDays: 30, depositShare: 0.3 },
})) as LaneDocument['goods'];
/** A hundred a month, nothing comes back, paid out every 14 days; an order of 400 is on sale 30 days after it. */
const LANE: LaneDocument = {
  ...BASE,
  goods,
  returns: 'none',
  orderQuantity: 400,
  payoutEveryDays: 14,
  payoutDelayDays: 3,
};
const PLAN = cashPlan.parse({ ramp: [1] });
const SINCE = '2026-05-01';
const TODAY = '2026-10-31';
const NOTHING_PAID: LanePaid = { paid: [], open: [], unknown: 0 };

/** So many units each month from May to October at a price, by the lane's own rates. */
function soFar(units: number, over: Partial<SoFar> & { price?: number; rows?: Said[] } = {}): SoFar {
  const { price, rows, ...more } = over;
  const said = [5, 6, 7, 8, 9, 10].flatMap((m) =>
    asPlanned(LANE, units, price).map((s) => ({ ...s, date: `2026-${String(m).padStart(2, '0')}-28` })),
  );
  const { lines } = readAll([...said, ...(rows ?? [])], { days: 'monthFirst' });
  const place = placeSettled(sumsOf(lines), TODAY);
  const { months } = soldOf({ document: LANE, codes: ['A'], since: SINCE, ramp: [1] }, place);
  const shelf = { stock: 150, onTheWay: [], unitsPerMonth: units };
  return { since: SINCE, today: TODAY, months, last: TODAY, paid: NOTHING_PAID, shelf, ...more };
}
const beside = (so: SoFar, doc: LaneDocument = LANE, plan: object = {}) => {
  const said = cashBeside(doc, { ...PLAN, ...plan }, so);
  if (said === null) throw new Error('not known');
  return said;
};

describe('cash beside the plan', () => {
  it('that went as planned stands where the plan does, but for the length of months', () => {
    // Paid out each day, as what a month brought counts at its end.
    const said = beside(soFar(100), { ...LANE, payoutEveryDays: 1, payoutDelayDays: 0 });
    expect(said.byPlan).toEqual(['goods']);
    expect(said.currency).toBe('EUR');
    // A month of 31 days is planned to sell two units more than a hundred, of some 15 each.
    const past = said.months.filter((x) => x.month >= '2026-05' && x.month <= '2026-10');
    expect(past).toHaveLength(6);
    for (const m of past) expect(Math.abs((m.actual as number) - (m.planned as number))).toBeLessThan(100);
    expect(said.today.planned).not.toBeNull();
  });
  it('is planned as the launch page plans it, from the day it went on sale', () => {
    const own = expectedCash(LANE, { ...PLAN, start: '2026-04-01' });
    const said = beside(soFar(100));
    expect(said.plannedPayback).toBe(dayText('2026-04-01', own?.payback as number));
    expect(said.months[0]).toMatchObject({ month: '2026-04' });
  });
  it('that sells at a lower price is back later, and at half the pace later still or never', () => {
    const asItWas = beside(soFar(100)).payback.day as string;
    const cheaper = beside(soFar(100, { price: 20 }));
    expect(cheaper.payback.known).toBe(true);
    expect((cheaper.payback.day as string) >= asItWas).toBe(true);
    expect(cheaper.today.actual).toBeLessThan(beside(soFar(100)).today.actual);
    const slow = beside(soFar(20)).payback.day;
    expect(slow === null || slow > asItWas).toBe(true);
  });
  it('goes by what orders took, VAT on it reclaimed as the plan settles it; what is open goes out after today', () => {
    const at = (day: string | null) => ({ day, home: 1200, vat: 200 });
    const before = beside(soFar(100, { paid: { ...NOTHING_PAID, unknown: 1 } }));
    expect(before.byPlan).toEqual([]);
    expect(before.ordersUnknown).toBe(1);
    const paid = beside(soFar(100, { paid: { paid: [at('2026-06-15')], open: [], unknown: 0 } }));
    // June is settled forty days after its end.
    const of = (m: string, c: typeof paid): number => c.months.find((x) => x.month === m)?.actual as number;
    expect(of('2026-06', paid) - of('2026-06', before)).toBeCloseTo(-1200, 6);
    expect(of('2026-08', paid) - of('2026-08', before)).toBeCloseTo(-1000, 6);
    const open = beside(soFar(100, { paid: { paid: [], open: [at('2026-09-01'), at(null)], unknown: 0 } }));
    expect(open.today.actual).toBeCloseTo(before.today.actual, 6);
    const ahead = (c: typeof open): number => c.months.find((m) => m.month === '2026-11')?.ahead as number;
    expect(ahead(open) - ahead(before)).toBeCloseTo(-2400, 6);
    // An order paid before the launch was planned to begin is looked at from its own day.
    const early = beside(soFar(100, { paid: { paid: [at('2026-02-10')], open: [], unknown: 0 } }));
    expect(early.months[0]).toEqual({ month: '2026-02', planned: 0, actual: -1200, ahead: null });
  });
  it('looks at no more than two years before the plan, and at a lane that is to go on sale', () => {
    const old = { day: '1980-01-01', home: 100, vat: 0 };
    const { months, today } = beside(soFar(100, { paid: { paid: [old], open: [], unknown: 0 } }));
    expect(months[0]).toMatchObject({ month: '2024-04', actual: -100 });
    expect(today.actual).toBeLessThan(
      beside(soFar(100, { paid: { ...NOTHING_PAID, unknown: 1 } })).today.actual,
    );
    const later = beside({ ...soFar(100), since: '2031-03-01', months: [], shelf: null });
    expect(later.months[0]).toMatchObject({ month: '2026-10', planned: 0, actual: 0 });
    expect(later.payback).toEqual({ known: false, day: null });
  });
  it('reclaims nothing for who pays VAT as a cost', () => {
    const doc: LaneDocument = { ...LANE, standing: { kind: 'notRegistered' } };
    const with_ = (paid: LanePaid) => beside(soFar(100, { paid }), doc).today.actual;
    const at = { day: '2026-06-15', home: 1200, vat: 200 };
    const gone = with_({ paid: [at], open: [], unknown: 0 }) - with_({ ...NOTHING_PAID, unknown: 1 });
    expect(gone).toBeCloseTo(-1200, 6);
  });
  it('takes what nobody settles as planned: adverts that no report has, fixed costs', () => {
    const fixed = beside(soFar(100), LANE, { launch: { ...PLAN.launch, monthlyFixedCosts: 50 } });
    expect(fixed.byPlan).toEqual(['goods', 'fixed']);
    // The ends of April to October.
    expect(fixed.today.actual - beside(soFar(100)).today.actual).toBeCloseTo(-350, 6);
    const rows = asPlanned(LANE, 100).filter((s) => s.what !== 'adverts');
    const { lines } = readAll(
      rows.map((s) => ({ ...s, date: '10-28-2026' })),
      { days: 'monthFirst' },
    );
    const sums = sumsOf(lines);
    const months = soldOf(
      { document: LANE, codes: ['A'], since: '2026-10-01', ramp: [1] },
      placeSettled(sums, TODAY),
    ).months;
    const said = beside({ ...soFar(100), months });
    expect(said.byPlan).toEqual(['adverts', 'goods']);
    const free = { ...LANE, adverts: 'none' as const };
    const clicks = (LANE.demand as { units: number }).units * 0.4 * 5;
    expect(said.today.actual - beside({ ...soFar(100), months }, free).today.actual).toBeCloseTo(-clicks, 6);
  });
  it('takes what a returned unit takes as planned, by those that came back', () => {
    const returns = { rate: 0.1, resaleShare: 0.5, handling: { amount: 3, currency: 'EUR' } };
    const doc = laneDocument.parse({ ...LANE, returns });
    const back = [{ date: '10-20-2026', what: 'refund', amount: '0', qty: '5', order: 'R' }];
    const none = beside(soFar(100), doc);
    const five = beside(soFar(100, { rows: back }), doc);
    expect(five.byPlan).toEqual(['ownCosts', 'goods']);
    expect(five.today.actual - none.today.actual).toBeCloseTo(-15, 6);
  });
  it('says what it does not know: no stock, no pace; nothing at all where VAT or the plan is not known', () => {
    const said = beside(soFar(100, { shelf: null }));
    expect(said.payback).toEqual({ known: false, day: null });
    expect(said.months.every((m) => m.ahead === null)).toBe(true);
    expect(cashBeside({ ...LANE, payoutDelayDays: null }, PLAN, soFar(100))).toBeNull();
    const blind = soFar(100);
    const months = blind.months.map((m) => ({ ...m, account: { ...m.account, vatOwed: null } }));
    expect(cashBeside(LANE, PLAN, { ...blind, months })).toBeNull();
  });
});

describe('cash as it went', () => {
  /** The same money added up plainly, once every payout has come and all VAT is settled. */
  function plainly(rows: readonly Said[], paid: LanePaid, isRegistered: boolean, fixed: number): number {
    const by = new Map<string, Said[]>();
    for (const r of rows) {
      const month = (r.date ?? '').slice(0, 7);
      by.set(month, [...(by.get(month) ?? []), r]);
    }
    const sum = (of: readonly Said[], ...what: string[]): number =>
      of.filter((r) => what.includes(r.what ?? '')).reduce((s, r) => s + Number(r.amount), 0);
    let money = -fixed;
    for (const month of by.values()) {
      const sold = sum(month, 'sale');
      const back = -sum(month, 'refund');
      money += sold - back + sum(month, 'referral', 'fulfilment', 'adverts', 'other');
      if (isRegistered) money -= (sold - back) / 6;
      const units = (what: string): number =>
        month.filter((r) => r.what === what).reduce((s, r) => s + Number(r.qty), 0);
      // A returned unit takes one to handle; a unit sold was planned to take two for adverts.
      money -= units('refund');
      const says = (what: string): boolean => month.some((r) => r.what === what);
      if (says('clicks') && !says('adverts')) money -= sum(month, 'clicks');
      if (!says('clicks') && !says('adverts')) money -= 2 * units('sale');
      money -= sum(month, 'ownDispatch');
    }
    return paid.paid.reduce((s, p) => s - p.home + (isRegistered ? p.vat : 0), money);
  }
  it('is every payment of it, added up plainly, whatever is settled and told', () => {
    const d = new Draw(RUN_SEED);
    const reached = new Set<string>();
    for (let i = 0; i < 150; i++) {
      const rows: Said[] = Array.from({ length: d.int(1, 30) }, () => {
        const what = d.pick([
          ...(['sale', 'sale', 'refund', 'referral', 'fulfilment'] as const),
          ...(['adverts', 'clicks', 'ownDispatch', 'other', 'transfer'] as const),
        ]);
        reached.add(what);
        // What is told beside the account has no sign of one.
        const comesIn = what === 'sale' || what === 'clicks' || what === 'ownDispatch';
        const amount = (comesIn ? 1 : -1) * d.int(1, 9000);
        const counts = what === 'sale' || what === 'refund';
        return {
          what,
          amount: String(amount / 100),
          qty: counts ? String(d.int(1, 4)) : '',
          date: `2026-0${d.int(1, 6)}-15`,
          order: `O${i}`,
        };
      });
      // What nobody bought has no price that the VAT in it could be told by.
      if (!rows.some((r) => r.what === 'sale')) continue;
      const isRegistered = d.chance(0.6);
      const doc = laneDocument.parse({
        ...LANE,
        returns: BASE.returns,
        standing: { kind: isRegistered ? 'registered' : 'notRegistered' },
      });
      const paid: LanePaid = {
        paid: Array.from({ length: d.int(0, 3) }, () => ({
          day: `2026-0${d.int(1, 8)}-0${d.int(1, 9)}`,
          home: d.int(100, 5000),
          vat: d.int(0, 90),
        })),
        open: d.chance(0.3) ? [{ day: null, home: 50, vat: 5 }] : [],
        unknown: d.chance(0.2) ? 1 : 0,
      };
      if (paid.paid.length + paid.open.length + paid.unknown === 0) continue;
      const place = placeSettled(sumsOf(readAll(rows).lines), '2026-06-30');
      const { months } = soldOf({ document: doc, codes: ['A'], since: '2026-01-01', ramp: [1] }, place);
      const monthlyFixedCosts = d.pick([0, 20]);
      const plan = { ...PLAN, launch: { ...PLAN.launch, monthlyFixedCosts } };
      // The first of December of the year before is its day 0; ends of months up to October.
      const fixed = 11 * monthlyFixedCosts;
      const so = { since: '2026-01-01', today: '2026-10-31', months, last: '2026-06-30', paid, shelf: null };
      const said = cashBeside(doc, plan, so);
      if (said === null) throw new Error('not known');
      for (const told of said.byPlan) reached.add(told);
      reached.add(isRegistered ? 'registered' : 'not');
      if (paid.open.length > 0) reached.add('open');
      expect(said.today.actual).toBeCloseTo(plainly(rows, paid, isRegistered, fixed), 4);
    }
    expect([...reached]).toEqual(
      expect.arrayContaining([
        ...[
          'sale',
          'refund',
          'referral',
          'fulfilment',
          'adverts',
          'clicks',
          'ownDispatch',
          'other',
          'transfer',
        ],
        ...['ownCosts', 'fixed', 'registered', 'not', 'open'],
      ]),
    );
  });
});

const BREAKS = [{ minQty: 0, unitPrice: 6 }];
const orderOf = (terms: object, progress: object = {}, state: Order['state'] = 'received'): Order => ({
  id: 'o',
  number: 1,
  state,
  terms: orderTerms.parse({
    currency: 'EUR',
    delivery: 0,
    lines: [
      { id: 'l1', name: 'a', laneId: 'lane', units: 100, priceBreaks: BREAKS },
      { id: 'l2', name: 'b', laneId: 'other', units: 100, priceBreaks: [{ minQty: 0, unitPrice: 18 }] },
    ].map((l) => ({ ...l, vat: 'added', vatRate: 0.25 })),
    ...terms,
  }),
  progress: orderProgress.parse(progress),
});
const paid = (...orders: Order[]) => paidFor(orders, 'lane', BASE, new Map());

describe('what orders took', () => {
  it('is the lane’s part by value, with the VAT in it, and bills as each is shared out', () => {
    const payments = [{ id: 'p', day: '2026-03-01', amount: 1000, home: 1000 }];
    const bills = [{ id: 'b', day: '2026-04-01', kind: 'freight', amount: 80, by: 'units' }];
    const said = paid(orderOf({ balanceDay: '2026-05-01' }, { payments, bills }));
    // A quarter of the goods; 2,400 and 600 VAT in all, of which 1,000 are paid.
    expect(said.paid).toEqual([
      { day: '2026-03-01', home: 250, vat: 50 },
      { day: '2026-04-01', home: 40, vat: 0 },
    ]);
    expect(said.open[0]?.home).toBeCloseTo(500, 9);
    expect(said.open[0]?.vat).toBeCloseTo(100, 9);
    expect(said.unknown).toBe(0);
    expect(paid(orderOf({}, { payments }, 'closed')).open).toEqual([]);
  });
  it('leaves out and counts orders of which the part, the total or the rate is not known', () => {
    const noUnits = orderOf({
      lines: [{ id: 'l1', name: 'a', laneId: 'lane', units: null, priceBreaks: BREAKS }],
    });
    const byWeight = [{ id: 'b', day: '2026-04-01', kind: 'freight', amount: 80, by: 'weight' }];
    expect(paid(noUnits, orderOf({}, { bills: byWeight }), orderOf({ currency: 'USD' }))).toEqual({
      paid: [],
      open: [],
      unknown: 3,
    });
  });
  it('is nothing of a draft, of one called off, of one of other lanes', () => {
    const others = orderOf({
      lines: [{ id: 'x', name: 'x', laneId: 'other', units: 1, priceBreaks: BREAKS }],
    });
    expect(paid(orderOf({}, {}, 'draft'), orderOf({}, {}, 'cancelled'), others)).toEqual(NOTHING_PAID);
  });
});
