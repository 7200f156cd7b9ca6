/** Titles of a list in the order of the alphabet, brands and categories behind them. */
import { rankTexts } from '../../core/columns/rank.ts';
import { readPart, writeRanks } from '../../between/parts.ts';

export async function rankTitles({ parts, to }: { parts: readonly string[]; to: string }): Promise<void> {
  const folds = [];
  for (const p of parts) folds.push((await readPart(p, () => null)).texts.fold);
  const offsets = new Uint32Array(folds.reduce((n, f) => n + f.offsets.length - 1, 0) + 1);
  let row = 0;
  let base = 0;
  for (const f of folds) {
    for (let i = 1; i < f.offsets.length; i++) offsets[++row] = base + (f.offsets[i] as number);
    base += f.bytes.length;
  }
  await writeRanks(to, rankTexts({ bytes: Buffer.concat(folds.map((f) => f.bytes)), offsets }));
}
