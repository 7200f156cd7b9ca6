/** From a lane document to its plain result. */
import { isKnown, isUnknown } from '../rules/numbers.ts';
import type { ExchangeTable } from '../money/money.ts';
import { exchangeFactor } from '../money/money.ts';
import { boundOf } from './bounds.ts';
import type { Bound } from './bounds.ts';
import { reckon } from './reckon.ts';
import { blanksIn } from './blanks.ts';
import type { Blank } from './blanks.ts';
import { FAMILIES, FAMILY_LINES, LINES, lineValue } from './costLines.ts';
import type { Family, Line } from './costLines.ts';
import { FIGURE_BLANKS, FIGURE_VALUES, FIGURES, isMoney, reasonFor } from './figures.ts';
import type { Figure } from './figures.ts';
import { Reckoning } from './reckoning.ts';
import type { LaneResult } from './result.ts';
import type { LaneDocument } from './schema.ts';

/** Turns a finished reckoning into the plain result; the only place where unknown (NaN) becomes null. */
export function toResult(r: Reckoning): LaneResult {
  const lines = {} as Record<Line, number | null>;
  for (const line of LINES) {
    const v = lineValue(r, line);
    lines[line] = isKnown(v) ? v : null;
  }
  const families = {} as Record<Family, number | null>;
  for (const family of FAMILIES) {
    let sum: number | null = 0;
    let any = false;
    for (const line of FAMILY_LINES[family]) {
      const v: number | null = lines[line];
      if (v !== null) {
        sum = (sum ?? 0) + v;
        any = true;
      }
    }
    families[family] = any ? sum : null;
  }
  const figures = {} as Record<Figure, number | null>;
  const incomplete: Partial<Record<Figure, readonly Blank[]>> = {};
  const bounds: Partial<Record<Figure, Bound>> = {};
  const reasons: Partial<Record<Figure, string>> = {};
  for (let i = 0; i < FIGURES.length; i++) {
    const figure = FIGURES[i] as Figure;
    const v = (FIGURE_VALUES[i] as (typeof FIGURE_VALUES)[number])(r);
    figures[figure] = Number.isFinite(v) ? v : null;
    const missing = r.blanks & FIGURE_BLANKS[figure];
    if (missing !== 0) {
      incomplete[figure] = blanksIn(missing);
      const bound = Number.isFinite(v)
        ? boundOf(figure, incomplete[figure], figure === 'yearlyReturnOnCash' ? v / r.turns : v, r.returnRate)
        : null;
      if (bound !== null) bounds[figure] = bound;
    }
    if (!Number.isFinite(v)) reasons[figure] = reasonFor(r, figure);
  }
  return {
    format: 'bold-margin/result',
    version: 1,
    currency: r.doc.currency,
    date: r.doc.date,
    lines,
    families,
    figures,
    blanks: blanksIn(r.blanks),
    incomplete,
    bounds,
    reasons,
    problems: r.problems.slice(),
    notices: r.notices.slice(),
  };
}

const shared = new Reckoning();

/**
 * Evaluates one lane: every cost line, every figure, problems, blanks, notices. Amounts per unit sold, sales
 * currency. Pure: the same document gives the same result.
 */
export function evaluate(doc: LaneDocument): LaneResult {
  return toResult(reckon(doc, shared));
}

/**
 * The same result in another currency, by one table; null where the table lacks a rate. Ratios, days and
 * units stay.
 */
export function restate(result: LaneResult, to: string, table: ExchangeTable | null): LaneResult | null {
  const f = exchangeFactor(table, result.currency, to);
  if (isUnknown(f)) return null;
  const scale = <K extends string>(values: Record<K, number | null>, money: (k: K) => boolean) =>
    Object.fromEntries(
      Object.entries<number | null>(values).map(([k, v]) => [k, v !== null && money(k as K) ? v * f : v]),
    ) as Record<K, number | null>;
  return {
    ...result,
    currency: to,
    lines: scale(result.lines, () => true),
    families: scale(result.families, () => true),
    figures: scale(result.figures, isMoney),
  };
}
