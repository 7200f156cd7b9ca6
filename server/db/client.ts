import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { env } from '../env.ts';
import { log } from '../log.ts';
import * as authTables from './authSchema.ts';
import * as tables from './schema.ts';
import { Refusal, refused } from '../refusal.ts';

/** Connections to the database under one role. */
export function pool(url: string, max: number): pg.Pool {
  const p = new pg.Pool({
    connectionString: url,
    max,
    connectionTimeoutMillis: 4000,
    idleTimeoutMillis: 30_000,
  });
  // A dropped idle connection must not end the process; the next query opens a new one.
  p.on('error', (e) => log.warn({ code: (e as { code?: string }).code }, 'a database connection was lost'));
  // Neither must one that is in use, between two statements; the next statement on it says so.
  p.on('connect', (c) => c.on('error', () => undefined));
  return p;
}

type Both = {
  app: ReturnType<typeof drizzle<typeof tables>>;
  auth: ReturnType<typeof drizzle<typeof authTables>>;
  pools: pg.Pool[];
};
// Kept on globalThis so that a development reload does not open another set of connections.
const kept = globalThis as typeof globalThis & { boldMarginDatabase?: Both };

function both(): Both {
  if (kept.boldMarginDatabase === undefined) {
    const app = pool(env().BM_APP_URL, 12);
    const auth = pool(env().BM_AUTH_URL, 8);
    kept.boldMarginDatabase = {
      app: drizzle(app, { schema: tables }),
      auth: drizzle(auth, { schema: authTables }),
      pools: [app, auth],
    };
  }
  return kept.boldMarginDatabase;
}

/** Sign-in tables, under the role that sees nothing else. */
export const authDb = () => both().auth;

export type Tx = Parameters<Parameters<Both['app']['transaction']>[0]>[0];

/**
 * Runs `work` in one transaction that sees the rows of one workspace and no other: row-level security reads
 * the setting. Every business query goes through here.
 */
export function inWorkspace<T>(workspaceId: string, work: (tx: Tx) => Promise<T>): Promise<T> {
  return reachable(() =>
    both().app.transaction(async (tx) => {
      await tx.execute(sql`select set_config('bm.workspace', ${workspaceId}, true)`);
      return work(tx);
    }),
  );
}

/**
 * Refuses as `away` where the database cannot be reached; everything else passes through.
 */
export async function reachable<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (e) {
    if (isDatabaseAway(e)) {
      log.warn('the database is away');
      throw new Refusal('away');
    }
    // Texts are held against this before (text.ts); what slips through says so too, instead of failing.
    if (isUnkeepable(e)) throw refused('unkeepable');
    throw e;
  }
}

/** Whether the database refused a value for its characters. */
function isUnkeepable(error: unknown): boolean {
  for (let e: unknown = error, i = 0; e instanceof Error && i < 5; e = e.cause, i++)
    if (['22021', '22P05', '22P02'].includes((e as { code?: string }).code ?? '')) return true;
  return false;
}

export async function closeDatabase(): Promise<void> {
  const open = kept.boldMarginDatabase;
  kept.boldMarginDatabase = undefined;
  await Promise.all((open?.pools ?? []).map((p) => p.end()));
}

/** Whether an error says that the database cannot be reached, rather than that a query is wrong. */
export function isDatabaseAway(error: unknown): boolean {
  for (let e: unknown = error, i = 0; e instanceof Error && i < 5; e = e.cause, i++) {
    const code = (e as { code?: string }).code ?? '';
    if (
      /^(ECONNREFUSED|ECONNRESET|ENOTFOUND|ETIMEDOUT|EPIPE|57P0[1-3]|08...)$/.test(code) ||
      /connection terminated|timeout exceeded when trying to connect|Connection ended/i.test(e.message)
    )
      return true;
  }
  return false;
}
