/** `bm screen`: a supplier's list through the columns, row by row to standard output, in constant memory. */
import { createWriteStream, openSync } from 'node:fs';
import { once } from 'node:events';
import type { Writable } from 'node:stream';
import Papa from 'papaparse';
import type { z } from 'zod';
import { makeColumns } from '../core/columns/columns.ts';
import type { ListColumns } from '../core/columns/columns.ts';
import { fileTrouble, readText } from './files.ts';
import { issuesOf } from '../core/issues.ts';
import type { Issue } from '../core/issues.ts';
import { LastEdition } from '../core/lists/editions.ts';
import { listMap, mapIssues } from '../core/lists/map.ts';
import { REQUIRED_ROLES } from '../core/lists/roles.ts';
import type { ListMap } from '../core/lists/map.ts';
import { Reference } from '../core/lists/reference.ts';
import type { Choice } from '../core/lists/reference.ts';
import { RowReader } from '../core/lists/rows.ts';
import type { RowRead } from '../core/lists/rows.ts';
import type { ScreenSettings } from '../core/lists/settings.ts';
import { screenSettings } from '../core/lists/settings.ts';
import { readList } from '../server/files/lists.ts';
import { Screening } from './screening.ts';
import type { Beside, Line } from './screening.ts';
import { Refusal } from '../server/refusal.ts';
import { fault } from '../core/fault.ts';
import { inWords } from '../words/index.ts';
import { told } from '../words/en/commandLine.ts';
import { safeText } from '../server/files/sheets.ts';
import { broughtUp } from '../core/versions.ts';

type Failed = { readonly issues: readonly Issue[] };
function document<T extends z.ZodType>(
  path: string | undefined,
  schema: T,
  what: string,
): z.output<T> | Failed {
  if (path === undefined) return { issues: [{ path: what, ...fault('optionMissing', { option: what }) }] };
  let json: unknown;
  try {
    json = broughtUp(JSON.parse(readText(path)));
  } catch (e) {
    if (!(e instanceof SyntaxError)) throw e;
    return { issues: [{ path: what, ...fault('fileNotJson', { file: path }) }] };
  }
  const parsed = schema.safeParse(json);
  return parsed.success
    ? parsed.data
    : { issues: issuesOf(parsed.error).map((i) => ({ ...i, path: `${what}: ${i.path}` })) };
}
const isFailed = (x: unknown): x is Failed => typeof x === 'object' && x !== null && 'issues' in x;

export type ScreenOptions = {
  map: string | undefined;
  settings: string | undefined;
  as: 'csv' | 'jsonl';
  invalid: string | undefined;
  only: readonly string[];
  /** Market figures of one's own and their mapping, and which of several listings counts. */
  reference?: string | undefined;
  referenceMap?: string | undefined;
  choose?: Choice;
  /** The supplier's last edition, read by the same mapping. */
  previous?: string | undefined;
  /** Whether break-even price and most to pay are wanted too. */
  solve?: boolean;
};

async function write(out: Writable, text: string): Promise<void> {
  if (!out.write(text)) await once(out, 'drain');
}
const csvLines = (lines: readonly Line[]): string =>
  lines.length === 0
    ? ''
    : `${Papa.unparse(lines.map((cells) => cells.map((c) => (typeof c === 'string' ? safeText(c) : c))))}\r\n`;
/** Reads a file whole, row by row through `take`, with the columns of each batch. */
async function readThrough(
  file: string,
  map: ListMap,
  kind: 'list' | 'reference',
  categoryAt: (text: string) => number,
  take: (row: RowRead, columns: ListColumns, i: number, line: number) => void,
): Promise<void> {
  let reader: RowReader | null = null;
  let columns = makeColumns(0);
  await readList(
    file,
    Object.values(map.columns),
    ({ header }) => {
      const [first] = mapIssues(map, header, kind === 'list' ? REQUIRED_ROLES : ['identifier']);
      if (first !== undefined) throw new Refusal('invalid', first);
      reader = new RowReader(map, header, kind);
    },
    (batch, lines) => {
      if (batch.length > columns.length) columns = makeColumns(batch.length);
      for (const [i, cells] of batch.entries()) {
        const row = (reader as unknown as RowReader).read(cells, lines[i] as number, columns, i, categoryAt);
        if (row.troubles.length === 0) take(row, columns, i, lines[i] as number);
      }
    },
  );
}

