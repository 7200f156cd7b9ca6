/** A purse solved step by step: what is told and when, and how the time is shared. */
import { describe, expect, it } from 'vitest';
import loadHighs from 'highs';
import { CURVE_SHARES, purseOf } from '../core/purse/purse.ts';
import type { Solver } from '../core/purse/model.ts';
import { documentOf, lane } from '../core/testing/purses.ts';
import { solverOf } from './solver.ts';
import { planInTime, solvePurse } from './solvingPurse.ts';
import type { PurseStep } from './solvingPurse.ts';

const solver = solverOf(await loadHighs());
const keys = ['a', 'b', 'c'];
const document = documentOf({ cash: 1200, weeks: 20, lastStart: 4, lanes: keys.map((k) => lane(k)) });
const stepsOf = (doc = document, by: Solver = solver): PurseStep[] => {
  const steps: PurseStep[] = [];
  solvePurse(doc, by, (s) => steps.push(s));
  return steps;
};
/** The solver, and the seconds that it is given at each question. */
function timed(): { solver: Solver; given: number[] } {
  const given: number[] = [];
  return {
    given,
    solver: (mip, seconds) => {
      given.push(seconds);
      return solver(mip, seconds);
    },
  };
}

describe('a purse solved step by step', () => {
  const steps = stepsOf();
  const told = steps.filter((s) => s.said !== null);
  it('comes to what it comes to at once', () => {
    const last = steps.at(-1);
    expect(last).toMatchObject({ stage: 'done' });
    expect(last?.said).toEqual(purseOf(document, solver));
  });
  it('tells the plan first, then each question once, and never takes anything back', () => {
    expect(told[0]?.said?.plan).toMatchObject({ feasible: true });
    expect(told[0]?.said).toMatchObject({ curve: [], leftOut: [] });
    for (const [i, { said, done, all, stage }] of told.entries()) {
      expect(said?.plan).toBe(told[0]?.said?.plan);
      if (stage === 'done') continue;
      expect(done).toBe(i);
      expect((said?.curve.length ?? 0) + (said?.leftOut.length ?? 0)).toBe(done);
      expect(all).toBe(told[0]?.all);
    }
    const [plan] = [told[0]?.said?.plan];
    const left = plan?.feasible ? keys.length - plan.launches.length : 0;
    expect(told[0]?.all).toBe(CURVE_SHARES.length + left);
  });
  it('what a tenth more cash would bring is told as soon as it is known', () => {
    const withMore = told.findIndex((s) => s.said?.more !== null);
    expect(withMore).toBe(1 + CURVE_SHARES.indexOf(1.1));
  });
  it('where there is no plan that is all it says', () => {
    const steps = stepsOf(documentOf({ cash: 10, lanes: [lane('a', { must: true })] }));
    const said = steps.filter((s) => s.said !== null);
    expect(said).toHaveLength(1);
    expect(said[0]).toMatchObject({ stage: 'done', said: { plan: { feasible: false, why: 'cash' } } });
  });
});

describe('the time', () => {
  it('that the options take is taken off the time to think, and a little is kept for the last step', () => {
    const { solver: by, given } = timed();
    const lanes: number[] = [];
    const { plan, seconds } = planInTime({ ...document, seconds: 10 }, by, (done) => lanes.push(done));
    expect(plan.feasible).toBe(true);
    expect(lanes).toEqual([1, 2, 3]);
    expect(given[0]).toBeLessThanOrEqual(9.4);
    expect(given[0]).toBeGreaterThan(9.4 - seconds - 0.001);
  });
  it('is a second at least, however little there is', () => {
    const { solver: by, given } = timed();
    planInTime({ ...document, seconds: 0.1 }, by);
    expect(given[0]).toBe(1);
  });
  it('of each question is its part, and all of them share what is left', () => {
    const { solver: by, given } = timed();
    stepsOf({ ...document, seconds: 5 }, by);
    expect(Math.max(...given.slice(1))).toBeLessThanOrEqual(1);
    const long = timed();
    stepsOf({ ...document, seconds: 600 }, long.solver);
    // Twice the time for the plan is there for all of them: none gets more than its share of that.
    const shares = long.given.slice(1);
    expect(Math.max(...shares)).toBeLessThanOrEqual(120);
    expect(shares[0]).toBeLessThanOrEqual(1200 / shares.length + 1e-6);
    for (const s of given) expect(s).toBeGreaterThanOrEqual(0.2);
  });
});
