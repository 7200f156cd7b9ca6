/** Plan beside actual: line by line, and why the profit is another than planned, to the cent. */
import { blanksIn } from '../lane/blanks.ts';
import type { Blank } from '../lane/blanks.ts';
import { LINES } from '../lane/costLines.ts';
import type { Line } from '../lane/costLines.ts';
import { FIGURE_BLANKS } from '../lane/figures.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { minorDigits, roundToTotal } from '../money/money.ts';
import { ACTUAL_LINES, unitAt } from './actual.ts';
import type { Actual, ActualFrom, ActualLine } from './actual.ts';

/**
 * What a unit was planned to bring, sales currency, and how many units (null: not known). `lacks`: blanks that its
 * profit leaves out.
 */
export type Planned = {
  readonly units: number | null;
  readonly price: number | null;
  readonly gross: number | null;
  readonly netRevenue: number | null;
  readonly landedCost: number | null;
  readonly lines: Readonly<Record<Line, number | null>>;
  readonly unitProfit: number | null;
  readonly lacks: readonly Blank[];
};

/** A line a unit sold, planned and actual, and over all units the part of the difference that is its own doing. */
export type ComparedLine = {
  readonly line: ActualLine;
  readonly planned: number | null;
  readonly actual: number | null;
  readonly from: ActualFrom;
  /** What the line brings more than planned at the price that was paid: above 0 it costs less. */
  readonly rate: number | null;
};

/**
 * Why the profit of all units is another than planned: more or fewer units, each at its planned profit (`volume`);
 * another price, with all that follows it by the lane's own rates (`price`); each line at another rate (`rate`). They
 * add up to `difference` to the cent. Lines that plan or reports do not know are left out on both sides, and named;
 * where it is not known how many units were planned, `volume` is null and the difference is that of the units sold.
 */
export type Parts = {
  readonly leavesOut: readonly ActualLine[];
  /** What a unit was planned to keep after the lines that are known on both sides. */
  readonly unit: number;
  readonly difference: number;
  readonly volume: number | null;
  readonly price: number;
  readonly rate: number;
  /** A unit: what chance alone makes of returns, twice the spread of so few or many. */
  readonly chance: number;
};

export type Compared = {
  readonly currency: string;
  readonly planned: Planned;
  readonly actual: Actual;
  /** Profit a unit sold; null: nothing was sold, or it is not known. */
  readonly unitProfit: number | null;
  readonly margin: number | null;
  readonly roi: number | null;
  readonly lines: readonly ComparedLine[];
  /** null: the plan knows no price, or nobody knows the VAT. */
  readonly parts: Parts | null;
};

const orNull = (x: number): number | null => (Number.isFinite(x) ? x : null);

/** What a unit of the lane was planned to bring, and how many of them. */
export function plannedOf(doc: LaneDocument, units: number | null): Planned {
  const r = unitAt(doc, null);
  const { lines } = r;
  return {
    units,
    price: orNull(r.price),
    gross: orNull(r.gross),
    netRevenue: orNull(r.netRevenue),
    landedCost: orNull(r.landedCost),
    lines: Object.fromEntries(LINES.map((l) => [l, orNull(lines[l])])) as Record<Line, number | null>,
    unitProfit: orNull(r.unitProfit),
    lacks: blanksIn(r.blanks & FIGURE_BLANKS.unitProfit),
  };
}

/**
 * Holds what really came against the lane as it stood at the launch. Per-unit figures are of units sold (shipped), and
 * not rounded; parts are rounded to the minor unit so that they add up.
 *
 * @param unitsOfPlan units planned for the same months; null: not known
 */
export function compare(doc: LaneDocument, actual: Actual, unitsOfPlan: number | null): Compared {
  const planned = plannedOf(doc, unitsOfPlan);
  const { shipped } = actual;
  const at = unitAt(doc, actual.price);
  const atPrice = { ...at.lines, reimbursement: 0 };
  const plan = { ...planned.lines, reimbursement: 0 };
  const leavesOut = ACTUAL_LINES.filter(
    (l) => plan[l] === null || Number.isNaN(atPrice[l]) || actual.lines[l].amount === null,
  );
  const known = ACTUAL_LINES.filter((l) => !leavesOut.includes(l));
  /** What a unit keeps after the lines that are known on both sides. */
  const keeps = (gross: number, lines: Readonly<Record<ActualLine, number | null>>): number =>
    known.reduce((s, l) => s - (lines[l] as number), gross);
  const digits = minorDigits(doc.currency);
  const unit = planned.gross === null ? null : keeps(planned.gross, plan);
  let parts: (number | null)[] | null = null;
  if (unit !== null && !leavesOut.includes('outputVat')) {
    const volume = unitsOfPlan === null ? null : (shipped - unitsOfPlan) * unit;
    const price =
      shipped === 0
        ? actual.gross
        : shipped * (keeps(at.gross, atPrice) - unit) + actual.gross - shipped * at.gross;
    const rates = known.map((l) => shipped * atPrice[l] - (actual.lines[l].amount as number));
    parts = roundToTotal([volume, price, ...rates], digits);
  }
  const each = (x: number | null): number | null => (x === null || shipped === 0 ? null : x / shipped);
  return {
    currency: doc.currency,
    planned,
    actual,
    unitProfit: each(actual.profit),
    margin: ratio(actual.profit, actual.netRevenue),
    roi: ratio(actual.profit, actual.landedCost),
    lines: ACTUAL_LINES.map((line) => ({
      line,
      planned: plan[line],
      actual: each(actual.lines[line].amount),
      from: actual.lines[line].from,
      rate: leavesOut.includes(line) ? null : (parts?.[2 + known.indexOf(line)] ?? null),
    })),
    parts:
      parts === null || unit === null
        ? null
        : { leavesOut, unit, chance: chanceOf(doc, plan.returns, shipped), ...partsOf(parts, digits) },
  };
}

