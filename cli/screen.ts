/** `bm screen`: a supplier's list through the columns, row by row to standard output, in constant memory. */
import { createWriteStream, openSync } from 'node:fs';
import { once } from 'node:events';
import type { Writable } from 'node:stream';
import Papa from 'papaparse';
import type { z } from 'zod';
import { makeColumns, makeResults, makeSolved, SOLVED_COLUMNS, TROUBLES } from '../core/columns/columns.ts';
import type { ListColumns } from '../core/columns/columns.ts';
import { ListEvaluator } from '../core/columns/evaluate.ts';
import { makePrepared } from '../core/columns/prepare.ts';
import { solveColumns } from '../core/columns/solve.ts';
import { judgeRows, VERDICTS } from '../core/columns/verdicts.ts';
import { fileTrouble, readText } from './files.ts';
import { packsAsNamed } from '../core/goods/packs.ts';
import { issuesOf } from '../core/issues.ts';
import type { Issue } from '../core/issues.ts';
import { boundOf } from '../core/lane/bounds.ts';
import { blanksIn } from '../core/lane/blanks.ts';
import { LastEdition } from '../core/lists/editions.ts';
import { listMap, mapIssues } from '../core/lists/map.ts';
import { REQUIRED_ROLES } from '../core/lists/roles.ts';
import type { ListMap } from '../core/lists/map.ts';
import { Reference } from '../core/lists/reference.ts';
import type { Choice } from '../core/lists/reference.ts';
import { RowReader, faultOfRow } from '../core/lists/rows.ts';
import type { RowRead } from '../core/lists/rows.ts';
import { screenSettings } from '../core/lists/settings.ts';
import { readList } from '../server/files/lists.ts';
import { Refusal } from '../server/refusal.ts';
import { fault } from '../core/fault.ts';
import { inWords, sayFault } from '../words/index.ts';
import { told } from '../words/en/commandLine.ts';
import { safeText } from '../server/files/sheets.ts';
import { broughtUp } from '../core/versions.ts';

const FIGURES = [
  'quantity',
  'paid',
  'landedCost',
  'fees',
  'fulfilment',
  'unitProfit',
  'margin',
  'roi',
  'profitPerMonth',
] as const;
const HEAD = [
  'row',
  'barcode',
  'title',
  'brand',
  'purchasePrice',
  'shelfPrice',
  'unitsAMonth',
  'pack',
  ...FIGURES,
  'verdict',
  'why',
  'bound',
];

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
type Line = readonly (string | number | null)[];
const csvLines = (lines: readonly Line[]): string =>
  lines.length === 0
    ? ''
    : `${Papa.unparse(lines.map((cells) => cells.map((c) => (typeof c === 'string' ? safeText(c) : c))))}\r\n`;
/** Shown to six decimals at most; unknown is blank, never 0. */
const figure = (x: number | undefined): number | null =>
  x === undefined || !Number.isFinite(x) ? null : Math.round(x * 1e6) / 1e6;

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

