/** Which notices somebody has by mail. */
import { and, eq } from 'drizzle-orm';
import type { MailedSince, NoticeGroup } from '../../core/workspace/notices.ts';
import { inWorkspace } from '../db/client.ts';
import { noticeMail } from '../db/schema.ts';

const ofPerson = (workspaceId: string, userId: string) =>
  and(eq(noticeMail.workspaceId, workspaceId), eq(noticeMail.userId, userId));

/** The groups that a person has by mail. */
export async function noticesByMail(workspaceId: string, userId: string): Promise<NoticeGroup[]> {
  const [row] = await inWorkspace(workspaceId, (tx) =>
    tx.select({ since: noticeMail.since }).from(noticeMail).where(ofPerson(workspaceId, userId)),
  );
  return Object.keys(row?.since ?? {}) as NoticeGroup[];
}

/**
 * Keeps the groups that a person wants by mail, and in which locale its figures are written. A group that was chosen
 * before goes on as it is; a new one begins now.
 */
export async function chooseNoticesByMail(
  workspaceId: string,
  userId: string,
  groups: readonly NoticeGroup[],
  locale: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    if (groups.length === 0) return tx.delete(noticeMail).where(ofPerson(workspaceId, userId));
    // Two tabs that choose at once come one after the other.
    await tx.insert(noticeMail).values({ workspaceId, userId, since: {}, locale }).onConflictDoNothing();
    const [row] = await tx
      .select({ since: noticeMail.since })
      .from(noticeMail)
      .where(ofPerson(workspaceId, userId))
      .for('update');
    const now = new Date().toISOString();
    const since = Object.fromEntries(groups.map((g) => [g, row?.since[g] ?? now])) as MailedSince;
    return tx.update(noticeMail).set({ since, locale }).where(ofPerson(workspaceId, userId));
  });
}
