/**
 * Columns of a list in the file store, in parts as the rows were read. A part is one file: a mark, a header
 * that says which column lies where, and the columns one after the other, each from a multiple of eight bytes
 * on, little-endian. It is written whole under its own name and never changed.
 */
import { isKnown, isUnknown } from '../core/rules/numbers.ts';
import { open, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { INPUT_COLUMNS } from '../core/columns/columns.ts';
import { ASIDE_COLUMNS } from '../core/lists/roles.ts';
import { foldText } from '../core/columns/rank.ts';
import type { TextColumn } from '../core/columns/rank.ts';
import { Bytes } from './bytes.ts';

const MARK = 'BMPART2\n';
/** Parts as they were written before folded texts and dictionaries stood in them; they are read on. */
const OLD_MARK = 'BMPART1\n';
/**
 * Numbers of a row, beside those the formulas read: its line in the file, its barcode as a number and in how
 * many digits it was written, packs, notes as bits, how many listings its market figures have and the row of
 * the one that counts.
 */
export const PART_NUMBERS = [
  'line',
  'key',
  'digits',
  ...INPUT_COLUMNS,
  ...ASIDE_COLUMNS,
  'pack',
  'listingPack',
  'before',
  'notes',
  'listings',
  'listing',
] as const;
export type PartNumber = (typeof PART_NUMBERS)[number];
/** `fold`: title, brand, category and barcode as they are searched and ordered, a line between. */
export const PART_TEXTS = ['title', 'fold'] as const;
export type PartText = (typeof PART_TEXTS)[number];
/** Texts of which there are few. */
export const PART_WORDS = ['brand', 'category'] as const;
export type PartWord = (typeof PART_WORDS)[number];
/** Bits of `notes`. */
export const NOTE = { repaired: 1, isNew: 2, dearer: 4, cheaper: 8, completed: 16 } as const;
/** What of a row came from the market figures (`FILLED`) stands in `notes` from this bit on. */
export const FILLED_FROM = 32;

/** Each different text once, and which of them every row has. */
export type Words = { readonly values: readonly string[]; readonly codes: Uint32Array };
export type Part = {
  readonly rows: number;
  readonly numbers: Readonly<Record<PartNumber, Float64Array>>;
  readonly texts: Readonly<Record<PartText, TextColumn>>;
  readonly words: Readonly<Record<PartWord, Words>>;
};

/** A barcode as it was written, from its number and its digits. */
export const codeOf = (key: number, digits: number): string => String(key).padStart(digits, '0');

/** Texts of a part as they come, one after the other. */
export class TextWriter {
  readonly utf8 = new Bytes();
  private offsets = new Uint32Array(1024);
  private count = 0;
  /** Ends the text that was written into `utf8`. */
  end(): void {
    if (++this.count === this.offsets.length) {
      const wider = new Uint32Array(this.offsets.length * 2);
      wider.set(this.offsets);
      this.offsets = wider;
    }
    this.offsets[this.count] = this.utf8.length;
  }
  add(text: string): void {
    this.utf8.text(text);
    this.end();
  }
  column(): TextColumn {
    return { bytes: this.utf8.written(), offsets: this.offsets.subarray(0, this.count + 1) };
  }
  clear(): void {
    this.utf8.clear();
    this.count = 0;
  }
}

/** Texts of which there are few, as they come. */
export class WordWriter {
  private readonly places = new Map<string, number>();
  private values: string[] = [];
  private codes = new Uint32Array(1024);
  private count = 0;
  add(text: string): void {
    let at = this.places.get(text);
    if (at === undefined) {
      at = this.values.push(text) - 1;
      this.places.set(text, at);
    }
    if (this.count === this.codes.length) {
      const wider = new Uint32Array(this.codes.length * 2);
      wider.set(this.codes);
      this.codes = wider;
    }
    this.codes[this.count++] = at;
  }
  words(): Words {
    return { values: this.values, codes: this.codes.subarray(0, this.count) };
  }
  clear(): void {
    this.places.clear();
    this.values = [];
    this.count = 0;
  }
}

/**
 * How a column of numbers is written: one value for all, or as narrow as holds every value; the largest whole
 * number stands for unknown.
 */
const WIDTHS = { u8: Uint8Array, u16: Uint16Array, u32: Uint32Array, f64: Float64Array } as const;
type Width = keyof typeof WIDTHS;
type Place = {
  readonly name: string;
  readonly what: Width | 'same' | 'offsets' | 'bytes' | 'codes';
  readonly at: number;
  readonly bytes: number;
  /** Of `same`; absent: unknown. */
  readonly value?: number;
};
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
    if (isUnknown(x)) continue;
    if (x < 0 || x >= MOST.u32 || x !== Math.floor(x) || Object.is(x, -0)) whole = false;
    else if (x > most) most = x;
  }
  // Written as JSON, where -0 would become 0, and what is infinite nothing.
  if (same && !Object.is(first, -0) && Math.abs(first) !== Number.POSITIVE_INFINITY)
    return { what: 'same', data: new Uint8Array(0), ...(isKnown(first) ? { value: first } : {}) };
  if (!whole)
    return { what: 'f64', data: new Uint8Array(values.buffer, values.byteOffset, values.byteLength) };
  const what = most < MOST.u8 ? 'u8' : most < MOST.u16 ? 'u16' : 'u32';
  const out = new WIDTHS[what](values.length);
  for (let i = 0; i < values.length; i++)
    out[i] = isKnown(values[i] as number) ? (values[i] as number) : MOST[what];
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
  const text = (name: string, { offsets, bytes }: TextColumn): void => {
    put(name, 'offsets', new Uint8Array(offsets.buffer, offsets.byteOffset, offsets.byteLength));
    put(name, 'bytes', bytes);
  };
  for (const t of PART_TEXTS) text(t, part.texts[t]);
  for (const w of PART_WORDS) {
    const { values, codes } = part.words[w];
    text(w, textsOf(values));
    put(w, 'codes', new Uint8Array(codes.buffer, codes.byteOffset, codes.byteLength));
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
      if (bytesWritten < size)
        throw Object.assign(new Error('the disk took less than it was given'), { code: 'ENOSPC' });
    } finally {
      await file.close();
    }
    await rename(`${path}.part`, path);
  } catch (e) {
    await rm(`${path}.part`, { force: true });
    throw e;
  }
}

