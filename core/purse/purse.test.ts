import loadHighs from 'highs';
import { describe, expect, it } from 'vitest';
import { solverOf } from '../../between/solver.ts';
import { Draw } from '../testing/draw.ts';
import { documentOf, LANE, lane } from '../testing/purses.ts';
import { randomLane } from '../testing/lanes.ts';
import { worthTrying } from './model.ts';
import { optionsOf } from './options.ts';
import type { Option } from './options.ts';
import { costOfChoosing, curvePoint, leftOutOf, planWith, preparePurse, purseOf } from './purse.ts';
import type { PreparedPurse } from './purse.ts';
import { purseDocument } from './schema.ts';
import type { PurseDocument } from './schema.ts';
import { cases, enough } from '../testing/seed.ts';

const solver = solverOf(await loadHighs());

type Chosen = { readonly score: number; readonly options: readonly Option[] };
/** Tries every set of options: the best that keeps every rule, written down from the page; null: none does. */
function byForce(p: PurseDocument, options: readonly Option[]): Chosen | null {
  let best: Chosen | null = null;
  const laneOf = (o: Option) => p.lanes[o.lane] as PurseDocument['lanes'][number];
  const count = (of: readonly Option[], by: (o: Option) => unknown): number =>
    Math.max(0, ...[...new Set(of.map(by))].map((x) => of.filter((o) => by(o) === x).length));
  const months = Array.from({ length: 60 }, (_, m) => {
    const start = Date.parse(`${p.start}T00:00:00Z`);
    const first = new Date(start);
    return Math.round(
      (Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + m + 1, 0) - start) / 86_400_000,
    );
  });
  for (let set = 0; set < 2 ** options.length; set++) {
    const own = options.filter((_, i) => (set >> i) & 1);
    if (count(own, (o) => o.lane) > 1) continue;
    if (count(own, (o) => laneOf(o).candidate) > p.lanesPerCandidate) continue;
    if (p.most !== null && own.length > p.most) continue;
    if (p.perWeek !== null && count(own, (o) => o.week) > p.perWeek) continue;
    if (p.neverTogether.some((keys) => own.filter((o) => keys.includes(laneOf(o).key)).length > 1)) continue;
    if (p.lanes.some((l, i) => l.must !== false && own.every((o) => o.lane !== i))) continue;
    let fits = true;
    for (let w = 0; w <= p.weeks; w++) {
      const fixed = months.filter((end) => end <= 7 * w + 6).length * p.monthlyFixedCosts;
      const flows = own.reduce((sum, o) => sum + (o.lowest[w] as number), 0);
      if (p.cash - p.reserve - fixed + flows < -1e-7) fits = false;
    }
    if (!fits) continue;
    const score = own.reduce((sum, o) => sum + o.worth - 1e-6 * o.moneyNeeded, 0);
    if (best === null || score > best.score) best = { score, options: own };
  }
  return best;
}

/** A purse of made-up options: how the account falls and comes back, and what each is worth. */
function randomPurse(seed: number): PreparedPurse {
  const d = new Draw(seed * 31);
  const weeks = d.int(2, 8);
  const count = d.int(1, 5);
  const candidates = d.int(1, count);
  const chance = (p: number): boolean => d.chance(p);
  const lanes = Array.from({ length: count }, (_, i) => ({
    key: `l${i}`,
    candidate: `c${i % candidates}`,
    lane: LANE,
    must: chance(0.15),
  }));
  const document = documentOf({
    weeks,
    cash: d.int(0, 4000),
    lanesPerCandidate: chance(0.3) ? 2 : 1,
    most: chance(0.3) ? d.int(0, 3) : null,
    perWeek: chance(0.3) ? d.int(1, 2) : null,
    monthlyFixedCosts: chance(0.4) ? d.int(1, 500) : 0,
    neverTogether: count > 1 && chance(0.3) ? [['l0', 'l1']] : [],
    lanes,
  });
  const options: Option[] = [];
  for (let k = 0; k < 12; k++) {
    const week = d.int(0, weeks);
    const needed = d.int(10, 2500);
    const lowest = new Float64Array(weeks + 1);
    for (let w = week; w <= weeks; w++)
      lowest[w] = -needed + Math.round(((w - week) / weeks) * needed * d.typed(0, 3));
    const worth = d.int(-200, 1500);
    const moneyNeeded = Math.max(0, ...lowest.map((x) => -x));
    const lane = k < count ? k : d.int(0, count - 1);
    options.push({
      lane,
      quantity: k,
      week,
      lowest,
      value: worth,
      worth,
      moneyNeeded,
      unitsSold: 1,
      left: 0,
      onSale: 0,
      payback: null,
    });
  }
  return { document, options, aside: [], solver };
}

