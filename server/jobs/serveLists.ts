/** Takes jobs on lists from the queue until the process ends. */
import { and, eq, inArray } from 'drizzle-orm';
import { inWorkspace, isDatabaseAway } from '../db/client.ts';
import { task } from '../db/schema.ts';
import { log } from '../log.ts';
import { LISTS, queue } from './boss.ts';
import type { LanesJob } from './boss.ts';
import { claim, letGo, release, sweepLeases } from './leases.ts';
import { workOnList } from './readList.ts';

/** How long a list is worked on while others wait, and in any case. */
const TURN_MS = 2000;
/** Times a piece of work is begun again after an error that nobody foresaw. */
const TRIES = 5;

export async function serveLists(): Promise<void> {
  const boss = await queue(true);
  const send = (job: LanesJob): Promise<unknown> => boss.send(LISTS, job);
  const othersWait = async (): Promise<boolean> => (await boss.getQueueSize(LISTS, { before: 'active' })) > 0;
  const failures = new Map<string, number>();
  sweepLeases(LISTS, send);
  await boss.work<LanesJob>(LISTS, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([job]) => {
    if (job === undefined) return;
    const { workspaceId, taskId } = job.data;
    if (!(await claim(job.data, LISTS))) return;
    try {
      const more = await workOnList(workspaceId, taskId, { turnMs: TURN_MS, othersWait });
      if (more) {
        await letGo(taskId);
        await send(job.data);
      } else await release(taskId);
    } catch (e) {
      log.warn({ message: e instanceof Error ? e.message : String(e) }, 'reading a list stopped');
      const count = (failures.get(taskId) ?? 0) + 1;
      failures.set(taskId, count);
      // A database that is away is waited for: the silent lease brings the work back.
      if (isDatabaseAway(e) || count < TRIES) {
        await letGo(taskId);
        return;
      }
      await inWorkspace(workspaceId, (tx) => tx.update(task).set({ state: 'failed', error: 'Reading stopped with an error. The file is kept; run it again.', updatedAt: new Date() }).where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId), inArray(task.state, ['waiting', 'running'])))).catch(() => undefined);
      await release(taskId);
    }
  });
}
