/**
 * Reads a supplier's list into columns and rows, part by part; every part is stored whole, with how far the work is,
 * or not at all.
 */
import { createHash, randomBytes } from 'node:crypto';
import { mkdir, readdir, rm, stat, truncate } from 'node:fs/promises';
import { and, eq } from 'drizzle-orm';
import Papa from 'papaparse';
import { Piscina } from 'piscina';
import { INPUT_COLUMNS, makeColumns } from '../../core/columns/columns.ts';
import type { ListColumns } from '../../core/columns/columns.ts';
import type { TextColumn } from '../../core/columns/rank.ts';
import { LastEdition } from '../../core/lists/editions.ts';
import { mapIssues } from '../../core/lists/map.ts';
import type { ListMap } from '../../core/lists/map.ts';
import { Reference } from '../../core/lists/reference.ts';
import { KeyIndex, RowReader, sayTrouble } from '../../core/lists/rows.ts';
import type { RowRead } from '../../core/lists/rows.ts';
import { inWorkspace } from '../db/client.ts';
import { attachRun, dropRun } from '../db/loader.ts';
import { supplierList, task } from '../db/schema.ts';
import type { StoredReference } from '../db/schema.ts';
import { readList, ListError } from '../files/lists.ts';
import type { Position } from '../files/lists.ts';
import {
  FILLED_FROM,
  NOTE,
  PART_NUMBERS,
  readPart,
  textsOf,
  TextWriter,
  WordWriter,
  writePart,
} from '../files/parts.ts';
import type { Part, PartNumber, Words } from '../files/parts.ts';
import { safeText } from '../files/sheets.ts';
import { diskFull, isDiskFull, needRoom, removeFolder, storePath } from '../files/store.ts';
import { sheetAsCsv } from '../files/readApart.ts';
import { addNotices, taskColumns } from '../use/tasks.ts';
import { rankTitles } from './rankTitles.ts';
import { ROOM, storeGathered } from './storeGathered.ts';
import type { Gathered, PartDone, PartJob } from './storeGathered.ts';

/** Rows of the first part, so that something shows at once, and of the others. */
const FIRST_PART = 2_000;
const PART = 25_000;
/** Rows that a place takes beyond that: a part ends where a piece of the file does. */
const SPARE = 4_000;
/** Rows whose titles are ranked faster than a thread starts. */
const RANKED_HERE = 60_000;
/** Bytes of a file that is long enough for a thread to be made ready. */
const LONG_FILE = 4_000_000;
/** Parts that may wait to be stored. */
const MOST_WAITING = 3;
/** What stands in a text where bytes were no letter. */
const NO_LETTER = '\ufffd';
/** A supplier's categories that are told apart. */
const MOST_CATEGORIES = 32_000;

/** What a task on a list keeps: where it stands, what it has found. */
export type ListTask = {
  listId: string;
  /** Rises with every part stored; a part is stored only where it fits on. */
  steps?: number;
  at?: Position | null;
  /** Parts in the file store, in the order of the rows. */
  parts?: { name: string; rows: number }[];
  valid?: number;
  invalid?: number;
  repaired?: number;
  completed?: number;
  /** Rows with letters that the file's encoding does not have. */
  garbled?: number;
  troubles?: Record<string, number>;
  changes?: Record<string, number>;
  /** Goods of the last edition that this one no longer has. */
  gone?: number;
  /** Bytes of the file of refused rows that count. */
  refusedBytes?: number;
  /** All rows are read; what is left is indexing. */
  read?: boolean;
  /** Titles are ranked. */
  ranked?: boolean;
  startedAt?: string;
};

type Turn = {
  readonly turnMs: number /** Whether somebody waits for this worker. */;
  readonly othersWait: () => Promise<boolean>;
};