describe('against brute force', () => {
  it('never worse, every rule kept, and none where none fits', () => {
    const seen: Record<string, number> = {};
    const hit = (what: string, when = true): void => {
      if (when) seen[what] = (seen[what] ?? 0) + 1;
    };
    const WANTED = [
      'none fits',
      'nothing chosen',
      'must',
      'several',
      'tight',
      'most',
      'perWeek',
      'never',
      'fixed',
      'candidate',
    ];
    const isUnmet = (): boolean => WANTED.some((w) => (seen[w] ?? 0) < 5);
    for (let seed = 1; seed <= cases(150) || (isUnmet() && seed <= 1500); seed++) {
      const purse = randomPurse(seed);
      const { document, options } = purse;
      const best = byForce(document, options);
      const plan = planWith({ ...purse, options: worthTrying(options, document) });
      const at = `seed ${seed}`;
      if (best === null) {
        expect(plan.feasible, at).toBe(false);
        hit('none fits');
        continue;
      }
      if (!plan.feasible) throw new Error(`${at}: a plan fits and none was found`);
      const chosen = plan.launches.map((l) => options[l.quantity] as Option);
      const score = chosen.reduce((sum, o) => sum + o.worth - 1e-6 * o.moneyNeeded, 0);
      expect(score, at).toBeGreaterThanOrEqual(best.score - 1e-5);
      // What was chosen keeps every rule: brute force finds it among these alone.
      const own = byForce(document, chosen);
      expect(own?.score, at).toBeGreaterThanOrEqual(score - 1e-5);
      expect(plan.worth, at).toBeCloseTo(
        chosen.reduce((sum, o) => sum + o.worth, 0),
        9,
      );
      expect(Math.min(...plan.balance), at).toBeGreaterThanOrEqual(document.reserve - 1e-6);
      hit('nothing chosen', chosen.length === 0);
      hit('several', chosen.length > 1);
      hit(
        'must',
        document.lanes.some((l) => l.must !== false),
      );
      hit('tight', plan.idle < 100);
      hit('most', document.most !== null && chosen.length === document.most);
      hit('perWeek', document.perWeek !== null && chosen.length > 0);
      hit('never', document.neverTogether.length > 0);
      hit('fixed', document.monthlyFixedCosts > 0);
      hit('candidate', new Set(document.lanes.map((l) => l.candidate)).size < document.lanes.length);
    }
    for (const w of WANTED) expect(seen[w] ?? 0, w).toBeGreaterThanOrEqual(5);
  });
  it('options that are left out of the trial are never needed', () => {
    let dropped = 0;
    for (let seed = 1; seed <= cases(60) || (dropped <= enough(10) && seed <= 60); seed++) {
      const { document, options } = randomPurse(seed);
      const tried = worthTrying(options, document);
      dropped += options.length - tried.length;
      const [all, few] = [byForce(document, options), byForce(document, tried)];
      expect(few?.score ?? null, `seed ${seed}`).toEqual(all === null ? null : expect.closeTo(all.score, 9));
    }
    expect(dropped).toBeGreaterThan(enough(10));
  });
  it('random lanes of every kind: the plan is the best of their own options', () => {
    let compared = 0;
    for (let seed = 1; compared < 12 && seed <= 400; seed++) {
      const lanes = [0, 1, 2].map((k) => {
        const doc = randomLane(seed * 3 + k, 0);
        return { key: `l${k}`, candidate: `c${k}`, lane: { ...doc, homeCurrency: 'EUR' } };
      });
      const document = documentOf({ cash: 20_000, lastStart: 4, weeks: 20, lanes });
      const { options } = optionsOf(document);
      if (options.length < 3 || options.length > 12) continue;
      compared++;
      const plan = planWith(preparePurse(document, solver));
      const best = byForce(document, options);
      if (!plan.feasible) throw new Error(`seed ${seed}: choosing nothing always fits`);
      const least = 1e-6 * plan.launches.reduce((sum, l) => sum + l.moneyNeeded, 0);
      expect(plan.worth - least, `seed ${seed}`).toBeGreaterThanOrEqual((best?.score ?? 0) - 1e-4);
    }
    expect(compared).toBe(12);
  });
});

