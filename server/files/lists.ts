/** A supplier's list as rows of cells, streamed. */
import Papa from 'papaparse';
import { HEADER_WITHIN } from '../../core/lists/map.ts';
import { textIn } from './textIn.ts';
import type { Refusal } from '../refusal.ts';
import { refused } from '../refusal.ts';

/** A cell longer than this is a quotation mark that was never closed, or no list at all. */
const LONGEST_CELL = 1_000_000;

/** Columns that a list may have: far more than any supplier's, far fewer than a browser could show. */
const MOST_COLUMNS = 1000;

const tooWide = (columns: number): Refusal => refused('tooManyColumns', { columns, most: MOST_COLUMNS });

export type RowsIn = { readonly header: readonly string[]; readonly headerLine: number };
/**
 * Where reading stands after some rows, so that it can be taken up there: characters and lines done, and how
 * the file is written.
 */
export type Position = RowsIn & {
  readonly chars: number;
  readonly line: number;
  readonly delimiter: string;
  readonly newline: string;
};
type Newline = '\r' | '\n' | '\r\n';

/** Rows as they come, until the header is found and after it. */
class RowsFound {
  header: readonly string[] | null;
  headerLine: number;
  line: number;
  private readonly early: string[][] = [];

  constructor(
    private readonly headings: readonly string[],
    private readonly start: (found: RowsIn) => void,
    from: Position | null,
  ) {
    this.header = from?.header ?? null;
    this.headerLine = from?.headerLine ?? 0;
    this.line = from?.line ?? 0;
    if (from !== null) start({ header: from.header, headerLine: from.headerLine });
  }

  /** The rows under the header that are not blank, each with its line. */
  take(rows: readonly string[][]): { batch: string[][]; lines: number[] } {
    const batch: string[][] = [];
    const lines: number[] = [];
    for (const cells of rows) {
      this.line++;
      let longest = 0;
      for (let k = 0; k < cells.length; k++)
        if ((cells[k] as string).length > longest) longest = (cells[k] as string).length;
      if (longest > LONGEST_CELL) throw refused('cellTooLong', { row: this.line });
      if (this.header === null) this.lookForHeader(cells);
      else if (longest > 0) {
        batch.push(cells);
        lines.push(this.line);
      }
    }
    return { batch, lines };
  }

  private lookForHeader(cells: readonly string[]): void {
    if (cells.length > MOST_COLUMNS) throw tooWide(cells.length);
    const named = cells.map((c) => c.trim());
    if (this.headings.every((h) => named.includes(h))) {
      this.header = named;
      this.headerLine = this.line;
      this.start({ header: named, headerLine: this.line });
    } else if (this.line >= HEADER_WITHIN) throw this.missing();
    else this.early.push(named);
  }

  missing(): Refusal {
    return missing(this.headings, this.early);
  }
}

/** A quotation mark that is still open at the end of the file. */
const isQuoteOpen = ({ errors, data }: Papa.ParseResult<string[]>): boolean =>
  errors.some((e) => e.code === 'MissingQuotes') && !data.some((r) => r.some((c) => c.length > LONGEST_CELL));

/**
 * Reads a CSV file row by row: encoding and delimiter are found, the header is the first row among the first
 * thirty that holds all `headings`. `start` is told the header once; `rows` gets every following row that is
 * not blank, with its line as a spreadsheet counts rows, and may return a promise to be waited for; where
 * that says `stop`, reading ends there. `from`: goes on from an earlier position. Memory stays constant.
 */
export async function readList(
  path: string,
  headings: readonly string[],
  start: (found: RowsIn) => void,
  rows: (batch: readonly (readonly string[])[], lines: readonly number[], next: Position) => unknown,
  from: Position | null = null,
): Promise<{ rows: number; whole: boolean }> {
  const opened = await textIn(path, from?.chars ?? 0);
  if (opened === 'empty') throw refused('fileEmpty');
  if (opened === 'notText') throw refused('notCsv');
  const found = new RowsFound(headings, start, from);
  let count = 0;
  let whole = true;
  const work = async (results: Papa.ParseResult<string[]>): Promise<unknown> => {
    if (isQuoteOpen(results)) throw refused('quoteOpen');
    const { batch, lines } = found.take(results.data);
    count += batch.length;
    if (batch.length === 0) return;
    return rows(batch, lines, {
      header: found.header ?? [],
      headerLine: found.headerLine,
      chars: (from?.chars ?? 0) + results.meta.cursor,
      line: found.line,
      delimiter: results.meta.delimiter,
      newline: results.meta.linebreak,
    });
  };
  await new Promise<void>((done, failed) => {
    // The last piece may be announced as complete before its rows have been taken.
    let taking: Promise<void> = Promise.resolve();
    Papa.parse<string[]>(opened.text as unknown as NodeJS.ReadableStream, {
      skipEmptyLines: false,
      ...(from === null ? {} : { delimiter: from.delimiter, newline: from.newline as Newline }),
      chunk: (results, parser) => {
        parser.pause();
        const end = (): void => {
          parser.abort();
          opened.text.destroy();
        };
        taking = work(results).then((said) => {
          if (said !== 'stop') return parser.resume();
          whole = false;
          end();
          done();
        });
        taking.catch((e) => {
          end();
          failed(e);
        });
      },
      complete: () => void taking.then(() => done(), failed),
      error: (e: Error) => failed(e),
    });
  });
  if (found.header === null) throw found.missing();
  if (count === 0 && from === null) throw refused('onlyHeader');
  return { rows: count, whole };
}

/** The first rows of a file, as they stand; at most so many. */
export async function firstRows(path: string, most: number): Promise<string[][]> {
  const opened = await textIn(path);
  if (opened === 'empty') throw refused('fileEmpty');
  if (opened === 'notText') throw refused('notCsv');
  return new Promise((done, failed) => {
    let rows: string[][] = [];
    Papa.parse<string[]>(opened.text as unknown as NodeJS.ReadableStream, {
      skipEmptyLines: false,
      preview: most,
      chunk: (results, parser) => {
        const widest = Math.max(0, ...results.data.slice(0, most).map((r) => r.length));
        if (widest > MOST_COLUMNS) {
          // First of all: a parser that is ended says that it is complete.
          failed(tooWide(widest));
          parser.abort();
          opened.text.destroy();
          return;
        }
        rows = [...rows, ...results.data.map((r) => r.map((c) => c.slice(0, 2000)))].slice(0, most);
        if (rows.length >= most) {
          parser.abort();
          opened.text.destroy();
        }
      },
      complete: () => done(rows),
      error: (e: Error) => failed(e),
    });
  });
}

function missing(headings: readonly string[], early: readonly (readonly string[])[]): Refusal {
  const widest = early.reduce<readonly string[]>((best, r) => (r.length > best.length ? r : best), []);
  const lacks = headings.filter((h) => !widest.includes(h));
  const found = widest.filter(Boolean).slice(0, 20).map(quoted);
  const detail = { within: HEADER_WITHIN, columns: lacks.map(quoted) };
  return found.length === 0 ? refused('noHeader', detail) : refused('headingsNotFound', { ...detail, found });
}

const quoted = (heading: string): string => `"${heading}"`;
