/** All the cash into one product: few dear ones or many cheap ones. */
import type { LaneDocument } from '../lane/schema.ts';
import { launch } from './launch.ts';
import type { LaunchPlan } from './schema.ts';

export type AllInOne = {
  /** Units the cash pays for, at most; null where that is not known. */
  readonly units: number | null;
  /** Of a unit at that order, home currency. */
  readonly landedCash: number | null;
  readonly unitProfit: number | null;
  /** What they keep once all are sold, launch costs taken off. */
  readonly profit: number | null;
  /** Months until all are sold; null where units a month are not known or none. */
  readonly months: number | null;
  /** Profit a month until then. */
  readonly profitPerMonth: number | null;
  readonly lacks: readonly string[];
};

/** What the cash less reserve buys of one lane, and what that keeps. Home currency. */
export function allInOne(doc: LaneDocument, plan: LaunchPlan): AllInOne {
  const first = launch(doc, plan);
  const units = first.mostUnits;
  const lacks = [...new Set(first.incomplete)].filter((b) => b !== 'advertising' && b !== 'oneOffs');
  const none = {
    units,
    landedCash: null,
    unitProfit: null,
    profit: null,
    months: null,
    profitPerMonth: null,
    lacks,
  };
  if (units === null || units <= 0) return none;
  const { budget } = launch({ ...doc, orderQuantity: units }, plan);
  if (budget === null || budget.unitProfit === null) return none;
  const { lines, coverMonths, unitProfit, unitLandedCash } = budget;
  const profit =
    units * unitProfit - (lines.oneOffs ?? 0) - (lines.advertising ?? 0) - (lines.discounts ?? 0);
  return {
    ...none,
    landedCash: unitLandedCash,
    unitProfit,
    profit,
    months: coverMonths,
    profitPerMonth: coverMonths === null || coverMonths <= 0 ? null : profit / coverMonths,
  };
}
