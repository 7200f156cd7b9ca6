/** Other plans that are worth a look, and what months say beside their sums. */
import { describe, expect, it } from 'vitest';
import { CHEAPER_FROM_300, lantern } from '../testing/lantern.ts';
import { cashOf } from './cash.ts';
import type { CashRuns } from './cash.ts';
import { monthsOf, toComeByFlow } from './months.ts';
import { otherPlans } from './others.ts';
import { FLOWS, TO_COME } from './run.ts';
import { cashPlan } from './schema.ts';
import type { CashPlan } from './schema.ts';
import { daysOf } from './terms.ts';

const LANE = lantern({}, { priceBreaks: CHEAPER_FROM_300 });
const planOf = (more: object = {}): CashPlan =>
  cashPlan.parse({ start: '2026-01-01', horizon: 120, ...more });
const runsOf = (doc = LANE, plan = planOf()): CashRuns => {
  const said = cashOf(doc, plan);
  if (!said.known) throw new Error(`${said.lacks} ${said.problems}`);
  return said;
};
const offered = (doc = LANE, plan = planOf()) => otherPlans(doc, plan).map((o) => o.otherwise.what);

describe('other plans', () => {
  it('are the next break, later, cheaper, and other ways to order again', () => {
    expect(offered()).toEqual(['quantity', 'start', 'price', 'noReorder', 'ownCash']);
    // Whoever orders only once has no other way to order again; whoever waits for own cash does so already.
    expect(offered(LANE, planOf({ reorder: { kind: 'none' } }))).toEqual(['quantity', 'start', 'price']);
    expect(offered(LANE, planOf({ selfFunding: true }))).toEqual(['quantity', 'start', 'price', 'noReorder']);
  });
  it('over the last break there is no next, and without a lane that runs there is none at all', () => {
    expect(offered(lantern({ orderQuantity: 300 }, { priceBreaks: CHEAPER_FROM_300 }))).not.toContain(
      'quantity',
    );
    expect(offered(lantern())).not.toContain('quantity');
    expect(otherPlans(lantern({ price: null }), planOf())).toEqual([]);
    expect(otherPlans(lantern({}, { leadDays: null }), planOf())).toEqual([]);
  });
  it('each is the run of what it says is otherwise', () => {
    const all = otherPlans(LANE, planOf());
    const of = (what: string) => all.find((o) => o.otherwise.what === what)?.expected;
    const same = (x: CashRuns) => expect.objectContaining({ moneyNeeded: x.cases.expected.moneyNeeded });
    expect(of('quantity')).toEqual(same(runsOf({ ...LANE, orderQuantity: 300 })));
    expect(of('price')).toEqual(same(runsOf({ ...LANE, price: 23.75 })));
    expect(of('start')).toEqual(same(runsOf(LANE, planOf({ start: '2026-02-12' }))));
    expect(of('noReorder')).toEqual(same(runsOf(LANE, planOf({ reorder: { kind: 'none' } }))));
    expect(of('ownCash')).toEqual(same(runsOf(LANE, planOf({ selfFunding: true }))));
  });
  it('a price is one that can be asked for', () => {
    const yen = otherPlans(
      lantern({
        currency: 'JPY',
        price: 3333,
        rates: { ...LANE.rates, exchange: { base: 'EUR', date: '2026-01-01', rates: { JPY: 160 } } },
      }),
      planOf(),
    );
    expect(yen.find((o) => o.otherwise.what === 'price')?.otherwise).toEqual({
      what: 'price',
      lane: { price: 3166 },
    });
  });
});

describe('what is still to come', () => {
  it('stands under the columns of the months, and with them adds up to all there is', () => {
    const { run } = runsOf(LANE, planOf({ reserveShare: 0.2 })).cases.expected;
    const later = toComeByFlow(run);
    const kinds = TO_COME.reduce((sum, k) => sum + run.toCome[k], 0);
    expect(kinds).not.toBe(0);
    expect(FLOWS.reduce((sum, f) => sum + later[f], 0)).toBeCloseTo(kinds, 9);
    expect(later.payouts).toBeCloseTo(run.toCome.payouts + run.toCome.reserves, 9);
    const months = monthsOf(run, '2026-01-01', 0);
    const inMonths = months.reduce((sum, m) => sum + FLOWS.reduce((s, f) => s + m[f], 0), 0);
    expect(inMonths).toBeCloseTo(run.cumulated.at(-1) as number, 6);
  });
});

describe('money to keep ready', () => {
  const base = { reorder: { kind: 'none' } } as const;
  it('is what is needed and the contingency; over is what the cash less the reserve does not cover', () => {
    const needed = runsOf(LANE, planOf(base)).cases.expected.moneyNeeded;
    expect(needed).toBe(1000);
    const said = runsOf(LANE, planOf({ ...base, launch: { contingency: 0.1, cash: 1200, reserve: 300 } }));
    expect(said.toKeepReady).toBeCloseTo(needed + said.contingency, 9);
    expect(said.over).toBeCloseTo(1000 - 900, 9);
    expect(runsOf(LANE, planOf({ ...base, launch: { cash: 1300, reserve: 300 } })).over).toBe(0);
    expect(runsOf(LANE, planOf(base)).over).toBeNull();
  });
});

describe('the days of a lane', () => {
  it('parts of a day round up; what is not typed is named', () => {
    const { days, lacks } = daysOf(
      lantern(
        { route: { legs: [], transitDays: 6.2, inboundDays: 1.5 } },
        { leadDays: 30.1, creditDays: 7, depositShare: 0.3 },
      ),
    );
    expect(lacks).toEqual([]);
    expect(days).toEqual({
      lead: 31,
      transit: 7,
      inbound: 2,
      credit: 7,
      deposit: 0.3,
      payoutEvery: 14,
      payoutDelay: 3,
    });
    expect(
      daysOf(
        lantern({ route: { legs: [] }, payoutEveryDays: null, payoutDelayDays: null }, { leadDays: null }),
      ).lacks,
    ).toEqual(['leadDays', 'transitDays', 'payoutEvery', 'payoutDelay']);
  });
  it('a shop has no lead time and takes no deposit; payouts come every day at the most often', () => {
    const shop = lantern({
      payoutEveryDays: 0.5,
      goods: [{ source: { kind: 'retail', currency: 'EUR', shelfPrice: 9 } }],
    });
    expect(daysOf(shop)).toMatchObject({ lacks: [], days: { lead: 0, deposit: 1, payoutEvery: 1 } });
  });
  it('what the supplier ships is on sale at once', () => {
    const sent = lantern({ method: 'supplierShips', route: null }, { leadDays: null });
    expect(daysOf(sent)).toMatchObject({ lacks: [], days: { lead: 0, transit: 0, inbound: 0 } });
  });
});
