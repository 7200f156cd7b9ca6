/**
 * How sure a lane is (planning, section 3): its unit profit and its launch drawn many times over the ranges of its
 * inputs, each draw reckoned by the one set of rules. Amounts in the home currency.
 */
import { clicksAreUnknown, launchAdverts, launchIsOpen } from '../cash/launchAdverts.ts';
import { blanksIn } from '../lane/blanks.ts';
import { FIGURE_BLANKS, figureValue, isMoney } from '../lane/figures.ts';
import type { Hurdle } from '../lane/hurdleSchema.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning } from '../lane/reckoning.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';
import { atLeast, within } from '../rules/numbers.ts';
import { uniforms } from './generator.ts';
import { launchProfit } from './launchProfit.ts';
import { RISK_INPUTS } from './schema.ts';
import type { RangesDocument, RiskInput } from './schema.ts';
import { SHAPES } from './shapes.ts';
import type { Inverse } from './shapes.ts';
import { chanceOf, spreadOf } from './spread.ts';
import type { Chance, Spread } from './spread.ts';

/** An input alone at its low and its high, the others most likely. */
export type Swing = {
  readonly input: RiskInput;
  readonly low: number;
  readonly high: number;
  readonly swing: number;
};
export type Outcome = { readonly spread: Spread; readonly matters: readonly Swing[] };
export type RiskKnown = {
  readonly known: true;
  readonly currency: string;
  readonly draws: number;
  readonly seed: number;
  readonly unit: Outcome;
  /** Null: `launchLacks` says what is not known of it. */
  readonly launch: Outcome | null;
  readonly launchLacks: readonly string[];
  readonly hurdles: readonly { readonly hurdle: Hurdle; readonly reached: Chance }[];
};
/** `lacks`: blanks of the lane and the plan; `problems`: what else keeps it from being drawn. */
export type RiskSaid =
  | RiskKnown
  | { readonly known: false; readonly lacks: readonly string[]; readonly problems: readonly string[] };
/** What the launch of a draw lacks. */
type Lacking = readonly string[];

/** A factor that has no range changes nothing. */
const orOne = (factor: number): number => (Number.isNaN(factor) ? 1 : factor);

/** A lane that is reckoned at values of its uncertain inputs; NaN leaves one as the lane says. */
class DrawnLane {
  readonly r = new Reckoning();
  private readonly toHome: number;
  /** One-offs of the plan and of quotes; those in the currency quoted in follow its exchange rate. */
  private readonly oneOffs: { readonly fixed: number; readonly quoted: number };

  constructor(
    readonly doc: LaneDocument,
    readonly asked: RangesDocument,
  ) {
    this.toHome = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
    this.oneOffs = oneOffsOf(doc, asked);
  }

  /** Reckons the lane at eight values, in the order of the inputs, from `at` on. */
  reckonAt(values: ArrayLike<number>, at = 0): void {
    const { tried } = this.r;
    tried.release();
    tried.price = values[at] as number;
    tried.bids = orOne(values[at + 1] as number);
    tried.conversion = orOne(values[at + 2] as number);
    tried.unitPrice = values[at + 3] as number;
    tried.component = Number.isNaN(tried.unitPrice) ? -1 : 0;
    tried.freight = orOne(values[at + 4] as number);
    const units = values[at + 5] as number;
    if (!Number.isNaN(units)) tried.holdUnits(units);
    tried.returnRate = values[at + 6] as number;
    tried.exchange = orOne(values[at + 7] as number);
    reckon(this.doc, this.r);
  }
  unit(): number {
    return this.r.unitProfit * this.toHome;
  }
  launch(): number {
    const { r, doc, asked, toHome } = this;
    const adverts = launchAdverts(asked.launch, r, toHome);
    const returns = doc.returns === null || doc.returns === 'none' ? null : doc.returns;
    return launchProfit({
      unitProfit: this.unit(),
      landedCost: r.landedCost * toHome,
      quantity: r.quantity,
      units: r.units,
      months: asked.months,
      breakage: doc.breakage,
      returned: r.returnRate,
      resold: returns?.resaleShare ?? 0,
      salvage: asked.salvage,
      once:
        this.oneOffs.fixed +
        this.oneOffs.quoted * r.tried.exchange +
        adverts.days * (adverts.perDay + adverts.vat),
      discounts: asked.launch.discounts,
      ships: doc.method === 'supplierShips',
    });
  }
  /** Whether the figure of a hurdle reaches its level. */
  reaches(h: Hurdle): boolean {
    const value = figureValue(this.r, h.figure);
    const level = isMoney(h.figure) ? h.level / this.toHome : h.level;
    return h.bound === 'atLeast' ? atLeast(value, level) : within(value, level);
  }
  launchLacks(): Lacking {
    const { r, doc, asked } = this;
    const lacks: string[] = [];
    if (doc.method !== 'supplierShips' && Number.isNaN(r.quantity)) lacks.push('orderQuantity');
    if (Number.isNaN(r.units)) lacks.push('demand');
    if (launchIsOpen(asked.launch)) lacks.push('launch');
    if (clicksAreUnknown(asked.launch, r)) lacks.push('adverts');
    return lacks;
  }
}

