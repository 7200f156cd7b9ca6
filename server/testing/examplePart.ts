import { foldOf, PART_NUMBERS, textsOf, WordWriter } from '../../between/parts.ts';
import type { Part, PartNumber } from '../../between/parts.ts';

export type ExampleRow = {
  readonly key: number;
  readonly title?: string;
  readonly brand?: string;
  readonly category?: string;
  readonly digits?: number;
} & Partial<Record<PartNumber, number>>;

/** A part of these rows; what they do not say is unknown. */
export function examplePart(rows: readonly ExampleRow[]): Part {
  const numbers = Object.fromEntries(
    PART_NUMBERS.map((n) => [
      n,
      Float64Array.from(rows, (r, i) => r[n] ?? (n === 'line' ? i + 2 : n === 'digits' ? 13 : Number.NaN)),
    ]),
  ) as Record<PartNumber, Float64Array>;
  const words = { brand: new WordWriter(), category: new WordWriter() };
  for (const r of rows) {
    words.brand.add(r.brand ?? '');
    words.category.add(r.category ?? '');
  }
  const part = {
    rows: rows.length,
    numbers,
    texts: { title: textsOf(rows.map((r) => r.title ?? '')) },
    words: { brand: words.brand.words(), category: words.category.words() },
  };
  return { ...part, texts: { ...part.texts, fold: foldOf(part) } };
}
