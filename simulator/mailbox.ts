/**
 * The stand-in for the world's mail: takes every mail by SMTP, keeps the last of them in memory, shows them on a page,
 * and has the suppliers they went to answer after a while, now and then late, now and then not all that was asked.
 */
import { SMTPServer } from 'smtp-server';
import { simpleParser } from 'mailparser';
import { answerTo, waitsFor } from './supplierAnswers.ts';

export type Letter = {
  readonly id: string;
  readonly from: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
  readonly at: string;
  readonly attachments: readonly { readonly name: string; readonly type: string; readonly content: Buffer }[];
};
/** How it behaves: it refuses every mail for good, is away for the next so many, breaks the line after taking. */
export type MailBehaviour = {
  readonly refuse: boolean;
  readonly awayNext: number;
  readonly breakNext: number;
  /** Milliseconds until a supplier answers; null: nobody does. */
  readonly answerMs: number | null;
};
const MOST = 500;
const MOST_BYTES = 20_000_000;

export class Mailbox {
  private letters: Letter[] = [];
  behaviour: MailBehaviour = { refuse: false, awayNext: 0, breakNext: 0, answerMs: 15_000 };

  constructor(private readonly seed: number) {}

  all(): readonly Letter[] {
    return this.letters;
  }

  /** Takes mail at a port of this machine. */
  listen(port: number): void {
    const server = new SMTPServer({
      authOptional: true,
      disabledCommands: ['STARTTLS'],
      size: MOST_BYTES,
      onRcptTo: (_, __, done) => {
        if (this.behaviour.refuse)
          return done(Object.assign(new Error('No such mailbox'), { responseCode: 550 }));
        if (this.behaviour.awayNext > 0) {
          this.behaviour = { ...this.behaviour, awayNext: this.behaviour.awayNext - 1 };
          return done(Object.assign(new Error('Try again later'), { responseCode: 451 }));
        }
        done();
      },
      onData: (stream, session, done) => {
        void this.take(stream).then(
          () => {
            if (this.behaviour.breakNext === 0) return done();
            this.behaviour = { ...this.behaviour, breakNext: this.behaviour.breakNext - 1 };
            // The mail is here, and whoever sent it never hears so.
            server.connections.forEach((c) => {
              if ((c as { session?: unknown }).session === session) c.close();
            });
          },
          (e: unknown) => done(e instanceof Error ? e : new Error('Not taken')),
        );
      },
    });
    server.on('error', () => undefined);
    server.listen(port, '127.0.0.1');
  }

  private async take(stream: NodeJS.ReadableStream): Promise<void> {
    const mail = await simpleParser(stream as never);
    const addressOf = (a: typeof mail.to | typeof mail.from): string =>
      (Array.isArray(a) ? a : [a]).flatMap((x) => x?.value ?? [])[0]?.address ?? '';
    const letter: Letter = {
      id: mail.messageId ?? `<${Date.now()}@mailbox>`,
      from: addressOf(mail.replyTo ?? mail.from),
      to: addressOf(mail.to),
      subject: mail.subject ?? '',
      text: mail.text ?? '',
      at: new Date().toISOString(),
      attachments: mail.attachments.map((a) => ({
        name: a.filename ?? 'file',
        type: a.contentType,
        content: a.content,
      })),
    };
    this.put(letter);
    const asks = String(mail.headers.get('x-questions') ?? '')
      .split(',')
      .filter((x) => x !== '');
    const { answerMs } = this.behaviour;
    if (answerMs === null || !letter.to.includes('supplier')) return;
    setTimeout(
      () => {
        this.put({
          ...letter,
          id: `${letter.id}-answer`,
          from: letter.to,
          to: letter.from,
          subject: `Re: ${letter.subject}`,
          text: answerTo(this.seed, letter.id, asks),
          at: new Date().toISOString(),
          attachments: [],
        });
      },
      waitsFor(this.seed, letter.id, answerMs),
    ).unref();
  }

  private put(letter: Letter): void {
    this.letters = [letter, ...this.letters].slice(0, MOST);
  }
}

const escaped = (s: string): string => s.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);
const page = (title: string, body: string): string =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><title>${escaped(title)}</title>` +
  '<meta name="viewport" content="width=device-width">' +
  '<style>body{font:16px/1.5 sans-serif;max-width:760px;margin:2rem auto;padding:0 1rem;color:#1d1a16;' +
  'background:#fbf8f2}' +
  'li{border-bottom:1px solid #d9d0c1;padding:.5rem 0;list-style:none}ul{padding:0}' +
  'pre{white-space:pre-wrap;font:inherit}' +
  `</style><h1>${escaped(title)}</h1>${body}</html>`;

/** The pages of the mailbox: all mail, one of them, what was attached. Null: there is no such page. */
export function mailPage(
  box: Mailbox,
  url: URL,
): { readonly type: string; readonly body: string | Buffer } | null {
  const html = (title: string, body: string) => ({
    type: 'text/html; charset=utf-8',
    body: page(title, body),
  });
  if (url.pathname === '/mail.json')
    return {
      type: 'application/json',
      body: JSON.stringify(
        box
          .all()
          .map((l) => ({ ...l, attachments: l.attachments.map(({ name, type }) => ({ name, type })) })),
      ),
    };
  if (url.pathname !== '/mail') return null;
  const id = url.searchParams.get('id');
  const letter = box.all().find((l) => l.id === id);
  if (id === null)
    return html(
      'Mailbox of the demo',
      `<p>Every mail that went out, and what suppliers answered. Nothing leaves this machine.</p><ul>${box
        .all()
        .map(
          (l) =>
            `<li><a href="/mail?id=${encodeURIComponent(l.id)}">${escaped(l.subject)}</a><br>` +
            `${escaped(l.from)} → ${escaped(l.to)}, ${escaped(l.at.slice(0, 16).replace('T', ' '))}</li>`,
        )
        .join('')}</ul>`,
    );
  if (letter === undefined) return null;
  const at = url.searchParams.get('attachment');
  if (at !== null) {
    const file = letter.attachments[Number(at)];
    return file === undefined ? null : { type: file.type, body: file.content };
  }
  return html(
    letter.subject,
    `<p>${escaped(letter.from)} → ${escaped(letter.to)}, ${escaped(letter.at)}</p>` +
      `<pre>${escaped(letter.text)}</pre><ul>${letter.attachments
        .map(
          (a, i) =>
            `<li><a href="/mail?id=${encodeURIComponent(letter.id)}&amp;attachment=${i}">${escaped(a.name)}</a></li>`,
        )
        .join('')}</ul><p><a href="/mail">All mail</a></p>`,
  );
}