/** Works on a list until it is done, or others wait and its turn is over. True where there is more to do. */
export async function workOnList(workspaceId: string, taskId: string, turn: Turn): Promise<boolean> {
  const found = await inWorkspace(workspaceId, async (tx) => {
    const [t] = await tx
      .select(taskColumns)
      .from(task)
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)));
    if (t === undefined || (t.state !== 'waiting' && t.state !== 'running')) return null;
    const [list] = await tx
      .select()
      .from(supplierList)
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, (t.data as ListTask).listId)));
    const previous =
      list?.previousId == null
        ? null
        : (
            await tx
              .select({ id: supplierList.id, runId: supplierList.runId })
              .from(supplierList)
              .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, list.previousId)))
          )[0];
    const [before] =
      previous?.runId == null
        ? []
        : await tx
            .select({ data: task.data })
            .from(task)
            .where(and(eq(task.workspaceId, workspaceId), eq(task.id, previous.runId)));
    return {
      t,
      list,
      previous:
        before === undefined || previous?.runId == null
          ? null
          : { listId: previous.id, runId: previous.runId, parts: (before.data as ListTask).parts ?? [] },
    };
  });
  if (found === null) return false;
  const { t, list, previous } = found;
  if (list === undefined || list.map === null || list.deletedAt !== null) {
    await fail(workspaceId, taskId, 'The list is not there any more, or its columns have not been chosen.');
    return false;
  }
  try {
    let work = t.data as ListTask;
    if (work.read !== true) {
      const more = await readOn(
        workspaceId,
        taskId,
        work,
        {
          map: list.map,
          storing: t.kind === 'readList',
          reference: list.reference,
          previous,
          path: await sourceOf(workspaceId, list.id, 'source', list.file.kind, list.sheet),
          listId: list.id,
        },
        turn,
      );
      if (more === 'elsewhere') {
        await keepWhatIsRead(workspaceId, taskId, {
          kind: t.kind,
          name: list.name,
          listId: list.id,
          previousRun: list.runId,
          previous,
        });
        return false;
      }
      if (more.read !== true) return true;
      work = more;
    }
    await finish(
      workspaceId,
      taskId,
      work,
      { kind: t.kind, name: list.name, listId: list.id, previousRun: list.runId, previous },
      'done',
    );
    return false;
  } catch (e) {
    if (e instanceof ListError) await fail(workspaceId, taskId, e.message);
    else if (isDiskFull(e)) await fail(workspaceId, taskId, diskFull().message);
    else throw e;
    return false;
  }
}

/** The CSV to read: the file as it came, or the chosen sheet of a workbook, written out once. */
async function sourceOf(
  workspaceId: string,
  listId: string,
  name: 'source' | 'reference',
  kind: 'csv' | 'xlsx',
  sheet: string | null,
): Promise<string> {
  const path = storePath(workspaceId, listId, name);
  if (kind === 'csv') return path;
  const csv = storePath(
    workspaceId,
    listId,
    `${name}-${createHash('sha256')
      .update(sheet ?? '')
      .digest('hex')
      .slice(0, 16)}.csv`,
  );
  if ((await stat(csv).catch(() => null)) === null) {
    await needRoom(ROOM);
    await sheetAsCsv(path, sheet, csv);
  }
  return csv;
}

export const refusedPath = (workspaceId: string, listId: string, taskId: string): string =>
  storePath(workspaceId, listId, taskId, 'refused.csv');

async function fail(workspaceId: string, taskId: string, error: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(task)
      .set({ state: 'failed', error, updatedAt: new Date() })
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId))),
  );
}

type Source = {
  readonly map: ListMap;
  readonly storing: boolean;
  readonly reference: StoredReference | null;
  readonly previous: { listId: string; runId: string; parts: { name: string }[] } | null;
  readonly path: string;
  readonly listId: string;
};

/** A place for the rows of one part; used again for another once they are stored. */
class Gathering {
  readonly numbers: Record<PartNumber, Float64Array>;
  readonly title = new TextWriter();
  readonly brand = new WordWriter();
  readonly category = new WordWriter();
  /** What else each row says, as JSON; blank where nothing. */
  readonly more = new TextWriter();
  readonly refused: unknown[][] = [];
  count = 0;
  /** Columns that the reader writes into: the numbers of this part, and what goes no further. */
  readonly columns: ListColumns;

  constructor(readonly capacity: number) {
    // Shared, so that the thread that stores them need not get a copy.
    this.numbers = Object.fromEntries(
      PART_NUMBERS.map((n) => [n, new Float64Array(new SharedArrayBuffer(8 * capacity))]),
    ) as Record<PartNumber, Float64Array>;
    const spare = makeColumns(capacity);
    this.columns = { ...spare, ...Object.fromEntries(INPUT_COLUMNS.map((n) => [n, this.numbers[n]])) } as ListColumns;
  }

