/** The end of reading a list: titles ranked, the table attached, what is new or gone since the edition before. */
import { and, eq, sql } from 'drizzle-orm';
import { Piscina } from 'piscina';
import { LastEdition } from '../../core/lists/editions.ts';
import { KeyIndex } from '../../core/lists/rows.ts';
import { inWorkspace } from '../db/client.ts';
import { attachRun, dropRun } from '../db/loader.ts';
import { supplierList, task } from '../db/schema.ts';
import { readPart } from '../../between/parts.ts';
import { removeFolder, storePath } from '../files/store.ts';
import { addNotices } from '../use/tasks.ts';
import { rankTitles } from './rankTitles.ts';
import type { PartDone, PartJob } from './storeGathered.ts';
import { RANKED_HERE, MOST_WAITING } from './listTask.ts';
import type { ListTask, Source } from './listTask.ts';

export async function loadEdition(
  workspaceId: string,
  previous: NonNullable<Source['previous']>,
): Promise<LastEdition> {
  const last = new LastEdition();
  for (const p of previous.parts) {
    const { rows, numbers } = await readPart(storePath(workspaceId, previous.listId, previous.runId, p.name));
    for (let i = 0; i < rows; i++) last.add(String(numbers.key[i]), numbers.cost[i] as number);
  }
  return last;
}

type Of = {
  kind: string;
  name: string;
  listId: string;
  previousRun: string | null;
  previous: Source['previous'];
};

/** A first run that was cancelled keeps the rows it has read; they are shown as a part of the list. */
export async function keepWhatIsRead(workspaceId: string, taskId: string, of: Of): Promise<void> {
  const [t] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ state: task.state, data: task.data })
      .from(task)
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId))),
  );
  const work = t?.data as ListTask | undefined;
  if (
    t?.state === 'cancelled' &&
    of.kind === 'readList' &&
    of.previousRun === null &&
    (work?.parts?.length ?? 0) > 0
  )
    await finish(workspaceId, taskId, work as ListTask, of, 'cancelled');
}

/**
 * Once all rows are read: ranks, indexes, the partition; the list shows this run from now on, and a notice
 * says so.
 */
export async function finish(
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
      await tx
        .update(supplierList)
        .set({ runId: taskId, updatedAt: new Date(), ...sizesOf(work) })
        .where(which);
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

/** Files that were written here, not received, say how long they have become: quotas count them. */
function sizesOf({ catalogue }: ListTask): object {
  if (catalogue === undefined) return {};
  const { sourceBytes, referenceBytes } = catalogue;
  return {
    file: sql`jsonb_set(${supplierList.file}, '{bytes}', to_jsonb(${sourceBytes}::bigint))`,
    reference: sql`jsonb_set(${supplierList.reference}, '{file,bytes}', to_jsonb(${referenceBytes}::bigint))`,
  };
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
export const rankThread = (): Piscina => (ranking ??= thread('./rankThread.ts'));

let stores: Piscina | null = null;

/** The thread that stores parts of long lists. */
export const storeThread = (): Piscina => (stores ??= thread('./storeThread.ts'));

export async function inThread(job: PartJob): Promise<boolean> {
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
