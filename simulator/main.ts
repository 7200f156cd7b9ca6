/**
 * The stand-in for services outside: exchange rates and freight quotes over HTTP, described at /openapi.json, and a
 * market feed under /feed, described in docs/feed.openapi.json; and a mailbox that takes mail by SMTP, read at /mail.
 * It answers the same question the same way; on request it is slow, fails, limits how often one may ask, or
 * returns odd data.
 */
import { createServer } from 'node:http';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { z } from 'zod';
import { freightQuote, MODES, ratesOn } from './answers.ts';
import { feedAnswer } from './feedRoutes.ts';
import { Mailbox, mailPage } from './mailbox.ts';
import { openApi } from './openApi.ts';
import { SHOP_FAULTS } from './world/shops.ts';

const SEED = Number(process.env.SIM_SEED ?? 952);
const PORT = Number(process.env.PORT ?? 4310);
const day = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}$/)
  .refine((s) => !Number.isNaN(Date.parse(s)));
const behaviour = z.strictObject({
  /** Milliseconds before each answer. */
  slowMs: z.number().min(0).max(60_000).default(0),
  /** How many of the next answers fail with 503. */
  failNext: z.number().int().min(0).max(1000).default(0),
  /** Answers a minute before 429; null: as many as one likes. */
  perMinute: z.number().int().min(0).nullable().default(null),
  /** Rates of 0, texts for numbers, a missing date. */
  odd: z.boolean().default(false),
  /** What is wrong with shops' catalogues. */
  shop: z.enum(SHOP_FAULTS).nullable().default(null),
  /** Of mail: refuse it for good, be away or break the line for the next so many, and how soon suppliers answer. */
  mail: z
    .strictObject({
      refuse: z.boolean().default(false),
      awayNext: z.number().int().min(0).max(1000).default(0),
      breakNext: z.number().int().min(0).max(1000).default(0),
      answerMs: z.number().min(0).max(3_600_000).nullable().default(15_000),
    })
    .prefault({}),
});
let now = behaviour.parse({});
const mailbox = new Mailbox(SEED);
let asked: number[] = [];

function send(
  res: ServerResponse,
  status: number,
  body: unknown,
  headers: Record<string, string> = {},
): void {
  res.writeHead(status, { 'content-type': 'application/json', ...headers });
  res.end(JSON.stringify(body));
}

async function bodyOf(req: IncomingMessage): Promise<unknown> {
  let text = '';
  for await (const part of req) {
    text += String(part);
    if (text.length > 100_000) return null;
  }
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

async function answer(req: IncomingMessage, res: ServerResponse): Promise<void> {
  const url = new URL(req.url ?? '/', 'http://simulator');
  if (url.pathname === '/openapi.json') return send(res, 200, openApi);
  if (url.pathname === '/behaviour') {
    if (req.method !== 'PUT') return send(res, 200, now);
    const wanted = behaviour.safeParse(await bodyOf(req));
    if (!wanted.success) return send(res, 422, { error: z.prettifyError(wanted.error) });
    now = wanted.data;
    mailbox.behaviour = now.mail;
    asked = [];
    return send(res, 200, now);
  }
  const shown = req.method === 'GET' ? mailPage(mailbox, url) : null;
  if (shown !== null) {
    res.writeHead(200, { 'content-type': shown.type, 'x-content-type-options': 'nosniff' });
    res.end(shown.body);
    return;
  }
  if (now.slowMs > 0) await new Promise((done) => setTimeout(done, now.slowMs));
  if (now.perMinute !== null) {
    asked = asked.filter((t) => t > Date.now() - 60_000);
    if (asked.length >= now.perMinute)
      return send(res, 429, { error: 'Too many questions; wait a little.' }, { 'retry-after': '1' });
    asked.push(Date.now());
  }
  if (now.failNext > 0) {
    now = { ...now, failNext: now.failNext - 1 };
    return send(res, 503, { error: 'Not now.' });
  }
  if (url.pathname === '/exchange-rates' && req.method === 'GET') {
    const date = day.safeParse(url.searchParams.get('date'));
    const base = url.searchParams.get('base') ?? 'EUR';
    const table = date.success ? ratesOn(SEED, date.data, base) : null;
    if (table === null)
      return send(res, 422, { error: 'Give a date such as 2026-11-24 and a base currency such as EUR.' });
    return send(
      res,
      200,
      now.odd
        ? { base, rates: { ...table.rates, USD: 0, GBP: 'n/a' } }
        : { ...table, source: 'Simulated reference rates' },
    );
  }
  if (url.pathname === '/freight-quotes' && req.method === 'GET') {
    const asks = z
      .object({
        from: z.string().regex(/^[A-Z]{2}$/),
        to: z.string().regex(/^[A-Z]{2}$/),
        mode: z.enum(MODES),
        date: day,
      })
      .safeParse(Object.fromEntries(url.searchParams));
    if (!asks.success) return send(res, 422, { error: z.prettifyError(asks.error) });
    const q = freightQuote(SEED, asks.data.from, asks.data.to, asks.data.mode, asks.data.date);
    return send(res, 200, now.odd ? { ...q, rate: -1, transitDays: 'soon' } : q);
  }
  const today = process.env.BM_TODAY ?? new Date().toISOString().slice(0, 10);
  const fed = req.method === 'GET' ? feedAnswer(url, { seed: SEED, today }, now.odd, now.shop) : null;
  if (fed !== null)
    return send(
      res,
      fed.status,
      fed.body,
      fed.status === 200 ? {} : { 'content-type': 'application/problem+json' },
    );
  return send(res, 404, { error: 'There is no such question; see /openapi.json.' });
}

const server = createServer((req, res) => {
  answer(req, res).catch(() => send(res, 500, { error: 'The stand-in broke.' }));
});
server.listen(PORT, '127.0.0.1');
if (process.env.SMTP_PORT !== undefined) mailbox.listen(Number(process.env.SMTP_PORT));
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(0));
