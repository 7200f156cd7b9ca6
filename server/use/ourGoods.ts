/** Goods of others that stand in our own lists, as those lists weigh them. */
import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { ListRow } from '../../between/ask.ts';
import type { FeedRow } from '../../between/feed.ts';
import { readGtin } from '../../core/goods/gtin.ts';
import { inWorkspace } from '../db/client.ts';
import { listRow, supplierList } from '../db/schema.ts';
import { askRow, ScreeningAway } from '../screening/client.ts';
import { loadList } from './lists.ts';
import type { ListPage } from './lists.ts';

/** Goods of a shop that stand in a list of ours: what they cost there, and what that list makes of them. */
export type OurGoods = {
  readonly goods: FeedRow;
  readonly cost: number;
  readonly currency: string;
  readonly list: string;
  readonly listId: string;
  /** As the list weighs it; null where the list is for another market, or the screening does not answer. */
  readonly row: ListRow | null;
};

/** Goods that are weighed by their lists, the best selling first. */
const MOST_OURS = 40;

/** Where goods of a shop stand in our lists: of each the row at the lowest cost, by lists of one currency. */
export async function ourGoods(
  workspaceId: string,
  market: string,
  goods: readonly FeedRow[],
): Promise<OurGoods[]> {
  const byKey = new Map<number, FeedRow>();
  for (const g of goods) {
    const read = g.gtin === null ? null : readGtin(g.gtin);
    if (read?.ok === true && !byKey.has(Number(read.key))) byKey.set(Number(read.key), g);
  }
  const places = await placesOf(workspaceId, [...byKey.keys()]);
  const sold = (key: number): number => byKey.get(key)?.units ?? -1;
  const most = [...places].sort((a, b) => sold(b.key) - sold(a.key)).slice(0, MOST_OURS);
  const pages = new Map<string, ListPage | null>();
  for (const { listId } of most)
    if (!pages.has(listId)) pages.set(listId, await loadList(workspaceId, listId));
  return Promise.all(
    most.map(async ({ key, line, cost, list, listId, currency }) => {
      const page = pages.get(listId) ?? null;
      const card = page?.screen?.rates.marketplace;
      const same = card != null && `${card.marketplace}/${card.country}` === market;
      const opened = page !== null && same ? await rowOf(workspaceId, page, line) : null;
      return { goods: byKey.get(key) as FeedRow, cost, currency, list, listId, row: opened };
    }),
  );
}

async function rowOf(workspaceId: string, page: ListPage, line: number): Promise<ListRow | null> {
  try {
    return (await askRow(workspaceId, page, line))?.row ?? null;
  } catch (e) {
    if (e instanceof ScreeningAway) return null;
    throw e;
  }
}

type PlaceOf = {
  readonly key: number;
  readonly line: number;
  readonly cost: number;
  readonly list: string;
  readonly listId: string;
  readonly currency: string;
};

/** Rows of these barcodes in the lists that are there; of each the one at the lowest cost. */
async function placesOf(workspaceId: string, keys: readonly number[]): Promise<PlaceOf[]> {
  if (keys.length === 0) return [];
  return inWorkspace(workspaceId, async (tx) => {
    const lists = await tx
      .select({
        runId: supplierList.runId,
        id: supplierList.id,
        name: supplierList.name,
        currency: sql<string>`${supplierList.settings} -> 'assumptions' -> 'purchase' ->> 'currency'`,
      })
      .from(supplierList)
      .where(
        and(
          eq(supplierList.workspaceId, workspaceId),
          isNull(supplierList.deletedAt),
          isNotNull(supplierList.runId),
        ),
      )
      .orderBy(desc(supplierList.createdAt))
      .limit(500);
    const byRun = new Map(lists.map((l) => [l.runId as string, l]));
    if (byRun.size === 0) return [];
    const rows = await tx
      .select({ key: listRow.key, line: listRow.line, cost: listRow.cost, runId: listRow.runId })
      .from(listRow)
      .where(
        and(
          eq(listRow.workspaceId, workspaceId),
          inArray(listRow.runId, [...byRun.keys()]),
          inArray(listRow.key, [...keys]),
        ),
      )
      .orderBy(asc(listRow.cost))
      .limit(5000);
    const found = new Map<number, PlaceOf>();
    for (const { runId, ...row } of rows) {
      const list = byRun.get(runId);
      if (found.has(row.key) || list === undefined) continue;
      found.set(row.key, { ...row, list: list.name, listId: list.id, currency: list.currency });
    }
    return [...found.values()];
  });
}
