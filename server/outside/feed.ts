/**
 * The one client of market feeds: time limits, tries with growing pauses, 429, cancelling, a bound of size, answers
 * held against the contract. What breaks it is refused with the field named, and nothing of it is used.
 */
import { lookup } from 'node:dns/promises';
import { BlockList, isIP } from 'node:net';
import { ANSWERS } from '../../between/feed.ts';
import type { FeedAnswer, Question } from '../../between/feed.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { env, today } from '../env.ts';
import { log } from '../log.ts';
import { keepableJson } from '../text.ts';

export type Feed = { readonly base: string; readonly secret: string | null; readonly ours: boolean };
export type Fed<Q extends Question> =
  | { readonly ok: true; readonly value: FeedAnswer<Q> }
  | { readonly ok: false; readonly fault: Fault };

const TIMEOUT_MS = 8000;
const PAUSES_MS = [250, 1000];
/** Longer than this nobody waits for a feed that says when to come back. */
const MOST_PAUSE_MS = 5000;
const MOST_BYTES = 8 * 1024 ** 2;

/** Addresses of this machine and of private networks: a workspace cannot make the server ask its own neighbours. */
const NEIGHBOURS = new BlockList();
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['224.0.0.0', 3],
] as const)
  NEIGHBOURS.addSubnet(net, bits, 'ipv4');
for (const [net, bits] of [
  ['::', 127],
  ['64:ff9b::', 96],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
] as const)
  NEIGHBOURS.addSubnet(net, bits, 'ipv6');
const isPrivate = (ip: string): boolean => NEIGHBOURS.check(ip, isIP(ip) === 6 ? 'ipv6' : 'ipv4');

/**
 * What is wrong with the address of a feed; null where it may be asked. An installation whose feed stands in its own
 * network says so (`BM_FEED_PRIVATE`).
 */
export async function addressFault(base: string): Promise<Fault | null> {
  const url = URL.canParse(base) ? new URL(base) : null;
  if (url === null || (url.protocol !== 'https:' && url.protocol !== 'http:') || url.username !== '')
    return fault('feedAddress', { address: base });
  if (env().BM_FEED_PRIVATE === '1') return null;
  if (url.protocol !== 'https:') return fault('feedNotSecure');
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const ips =
    isIP(host) > 0
      ? [host]
      : await lookup(host, { all: true }).then(
          (all) => all.map((x) => x.address),
          () => [],
        );
  if (ips.length === 0) return fault('feedNoHost', { host });
  return ips.some(isPrivate) ? fault('feedPrivate', { host }) : null;
}

const addressOf = (
  feed: Feed,
  question: Question,
  params: Readonly<Record<string, string | number>>,
): string => {
  const query = new URLSearchParams(Object.entries(params).map(([k, v]) => [k, String(v)]));
  return `${feed.base.replace(/\/+$/, '')}/${question}?${query}`;
};

/** The text of an answer; null where it is more than an answer may be. */
async function textOf(res: Response): Promise<string | null> {
  const parts: Uint8Array[] = [];
  let bytes = 0;
  if (res.body === null) return '';
  for await (const part of res.body as unknown as AsyncIterable<Uint8Array>) {
    bytes += part.length;
    if (bytes > MOST_BYTES) return null;
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}

/** Holds an answer against the contract. A day that has not been yet breaks it too; clocks may be a day apart. */
function checked<Q extends Question>(question: Q, text: string): Fed<Q> {
  let raw: unknown;
  try {
    raw = keepableJson(text);
  } catch {
    return { ok: false, fault: fault('feedBroke', { question, field: '(answer)' }) };
  }
  const read = ANSWERS[question].safeParse(raw);
  if (!read.success) {
    const field = read.error.issues[0]?.path.join('.') ?? '';
    return { ok: false, fault: fault('feedBroke', { question, field }) };
  }
  const latest = new Date(Date.parse(`${today()}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10);
  if (read.data.asOf > latest) return { ok: false, fault: fault('feedBroke', { question, field: 'asOf' }) };
  return { ok: true, value: read.data as FeedAnswer<Q> };
}

const FINAL: Readonly<Record<number, string>> = {
  401: 'feedRefused',
  403: 'feedRefused',
  404: 'feedUnknown',
  422: 'feedNotUnderstood',
};

/** Asks a feed one question. Never throws. */
export async function askFeed<Q extends Question>(
  feed: Feed,
  question: Q,
  params: Readonly<Record<string, string | number>>,
  signal?: AbortSignal,
): Promise<Fed<Q>> {
  const wrong = feed.ours ? null : await addressFault(feed.base);
  if (wrong !== null) return { ok: false, fault: wrong };
  let last: Fault = fault('feedAway');
  for (let i = 0; ; i++) {
    const pause = PAUSES_MS[i];
    let wait = pause ?? 0;
    try {
      const limit = AbortSignal.timeout(TIMEOUT_MS);
      const res = await fetch(addressOf(feed, question, params), {
        signal: signal === undefined ? limit : AbortSignal.any([signal, limit]),
        // Where it leads elsewhere, it is not the address that was looked at.
        redirect: 'error',
        headers: {
          accept: 'application/json',
          ...(feed.secret === null ? {} : { authorization: `Bearer ${feed.secret}` }),
        },
      });
      if (res.ok) {
        const text = await textOf(res);
        return text === null
          ? { ok: false, fault: fault('feedTooLarge', { question }) }
          : checked(question, text);
      }
      await res.body?.cancel();
      const final = FINAL[res.status];
      if (final !== undefined) return { ok: false, fault: fault(final, { question }) };
      last = fault(res.status === 429 ? 'feedBusy' : 'feedAway');
      const after = Number(res.headers.get('retry-after') ?? 0) * 1000;
      if (res.status === 429 && Number.isFinite(after)) wait = Math.max(wait, Math.min(MOST_PAUSE_MS, after));
    } catch (e) {
      if (signal?.aborted) return { ok: false, fault: fault('feedStopped') };
      last = fault((e as Error).name === 'TimeoutError' ? 'feedSlow' : 'feedAway');
    }
    if (pause === undefined) {
      log.info({ question, why: last.code }, 'a feed did not answer');
      return { ok: false, fault: last };
    }
    await new Promise((done) => setTimeout(done, wait));
  }
}