function oneOffsOf(doc: LaneDocument, { launch }: RangesDocument): { fixed: number; quoted: number } {
  const own = Array.isArray(doc.goods) ? doc.goods : [];
  const first = own[0]?.source.currency ?? doc.homeCurrency;
  let fixed = launch.oneOffs.reduce((sum, o) => sum + (o.amount ?? 0), 0);
  let quoted = 0;
  for (const { source } of own) {
    if (source.kind !== 'quote') continue;
    const all = source.oneOffs.reduce((sum, o) => sum + (o.amount ?? 0), 0);
    const amount =
      all === 0 ? 0 : all * exchangeFactor(doc.rates.exchange, source.currency, doc.homeCurrency);
    if (source.currency === first && first !== doc.homeCurrency) quoted += amount;
    else fixed += amount;
  }
  return { fixed, quoted };
}

/** The eight values at which every input is what it most likely is; NaN where it has no range. */
const likeliest = ({ ranges }: RangesDocument): Float64Array =>
  Float64Array.from(RISK_INPUTS, (i) => ranges[i]?.likely ?? Number.NaN);

/**
 * The lane drawn over its ranges, or what it lacks. `given` are uniform numbers in place of the seed's: eight a draw,
 * in the order of the inputs.
 */
export function riskOf(doc: LaneDocument, asked: RangesDocument, given?: Float64Array): RiskSaid {
  const lane = new DrawnLane(doc, asked);
  const likely = likeliest(asked);
  lane.reckonAt(likely);
  const { r } = lane;
  const lacks = blanksIn(r.blanks & FIGURE_BLANKS.unitProfit);
  const problems = r.problems.map((p) => p.code as string);
  if (Number.isNaN(exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency)))
    problems.push('noExchangeRate');
  if (lacks.length === 0 && problems.length === 0 && Number.isNaN(r.unitProfit)) problems.push('unknown');
  if (lacks.length > 0 || problems.length > 0)
    return { known: false, lacks, problems: [...new Set(problems)] };
  const launchLacks = lane.launchLacks();
  const own = given ?? uniforms(asked.seed, asked.draws * RISK_INPUTS.length);
  const drawn = drawAll(lane, own, launchLacks.length === 0);
  if (drawn === null) return { known: false, lacks: [], problems: ['drawsUnknown'] };
  const draws = drawn.unit.length;
  const launch =
    drawn.launch === null
      ? null
      : { spread: spreadOf(drawn.launch), matters: swingsOf(lane, likely, () => lane.launch()) };
  return {
    known: true,
    currency: doc.homeCurrency,
    draws,
    seed: asked.seed,
    unit: { spread: spreadOf(drawn.unit), matters: swingsOf(lane, likely, () => lane.unit()) },
    launch,
    launchLacks,
    hurdles: asked.hurdles.map((hurdle, i) => ({
      hurdle,
      reached: chanceOf(drawn.reached[i] as number, draws),
    })),
  };
}

