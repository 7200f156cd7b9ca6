/** A small file as rows of text, whatever it is: a workbook, or text of any encoding and delimiter. */
import { refused } from '../refusal.ts';
import { tablesOfWorkbook } from './readApart.ts';
import { readCsv } from './sheets.ts';
import { sniffEncoding } from './textIn.ts';

export type TextSheet = { readonly name: string; readonly rows: readonly (readonly string[])[] };

const isZip = (b: Buffer): boolean => b.length > 3 && b.readUInt32BE(0) === 0x504b0304;
/** A day of a workbook without its hour, as one writes it; other cells as they stand. */
const asText = (cell: unknown): string =>
  (cell === null ? '' : String(cell)).replace(/T00:00:00(\.000)?Z?$/, '');

/**
 * The sheets of a file.
 * @throws Refusal `invalid` where it is empty, no text, breaks off, or is more than a workbook may be
 */
export async function textSheets(bytes: Buffer): Promise<TextSheet[]> {
  if (bytes.length === 0) throw refused('fileEmpty');
  if (isZip(bytes)) {
    const read = await tablesOfWorkbook(bytes);
    if (!read.ok) throw refused(read.fault.code, read.fault.detail);
    return read.sheets.map((s) => ({ name: s.name, rows: [s.header, ...s.rows].map((r) => r.map(asText)) }));
  }
  const encoding = sniffEncoding(bytes.subarray(0, 65_536));
  if (encoding === null) throw refused('notCsv');
  const text = new TextDecoder(encoding).decode(bytes).replaceAll('\0', '');
  return [sheetOfText(text)];
}

/** Pasted rows, or a text file's. */
export function sheetOfText(text: string): TextSheet {
  const read = readCsv(text.replace(/^\s*\n/, ''));
  if (!read.ok) throw refused(read.fault.code, read.fault.detail);
  const [sheet] = read.sheets;
  if (sheet === undefined) throw refused('fileEmpty');
  return { name: '', rows: [sheet.header, ...sheet.rows].map((r) => r.map(asText)) };
}