type Documents = {
  readonly map: ListMap;
  readonly settings: ScreenSettings;
  readonly referenceMap: ListMap | null;
};
/** The documents a run goes by, or all that is wrong with them. */
function documentsOf(options: ScreenOptions): Documents | Failed {
  const map = document(options.map, listMap, 'map');
  const settings = document(options.settings, screenSettings, 'settings');
  const referenceMap =
    options.reference === undefined ? null : document(options.referenceMap, listMap, 'reference-map');
  return isFailed(map) || isFailed(settings) || isFailed(referenceMap)
    ? { issues: [map, settings, referenceMap].flatMap((x) => (isFailed(x) ? x.issues : [])) }
    : { map, settings, referenceMap };
}

/** Market figures and the last edition, read before the list. `reading` is told of each file. */
async function readBefore(
  { map, referenceMap }: Documents,
  options: ScreenOptions,
  categoryAt: (text: string) => number,
  reading: (file: string) => void,
): Promise<Beside> {
  let reference: Reference | null = null;
  let last: LastEdition | null = null;
  if (options.reference !== undefined && referenceMap !== null) {
    const all = new Reference();
    reading(options.reference);
    await readThrough(options.reference, referenceMap, 'reference', categoryAt, (row, c, i, line) =>
      all.add(row.key, line, c, i, row.pack),
    );
    reference = all;
  }
  if (options.previous !== undefined) {
    const all = new LastEdition();
    reading(options.previous);
    await readThrough(options.previous, map, 'list', categoryAt, (row, c, i) =>
      all.add(row.key, c.cost[i] as number),
    );
    last = all;
  }
  return { reference, last };
}

/** Rows as CSV, or each as a JSON object under the names of the columns. */
const shown = (as: ScreenOptions['as'], head: readonly string[], rows: readonly Line[]): string =>
  as === 'csv'
    ? csvLines(rows)
    : rows
        .map((line) => `${JSON.stringify(Object.fromEntries(head.map((h, k) => [h, line[k]])))}\n`)
        .join('');

/**
 * Reads the list batch by batch: rows to `out`, those that cannot be used to `refused`. Returns how many there
 * are.
 */
async function screenList(
  file: string,
  map: ListMap,
  screening: Screening,
  as: ScreenOptions['as'],
  out: Writable,
  refused: Writable | null,
): Promise<number> {
  let reader: RowReader | null = null;
  const read = await readList(
    file,
    Object.values(map.columns),
    ({ header }) => {
      const [first] = mapIssues(map, header);
      if (first !== undefined) throw new Refusal('invalid', first);
      reader = new RowReader(map, header);
      if (as === 'csv') out.write(csvLines([screening.head]));
      refused?.write(csvLines([[...header, 'row', 'problem', 'remedy']]));
    },
    async (batch, lines) => {
      const { good, bad } = screening.screen(reader as unknown as RowReader, batch, lines);
      if (good.length > 0) await write(out, shown(as, screening.head, good));
      if (bad.length > 0 && refused !== null) await write(refused, csvLines(bad));
    },
  );
  return read.rows;
}

/** Screens a file; returns the exit code. Rows go to `out`, counts and what is wrong to `say`. */
export async function screen(
  file: string,
  options: ScreenOptions,
  out: Writable,
  say: (text: string) => void,
): Promise<number> {
  const documents = documentsOf(options);
  if (isFailed(documents)) {
    for (const i of documents.issues) say(`${inWords(i)}\n`);
    return 2;
  }
  // Opened at once, so that a path that cannot be written is said before anything is read.
  const refused =
    options.invalid === undefined
      ? null
      : createWriteStream(options.invalid, { fd: openSync(options.invalid, 'w') });
  let of = file;
  try {
    const screening = new Screening(documents.settings, options);
    screening.beside = await readBefore(documents, options, screening.categoryAt, (f) => {
      of = f;
    });
    of = file;
    const rows = await screenList(file, documents.map, screening, options.as, out, refused);
    say(told.rows({ rows, ...screening.told() }));
    return 0;
  } catch (e) {
    if (e instanceof Refusal && e.fault !== null) say(`${of}: ${inWords(e.fault)}\n`);
    else if ((e as { code?: string }).code === 'EPIPE') return 0;
    else if (fileTrouble(e, of) !== null) say(`${fileTrouble(e, (e as { path?: string }).path ?? of)}\n`);
    else throw e;
    return 2;
  } finally {
    if (refused !== null) {
      refused.end();
      await once(refused, 'close');
    }
  }
}