/** Screens a file; returns the exit code. Rows go to `out`, counts and what is wrong to `say`. */
export async function screen(
  file: string,
  options: ScreenOptions,
  out: Writable,
  say: (text: string) => void,
): Promise<number> {
  const map = document(options.map, listMap, 'map');
  const settings = document(options.settings, screenSettings, 'settings');
  const referenceMap =
    options.reference === undefined ? null : document(options.referenceMap, listMap, 'reference-map');
  const wrong = [map, settings, referenceMap].flatMap((x) => (isFailed(x) ? x.issues : []));
  if (wrong.length > 0 || isFailed(map) || isFailed(settings) || isFailed(referenceMap)) {
    for (const i of wrong) say(`${inWords(i)}\n`);
    return 2;
  }
  const rates = { ...settings.rates, country: settings.country, currency: settings.currency };
  const evaluator = new ListEvaluator(settings.assumptions, rates);
  const places = new Map<string, number>();
  const categoryAt = (text: string): number => {
    let at = places.get(text);
    if (at === undefined) {
      // A category that the card does not have is the list's own, where it names one.
      at = text === '' ? evaluator.categoryAt(null) : evaluator.categoryAt(text);
      if (at === -2 && settings.assumptions.category !== null) at = evaluator.categoryAt(null);
      places.set(text, at);
    }
    return at;
  };
  const head = [
    ...HEAD,
    ...(options.solve ? SOLVED_COLUMNS : []),
    ...(options.reference === undefined ? [] : ['listings']),
    ...(options.previous === undefined ? [] : ['change', 'priceBefore']),
  ];
  let reader: RowReader | null = null;
  const counts = {
    completed: 0,
    changes: new Map<string, number>(),
    valid: 0,
    invalid: 0,
    repaired: 0,
    verdicts: new Map<string, number>(),
    troubles: new Map<string, number>(),
  };
  // Opened at once, so that a path that cannot be written is said before anything is read.
  const refused =
    options.invalid === undefined
      ? null
      : createWriteStream(options.invalid, { fd: openSync(options.invalid, 'w') });
  let capacity = 0;
  let columns = makeColumns(0);
  let results = makeResults(0);
  let verdicts = new Uint8Array(0);
  let prepared = makePrepared(0, evaluator.width);
  let solved = makeSolved(0);
  let of = file;
  try {
    const reference = options.reference === undefined || referenceMap === null ? null : new Reference();
    if (reference !== null) {
      of = options.reference as string;
      await readThrough(of, referenceMap as ListMap, 'reference', categoryAt, (row, c, i, line) =>
        reference.add(row.key, line, c, i, row.pack),
      );
    }
    const last = options.previous === undefined ? null : new LastEdition();
    if (last !== null) {
      of = options.previous as string;
      await readThrough(of, map, 'list', categoryAt, (row, c, i) => last.add(row.key, c.cost[i] as number));
    }
    of = file;
    const read = await readList(
      file,
      Object.values(map.columns),
      ({ header }) => {
        const issues = mapIssues(map, header);
        const [first] = issues;
        if (first !== undefined) throw new Refusal('invalid', first);
        reader = new RowReader(map, header);
        if (options.as === 'csv') out.write(csvLines([head]));
        refused?.write(csvLines([[...header, 'row', 'problem', 'remedy']]));
      },
      async (batch, lines) => {
        const r = reader as unknown as RowReader;
        if (batch.length > capacity) {
          capacity = batch.length;
          columns = makeColumns(capacity, [settings.taxClass]);
          results = makeResults(capacity);
          verdicts = new Uint8Array(capacity);
          prepared = makePrepared(capacity, evaluator.width);
          solved = makeSolved(capacity);
        }
        const rows = batch.map((cells, i) => {
          const row = r.read(cells, lines[i] as number, columns, i, categoryAt);
          const found =
            reference === null || row.key === ''
              ? null
              : reference.complete(row.key, columns, i, options.choose ?? 'sellsFastest');
          if (found?.filled) counts.completed++;
          if (settings.packs === 'bought') {
            const packs = packsAsNamed(row.pack, row.listingPack > 0 ? row.listingPack : (found?.pack ?? 0));
            columns.soldPack[i] = packs.sold;
            columns.boughtPack[i] = packs.bought;
          }
          return { ...row, listings: found?.matches ?? 0 };
        });
        evaluator.prepare(columns, prepared);
        evaluator.run(columns, results, 0, batch.length);
        if (options.solve) solveColumns(evaluator, columns, prepared, solved);
        judgeRows(settings.assumptions, rates, columns, results, verdicts, 0, batch.length);
        const good: Line[] = [];
        const bad: Line[] = [];
        rows.forEach((row, i) => {
          const cells = batch[i] as readonly string[];
          if (row.troubles.length > 0) {
            counts.invalid++;
            for (const t of row.troubles) counts.troubles.set(t.what, (counts.troubles.get(t.what) ?? 0) + 1);
            if (refused !== null)
              bad.push([
                ...cells,
                lines[i] as number,
                row.troubles.map((t) => sayFault(faultOfRow(t)).problem).join('; '),
                row.troubles.map((t) => sayFault(faultOfRow(t)).remedy).join(' '),
              ]);
            return;
          }
          counts.valid++;
          if (row.repaired) counts.repaired++;
          const verdict = VERDICTS[verdicts[i] as number] as string;
          counts.verdicts.set(verdict, (counts.verdicts.get(verdict) ?? 0) + 1);
          if (options.only.length > 0 && !options.only.includes(verdict)) return;
          const trouble = TROUBLES[results.trouble[i] as number] as string;
          const why = trouble !== '' ? trouble : blanksIn(results.blanks[i] as number).join(' ');
          const now = last === null ? null : last.compare(row.key, columns.cost[i] as number);
          if (now !== null) counts.changes.set(now.change, (counts.changes.get(now.change) ?? 0) + 1);
          good.push([
            lines[i] as number,
            row.code,
            r.text(cells, 'title'),
            r.text(cells, 'brand'),
            figure(columns.cost[i]),
            figure(columns.price[i]),
            figure(columns.units[i]),
            row.pack === 0 ? null : row.pack,
            ...FIGURES.map((f) => figure(results[f][i])),
            verdict,
            why,
            boundOf('unitProfit', blanksIn(results.blanks[i] as number)) ?? '',
            ...(options.solve ? SOLVED_COLUMNS.map((f) => figure(solved[f][i])) : []),
            ...(reference === null ? [] : [row.listings]),
            ...(now === null ? [] : [now.change, figure(now.before)]),
          ]);
        });
        if (good.length > 0)
          await write(
            out,
            options.as === 'csv'
              ? csvLines(good)
              : good
                  .map((line) => `${JSON.stringify(Object.fromEntries(head.map((h, k) => [h, line[k]])))}\n`)
                  .join(''),
          );
        if (bad.length > 0 && refused !== null) await write(refused, csvLines(bad));
      },
    );
    const list = (m: ReadonlyMap<string, number>): string => [...m].map(([k, n]) => `${n} ${k}`).join(', ');
    say(
      told.rows({
        rows: read.rows,
        valid: counts.valid,
        invalid: counts.invalid,
        troubles: list(counts.troubles),
        repaired: counts.repaired,
        verdicts: list(counts.verdicts),
        completed: reference === null ? null : { rows: counts.completed, listings: reference.count },
        changes: last === null ? null : { what: list(counts.changes), gone: last.gone },
      }),
    );
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
