/**
 * Rows of a supplier's file that were refused: kept as they stood, with their row and what is wrong as codes, and
 * given out in the words of whoever takes them.
 */
import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import Papa from 'papaparse';
import type { Fault } from '../../core/fault.ts';
import { safeText } from './sheets.ts';

/** Heading of the last column as it is kept. */
const FAULTS = 'faults';
const BATCH = 500;
/** By which spreadsheets know that a text is UTF-8. */
const MARK = '\ufeff';

export const refusedHead = (header: readonly string[]): string =>
  `${MARK}${Papa.unparse([[...header.map(safeText), 'row', FAULTS]])}\r\n`;

export const refusedRow = (cells: readonly string[], line: number, faults: readonly Fault[]): unknown[] => [
  ...cells.map(safeText),
  line,
  JSON.stringify(faults),
];

/** The kept file as CSV with problem and remedy. Files that were kept in words go out as they are. */
export function rowsToMend(
  path: string,
  say: (fault: Fault) => { problem: string; remedy: string },
): Readable {
  return Readable.from(inWords(path, say));
}

async function* inWords(
  path: string,
  say: (fault: Fault) => { problem: string; remedy: string },
): AsyncGenerator<Buffer> {
  // Past the mark, by which a first heading in quotation marks would not be known as one.
  const file = createReadStream(path, { encoding: 'utf8', start: Buffer.byteLength(MARK) });
  const rows = file.pipe(Papa.parse(Papa.NODE_STREAM_INPUT, { delimiter: ',' }));
  file.once('error', (e) => rows.destroy(e));
  let coded: boolean | null = null;
  const batch: unknown[][] = [];
  const told = (): Buffer => Buffer.from(`${Papa.unparse(batch.splice(0))}\r\n`);
  try {
    yield Buffer.from(MARK);
    for await (const row of rows as AsyncIterable<string[]>) {
      const last = row.at(-1) ?? '';
      if (coded === null) {
        coded = last === FAULTS;
        batch.push(coded ? [...row.slice(0, -1), 'problem', 'remedy'] : row);
      } else if (coded) {
        const said = (JSON.parse(last) as Fault[]).map(say);
        batch.push([
          ...row.slice(0, -1),
          said.map((s) => s.problem).join('; '),
          said.map((s) => s.remedy).join(' '),
        ]);
      } else batch.push(row);
      if (batch.length >= BATCH) yield told();
    }
    if (batch.length > 0) yield told();
  } finally {
    // Whoever took it may have left.
    file.destroy();
  }
}
