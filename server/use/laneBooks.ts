/** The entries of lanes on sale in the books: taken as they stand, worked out anew where something has changed. */
import { createHash } from 'node:crypto';
import { and, asc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { bookOf } from '../../core/actuals/book.ts';
import type { LaneBook } from '../../core/actuals/book.ts';
import { decisionsOf } from '../../core/actuals/decide.ts';
import { estimatesOf, learnedWidths } from '../../core/actuals/estimates.ts';
import type { Misses } from '../../core/actuals/estimates.ts';
import type { Stopped } from '../../core/actuals/letGo.ts';
import { pacePerMonth } from '../../core/actuals/takeOver.ts';
import { nextOrder } from '../../core/cash/nextOrder.ts';
import type { NextOrder, OnShelf } from '../../core/cash/nextOrder.ts';
import { SENT } from '../../core/orders/states.ts';
import type { Learned } from '../../core/risk/offered.ts';
import { cashPlanOf, fundPlanOf } from '../../core/workspace/fundPlan.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, launchedLane, purchaseOrder } from '../db/schema.ts';
import { today } from '../env.ts';
import { openClaims } from './claims.ts';
import { noticeDrift } from './driftNotices.ts';
import { onSaleIn } from './onSale.ts';
import type { LaneOnSale } from './onSale.ts';
import { tryLockReports } from './settledPlaces.ts';
import { settingsIn } from './workspaces.ts';

/** What is on the shelf and comes in, and the pace it sells at; null: not known, or the lane is let go. */
export function shelfOf({ launched, lately, sold, stock, coming }: LaneOnSale): Omit<OnShelf, 'day'> | null {
  if (stock.units === null || launched.stopped !== null || lately === null) return null;
  const months = sold.months.filter((m) => m.month >= lately.from.slice(0, 7));
  const pace = pacePerMonth(launched.document, lately, months);
  if (pace === 0) return null;
  return {
    stock: stock.units,
    onTheWay: coming.map((c) => ({ day: c.day ?? today(), units: c.units })),
    unitsPerMonth: pace,
  };
}

/** The next order of a lane, where its stock and its pace are known. */
export function nextOf(l: LaneOnSale, settings: Settings): NextOrder | null {
  const shelf = shelfOf(l);
  if (shelf === null) return null;
  const plan = cashPlanOf(fundPlanOf(l.launched.candidate, settings.launch), today());
  return nextOrder(l.launched.document, plan, { ...shelf, day: today() }).next;
}

/** A lane's entry as it is now. */
export function entryOf(
  l: LaneOnSale,
  next: NextOrder | null,
  claims: { readonly amount: number; readonly count: number } | undefined,
  key: string,
): LaneBook {
  const { stopped, document } = l.launched;
  const decisions =
    stopped === null
      ? decisionsOf(document, l.sold.whole, l.lately, claims ?? { amount: 0, count: 0 }, next, today())
      : [];
  return bookOf(key, document, l.sold, l.lately, { last: l.place.last, stock: l.stock, decisions });
}

export type LaneEntry = {
  readonly laneId: string;
  readonly candidateId: string;
  readonly name: string;
  readonly place: string;
  readonly codes: readonly string[];
  readonly since: string;
  readonly stopped: Stopped | null;
  readonly book: LaneBook;
};

/** What the entries of all lanes are worked out from beside reports, claims, counts and decisions, which void them. */
async function fingerprint(tx: Tx, workspaceId: string, settings: Settings): Promise<string> {
  const [orders] = await tx
    .select({ n: sql<number>`count(*)::int`, at: sql<string | null>`max(${purchaseOrder.updatedAt})::text` })
    .from(purchaseOrder)
    .where(and(eq(purchaseOrder.workspaceId, workspaceId), inArray(purchaseOrder.state, [...SENT])));
  return JSON.stringify([today(), settings.launch, settings.drift, orders]);
}
const digest = (...of: unknown[]): string => createHash('sha256').update(JSON.stringify(of)).digest('hex');

/** Every lane on sale of a candidate that is there, in the order they were launched. What drifts is told of. */
export async function laneEntries(tx: Tx, workspaceId: string, settings: Settings): Promise<LaneEntry[]> {
  const all = await fingerprint(tx, workspaceId, settings);
  const rows = await tx
    .select({
      laneId: launchedLane.laneId,
      candidateId: launchedLane.candidateId,
      name: sql<string>`${candidate.data} ->> 'name'`,
      plan: sql<unknown>`jsonb_build_array(${candidate.data} -> 'overTime', ${candidate.data} -> 'launch')`,
      place: launchedLane.place,
      codes: launchedLane.codes,
      since: launchedLane.since,
      stopped: launchedLane.stopped,
      book: launchedLane.book,
    })
    .from(launchedLane)
    .innerJoin(
      candidate,
      and(eq(candidate.workspaceId, launchedLane.workspaceId), eq(candidate.id, launchedLane.candidateId)),
    )
    .where(and(eq(launchedLane.workspaceId, workspaceId), isNull(candidate.deletedAt)))
    .orderBy(asc(launchedLane.createdAt));
  const keys = new Map(rows.map((r) => [r.laneId, digest(all, r.plan)]));
  const stale = rows.filter((r) => r.book?.key !== keys.get(r.laneId)).map((r) => r.laneId);
  const fresh = stale.length === 0 ? new Map() : await workedOut(tx, workspaceId, stale, keys);
  return rows.flatMap(({ plan: _, book, ...row }) => {
    const now: LaneBook | null = fresh.get(row.laneId) ?? book;
    return now === null ? [] : [{ ...row, book: now }];
  });
}

/**
 * Entries worked out anew. They are kept unless a report is being read: what it is about to say would make them old,
 * and nobody would know.
 */
async function workedOut(
  tx: Tx,
  workspaceId: string,
  lanes: readonly string[],
  keys: ReadonlyMap<string, string>,
): Promise<Map<string, LaneBook>> {
  const isQuiet = await tryLockReports(tx, workspaceId);
  const claims = await openClaims(tx, workspaceId);
  const now = await onSaleIn(tx, workspaceId, { lanes });
  const worked = now.lanes.map((l) => {
    const { launched } = l;
    const key = keys.get(launched.laneId) ?? '';
    return { launched, book: entryOf(l, nextOf(l, now.settings), claims.get(launched.laneId), key) };
  });
  if (isQuiet) {
    await tx.execute(sql`
      update bm.launched_lane l set book = b.book::jsonb
      from unnest(${sql.param(worked.map((w) => w.launched.laneId))}::text[],
        ${sql.param(worked.map((w) => JSON.stringify(w.book)))}::text[]) as b(lane_id, book)
      where l.workspace_id = ${workspaceId} and l.lane_id = b.lane_id`);
    await noticeDrift(tx, workspaceId, worked);
  }
  return new Map(worked.map((w) => [w.launched.laneId, w.book]));
}

/** How far one's own launches were off, by the books as they stand. */
export const learnedIn = (workspaceId: string): Promise<Learned> =>
  inWorkspace(workspaceId, async (tx) => {
    const rows = await tx
      .select({ misses: sql<Misses>`${launchedLane.book} -> 'misses'` })
      .from(launchedLane)
      .where(and(eq(launchedLane.workspaceId, workspaceId), isNotNull(launchedLane.book)));
    return learnedWidths(estimatesOf(rows.map((r) => r.misses)));
  });

/** Brings the books of a workspace up to date, so that what drifts is told of though nobody looks. */
export const keepBooks = (workspaceId: string): Promise<void> =>
  inWorkspace(workspaceId, async (tx) => {
    const [any] = await tx
      .select({ laneId: launchedLane.laneId })
      .from(launchedLane)
      .where(eq(launchedLane.workspaceId, workspaceId))
      .limit(1);
    const settings = any === undefined ? null : await settingsIn(tx, workspaceId);
    if (settings !== null) await laneEntries(tx, workspaceId, settings);
  });
