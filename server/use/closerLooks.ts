/** Goods of a list looked at a second time: asked for by their rows, shown beside the fast figures. */
import { and, desc, eq, sql } from 'drizzle-orm';
import { z } from 'zod';
import { closerLook as lookAt, MOST_LOOKS } from '../../core/evidence/closer.ts';
import type { CloserLook } from '../../core/evidence/closer.ts';
import { composeEvidence } from '../../core/evidence/observed.ts';
import type { KeptMarket } from '../../core/evidence/observed.ts';
import type { Fault } from '../../core/fault.ts';
import type { ListRow } from '../../between/ask.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { closerLook, task } from '../db/schema.ts';
import type { CloserState } from '../db/schema.ts';
import { today } from '../env.ts';
import { refused } from '../refusal.ts';
import { feedIn } from './feeds.ts';
import { openRow } from './goods.ts';
import { keptListings } from './keptMarkets.ts';
import type { ListPage } from './lists.ts';
import { isUnderWay, storeTask, taskColumns, wake } from './tasks.ts';
import type { TaskHead } from './tasks.ts';

/** Rows that are opened at once. */
const AT_ONCE = 8;

export const looksAsked = z.strictObject({
  rows: z
    .array(
      z.strictObject({
        key: z.number().int().min(1),
        line: z.number().int().min(1),
        code: z.string().max(40),
        title: z.string().max(2000),
      }),
    )
    .min(1)
    .max(MOST_LOOKS),
});

/** The market that a list is sold on, as the feed names it; null: none is chosen. */
const marketOf = ({ screen }: ListPage): string | null => {
  const card = screen?.rates.marketplace;
  return card == null ? null : `${card.marketplace}/${card.country}`;
};

/**
 * Has rows of a list looked at a second time; what was looked at before is looked at anew.
 * @throws Refusal `invalid` without a feed or a marketplace, or past `MOST_LOOKS`
 */
export async function askCloser(
  workspaceId: string,
  page: ListPage,
  rows: z.output<typeof looksAsked>['rows'],
  by: string,
): Promise<void> {
  const market = marketOf(page);
  const listId = page.list.id;
  if (market === null) throw refused('closerNoMarket');
  const taskId = await inWorkspace(workspaceId, async (tx) => {
    if ((await feedIn(tx, workspaceId)) === null) throw refused('feedNone');
    const fresh = { state: 'waiting' as const, market, fault: null, by, askedAt: new Date(), lookedAt: null };
    await tx
      .insert(closerLook)
      .values(
        rows.map((r) => ({ workspaceId, listId, ...r, title: r.title.slice(0, 500), listing: '', ...fresh })),
      )
      .onConflictDoUpdate({
        target: [closerLook.workspaceId, closerLook.listId, closerLook.key],
        set: { ...fresh, line: sql`excluded.line`, listing: '' },
      });
    const [n] = await countIn(tx, workspaceId, listId);
    if ((n?.n ?? 0) > MOST_LOOKS) throw refused('closerTooMany', { most: MOST_LOOKS });
    return storeTask(tx, workspaceId, 'lookCloser', { listId }, rows.length, by);
  });
  await wake('lookCloser', workspaceId, taskId);
}

/** How many goods of a list were looked at a second time. */
export async function countLooks(workspaceId: string, listId: string): Promise<number> {
  const [row] = await inWorkspace(workspaceId, (tx) => countIn(tx, workspaceId, listId));
  return row?.n ?? 0;
}
const countIn = (tx: Tx, workspaceId: string, listId: string) =>
  tx
    .select({ n: sql<number>`count(*)::int` })
    .from(closerLook)
    .where(and(eq(closerLook.workspaceId, workspaceId), eq(closerLook.listId, listId)));

/** Takes goods off the second look. */
export async function dropLooks(workspaceId: string, listId: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx.delete(closerLook).where(and(eq(closerLook.workspaceId, workspaceId), eq(closerLook.listId, listId))),
  );
}

export type LookedRow = {
  readonly key: number;
  readonly line: number;
  readonly code: string;
  readonly title: string;
  readonly listing: string;
  readonly listingTitle: string;
  readonly state: CloserState;
  readonly fault: Fault | null;
  /** The row as the list has it now; null where it is no longer there. */
  readonly row: ListRow | null;
  /** Null: nothing is known of it, or the row is gone. */
  readonly look: CloserLook | null;
};
export type CloserPage = { readonly work: TaskHead | null; readonly rows: readonly LookedRow[] };

type Kept = typeof closerLook.$inferSelect;

/** The goods of a list that were looked at a second time, the newest asked first. */
export async function loadCloser(workspaceId: string, page: ListPage): Promise<CloserPage> {
  const listId = page.list.id;
  const { kept, work, listings } = await inWorkspace(workspaceId, async (tx) => {
    const looks = await tx
      .select()
      .from(closerLook)
      .where(and(eq(closerLook.workspaceId, workspaceId), eq(closerLook.listId, listId)))
      .orderBy(desc(closerLook.askedAt), closerLook.line)
      .limit(MOST_LOOKS);
    const [newest] = await tx
      .select(taskColumns)
      .from(task)
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          eq(task.kind, 'lookCloser'),
          sql`${task.data} ->> 'listId' = ${listId}`,
        ),
      )
      .orderBy(desc(task.createdAt))
      .limit(1);
    const found = new Map<string, KeptMarket>();
    for (const market of new Set(looks.map((l) => l.market))) {
      const own = looks.flatMap((l) => (l.market === market && l.listing !== '' ? [l.listing] : []));
      for (const [listing, k] of await keptListings(tx, workspaceId, market, own))
        found.set(`${market} ${listing}`, k);
    }
    return { kept: looks, work: newest as TaskHead | undefined, listings: found };
  });
  const rows: LookedRow[] = [];
  for (let i = 0; i < kept.length; i += AT_ONCE)
    rows.push(
      ...(await Promise.all(
        kept.slice(i, i + AT_ONCE).map((k) => rowLooked(workspaceId, page, k, listings)),
      )),
    );
  return { work: work !== undefined && isUnderWay(work.state) ? work : null, rows };
}

async function rowLooked(
  workspaceId: string,
  page: ListPage,
  k: Kept,
  listings: ReadonlyMap<string, KeptMarket>,
): Promise<LookedRow> {
  const { key, line, code, title, listing, listingTitle, state, fault, market } = k;
  const opened = await openRow(workspaceId, page, line);
  // Another reading may have another row there.
  const own = opened === null || opened.row.key !== key ? null : opened;
  const kept = listings.get(`${market} ${listing}`);
  const said = { key, line, code, title, listing, listingTitle, state, fault, row: own?.row ?? null };
  if (own === null || kept === undefined || state !== 'looked') return { ...said, look: null };
  const [marketplace = '', country = ''] = market.split('/');
  const { document } = composeEvidence({
    market: { marketplace, country },
    today: today(),
    observations: kept.observations,
    watch: kept.watch,
    settings: page.settings.evidence,
    hurdles: [],
  });
  return { ...said, look: lookAt(document, own.doc, k.otherGoods) };
}

/** The looks of a list that wait for the feed. */
export async function waitingLooks(workspaceId: string, listId: string, most: number): Promise<Kept[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select()
      .from(closerLook)
      .where(
        and(
          eq(closerLook.workspaceId, workspaceId),
          eq(closerLook.listId, listId),
          eq(closerLook.state, 'waiting'),
        ),
      )
      .orderBy(closerLook.line)
      .limit(most),
  );
}
