/** Mails as a page shows them: what became of each, in words. */
import { canMail, mailboxPage } from '../server/mail.ts';
import { mailsAbout } from '../server/use/mails.ts';
import type { Entry } from '../server/auth/session.ts';
import { inWords } from '../words/index.ts';
import type { MailsShown } from './features/order/orderPage.ts';

/** The mails about something, the latest first; whether mail can go out, and where that of a demo is read. */
export async function mailsShown(workspaceId: string, about: string): Promise<MailsShown> {
  const mails = await mailsAbout(workspaceId, about);
  return {
    mails: mails.map(({ id, to, state, error, at }) => ({
      id,
      to,
      state,
      error: error === null ? null : inWords(error),
      at: at.toISOString(),
    })),
    canMail: canMail(),
    mailbox: mailboxPage(),
  };
}

/** Who writes to suppliers: the workspace's name and address as set, else its name alone. */
export const sender = (entry: Pick<Entry, 'name'>, settings: { readonly letterhead: string }): string =>
  settings.letterhead === '' ? entry.name : settings.letterhead;
