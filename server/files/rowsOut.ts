/** Many rows as a file, streamed: CSV, XLSX, Parquet. Texts that a spreadsheet would run are led by an apostrophe. */
import { once } from 'node:events';
import { PassThrough, Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import { ByteWriter, ParquetWriter } from 'hyparquet-writer';
import Papa from 'papaparse';
import { sheetName } from './names.ts';
import { safeText } from './sheets.ts';

export type OutValue = string | number | null;
/** `percent`: a fraction, shown as a percentage by spreadsheets. */
export type RowColumn = {
  readonly name: string;
  readonly kind: 'text' | 'number';
  readonly percent?: boolean;
};
export const ROW_FORMATS = ['csv', 'xlsx', 'parquet'] as const;
export type RowFormat = (typeof ROW_FORMATS)[number];
type Batches = AsyncIterable<readonly (readonly OutValue[])[]>;
/** Rows that a sheet of a workbook can hold, with its header. */
export const MOST_IN_A_SHEET = 1_048_576;

const safe = (v: OutValue): OutValue => (typeof v === 'string' ? safeText(v) : v);

async function* csv(columns: readonly RowColumn[], batches: Batches): AsyncGenerator<Buffer> {
  yield Buffer.from(`\ufeff${Papa.unparse([columns.map((c) => safeText(c.name))])}\r\n`);
  for await (const rows of batches)
    if (rows.length > 0) yield Buffer.from(`${Papa.unparse(rows.map((r) => r.map(safe)))}\r\n`);
}

/** A stream that a writer fills on its own time; its failure ends the stream. */
function filled(work: (out: PassThrough) => Promise<void>): Readable {
  const out = new PassThrough({ highWaterMark: 1 << 20 });
  work(out).catch((e) => out.destroy(e instanceof Error ? e : new Error(String(e))));
  return out;
}

async function xlsx(
  out: PassThrough,
  name: string,
  columns: readonly RowColumn[],
  batches: Batches,
): Promise<void> {
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({
    stream: out,
    useStyles: true,
    useSharedStrings: false,
  });
  const clean = sheetName(name.slice(0, 28));
  const begin = (n: number): ExcelJS.Worksheet => {
    const sheet = book.addWorksheet(n === 1 ? clean : `${clean} ${n}`, {
      views: [{ state: 'frozen', ySplit: 1 }],
    });
    columns.forEach((c, i) => {
      const column = sheet.getColumn(i + 1);
      column.width = c.kind === 'text' ? 24 : 13;
      if (c.percent) column.numFmt = '0.00##%';
    });
    const head = sheet.addRow(columns.map((c) => c.name));
    head.font = { bold: true };
    head.commit();
    return sheet;
  };
  let pages = 1;
  let sheet = begin(pages);
  let rows = 1;
  for await (const batch of batches) {
    for (const r of batch) {
      if (rows === MOST_IN_A_SHEET) {
        sheet.commit();
        sheet = begin(++pages);
        rows = 1;
      }
      // Text cells stay text: a workbook runs only what is written as a formula.
      sheet.addRow([...r]).commit();
      rows++;
    }
    if (out.writableNeedDrain) await once(out, 'drain');
  }
  sheet.commit();
  await book.commit();
}

async function parquet(out: PassThrough, columns: readonly RowColumn[], batches: Batches): Promise<void> {
  const bytes = new ByteWriter();
  const send = async (): Promise<void> => {
    const piece = Buffer.from(new Uint8Array(bytes.buffer as ArrayBuffer, 0, bytes.index));
    bytes.index = 0;
    if (piece.length > 0 && !out.write(piece)) await once(out, 'drain');
  };
  const writer = new ParquetWriter({
    writer: bytes,
    createdBy: 'Bold Margin',
    schema: [
      { name: 'root', num_children: columns.length },
      ...columns.map((c) =>
        c.kind === 'number'
          ? { name: c.name, type: 'DOUBLE' as const, repetition_type: 'OPTIONAL' as const }
          : {
              name: c.name,
              type: 'BYTE_ARRAY' as const,
              converted_type: 'UTF8' as const,
              repetition_type: 'OPTIONAL' as const,
            },
      ),
    ],
  });
  const write = async (rows: readonly (readonly OutValue[])[]): Promise<void> => {
    if (rows.length === 0) return;
    await writer.write({
      columnData: columns.map((c, i) => ({
        name: c.name,
        data: rows.map((r) => r[i] ?? undefined),
        type: c.kind === 'number' ? ('DOUBLE' as const) : ('STRING' as const),
      })),
      rowGroupSize: rows.length,
    });
    await send();
  };
  let held: (readonly OutValue[])[] = [];
  for await (const batch of batches) {
    held.push(...batch);
    if (held.length >= 20_000) {
      await write(held);
      held = [];
    }
  }
  await write(held);
  writer.finish();
  await send();
  out.end();
}

/** Rows as a stream of a file's bytes. */
export function rowsOut(
  format: RowFormat,
  name: string,
  columns: readonly RowColumn[],
  batches: Batches,
): Readable {
  if (format === 'csv') return Readable.from(csv(columns, batches), { objectMode: false });
  return format === 'xlsx'
    ? filled((out) => xlsx(out, name, columns, batches))
    : filled((out) => parquet(out, columns, batches));
}
