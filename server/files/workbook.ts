/**
 * Reads workbooks; runs only in a process of its own (readApart.ts), since what a workbook unpacks to is not
 * known before. As lists: a sheet becomes a CSV file beside it, row for row, formulas by their stored values.
 * Of four libraries measured on 100,000 rows exceljs was the fastest that does not hold the workbook in
 * memory (docs/architecture.md).
 */
import { once } from 'node:events';
import { createReadStream, createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import yauzl from 'yauzl';
import { decimalOf } from '../../core/lists/amounts.ts';
import type { Cell } from '../../core/cards/cells.ts';
import { Refusal, refused } from '../refusal.ts';
import { unsafe } from './sheets.ts';
import type { FileRead, FileSheet } from './sheets.ts';
import { fault } from '../../core/fault.ts';

/**
 * What a workbook may unpack to, in bytes: all of it, the texts its cells share, every other part that is no
 * sheet, one cell.
 */
export type WorkbookLimits = {
  readonly all: number;
  readonly shared: number;
  readonly part: number;
  readonly cell: number;
};
export const LIST_LIMITS: WorkbookLimits = {
  all: 350_000_000,
  shared: 64_000_000,
  part: 8_000_000,
  cell: 1_000_000,
};
/** For workbooks that are held in memory as a whole. */
export const CARD_LIMITS: WorkbookLimits = {
  all: 30_000_000,
  shared: 10_000_000,
  part: 4_000_000,
  cell: 100_000,
};
/** Columns of a row that are read. */
const MOST_COLUMNS = 200;

export const broken = (): Refusal => refused('notWorkbook');
const bomb = (): Refusal => refused('workbookUnpacks');

const SHEET = /^xl\/worksheets\/[^/]+\.xml$/;
const MEDIA = /^xl\/media\//;
const TAG = 0x3c;

/**
 * Unpacks a workbook once without keeping anything, every part counted as it inflates, so that one that grows
 * beyond measure is refused before it is read. Takes a path or the bytes. Returns how many sheets it has.
 */
export async function checkWorkbook(
  from: string | Buffer,
  limits: WorkbookLimits = LIST_LIMITS,
): Promise<number> {
  const zip = await new Promise<yauzl.ZipFile>((done, failed) => {
    const opened = (e: Error | null, z: yauzl.ZipFile): void => (e === null ? done(z) : failed(e));
    if (typeof from === 'string') yauzl.open(from, { lazyEntries: true }, opened);
    else yauzl.fromBuffer(from, { lazyEntries: true }, opened);
  }).catch(() => {
    throw broken();
  });
  try {
    let unpacked = 0;
    let hasBook = false;
    let sheets = 0;
    await new Promise<void>((done, failed) => {
      zip.on('error', () => failed(broken()));
      zip.on('end', () => done());
      zip.on('entry', (entry: yauzl.Entry) => {
        const name = entry.fileName;
        const isSheet = SHEET.test(name);
        if (name === 'xl/workbook.xml') hasBook = true;
        if (isSheet) sheets++;
        if (name.endsWith('/')) return zip.readEntry();
        const most =
          isSheet || MEDIA.test(name)
            ? limits.all
            : /sharedStrings/i.test(name)
              ? limits.shared
              : limits.part;
        let ofPart = 0;
        let ofCell = 0;
        // An entry that is longer than it says ends in an error here.
        zip.openReadStream(entry, (e, stream) => {
          if (e !== null) return failed(broken());
          stream.on('error', () => failed(broken()));
          stream.on('end', () => zip.readEntry());
          stream.on('data', (piece: Buffer) => {
            unpacked += piece.length;
            ofPart += piece.length;
            // Text that runs on without a tag is one cell.
            const last = piece.lastIndexOf(TAG);
            ofCell = last < 0 ? ofCell + piece.length : piece.length - last;
            if (unpacked > limits.all || ofPart > most || (ofCell > limits.cell && !MEDIA.test(name))) {
              stream.destroy();
              failed(bomb());
            }
          });
        });
      });
      zip.readEntry();
    });
    if (!hasBook) throw broken();
    return sheets;
  } finally {
    zip.close();
  }
}

type Cells = readonly unknown[];
/** The text of a cell as a list reads it: stored values of formulas, days as year-month-day, errors as they stand. */
export function cellText(v: unknown, comma: boolean): string {
  if (v === null || v === undefined) return '';
  if (typeof v === 'string') return v;
  if (typeof v === 'number') return comma ? String(v).replace('.', ',') : String(v);
  if (typeof v === 'boolean') return String(v);
  if (v instanceof Date) return Number.isNaN(v.getTime()) ? '' : v.toISOString().slice(0, 10);
  if (typeof v === 'object') {
    const o = v as Record<string, unknown>;
    if (Array.isArray(o.richText))
      return o.richText.map((t) => String((t as { text?: unknown }).text ?? '')).join('');
    if ('result' in o || 'formula' in o || 'sharedFormula' in o) return cellText(o.result, comma);
    if ('text' in o) return cellText(o.text, comma);
    if ('error' in o) return String(o.error);
  }
  return '';
}

async function* sheetsIn(
  path: string,
): AsyncGenerator<{ name: string; rows: AsyncIterable<{ number: number; values: Cells }> }> {
  const file = createReadStream(path);
  try {
    const book = new ExcelJS.stream.xlsx.WorkbookReader(file, {
      sharedStrings: 'cache',
      hyperlinks: 'ignore',
      styles: 'cache',
      worksheets: 'emit',
      entries: 'emit',
    });
    for await (const sheet of book)
      yield {
        name: (sheet as unknown as { name?: string }).name ?? 'Sheet',
        rows: sheet as unknown as AsyncIterable<{ number: number; values: Cells }>,
      };
  } catch (e) {
    throw e instanceof Refusal ? e : broken();
  } finally {
    // Where only the first rows are wanted, the rest is not read.
    file.destroy();
  }
}

export type SheetHead = { readonly name: string; readonly rows: readonly (readonly string[])[] };

/** Names of the sheets, of which the workbook has so many, and their first rows, as many as asked for. */
export async function sheetHeads(path: string, most: number, sheets: number): Promise<SheetHead[]> {
  const heads: SheetHead[] = [];
  for await (const sheet of sheetsIn(path)) {
    const rows: string[][] = [];
    for await (const row of sheet.rows) {
      // A sheet is read to its end only where another lies behind it.
      if (row.number > most) {
        if (heads.length === sheets - 1) break;
        continue;
      }
      while (rows.length < row.number - 1) rows.push([]);
      rows.push(row.values.slice(1, MOST_COLUMNS + 1).map((v) => cellText(v, false)));
    }
    heads.push({ name: sheet.name, rows: rows.map((r) => Array.from(r, (c) => c ?? '')) });
    if (heads.length === sheets) break;
  }
  if (heads.length === 0) throw refused('workbookNoSheet');
  return heads;
}

/** Rows among which it is seen how a sheet's texts write decimals. */
const LOOK = 200;

/**
 * Writes a sheet as CSV (UTF-8, comma between), one line for each of its rows, whole or not at all. Numbers
 * take the decimal mark that the sheet's own texts use, so that the whole file reads one way.
 */
export async function convertSheet(path: string, name: string | null, to: string): Promise<void> {
  const part = `${to}.part`;
  const out = createWriteStream(part);
  const failed = once(out, 'error').then(([e]) => {
    throw e;
  });
  failed.catch(() => undefined);
  let found = false;
  try {
    for await (const sheet of sheetsIn(path)) {
      if (found || (name !== null && sheet.name !== name)) {
        for await (const _ of sheet.rows);
        continue;
      }
      found = true;
      let line = 0;
      let comma: boolean | null = null;
      let early: { number: number; values: Cells }[] = [];
      let text = '';
      const put = (row: { number: number; values: Cells }): void => {
        for (; line < row.number - 1; line++) text += '\r\n';
        line++;
        const cells = Array.from(row.values.slice(1, MOST_COLUMNS + 1), (v) => cellText(v, comma === true));
        // A row of one blank cell would be taken for no row, which is what it is.
        text += `${Papa.unparse([cells], { newline: '\r\n' })}\r\n`;
      };
      const settle = (): void => {
        comma =
          decimalOf(early.map((r) => r.values.filter((v): v is string => typeof v === 'string'))) === 'comma';
        for (const r of early) put(r);
        early = [];
      };
      for await (const row of sheet.rows) {
        if (comma === null) {
          early.push({ number: row.number, values: row.values.slice() });
          if (early.length < LOOK) continue;
          settle();
        } else put(row);
        if (text.length > 1 << 18) {
          const piece = text;
          text = '';
          if (!out.write(piece)) await Promise.race([once(out, 'drain'), failed]);
        }
      }
      if (comma === null) settle();
      if (text !== '') out.write(text);
    }
    if (!found) throw refused('workbookNoSuchSheet', { sheet: name });
    out.end();
    await Promise.race([once(out, 'close'), failed]);
    await rename(part, to);
  } catch (e) {
    out.destroy();
    await rm(part, { force: true });
    throw e;
  }
}

/** Reads a workbook as tables, whole: stored values of formulas, days as year-month-day. */
export async function readTables(bytes: Buffer): Promise<FileRead> {
  const book = new ExcelJS.Workbook();
  try {
    await checkWorkbook(bytes, CARD_LIMITS);
    await book.xlsx.load(bytes as unknown as ArrayBuffer);
  } catch (e) {
    return { ok: false, fault: (e instanceof Refusal ? e.fault : null) ?? fault('notWorkbook') };
  }
  const sheets: FileSheet[] = [];
  book.eachSheet((page) => {
    const rows: Cell[][] = [];
    page.eachRow({ includeEmpty: true }, (row, n) => {
      const cells: Cell[] = [];
      for (let i = 1; i <= Math.min(row.cellCount, 200); i++) cells.push(cellValue(row.getCell(i).value));
      rows[n - 1] = cells;
    });
    const [header, ...body] = Array.from(rows, (r) => r ?? []);
    if (header !== undefined)
      sheets.push({ name: page.name, header: header.map((h) => String(h ?? '').trim()), rows: body });
  });
  return sheets.length === 0
    ? { ok: false, fault: fault('workbookNoTable') }
    : { ok: true, delimiter: null, sheets };
}

function cellValue(v: ExcelJS.CellValue): Cell {
  if (v === null || v === undefined) return null;
  if (v instanceof Date) return v.toISOString().slice(0, 10);
  if (typeof v === 'string') return unsafe(v);
  if (typeof v === 'number' || typeof v === 'boolean') return v;
  if ('result' in v) return cellValue((v.result ?? null) as ExcelJS.CellValue);
  if ('richText' in v) return v.richText.map((t) => t.text).join('');
  if ('text' in v) return String(v.text);
  if ('error' in v) return String(v.error);
  return null;
}
