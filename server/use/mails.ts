/** Mail that is to go out: stored with what it is about, sent by a job, each once. */
import { and, desc, eq, like } from 'drizzle-orm';
import { firstIssue } from '../../core/issues.ts';
import { Refusal } from '../refusal.ts';
import type { z } from 'zod';
import { mail as mailSchema } from '../../core/mail/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { outgoingMail } from '../db/schema.ts';
import type { MailState } from '../db/schema.ts';
import type { Attachment } from '../mail.ts';
import { storeTask } from './tasks.ts';
import { newId } from './workspaces.ts';

export type MailSaid = {
  readonly id: string;
  readonly about: string;
  readonly to: string;
  readonly subject: string;
  readonly state: MailState;
  readonly error: typeof outgoingMail.$inferSelect.error;
  readonly at: Date;
};

/**
 * Stores a mail and the work of sending it, once for each `about`. Returns the task to wake once the transaction
 * stands; null: that mail is there already.
 */
export async function storeMail(
  tx: Tx,
  workspaceId: string,
  about: string,
  mail: z.input<typeof mailSchema>,
  attachments: readonly Attachment[],
  by: string,
): Promise<string | null> {
  const read = mailSchema.safeParse(mail);
  if (!read.success) throw new Refusal('invalid', firstIssue(read.error));
  const id = newId();
  const stored = await tx
    .insert(outgoingMail)
    .values({ workspaceId, id, about, data: read.data, attachments, createdBy: by })
    .onConflictDoNothing()
    .returning({ id: outgoingMail.id });
  if (stored.length === 0) return null;
  return storeTask(tx, workspaceId, 'sendMail', { mailId: id }, 1, by);
}

/** The mails about something, the latest first. */
export async function mailsAbout(workspaceId: string, about: string): Promise<MailSaid[]> {
  const rows = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({
        id: outgoingMail.id,
        about: outgoingMail.about,
        data: outgoingMail.data,
        state: outgoingMail.state,
        error: outgoingMail.error,
        at: outgoingMail.createdAt,
        sentAt: outgoingMail.sentAt,
      })
      .from(outgoingMail)
      .where(and(eq(outgoingMail.workspaceId, workspaceId), like(outgoingMail.about, `${about}%`)))
      .orderBy(desc(outgoingMail.createdAt))
      .limit(50),
  );
  return rows.map(({ data, at, sentAt, ...m }) => ({
    ...m,
    to: data.to,
    subject: data.subject,
    at: sentAt ?? at,
  }));
}
