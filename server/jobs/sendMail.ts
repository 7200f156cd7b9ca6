/**
 * Mail on its way out. A mail is marked before it is handed over and after: one that was marked and whose worker died
 * is `unsure`, and is never sent a second time by itself.
 */
import { and, eq } from 'drizzle-orm';
import { inWorkspace } from '../db/client.ts';
import { outgoingMail, task } from '../db/schema.ts';
import type { MailState } from '../db/schema.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { sendMail } from '../mail.ts';
import { addNotices, isUnderWay, loadTask } from '../use/tasks.ts';
import type { Asked, Piece } from './kinds.ts';
import type { Service } from './serve.ts';

/** Tries before a server that is away is given up: some six hours in all. */
const TRIES = 12;
/** Milliseconds until the next try: 10 s, then twice as long each time, at most an hour. */
export const pauseAfter = (tries: number): number => Math.min(3_600_000, 10_000 * 2 ** (tries - 1));

export async function sendStoredMail({ workspaceId, taskId }: Piece): Promise<boolean> {
  const asked = await loadTask(workspaceId, taskId);
  if (asked === null || !isUnderWay(asked.state)) return false;
  const { mailId } = asked.data as Asked<'sendMail'>;
  const its = and(eq(outgoingMail.workspaceId, workspaceId), eq(outgoingMail.id, mailId));
  const claimed = await inWorkspace(workspaceId, async (tx) => {
    const [row] = await tx.select().from(outgoingMail).where(its).for('update');
    if (row?.state === 'waiting')
      await tx
        .update(outgoingMail)
        .set({ state: 'sending', tries: row.tries + 1 })
        .where(its);
    return row;
  });
  const end = (state: MailState, error: Fault | null) => endMail(workspaceId, taskId, mailId, state, error);
  if (claimed === undefined) return end('failed', null);
  if (claimed.state === 'sending') return end('unsure', fault('mailUnsure', { to: claimed.data.to }));
  if (claimed.state !== 'waiting') return end(claimed.state, claimed.error);
  const sent = await sendMail(claimed.data, { id: claimed.id, attachments: claimed.attachments });
  if (sent.how === 'sent') return end('sent', null);
  if (sent.how === 'never') return end('failed', sent.fault);
  if (sent.how === 'unsure') return end('unsure', sent.fault);
  const tries = claimed.tries + 1;
  if (tries >= TRIES) return end('failed', sent.fault);
  const dueAt = new Date(Date.now() + pauseAfter(tries));
  await inWorkspace(workspaceId, async (tx) => {
    await tx.update(outgoingMail).set({ state: 'waiting', error: sent.fault, dueAt }).where(its);
    // Work that waits is found by its age once its time has come.
    await tx
      .update(task)
      .set({ updatedAt: dueAt })
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)));
  });
  return false;
}

/** Notes how a mail ended, and gives notice where a person has to look at it. False: there is no more to do. */
async function endMail(
  workspaceId: string,
  taskId: string,
  mailId: string,
  state: MailState,
  error: Fault | null,
): Promise<false> {
  await inWorkspace(workspaceId, async (tx) => {
    const [row] = await tx
      .update(outgoingMail)
      .set({ state, error, ...(state === 'sent' && { sentAt: new Date() }) })
      .where(and(eq(outgoingMail.workspaceId, workspaceId), eq(outgoingMail.id, mailId)))
      .returning({ data: outgoingMail.data, about: outgoingMail.about });
    await tx
      .update(task)
      .set({ state: 'done', done: 1, updatedAt: new Date() })
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)));
    if (row !== undefined && (state === 'failed' || state === 'unsure'))
      await addNotices(tx, workspaceId, [
        {
          kind: state === 'failed' ? 'mailFailed' : 'mailUnsure',
          data: { to: row.data.to, subject: row.data.subject },
          link: linkOf(row.about),
        },
      ]);
  });
  return false;
}

/** The page of what a mail is about: `order/ID/…` stands on that order's page. */
function linkOf(about: string): string {
  const [what = '', id = ''] = about.split('/');
  return what === 'order' ? `/order/${id}` : what === 'enquiry' ? `/order/enquiries/${id}` : '/settings';
}

/** Work on mail. */
export const mailsWork: Service = { queue: 'mails', work: sendStoredMail };
