/** What launches of a workspace share: read whole, its rules kept, solved by a job, its plan made their own. */
import { createHash } from 'node:crypto';
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { cashTerms } from '../../core/cash/schema.ts';
import type { CardData } from '../../core/cards/schema.ts';
import type { PurseAnswered, PurseWorkSaid } from '../../between/purseWork.ts';
import type { PurseSaid } from '../../core/purse/purse.ts';
import type { PurseDocument } from '../../core/purse/schema.ts';
import { purseOfWorkspace, purseSaved, withSaved } from '../../core/workspace/purse.ts';
import type { PurseCandidate, PurseSaved, PurseSource } from '../../core/workspace/purse.ts';
import { cardsOf } from '../../core/workspace/compose.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, quote, rateCard, task } from '../db/schema.ts';
import { today } from '../env.ts';
import { AGREED } from '../../core/orders/states.ts';
import { ordersIn } from './orders.ts';
import { laneColumns, quoteColumns } from './columns.ts';
import type { Asked } from '../jobs/kinds.ts';
import { savePatches } from './savePatches.ts';
import { cancelTask, isUnderWay, storeTask, taskColumns, wake } from './tasks.ts';
import { saveSettings, settingsIn } from './workspaces.ts';

/** Candidates that are there to be launched, each with its lanes; five statements. Null: no workspace. */
export const loadPurse = (workspaceId: string): Promise<PurseSource | null> =>
  inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) return null;
    const rows = await tx
      .select({ id: candidate.id, data: candidate.data })
      .from(candidate)
      .where(
        and(
          eq(candidate.workspaceId, workspaceId),
          isNull(candidate.deletedAt),
          isNull(candidate.archivedAt),
          isNull(candidate.droppedAt),
        ),
      )
      .orderBy(asc(candidate.createdAt));
    const ids = rows.map((r) => r.id);
    if (ids.length === 0) return { settings, cards: {}, today: today(), candidates: [], orders: [] };
    const lanes = await tx
      .select(laneColumns)
      .from(lane)
      .where(and(eq(lane.workspaceId, workspaceId), inArray(lane.candidateId, ids), isNull(lane.scenarioOf)))
      .orderBy(asc(lane.position), asc(lane.createdAt));
    const quotes = await tx
      .select(quoteColumns)
      .from(quote)
      .where(and(eq(quote.workspaceId, workspaceId), inArray(quote.candidateId, ids)));
    const used = cardsOf(lanes.map((l) => l.data));
    const cards =
      used.length === 0
        ? []
        : await tx
            .select({ id: rateCard.id, data: rateCard.data })
            .from(rateCard)
            .where(and(eq(rateCard.workspaceId, workspaceId), inArray(rateCard.id, used)));
    return {
      settings,
      cards: Object.fromEntries(cards.map((c) => [c.id, c.data as CardData])),
      today: today(),
      orders: await ordersIn(tx, workspaceId, AGREED),
      candidates: rows.map(
        (r): PurseCandidate => ({
          id: r.id,
          data: r.data,
          quotes: Object.fromEntries(quotes.filter((q) => q.candidateId === r.id).map((q) => [q.id, q.data])),
          lanes: lanes.filter((l) => l.candidateId === r.id).map(({ id, data }) => ({ id, data })),
        }),
      ),
    };
  });

/** Keeps what the purse's page changed of the workspace's settings. */
export async function savePurse(workspaceId: string, changed: Partial<PurseSaved>): Promise<void> {
  await saveSettings(workspaceId, (s) => withSaved(s, { ...purseSaved(s), ...changed }));
}

// ---- solved by a job
// ---------------------------------------------------------------------------------------------------------

/** What a task on a purse keeps in its data: what was asked, and at the end what was said about which purse. */
export type PurseTask = Asked<'solvePurse'> & { mark?: string; said?: PurseSaid; took?: number };

/** The purse as the workspace keeps it now, with the cash there is; null: none, or its cash is not known. */
export async function keptPurse(workspaceId: string): Promise<PurseDocument | null> {
  const source = await loadPurse(workspaceId);
  return source === null || source.settings.launch.cash === null ? null : purseOfWorkspace(source);
}

