/** What may be chosen among: each lane in each quantity and week, and what no plan needs. */
import { describe, expect, it } from 'vitest';
import { cashOf } from '../cash/cash.ts';
import { cashPlan } from '../cash/schema.ts';
import { documentOf, LANE, lane } from '../testing/purses.ts';
import { availableBy } from './model.ts';
import { lastDay, optionsOf } from './options.ts';
import type { Option } from './options.ts';

describe('options', () => {
  it('one is the lane’s own cash run from its week on, seen week by week', () => {
    const doc = documentOf({ lanes: [lane('a', { quantities: [100, 200], lastStart: 4 })] });
    const { options, aside } = optionsOf(doc);
    expect(aside).toEqual([]);
    expect(options.map((o) => [o.quantity, o.week])).toEqual([
      [100, 0],
      [100, 2],
      [100, 4],
      [200, 0],
      [200, 2],
      [200, 4],
    ]);
    const o = options[1] as Option;
    const plan = cashPlan.parse({
      start: '2026-01-15',
      horizon: lastDay(doc) - 14,
      reorder: { kind: 'none' },
    });
    const said = cashOf(LANE, plan);
    if (!said.known) throw new Error('the lane of this test is complete');
    const { run, moneyNeeded } = said.cases.expected;
    expect(o.moneyNeeded).toBeCloseTo(moneyNeeded, 9);
    for (let w = 0; w <= doc.weeks; w++) {
      const days = run.cumulated.slice(Math.max(0, 7 * (w - 2)), 7 * (w - 2) + 7);
      expect(o.lowest[w], `week ${w}`).toBeCloseTo(w < 2 ? 0 : Math.min(...days), 9);
    }
    // All are sold by then, at 15 over their cost.
    expect(o.unitsSold).toBeCloseTo(100, 9);
    expect(o.value).toBeCloseTo(1500, 9);
  });
  it('unsold goods count at what they fetch', () => {
    const slow = { ...LANE, demand: { kind: 'typed' as const, units: 1 } };
    const at = (salvage: number) => {
      const [o] = optionsOf(documentOf({ salvage, lanes: [lane('a', { lane: slow, must: true })] })).options;
      return o as Option;
    };
    expect(at(0).left).toBeGreaterThan(80);
    expect(at(0.4).value - at(0).value).toBeCloseTo(0.4 * at(0).left * 10, 9);
  });
  it('caution takes off a share of what the low case would lack', () => {
    const doc = (caution: number) =>
      documentOf({ caution, weeks: 12, lanes: [lane('a', { quantities: [500], must: true })] });
    const [plain, careful] = [0, 0.5].map((c) => optionsOf(doc(c)).options[0] as Option);
    expect(careful?.value).toBe(plain?.value);
    expect(careful?.worth).toBeLessThan(plain?.worth as number);
    const low = optionsOf(
      documentOf({
        weeks: 12,
        lanes: [lane('a', { quantities: [500], plan: { cases: { expected: 0.6 } }, must: true })],
      }),
    ).options[0] as Option;
    const lacks = (plain?.value as number) - low.value;
    expect(careful?.worth).toBeCloseTo((plain?.value as number) - 0.5 * lacks, 9);
  });
  it('what is incomplete, loses or cannot be ordered stands aside with its reason', () => {
    const doc = documentOf({
      lanes: [
        lane('open', { lane: { ...LANE, prep: null } }),
        lane('loses', { lane: { ...LANE, price: 5 } }),
        lane('odd', { quantities: [55, 20] }),
        lane('none', { lane: { ...LANE, orderQuantity: null } }),
        lane('fine'),
      ],
    });
    const { options, aside } = optionsOf(doc);
    expect(aside).toMatchObject([
      { key: 'open', why: 'incomplete', lacks: ['prep'] },
      { key: 'loses', why: 'loses', best: expect.any(Number) },
      { key: 'odd', why: 'quantityNotTaken' },
      { key: 'none', why: 'incomplete', lacks: ['orderQuantity'] },
    ]);
    expect(aside[1]?.best).toBeLessThan(0);
    expect(new Set(options.map((o) => o.lane))).toEqual(new Set([4]));
  });
  it('one that must be launched may lose, and one that is pinned has that option alone', () => {
    const doc = documentOf({
      lastStart: 6,
      lanes: [
        lane('loses', { lane: { ...LANE, price: 5 }, must: true }),
        lane('pinned', { must: { quantity: 150, week: 3 } }),
      ],
    });
    const { options, aside } = optionsOf(doc);
    expect(aside).toEqual([]);
    expect(options.filter((o) => o.lane === 1).map((o) => [o.quantity, o.week])).toEqual([[150, 3]]);
    expect(options.filter((o) => o.lane === 0)).toHaveLength(4);
  });
  it('whoever counts may stop it', () => {
    const doc = documentOf({ lanes: ['a', 'b', 'c'].map((k) => lane(k)) });
    expect(optionsOf(doc, (done) => done < 2).options).toHaveLength(2);
  });
});

describe('what cash there is', () => {
  it('is what is left of the reserve and of the fixed costs of each month’s last day', () => {
    const doc = documentOf({ weeks: 9, reserve: 1000, monthlyFixedCosts: 200 });
    // 31 January is day 30, in week 4; 28 February is day 58, in week 8.
    expect([...availableBy(doc, 5000)]).toEqual([4000, 4000, 4000, 4000, 3800, 3800, 3800, 3800, 3600, 3600]);
  });
});
