/**
 * Columns of a list in the file store, in parts as the rows were read. A part is one file: a mark, a header that says which column
 * lies where, and the columns one after the other, each from a multiple of eight bytes on, little-endian. It is written whole
 * under its own name and never changed.
 */
import { open, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { INPUT_COLUMNS, MORE_COLUMNS } from '../../core/columns/columns.ts';
import { foldText } from '../../core/columns/rank.ts';
import type { TextColumn } from '../../core/columns/rank.ts';

const MARK = 'BMPART1\n';
/** Numbers of a row, beside those the formulas read: its line in the file, its barcode as a number, packs, notes as bits. */
export const PART_NUMBERS = ['line', 'key', ...INPUT_COLUMNS, ...MORE_COLUMNS, 'pack', 'listingPack', 'before', 'notes', 'listings'] as const;
export type PartNumber = (typeof PART_NUMBERS)[number];
export const PART_TEXTS = ['code', 'title', 'brand', 'category'] as const;
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
    const { parts } = this;
    const bytes = Buffer.from(parts.join(''));
    const offsets = new Uint32Array(parts.length + 1);
    const letters = parts.reduce((n, t) => n + t.length, 0);
    // Where every letter is one byte, as in most lists, lengths need no counting of bytes.
    if (letters === bytes.length) for (let i = 0; i < parts.length; i++) offsets[i + 1] = (offsets[i] as number) + (parts[i] as string).length;
    else for (let i = 0; i < parts.length; i++) offsets[i + 1] = (offsets[i] as number) + Buffer.byteLength(parts[i] as string);
    return { bytes, offsets };
  }
}

/** How a column of numbers is written: one value for all, or as narrow as holds every value; the largest whole number stands for unknown. */
const WIDTHS = { u8: Uint8Array, u16: Uint16Array, u32: Uint32Array, f64: Float64Array } as const;
type Width = keyof typeof WIDTHS;
type Place = { readonly name: string; readonly what: Width | 'same' | 'offsets' | 'bytes'; readonly at: number; readonly bytes: number; /** Of `same`; absent: unknown. */ readonly value?: number };
const MOST = { u8: 0xff, u16: 0xffff, u32: 0xffffffff } as const;

/** The narrowest way in which a column reads back bit for bit. */
function narrow(values: Float64Array): { what: Width | 'same'; data: Uint8Array; value?: number } {
  const first = values[0] as number;
  let same = true;
  let most = 0;
  let whole = true;
  for (let i = 0; i < values.length && (same || whole); i++) {
    const x = values[i] as number;
    if (!Object.is(x, first)) same = false;
    if (x !== x) continue;
    if (x < 0 || x >= MOST.u32 || x !== Math.floor(x) || Object.is(x, -0)) whole = false;
    else if (x > most) most = x;
  }
  // Written as JSON, where -0 would become 0.
  if (same && !Object.is(first, -0)) return { what: 'same', data: new Uint8Array(0), ...(first === first ? { value: first } : {}) };
  if (!whole) return { what: 'f64', data: new Uint8Array(values.buffer, values.byteOffset, values.byteLength) };
  const what = most < MOST.u8 ? 'u8' : most < MOST.u16 ? 'u16' : 'u32';
  const out = new WIDTHS[what](values.length);
  for (let i = 0; i < values.length; i++) out[i] = values[i] === values[i] ? (values[i] as number) : MOST[what];
  return { what, data: new Uint8Array(out.buffer) };
}