describe('what a plan says beside itself', () => {
  const two = (more: object = {}) =>
    documentOf({
      cash: 1200,
      weeks: 20,
      lanes: [lane('good'), lane('fair', { lane: { ...LANE, price: 22 } })],
      ...more,
    });
  it('with cash for one, the better is launched, and the other says what it would cost', () => {
    const purse = preparePurse(two(), solver);
    const plan = planWith(purse);
    if (!plan.feasible) throw new Error('one of the two fits');
    expect(plan.launches.map((l) => l.key)).toEqual(['good']);
    expect(plan.tiedUp).toBeCloseTo(1000, 6);
    expect(plan.idle).toBeCloseTo(200, 6);
    const [left] = leftOutOf(purse, plan);
    expect(costOfChoosing(purse, plan, left as number)).toMatchObject({
      key: 'fair',
      costs: expect.closeTo(300, 6),
    });
  });
  it('more cash lets the second in: the curve says from where on', () => {
    const purse = preparePurse(two(), solver);
    expect(curvePoint(purse, 0.5).worth).toBe(0);
    expect(curvePoint(purse, 1).worth).toBeCloseTo(1500, 6);
    expect(curvePoint(purse, 2)).toMatchObject({ cash: 2400, worth: expect.closeTo(2700, 6) });
  });
  it('everything at once: more, less, curve and what is left out', () => {
    const said = purseOf(two({ cash: 1900 }), solver);
    expect(said.more).toBeCloseTo(1200, 6);
    expect(said.less).toBeCloseTo(0, 6);
    expect(said.curve).toHaveLength(15);
    expect(said.leftOut.map((l) => l.key)).toEqual(['fair']);
    const worths = said.curve.map((c) => c.worth as number);
    expect(worths).toEqual([...worths].sort((a, b) => a - b));
  });
  it('of what may not stand together one is left out, at the price of the other', () => {
    const said = purseOf(two({ cash: 9000, neverTogether: [['good', 'fair']] }), solver);
    expect(said.leftOut).toMatchObject([{ key: 'fair', costs: expect.closeTo(300, 6) }]);
  });
  it('what no choice can let in names what forbids it', () => {
    const said = purseOf(two({ most: 0 }), solver);
    expect(said.leftOut).toMatchObject([
      { key: 'good', costs: null, forbidden: { why: 'rules', cash: null } },
      { key: 'fair', costs: null, forbidden: { why: 'rules' } },
    ]);
  });
  it('must-haves that do not fit are named with the cash that would let them', () => {
    const must = two({ cash: 900, lanes: [lane('good', { must: true }), lane('fair', { must: true })] });
    const said = purseOf(must, solver);
    expect(said.plan).toEqual({
      feasible: false,
      why: 'cash',
      must: ['good', 'fair'],
      cash: expect.closeTo(2000, 4),
    });
    expect(said.curve).toEqual([]);
    const enough = purseOf({ ...must, cash: 2000 + 1e-6 }, solver);
    expect(enough.plan.feasible).toBe(true);
  });
  it('a must-have that is not complete cannot be launched, and is not left out silently', () => {
    const open = lane('open', { lane: { ...LANE, prep: null }, must: true });
    const said = purseOf(two({ cash: 9000, lanes: [lane('good'), open] }), solver);
    expect(said.plan).toEqual({ feasible: false, why: 'aside', must: ['open'], cash: null });
    expect(said.aside).toMatchObject([{ key: 'open', why: 'incomplete', lacks: ['prep'] }]);
  });
  it('must-haves that exclude each other fit at no cash', () => {
    const said = purseOf(
      two({
        cash: 1e6,
        lanes: [lane('good', { must: true }), lane('fair', { must: true })],
        neverTogether: [['good', 'fair']],
      }),
      solver,
    );
    expect(said.plan).toEqual({ feasible: false, why: 'rules', must: ['good', 'fair'], cash: null });
  });
  it('fixed costs that eat the cash up leave no plan, and say how much would do', () => {
    const said = purseOf(two({ cash: 500, monthlyFixedCosts: 400 }), solver);
    // Four month ends within 21 weeks.
    expect(said.plan).toEqual({ feasible: false, why: 'cash', must: [], cash: expect.closeTo(1600, 4) });
  });
  it('a solver that runs out of time leaves what there was to begin with, and says that it cannot judge it', () => {
    const tired = () => ({ status: 'outOfTime' as const, x: null, gap: null });
    const plan = planWith(preparePurse(two({ cash: 1900 }), tired));
    expect(plan).toMatchObject({ feasible: true, gap: null });
    if (plan.feasible) expect(plan.launches.map((l) => l.key)).toEqual(['good']);
    const must = two({ cash: 900, lanes: [lane('good', { must: true })] });
    expect(planWith(preparePurse(must, tired))).toMatchObject({ feasible: false, why: 'outOfTime' });
    const rough = preparePurse(two(), (mip) => ({
      status: 'outOfTime',
      x: mip.objective.map(() => 0),
      gap: 0.25,
    }));
    expect(planWith(rough)).toMatchObject({ feasible: true, launches: [], gap: 0.25 });
  });
  it('what there is to begin with keeps every rule, on all made-up purses', () => {
    let found = 0;
    for (let seed = 1; seed <= cases(150) || (found <= enough(50) && seed <= 150); seed++) {
      const { document, options } = randomPurse(seed);
      const tired = planWith({
        document,
        options,
        aside: [],
        solver: () => ({ status: 'outOfTime', x: null, gap: null }),
      });
      const best = byForce(document, options);
      if (!tired.feasible) continue;
      found++;
      const chosen = tired.launches.map((l) => options[l.quantity] as Option);
      const score = chosen.reduce((sum, o) => sum + o.worth - 1e-6 * o.moneyNeeded, 0);
      // A choice that breaks a rule is worth more than what brute force may keep of it.
      expect(byForce(document, chosen)?.score, `seed ${seed}`).toBeGreaterThanOrEqual(score - 1e-6);
      expect(score, `seed ${seed}`).toBeLessThanOrEqual((best?.score ?? Number.NEGATIVE_INFINITY) + 1e-6);
    }
    expect(found).toBeGreaterThan(enough(50));
  });
});