  /** What is to be stored; its texts are copies of the right length, so that they cross to a thread as they are. */
  gathered(hasMore: boolean): Gathered {
    const exact = ({ bytes, offsets }: TextColumn): TextColumn => ({
      bytes: Uint8Array.from(bytes),
      offsets: offsets.slice(),
    });
    const few = (w: WordWriter): Words => ({ values: w.words().values, codes: w.words().codes.slice() });
    return {
      rows: this.count,
      numbers: this.numbers,
      texts: { title: exact(this.title.column()) },
      words: { brand: few(this.brand), category: few(this.category) },
      more: hasMore ? exact(this.more.column()) : null,
    };
  }
  clear(): void {
    for (const w of [this.title, this.brand, this.category, this.more]) w.clear();
    this.refused.length = 0;
    this.count = 0;
  }
}

/** Reads rows from where the task stands. Returns what it has come to, or that it goes on elsewhere. */
async function readOn(
  workspaceId: string,
  taskId: string,
  before: ListTask,
  source: Source,
  turn: Turn,
): Promise<ListTask | 'elsewhere'> {
  const until = Date.now() + turn.turnMs;
  let work: Required<Omit<ListTask, 'gone' | 'read' | 'ranked'>> & Pick<ListTask, 'gone' | 'read' | 'ranked'> = {
    steps: 0,
    at: null,
    parts: [],
    valid: 0,
    invalid: 0,
    repaired: 0,
    completed: 0,
    garbled: 0,
    troubles: {},
    changes: {},
    refusedBytes: 0,
    startedAt: new Date().toISOString(),
    ...before,
  };
  const folder = storePath(workspaceId, source.listId, taskId);
  await mkdir(folder, { recursive: true });
  // What a worker left that was stopped between its files and its transaction does not count.
  const counted = new Set(work.parts.map((p) => p.name));
  for (const f of await readdir(folder))
    if (/^part-/.test(f) && !counted.has(f)) await rm(`${folder}/${f}`, { force: true });
  const refusedFile = refusedPath(workspaceId, source.listId, taskId);
  const hasRefused = (await stat(refusedFile).catch(() => null))?.size ?? 0;
  if (hasRefused > work.refusedBytes) await truncate(refusedFile, work.refusedBytes);
  const { size } = await stat(source.path);
  const long = source.storing && size > LONG_FILE;
  if (long) {
    rankThread();
    storeThread();
  }
  const reading = randomBytes(8).toString('hex');

  const categories: string[] = [];
  const places = new Map<string, number>();
  const categoryAt = (text: string): number => {
    if (text === '') return -1;
    let at = places.get(text);
    if (at === undefined) {
      at = categories.length < MOST_CATEGORIES ? categories.push(text.slice(0, 200)) - 1 : -1;
      places.set(text, at);
    }
    return at;
  };
  const reference =
    source.reference === null ? null : await loadReference(workspaceId, source.listId, source.reference, categoryAt);
  if (reference !== null && source.storing && (await stat(`${folder}/listings`).catch(() => null)) === null)
    await writePart(`${folder}/listings`, listingsPart(reference, categories));
  const last = source.previous === null ? null : await loadEdition(workspaceId, source.previous);

  let reader: RowReader | null = null;
  let header: readonly string[] = [];
  let more: readonly { key: string; at: number }[] = [];
  let now = new Gathering(PART + SPARE);
  /** Places that are free again. */
  const free: Gathering[] = [];
  /** Parts are stored one after the other while the next are read; a few may wait. */
  let storing: Promise<boolean> = Promise.resolve(true);
  let first = storing;
  const waiting: Promise<boolean>[] = [];

  const flush = async (next: Position | null, g: Gathering): Promise<boolean> => {
    while (waiting.length >= MOST_WAITING) if (!(await waiting.shift())) return false;
    const name = `part-${String(work.parts.length).padStart(4, '0')}-${randomBytes(4).toString('hex')}`;
    const keeps = source.storing && g.count > 0;
    const steps = work.steps;
    const refused =
      g.refused.length === 0
        ? null
        : `${work.refusedBytes === 0 ? `\ufeff${Papa.unparse([[...header, 'row', 'problem', 'remedy']])}\r\n` : ''}${Papa.unparse(g.refused)}\r\n`;
    const done = work.valid + work.invalid;
    const share = next === null || size === 0 ? 1 : Math.max(1e-6, Math.min(1, next.chars / size));
    work = {
      ...work,
      steps: steps + 1,
      at: next ?? work.at,
      read: next === null,
      parts: keeps ? [...work.parts, { name, rows: g.count }] : work.parts,
      refusedBytes: work.refusedBytes + (refused === null ? 0 : Buffer.byteLength(refused)),
    };
    const noted = { ...work, troubles: { ...work.troubles }, changes: { ...work.changes } };
    const job: PartJob = {
      reading,
      workspaceId,
      taskId,
      gathered: keeps ? g.gathered(more.length > 0) : null,
      path: `${folder}/${name}`,
      refused: refused === null ? null : { path: refusedFile, text: refused },
      steps,
      task: noted,
      done,
      total: next === null ? done : Math.round(done / share),
    };
    // The first part does not wait for the thread to stand; the thread's parts wait for it, and so keep their order.
    const stored = !long || steps === 0 ? storeGathered(job, storing) : first.then((ok) => ok && inThread(job));
    if (steps === 0) first = stored;
    storing = stored.then((ok) => {
      g.clear();
      free.push(g);
      return ok;
    });
    waiting.push(storing);
    // What goes wrong is said where it is awaited.
    storing.catch(() => undefined);
    return true;
  };

  const take = (cells: readonly string[], line: number): void => {
    const r = reader as RowReader;
    const i = now.count;
    const n = now.numbers;
    const row: RowRead = r.read(cells, line, now.columns, i, categoryAt, n);
    if (row.troubles.length > 0) {
      work.invalid++;
      for (const t of row.troubles) work.troubles[t.what] = (work.troubles[t.what] ?? 0) + 1;
      const said = row.troubles.map(sayTrouble);
      now.refused.push([
        ...header.map((_, k) => safeText(cells[k] ?? '')),
        line,
        said.map((s) => s.problem).join('; '),
        said.map((s) => s.remedy).join(' '),
      ]);
      return;
    }
    let notes = 0;
    if (row.repaired) {
      notes |= NOTE.repaired;
      work.repaired++;
    }
    const completed =
      reference === null
        ? null
        : reference.complete(row.key, now.columns, i, (source.reference as StoredReference).choice);
    if (completed !== null && completed.filled !== 0) {
      notes |= NOTE.completed | (completed.filled * FILLED_FROM);
      work.completed++;
    }
    n.before[i] = Number.NaN;
    if (last !== null) {
      const { change, before: was } = last.compare(row.key, n.cost[i] as number);
      work.changes[change] = (work.changes[change] ?? 0) + 1;
      n.before[i] = was;
      if (change === 'new') notes |= NOTE.isNew;
      else if (change === 'dearer') notes |= NOTE.dearer;
      else if (change === 'cheaper') notes |= NOTE.cheaper;
    }
    n.line[i] = line;
    n.key[i] = Number(row.key);
    n.pack[i] = row.pack;
    n.listingPack[i] = row.listingPack > 0 ? row.listingPack : (completed?.pack ?? 0);
    n.notes[i] = notes;
    n.listings[i] = completed?.matches ?? 0;
    n.listing[i] = completed?.row ?? 0;
    const at = now.columns.category[i] as number;
    const category = at >= 0 ? (categories[at] as string) : '';
    const title = cut(r.text(cells, 'title'));
    const brand = cut(r.text(cells, 'brand'));
    if (title.includes(NO_LETTER) || brand.includes(NO_LETTER)) work.garbled++;
    now.count++;
    work.valid++;
    if (!source.storing) return;
    n.digits[i] = row.code.length;
    now.title.add(title);
    now.brand.add(brand);
    now.category.add(category);
    let extra = '';
    if (more.length > 0) {
      const has: Record<string, string> = {};
      let some = false;
      for (const m of more) {
        const text = (cells[m.at] ?? '').trim();
        if (text === '') continue;
        has[m.key] = wellFormed(text.slice(0, 5000));
        some = true;
      }
      if (some) extra = JSON.stringify(has);
    }
    now.more.add(extra);
  };

  let elsewhere = false;
  let takenUp = work.at !== null;
  const result = await readList(
    source.path,
    Object.values(source.map.columns),
    (found) => {
      header = found.header;
      const [first] = mapIssues(source.map, header);
      if (first !== undefined) throw new ListError(first);
      reader = new RowReader(source.map, header);
      more = [
        ...(['link', 'picture', 'notes'] as const).flatMap((role) =>
          source.map.columns[role] === undefined
            ? []
            : [{ key: role as string, at: header.indexOf(source.map.columns[role] as string) }],
        ),
        ...source.map.extras.map((h) => ({ key: h, at: header.indexOf(h) })),
      ].filter((m) => m.at >= 0);
    },
    async (batch, lines, next) => {
      if (takenUp) await noteSeen();
      takenUp = false;
      for (let k = 0; k < batch.length; k++) {
        take(batch[k] as readonly string[], lines[k] as number);
        if (now.count === now.capacity) grow();
      }
      if (now.count + now.refused.length < (work.steps === 0 ? FIRST_PART : PART)) return;
      if (!(await flush(next, now))) {
        elsewhere = true;
        return 'stop';
      }
      now = free.pop() ?? new Gathering(PART + SPARE);
      if (Date.now() > until && (await turn.othersWait())) return 'stop';
    },
    work.at,
  );

  // The first batch after a stop brings back which barcodes were seen.
  async function noteSeen(): Promise<void> {
    for (const p of work.parts) {
      const { rows, numbers } = await readPart(`${folder}/${p.name}`);
      for (let i = 0; i < rows; i++)
        (reader as unknown as RowReader).noteSeen(numbers.key[i] as number, numbers.line[i] as number);
    }
  }
  function grow(): void {
    const wider = new Gathering(now.capacity * 2);
    for (const n of PART_NUMBERS) wider.numbers[n].set(now.numbers[n]);
    wider.columns.category.set(now.columns.category);
    Object.assign(wider, {
      title: now.title,
      brand: now.brand,
      category: now.category,
      more: now.more,
      refused: now.refused,
      count: now.count,
    });
    now = wider;
  }
  if (elsewhere) return 'elsewhere';
  if (result.whole && !(await flush(null, now))) return 'elsewhere';
  if (!(await storing)) return 'elsewhere';
  return work;
}