/** Tells purses apart, whatever time they let the solver think. */
export const purseMark = (document: PurseDocument): string =>
  createHash('sha256')
    .update(JSON.stringify({ ...document, seconds: 0 }))
    .digest('base64url');

/** The newest work on the workspace's purse. */
export const newestPurseTask = (workspaceId: string) =>
  inWorkspace(workspaceId, (tx) => newestIn(tx, workspaceId));

async function newestIn(tx: Tx, workspaceId: string) {
  const [newest] = await tx
    .select({ ...taskColumns, updatedAt: task.updatedAt })
    .from(task)
    .where(and(eq(task.workspaceId, workspaceId), eq(task.kind, 'solvePurse')))
    .orderBy(desc(task.createdAt))
    .limit(1);
  return newest ?? null;
}

/** How far the newest work on the workspace's purse is; null: there was none. */
export async function purseWork(workspaceId: string): Promise<PurseWorkSaid | null> {
  const newest = await newestPurseTask(workspaceId);
  return newest === null ? null : workSaid(newest);
}

const workSaid = (newest: NonNullable<Awaited<ReturnType<typeof newestPurseTask>>>): PurseWorkSaid => ({
  state: isUnderWay(newest.state) ? 'working' : newest.state === 'done' ? 'done' : 'ended',
  done: newest.done,
  all: newest.total,
});

/** What the newest work on the purse said; `isCurrent`: about the purse as it stands. Null: there was none. */
export async function purseAnswered(workspaceId: string, source: PurseSource): Promise<PurseAnswered | null> {
  const newest = await newestPurseTask(workspaceId);
  if (newest === null) return null;
  const { seconds, mark, said, took } = newest.data as PurseTask;
  return {
    ...workSaid(newest),
    asked: seconds,
    at: newest.updatedAt.toISOString(),
    said: said ?? null,
    took: took ?? 0,
    isCurrent: mark !== undefined && mark === purseMark(purseOfWorkspace(source)),
  };
}

/** Has the server solve the purse; where it is at it already, that goes on. */
export async function startPurse(workspaceId: string, seconds: number, by: string): Promise<void> {
  const begun = await inWorkspace(workspaceId, async (tx) => {
    // However many press at the same time, one is begun.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`purse/${workspaceId}`}, 0))`);
    const newest = await newestIn(tx, workspaceId);
    return newest !== null && isUnderWay(newest.state)
      ? null
      : storeTask(tx, workspaceId, 'solvePurse', { seconds }, 0, by);
  });
  if (begun !== null) await wake('solvePurse', workspaceId, begun);
}

/** Ends the work on the purse that is under way. */
export async function stopPurse(workspaceId: string): Promise<void> {
  const newest = await newestPurseTask(workspaceId);
  if (newest !== null) await cancelTask(workspaceId, newest.id);
}

export type LaunchChosen = {
  readonly candidate: string;
  readonly lane: string;
  readonly quantity: number;
  readonly start: string;
};

/**
 * Makes a plan of the purse the launch plans of its candidates: the lane, its order quantity, its first day.
 *
 * @returns ids of the candidates that could not be changed, because they are gone or somebody changes them just now
 */
export async function adoptPlan(
  workspaceId: string,
  chosen: readonly LaunchChosen[],
  by: string,
): Promise<string[]> {
  const source = await loadPurse(workspaceId);
  const refused: string[] = [];
  for (const { candidate: id, lane: laneId, quantity, start } of chosen) {
    const own = source?.candidates.find((c) => c.id === id);
    const ownLane = own?.lanes.find((l) => l.id === laneId);
    if (own === undefined || ownLane === undefined) {
      refused.push(id);
      continue;
    }
    const { overTime, launchLane } = own.data;
    const saved = await savePatches(
      workspaceId,
      id,
      [
        {
          entity: 'candidate',
          id,
          path: ['overTime'],
          from: overTime,
          to: { ...(overTime ?? cashTerms.parse({})), start },
        },
        { entity: 'candidate', id, path: ['launchLane'], from: launchLane, to: laneId },
        {
          entity: 'lane',
          id: laneId,
          path: ['orderQuantity'],
          from: ownLane.data.orderQuantity,
          to: quantity,
        },
      ],
      by,
    );
    if (!saved.ok) refused.push(id);
  }
  return refused;
}
