/** Lines of several files, each counted once. */
import type { SettledLine } from './schema.ts';

export type CountedOnce = {
  readonly lines: readonly SettledLine[];
  /** Lines that stood in an earlier file too. */
  readonly twice: number;
  /** Of these, lines that a later file says otherwise: it corrects the earlier one. */
  readonly corrected: number;
  readonly first: string | null;
  readonly last: string | null;
};

/** Of lines of one key that of the last file that has it counts: a later report corrects an earlier one. */
export function countedOnce(files: readonly (readonly SettledLine[])[]): CountedOnce {
  const lines = new Map<string, SettledLine>();
  let twice = 0;
  let corrected = 0;
  let first: string | null = null;
  let last: string | null = null;
  for (const file of files)
    for (const line of file) {
      const before = lines.get(line.key);
      if (before !== undefined) {
        twice++;
        if (before.amount !== line.amount || before.units !== line.units) corrected++;
      }
      lines.set(line.key, line);
      if (first === null || line.day < first) first = line.day;
      if (last === null || line.day > last) last = line.day;
    }
  return { lines: [...lines.values()], twice, corrected, first, last };
}