/** Half of a pair of characters, cut off, is no text that a database takes. */
const wellFormed = (text: string): string => text.replace(/[\ud800-\udbff]$/, '');
/** A text as it is kept. */
const cut = (text: string): string => (text.length > 2000 ? text.slice(0, 2000) : text);

async function loadReference(
  workspaceId: string,
  listId: string,
  stored: StoredReference,
  categoryAt: (text: string) => number,
): Promise<Reference> {
  const reference = new Reference();
  let reader: RowReader | null = null;
  let columns = makeColumns(0);
  await readList(
    await sourceOf(workspaceId, listId, 'reference', stored.file.kind, stored.sheet),
    Object.values(stored.map.columns),
    ({ header }) => {
      const [first] = mapIssues(stored.map, header, ['identifier']);
      if (first !== undefined)
        throw new ListError({ problem: `Market figures: ${first.problem}`, remedy: first.remedy });
      reader = new RowReader(stored.map, header, 'reference');
    },
    (batch, lines) => {
      if (batch.length > columns.length) columns = makeColumns(batch.length);
      for (const [i, cells] of batch.entries()) {
        const row = (reader as unknown as RowReader).read(cells, lines[i] as number, columns, i, categoryAt);
        if (row.troubles.length === 0)
          reference.add(
            row.key,
            lines[i] as number,
            columns,
            i,
            row.pack,
            cut((reader as unknown as RowReader).text(cells, 'title')),
          );
      }
    },
  );
  return reference;
}

