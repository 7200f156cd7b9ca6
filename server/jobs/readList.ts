/**
 * Reads a supplier's list into columns and rows, part by part; every part is stored whole, with how far the
 * work is, or not at all.
 */
import { randomBytes } from 'node:crypto';
import { mkdir, readdir, rm, stat, truncate } from 'node:fs/promises';
import { and, eq } from 'drizzle-orm';
import Papa from 'papaparse';
import { mapIssues } from '../../core/lists/map.ts';
import { RowReader, faultOfRow } from '../../core/lists/rows.ts';
import type { RowRead } from '../../core/lists/rows.ts';
import { inWorkspace } from '../db/client.ts';
import { supplierList, task } from '../db/schema.ts';
import type { StoredReference } from '../db/schema.ts';
import { readList } from '../files/lists.ts';
import { refusedHead, refusedRow } from '../files/refusedRows.ts';
import { Refusal } from '../refusal.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import type { Position } from '../files/lists.ts';
import { FILLED_FROM, NOTE, PART_NUMBERS, readPart, writePart } from '../../between/parts.ts';
import { isDiskFull, storePath } from '../files/store.ts';
import { taskColumns } from '../use/tasks.ts';
import { storeGathered } from './storeGathered.ts';
import type { PartJob } from './storeGathered.ts';
import { Gathering } from './gathering.ts';
import { loadEdition, keepWhatIsRead, finish, rankThread, storeThread, inThread } from './finishList.ts';
import { loadReference, listingsPart } from './listReference.ts';
import { MOST_WAITING, sourceOf, refusedPath, wellFormed, cut } from './listTask.ts';
import type { ListTask, Source } from './listTask.ts';

/** Rows of the first part, so that something shows at once, and of the others. */
const FIRST_PART = 2_000;
const PART = 25_000;
/** Rows that a place takes beyond that: a part ends where a piece of the file does. */
const SPARE = 4_000;
/** Bytes of a file that is long enough for a thread to be made ready. */
const LONG_FILE = 4_000_000;
/** What stands in a text where bytes were no letter. */
const NO_LETTER = '\ufffd';
/** A supplier's categories that are told apart. */
const MOST_CATEGORIES = 32_000;

type Turn = {
  readonly turnMs: number;
  /** Whether somebody waits for this worker. */
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
      .where(
        and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, (t.data as ListTask).listId)),
      );
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
    await fail(workspaceId, taskId, fault('listGone'));
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
    if (e instanceof Refusal && e.reason === 'invalid' && e.fault !== null)
      await fail(workspaceId, taskId, e.fault);
    else if (isDiskFull(e)) await fail(workspaceId, taskId, fault('diskFull'));
    else throw e;
    return false;
  }
}

async function fail(workspaceId: string, taskId: string, error: Fault): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(task)
      .set({ state: 'failed', error, updatedAt: new Date() })
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId))),
  );
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
  let work: Required<Omit<ListTask, 'gone' | 'read' | 'ranked'>> &
    Pick<ListTask, 'gone' | 'read' | 'ranked'> = {
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
    source.reference === null
      ? null
      : await loadReference(workspaceId, source.listId, source.reference, categoryAt);
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
        : `${work.refusedBytes === 0 ? refusedHead(header) : ''}${Papa.unparse(g.refused)}\r\n`;
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
    // The first part does not wait for the thread to stand; the thread's parts wait for it, and so keep their
    // order.
    const stored =
      !long || steps === 0 ? storeGathered(job, storing) : first.then((ok) => ok && inThread(job));
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
      const whole = header.map((_, k) => cells[k] ?? '');
      now.refused.push(refusedRow(whole, line, row.troubles.map(faultOfRow)));
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
      if (first !== undefined) throw new Refusal('invalid', first);
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
