/** Columns of a small file by their headings, whatever language they are in. */
import { headingFits } from '../lists/map.ts';

/** Each column by the heading that fits its names best, each heading once. */
export function columnsOf<C extends string>(
  header: readonly string[],
  names: Readonly<Record<C, readonly string[]>>,
): Partial<Record<C, number>> {
  const scored = (Object.keys(names) as C[]).flatMap((key) =>
    header.map((h, at) => ({ key, at, score: headingFits(h, names[key]) })),
  );
  const columns: Partial<Record<C, number>> = {};
  const used = new Set<number>();
  for (const { key, at } of scored.filter((s) => s.score > 0).sort((a, b) => b.score - a.score)) {
    if (columns[key] !== undefined || used.has(at)) continue;
    columns[key] = at;
    used.add(at);
  }
  return columns;
}
