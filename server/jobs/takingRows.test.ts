import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { LastEdition } from '../../core/lists/editions.ts';
import { checkDigit } from '../../core/goods/gtin.ts';
import { listMap } from '../../core/lists/map.ts';
import { Reference } from '../../core/lists/reference.ts';
import { makeColumns } from '../../core/columns/columns.ts';
import { FILLED_FROM, NOTE, writePart } from '../../between/parts.ts';
import { examplePart } from '../testing/examplePart.ts';
import { Gathering } from './gathering.ts';
import { tallyOf } from './listTask.ts';
import type { Source } from './listTask.ts';
import { Categories, TakingRows } from './takingRows.ts';

const folder = mkdtempSync(join(tmpdir(), 'bm-rows-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const code = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + checkDigit(body);
};
const HEADER = ['EAN', 'Title', 'Price', 'Group', 'Shelf', 'Colour', 'Link'];
const map = listMap.parse({
  columns: {
    identifier: 'EAN',
    title: 'Title',
    cost: 'Price',
    category: 'Group',
    price: 'Shelf',
    link: 'Link',
  },
  extras: ['Colour'],
});
const source = (over: Partial<Source> = {}): Source => ({
  map,
  storing: true,
  reference: null,
  previous: null,
  matched: new Map(),
  path: 'nowhere',
  listId: 'l',
  grows: false,
  ...over,
});
type Over = { source?: Partial<Source>; reference?: Reference; last?: LastEdition };
/** Rows taken one after the other, with the part they stand in and the count of them. */
function taken(cells: readonly (readonly string[])[], over: Over = {}) {
  const categories = new Categories();
  const rows = new TakingRows(source(over.source), over.reference ?? null, over.last ?? null, categories);
  const now = new Gathering(50);
  const work = tallyOf({ listId: 'l' });
  rows.start(HEADER);
  for (const [i, c] of cells.entries()) rows.take(c, i + 2, now, work);
  return { rows, now, work, categories };
}
const row = (n: number, over: Partial<Record<string, string>> = {}): string[] =>
  HEADER.map((h) => over[h] ?? { EAN: code(n), Title: `Pot ${n}`, Price: '2.50', Shelf: '9.00' }[h] ?? '');

describe("rows of a supplier's file", () => {
  it('stand in the part in their order, with what they say', () => {
    const { now, work, categories } = taken([
      row(1, { Group: 'garden', Colour: 'green', Link: 'https://example.com/1' }),
      row(2, { Group: 'home' }),
      row(3, { Group: 'garden' }),
    ]);
    expect(work).toMatchObject({ valid: 3, invalid: 0, repaired: 0, garbled: 0 });
    expect([...now.numbers.line.slice(0, 3)]).toEqual([2, 3, 4]);
    expect([...now.numbers.key.slice(0, 3)]).toEqual([1, 2, 3].map((n) => Number(code(n))));
    expect([...now.numbers.cost.slice(0, 3)]).toEqual([2.5, 2.5, 2.5]);
    expect(categories.names).toEqual(['garden', 'home']);
    const { texts, words, more } = now.gathered(true);
    const said = (i: number, t: { bytes: Uint8Array; offsets: ArrayLike<number> }): string =>
      new TextDecoder().decode(t.bytes.slice(t.offsets[i], t.offsets[i + 1]));
    expect([0, 1, 2].map((i) => said(i, texts.title))).toEqual(['Pot 1', 'Pot 2', 'Pot 3']);
    expect(words.category.values).toEqual(expect.arrayContaining(['garden', 'home']));
    expect(JSON.parse(said(0, more as never))).toEqual({ link: 'https://example.com/1', Colour: 'green' });
    expect(said(1, more as never)).toBe('');
  });
  it('that are wrong are kept apart with their faults, and counted by what is wrong', () => {
    const { now, work } = taken([
      row(1),
      row(1),
      row(2, { Price: 'on request' }),
      row(3, { EAN: '' }),
      row(4, { EAN: `${code(4).slice(0, -1)}x`, Price: '-3' }),
    ]);
    expect(work).toMatchObject({ valid: 1, invalid: 4, troubles: { duplicate: 1, cost: 2, barcode: 2 } });
    expect(now.count).toBe(1);
    expect(now.refused).toHaveLength(4);
    const faults = now.refused.map((r) =>
      (JSON.parse(String(r.at(-1))) as { code: string }[]).map((f) => f.code),
    );
    expect(faults).toEqual([
      ['rowDuplicate'],
      ['costText'],
      ['barcodeMissing'],
      ['barcodeNotDigits', 'costNegative'],
    ]);
    expect(now.refused.map((r) => r.at(-2))).toEqual([3, 4, 5, 6]);
  });
  it('that are only looked at are counted, and no text of them is kept', () => {
    const { now, work } = taken([row(1), row(2)], { source: { storing: false } });
    expect(work.valid).toBe(2);
    expect(now.gathered(false).texts.title.bytes.length).toBe(0);
  });
  it('letters that are none are counted', () => {
    expect(taken([row(1, { Title: 'B\ufffdch' }), row(2)]).work.garbled).toBe(1);
  });
  it('are completed from market figures, and say what was filled in', () => {
    const reference = new Reference();
    const columns = makeColumns(1);
    columns.price[0] = 12;
    columns.units[0] = 40;
    reference.add(code(1), 9, columns, 0, 0);
    const { now, work } = taken([row(1, { Shelf: '' }), row(2, { Shelf: '' })], {
      reference,
      source: { reference: { file: {} as never, sheet: null, map, choice: 'first' } },
    });
    expect(work.completed).toBe(1);
    expect(now.numbers.price[0]).toBe(12);
    expect(Number.isNaN(now.numbers.price[1])).toBe(true);
    expect((now.numbers.notes[0] as number) & NOTE.completed).toBe(NOTE.completed);
    expect(now.numbers.notes[0]).toBeGreaterThanOrEqual(FILLED_FROM);
    expect([now.numbers.listings[0], now.numbers.listings[1]]).toEqual([1, 0]);
  });
  it('are held against the last edition: new, dearer, cheaper, the same', () => {
    const last = new LastEdition();
    for (const [n, cost] of [
      [1, 2],
      [2, 3],
      [3, 2.5],
    ] as const)
      last.add(code(n), cost);
    const { now, work } = taken([row(1), row(2), row(3), row(4)], { last });
    const notes = [...now.numbers.notes.slice(0, 4)];
    expect(notes).toEqual([NOTE.dearer, NOTE.cheaper, 0, NOTE.isNew]);
    expect([...now.numbers.before.slice(0, 3)]).toEqual([2, 3, 2.5]);
    expect(Number.isNaN(now.numbers.before[3])).toBe(true);
    expect(Object.values(work.changes).reduce((s, n) => s + n, 0)).toBe(4);
  });
  it('a header that the mapping does not fit is refused', () => {
    const rows = new TakingRows(source(), null, null, new Categories());
    expect(() => rows.start(['EAN', 'Title'])).toThrow(/noSuchColumn/);
  });
  it('goods of parts that are stored are known again: their second row is refused', async () => {
    const path = join(folder, 'part');
    await writePart(path, examplePart([{ key: Number(code(1)), cost: 2, line: 17 }]));
    const { rows, now, work } = taken([]);
    await rows.noteSeen([path]);
    rows.take(row(1), 30, now, work);
    expect(work).toMatchObject({ valid: 0, invalid: 1, troubles: { duplicate: 1 } });
    expect(String(now.refused[0]?.at(-1))).toContain('17');
  });
});

describe('a place for rows', () => {
  it('is made wider with all it holds, and is empty once it is cleared', () => {
    const { now } = taken([row(1), row(2, { Price: '' })]);
    const wider = now.widened();
    expect([wider.capacity, wider.count, wider.refused.length]).toEqual([100, 1, 1]);
    expect(wider.numbers.cost[0]).toBe(2.5);
    expect(wider.gathered(false).rows).toBe(1);
    wider.clear();
    expect([wider.count, wider.refused.length, wider.gathered(false).texts.title.bytes.length]).toEqual([
      0, 0, 0,
    ]);
  });
  it('categories past what is told apart are none, and so is a blank one', () => {
    const categories = new Categories();
    expect(categories.at('')).toBe(-1);
    for (let i = 0; i < 32_000; i++) expect(categories.at(`c${i}`)).toBe(i);
    expect([categories.at('one more'), categories.at('c5')]).toEqual([-1, 5]);
  });
});
