/** Looks again at the shops of sellers that are followed, and says what changed. */
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import type { SellerChanges } from '../../core/evidence/seller.ts';
import { sellerChanges } from '../../core/evidence/seller.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { task, watchedSeller } from '../db/schema.ts';
import type { Feed } from '../outside/feed.ts';
import { feedOf } from '../use/feeds.ts';
import { keepSeen, seenShop } from '../use/sellers.ts';
import { addNotices, isUnderWay, loadTask } from '../use/tasks.ts';
import type { Piece } from './kinds.ts';

/** Hours after which a shop is looked at again. */
const AGAIN_HOURS = 20;

/** Works on one shop that is due. True where there may be more. */
export async function watchSellers({ workspaceId, taskId }: Piece): Promise<boolean> {
  const asked = await loadTask(workspaceId, taskId);
  if (asked === null || !isUnderWay(asked.state)) return false;
  const feed = await feedOf(workspaceId);
  const due = feed === null ? null : await nextDue(workspaceId);
  const done = asked.done + (due === null ? 0 : 1);
  const open = await inWorkspace(workspaceId, (tx) =>
    tx
      .update(task)
      .set({
        state: due === null ? 'done' : 'running',
        done,
        total: Math.max(done, asked.total),
        updatedAt: new Date(),
      })
      .where(
        and(
          eq(task.workspaceId, workspaceId),
          eq(task.id, taskId),
          inArray(task.state, ['waiting', 'running']),
        ),
      )
      .returning({ id: task.id }),
  );
  if (open.length === 0 || due === null || feed === null) return false;
  await lookAgain(workspaceId, feed, due);
  return true;
}

const isDue = (workspaceId: string) =>
  and(
    eq(watchedSeller.workspaceId, workspaceId),
    sql`${watchedSeller.askedAt} < now() - make_interval(hours => ${AGAIN_HOURS})`,
  );
/** How many followed shops are due. */
export async function sellersDue(tx: Tx, workspaceId: string): Promise<number> {
  const [row] = await tx
    .select({ n: sql<number>`count(*)::int` })
    .from(watchedSeller)
    .where(isDue(workspaceId));
  return row?.n ?? 0;
}

type Due = typeof watchedSeller.$inferSelect;
async function nextDue(workspaceId: string): Promise<Due | null> {
  const [row] = await inWorkspace(workspaceId, (tx) =>
    tx.select().from(watchedSeller).where(isDue(workspaceId)).orderBy(asc(watchedSeller.askedAt)).limit(1),
  );
  return row ?? null;
}

/**
 * What changed since a person looked goes to the notices, once. The shop goes on being held against what that person
 * saw. A feed that is away changes nothing.
 */
async function lookAgain(
  workspaceId: string,
  feed: Feed,
  { market, seller, data, createdBy }: Due,
): Promise<void> {
  const seen = await seenShop(feed, market, seller);
  const comparable = !('code' in seen) && seen.goods.length > 0 && seen.currency === data.currency;
  const changes = comparable ? sellerChanges(data.goods, seen.goods, seen.whole && data.whole) : null;
  const counts = changes === null ? null : countsOf(changes);
  const told = JSON.stringify(changes);
  const isNews = counts !== null && Object.values(counts).some((n) => n > 0) && told !== data.told;
  await inWorkspace(workspaceId, async (tx) => {
    await keepSeen(tx, workspaceId, market, seller, isNews ? { ...data, told } : data, createdBy ?? '');
    if (!isNews) return;
    const link = `/find/seller?${new URLSearchParams({ market, seller })}`;
    await addNotices(tx, workspaceId, [{ kind: 'sellerChanged', data: { seller, market, ...counts }, link }]);
  });
}
const countsOf = ({ fresh, gone, cheaper, dearer }: SellerChanges) => ({
  fresh: fresh.length,
  gone: gone.length,
  cheaper: cheaper.length,
  dearer: dearer.length,
});