/** Twice the spread of how many of so many units come back, at what each of them was planned to cost; a unit. */
function chanceOf({ returns }: LaneDocument, planned: number | null, shipped: number): number {
  const rate = returns === null || returns === 'none' ? 0 : (returns.rate ?? 0);
  if (rate <= 0 || shipped === 0 || planned === null) return 0;
  return (2 * (planned / rate) * Math.sqrt(rate * (1 - rate) * shipped)) / shipped;
}

const ratio = (a: number | null, b: number | null): number | null =>
  a === null || b === null || b === 0 ? null : a / b;

function partsOf(
  [volume = null, ...others]: (number | null)[],
  digits: number,
): Omit<Parts, 'leavesOut' | 'unit' | 'chance'> {
  const power = 10 ** digits;
  const cents = (x: number): number => Math.round(x * power) / power;
  const [price = 0, ...rates] = others as number[];
  const rate = cents(rates.reduce((s, x) => s + x, 0));
  return { difference: cents((volume ?? 0) + price + rate), volume, price, rate };
}

export const STANDINGS = ['asPlanned', 'paysMore', 'paysLess', 'loses', 'open'] as const;
/** How a launched product stands in a word, and which part or line has most to do with it. */
export type Stands = {
  readonly standing: (typeof STANDINGS)[number];
  /** `price`, or the line whose rate moved a unit's profit most in the direction it went; null: none. */
  readonly because: 'price' | ActualLine | null;
  /** What that came to over all units. */
  readonly amount: number | null;
};

/** A unit that keeps within this share of its planned profit, or of a hundredth of its price, pays as planned. */
const WIDTH = 0.1;

export function standsAt(c: Compared): Stands {
  const { unitProfit, parts } = c;
  if (unitProfit === null || parts === null) return { standing: 'open', because: null, amount: null };
  const returns = (c.lines.find((l) => l.line === 'returns')?.rate ?? 0) / c.actual.shipped;
  // What chance makes of returns says nothing of how it stands.
  const byChance = Math.max(-parts.chance, Math.min(parts.chance, returns));
  const gap = (parts.price + parts.rate) / c.actual.shipped - byChance;
  const width = Math.max(WIDTH * Math.abs(parts.unit), 0.01 * (c.planned.gross ?? 0));
  // A profit that leaves a cost out is at most what it says: below 0 it is a loss for certain.
  const standing =
    unitProfit < 0 ? 'loses' : Math.abs(gap) <= width ? 'asPlanned' : gap > 0 ? 'paysMore' : 'paysLess';
  if (standing === 'asPlanned') return { standing, because: null, amount: null };
  const moved: [Stands['because'], number][] = [
    ['price', parts.price],
    ...c.lines.map((l): [ActualLine, number] => [l.line, l.rate ?? 0]),
  ];
  const most = moved.reduce((a, b) => (b[1] * Math.sign(gap) > a[1] * Math.sign(gap) ? b : a));
  return most[1] * gap > 0
    ? { standing, because: most[0], amount: most[1] }
    : { standing, because: null, amount: null };
}

/** What of a lane the mix of several goes by: its volume part, what a unit was to keep, units planned and sold. */
export type MixPart = {
  readonly currency: string;
  readonly volume: number;
  readonly unit: number;
  readonly planned: number;
  readonly sold: number;
};
/** Null: it is not known how many were planned, or what a unit was to keep. */
export const mixPartOf = ({ parts, planned, actual, currency }: Compared): MixPart | null =>
  parts === null || parts.volume === null || planned.units === null
    ? null
    : { volume: parts.volume, unit: parts.unit, planned: planned.units, sold: actual.shipped, currency };

/**
 * How much of the volume part of several lanes is that other lanes sold than planned: each lane's units beyond plan
 * at its own planned profit, less all units beyond plan at the mean planned profit of a unit. Lanes of one currency;
 * the two add up to the volume parts to the cent. Null: there is no lane.
 */
export function mixOf(lanes: readonly MixPart[]): { volume: number; mix: number } | null {
  const [first] = lanes;
  if (first === undefined) return null;
  const sum = (of: (l: MixPart) => number): number => lanes.reduce((s, l) => s + of(l), 0);
  const planned = sum((l) => l.planned);
  const whole = sum((l) => l.volume);
  const mean = planned > 0 ? sum((l) => l.planned * l.unit) / planned : 0;
  const power = 10 ** minorDigits(first.currency);
  const volume = Math.round((sum((l) => l.sold) - planned) * mean * power) / power;
  return { volume, mix: Math.round((whole - volume) * power) / power };
}
