import { isKnown, isUnknown } from '../rules/numbers.ts';
import { z } from 'zod';
import type { ExchangeTable } from '../money/money.ts';
import { exchangeFactor } from '../money/money.ts';
import { BOUNDS, boundOf } from './bounds.ts';
import type { Bound } from './bounds.ts';
import { reckon } from './evaluate.ts';
import { BLANKS, blanksIn } from './blanks.ts';
import type { Blank } from './blanks.ts';
import { FAMILIES, FAMILY_LINES, LINES, lineValue } from './costLines.ts';
import type { Family, Line } from './costLines.ts';
import { FIGURE_BLANKS, FIGURE_VALUES, FIGURES, isMoney, reasonFor } from './figures.ts';
import type { Figure } from './figures.ts';
import { NOTICE_TEXTS, PROBLEM_TEXTS } from './problems.ts';
import { Reckoning } from './reckoning.ts';
import type { LaneDocument } from './schema.ts';

const known = z.number().nullable();
const record = <K extends string>(keys: readonly K[]) =>
  z.object(Object.fromEntries(keys.map((k) => [k, known])) as Record<K, typeof known>);
const codes = <T extends object>(texts: T) => z.enum(Object.keys(texts) as [keyof T & string]);
const detail = z.record(z.string(), z.union([z.string(), z.number()]));

/**
 * What evaluating a lane yields. Amounts per unit sold in `currency`, ratios as fractions. `null` is unknown,
 * and `reasons` says why; `incomplete` names the blanks that a figure had to leave out, `bounds` what the
 * figure is a bound of while it lacks them.
 */
export const laneResult = z.object({
  format: z.literal('bold-margin/result'),
  version: z.literal(1),
  currency: z.string(),
  date: z.string(),
  lines: record(LINES),
  families: record(FAMILIES),
  figures: record(FIGURES),
  blanks: z.array(z.enum(BLANKS)).readonly(),
  incomplete: z.partialRecord(z.enum(FIGURES), z.array(z.enum(BLANKS)).readonly()),
  bounds: z
    .partialRecord(z.enum(FIGURES), z.enum(BOUNDS))
    .default({})
    .meta({ description: 'Of each figure that is known but lacks cost lines: what it is a bound of' }),
  reasons: z.partialRecord(z.enum(FIGURES), z.string()),
  problems: z.array(z.object({ code: codes(PROBLEM_TEXTS), line: z.string(), path: z.string(), detail })),
  notices: z.array(z.object({ code: codes(NOTICE_TEXTS), path: z.string(), detail })),
});
export type LaneResult = z.output<typeof laneResult>;
/** What is kept of a result once another has taken its place. */
export type EarlierResult = Pick<LaneResult, 'currency' | 'lines'> & {
  figures: Pick<LaneResult['figures'], 'unitProfit' | 'gross'>;
};

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
