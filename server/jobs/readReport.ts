/** Long work on reports, done on the server while the page may be closed: whole or not at all. */
import { and, eq, inArray } from 'drizzle-orm';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { inWorkspace } from '../db/client.ts';
import { task } from '../db/schema.ts';
import { Refusal } from '../refusal.ts';
import { isDiskFull } from '../files/store.ts';
import { findClaims, voidBooks } from '../use/claims.ts';
import { lockReports } from '../use/settledPlaces.ts';
import { ReadingEnded, readSettlement } from '../use/settlements.ts';
import { addNotices, isUnderWay, loadTask } from '../use/tasks.ts';
import type { Asked, Piece } from './kinds.ts';
import type { Service } from './serve.ts';

/**
 * Reads the report of a piece of work. All of it stands in one transaction: a worker that is killed, or a person who
 * ends it, leaves what was there before. False: there is no more to do.
 */
export async function readReportOnServer({ workspaceId, taskId }: Piece): Promise<boolean> {
  const asked = await loadTask(workspaceId, taskId);
  if (asked === null || !isUnderWay(asked.state)) return false;
  const { reportId, ...how } = asked.data as Asked<'readReport'>;
  const own = and(eq(task.workspaceId, workspaceId), eq(task.id, taskId));
  /** Notes how far it is, beside the transaction; false: nobody wants it any more. */
  const tell = async (done: number): Promise<boolean> => {
    const rows = await inWorkspace(workspaceId, (tx) =>
      tx
        .update(task)
        .set({ state: 'running', done, updatedAt: new Date() })
        .where(and(own, inArray(task.state, ['waiting', 'running'])))
        .returning({ id: task.id }),
    );
    return rows.length > 0;
  };
  const fail = async (error: Fault): Promise<void> => {
    await inWorkspace(workspaceId, (tx) =>
      tx.update(task).set({ state: 'failed', error, updatedAt: new Date() }).where(own),
    );
  };
  try {
    const said = await readSettlement(workspaceId, reportId, how, tell);
    await inWorkspace(workspaceId, async (tx) => {
      await tx.update(task).set({ state: 'done', done: said.rows, updatedAt: new Date() }).where(own);
      await addNotices(tx, workspaceId, [
        { kind: 'reportRead', data: { count: said.lines }, link: `/selling/reports/${reportId}` },
      ]);
    });
  } catch (e) {
    if (e instanceof ReadingEnded) return false;
    if (e instanceof Refusal && e.fault !== null) await fail(e.fault);
    else if (e instanceof Refusal) await fail(fault('reportGone'));
    else if (isDiskFull(e)) await fail(fault('diskFull'));
    else throw e;
  }
  return false;
}

/** Holds what a place charged against its cards anew. False: there is no more to do. */
export async function holdOnServer({ workspaceId, taskId }: Piece): Promise<boolean> {
  const asked = await loadTask(workspaceId, taskId);
  if (asked === null || !isUnderWay(asked.state)) return false;
  const { place } = asked.data as Asked<'holdAgainstCards'>;
  await inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    await findClaims(tx, workspaceId, place);
    await voidBooks(tx, workspaceId, place);
    await tx
      .update(task)
      .set({ state: 'done', updatedAt: new Date() })
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)));
  });
  return false;
}

/** Work on reports. */
export const reportsWork: Service = {
  queue: 'reports',
  work: async (piece) => {
    const asked = await loadTask(piece.workspaceId, piece.taskId);
    return asked?.kind === 'holdAgainstCards' ? holdOnServer(piece) : readReportOnServer(piece);
  },
};
