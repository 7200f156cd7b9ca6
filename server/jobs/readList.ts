import { and, eq } from 'drizzle-orm';
import { inWorkspace } from '../db/client.ts';
import { supplierList, task } from '../db/schema.ts';
import { Refusal } from '../refusal.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { isDiskFull } from '../files/store.ts';
import { matchedGoods } from '../use/matching.ts';
import { taskColumns } from '../use/tasks.ts';
import { finish, keepWhatIsRead } from './finishList.ts';
import { sourceOf } from './listTask.ts';
import type { ListTask, Source } from './listTask.ts';
import { readCatalogue } from './readCatalogue.ts';
import { readOn } from './readRows.ts';
import type { Turn } from './readRows.ts';

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
        grows: false,
      };
      const more =
        list.catalogue === null || list.runId !== null
          ? await readOn(workspaceId, taskId, work, source, turn)
          : await readCatalogue(workspaceId, taskId, work, source, list.catalogue, turn);
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
