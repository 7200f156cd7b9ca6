/**
 * The screening process: keeps the columns of the lists people look at in memory and answers windows, limits,
 * orders and changed assumptions over HTTP, to the web process alone. It owns nothing: after a restart it
 * reads the columns from the file store again.
 */
import { timingSafeEqual } from 'node:crypto';
import { createServer } from 'node:http';
import type { IncomingMessage } from 'node:http';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import { z } from 'zod';
import { screenSettings } from '../core/lists/settings.ts';
import type { ScreenSettings } from '../core/lists/settings.ts';
import { ask, MOST_AHEAD } from '../between/ask.ts';
import type { Ask } from '../between/ask.ts';
import { OpenList } from './openList.ts';
import { broughtUp } from '../core/versions.ts';

const env = z
  .object({
    BM_FILES_DIR: z.string().min(1),
    BM_SCREENING_TOKEN: z.string().min(32),
    PORT: z.coerce.number().int(),
    BM_SCREENING_HOST: z.string().default('127.0.0.1'),
  })
  .parse(process.env);
/** Rows that are kept in memory at once; lists that were looked at longest ago make room. */
const MOST_ROWS = 2_500_000;
/** Largest question: the marks of a workspace with many thousands of goods. */
const LARGEST = 20_000_000;
const threadCount = Math.max(1, Math.min(4, cpus().length));
const threads = new Piscina({
  filename: new URL('./evaluateThread.ts', import.meta.url).href,
  minThreads: threadCount,
  maxThreads: threadCount,
  execArgv: ['--import', 'tsx'],
});
const lists = new Map<string, OpenList>();
const NAME = /^[\w-]{1,100}$/;

function open(workspaceId: string, listId: string, runId: string): OpenList {
  const key = `${workspaceId}/${listId}/${runId}`;
  let list = lists.get(key);
  if (list === undefined) {
    list = new OpenList(join(env.BM_FILES_DIR, workspaceId, listId, runId), threads, threadCount);
    lists.set(key, list);
  }
  const byUse = [...lists].filter(([k]) => k !== key).sort(([, a], [, b]) => b.used - a.used);
  let rows = list.rows;
  for (const [k, l] of byUse) {
    rows += l.rows;
    if (rows > MOST_ROWS) lists.delete(k);
  }
  return list;
}

async function bodyOf(req: IncomingMessage): Promise<string> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const p of req) {
    size += (p as Buffer).length;
    if (size > LARGEST) throw new Error('too large');
    pieces.push(p as Buffer);
  }
  return Buffer.concat(pieces).toString('utf8');
}

/** The settings come as a text of their own: they are long, and the same from one question to the next. */
const question = z.object({
  ask: ask.omit({ settings: true }),
  settings: z.string(),
  line: z.number().int().optional(),
  ahead: z.array(z.number().int()).max(MOST_AHEAD).optional(),
});
const parsedLately = new Map<string, ScreenSettings>();
function settingsIn(text: string): ScreenSettings | null {
  const known = parsedLately.get(text);
  if (known !== undefined) return known;
  const parsed = screenSettings.safeParse(broughtUp(JSON.parse(text)));
  if (!parsed.success) return null;
  if (parsedLately.size >= 50) parsedLately.delete(parsedLately.keys().next().value as string);
  parsedLately.set(text, parsed.data);
  return parsed.data;
}

const token = Buffer.from(`Bearer ${env.BM_SCREENING_TOKEN}`);
const server = createServer((req, res) => {
  const say = (status: number, body: unknown): void => {
    res.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
  };
  const left = new AbortController();
  res.once('close', () => left.abort());
  void (async () => {
    const given = Buffer.from(req.headers.authorization ?? '');
    if (given.length !== token.length || !timingSafeEqual(given, token))
      return say(401, { error: 'not for you' });
    if (req.method === 'GET' && req.url === '/memory') return say(200, { rss: process.memoryUsage().rss });
    if (req.method !== 'POST') return say(405, { error: 'ask by POST' });
    const parsed = question.safeParse(JSON.parse(await bodyOf(req)));
    if (!parsed.success)
      return say(422, {
        error: parsed.error.issues
          .map((i) => `${i.path.join('.')}: ${i.message}`)
          .slice(0, 3)
          .join('; '),
      });
    const { ask: rest, line, ahead } = parsed.data;
    const settings = settingsIn(parsed.data.settings);
    if (settings === null) return say(422, { error: 'these are no settings' });
    const a: Ask = { ...rest, settings };
    if (![a.workspaceId, a.listId, a.runId, ...a.parts.map((p) => p.name)].every((n) => NAME.test(n)))
      return say(422, { error: 'a name may not be so' });
    const list = open(a.workspaceId, a.listId, a.runId);
    if (ahead !== undefined) return say(200, await list.ahead(a, ahead, left.signal));
    say(200, line === undefined ? await list.answer(a, left.signal) : await list.laneAt(a, line));
  })().catch((e) => {
    if (left.signal.aborted) return;
    const message = e instanceof Error ? e.message : String(e);
    process.stderr.write(`${JSON.stringify({ msg: 'a question could not be answered', message })}\n`);
    if (!res.headersSent) say(500, { error: 'this could not be answered' });
  });
});
server.listen(env.PORT, env.BM_SCREENING_HOST);
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    server.close();
    process.exit(0);
  });
