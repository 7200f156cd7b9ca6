import { mkdtempSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, expect, it } from 'vitest';
import { foldText } from '../../core/columns/rank.ts';
import { foldedTexts, PART_NUMBERS, PART_TEXTS, readPart, TextWriter, textOf, writePart } from './parts.ts';
import type { PartNumber, PartText } from './parts.ts';
import { diskFull, isDiskFull } from './store.ts';

const folder = mkdtempSync(join(tmpdir(), 'bold-margin-parts-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('columns of every kind read back bit for bit, narrow or not', async () => {
  const value = fc.oneof(fc.constant(Number.NaN), fc.integer({ min: 0, max: 255 }), fc.integer({ min: 0, max: 70_000 }), fc.constantFrom(255, 65_535, 4_294_967_295, 4_294_967_294, -0, 0, -1), fc.double({ noNaN: true }));
  const column = fc.oneof(fc.array(value, { minLength: 5, maxLength: 5 }), value.map((x) => Array<number>(5).fill(x)), fc.array(fc.oneof(fc.integer({ min: 0, max: 300 }), fc.constant(Number.NaN)), { minLength: 5, maxLength: 5 }));
  const text = fc.array(fc.oneof(fc.string({ maxLength: 8 }), fc.constantFrom('', 'Größe', '🌱', 'نص')), { minLength: 5, maxLength: 5 });
  let n = 0;
  await fc.assert(fc.asyncProperty(column, column, text, async (a, b, texts) => {
    const numbers = Object.fromEntries(PART_NUMBERS.map((c, i) => [c, Float64Array.from(i % 2 === 0 ? a : b)])) as Record<PartNumber, Float64Array>;
    const words = new TextWriter();
    for (const t of texts) words.add(t);
    const path = join(folder, `p${n++}`);
    await writePart(path, { rows: 5, numbers, texts: Object.fromEntries(PART_TEXTS.map((t) => [t, words.column()])) as Record<PartText, ReturnType<TextWriter['column']>> });
    const back = await readPart(path);
    for (const c of PART_NUMBERS) expect([...back.numbers[c]]).toEqual([...numbers[c]]);
    const folded = foldedTexts(back);
    expect(texts.map((_, i) => textOf(folded, i))).toEqual(texts.map((t) => foldText([t, t, t, t].join('\n'))));
    for (const t of PART_TEXTS) expect(texts.map((_, i) => textOf(back.texts[t], i))).toEqual(texts);
  }), { numRuns: 150 });
});

it('a disk that fills leaves no part behind', async () => {
  const path = join(folder, 'full');
  symlinkSync('/dev/full', `${path}.part`);
  const numbers = Object.fromEntries(PART_NUMBERS.map((c) => [c, Float64Array.from([1, 2])])) as Record<PartNumber, Float64Array>;
  const words = new TextWriter();
  words.add('a');
  words.add('b');
  const failed = await writePart(path, { rows: 2, numbers, texts: Object.fromEntries(PART_TEXTS.map((t) => [t, words.column()])) as Record<PartText, ReturnType<TextWriter['column']>> }).catch((e) => e);
  expect(isDiskFull(failed)).toBe(true);
  expect(diskFull().message).toMatch(/no room left on the disk.*send it again/);
  expect(readdirSync(folder).filter((f) => f.startsWith('full'))).toEqual([]);
});

it('what is no part is not taken for one', async () => {
  writeFileSync(join(folder, 'other'), 'Barcode,Net price\n');
  await expect(readPart(join(folder, 'other'))).rejects.toThrow('no part of a list');
});
