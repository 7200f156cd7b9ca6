import { isKnown } from '../rules/numbers.ts';
import { reckon } from '../lane/reckon.ts';
import { BIT } from '../lane/blanks.ts';
import { FAMILIES, FAMILY_LINES } from '../lane/costLines.ts';
import { FIGURE_BLANKS } from '../lane/figures.ts';
import { Reckoning } from '../lane/reckoning.ts';
import { figureValue } from '../lane/figures.ts';
import { lineValue } from '../lane/costLines.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';

/** The figures by which many lanes are ordered and drawn on one scale. */
export const LIGHT_FIGURES = [
  'unitProfit',
  'margin',
  'roi',
  'profitPerMonth',
  'yearlyReturnOnCash',
  'landedCost',
  'gross',
  'itemPrice',
  'cashCycleDays',
] as const;
export type LightFigure = (typeof LIGHT_FIGURES)[number];
const MONEY: ReadonlySet<LightFigure> = new Set([
  'unitProfit',
  'profitPerMonth',
  'landedCost',
  'gross',
  'itemPrice',
]);

/**
 * A lane among many: a few figures in the home currency, without the lines and reasons of a whole result.
 * Null is unknown.
 */
export type Light = {
  readonly figures: Readonly<Record<LightFigure, number | null>>;
  /** How far its bar reaches: gross, or the costs where they are more; home currency. */
  readonly extent: number;
  /** No cost line of the unit profit is blank. */
  readonly whole: boolean;
  /** Home currency per unit of the sales currency; NaN without a rate. */
  readonly factor: number;
};

const r = new Reckoning();

/** The light row of a lane; the same formulas as `evaluate`. */
export function lightOf(doc: LaneDocument): Light {
  reckon(doc, r);
  const factor = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  const figures = {} as Record<LightFigure, number | null>;
  for (const f of LIGHT_FIGURES) {
    const v = figureValue(r, f) * (MONEY.has(f) ? factor : 1);
    figures[f] = Number.isFinite(v) ? v : null;
  }
  let costs = 0;
  for (const family of FAMILIES) {
    let sum = 0;
    for (const line of FAMILY_LINES[family]) {
      const v = lineValue(r, line);
      if (isKnown(v)) sum += v;
    }
    if (sum > 0) costs += sum;
  }
  const extent = Math.max(isKnown(r.gross) ? r.gross : 0, costs) * factor;
  return {
    figures,
    extent: isKnown(extent) ? extent : 0,
    whole: (r.blanks & FIGURE_BLANKS.unitProfit & ~BIT.demand) === 0,
    factor,
  };
}
