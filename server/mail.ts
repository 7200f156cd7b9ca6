/** The one way mail leaves: by SMTP, to the server that BM_SMTP_URL names. */
import { createTransport } from 'nodemailer';
import type { Transporter } from 'nodemailer';
import type { Mail } from '../core/mail/schema.ts';
import { fault } from '../core/fault.ts';
import type { Fault } from '../core/fault.ts';
import { env } from './env.ts';

/** Whether this installation can send mail at all. */
export const canMail = (): boolean => env().BM_SMTP_URL !== undefined;

/** Where the mail of a demo is read; null where mail goes out into the world. */
export const mailboxPage = (): string | null => env().BM_MAILBOX_URL ?? null;

/** A way to the server for one mail. `onTaken`: the server has begun to take the mail itself. */
function wayOut(onTaken: () => void): Transporter {
  const listen = ({ tnx }: { tnx?: string }, message: string): void => {
    if (tnx === 'server' && message.startsWith('354')) onTaken();
  };
  const quiet = (): void => undefined;
  const url = new URL(env().BM_SMTP_URL ?? '');
  const secure = url.protocol === 'smtps:';
  return createTransport({
    host: url.hostname,
    port: Number(url.port || (secure ? 465 : 587)),
    secure,
    ...(url.username === ''
      ? {}
      : { auth: { user: decodeURIComponent(url.username), pass: decodeURIComponent(url.password) } }),
    connectionTimeout: 10_000,
    greetingTimeout: 10_000,
    socketTimeout: 30_000,
    // What goes along is handed over by us; a mail never makes the server read a file or an address.
    disableFileAccess: true,
    disableUrlAccess: true,
    // What the two servers say to each other is the one thing that tells how far it came.
    transactionLog: true,
    logger: {
      level: quiet,
      trace: quiet,
      debug: listen,
      info: listen,
      warn: quiet,
      error: quiet,
      fatal: quiet,
    },
  } as object);
}

export type Attachment = { readonly name: string; readonly type: string; readonly base64: string };
/**
 * What became of a mail: `sent`; `later`: nothing was handed over, it may be tried again; `never`: the server refuses
 * it; `unsure`: the line broke after it was handed over, and nobody knows.
 */
export type Sent =
  | { readonly how: 'sent' }
  | { readonly how: 'later' | 'never' | 'unsure'; readonly fault: Fault };

/** What an error of the way out means for the mail; `taken`: the server had begun to take it. */
export function outcomeOf({ responseCode }: { responseCode?: number }, to: string, taken: boolean): Sent {
  if (responseCode !== undefined && responseCode >= 500)
    return { how: 'never', fault: fault('mailRefused', { to, code: responseCode }) };
  return responseCode === undefined && taken
    ? { how: 'unsure', fault: fault('mailUnsure', { to }) }
    : { how: 'later', fault: fault('mailAway') };
}

/** Hands a mail to the server. `id` names it for good: whoever gets it twice can tell. Never throws. */
export async function sendMail(
  mail: Mail,
  { id, attachments }: { id: string; attachments: readonly Attachment[] },
): Promise<Sent> {
  const from = env().BM_MAIL_FROM;
  let taken = false;
  const way = wayOut(() => {
    taken = true;
  });
  try {
    await way.sendMail({
      messageId: `<${id}@${from.split('@')[1] ?? 'localhost'}>`,
      from: { name: 'Bold Margin', address: from },
      to: mail.to,
      ...(mail.replyTo === '' ? {} : { replyTo: mail.replyTo }),
      subject: mail.subject,
      text: mail.text,
      headers: mail.asks.length === 0 ? {} : { 'X-Questions': mail.asks.join(',') },
      attachments: attachments.map((a) => ({
        filename: a.name,
        contentType: a.type,
        content: Buffer.from(a.base64, 'base64'),
      })),
    });
    return { how: 'sent' };
  } catch (e) {
    return outcomeOf(e as { responseCode?: number }, mail.to, taken);
  } finally {
    way.close();
  }
}
