/**
 * Columns of a list in the file store, in parts as the rows were read. A part is one file: a mark, a header that says which column
 * lies where, and the columns one after the other, each from a multiple of eight bytes on, little-endian. It is written whole
 * under its own name and never changed.
 */
import { readFile, rename, rm, writeFile } from 'node:fs/promises';
import { INPUT_COLUMNS, MORE_COLUMNS } from '../../core/columns/columns.ts';
import type { TextColumn } from '../../core/columns/rank.ts';

const MARK = 'BMPART1\n';
/** Numbers of a row, beside those the formulas read: its line in the file, its barcode as a number, packs, notes as bits. */
export const PART_NUMBERS = ['line', 'key', ...INPUT_COLUMNS, ...MORE_COLUMNS, 'pack', 'listingPack', 'before', 'notes', 'listings'] as const;
export type PartNumber = (typeof PART_NUMBERS)[number];
/** Texts of a row; `fold` is title, brand, category and code as they are searched. */
export const PART_TEXTS = ['code', 'title', 'brand', 'category', 'fold'] as const;
export type PartText = (typeof PART_TEXTS)[number];
/** Bits of `notes`. */
export const NOTE = { repaired: 1, isNew: 2, dearer: 4, cheaper: 8, completed: 16 } as const;

export type Part = { readonly rows: number; readonly numbers: Readonly<Record<PartNumber, Float64Array>>; readonly texts: Readonly<Record<PartText, TextColumn>> };

/** Texts of a part as they come, one after the other. */
export class TextWriter {
  private readonly parts: string[] = [];
  add(text: string): void {
    this.parts.push(text);
  }
  column(): TextColumn {
    const offsets = new Uint32Array(this.parts.length + 1);
    this.parts.forEach((t, i) => {
      offsets[i + 1] = (offsets[i] as number) + Buffer.byteLength(t);
    });
    return { bytes: Buffer.from(this.parts.join('')), offsets };
  }
}

type Place = { readonly name: string; readonly what: 'number' | 'offsets' | 'bytes'; readonly at: number; readonly bytes: number };

/** Writes a part; where it cannot be written whole, nothing of it stays. */
export async function writePart(path: string, part: Part): Promise<void> {
  const places: Place[] = [];
  const blocks: Uint8Array[] = [];
  let at = 0;
  const put = (name: string, what: Place['what'], data: Uint8Array): void => {
    places.push({ name, what, at, bytes: data.byteLength });
    const pad = (8 - (data.byteLength % 8)) % 8;
    blocks.push(data, new Uint8Array(pad));
    at += data.byteLength + pad;
  };
  const bytesOf = (a: Float64Array | Uint32Array): Uint8Array => new Uint8Array(a.buffer, a.byteOffset, a.byteLength);
  for (const n of PART_NUMBERS) put(n, 'number', bytesOf(part.numbers[n].subarray(0, part.rows)));
  for (const t of PART_TEXTS) {
    put(t, 'offsets', bytesOf(part.texts[t].offsets));
    put(t, 'bytes', part.texts[t].bytes);
  }
  const header = Buffer.from(JSON.stringify({ rows: part.rows, places }));
  const head = Buffer.alloc(16 + header.length + ((8 - (header.length % 8)) % 8));
  head.write(MARK, 0, 'latin1');
  head.writeUInt32LE(header.length, 8);
  header.copy(head, 16);
  try {
    await writeFile(`${path}.part`, Buffer.concat([head, ...blocks]));
    await rename(`${path}.part`, path);
  } catch (e) {
    await rm(`${path}.part`, { force: true });
    throw e;
  }
}

/** Reads a part. The columns share the file's bytes. */
export async function readPart(path: string): Promise<Part> {
  const file = await readFile(path);
  if (file.toString('latin1', 0, 8) !== MARK) throw new Error('This is no part of a list');
  const length = file.readUInt32LE(8);
  const { rows, places } = JSON.parse(file.toString('utf8', 16, 16 + length)) as { rows: number; places: Place[] };
  const base = file.byteOffset + 16 + length + ((8 - (length % 8)) % 8);
  // Small files come from a shared pool, whose places need not be multiples of eight.
  const whole = base % 8 === 0 ? file.buffer : file.buffer.slice(base);
  const from = base % 8 === 0 ? base : 0;
  const numbers = {} as Record<PartNumber, Float64Array>;
  const texts = {} as Record<PartText, { bytes: Uint8Array; offsets: Uint32Array }>;
  for (const t of PART_TEXTS) texts[t] = { bytes: new Uint8Array(0), offsets: new Uint32Array(rows + 1) };
  for (const p of places) {
    if (p.what === 'number') numbers[p.name as PartNumber] = new Float64Array(whole, from + p.at, p.bytes / 8);
    else if (p.what === 'offsets') texts[p.name as PartText].offsets = new Uint32Array(whole, from + p.at, p.bytes / 4);
    else texts[p.name as PartText].bytes = new Uint8Array(whole, from + p.at, p.bytes);
  }
  return { rows, numbers, texts };
}

/** The ranks of all titles of a list. */
export const writeRanks = (path: string, ranks: Float64Array): Promise<void> => writeFile(path, new Uint8Array(ranks.buffer, ranks.byteOffset, ranks.byteLength));
export async function readRanks(path: string): Promise<Float64Array> {
  const bytes = await readFile(path);
  return new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
}