/** Writes a part; where it cannot be written whole, nothing of it stays. */
export async function writePart(path: string, part: Part): Promise<void> {
  const places: Place[] = [];
  const blocks: Uint8Array[] = [];
  let at = 0;
  const put = (name: string, what: Place['what'], data: Uint8Array, value?: number): void => {
    places.push({ name, what, at, bytes: data.byteLength, ...(value === undefined ? {} : { value }) });
    const pad = (8 - (data.byteLength % 8)) % 8;
    blocks.push(data);
    if (pad > 0) blocks.push(new Uint8Array(pad));
    at += data.byteLength + pad;
  };
  for (const n of PART_NUMBERS) {
    const { what, data, value } = narrow(part.numbers[n].subarray(0, part.rows));
    put(n, what, data, value);
  }
  for (const t of PART_TEXTS) {
    const { offsets, bytes } = part.texts[t];
    put(t, 'offsets', new Uint8Array(offsets.buffer, offsets.byteOffset, offsets.byteLength));
    put(t, 'bytes', bytes);
  }
  const header = Buffer.from(JSON.stringify({ rows: part.rows, places }));
  const head = Buffer.alloc(16 + header.length + ((8 - (header.length % 8)) % 8));
  head.write(MARK, 0, 'latin1');
  head.writeUInt32LE(header.length, 8);
  header.copy(head, 16);
  try {
    const file = await open(`${path}.part`, 'w');
    try {
      const all = [head, ...blocks.filter((b) => b.byteLength > 0)];
      const size = all.reduce((n, b) => n + b.byteLength, 0);
      const { bytesWritten } = await file.writev(all);
      // A disk that fills takes less than it was given, and says so only at the next piece.
      if (bytesWritten < size) throw Object.assign(new Error('the disk took less than it was given'), { code: 'ENOSPC' });
    } finally {
      await file.close();
    }
    await rename(`${path}.part`, path);
  } catch (e) {
    await rm(`${path}.part`, { force: true });
    throw e;
  }
}

/** Reads a part; columns stored narrower are widened. */
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
    if (p.what === 'offsets') texts[p.name as PartText].offsets = new Uint32Array(whole, from + p.at, p.bytes / 4);
    else if (p.what === 'bytes') texts[p.name as PartText].bytes = new Uint8Array(whole, from + p.at, p.bytes);
    else if (p.what === 'same') numbers[p.name as PartNumber] = new Float64Array(rows).fill(p.value ?? Number.NaN);
    else if (p.what === 'f64') numbers[p.name as PartNumber] = new Float64Array(whole, from + p.at, rows);
    else {
      const stored = new WIDTHS[p.what](whole, from + p.at, rows);
      const unknown = MOST[p.what];
      const wide = Float64Array.from(stored);
      for (let i = 0; i < rows; i++) if (stored[i] === unknown) wide[i] = Number.NaN;
      numbers[p.name as PartNumber] = wide;
    }
  }
  return { rows, numbers, texts };
}

const FOLDED = ['title', 'brand', 'category', 'code'] as const;

/**
 * Title, brand, category and barcode of every row of a part as they are searched and ordered, one text each, a line between. Plain
 * letters are folded as the bytes they are; only rows with others are read as text.
 */
export function foldedTexts({ rows, texts }: Part): TextColumn {
  const offsets = new Uint32Array(rows + 1);
  /** Bytes that the rows from one on take, where they stay as long as they are. */
  const after = (i: number): number => FOLDED.reduce((n, t) => n + texts[t].bytes.length - (texts[t].offsets[i] as number), 0) + 3 * (rows - i);
  let bytes = Buffer.allocUnsafe(after(0) + 65_536);
  let at = 0;
  for (let i = 0; i < rows; i++) {
    const begun = at;
    let plain = true;
    for (let k = 0; k < 4 && plain; k++) {
      if (k > 0) bytes[at++] = 10;
      const column = texts[FOLDED[k] as PartText];
      const to = column.offsets[i + 1] as number;
      for (let b = column.offsets[i] as number; b < to; b++) {
        const c = column.bytes[b] as number;
        if (c > 127) {
          plain = false;
          break;
        }
        bytes[at++] = c > 64 && c < 91 ? c + 32 : c;
      }
    }
    if (!plain) {
      const folded = Buffer.from(foldText(FOLDED.map((t) => textOf(texts[t], i)).join('\n')));
      // Folding makes few texts longer; where it does, there must be room for what follows too.
      if (begun + folded.length + after(i + 1) > bytes.length) bytes = Buffer.concat([bytes, Buffer.allocUnsafe(folded.length + (bytes.length >> 1))]);
      at = begun + folded.copy(bytes, begun);
    }
    offsets[i + 1] = at;
  }
  return { bytes: bytes.subarray(0, at), offsets };
}

/** One text of a column. */
export function textOf({ bytes, offsets }: TextColumn, i: number): string {
  const [from, to] = [offsets[i] as number, offsets[i + 1] as number];
  return from === to ? '' : Buffer.from(bytes.buffer, bytes.byteOffset + from, to - from).toString('utf8');
}

/** The ranks of all titles of a list. */
export const writeRanks = (path: string, ranks: Float64Array): Promise<void> => writeFile(path, new Uint8Array(ranks.buffer, ranks.byteOffset, ranks.byteLength));
export async function readRanks(path: string): Promise<Float64Array> {
  const bytes = await readFile(path);
  return new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
}
