import { mkdtempSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, expect, it } from 'vitest';
import { foldText } from '../core/columns/rank.ts';
import { examplePart } from '../server/testing/examplePart.ts';
import { Bytes } from './bytes.ts';
import {
  codeOf,
  PART_NUMBERS,
  PART_TEXTS,
  PART_WORDS,
  readPart,
  textOf,
  textsOf,
  writePart,
} from './parts.ts';
import type { Part, PartNumber } from './parts.ts';
import { diskFull, isDiskFull } from '../server/files/store.ts';
import { fault } from '../core/fault.ts';
import { cases } from '../core/testing/seed.ts';

const folder = mkdtempSync(join(tmpdir(), 'bold-margin-parts-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const value = fc.oneof(
  fc.constant(Number.NaN),
  fc.integer({ min: 0, max: 255 }),
  fc.integer({ min: 0, max: 70_000 }),
  fc.constantFrom(255, 65_535, 4_294_967_295, 4_294_967_294, -0, 0, -1, Number.POSITIVE_INFINITY),
  fc.double({ noNaN: true }),
);
const column = fc.oneof(
  fc.array(value, { minLength: 5, maxLength: 5 }),
  value.map((x) => Array<number>(5).fill(x)),
  fc.array(fc.oneof(fc.integer({ min: 0, max: 300 }), fc.constant(Number.NaN)), {
    minLength: 5,
    maxLength: 5,
  }),
);
const text = fc.oneof(
  fc.string({ maxLength: 8 }),
  fc.constantFrom('', 'Größe', 'ÉCLAIR', 'ΣΑΣ', '🌱', 'نص', 'İstanbul'),
);
const texts = fc.array(text, { minLength: 5, maxLength: 5 });
const example = fc
  .record({ a: column, b: column, title: texts, brand: texts, category: texts })
  .map(({ a, b, title, brand, category }): Part => {
    const part = examplePart(
      title.map((t, i) => ({
        key: 95_200_000_000 + i,
        digits: 8 + i,
        title: t,
        brand: brand[i] as string,
        category: category[i] as string,
      })),
    );
    const numbers = Object.fromEntries(
      PART_NUMBERS.map((c, i) => [
        c,
        c === 'key' || c === 'digits' ? part.numbers[c] : Float64Array.from(i % 2 === 0 ? a : b),
      ]),
    ) as Record<PartNumber, Float64Array>;
    return { ...part, numbers };
  });
const wordsOf = ({ values, codes }: Part['words']['brand']): string[] =>
  Array.from(codes, (c) => values[c] as string);
let n = 0;

it('columns of every kind read back bit for bit, narrow or not', async () => {
  await fc.assert(
    fc.asyncProperty(example, async (part) => {
      const path = join(folder, `p${n++}`);
      await writePart(path, part);
      const back = await readPart(path);
      for (const c of PART_NUMBERS) expect([...back.numbers[c]]).toEqual([...part.numbers[c]]);
      for (const w of PART_WORDS) expect(wordsOf(back.words[w])).toEqual(wordsOf(part.words[w]));
      for (const t of PART_TEXTS)
        for (let i = 0; i < 5; i++) expect(textOf(back.texts[t], i)).toBe(textOf(part.texts[t], i));
      // What is searched is the folded text of the whole row, however it was put together.
      for (let i = 0; i < 5; i++)
        expect(textOf(back.texts.fold, i)).toBe(
          foldText(
            [
              textOf(part.texts.title, i),
              wordsOf(part.words.brand)[i],
              wordsOf(part.words.category)[i],
              codeOf(part.numbers.key[i] as number, part.numbers.digits[i] as number),
            ].join('\n'),
          ),
        );
      // Places may be given for numbers.
      const own = new Float64Array(8);
      await readPart(path, (name, rows) =>
        name === 'line' ? own.subarray(2, 2 + rows) : new Float64Array(rows),
      );
      expect([...own.subarray(2, 7)]).toEqual([...part.numbers.line]);
    }),
    { numRuns: cases(150) },
  );
});

it('parts of the first writing are read on', async () => {
  const rows = ['9520000000019', '95200002'];
  const column = (name: string, values: readonly string[], at: number) => {
    const { bytes, offsets } = textsOf(values);
    const [a, b] = [Buffer.from(offsets.buffer, offsets.byteOffset, offsets.byteLength), Buffer.from(bytes)];
    const padded = (x: Buffer): Buffer => Buffer.concat([x, Buffer.alloc((8 - (x.length % 8)) % 8)]);
    return {
      places: [
        { name, what: 'offsets', at, bytes: a.length },
        { name, what: 'bytes', at: at + padded(a).length, bytes: b.length },
      ],
      data: Buffer.concat([padded(a), padded(b)]),
    };
  };
  const places: unknown[] = PART_NUMBERS.filter((c) => c !== 'digits').map((c) => ({
    name: c,
    what: 'same',
    at: 0,
    bytes: 0,
    value: 7,
  }));
  const data: Buffer[] = [];
  for (const [name, values] of [
    ['code', rows],
    ['title', ['Großer Topf', 'Pot']],
    ['brand', ['Larkmoor', 'Larkmoor']],
    ['category', ['', 'home']],
  ] as const) {
    const c = column(
      name,
      values,
      data.reduce((sum, d) => sum + d.length, 0),
    );
    places.push(...c.places);
    data.push(c.data);
  }
  const header = Buffer.from(JSON.stringify({ rows: 2, places }));
  const head = Buffer.alloc(16 + header.length + ((8 - (header.length % 8)) % 8));
  head.write('BMPART1\n', 0, 'latin1');
  head.writeUInt32LE(header.length, 8);
  header.copy(head, 16);
  writeFileSync(join(folder, 'old'), Buffer.concat([head, ...data]));
  const part = await readPart(join(folder, 'old'));
  expect([...part.numbers.digits]).toEqual([13, 8]);
  expect([...part.numbers.cost]).toEqual([7, 7]);
  expect(wordsOf(part.words.brand)).toEqual(['Larkmoor', 'Larkmoor']);
  expect(wordsOf(part.words.category)).toEqual(['', 'home']);
  expect(textOf(part.texts.title, 0)).toBe('Großer Topf');
  expect(textOf(part.texts.fold, 0)).toBe('großer topf\nlarkmoor\n\n9520000000019');
  // Where only texts are wanted, no number is read.
  const texts = await readPart(join(folder, 'old'), () => null);
  expect([texts.numbers.cost.length, textOf(texts.texts.fold, 1)]).toEqual([
    0,
    'pot\nlarkmoor\nhome\n95200002',
  ]);
});

it('a disk that fills leaves no part behind', async () => {
  const path = join(folder, 'full');
  symlinkSync('/dev/full', `${path}.part`);
  const failed = await writePart(
    path,
    examplePart([
      { key: 1, title: 'a' },
      { key: 2, title: 'b' },
    ]),
  ).catch((e) => e);
  expect(isDiskFull(failed)).toBe(true);
  expect(isDiskFull(diskFull())).toBe(true);
  expect(diskFull().fault).toEqual(fault('diskFull'));
  expect(readdirSync(folder).filter((f) => f.startsWith('full'))).toEqual([]);
});

it('numbers and texts are written byte for byte as a buffer writes them', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -32768, max: 32767 }),
      fc.integer(),
      fc.double(),
      fc.maxSafeNat(),
      fc.string({ unit: 'binary', maxLength: 40 }),
      (small, whole, real, large, words) => {
        const bytes = new Bytes();
        bytes.int16(small);
        bytes.int32(whole);
        bytes.float64(real);
        bytes.int64(large);
        bytes.text(words);
        const wanted = Buffer.alloc(22);
        wanted.writeInt16BE(small, 0);
        wanted.writeInt32BE(whole, 2);
        wanted.writeDoubleBE(real, 6);
        wanted.writeBigInt64BE(BigInt(large), 14);
        expect(bytes.written()).toEqual(Buffer.concat([wanted, Buffer.from(words)]));
      },
    ),
  );
});

it('what is no part is not taken for one', async () => {
  writeFileSync(join(folder, 'other'), 'Barcode,Net price\n');
  await expect(readPart(join(folder, 'other'))).rejects.toThrow('no part of a list');
});
