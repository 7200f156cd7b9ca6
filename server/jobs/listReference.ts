/** Market figures of one's own that complete the rows of a list. */
import { makeColumns } from '../../core/columns/columns.ts';
import { mapIssues } from '../../core/lists/map.ts';
import { Reference } from '../../core/lists/reference.ts';
import { RowReader } from '../../core/lists/rows.ts';
import type { StoredReference } from '../db/schema.ts';
import { readList } from '../files/lists.ts';
import { refused } from '../refusal.ts';
import { PART_NUMBERS, textsOf, WordWriter } from '../../between/parts.ts';
import type { Part, PartNumber } from '../../between/parts.ts';
import { sourceOf, cut } from './listTask.ts';

export async function loadReference(
  workspaceId: string,
  listId: string,
  stored: StoredReference,
  categoryAt: (text: string) => number,
): Promise<Reference> {
  const reference = new Reference();
  let reader: RowReader | null = null;
  let columns = makeColumns(0);
  await readList(
    await sourceOf(workspaceId, listId, 'reference', stored.file.kind, stored.sheet),
    Object.values(stored.map.columns),
    ({ header }) => {
      const [first] = mapIssues(stored.map, header, ['identifier']);
      if (first !== undefined) throw refused(first.code, { ...first.detail, in: 'reference' });
      reader = new RowReader(stored.map, header, 'reference');
    },
    (batch, lines) => {
      if (batch.length > columns.length) columns = makeColumns(batch.length);
      for (const [i, cells] of batch.entries()) {
        const row = (reader as unknown as RowReader).read(cells, lines[i] as number, columns, i, categoryAt);
        if (row.troubles.length === 0)
          reference.add(
            row.key,
            lines[i] as number,
            columns,
            i,
            row.pack,
            cut((reader as unknown as RowReader).text(cells, 'title')),
          );
      }
    },
  );
  return reference;
}

/** Barcodes that have several listings, with these, by barcode: what one is chosen from by hand. */
export function listingsPart(reference: Reference, categories: readonly string[]): Part {
  const rows = [...reference.several()]
    .sort((x, y) => x.key - y.key)
    .flatMap(({ key, listings }) => listings.map((l) => ({ key, ...l })));
  const of: Partial<Record<PartNumber, (r: (typeof rows)[number]) => number>> = {
    line: (r) => r.row,
    key: (r) => r.key,
    price: (r) => r.price,
    units: (r) => r.units,
    a: (r) => r.sides[0],
    b: (r) => r.sides[1],
    c: (r) => r.sides[2],
    kg: (r) => r.kg,
    pack: (r) => r.pack,
  };
  const numbers = Object.fromEntries(
    PART_NUMBERS.map((n) => [n, Float64Array.from(rows, of[n] ?? (() => Number.NaN))]),
  ) as Part['numbers'];
  const words = { brand: new WordWriter(), category: new WordWriter() };
  for (const r of rows) {
    words.brand.add('');
    words.category.add(categories[r.category] ?? '');
  }
  return {
    rows: rows.length,
    numbers,
    texts: { title: textsOf(rows.map((r) => r.title)), fold: textsOf(rows.map(() => '')) },
    words: { brand: words.brand.words(), category: words.category.words() },
  };
}
