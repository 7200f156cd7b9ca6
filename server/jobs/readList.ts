import { mkdir, readdir, rm, stat, truncate } from 'node:fs/promises';
import { and, eq } from 'drizzle-orm';
import { inWorkspace } from '../db/client.ts';
import { supplierList, task } from '../db/schema.ts';
import { readList } from '../files/lists.ts';
import { Refusal } from '../refusal.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { writePart } from '../../between/parts.ts';
import { isDiskFull, storePath } from '../files/store.ts';
import { matchedGoods } from '../use/matching.ts';
import { taskColumns } from '../use/tasks.ts';
import { PART } from './gathering.ts';
import { StoringParts } from './storingParts.ts';
import { Categories, TakingRows } from './takingRows.ts';
import { tallyOf } from './listTask.ts';
import type { Tally } from './listTask.ts';
import { loadEdition, keepWhatIsRead, finish, rankThread, storeThread } from './finishList.ts';
import { loadReference, listingsPart } from './listReference.ts';
import { sourceOf, refusedPath } from './listTask.ts';
import type { ListTask, Source } from './listTask.ts';

/** Rows of the first part, so that something shows at once. */
const FIRST_PART = 2_000;
/** Bytes of a file that is long enough for a thread to be made ready. */
const LONG_FILE = 4_000_000;

type Turn = {
  readonly turnMs: number;
  /** Whether somebody waits for this worker. */
  readonly othersWait: () => Promise<boolean>;
};

/** A list's task, the list, and the run of the edition before it; null where there is nothing left to do. */
async function taskAtHand(workspaceId: string, taskId: string) {
  return inWorkspace(workspaceId, async (tx) => {
    const taskIs = (id: string) => and(eq(task.workspaceId, workspaceId), eq(task.id, id));
    const listIs = (id: string) => and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id));
    const [t] = await tx.select(taskColumns).from(task).where(taskIs(taskId));
    if (t === undefined || (t.state !== 'waiting' && t.state !== 'running')) return null;
    const [list] = await tx
      .select()
      .from(supplierList)
      .where(listIs((t.data as ListTask).listId));
    const none = { t, list, previous: null };
    if (list?.previousId == null) return none;
    const [last] = await tx
      .select({ id: supplierList.id, runId: supplierList.runId })
      .from(supplierList)
      .where(listIs(list.previousId));
    if (last?.runId == null) return none;
    const [before] = await tx.select({ data: task.data }).from(task).where(taskIs(last.runId));
    if (before === undefined) return none;
    const parts = (before.data as ListTask).parts ?? [];
    return { t, list, previous: { listId: last.id, runId: last.runId, parts } };
  });
}

/** Works on a list until it is done, or others wait and its turn is over. True where there is more to do. */
export async function workOnList(workspaceId: string, taskId: string, turn: Turn): Promise<boolean> {
  const found = await taskAtHand(workspaceId, taskId);
  if (found === null) return false;
  const { t, list, previous } = found;
  if (list === undefined || list.map === null || list.deletedAt !== null) {
    await fail(workspaceId, taskId, fault('listGone'));
    return false;
  }
  const about = { kind: t.kind, name: list.name, listId: list.id, previousRun: list.runId, previous };
  try {
    let work = t.data as ListTask;
    if (work.read !== true) {
      const source: Source = {
        map: list.map,
        storing: t.kind === 'readList',
        reference: list.reference,
        previous,
        matched: await matchedGoods(workspaceId),
        path: await sourceOf(workspaceId, list.id, 'source', list.file.kind, list.sheet),
        listId: list.id,
      };
      const more = await readOn(workspaceId, taskId, work, source, turn);
      if (more === 'elsewhere') {
        await keepWhatIsRead(workspaceId, taskId, about);
        return false;
      }
      if (more.read !== true) return true;
      work = more;
    }
    await finish(workspaceId, taskId, work, about, 'done');
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
  const work = tallyOf(before);
  const folder = await clearedFolder(workspaceId, taskId, source, work);
  const { size } = await stat(source.path);
  const long = source.storing && size > LONG_FILE;
  if (long) {
    rankThread();
    storeThread();
  }
  const categories = new Categories();
  const categoryAt = (text: string): number => categories.at(text);
  const reference =
    source.reference === null
      ? null
      : await loadReference(workspaceId, source.listId, source.reference, categoryAt);
  if (reference !== null && source.storing && (await stat(`${folder}/listings`).catch(() => null)) === null)
    await writePart(`${folder}/listings`, listingsPart(reference, categories.names));
  const last = source.previous === null ? null : await loadEdition(workspaceId, source.previous);

  const rows = new TakingRows(source, reference, last, categories);
  const parts = new StoringParts({
    workspaceId,
    taskId,
    folder,
    refusedFile: refusedPath(workspaceId, source.listId, taskId),
    storing: source.storing,
    long,
    size,
  });
  let now = parts.place();
  let elsewhere = false;
  let takenUp = work.at !== null;
  const read = await readList(
    source.path,
    Object.values(source.map.columns),
    ({ header }) => rows.start(header),
    async (batch, lines, next) => {
      // The first batch after a stop brings back which barcodes were seen.
      if (takenUp) await rows.noteSeen(work.parts.map((p) => `${folder}/${p.name}`));
      takenUp = false;
      for (let k = 0; k < batch.length; k++) {
        rows.take(batch[k] as readonly string[], lines[k] as number, now, work);
        if (now.count === now.capacity) now = now.widened();
      }
      if (now.count + now.refused.length < (work.steps === 0 ? FIRST_PART : PART)) return;
      if (!(await parts.store(work, now, rows, next))) {
        elsewhere = true;
        return 'stop';
      }
      now = parts.place();
      if (Date.now() > until && (await turn.othersWait())) return 'stop';
    },
    work.at,
  );
  if (elsewhere) return 'elsewhere';
  if (read.whole && !(await parts.store(work, now, rows, null))) return 'elsewhere';
  return (await parts.stored()) ? work : 'elsewhere';
}

/**
 * The folder of a run, without what a worker left that was stopped between its files and its transaction: that
 * does not count.
 */
async function clearedFolder(
  workspaceId: string,
  taskId: string,
  source: Source,
  work: Tally,
): Promise<string> {
  const folder = storePath(workspaceId, source.listId, taskId);
  await mkdir(folder, { recursive: true });
  const counted = new Set(work.parts.map((p) => p.name));
  for (const f of await readdir(folder))
    if (/^part-/.test(f) && !counted.has(f)) await rm(`${folder}/${f}`, { force: true });
  const refusedFile = refusedPath(workspaceId, source.listId, taskId);
  const hasRefused = (await stat(refusedFile).catch(() => null))?.size ?? 0;
  if (hasRefused > work.refusedBytes) await truncate(refusedFile, work.refusedBytes);
  return folder;
}
