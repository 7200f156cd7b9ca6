/** How orders begin: what may be ordered, and drafts of what was chosen. */
import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { boughtFor, lineFrom, linesOfLane, ordersOf } from '../../core/orders/fromGoods.ts';
import type { LineFrom } from '../../core/orders/fromGoods.ts';
import { orderProgress, orderTerms } from '../../core/orders/schema.ts';
import type { OrderTerms } from '../../core/orders/schema.ts';
import { SENT } from '../../core/orders/states.ts';
import type { ToOrder } from '../../between/orders.ts';
import type { QuoteSource } from '../../core/workspace/records.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import {
  candidate,
  goodsMark,
  lane,
  listRow,
  purchaseOrder,
  quote,
  supplier,
  supplierList,
} from '../db/schema.ts';
import { gone } from '../refusal.ts';
import { laneColumns, quoteColumns } from './columns.ts';
import { loadRow } from './goods.ts';
import { loadList } from './lists.ts';
import type { ListPage } from './lists.ts';
import { ordersIn, stepTo } from './orders.ts';
import { needRoomForOrders } from './quotas.ts';
import { newId, settingsIn } from './workspaces.ts';

/** Candidates and shortlisted goods of lists that an order can be made of. */
export async function loadToOrder(workspaceId: string): Promise<ToOrder> {
  return inWorkspace(workspaceId, async (tx) => {
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
      .orderBy(asc(candidate.createdAt))
      .limit(1000);
    const { lanes, quotes } = await goodsOf(
      tx,
      workspaceId,
      rows.map((r) => r.id),
    );
    const ordered = new Set(
      (await ordersIn(tx, workspaceId, [...SENT, 'draft'])).flatMap((o) =>
        o.terms.lines.map((l) => l.laneId),
      ),
    );
    const marks = await tx
      .select({
        key: goodsMark.key,
        name: goodsMark.name,
        listId: goodsMark.listId,
        list: supplierList.name,
        supplier: supplier.name,
      })
      .from(goodsMark)
      .innerJoin(
        supplierList,
        and(eq(supplierList.workspaceId, goodsMark.workspaceId), eq(supplierList.id, goodsMark.listId)),
      )
      .leftJoin(
        supplier,
        and(eq(supplier.workspaceId, supplierList.workspaceId), eq(supplier.id, supplierList.supplierId)),
      )
      .where(
        and(
          eq(goodsMark.workspaceId, workspaceId),
          eq(goodsMark.state, 'shortlisted'),
          isNull(supplierList.deletedAt),
        ),
      )
      .orderBy(desc(goodsMark.at))
      .limit(500);
    return {
      candidates: rows.flatMap((r) => {
        const its = lanes.filter((l) => l.candidateId === r.id && l.data.components.length > 0);
        const planned = its.find((l) => l.id === r.data.launchLane);
        return its.map((l) => ({
          candidateId: r.id,
          laneId: l.id,
          name: r.data.name,
          lane: l.data.name || l.data.marketplace,
          country: l.data.country,
          suppliers: [...new Set(l.data.components.map((c) => quotes[c.quoteId]?.supplier ?? ''))],
          units: l.data.orderQuantity,
          isPlanned: l === planned,
          isFirst: l === (planned ?? its[0]),
          isOrdered: ordered.has(l.id),
        }));
      }),
      goods: marks.flatMap((m) =>
        m.listId === null
          ? []
          : [{ key: m.key, listId: m.listId, name: m.name, list: m.list, supplier: m.supplier ?? '' }],
      ),
    };
  });
}

async function goodsOf(tx: Tx, workspaceId: string, ids: readonly string[]) {
  if (ids.length === 0) return { lanes: [], quotes: {} as Record<string, QuoteSource> };
  const lanes = await tx
    .select(laneColumns)
    .from(lane)
    .where(
      and(eq(lane.workspaceId, workspaceId), inArray(lane.candidateId, [...ids]), isNull(lane.scenarioOf)),
    )
    .orderBy(asc(lane.position), asc(lane.createdAt));
  const quotes = await tx
    .select(quoteColumns)
    .from(quote)
    .where(and(eq(quote.workspaceId, workspaceId), inArray(quote.candidateId, [...ids])));
  return { lanes, quotes: Object.fromEntries(quotes.map((q) => [q.id, q.data])) };
}

