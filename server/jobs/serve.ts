/** Takes pieces of long work from a queue until the process ends: the one runner of all long work. */
import { and, eq, inArray, sql } from 'drizzle-orm';
import { inWorkspace, isDatabaseAway } from '../db/client.ts';
import { task } from '../db/schema.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { log } from '../log.ts';
import { queue } from './boss.ts';
import { kindsOf } from './kinds.ts';
import type { Piece, Queue } from './kinds.ts';
import { claim, letGo, MOST_KILLS, release, sweepLeases } from './leases.ts';

/** Times a piece of work is begun again after an error that nobody foresaw. */
const TRIES = 5;

export type Service = {
  readonly queue: Queue;
  /** Works on a piece until it is done or its turn is over. True where there is more to do. */
  readonly work: (job: Piece, othersWait: () => Promise<boolean>) => Promise<boolean>;
};

/** How far a task is: moves with every chunk that is stored. */
async function progressOf({ workspaceId, taskId }: Piece): Promise<number> {
  const [t] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ at: sql<number>`${task.done} + coalesce((${task.data} ->> 'steps')::int, 0)` })
      .from(task)
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId))),
  );
  return Number(t?.at ?? 0);
}

async function fail({ workspaceId, taskId }: Piece, error: Fault): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(task)
      .set({ state: 'failed', error, updatedAt: new Date() })
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          eq(task.id, taskId),
          inArray(task.state, ['waiting', 'running']),
        ),
      ),
  );
}

export async function serve(service: Service): Promise<void> {
  const boss = await queue(true);
  const send = (job: Piece): Promise<unknown> => boss.send(service.queue, job);
  const othersWait = async (): Promise<boolean> =>
    (await boss.getQueueSize(service.queue, { before: 'active' })) > 0;
  const failures = new Map<string, number>();
  sweepLeases(service.queue, kindsOf(service.queue), send);
  await boss.work<Piece>(service.queue, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([job]) => {
    if (job === undefined) return;
    const piece = job.data;
    const mine = await claim(piece, service.queue, progressOf);
    if (mine === null) return;
    try {
      if (mine.kills >= MOST_KILLS) {
        await fail(piece, fault('workKilled', { times: MOST_KILLS, queue: service.queue }));
        await release(piece.taskId);
      } else if (await service.work(piece, othersWait)) {
        await letGo(piece.taskId);
        await send(piece);
      } else await release(piece.taskId);
    } catch (e) {
      log.warn({ message: e instanceof Error ? e.message : String(e) }, 'a piece of work stopped');
      const count = (failures.get(piece.taskId) ?? 0) + 1;
      failures.set(piece.taskId, count);
      // A database that is away is waited for: the silent lease brings the work back.
      if (isDatabaseAway(e) || count < TRIES) {
        await letGo(piece.taskId);
        return;
      }
      await fail(piece, fault('workStopped', { queue: service.queue })).catch(() => undefined);
      await release(piece.taskId);
    }
  });
}
