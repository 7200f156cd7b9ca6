/** Reading a report: a short one at once, a long one on the server while one goes on. */
import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Fault } from '../../core/fault.ts';
import { inWorkspace } from '../db/client.ts';
import { settlement, task } from '../db/schema.ts';
import type { TaskState } from '../db/schema.ts';
import { gone, refused } from '../refusal.ts';
import { readSettlement } from './settlements.ts';
import type { HowToRead } from './settlements.ts';
import { storeTask, wake } from './tasks.ts';

/** Bytes of a report that is read while one waits: some twenty thousand lines. */
const SHORT_BYTES = 1_500_000;

const workOn = (workspaceId: string, reportId: string) =>
  and(
    eq(task.workspaceId, workspaceId),
    eq(task.kind, 'readReport'),
    sql`${task.data} ->> 'reportId' = ${reportId}`,
  );

/** Reads a report, or has it read. @throws Refusal `invalid` where it does not fit, or is being read already */
export async function readReport(
  workspaceId: string,
  reportId: string,
  how: HowToRead,
  by: string,
): Promise<'read' | 'reading'> {
  const id = await inWorkspace(workspaceId, async (tx) => {
    const [report] = await tx
      .select({ bytes: sql<number>`(${settlement.file} ->> 'bytes')::int` })
      .from(settlement)
      .where(and(eq(settlement.workspaceId, workspaceId), eq(settlement.id, reportId)))
      .for('update');
    if (report === undefined) throw gone();
    const [busy] = await tx
      .select({ id: task.id })
      .from(task)
      .where(and(workOn(workspaceId, reportId), inArray(task.state, ['waiting', 'running'])))
      .limit(1);
    if (busy !== undefined) throw refused('reportBeingRead');
    return report.bytes <= SHORT_BYTES
      ? null
      : storeTask(tx, workspaceId, 'readReport', { reportId, ...how }, 0, by);
  });
  if (id === null) {
    await readSettlement(workspaceId, reportId, how);
    return 'read';
  }
  await wake('readReport', workspaceId, id);
  return 'reading';
}

/** How far the last reading of a long report is; null: there was none. */
export async function readingOf(
  workspaceId: string,
  reportId: string,
): Promise<{ state: TaskState; done: number; error: Fault | null } | null> {
  const [last] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ state: task.state, done: task.done, error: task.error })
      .from(task)
      .where(workOn(workspaceId, reportId))
      .orderBy(desc(task.createdAt))
      .limit(1),
  );
  return last ?? null;
}
