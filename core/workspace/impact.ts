import { differences } from '../compare/differences.ts';
import type { Difference } from '../compare/differences.ts';
import type { Blank } from '../lane/blanks.ts';
import { judgeHurdles } from '../lane/hurdles.ts';
import type { Verdict } from '../lane/hurdles.ts';
import type { Hurdle } from '../lane/hurdleSchema.ts';
import { evaluate, restate } from '../lane/evaluate.ts';
import type { LaneResult } from '../lane/result.ts';
import type { LaneDocument } from '../lane/schema.ts';

/**
 * What a change of rates does to one lane; money per unit in the home currency, each side by its own exchange
 * table.
 */
export type Impact = {
  readonly before: number | null;
  readonly after: number | null;
  readonly change: number | null;
  /** Lines that change, largest effect first. */
  readonly why: readonly Difference[];
  /** Hurdles that passed or were near before and fail after. */
  readonly dropped: readonly Hurdle['figure'][];
  /** Costs that either side leaves out: it is a bound. */
  readonly lacks: { readonly before: readonly Blank[]; readonly after: readonly Blank[] };
  /** A cost line that was known is not any more, or a problem has come. */
  readonly lost: readonly string[];
};

const RANK: Readonly<Record<Verdict, number>> = { pass: 2, near: 1, fail: 0, unknown: 1 };

/** Hurdles that passed or were near before and fail after. */
export function fallsUnder(
  before: LaneDocument,
  after: LaneDocument,
  hurdles: readonly Hurdle[],
): Hurdle['figure'][] {
  if (hurdles.length === 0) return [];
  const later = judgeHurdles(after, hurdles);
  if (!later.some((h) => h.verdict === 'fail')) return [];
  return judgeHurdles(before, hurdles).flatMap((h, i) =>
    later[i]?.verdict === 'fail' && RANK[h.verdict] > RANK.fail ? [h.hurdle.figure] : [],
  );
}

/** Compares a lane with the rates it was computed with and with others. */
export function impactOf(before: LaneDocument, after: LaneDocument, hurdles: readonly Hurdle[]): Impact {
  const [was, now] = [evaluate(before), evaluate(after)];
  const home = (r: LaneResult, d: LaneDocument) => restate(r, d.homeCurrency, d.rates.exchange);
  const [a, b] = [home(was, before), home(now, after)];
  const diff = a === null || b === null ? { total: null, lines: [] } : differences(a, b);
  return {
    before: a?.figures.unitProfit ?? null,
    after: b?.figures.unitProfit ?? null,
    change: diff.total,
    why: diff.lines,
    dropped: fallsUnder(before, after, hurdles),
    lacks: { before: was.incomplete.unitProfit ?? [], after: now.incomplete.unitProfit ?? [] },
    lost: [
      ...now.blanks.filter((x) => !was.blanks.includes(x)),
      ...now.problems.map((p) => p.code).filter((x) => !was.problems.some((p) => p.code === x)),
    ],
  };
}

/** Largest fall first; lanes that became unknown before all. */
export function byFall(a: Impact, b: Impact): number {
  const of = (i: Impact): number =>
    i.change !== null
      ? i.change
      : i.before !== null && i.after === null
        ? Number.NEGATIVE_INFINITY
        : Number.POSITIVE_INFINITY;
  const [x, y] = [of(a), of(b)];
  return x === y ? 0 : x - y;
}
