/**
 * The one client for services outside: timeouts, a few tries with growing pauses, answers checked and kept.
 * Where nobody answers, what was kept stands, with its time; where nothing was kept, the caller goes on with
 * stored figures.
 */
import { and, eq } from 'drizzle-orm';
import { z } from 'zod';
import { isCurrency } from '../../core/cards/cells.ts';
import { day, positive } from '../../core/money/schema.ts';
import { inWorkspace } from '../db/client.ts';
import { outsideAnswer } from '../db/schema.ts';
import { env, today } from '../env.ts';
import { log } from '../log.ts';

const TIMEOUT_MS = 2500;
const PAUSES_MS = [200, 600];
/** How long an answer counts as fresh. */
const FRESH_MS = 60_000;

export function outsideIsThere(): boolean {
  return env().BM_OUTSIDE_URL !== undefined;
}

export type FromOutside<T> = {
  value: T;
  /** ISO time of the answer. */
  at: string;
  /** Nobody answered; this is what was said last. */
  stale: boolean;
};

/** Asks the service; null where it does not answer sensibly within the tries. */
export async function ask<T>(
  base: string,
  question: string,
  schema: z.ZodType<T>,
  pauses: readonly number[] = PAUSES_MS,
  timeoutMs = TIMEOUT_MS,
): Promise<T | null> {
  for (let i = 0; ; i++) {
    let wait = pauses[i] ?? null;
    try {
      const res = await fetch(`${base.replace(/\/$/, '')}${question}`, {
        signal: AbortSignal.timeout(timeoutMs),
        headers: { accept: 'application/json' },
      });
      if (res.ok) {
        const parsed = schema.safeParse(await res.json());
        if (parsed.success) return parsed.data;
        log.warn({ question, wrong: parsed.error.issues.length }, 'an outside service answered oddly');
        return null;
      }
      // A question that is not understood will not be understood the next time either.
      if (res.status >= 400 && res.status < 500 && res.status !== 429) return null;
      if (res.status === 429 && wait !== null)
        wait = Math.max(wait, Math.min(2000, Number(res.headers.get('retry-after') ?? 0) * 1000));
    } catch {
      // no answer in time, or nobody there
    }
    if (wait === null) return null;
    await new Promise((done) => setTimeout(done, wait));
  }
}

/** Asks for a workspace: a fresh answer is kept and given again, a stale one stands where nobody answers. */
async function asked<T>(
  workspaceId: string,
  question: string,
  schema: z.ZodType<T>,
): Promise<FromOutside<T> | null> {
  const url = env().BM_OUTSIDE_URL;
  const [kept] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ answer: outsideAnswer.answer, at: outsideAnswer.at })
      .from(outsideAnswer)
      .where(and(eq(outsideAnswer.workspaceId, workspaceId), eq(outsideAnswer.question, question))),
  );
  const known = kept === undefined ? null : schema.safeParse(kept.answer);
  if (known?.success && kept !== undefined && Date.now() - kept.at.getTime() < FRESH_MS)
    return { value: known.data, at: kept.at.toISOString(), stale: false };
  const value = url === undefined ? null : await ask(url, question, schema);
  if (value === null)
    return known?.success && kept !== undefined
      ? { value: known.data, at: kept.at.toISOString(), stale: true }
      : null;
  const at = new Date();
  await inWorkspace(workspaceId, (tx) =>
    tx
      .insert(outsideAnswer)
      .values({ workspaceId, question, answer: value, at })
      .onConflictDoUpdate({
        target: [outsideAnswer.workspaceId, outsideAnswer.question],
        set: { answer: value, at },
      }),
  );
  return { value, at: at.toISOString(), stale: false };
}

const currencyCode = z.string().refine(isCurrency);
const rates = z.object({
  date: day,
  base: currencyCode,
  rates: z.record(currencyCode, positive),
  source: z.string().max(200).default(''),
});
export type OutsideRates = z.output<typeof rates>;

/** Exchange rates of today, per euro. */
export async function ratesFromOutside(
  workspaceId: string,
): Promise<{ table: OutsideRates; at: string; stale: boolean } | null> {
  const got = await asked(workspaceId, `/exchange-rates?date=${today()}&base=EUR`, rates);
  return got === null ? null : { table: got.value, at: got.at, stale: got.stale };
}

const freight = z.object({
  mode: z.enum(['sea', 'air', 'road', 'rail', 'parcel']),
  basis: z.enum(['perCbm', 'perKg']),
  rate: positive,
  currency: currencyCode,
  minimum: z.number().min(0),
  fuelSurcharge: z.number().min(0).max(10),
  transitDays: z.number().min(0).max(400),
  validUntil: day,
});
export type OutsideFreight = z.output<typeof freight>;

/** A freight quote of today between two countries. */
export async function freightFromOutside(
  workspaceId: string,
  from: string,
  to: string,
  mode: OutsideFreight['mode'],
): Promise<FromOutside<OutsideFreight> | null> {
  return asked(workspaceId, `/freight-quotes?from=${from}&to=${to}&mode=${mode}&date=${today()}`, freight);
}
