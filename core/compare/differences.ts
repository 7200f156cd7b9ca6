import { LINES } from '../lane/costLines.ts';
import type { Line } from '../lane/costLines.ts';
import type { EarlierResult } from '../lane/result.ts';

/**
 * One line in which two lanes differ; `effect` is what it does to the unit profit of `b` beside `a`. Null:
 * blank or unknown there.
 */
export type Difference = {
  readonly line: Line | 'gross';
  readonly a: number | null;
  readonly b: number | null;
  readonly effect: number;
};
export type Differences = {
  /** Unit profit of `b` less that of `a`; null where either is unknown. */
  readonly total: number | null;
  /** Lines that differ, largest effect first; their effects add up to `total`. */
  readonly lines: readonly Difference[];
};

/**
 * Why `b` keeps more or less than `a`: gross and every cost line, largest effect first. Both results in one
 * currency (see `restate`). A blank line counts as 0, as it does in the unit profit of its lane.
 */
export function differences(a: EarlierResult, b: EarlierResult): Differences {
  const profitA = a.figures.unitProfit;
  const profitB = b.figures.unitProfit;
  const lines: Difference[] = [];
  const add = (line: Line | 'gross', x: number | null, y: number | null, sign: number): void => {
    const effect = sign * ((y ?? 0) - (x ?? 0));
    if (Math.abs(effect) > 5e-10) lines.push({ line, a: x, b: y, effect });
  };
  add('gross', a.figures.gross, b.figures.gross, 1);
  for (const line of LINES) add(line, a.lines[line], b.lines[line], -1);
  lines.sort((x, y) => Math.abs(y.effect) - Math.abs(x.effect));
  return { total: profitA === null || profitB === null ? null : profitB - profitA, lines };
}