const NOT_READ = new Float64Array(0);

/**
 * Reads a part; columns stored narrower are widened, into `into` where a place is given for them, not at all
 * where it is null.
 */
export async function readPart(
  path: string,
  into?: (name: PartNumber, rows: number) => Float64Array | null,
): Promise<Part> {
  const file = await readFile(path);
  const mark = file.toString('latin1', 0, 8);
  if (mark !== MARK && mark !== OLD_MARK) throw new Error('This is no part of a list');
  const length = file.readUInt32LE(8);
  const { rows, places } = JSON.parse(file.toString('utf8', 16, 16 + length)) as {
    rows: number;
    places: Place[];
  };
  const base = file.byteOffset + 16 + length + ((8 - (length % 8)) % 8);
  // Small files come from a shared pool, whose places need not be multiples of eight.
  const whole = base % 8 === 0 ? file.buffer : file.buffer.slice(base);
  const from = base % 8 === 0 ? base : 0;
  const place = (name: PartNumber): Float64Array =>
    into === undefined ? new Float64Array(rows) : (into(name, rows) ?? NOT_READ);
  const numbers = {} as Record<PartNumber, Float64Array>;
  const offsets: Record<string, Uint32Array> = {};
  const bytes: Record<string, Uint8Array> = {};
  const codes: Record<string, Uint32Array> = {};
  for (const p of places) {
    if (p.what === 'offsets') offsets[p.name] = new Uint32Array(whole, from + p.at, p.bytes / 4);
    else if (p.what === 'bytes') bytes[p.name] = new Uint8Array(whole, from + p.at, p.bytes);
    else if (p.what === 'codes') codes[p.name] = new Uint32Array(whole, from + p.at, rows);
    else {
      const wide = place(p.name as PartNumber);
      numbers[p.name as PartNumber] = wide;
      if (wide === NOT_READ) continue;
      if (p.what === 'same') wide.fill(p.value ?? Number.NaN);
      else if (p.what === 'f64') wide.set(new Float64Array(whole, from + p.at, rows));
      else {
        const stored = new WIDTHS[p.what](whole, from + p.at, rows);
        const unknown = MOST[p.what];
        for (let i = 0; i < rows; i++) wide[i] = stored[i] === unknown ? Number.NaN : (stored[i] as number);
      }
    }
  }
  const text = (name: string): TextColumn => ({
    bytes: bytes[name] ?? new Uint8Array(0),
    offsets: offsets[name] ?? new Uint32Array(rows + 1),
  });
  // What an older part does not have yet is unknown.
  for (const n of PART_NUMBERS) numbers[n] ??= place(n).fill(Number.NaN);
  if (mark === OLD_MARK) return olderPart(rows, numbers, text);
  const words = (name: PartWord): Words => {
    const column = text(name);
    return {
      values: Array.from({ length: column.offsets.length - 1 }, (_, i) => textOf(column, i)),
      codes: codes[name] as Uint32Array,
    };
  };
  return {
    rows,
    numbers,
    texts: { title: text('title'), fold: text('fold') },
    words: { brand: words('brand'), category: words('category') },
  };
}

