/** Measures of looking ahead: a year of cash, draws, a grid, one purse, and Fund in a real browser. */
import loadHighs from 'highs';
import { solverOf } from '../between/solver.ts';
import { planInTime } from '../between/solvingPurse.ts';
import { calendarOf } from '../core/cash/calendar.ts';
import { cashOf } from '../core/cash/cash.ts';
import { prepareCash } from '../core/cash/prepare.ts';
import { calendarDays, runCash } from '../core/cash/run.ts';
import { CASH_CASES, cashPlan } from '../core/cash/schema.ts';
import { reckon } from '../core/lane/reckon.ts';
import { Reckoning } from '../core/lane/reckoning.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { objectiveOf, rowsOf } from '../core/purse/model.ts';
import { purseDocument } from '../core/purse/schema.ts';
import { offeredRanges, rangeWidths } from '../core/risk/offered.ts';
import { gridOf, riskOf } from '../core/risk/risk.ts';
import { rangesDocument } from '../core/risk/schema.ts';
import type { RangesDocument } from '../core/risk/schema.ts';
import type { Measure } from './core.ts';
import { demoLanes } from './lanes.ts';
import { median, scripting } from './sheet.ts';
import { firstLoad, inDemo } from './tools.ts';

const best = (work: () => unknown, runs = 15): number =>
  Math.min(
    ...Array.from({ length: runs }, () => {
      const started = performance.now();
      work();
      return performance.now() - started;
    }),
  );
const ms = (name: string, value: number, aim: string, yardstick: string, ratio: number | null): Measure => ({
  name,
  value,
  unit: 'ms',
  aim,
  yardstick,
  ratio,
});

/** Lanes of the demo that nothing is missing of. */
const whole = (): LaneDocument[] => demoLanes().filter((doc) => cashOf(doc, cashPlan.parse({})).known);

/** Three cases of 366 days in the simplest words: each day its sales, its flows, what is left, nothing else. */
function bareYear(): number {
  let all = 0;
  for (const units of [60, 100, 130]) {
    const series = Array.from({ length: 14 }, () => new Float64Array(366));
    let stock = 300;
    let balance = 0;
    for (let t = 0; t < 366; t++) {
      const wanted = t < 60 ? 0 : units / 30.4375;
      const sold = Math.min(wanted, stock);
      stock -= sold;
      const flows = [sold * 20, t === 0 ? -3000 : 0, -sold * 2, -sold * 3, -sold, -1, 0, 0];
      for (let k = 0; k < flows.length; k++) {
        (series[k] as Float64Array)[t] = flows[k] as number;
        balance += flows[k] as number;
      }
      const there = [balance, stock, sold, wanted - sold, 300, sold * 0.02];
      for (let k = 0; k < there.length; k++) (series[8 + k] as Float64Array)[t] = there[k] as number;
    }
    all += balance;
  }
  return all;
}

function measureCash(doc: LaneDocument): Measure[] {
  const plan = cashPlan.parse({});
  const bare = best(bareYear, 400);
  const prepared = prepareCash(doc, plan);
  if (!prepared.known) throw new Error('the lane is complete');
  const calendar = calendarOf('2026-12-01', calendarDays(365, prepared.days, plan), plan.vat.period);
  const inputs = CASH_CASES.map((c) => ({
    ...prepared.inputAt(prepared.units * plan.cases[c]),
    calendar,
    horizon: 365,
  }));
  const runs = best(() => inputs.map(runCash), 400);
  return [
    ms(
      'A year of cash in three cases, the lane evaluated, with what is said of it',
      best(() => cashOf(doc, plan), 400),
      'at most 1',
      'as below',
      null,
    ),
    ms(
      'Its days alone: the three runs',
      runs,
      'at most 3 times the bare loop',
      `a bare loop over the days that fills the same series: ${bare.toFixed(3)} ms`,
      runs / bare,
    ),
  ];
}

const rangesFor = (doc: LaneDocument): RangesDocument =>
  rangesDocument.parse({
    ranges: Object.fromEntries(
      Object.entries(offeredRanges(doc, rangeWidths.parse({}))).map(([k, o]) => [k, o.range]),
    ),
  });

