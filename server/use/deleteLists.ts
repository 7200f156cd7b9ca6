/** Lists that are deleted: brought back for a while, then cleared away for good. */
import { and, eq, lt } from 'drizzle-orm';
import { inWorkspace } from '../db/client.ts';
import { closerLook, supplierList } from '../db/schema.ts';
import { removeFolder } from '../files/store.ts';
import { dropRun } from '../db/loader.ts';
import { workIn } from './lists.ts';

/** Deletes a list, or takes that back. Its files and rows stay until it is cleared away for good. */
export async function setListDeleted(workspaceId: string, id: string, deleted: boolean): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(supplierList)
      .set({ deletedAt: deleted ? new Date() : null })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id))),
  );
}

/** Days for which a deleted list can be brought back; after that its file leaves the disk. */
const KEPT_DAYS = 30;

/** Clears away for good what was deleted longer ago: files, rows, record. Returns how many lists. */
export async function clearDeletedLists(workspaceId: string, days = KEPT_DAYS): Promise<number> {
  const gone = await inWorkspace(workspaceId, (tx) =>
    tx
      .select()
      .from(supplierList)
      .where(
        and(
          eq(supplierList.workspaceId, workspaceId),
          lt(supplierList.deletedAt, new Date(Date.now() - days * 86_400_000)),
        ),
      ),
  );
  for (const l of gone) {
    const work = await inWorkspace(workspaceId, (tx) => workIn(tx, workspaceId, l.id));
    for (const w of work) if (w.kind === 'readList') await dropRun(workspaceId, w.id);
    await removeFolder(workspaceId, l.id);
    await inWorkspace(workspaceId, async (tx) => {
      await tx
        .delete(closerLook)
        .where(and(eq(closerLook.workspaceId, workspaceId), eq(closerLook.listId, l.id)));
      await tx
        .delete(supplierList)
        .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, l.id)));
    });
  }
  return gone.length;
}
