/** A plan to begin with, found in one pass: so there is one, however little time the solver has. */
import type { Mip } from './model.ts';

const SLACK = 1e-9;

/**
 * Takes what must be first, then one option after another by what it brings, where every row still holds. Null where
 * this pass finds none; the solver may find one.
 */
export function startOf({ objective, rows }: Omit<Mip, 'free' | 'start'>): number[] | null {
  const x = new Array<number>(objective.length).fill(0);
  const sums = rows.map(() => 0);
  const inRows: [row: number, value: number][][] = objective.map(() => []);
  rows.forEach((row, r) => {
    row.columns.forEach((c, k) => {
      inRows[c]?.push([r, row.values[k] as number]);
    });
  });
  const holdsWith = (c: number): boolean =>
    (inRows[c] ?? []).every(([r, value]) => {
      const { lower, upper } = rows[r] as (typeof rows)[number];
      const next = (sums[r] as number) + value;
      return next <= upper + SLACK && (value >= 0 || next >= lower - SLACK);
    });
  const take = (c: number): void => {
    x[c] = 1;
    for (const [r, value] of inRows[c] ?? []) sums[r] = (sums[r] as number) + value;
  };
  const best = [...objective.keys()].sort((a, b) => (objective[b] as number) - (objective[a] as number));
  for (const [r, row] of rows.entries()) {
    if (row.lower !== 1 || row.upper !== 1 || (sums[r] as number) > 0) continue;
    const own = new Set(row.columns);
    const c = best.find((i) => own.has(i) && holdsWith(i));
    if (c === undefined) return null;
    take(c);
  }
  for (const c of best) if ((objective[c] as number) > 0 && x[c] === 0 && holdsWith(c)) take(c);
  const holds = rows.every(
    (row, r) => (sums[r] as number) >= row.lower - SLACK && (sums[r] as number) <= row.upper + SLACK,
  );
  return holds ? x : null;
}