describe('what a purse refuses', () => {
  it.each([
    ['a lane twice', { lanes: [lane('a'), lane('a')] }, 'purseLaneTwice'],
    ['a rule about a lane that is not there', { neverTogether: [['a', 'nobody']] }, 'purseNoSuchLane'],
    ['a reserve over the cash', { cash: 100, reserve: 200 }, 'reserveOverCash'],
    ['no week', { weeks: 0 }, 'weeks'],
    ['a start that is no day', { start: 'soon' }, 'start'],
    ['caution over 1', { caution: 2 }, 'caution'],
    ['a quantity of none', { lanes: [lane('a', { quantities: [0] })] }, 'quantities'],
    ['a ramp of zeros', { lanes: [lane('a', { plan: { ramp: [0, 0] } })] }, 'rampSellsNothing'],
  ])('%s', (_, more, why) => {
    const read = purseDocument.safeParse({
      format: 'bold-margin/purse',
      version: 1,
      start: '2026-01-01',
      cash: 5000,
      lanes: [lane('a')],
      ...more,
    });
    expect(read.success).toBe(false);
    expect(JSON.stringify(read.error?.issues)).toContain(why);
  });
  it('two hundred lanes are one purse', () => {
    const lanes = Array.from({ length: 200 }, (_, i) => lane(`l${i}`, { quantities: [50] }));
    const plan = planWith(preparePurse(documentOf({ cash: 4000, weeks: 10, lanes, seconds: 2 }), solver));
    if (!plan.feasible) throw new Error('some of them fit');
    expect(plan.launches.length).toBeGreaterThanOrEqual(8);
    expect(Math.min(...plan.balance)).toBeGreaterThanOrEqual(-1e-6);
  });
});
