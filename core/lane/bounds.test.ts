import { describe, expect, it } from 'vitest';
import { launch } from '../launch/launch.ts';
import { launchPlan } from '../launch/schema.ts';
import { plainLane } from '../testing/documents.ts';
import { FILL } from '../testing/fill.ts';
import { randomLane } from '../testing/lanes.ts';
import { boundOf, boundWithout } from './bounds.ts';
import { judgeHurdles } from './hurdles.ts';
import { hurdle } from './hurdleSchema.ts';
import { FIGURES } from './figures.ts';
import { evaluate } from './evaluate.ts';
import type { LaneDocumentInput } from './schema.ts';
import { highestPurchaseCost, priceFor } from './solve.ts';
import { cases, enough } from '../testing/seed.ts';

const lane = (over: Partial<LaneDocumentInput> = {}) =>
  plainLane({
    price: 20,
    demand: { kind: 'typed', units: 50 },
    goods: [{ source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 5 }] } }],
    ...over,
  });

describe('a figure that lacks costs is a bound', () => {
  it('profit at most, cost at least, and nothing where all is known', () => {
    expect(evaluate(lane()).bounds).toEqual({});
    expect(evaluate(lane({ adverts: null })).bounds).toMatchObject({
      unitProfit: 'atMost',
      margin: 'atMost',
      roi: 'atMost',
    });
    expect(evaluate(lane({ adverts: null })).bounds).not.toHaveProperty('landedCost');
    expect(evaluate(lane({ prep: null })).bounds).toMatchObject({
      landedCost: 'atLeast',
      landedCash: 'atLeast',
      unitProfit: 'atMost',
    });
    expect(evaluate(lane({ storage: null, product: { sides: null } })).bounds.proceeds).toBe('atMost');
  });
  it('before returns nothing is bounded: they may take or give', () => {
    expect(evaluate(lane({ returns: null, adverts: null })).bounds).toMatchObject({
      unitProfit: 'notKnown',
      contribution: 'notKnown',
    });
    expect(boundWithout(['returns', 'storage'], 'atMost')).toBe('notKnown');
    expect([
      boundOf('unitProfit', []),
      boundOf('unitProfit', undefined),
      boundOf('profitPerMonth', ['demand']),
    ]).toEqual([null, null, null]);
  });
  it('the break-even price at least, the most to pay at most', () => {
    expect([
      priceFor(lane({ adverts: null })).bound,
      highestPurchaseCost(lane({ adverts: null })).bound,
    ]).toEqual(['atLeast', 'atMost']);
    expect([priceFor(lane()).bound, highestPurchaseCost(lane()).bound]).toEqual([null, null]);
    expect([
      priceFor(lane({ returns: null })).bound,
      highestPurchaseCost(lane({ returns: null })).bound,
    ]).toEqual(['notKnown', 'notKnown']);
  });
  it('what a launch takes at least, what the cash pays for at most', () => {
    const plan = launchPlan.parse({
      cash: 2000,
      monthlyProfitGoal: 100,
      advertising: { kind: 'daily', perDay: 1, days: 10 },
    });
    expect(launch(lane(), plan).bounds).toEqual({});
    expect(launch(lane({ prep: null }), plan).bounds).toMatchObject({
      total: 'atLeast',
      mostUnits: 'atMost',
      mostUnitPrice: 'atMost',
      unitsADay: 'atLeast',
      monthsToPayBack: 'atLeast',
    });
    expect(launch(lane({ prep: null }), plan).bounds).not.toHaveProperty('productBudget');
    expect(launch(lane(), launchPlan.parse({ cash: 2000 })).bounds).toMatchObject({
      total: 'atLeast',
      productBudget: 'atMost',
    });
    expect(launch(lane({ returns: null }), plan).bounds).toMatchObject({ unitsADay: 'notKnown' });
  });
  it('months until the launch money is back are null beyond the cover', () => {
    const plan = launchPlan.parse({ oneOffs: [{ name: 'tooling', amount: 9000 }] });
    const r = launch(lane(), plan);
    expect(r).toMatchObject({ monthsToPayBack: null });
    expect(r.reasons.monthsToPayBack).toMatch(/^beyond the cover/);
  });
  it('holds over random lanes: filled in, no figure is on the other side of its bound', () => {
    const wrong: string[] = [];
    let held = 0;
    for (let seed = 0; seed < cases(4000); seed++) {
      const doc = randomLane(seed, 3);
      const before = evaluate(doc);
      for (const blank of before.blanks) {
        // Where duty is known and the import charges are not, filling in would take the known duty away.
        if (blank === 'demand' || blank === 'returns' || (blank === 'duty' && before.lines.duty !== null))
          continue;
        for (const more of FILL[blank]?.(doc) ?? []) {
          const after = evaluate({ ...doc, ...more });
          for (const figure of FIGURES) {
            const [bound, a, b] = [before.bounds[figure], before.figures[figure], after.figures[figure]];
            if (bound === undefined || bound === 'notKnown' || a === null || b === null) continue;
            held++;
            const slack = 1e-9 * Math.max(1, Math.abs(a));
            if (bound === 'atMost' ? b > a + slack : b < a - slack)
              wrong.push(`seed ${seed}: ${figure} ${bound} ${a} became ${b} with ${blank}`);
          }
        }
      }
    }
    expect(wrong.slice(0, 10)).toEqual([]);
    expect(held).toBeGreaterThan(enough(10_000));
  });
});

describe('hurdles', () => {
  const of = (h: object) => hurdle.parse({ bound: 'atLeast', ...h });
  it('a bound passes none; it fails where what is missing can only make it worse', () => {
    const verdict = (over: Partial<LaneDocumentInput>, h: object) =>
      judgeHurdles(lane(over), [of(h)])[0]?.verdict;
    expect([
      verdict({ adverts: null }, { figure: 'unitProfit', level: 2 }),
      verdict({ adverts: null }, { figure: 'unitProfit', level: 99 }),
    ]).toEqual(['unknown', 'fail']);
    expect(verdict({ returns: null }, { figure: 'unitProfit', level: 99 })).toBe('unknown');
    expect(verdict({ adverts: null }, { figure: 'unitProfit', level: 2, bound: 'atMost' })).toBe('unknown');
  });
  it('a default of ours clears no hurdle on itself', () => {
    const byDefault = (input: string) => ({
      provenance: { [input]: { source: 'default' as const, date: '2026-11-01' } },
    });
    const verdict = (over: Partial<LaneDocumentInput>, h: object) =>
      judgeHurdles(lane(over), [of(h)])[0]?.verdict;
    expect([
      verdict({}, { figure: 'expectedMonthlyUnits', level: 30 }),
      verdict(byDefault('demand'), { figure: 'expectedMonthlyUnits', level: 30 }),
      verdict(byDefault('demand'), { figure: 'expectedMonthlyUnits', level: 90 }),
    ]).toEqual(['pass', 'unknown', 'fail']);
    expect([
      verdict({}, { figure: 'coverMonths', level: 3, bound: 'atMost' }),
      verdict(byDefault('orderQuantity'), { figure: 'coverMonths', level: 3, bound: 'atMost' }),
    ]).toEqual(['pass', 'unknown']);
    expect(verdict(byDefault('demand'), { figure: 'unitProfit', level: 2 })).toBe('pass');
  });
});
