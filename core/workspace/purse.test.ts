/** The purse of a workspace as one document, and all its planned launches month by month. */
import { describe, expect, it } from 'vitest';
import { cashOf } from '../cash/cash.ts';
import { cashPlan, cashTerms } from '../cash/schema.ts';
import { purseDocument } from '../purse/schema.ts';
import { sureTerms } from '../risk/schema.ts';
import {
  PLAIN_CARDS,
  PLAIN_PRODUCT,
  PLAIN_SETTINGS,
  plainQuote,
  plainStored,
} from '../testing/plainParts.ts';
import { allMonthsOf } from './allMonths.ts';
import { cashPlanOf, fundPart, fundPlanOf, launchOf, termsOf } from './fundPlan.ts';
import { purseKey, purseLaneDocument, purseOfWorkspace } from './purse.ts';
import type { PurseCandidate, PurseSource } from './purse.ts';
import { settings } from './settings.ts';

const TODAY = '2026-12-01';
/** Bought at 20, sold at 40 less a tenth: a unit keeps 16; 30 a month, on sale at once and paid every two weeks. */
const LANE = plainStored({ demand: { kind: 'typed', units: 30 }, payoutEveryDays: 14, payoutDelayDays: 3 });
const quote = { ...plainQuote(), leadDays: 10 };
const candidate = (id: string, more: object = {}, lanes: readonly string[] = ['de']): PurseCandidate => ({
  id,
  data: { ...PLAIN_PRODUCT, name: `Bird bath ${id}`, ...more },
  quotes: { q: quote as never },
  lanes: lanes.map((l) => ({ id: l, data: LANE })),
});
const sourceOf = (candidates: readonly PurseCandidate[], more: object = {}): PurseSource => ({
  settings: settings.parse({ ...PLAIN_SETTINGS, launch: { cash: 5000, reserve: 500 }, ...more }),
  cards: PLAIN_CARDS as never,
  today: TODAY,
  candidates,
});

describe('the purse of a workspace', () => {
  it('holds every lane with its plan, by the workspace’s cash, and is a document that can be read', () => {
    const document = purseOfWorkspace(sourceOf([candidate('a', {}, ['de', 'fr']), candidate('b')]));
    expect(purseDocument.safeParse(JSON.parse(JSON.stringify(document))).error?.issues ?? []).toEqual([]);
    expect(document.lanes.map((l) => l.key)).toEqual(['a/de', 'a/fr', 'b/de']);
    expect(document).toMatchObject({ cash: 5000, reserve: 500, start: TODAY, lastStart: 26 });
    // Half, all and twice the order.
    expect(document.lanes[0]?.quantities).toEqual([50, 100, 200]);
  });
  it('quantities that were typed go before those that are made', () => {
    const launch = { ...settings.parse({}).launch, quantities: [70, 140] };
    const document = purseOfWorkspace(sourceOf([candidate('a', { launch })]));
    expect(document.lanes[0]?.quantities).toEqual([70, 140]);
  });
  it('lanes that are ticked out stay out, of rules too', () => {
    const purse = {
      out: ['b/de'],
      must: { 'a/de': true },
      neverTogether: [
        ['a/de', 'b/de'],
        ['a/de', 'c/de'],
      ],
    };
    const document = purseOfWorkspace(
      sourceOf(
        ['a', 'b', 'c'].map((id) => candidate(id)),
        { purse },
      ),
    );
    expect(document.lanes.map((l) => [l.key, l.must])).toEqual([
      ['a/de', true],
      ['c/de', false],
    ]);
    expect(document.neverTogether).toEqual([['a/de', 'c/de']]);
  });
  it('a lane without an order quantity offers none', () => {
    const open = { ...candidate('a'), lanes: [{ id: 'de', data: { ...LANE, orderQuantity: null } }] };
    expect(purseOfWorkspace(sourceOf([open])).lanes[0]?.quantities).toEqual([]);
  });
});

describe('the plan of Fund', () => {
  it('has the defaults of what nobody has said, and the workspace’s cash', () => {
    const plan = fundPlanOf(candidate('a').data, { ...settings.parse({}).launch, cash: 700 });
    expect(plan.cash).toBe(700);
    expect(termsOf(plan)).toEqual(cashTerms.parse({}));
    expect(plan.sure).toEqual({});
    expect(launchOf(plan)).toEqual({ ...settings.parse({}).launch, cash: 700 });
    expect(cashPlan.parse(cashPlanOf(plan, TODAY)).start).toBe(TODAY);
  });
  it('a candidate that was stored before there were ranges has none', () => {
    const { sure: _, overTime: __, ...before } = candidate('a').data;
    expect(fundPlanOf(before as never, settings.parse({}).launch).sure).toEqual({});
  });
  it('a part that is sent keeps what it has and gets no default', () => {
    expect(fundPart.parse({ cash: 5 })).toEqual({ cash: 5 });
    const sure = { de: sureTerms.parse({ seed: 9 }) };
    expect(fundPart.parse({ sure })).toEqual({ sure });
    for (const bad of [
      { overTime: { horizon: 0 } },
      { sure: { de: { draws: 0 } } },
      { overTime: { ramp: [0] } },
    ])
      expect(fundPart.safeParse(bad).success, JSON.stringify(bad)).toBe(false);
  });
});