/** A part as it was first written: four texts, which say the rest. */
function olderPart(rows: number, numbers: Part['numbers'], text: (name: string) => TextColumn): Part {
  const column = (name: string): string[] => Array.from({ length: rows }, (_, i) => textOf(text(name), i));
  const codes = column('code');
  const read = {
    ...numbers,
    key: Float64Array.from(codes, Number),
    digits: Float64Array.from(codes, (c) => c.length),
  };
  if (numbers.digits !== NOT_READ) numbers.digits.set(read.digits);
  const wordsIn = (name: PartWord): Words => {
    const writer = new WordWriter();
    for (const t of column(name)) writer.add(t);
    return writer.words();
  };
  const part = {
    rows,
    numbers: read,
    texts: { title: text('title') },
    words: { brand: wordsIn('brand'), category: wordsIn('category') },
  };
  return { ...part, numbers, texts: { ...part.texts, fold: foldOf(part) } };
}

/** Title, brand, category and barcode of every row as they are searched and ordered, a line between. */
export function foldOf({
  rows,
  numbers,
  texts,
  words,
}: Omit<Part, 'texts'> & { readonly texts: { readonly title: TextColumn } }): TextColumn {
  const fold = new TextWriter();
  const { utf8 } = fold;
  const { title } = texts;
  // Texts of which there are few are folded once, the lines around them with them.
  const [brand, category] = PART_WORDS.map((w) =>
    textsOf(words[w].values.map((v) => `\n${foldText(v)}`)),
  ) as [TextColumn, TextColumn];
  for (let i = 0; i < rows; i++) {
    utf8.foldedCopy(title.bytes, title.offsets[i] as number, title.offsets[i + 1] as number);
    for (const [column, { codes }] of [
      [brand, words.brand],
      [category, words.category],
    ] as const) {
      const at = codes[i] as number;
      utf8.copy(column.bytes, column.offsets[at] as number, column.offsets[at + 1] as number);
    }
    utf8.byte(10);
    utf8.text(codeOf(numbers.key[i] as number, numbers.digits[i] as number));
    fold.end();
  }
  return fold.column();
}

/** Texts as a column. */
export function textsOf(texts: readonly string[]): TextColumn {
  const writer = new TextWriter();
  for (const t of texts) writer.add(t);
  return writer.column();
}

/** One text of a column. */
export function textOf({ bytes, offsets }: TextColumn, i: number): string {
  const [from, to] = [offsets[i] as number, offsets[i + 1] as number];
  return from === to ? '' : Buffer.from(bytes.buffer, bytes.byteOffset + from, to - from).toString('utf8');
}

/** The ranks of all titles of a list. */
export const writeRanks = (path: string, ranks: Float64Array): Promise<void> =>
  writeFile(path, new Uint8Array(ranks.buffer, ranks.byteOffset, ranks.byteLength));
export async function readRanks(path: string): Promise<Float64Array> {
  const bytes = await readFile(path);
  return new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
}