function measureRisk(lanes: readonly LaneDocument[]): Measure[] {
  const asked = lanes.map((doc) => ({ doc, ranges: rangesFor(doc) }));
  const r = new Reckoning();
  const evaluated = (): void => {
    for (const { doc } of asked)
      for (let k = 0; k < 10_000; k++) {
        r.tried.price = 20 + (k % 50);
        reckon(doc, r);
      }
  };
  let [bare, drawn] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  // By turns, so that a slow moment of the machine falls on both.
  for (let turn = 0; turn < 8; turn++) {
    bare = Math.min(bare, best(evaluated, 1));
    drawn = Math.min(
      drawn,
      best(() => asked.map(({ doc, ranges }) => riskOf(doc, ranges)), 1),
    );
  }
  const [first] = asked;
  if (first === undefined) throw new Error('no lane');
  const grid = best(() => gridOf(first.doc, first.ranges, 'price', 'units', 'launch'));
  return [
    ms(
      `10,000 draws of ${lanes.length} lanes`,
      drawn,
      'at most 500, at least half the rate of bare evaluations',
      `the lanes evaluated alone: ${bare.toFixed(0)} ms`,
      drawn / bare,
    ),
    ms(
      'A grid of 121 points',
      grid,
      'at most 10',
      `a lane evaluated 121 times: ${((bare * 121) / (lanes.length * 10_000)).toFixed(2)} ms`,
      null,
    ),
  ];
}

/** Thirty candidates with six quantities and 27 start weeks. */
async function measurePurse(lanes: readonly LaneDocument[]): Promise<Measure> {
  const solver = solverOf(await loadHighs());
  const document = purseDocument.parse({
    format: 'bold-margin/purse',
    version: 1,
    start: '2026-12-01',
    cash: 9000,
    reserve: 500,
    lastStart: 52,
    lanes: Array.from({ length: 30 }, (_, i) => {
      const lane = lanes[i % lanes.length] as LaneDocument;
      const price = (lane.price ?? 20) * (0.95 + (i % 7) * 0.03);
      const quantities = [1, 2, 3, 4, 6, 8].map((k) => k * Math.ceil((lane.orderQuantity ?? 100) / 4));
      return { key: `l${i}`, candidate: `c${i}`, lane: { ...lane, price }, quantities };
    }),
  });
  let prepared = 0;
  const { purse, plan, seconds } = planInTime(document, solver, (_, s) => {
    prepared = 1000 * s;
  });
  const took = 1000 * seconds;
  const rows = rowsOf(purse.options, document, { cash: document.cash, must: new Set() });
  const started = performance.now();
  solver({ objective: purse.options.map(objectiveOf), free: 0, rows, start: null }, document.seconds);
  const bare = performance.now() - started;
  const gap = plan.feasible ? `gap ${(100 * (plan.gap ?? 1)).toFixed(2)} %` : 'no plan';
  return ms(
    `One purse, 30 candidates, 6 quantities, 27 weeks (${purse.options.length} options left, ${gap})`,
    took,
    'at most 5,000',
    `the solver alone: ${bare.toFixed(0)} ms; options ${prepared.toFixed(0)} ms`,
    took / bare,
  );
}

async function measurePage(origin: string): Promise<Measure[]> {
  return inDemo(origin, async (page) => {
    const base = `${origin}/w/fernhollow-goods/fund`;
    const bytes = await firstLoad(page, base);
    const timeBytes = await firstLoad(page, `${base}?view=time`);
    await page.getByTestId('day-shown').waitFor();
    const spent = await scripting(page);
    const field = page.getByLabel('Order quantity', { exact: true });
    const strokes: number[] = [];
    await field.focus();
    for (let i = 0; i < 60; i++) {
      const before = await spent();
      await page.keyboard.press(i % 2 === 0 ? 'ArrowUp' : 'ArrowDown');
      await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
      strokes.push((await spent()) - before);
      await page.waitForTimeout(100);
    }
    return [
      ms(
        'A key on the plan to repainted figures and picture, scripting, median of 60',
        median(strokes),
        'at most 16',
        `the slowest: ${Math.max(...strokes).toFixed(1)} ms`,
        null,
      ),
      {
        name: 'Script of the first load of Fund, Brotli',
        value: bytes / 1000,
        unit: 'kB',
        aim: 'at most 300',
        yardstick: `opened over time: ${(timeBytes / 1000).toFixed(0)} kB`,
        ratio: null,
      },
    ];
  });
}

export async function measurePlan(origin: string): Promise<Measure[]> {
  const lanes = whole();
  const [first] = lanes;
  if (first === undefined) throw new Error('no lane of the demo is complete');
  return [
    ...measureCash(first),
    ...measureRisk(lanes.slice(0, 9)),
    await measurePurse(lanes),
    ...(await measurePage(origin)),
  ];
}
