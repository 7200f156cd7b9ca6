/**
 * What one workspace and one person may take up, so that nobody takes it from the others; said on the lists'
 * page before it bites.
 */
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import { countUp, digest } from '../auth/tries.ts';
import { inWorkspace, reachable } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { enquiry, purchaseOrder, settlement, shelfCheck, supplierList, task } from '../db/schema.ts';
import { fault } from '../../core/fault.ts';
import { Refusal, refused } from '../refusal.ts';

/** Lists, bytes of their files and rows read of a workspace, deleted ones that are still kept among them. */
export const QUOTA = { lists: 500, bytes: 25_000_000_000, rows: 40_000_000 } as const;
export type Usage = Record<keyof typeof QUOTA, number>;
/** Requests a minute of one person; some twenty times what the busiest hand makes. */
const REQUESTS_A_MINUTE = 3000;
/** So many are counted here before the database is told of them. */
const AT_ONCE = 25;

/** What a workspace takes up now. */
export async function usageOf(workspaceId: string): Promise<Usage> {
  return inWorkspace(workspaceId, async (tx) => {
    const [files] = await tx
      .select({
        lists: sql<number>`count(*)::int`,
        bytes: sql<string>`coalesce(sum((${supplierList.file} ->> 'bytes')::bigint
            + coalesce((${supplierList.reference} -> 'file' ->> 'bytes')::bigint, 0)), 0)`,
      })
      .from(supplierList)
      .where(eq(supplierList.workspaceId, workspaceId));
    const shown = tx
      .select({ id: supplierList.runId })
      .from(supplierList)
      .where(and(eq(supplierList.workspaceId, workspaceId), isNull(supplierList.deletedAt)));
    const [rows] = await tx
      .select({ rows: sql<string>`coalesce(sum((${task.data} ->> 'valid')::bigint), 0)` })
      .from(task)
      .where(and(eq(task.workspaceId, workspaceId), inArray(task.id, shown)));
    return { lists: files?.lists ?? 0, bytes: Number(files?.bytes ?? 0), rows: Number(rows?.rows ?? 0) };
  });
}

/** Refuses one more list where the workspace has all it may have. */
export async function needRoomForList(workspaceId: string): Promise<void> {
  const now = await usageOf(workspaceId);
  const full = (Object.keys(QUOTA) as (keyof Usage)[]).find((k) => now[k] >= QUOTA[k]);
  if (full === undefined) return;
  const most = { lists: QUOTA.lists, bytes: Math.round(QUOTA.bytes / 1e9), rows: QUOTA.rows / 1e6 }[full];
  throw refused({ lists: 'quotaLists', bytes: 'quotaBytes', rows: 'quotaRows' }[full], { most });
}

/** Reports of settlements, bytes of their files and lines read of them that a workspace may keep. */
const MOST_REPORTS = { count: 2000, bytes: 10_000_000_000, lines: 20_000_000 } as const;
/** Refuses one more report where the workspace has all it may have. */
export async function needRoomForReport(
  tx: Tx,
  workspaceId: string,
  most: Record<keyof typeof MOST_REPORTS, number> = MOST_REPORTS,
): Promise<void> {
  const [now] = await tx
    .select({
      count: sql<number>`count(*)::int`,
      bytes: sql<string>`coalesce(sum((${settlement.file} ->> 'bytes')::bigint), 0)`,
      lines: sql<string>`coalesce(sum((${settlement.said} ->> 'lines')::bigint), 0)`,
    })
    .from(settlement)
    .where(eq(settlement.workspaceId, workspaceId));
  const full = (Object.keys(most) as (keyof typeof most)[]).some((k) => Number(now?.[k] ?? 0) >= most[k]);
  if (full) throw refused('quotaReports');
}

/** Checks at a shelf that a workspace may keep. */
const MOST_CHECKS = 200_000;
/** Refuses more checks where the workspace has all it may have; no further is counted than to there. */
export async function needRoomForChecks(tx: Tx, workspaceId: string, most = MOST_CHECKS): Promise<void> {
  const some = tx
    .select({ id: shelfCheck.id })
    .from(shelfCheck)
    .where(eq(shelfCheck.workspaceId, workspaceId))
    .limit(most)
    .as('some');
  const [row] = await tx.select({ n: sql<number>`count(*)::int` }).from(some);
  if ((row?.n ?? 0) >= most) throw refused('quotaChecks', { most });
}

/** Purchase orders that a workspace may keep. */
const MOST_ORDERS = 20_000;
/** Refuses more orders where the workspace has all it may have. */
export async function needRoomForOrders(tx: Tx, workspaceId: string, most = MOST_ORDERS): Promise<void> {
  const [row] = await tx
    .select({ n: sql<number>`count(*)::int` })
    .from(purchaseOrder)
    .where(eq(purchaseOrder.workspaceId, workspaceId));
  if ((row?.n ?? 0) >= most) throw refused('quotaOrders', { most });
}

/** Enquiries that a workspace may keep. */
const MOST_ENQUIRIES = 20_000;
/** Refuses more enquiries where the workspace has all it may have. */
export async function needRoomForEnquiries(
  tx: Tx,
  workspaceId: string,
  most = MOST_ENQUIRIES,
): Promise<void> {
  const [row] = await tx
    .select({ n: sql<number>`count(*)::int` })
    .from(enquiry)
    .where(eq(enquiry.workspaceId, workspaceId));
  if ((row?.n ?? 0) >= most) throw refused('quotaEnquiries', { most });
}

const counts = new Map<string, number>();
/** Counts a request of a person; too many within a minute are refused. */
export async function countRequest(personId: string): Promise<void> {
  const n = (counts.get(personId) ?? 0) + 1;
  if (n < AT_ONCE) {
    counts.set(personId, n);
    if (counts.size > 10_000) counts.clear();
    return;
  }
  counts.delete(personId);
  if (
    !(await reachable(() =>
      countUp([{ key: digest('requests', personId), most: REQUESTS_A_MINUTE, seconds: 60, by: AT_ONCE }]),
    ))
  )
    throw new Refusal('tooMany', fault('tooManyRequests'));
}
