/**
 * Texts in the order of the alphabet, as numbers to sort by: a million titles are ranked once and sorted as
 * fast as prices.
 */
import { sortRows } from './select.ts';

const folds = new Map<string, string>();
function foldLetter(letter: string): string {
  let folded = folds.get(letter);
  if (folded === undefined) {
    folded = letter
      .normalize('NFKD')
      .replace(/\p{M}+/gu, '')
      .toLowerCase()
      .replaceAll('ς', 'σ');
    folds.set(letter, folded);
  }
  return folded;
}

/**
 * Text as it is searched and ordered: lower case, without marks on letters. Each letter by itself, so that
 * parts fold like the whole.
 */
export function foldText(text: string): string {
  for (let i = 0; i < text.length; i++)
    if (text.charCodeAt(i) > 127) {
      let out = '';
      for (const letter of text) out += foldLetter(letter);
      return out;
    }
  return text.toLowerCase();
}

/** UTF-8 texts one after the other; text `i` stands from `offsets[i]` to `offsets[i + 1]`. */
export type TextColumn = { readonly bytes: Uint8Array; readonly offsets: Uint32Array };

/** Six bytes from `at` on as a number that orders like them; past the end counts as less than any byte. */
function sixBytes(bytes: Uint8Array, at: number, end: number): number {
  let n = 0;
  for (let k = 0; k < 6; k++) n = n * 257 + (at + k < end ? (bytes[at + k] as number) + 1 : 0);
  return n;
}

/** Texts that agree in so many bytes count as equal. */
const DEEPEST = 600;

/**
 * The rank of every text among all, from 0, in the order of their bytes; equal texts share a rank, blank ones
 * have none (NaN, which stands last either way). Sorts six bytes at a time and goes deeper only where these
 * are equal.
 */
export function rankTexts({ bytes, offsets }: TextColumn): Float64Array {
  const n = offsets.length - 1;
  const rank = new Float64Array(n).fill(Number.NaN);
  const filled = new Uint32Array(n);
  let count = 0;
  for (let i = 0; i < n; i++) if ((offsets[i + 1] as number) > (offsets[i] as number)) filled[count++] = i;
  const keys = new Float64Array(n);
  let next = 0;
  const order = (rows: Uint32Array, depth: number): void => {
    for (const i of rows) keys[i] = sixBytes(bytes, (offsets[i] as number) + depth, offsets[i + 1] as number);
    const sorted =
      rows.length > 400
        ? sortRows(rows, [{ values: keys, down: false }])
        : rows.sort((a, b) => (keys[a] as number) - (keys[b] as number));
    // Keys are written over by what lies deeper, so groups are found first.
    const ends: number[] = [];
    for (let i = 1; i <= sorted.length; i++)
      if (i === sorted.length || keys[sorted[i] as number] !== keys[sorted[i - 1] as number]) ends.push(i);
    let from = 0;
    for (const to of ends) {
      const first = sorted[from] as number;
      // The last of six bytes blank: all of the group have come to their ends, and are equal.
      if (to - from === 1 || (keys[first] as number) % 257 === 0 || depth + 6 >= DEEPEST) {
        for (let i = from; i < to; i++) rank[sorted[i] as number] = next;
        next++;
      } else order(sorted.slice(from, to), depth + 6);
      from = to;
    }
  };
  order(filled.slice(0, count), 0);
  return rank;
}