describe('all launches month by month', () => {
  const planned = (start: string, more: object = {}) => ({
    overTime: cashTerms.parse({ start, reorder: { kind: 'none' } }),
    ...more,
  });
  it('none is planned before one has a first day or a lane that was decided on', () => {
    expect(allMonthsOf(sourceOf([candidate('a')])).launches).toEqual([]);
    const decided = allMonthsOf(sourceOf([candidate('a', { launchLane: 'de' })]));
    expect(decided.launches).toMatchObject([{ candidate: 'a', start: TODAY, quantity: 100 }]);
    const gone = allMonthsOf(sourceOf([candidate('a', { launchLane: 'no longer there' })]));
    expect(gone.launches).toEqual([]);
  });
  it('units, revenue and profit are those of the run; the months add up to the year', () => {
    const said = allMonthsOf(sourceOf([candidate('a', planned(TODAY))]));
    const { total, months } = said;
    // A hundred sell within the year; each keeps 16 of 40.
    expect(total.units.expected).toBeCloseTo(100, 9);
    expect(total.revenue.expected).toBeCloseTo(4000, 6);
    expect(total.profit.expected).toBeCloseTo(1600, 6);
    for (const key of ['units', 'revenue', 'profit'] as const)
      for (const c of ['low', 'expected', 'high'] as const)
        expect(months.reduce((sum, m) => sum + m[key][c], 0)).toBeCloseTo(total[key][c], 6);
    expect(months).toHaveLength(13);
    expect([months[0]?.month, months[12]?.month]).toEqual(['2026-12', '2027-12']);
  });
  it('the account at the end is the cash and all flows of the runs', () => {
    const source = sourceOf([candidate('a', planned(TODAY)), candidate('b', planned('2027-02-01'))]);
    const said = allMonthsOf(source);
    let flows = 0;
    for (const [c, horizon] of [
      [source.candidates[0], 365],
      [source.candidates[1], 365 - 62],
    ] as const) {
      const own = c as PurseCandidate;
      const doc = purseLaneDocument(source, own, LANE);
      const plan = fundPlanOf(own.data, source.settings.launch);
      const run = cashOf(doc, { ...cashPlanOf(plan, TODAY), horizon });
      flows += run.known ? run.cases.expected.end : Number.NaN;
    }
    expect(said.months.at(-1)?.account.expected).toBeCloseTo(5000 + flows, 6);
  });
  it('launch costs and fixed costs come off the profit, fixed ones once for all', () => {
    const launch = {
      ...settings.parse({}).launch,
      oneOffs: [{ name: 'Photos', amount: 150 }],
      advertising: { kind: 'daily', perDay: 10, days: 5 },
      discounts: { units: 10, discount: 2 },
    };
    const two = [candidate('a', planned(TODAY, { launch })), candidate('b', planned(TODAY, { launch }))];
    const said = allMonthsOf(sourceOf(two, { launch: { cash: 5000, monthlyFixedCosts: 100 } }));
    // Twelve month ends, 31 December to 30 November.
    expect(said.total.profit.expected).toBeCloseTo(2 * (1600 - 150 - 50 - 20) - 1200, 6);
  });
  it('one that begins after the year is left out, one that began before it only in part', () => {
    expect(allMonthsOf(sourceOf([candidate('a', planned('2028-01-01'))])).launches).toEqual([]);
    const before = allMonthsOf(sourceOf([candidate('a', planned('2026-10-01'))]));
    expect(before.launches).toHaveLength(1);
    expect(before.total.units.expected).toBeLessThan(60);
    expect(before.total.units.expected).toBeGreaterThan(40);
  });
  it('one that lacks something is named with it, and the others stand', () => {
    const open = { ...candidate('a', planned(TODAY)), lanes: [{ id: 'de', data: { ...LANE, prep: null } }] };
    const said = allMonthsOf(sourceOf([open, candidate('b', planned(TODAY))]));
    expect(said.unknown).toEqual([{ name: 'Bird bath a', lacks: ['prep'], problems: [] }]);
    expect(said.launches).toHaveLength(1);
  });
  it('fewer sell makes less, more sell no more than there is', () => {
    const said = allMonthsOf(sourceOf([candidate('a', planned('2027-10-01'))]));
    const { low, expected, high } = said.total.profit;
    expect(low).toBeLessThan(expected);
    expect(high).toBeGreaterThan(expected);
  });
  it('keys name candidate and lane', () => expect(purseKey('a', 'de')).toBe('a/de'));
});