/** Barcodes that have several listings, with these, by barcode: what one is chosen from by hand. */
function listingsPart(reference: Reference, categories: readonly string[]): Part {
  const rows = [...reference.several()]
    .sort((x, y) => x.key - y.key)
    .flatMap(({ key, listings }) => listings.map((l) => ({ key, ...l })));
  const of: Partial<Record<PartNumber, (r: (typeof rows)[number]) => number>> = {
    line: (r) => r.row,
    key: (r) => r.key,
    price: (r) => r.price,
    units: (r) => r.units,
    a: (r) => r.sides[0],
    b: (r) => r.sides[1],
    c: (r) => r.sides[2],
    kg: (r) => r.kg,
    pack: (r) => r.pack,
  };
  const numbers = Object.fromEntries(
    PART_NUMBERS.map((n) => [n, Float64Array.from(rows, of[n] ?? (() => Number.NaN))]),
  ) as Part['numbers'];
  const words = { brand: new WordWriter(), category: new WordWriter() };
  for (const r of rows) {
    words.brand.add('');
    words.category.add(categories[r.category] ?? '');
  }
  return {
    rows: rows.length,
    numbers,
    texts: { title: textsOf(rows.map((r) => r.title)), fold: textsOf(rows.map(() => '')) },
    words: { brand: words.brand.words(), category: words.category.words() },
  };
}

async function loadEdition(workspaceId: string, previous: NonNullable<Source['previous']>): Promise<LastEdition> {
  const last = new LastEdition();
  for (const p of previous.parts) {
    const { rows, numbers } = await readPart(storePath(workspaceId, previous.listId, previous.runId, p.name));
    for (let i = 0; i < rows; i++) last.add(String(numbers.key[i]), numbers.cost[i] as number);
  }
  return last;
}

