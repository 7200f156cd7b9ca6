/** What is made of cash runs: quantities beside each other, running out, the bank, being late for a peak. */
import { describe, expect, it } from 'vitest';
import { CHEAPER_FROM_300, lantern } from '../testing/lantern.ts';
import { Draw } from '../testing/draw.ts';
import { broughtBy, inBank } from './bank.ts';
import { cashOf } from './cash.ts';
import { bestQuantity, expectedOf, nextBreakGain, quantityRuns, runsOutAbove } from './quantities.ts';
import { cashPlan } from './schema.ts';
import type { CashPlan } from './schema.ts';

const LANE = lantern(
  { demand: { kind: 'typed', units: 30.4375 }, payoutEveryDays: 1, payoutDelayDays: 0 },
  { priceBreaks: CHEAPER_FROM_300 },
);
const planOf = (more: object = {}): CashPlan =>
  cashPlan.parse({ start: '2026-01-01', horizon: 100, reorder: { kind: 'none' }, ...more });

describe('quantities beside each other', () => {
  const runs = quantityRuns(LANE, planOf(), [50, 100, 300]);
  it('each is the run of its own order', () => {
    for (const run of runs) {
      const said = cashOf({ ...LANE, orderQuantity: run.quantity }, planOf());
      if (!said.known) throw new Error('the lane of this test is complete');
      expect(expectedOf(run)?.moneyNeeded).toBe(said.cases.expected.moneyNeeded);
      expect(run.unitCost).toBe(run.quantity === 300 ? 8 : 10);
    }
    expect(runs.map((r) => r.coverMonths?.toFixed(2))).toEqual(['1.64', '3.29', '9.86']);
  });
  it('a unit a day from day 30 on: 71 days of sales up to day 100 take 71 units', () => {
    // On sale on days 30 to 100: the order runs out above as many units a day as it has for 71 days.
    for (const run of runs) expect(run.runsOutAbove).toBeCloseTo((run.quantity / 71) * 30.4375, 3);
  });
  it('selling under the number leaves no day short, selling over it does', () => {
    const d = new Draw(5);
    for (let k = 0; k < 25; k++) {
      const doc = { ...LANE, orderQuantity: d.int(1, 60) * 10 };
      const plan = planOf({ reorder: d.chance(0.5) ? { kind: 'none' } : { kind: 'same', notBefore: 90 } });
      const above = runsOutAbove(doc, plan) as number;
      const short = (units: number): number => {
        const said = cashOf({ ...doc, demand: { kind: 'typed', units } }, plan);
        return said.known ? said.cases.expected.daysShort : -1;
      };
      expect(short(above * 0.999)).toBe(0);
      expect(short(above * 1.001)).toBeGreaterThan(0);
    }
  });
  it('goods that cannot run out, and lanes that cannot run, have no such number', () => {
    expect(runsOutAbove({ ...LANE, orderQuantity: 1e6 }, planOf())).toBeNull();
    expect(runsOutAbove({ ...LANE, demand: null }, planOf())).toBeNull();
  });
  it('the best by each measure', () => {
    expect(bestQuantity(runs, 'end', [])).toBe(1);
    expect(bestQuantity(runs, 'moneyNeeded', [])).toBe(0);
    expect(bestQuantity(runs, 'payback', [])).toBe(0);
    expect(bestQuantity(runs, 'loss', [0.3, 0.1, null])).toBe(1);
    expect(bestQuantity(runs, 'loss', [null, null, null])).toBeNull();
    expect(bestQuantity(quantityRuns({ ...LANE, prep: null }, planOf(), [50]), 'end', [])).toBeNull();
  });
  it('what never comes back is later than any day', () => {
    const [small, large] = quantityRuns(LANE, planOf(), [50, 3000]);
    expect(expectedOf(large as never)?.payback).toBeNull();
    expect(bestQuantity([large, small] as never, 'payback', [])).toBe(1);
  });
  it('the next price break gains what its own run ends at less that of today', () => {
    const found = nextBreakGain(LANE, planOf());
    expect(found).toMatchObject({ from: 100, next: 300 });
    const [a, b] = quantityRuns(LANE, planOf(), [100, 300]).map((r) => expectedOf(r)?.end as number);
    expect(found?.gain).toBeCloseTo((b as number) - (a as number), 9);
    expect(nextBreakGain({ ...LANE, orderQuantity: 300 }, planOf())).toBeNull();
    expect(nextBreakGain({ ...LANE, orderQuantity: null }, planOf())).toBeNull();
    expect(nextBreakGain({ ...LANE, prep: null }, planOf())).toBeNull();
  });
});

describe('the same money in the bank', () => {
  it('brings each day’s interest on what is out, and none on what is over', () => {
    const run = { cumulated: Float64Array.of(-1000, -1000, -500, 200) };
    expect(inBank(run, 0.0365)).toBeCloseTo(2500 * 0.0001, 12);
    expect(inBank({ cumulated: Float64Array.of(5, 5) }, 0.1)).toBe(0);
  });
  it('a launch brings cash, what is to come, and goods at what they cost', () => {
    const said = cashOf(LANE, planOf({ horizon: 60 }));
    if (!said.known) throw new Error('the lane of this test is complete');
    const c = said.cases.expected;
    const brought = broughtBy(c.run, c.left);
    // 31 units sold by day 60, of a hundred bought at ten; 25 each are paid on the day.
    expect(brought.cash).toBeCloseTo(31 * 25 - 1000, 6);
    expect(brought.goods).toBeCloseTo(69 * 10, 6);
    expect(brought.toCome).toBeCloseTo(0, 6);
  });
});

describe('late for a peak', () => {
  const season = [1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 3];
  it('misses the units of two weeks of it and what they would keep', () => {
    const said = cashOf({ ...LANE, season }, planOf({ horizon: 364 }));
    if (!said.known) throw new Error('the lane of this test is complete');
    const [peak] = said.peaks;
    const daily = 3 / (14 / 12);
    expect(peak?.late.units).toBeCloseTo(14 * daily, 6);
    expect(peak?.late.profit).toBeCloseTo(14 * daily * 15, 6);
    expect(peak?.late.units).toBeLessThan(peak?.units as number);
  });
});
