/**
 * How often something may be tried, counted in the database, so that several web processes count together.
 * Passwords: by person and address, so that wrong ones of one person lock nobody else; by person from
 * anywhere, and by address over all persons, at higher limits, against guessing from many places and among
 * many names. Only what fails counts against a password.
 */
import { createHash } from 'node:crypto';
import { eq, inArray, lt, sql } from 'drizzle-orm';
import { attempt } from '../db/authSchema.ts';
import { authDb, reachable } from '../db/client.ts';
import { env } from '../env.ts';
import { SOCKET_ADDRESS_HEADER } from './address.ts';

export type Limit = {
  readonly key: string;
  readonly most: number;
  readonly seconds: number;
  /** Counted at once; 1 unless told. */
  readonly by?: number;
};

/**
 * Requests to the sign-in service that check a password, or a secret that stands for one, with the field that
 * names the person.
 */
const CHECKS: Readonly<Record<string, string | null>> = {
  '/sign-in/email': 'email',
  '/change-password': null,
  '/reset-password': null,
  '/verify-password': null,
  '/delete-user': null,
  '/change-email': null,
  '/set-password': null,
};
/** Requests that make something for somebody who is not signed in: every one counts. */
const MAKES: Readonly<Record<string, number>> = {
  '/sign-up/email': 3,
  '/request-password-reset': 1,
  '/forget-password': 1,
};

/** Keys are digests: nobody's address or e-mail stands in the table. */
export const digest = (...parts: readonly string[]): string =>
  createHash('sha256').update(parts.join('\n')).digest('hex').slice(0, 40);
const addressOf = (headers: Headers): string => headers.get(SOCKET_ADDRESS_HEADER) ?? 'unknown';

/** The limits a request to the sign-in service falls under; `onlyFailures`: a try that succeeds counts nothing. */
function limitsOf(
  path: string,
  headers: Headers,
  body: Record<string, unknown>,
): { limits: readonly Limit[]; onlyFailures: boolean } {
  const most = env().BM_SIGN_IN_ATTEMPTS;
  const address = addressOf(headers);
  if (path in CHECKS) {
    const named = CHECKS[path];
    const person =
      named === null || named === undefined
        ? (/session_token=([^;.]+)/.exec(headers.get('cookie') ?? '')?.[1] ?? '')
        : String(body[named] ?? '')
            .trim()
            .toLowerCase();
    return {
      onlyFailures: true,
      limits: [
        { key: digest(path, 'person and address', person, address), most, seconds: 60 },
        { key: digest(path, 'person', person), most: most * 10, seconds: 60 },
        { key: digest(path, 'address', address), most: most * 20, seconds: 60 },
      ],
    };
  }
  const factor = MAKES[path];
  return {
    onlyFailures: false,
    limits:
      factor === undefined
        ? [{ key: digest('any', address), most: 400, seconds: 60 }]
        : [{ key: digest(path, 'address', address), most: most * factor, seconds: 60 }],
  };
}

/**
 * Counts one more of each; a count older than its window begins anew. Returns whether all are still within
 * their limits.
 */
export async function countUp(limits: readonly Limit[]): Promise<boolean> {
  let within = true;
  for (const { key, most, seconds, by = 1 } of limits) {
    const [row] = await authDb()
      .insert(attempt)
      .values({ key, count: by, since: new Date() })
      .onConflictDoUpdate({
        target: attempt.key,
        set: {
          count: sql`case when ${attempt.since} < now() - make_interval(secs => ${seconds}) then ${by}::int
              else ${attempt.count} + ${by}::int end`,
          since: sql`case when ${attempt.since} < now() - make_interval(secs => ${seconds}) then now()
              else ${attempt.since} end`,
        },
      })
      .returning({ count: attempt.count });
    if ((row?.count ?? by) > most) within = false;
  }
  return within;
}

/** Takes one try back that was counted and succeeded; of the person at this address all are forgotten. */
async function forgive(limits: readonly Limit[]): Promise<void> {
  const [own, ...others] = limits.map((l) => l.key);
  if (own !== undefined) await authDb().delete(attempt).where(eq(attempt.key, own));
  if (others.length > 0)
    await authDb()
      .update(attempt)
      .set({ count: sql`greatest(0, ${attempt.count} - 1)` })
      .where(inArray(attempt.key, others));
}

const tooMany = (): Response =>
  Response.json({ code: 'TOO_MANY' }, { status: 429, headers: { 'retry-after': '60' } });

/**
 * Lets a request to the sign-in service through, and counts it; too many get 429. The path is that behind
 * /api/auth.
 */
export async function counted(
  path: string,
  headers: Headers,
  body: Record<string, unknown>,
  send: () => Promise<Response>,
): Promise<Response> {
  const { limits, onlyFailures } = limitsOf(path, headers, body);
  // Counted before it is tried, so that many at once cannot slip through together.
  if (!(await reachable(() => countUp(limits)))) return tooMany();
  const answer = await send();
  if (onlyFailures && answer.ok) await reachable(() => forgive(limits));
  return answer;
}

/** Takes counts away that nothing reads any more. */
export async function clearTries(): Promise<void> {
  await authDb()
    .delete(attempt)
    .where(lt(attempt.since, new Date(Date.now() - 3_600_000)));
}
