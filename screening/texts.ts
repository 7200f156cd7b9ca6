/** The texts of a list in memory: titles to be shown, and folded text that is searched. */
import type { TextColumn } from '../core/columns/rank.ts';
import { textOf } from '../between/parts.ts';
import type { Part } from '../between/parts.ts';

type Block = {
  readonly from: number;
  readonly rows: number;
  readonly title: TextColumn;
  readonly fold: TextColumn;
};

export class Texts {
  private readonly blocks: Block[] = [];

  /**
   * Takes the texts of a part whose first row is `from`. Copied out, so that the rest of the file does not
   * stay in memory.
   */
  take(from: number, part: Part): void {
    const copied = (c: TextColumn): TextColumn => ({
      bytes: Buffer.from(c.bytes),
      offsets: c.offsets.slice(),
    });
    this.blocks.push({
      from,
      rows: part.rows,
      title: copied(part.texts.title),
      fold: copied(part.texts.fold),
    });
  }

  titleAt(row: number): string {
    let lo = 0;
    let hi = this.blocks.length - 1;
    while (lo < hi) {
      const mid = (lo + hi + 1) >> 1;
      if ((this.blocks[mid] as Block).from <= row) lo = mid;
      else hi = mid - 1;
    }
    const b = this.blocks[lo] as Block;
    return textOf(b.title, row - b.from);
  }

  /** Rows whose folded text holds the words: all of them, or any. */
  holding(words: readonly string[], how: 'all' | 'any', rows: number): Uint8Array {
    const out = new Uint8Array(rows).fill(how === 'all' ? 1 : 0);
    for (const word of words) {
      const needle = Buffer.from(word);
      if (needle.length === 0) continue;
      const found = how === 'all' ? new Uint8Array(rows) : out;
      for (const b of this.blocks) {
        const { bytes, offsets } = b.fold;
        const hay = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
        for (let at = hay.indexOf(needle), row = 0; at >= 0; ) {
          // The row that holds this place; rows follow each other, so the search goes on from the last one.
          let step = 1;
          while (row + step < b.rows && (offsets[row + step] as number) <= at) {
            row += step;
            step *= 2;
          }
          while ((offsets[row + 1] as number) <= at) row++;
          // A text that begins in one row and ends in the next is in neither.
          if (at + needle.length <= (offsets[row + 1] as number)) {
            found[b.from + row] = 1;
            at = hay.indexOf(needle, offsets[row + 1] as number);
          } else at = hay.indexOf(needle, at + 1);
        }
      }
      if (how === 'all') for (let i = 0; i < rows; i++) if (found[i] === 0) out[i] = 0;
    }
    return out;
  }
}
