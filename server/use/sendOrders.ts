/** An order on its way to its supplier: mailed once, and sent with it. */
import { and, eq, like, sql } from 'drizzle-orm';
import { inWorkspace } from '../db/client.ts';
import { outgoingMail } from '../db/schema.ts';
import { canMail } from '../mail.ts';
import type { Attachment } from '../mail.ts';
import { refused } from '../refusal.ts';
import { storeMail } from './mails.ts';
import { lockOrder, moveIn } from './orderSteps.ts';
import { wake } from './tasks.ts';

/**
 * Sends an order by mail and takes it to `sent`. Whoever presses twice, or in two tabs, sends it once: the edition no
 * longer stands. A mail that could not be sent, or of which nobody knows, is sent anew under another number.
 */
export async function mailOrder(
  workspaceId: string,
  id: string,
  mail: { to: string; subject: string; text: string; replyTo: string; edition: number },
  attachments: readonly Attachment[],
  by: string,
): Promise<void> {
  if (!canMail()) throw refused('mailNone');
  const begun = await inWorkspace(workspaceId, async (tx) => {
    const row = await lockOrder(tx, workspaceId, id, mail.edition);
    const [earlier] = await tx
      .select({
        n: sql<number>`count(*)::int`,
        open: sql<number>`(count(*) filter (where ${outgoingMail.state} not in ('failed', 'unsure')))::int`,
      })
      .from(outgoingMail)
      .where(and(eq(outgoingMail.workspaceId, workspaceId), like(outgoingMail.about, `order/${id}/%`)));
    if ((earlier?.open ?? 0) > 0) throw refused('orderMailed');
    const { edition: _, ...data } = mail;
    const task = await storeMail(
      tx,
      workspaceId,
      `order/${id}/${(earlier?.n ?? 0) + 1}`,
      data,
      attachments,
      by,
    );
    if (row.state === 'draft') await moveIn(tx, workspaceId, row, { to: 'sent', note: mail.to }, by);
    return task;
  });
  if (begun !== null) await wake('sendMail', workspaceId, begun);
}
