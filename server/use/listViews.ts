/** How a list is looked at: the last look, and views under a name. */
import { and, eq, sql } from 'drizzle-orm';
import type { ListLook } from '../../core/lists/query.ts';
import type { ListSettings } from '../../core/lists/settings.ts';
import { inWorkspace } from '../db/client.ts';
import { listView, supplierList } from '../db/schema.ts';
import { newId } from './workspaces.ts';

export async function saveLook(workspaceId: string, id: string, look: ListLook): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(supplierList)
      .set({ look })
      .where(and(eq(supplierList.workspaceId, workspaceId), eq(supplierList.id, id))),
  );
}

// ---- views
// ---------------------------------------------------------------------------------------------------------

export async function loadViews(workspaceId: string): Promise<(typeof listView.$inferSelect)[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx.select().from(listView).where(eq(listView.workspaceId, workspaceId)).orderBy(listView.name),
  );
}

/** Keeps a look under a name; the same name again replaces it. */
export async function saveView(
  workspaceId: string,
  name: string,
  look: ListLook,
  assumptions: ListSettings['assumptions'] | null,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await tx
      .delete(listView)
      .where(and(eq(listView.workspaceId, workspaceId), sql`lower(${listView.name}) = lower(${name})`));
    await tx.insert(listView).values({ workspaceId, id: newId(), name, look, assumptions });
  });
}

export async function removeView(workspaceId: string, id: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx.delete(listView).where(and(eq(listView.workspaceId, workspaceId), eq(listView.id, id))),
  );
}
