/**
 * Tables in files: CSV and XLSX, in and out. Cells that a spreadsheet would take for a formula are written as
 * text.
 */
import ExcelJS from 'exceljs';
import Papa from 'papaparse';
import type { Cell } from '../../core/cards/cells.ts';
import { sheetName } from './names.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';

export type FileSheet = {
  readonly name: string;
  readonly header: readonly string[];
  readonly rows: readonly (readonly Cell[])[];
};
/** A column of an exported table. `percent`: a fraction, shown as a percentage. */
export type OutColumn = { readonly title: string; readonly percent?: boolean };
export type OutSheet = {
  readonly name: string;
  readonly columns: readonly OutColumn[];
  readonly rows: readonly (readonly Cell[])[];
};

const RISKY = /^[=+\-@\t\r]/;
const NUMBER = /^[+-]?\d+(\.\d+)?([eE][+-]?\d+)?$/;
/** Text that a spreadsheet would run is led by an apostrophe; numbers stay numbers. */
export function safeText(text: string): string {
  return RISKY.test(text) && !NUMBER.test(text) ? `'${text}` : text;
}
const APOSTROPHE = 39;
/** Takes the apostrophe of `safeText` off again. */
export const unsafe = (text: string): string =>
  text.length > 1 && text[0] === "'" && RISKY.test(text[1] as string) ? text.slice(1) : text;

/** CSV with a header line, comma between, decimal point, UTF-8 with a mark so that spreadsheets read it so. */
export function writeCsv(sheet: OutSheet): string {
  const lines = [
    sheet.columns.map((c) => safeText(c.title)),
    ...sheet.rows.map((r) => r.map((c) => (typeof c === 'string' ? safeText(c) : c))),
  ];
  return `\ufeff${Papa.unparse(lines, { newline: '\r\n' })}\r\n`;
}

/** An XLSX workbook, one sheet a table: numbers as numbers, texts as texts (never formulas), the header frozen. */
export async function writeXlsx(sheets: readonly OutSheet[]): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  const taken = new Set<string>();
  for (const s of sheets) {
    const name = sheetName(s.name, taken);
    taken.add(name);
    const page = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
    page.addRow(s.columns.map((c) => c.title)).font = { bold: true };
    for (const row of s.rows) page.addRow([...row]);
    s.columns.forEach((c, i) => {
      const column = page.getColumn(i + 1);
      column.width = Math.min(
        40,
        Math.max(10, c.title.length + 2, ...s.rows.slice(0, 200).map((r) => String(r[i] ?? '').length + 1)),
      );
      if (c.percent) column.numFmt = '0.00##%';
    });
  }
  return Buffer.from(await book.xlsx.writeBuffer());
}

export type FileRead =
  | { ok: true; sheets: FileSheet[]; delimiter: string | null }
  | { ok: false; fault: Fault };

/**
 * Reads CSV: the delimiter is found, quoting and a byte-order mark are understood. A file that breaks off in
 * a quote is refused.
 */
export function readCsv(text: string): FileRead {
  const parsed = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: false });
  const broken = parsed.errors.find((e) => e.type === 'Quotes');
  if (broken !== undefined)
    return { ok: false, fault: fault('quoteOpenInRow', { row: (broken.row ?? 0) + 1 }) };
  const [header, ...rows] = parsed.data;
  if (header === undefined || header.every((h) => h.trim() === ''))
    return { ok: false, fault: fault('fileEmpty') };
  if (rows.length > 0 && (rows[rows.length - 1] as string[]).every((c) => c === '')) rows.pop();
  // In place: a long file has few such cells, and none needs a row of its own.
  for (const r of rows)
    for (let i = 0; i < r.length; i++)
      if ((r[i] as string).charCodeAt(0) === APOSTROPHE) r[i] = unsafe(r[i] as string);
  return {
    ok: true,
    delimiter: parsed.meta.delimiter,
    sheets: [{ name: '', header: header.map((h) => h.trim()), rows }],
  };
}