type Of = { kind: string; name: string; listId: string; previousRun: string | null; previous: Source['previous'] };

/** A first run that was cancelled keeps the rows it has read; they are shown as a part of the list. */
async function keepWhatIsRead(workspaceId: string, taskId: string, of: Of): Promise<void> {
  const [t] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ state: task.state, data: task.data })
      .from(task)
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId))),
  );
  const work = t?.data as ListTask | undefined;
  if (t?.state === 'cancelled' && of.kind === 'readList' && of.previousRun === null && (work?.parts?.length ?? 0) > 0)
    await finish(workspaceId, taskId, work as ListTask, of, 'cancelled');
}

/** Once all rows are read: ranks, indexes, the partition; the list shows this run from now on, and a notice says so. */
async function finish(
  workspaceId: string,
  taskId: string,
  work: ListTask,
  of: Of,
  as: 'done' | 'cancelled',
): Promise<void> {
  const folder = storePath(workspaceId, of.listId, taskId);
  const done: ListTask = { ...work };
  if (of.kind === 'readList') {
    const paths = (work.parts ?? []).map((p) => `${folder}/${p.name}`);
    await Promise.all([rank(paths, `${folder}/ranks`, work.valid ?? 0), attachRun(workspaceId, taskId)]);
    done.ranked = true;
    if (of.previous !== null) done.gone = await countGone(workspaceId, of.previous, paths);
  }
  const stored = await inWorkspace(workspaceId, async (tx) => {
    const [t] = await tx
      .select({ state: task.state })
      .from(task)
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)))
      .for('update');
    if (t?.state !== (as === 'done' ? 'running' : 'cancelled')) return false;
    await tx
      .update(task)
      .set({ state: as, data: done, total: (work.valid ?? 0) + (work.invalid ?? 0), updatedAt: new Date() })
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)));
    const which = and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, of.listId));
    if (of.kind === 'readList') {
      await tx.update(supplierList).set({ runId: taskId, updatedAt: new Date() }).where(which);
      if (as === 'done')
        await addNotices(tx, workspaceId, [
          {
            kind: 'listRead',
            data: { list: of.name, count: work.valid ?? 0, invalid: work.invalid ?? 0 },
            link: `/lists/${of.listId}`,
          },
        ]);
    } else await tx.update(supplierList).set({ checkId: taskId, updatedAt: new Date() }).where(which);
    return true;
  });
  if (stored && of.kind === 'readList' && of.previousRun !== null && of.previousRun !== taskId) {
    await dropRun(workspaceId, of.previousRun);
    await removeFolder(workspaceId, of.listId, of.previousRun);
  }
}

/** Ranks titles: at once where they are few, else in a thread of its own. */
async function rank(parts: readonly string[], to: string, rows: number): Promise<void> {
  if (rows < RANKED_HERE) return rankTitles({ parts, to });
  await rankThread().run({ parts, to });
}

const thread = (file: string): Piscina =>
  new Piscina({
    filename: new URL(file, import.meta.url).href,
    minThreads: 1,
    maxThreads: 1,
    concurrentTasksPerWorker: MOST_WAITING + 1,
    execArgv: ['--import', 'tsx'],
  });
let ranking: Piscina | null = null;
/** The thread that ranks long lists; asked for when one is begun, so that it stands ready at the end. */
const rankThread = (): Piscina => (ranking ??= thread('./rankThread.ts'));
let stores: Piscina | null = null;
/** The thread that stores parts of long lists. */
const storeThread = (): Piscina => (stores ??= thread('./storeThread.ts'));
async function inThread(job: PartJob): Promise<boolean> {
  const said = (await storeThread().run(job)) as PartDone;
  if ('stored' in said) return said.stored;
  throw Object.assign(new Error(said.failed), said.code === undefined ? {} : { code: said.code });
}

async function countGone(
  workspaceId: string,
  previous: NonNullable<Source['previous']>,
  parts: readonly string[],
): Promise<number> {
  const here = new KeyIndex();
  for (const p of parts) {
    const { rows, numbers } = await readPart(p);
    for (let i = 0; i < rows; i++) here.noteNumber(numbers.key[i] as number, 1);
  }
  let gone = 0;
  for (const p of previous.parts) {
    const { rows, numbers } = await readPart(storePath(workspaceId, previous.listId, previous.runId, p.name));
    for (let i = 0; i < rows; i++) if (here.find(String(numbers.key[i])) === 0) gone++;
  }
  return gone;
}
