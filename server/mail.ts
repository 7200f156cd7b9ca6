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

let transport: Transporter | null = null;
function server(): Transporter {
  transport ??= createTransport(env().BM_SMTP_URL ?? '', {
    connectionTimeout: 10_000,
    greetingTimeout: 10_000,
    socketTimeout: 30_000,
    // What goes along is handed over by us; a mail never makes the server read a file or an address.
    disableFileAccess: true,
    disableUrlAccess: true,
  } as object);
  return transport;
}

export type Attachment = { readonly name: string; readonly type: string; readonly base64: string };
/**
 * What became of a mail: `sent`; `later`: nothing was handed over, it may be tried again; `never`: the server refuses
 * it; `unsure`: the line broke after it was handed over, and nobody knows.
 */
export type Sent =
  | { readonly how: 'sent' }
  | { readonly how: 'later' | 'never' | 'unsure'; readonly fault: Fault };

/** Commands after which a mail may be with the server although it never said so. */
const HANDED_OVER: ReadonlySet<string> = new Set(['DATA', '']);

type SmtpError = { code?: string; command?: string; responseCode?: number };

/** What an error of the way out means for the mail. */
export function outcomeOf(e: SmtpError, to: string): Sent {
  const { responseCode, command = '', code = '' } = e;
  if (responseCode !== undefined && responseCode >= 500)
    return { how: 'never', fault: fault('mailRefused', { to, code: responseCode }) };
  const neverReached = code === 'ECONNECTION' || code === 'EDNS' || code === 'EAUTH' || command === 'CONN';
  if (responseCode === undefined && !neverReached && HANDED_OVER.has(command))
    return { how: 'unsure', fault: fault('mailUnsure', { to }) };
  return { how: 'later', fault: fault('mailAway') };
}

/** Hands a mail to the server. `id` names it for good: whoever gets it twice can tell. Never throws. */
export async function sendMail(
  mail: Mail,
  { id, attachments }: { id: string; attachments: readonly Attachment[] },
): Promise<Sent> {
  const from = env().BM_MAIL_FROM;
  try {
    await server().sendMail({
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
    return outcomeOf(e as SmtpError, mail.to);
  }
}