export const orderWish = z.strictObject({
  lanes: z.array(z.string().max(64)).max(500).default([]),
  goods: z
    .array(z.strictObject({ key: z.number().int().min(1), listId: z.string().max(64) }))
    .max(500)
    .default([]),
  /** An order without lines, to be filled by hand. */
  byHand: z.boolean().default(false),
});
export type OrderWish = z.output<typeof orderWish>;

/**
 * Drafts of what was chosen, one for each supplier and currency. Goods of a list that it no longer has are left out.
 * Returns the ids of the drafts and how many of the wishes came to nothing.
 */
export async function draftOrders(
  workspaceId: string,
  wish: OrderWish,
  by: string,
): Promise<{ ids: string[]; left: number }> {
  const rows: LineFrom[] = [];
  let left = 0;
  const pages = new Map<string, ListPage | null>();
  for (const { key, listId } of wish.goods) {
    if (!pages.has(listId)) pages.set(listId, await loadList(workspaceId, listId));
    const line = await lineOfRow(workspaceId, pages.get(listId) ?? null, key);
    if (line === null) left++;
    else rows.push(line);
  }
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) throw gone();
    const lines = [...(await linesOfLanes(tx, workspaceId, wish.lanes)), ...rows];
    const terms = ordersOf(lines);
    if (wish.byHand) terms.push(orderTerms.parse({ currency: settings.homeCurrency }));
    return { ids: await storeDrafts(tx, workspaceId, terms, by), left };
  });
}

async function linesOfLanes(tx: Tx, workspaceId: string, ids: readonly string[]): Promise<LineFrom[]> {
  if (ids.length === 0) return [];
  const asked = await tx
    .select({ id: lane.id, candidateId: lane.candidateId, data: candidate.data })
    .from(lane)
    .innerJoin(
      candidate,
      and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)),
    )
    .where(and(eq(lane.workspaceId, workspaceId), inArray(lane.id, [...ids])));
  const { lanes, quotes } = await goodsOf(
    tx,
    workspaceId,
    asked.map((a) => a.candidateId),
  );
  return ids.flatMap((id) => {
    const of = asked.find((a) => a.id === id);
    const its = lanes.find((l) => l.id === id);
    if (of === undefined || its === undefined) return [];
    return linesOfLane({ id: of.candidateId, data: of.data }, its, quotes, newId);
  });
}

/** The line that goods of a list ask for, at the list's quantity; null: it no longer has them. */
async function lineOfRow(workspaceId: string, page: ListPage | null, key: number): Promise<LineFrom | null> {
  const run = page?.shown?.id;
  if (page === null || run === undefined) return null;
  const [found] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ line: listRow.line })
      .from(listRow)
      .where(and(eq(listRow.workspaceId, workspaceId), eq(listRow.runId, run), eq(listRow.key, key)))
      .limit(1),
  );
  const opened = found === undefined ? null : await loadRow(workspaceId, page, found.line);
  const goods = opened?.doc.goods;
  if (opened === null || goods === null || goods === undefined || goods === 'none') return null;
  const [first] = goods;
  if (first === undefined) return null;
  return lineFrom(first.source, boughtFor(opened.doc.orderQuantity, first), {
    id: newId(),
    name: opened.row.title || opened.row.code,
    gtin: opened.row.code,
  });
}

/** Stores drafts, each under the next number, with what is known of its supplier. */
async function storeDrafts(
  tx: Tx,
  workspaceId: string,
  all: readonly OrderTerms[],
  by: string,
): Promise<string[]> {
  if (all.length === 0) return [];
  await needRoomForOrders(tx, workspaceId);
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`orders/${workspaceId}`}, 0))`);
  const [last] = await tx
    .select({ n: sql<number>`coalesce(max(${purchaseOrder.number}), 0)` })
    .from(purchaseOrder)
    .where(eq(purchaseOrder.workspaceId, workspaceId));
  const known = await tx
    .select({ id: supplier.id, name: supplier.name, mail: supplier.mail })
    .from(supplier)
    .where(eq(supplier.workspaceId, workspaceId));
  const values = all.map((terms, i) => {
    const its = known.find((s) => s.name.toLowerCase() === terms.supplier.trim().toLowerCase());
    return {
      workspaceId,
      id: newId(),
      number: (last?.n ?? 0) + i + 1,
      terms: { ...terms, supplierId: its?.id ?? null, mail: its?.mail ?? '' },
      progress: orderProgress.parse({ steps: [stepTo('draft', by)] }),
      createdBy: by,
      updatedBy: by,
    };
  });
  await tx.insert(purchaseOrder).values(values);
  return values.map((v) => v.id);
}
