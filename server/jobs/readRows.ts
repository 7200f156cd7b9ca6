/** Reads rows of a list's file from where its task stands, part by part. */
import { mkdir, readdir, rm, stat, truncate } from 'node:fs/promises';
import { writePart } from '../../between/parts.ts';
import { readList } from '../files/lists.ts';
import { storePath } from '../files/store.ts';
import { loadEdition, rankThread, storeThread } from './finishList.ts';
import { PART } from './gathering.ts';
import { listingsPart, loadReference } from './listReference.ts';
import { refusedPath, tallyOf } from './listTask.ts';
import type { ListTask, Source, Tally } from './listTask.ts';
import { StoringParts } from './storingParts.ts';
import { Categories, TakingRows } from './takingRows.ts';

/** Rows of the first part, so that something shows at once. */
const FIRST_PART = 2_000;
/** Bytes of a file that is long enough for a thread to be made ready. */
const LONG_FILE = 4_000_000;

export type Turn = {
  readonly turnMs: number;
  /** Whether somebody waits for this worker. */
  readonly othersWait: () => Promise<boolean>;
};

/** Reads rows from where the task stands. Returns what it has come to, or that it goes on elsewhere. */
export async function readOn(
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
  const hasListings = !source.grows && (await stat(`${folder}/listings`).catch(() => null)) !== null;
  if (reference !== null && source.storing && !hasListings)
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
  let end = work.at;
  const read = await readList(
    source.path,
    Object.values(source.map.columns),
    ({ header }) => rows.start(header),
    async (batch, lines, next) => {
      end = next;
      // The first batch after a stop brings back which barcodes were seen.
      if (takenUp) await rows.noteSeen(work.parts.map((p) => `${folder}/${p.name}`));
      takenUp = false;
      for (let k = 0; k < batch.length; k++) {
        rows.take(batch[k] as readonly string[], lines[k] as number, now, work);
        if (now.count === now.capacity) now = now.widened();
      }
      if (now.count + now.refused.length < (work.steps === 0 ? FIRST_PART : PART)) return;
      if (!(await parts.store(work, now, rows, next, false))) {
        elsewhere = true;
        return 'stop';
      }
      now = parts.place();
      if (Date.now() > until && (await turn.othersWait())) return 'stop';
    },
    work.at,
  );
  if (elsewhere) return 'elsewhere';
  // Where the file still grows, its end so far is a place like any other.
  if (read.whole && !(await parts.store(work, now, rows, end, !source.grows))) return 'elsewhere';
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
