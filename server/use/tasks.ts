/** Long work and the notices it ends in. */
import { and, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { lane, notice, task } from '../db/schema.ts';
import type { TaskState } from '../db/schema.ts';
import { log } from '../log.ts';
import { queue } from '../jobs/boss.ts';
import { JOBS } from '../jobs/kinds.ts';
import type { Asked, Piece, TaskKind } from '../jobs/kinds.ts';
import { newId } from './workspaces.ts';
import type { Fault } from '../../core/fault.ts';
import type { Notice } from '../../core/workspace/notices.ts';

/** Whether work goes on by itself: nobody has ended it, and it has not ended. */
export const isUnderWay = (state: TaskState): boolean => state === 'waiting' || state === 'running';

export type TaskHead = {
  id: string;
  kind: TaskKind;
  state: TaskState;
  done: number;
  total: number;
  data: Record<string, unknown>;
  error: Fault | null;
  createdBy: string | null;
  createdAt: Date;
};
export const taskColumns = {
  id: task.id,
  kind: task.kind,
  state: task.state,
  done: task.done,
  total: task.total,
  data: task.data,
  error: task.error,
  createdBy: task.createdBy,
  createdAt: task.createdAt,
};

/**
 * Stores a piece of long work together with what it is about: from then on it will be done, since a worker finds
 * what is stored and at nobody. `wake` only lets it begin at once. Returns its id.
 */
export async function storeTask<K extends TaskKind>(
  tx: Tx,
  workspaceId: string,
  kind: K,
  asked: Asked<K>,
  total: number,
  by: string,
): Promise<string> {
  const id = newId();
  const data = JOBS[kind].asks.parse(asked);
  await tx.insert(task).values({ workspaceId, id, kind, data, total, createdBy: by });
  return id;
}

/** Tells the queue of a piece that is stored. A queue that is away is no fault of whoever asked for the work. */
export async function wake(kind: TaskKind, workspaceId: string, taskId: string): Promise<void> {
  try {
    await (await queue()).send(JOBS[kind].queue, { workspaceId, taskId } satisfies Piece);
  } catch (e) {
    log.warn({ message: e instanceof Error ? e.message : String(e) }, 'the queue was not told of a piece');
  }
}

/** Stores a piece of long work by itself, and has it begin; returns its id. */
export async function startTask<K extends TaskKind>(
  workspaceId: string,
  kind: K,
  asked: Asked<K>,
  total: number,
  by: string,
): Promise<string> {
  const id = await inWorkspace(workspaceId, (tx) => storeTask(tx, workspaceId, kind, asked, total, by));
  await wake(kind, workspaceId, id);
  return id;
}

/** Has all lanes weighed again: what their results read (home currency, VAT standings, launch plan) has changed. */
export async function weighAllAgain(workspaceId: string, by: string): Promise<string> {
  const [count] = await inWorkspace(workspaceId, (tx) =>
    tx.select({ n: sql<number>`count(*)::int` }).from(lane).where(eq(lane.workspaceId, workspaceId)),
  );
  return startTask(workspaceId, 'weighAgain', {}, count?.n ?? 0, by);
}

/** Work that is waiting or running, and what ended in the last minute. */
export async function tasksNow(workspaceId: string): Promise<TaskHead[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select(taskColumns)
      .from(task)
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          sql`(${task.state} in ('waiting', 'running') or ${task.updatedAt} > now() - interval '1 minute')`,
        ),
      )
      .orderBy(desc(task.createdAt))
      .limit(20),
  );
}

export async function loadTask(workspaceId: string, id: string): Promise<TaskHead | null> {
  return inWorkspace(
    workspaceId,
    async (tx) =>
      (
        await tx
          .select(taskColumns)
          .from(task)
          .where(and(eq(task.workspaceId, workspaceId), eq(task.id, id)))
      )[0] ?? null,
  );
}

/** Stops a piece of work after the chunk it is at; what is done stays done. */
export async function cancelTask(workspaceId: string, id: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) => cancelTasks(tx, workspaceId, [id]));
}

/** The same for several, within a transaction; what has ended stays as it ended. */
export async function cancelTasks(tx: Tx, workspaceId: string, ids: readonly string[]): Promise<void> {
  if (ids.length > 0)
    await tx
      .update(task)
      .set({ state: 'cancelled', updatedAt: new Date() })
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          inArray(task.id, [...ids]),
          inArray(task.state, ['waiting', 'running']),
        ),
      );
}

// ---- notices
// -------------------------------------------------------------------------------------------------------

export type NewNotice = Omit<Notice, 'id' | 'at'>;

export async function addNotices(tx: Tx, workspaceId: string, notices: readonly NewNotice[]): Promise<void> {
  if (notices.length > 0)
    await tx.insert(notice).values(notices.map((n) => ({ workspaceId, id: newId(), ...n })));
}

export async function latestNotices(workspaceId: string): Promise<(Notice & { read: boolean })[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select({
        id: notice.id,
        kind: notice.kind,
        data: notice.data,
        link: notice.link,
        at: notice.at,
        read: sql<boolean>`${notice.readAt} is not null`,
      })
      .from(notice)
      .where(eq(notice.workspaceId, workspaceId))
      .orderBy(desc(notice.at))
      .limit(50),
  );
}

export async function readNotices(workspaceId: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(notice)
      .set({ readAt: new Date() })
      .where(and(eq(notice.workspaceId, workspaceId), isNull(notice.readAt))),
  );
}

/** How far asking a feed is: what was seen, and what it did wrong. Null: there is no such piece of work. */
export async function askedTask(
  workspaceId: string,
  id: string,
): Promise<{ state: TaskState; seen: number; faults: Fault[] } | null> {
  const [t] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select(taskColumns)
      .from(task)
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, id), eq(task.kind, 'watchMarkets'))),
  );
  if (t === undefined) return null;
  const { seen, faults } = t.data as { seen?: number; faults?: Fault[] };
  return {
    state: t.state,
    seen: seen ?? 0,
    faults: [...(faults ?? []), ...(t.error === null ? [] : [t.error])],
  };
}
