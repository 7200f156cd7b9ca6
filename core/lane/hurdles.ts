import { exchangeFactor } from '../money/money.ts';
import { atLeast, within } from '../rules/numbers.ts';
import { reckon } from './reckon.ts';
import { boundOf } from './bounds.ts';
import type { Bound } from './bounds.ts';
import { blanksIn } from './blanks.ts';
import { FIGURE_BLANKS, figureValue, highestCpcBlendedFor, isMoney } from './figures.ts';
import type { Figure } from './figures.ts';
import type { Hurdle } from './hurdleSchema.ts';
import { Reckoning } from './reckoning.ts';
import type { LaneDocument } from './schema.ts';
import { highestPurchaseCost, priceFor } from './solve.ts';
import type { Target } from './solve.ts';

export const HURDLE_FIGURES = [
  'unitProfit',
  'margin',
  'roi',
  'marginOnShelfPrice',
  'markup',
  'priceMultiple',
  'expectedMonthlyUnits',
  'profitPerMonth',
  'yearlyReturnOnCash',
  'coverMonths',
  'gross',
] as const satisfies readonly Figure[];

export type Verdict = 'pass' | 'near' | 'fail' | 'unknown';
export type HurdleResult = {
  readonly hurdle: Hurdle;
  /** The level in the currency the figure is in. */
  readonly level: number | null;
  readonly value: number | null;
  readonly verdict: Verdict;
  /** How much is missing, in the figure's own unit; 0 where it passes. */
  readonly short: number | null;
};
export type Remedy = {
  readonly price: number | null;
  readonly unitPrice: number | null;
  readonly unitPriceCurrency: string;
  readonly costPerClick: number | null;
};

/** Figures that a price or a cost can be solved for. */
export const TARGET_FIGURES = [
  'unitProfit',
  'margin',
  'roi',
  'marginOnShelfPrice',
  'markup',
  'priceMultiple',
] as const satisfies readonly Target['figure'][];
const TARGETS: ReadonlySet<Figure> = new Set(TARGET_FIGURES);
/** Whether a price or a cost alone can clear a hurdle. */
export const isTarget = (h: Pick<Hurdle, 'figure' | 'bound'>): boolean =>
  TARGETS.has(h.figure) && h.bound === 'atLeast';
const r = new Reckoning();

/**
 * Holds a known figure against a level, both in one unit: passes, near by the hurdle's own allowance, or
 * fails. A figure that lacks costs (`bound`) passes none, but fails where it fails already and what is
 * missing can only make it worse.
 */
export function verdictOf(
  h: Pick<Hurdle, 'bound' | 'near'>,
  value: number,
  level: number,
  bound: Bound | null,
): Verdict {
  const passes = h.bound === 'atLeast' ? atLeast(value, level) : within(value, level);
  const near = passes || Math.abs(level - value) <= h.near * Math.abs(level) + 1e-9;
  if (bound === null) return passes ? 'pass' : near ? 'near' : 'fail';
  const onlyWorse = h.bound === 'atLeast' ? bound === 'atMost' : bound === 'atLeast';
  return !near && onlyWorse ? 'fail' : 'unknown';
}

/** Inputs that a figure is little more than: while one of them is our default, the figure clears no hurdle by it. */
const RESTS_ON: Partial<Record<Figure, readonly (keyof LaneDocument)[]>> = {
  expectedMonthlyUnits: ['demand'],
  profitPerMonth: ['demand'],
  coverMonths: ['demand', 'orderQuantity', 'monthsHeld'],
  yearlyReturnOnCash: ['demand', 'orderQuantity', 'monthsHeld'],
  gross: ['price'],
};

/** Whether a figure rests on an input that nobody typed: a default of ours. */
export function restsOnDefault(doc: Pick<LaneDocument, 'provenance'>, figure: Figure): boolean {
  return RESTS_ON[figure]?.some((input) => doc.provenance[input]?.source === 'default') ?? false;
}

/**
 * Holds a reckoned lane against a hurdle. A figure that lacks costs passes none, nor does one that rests on a
 * default of ours.
 */
function judge(doc: LaneDocument, h: Hurdle): HurdleResult {
  const raw = figureValue(r, h.figure);
  const factor = isMoney(h.figure) ? exchangeFactor(doc.rates.exchange, doc.homeCurrency, doc.currency) : 1;
  const level = h.level * factor;
  const value = Number.isFinite(raw) ? raw : null;
  if (value === null || Number.isNaN(level))
    return { hurdle: h, level: Number.isNaN(level) ? null : level, value, verdict: 'unknown', short: null };
  const held = verdictOf(
    h,
    value,
    level,
    boundOf(
      h.figure,
      blanksIn(r.blanks & FIGURE_BLANKS[h.figure]),
      h.figure === 'yearlyReturnOnCash' ? value / r.turns : value,
      r.returnRate,
    ),
  );
  const verdict = held !== 'fail' && restsOnDefault(doc, h.figure) ? 'unknown' : held;
  const short = (h.bound === 'atLeast' ? atLeast(value, level) : within(value, level))
    ? 0
    : Math.abs(level - value);
  return { hurdle: h, level, value, verdict, short };
}

/**
 * Holds a lane against hurdles: pass, near, fail, or unknown where the figure is unknown, rests on a default,
 * or lacks costs and does not fail already.
 */
export function judgeHurdles(doc: LaneDocument, hurdles: readonly Hurdle[]): HurdleResult[] {
  r.tried.release();
  reckon(doc, r);
  return hurdles.map((h) => judge(doc, h));
}

/**
 * Which price, purchase cost or cost per click alone would clear a hurdle; null where none would or it does
 * not bear on it.
 */
export function remedyFor(doc: LaneDocument, h: Hurdle): Remedy {
  const none: Remedy = { price: null, unitPrice: null, unitPriceCurrency: doc.currency, costPerClick: null };
  if (!isTarget(h)) return none;
  const factor =
    h.figure === 'unitProfit' ? exchangeFactor(doc.rates.exchange, doc.homeCurrency, doc.currency) : 1;
  if (Number.isNaN(factor)) return none;
  const target: Target = { figure: h.figure as Target['figure'], value: h.level * factor };
  const price = priceFor(doc, target);
  const cost = highestPurchaseCost(doc, target);
  let costPerClick: number | null = null;
  if (
    h.figure === 'unitProfit' ||
    h.figure === 'margin' ||
    h.figure === 'roi' ||
    h.figure === 'marginOnShelfPrice'
  ) {
    r.tried.release();
    reckon(doc, r);
    const profit =
      target.value *
      (h.figure === 'unitProfit'
        ? 1
        : h.figure === 'margin'
          ? r.netRevenue
          : h.figure === 'roi'
            ? r.landedCost
            : r.gross);
    const cpc = highestCpcBlendedFor(r, profit);
    costPerClick = Number.isFinite(cpc) ? cpc : null;
  }
  return { price: price.price, unitPrice: cost.unitPrice, unitPriceCurrency: cost.currency, costPerClick };
}

/**
 * The highest purchase price as quoted that breaks even and clears all hurdles which a cost can clear; null where none
 * does, or one cannot be told.
 */
export function mostToClear(doc: LaneDocument, hurdles: readonly Hurdle[]): number | null {
  const even = highestPurchaseCost(doc).unitPrice;
  const costs = hurdles.filter(isTarget).map((h) => remedyFor(doc, h).unitPrice);
  if (costs.some((c) => c === null)) return null;
  const least = Math.min(even ?? Number.POSITIVE_INFINITY, ...(costs as number[]));
  return Number.isFinite(least) ? least : null;
}