type Drawn = { unit: Float64Array; launch: Float64Array | null; reached: number[] };

/** All draws; null where one of them has no answer, which a mean would hide. */
function drawAll(lane: DrawnLane, own: Float64Array, withLaunch: boolean): Drawn | null {
  const { asked } = lane;
  const width = RISK_INPUTS.length;
  const inverse = RISK_INPUTS.map((i): Inverse | null => {
    const range = asked.ranges[i];
    return range === null ? null : SHAPES[asked.shape](range);
  });
  const draws = Math.floor(own.length / width);
  const unit = new Float64Array(draws);
  const launch = withLaunch ? new Float64Array(draws) : null;
  const reached = asked.hurdles.map(() => 0);
  const values = new Float64Array(width);
  for (let k = 0; k < draws; k++) {
    for (let i = 0; i < width; i++) values[i] = inverse[i]?.(own[k * width + i] as number) ?? Number.NaN;
    lane.reckonAt(values);
    unit[k] = lane.unit();
    if (launch !== null) launch[k] = lane.launch();
    if (Number.isNaN(unit[k]) || Number.isNaN(launch?.[k])) return null;
    for (let h = 0; h < reached.length; h++)
      if (lane.reaches(asked.hurdles[h] as Hurdle)) reached[h] = (reached[h] as number) + 1;
  }
  return { unit, launch, reached };
}

/** Each input that has a range alone at its ends, the largest swing first, ties in the order of the inputs. */
function swingsOf(lane: DrawnLane, likely: Float64Array, result: () => number): Swing[] {
  const at = (i: number, value: number): number => {
    const values = likely.slice();
    values[i] = value;
    lane.reckonAt(values);
    return result();
  };
  return RISK_INPUTS.flatMap((input, i): Swing[] => {
    const range = lane.asked.ranges[input];
    if (range === null) return [];
    const [low, high] = [at(i, range.low), at(i, range.high)];
    return [{ input, low, high, swing: Math.abs(high - low) }];
  }).sort((x, y) => y.swing - x.swing);
}

export type Grid = {
  readonly across: RiskInput;
  readonly down: RiskInput;
  /** Values of the two inputs at the columns and the rows. */
  readonly columns: readonly number[];
  readonly rows: readonly number[];
  /** Unit or launch profit, row by row; null where unknown. */
  readonly cells: readonly (readonly (number | null)[])[];
  /** What it comes to as the lane stands, every input as it says. */
  readonly today: number | null;
};
export const GRID_STEPS = 11;

/**
 * Two inputs at once over their ranges, the others most likely; null where one of the two has no range.
 *
 * @param of what the cells hold, home currency
 */
export function gridOf(
  doc: LaneDocument,
  asked: RangesDocument,
  across: RiskInput,
  down: RiskInput,
  of: 'unit' | 'launch',
  steps = GRID_STEPS,
): Grid | null {
  const [a, b] = [asked.ranges[across], asked.ranges[down]];
  if (a === null || b === null || across === down) return null;
  const lane = new DrawnLane(doc, asked);
  const likely = likeliest(asked);
  const [x, y] = [RISK_INPUTS.indexOf(across), RISK_INPUTS.indexOf(down)];
  const along = (r: { low: number; high: number }): number[] =>
    Array.from({ length: steps }, (_, i) => r.low + ((r.high - r.low) * i) / Math.max(1, steps - 1));
  const result = (): number | null => {
    const value = of === 'unit' ? lane.unit() : lane.launch();
    return Number.isFinite(value) ? value : null;
  };
  const [columns, rows] = [along(a), along(b)];
  const cells = rows.map((v) =>
    columns.map((u) => {
      const values = likely.slice();
      [values[x], values[y]] = [u, v];
      lane.reckonAt(values);
      return result();
    }),
  );
  lane.reckonAt(new Float64Array(RISK_INPUTS.length).fill(Number.NaN));
  return { across, down, columns, rows, cells, today: result() };
}
