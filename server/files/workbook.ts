/**
 * Workbooks as lists: a sheet becomes a CSV file beside it, row for row, formulas by their stored values. Of four libraries measured
 * on 100,000 rows exceljs was the fastest that does not hold the workbook in memory (docs/architecture.md).
 */
import { once } from 'node:events';
import { createReadStream, createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import yauzl from 'yauzl';
import { decimalOf } from '../../core/lists/amounts.ts';
import { ListError } from './lists.ts';

/** Most that a workbook may unpack to, in bytes, and the texts shared by its cells, which are held in memory. */
const MOST_UNPACKED = 4 * 1024 ** 3;
const MOST_SHARED = 512 * 1024 ** 2;
/** Columns of a row that are read. */
const MOST_COLUMNS = 200;

const broken = (): ListError => new ListError({ problem: 'The file is not a whole XLSX workbook', remedy: 'Save it again as XLSX, and choose the whole file.' });
const bomb = (): ListError => new ListError({ problem: 'The workbook unpacks to more than can be read', remedy: 'Save the sheet with the list as CSV, and choose that file.' });

/** Unpacks a workbook once without keeping anything, so that one that grows beyond all measure is refused before it is read. Returns how many
 * sheets it has. */
export async function checkWorkbook(path: string, most = MOST_UNPACKED, mostShared = MOST_SHARED): Promise<number> {
  const zip = await new Promise<yauzl.ZipFile>((done, failed) => yauzl.open(path, { lazyEntries: true }, (e, z) => (e === null ? done(z) : failed(e)))).catch(() => {
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
        unpacked += entry.uncompressedSize;
        if (entry.fileName === 'xl/workbook.xml') hasBook = true;
        if (/^xl\/worksheets\/[^/]+\.xml$/.test(entry.fileName)) sheets++;
        if (unpacked > most || (/sharedStrings/i.test(entry.fileName) && entry.uncompressedSize > mostShared)) return failed(bomb());
        if (entry.fileName.endsWith('/')) return zip.readEntry();
        // An entry that is longer than it says ends in an error here.
        zip.openReadStream(entry, (e, stream) => {
          if (e !== null) return failed(broken());
          stream.on('error', () => failed(broken()));
          stream.on('end', () => zip.readEntry());
          stream.resume();
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
    if (Array.isArray(o.richText)) return o.richText.map((t) => String((t as { text?: unknown }).text ?? '')).join('');
    if ('result' in o || 'formula' in o || 'sharedFormula' in o) return cellText(o.result, comma);
    if ('text' in o) return cellText(o.text, comma);
    if ('error' in o) return String(o.error);
  }
  return '';
}

async function* sheetsIn(path: string): AsyncGenerator<{ name: string; rows: AsyncIterable<{ number: number; values: Cells }> }> {
  const file = createReadStream(path);
  try {
    const book = new ExcelJS.stream.xlsx.WorkbookReader(file, { sharedStrings: 'cache', hyperlinks: 'ignore', styles: 'cache', worksheets: 'emit', entries: 'emit' });
    for await (const sheet of book) yield { name: (sheet as unknown as { name?: string }).name ?? 'Sheet', rows: sheet as unknown as AsyncIterable<{ number: number; values: Cells }> };
  } catch (e) {
    throw e instanceof ListError ? e : broken();
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
  if (heads.length === 0) throw new ListError({ problem: 'The workbook has no sheet', remedy: 'Choose the file that holds the list.' });
  return heads;
}

/** Rows among which it is seen how a sheet's texts write decimals. */
const LOOK = 200;

/**
 * Writes a sheet as CSV (UTF-8, comma between), one line for each of its rows, whole or not at all. Numbers take the decimal mark
 * that the sheet's own texts use, so that the whole file reads one way.
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
        comma = decimalOf(early.map((r) => r.values.filter((v): v is string => typeof v === 'string'))) === 'comma';
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
    if (!found) throw new ListError({ problem: `The workbook has no sheet "${name}"`, remedy: 'Choose one of its sheets.' });
    out.end();
    await Promise.race([once(out, 'close'), failed]);
    await rename(part, to);
  } catch (e) {
    out.destroy();
    await rm(part, { force: true });
    throw e;
  }
}
