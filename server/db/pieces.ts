/** Rows of a long answer, some at a time, within a transaction: nothing of it is sorted or asked for twice. */
import { sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { Tx } from './client.ts';

/** Rows that are fetched at once. */
const AT_ONCE = 5000;

/** All rows that a statement answers. One answer at a time in a transaction; it is closed at the end, or with it. */
export async function* inPieces<T extends Record<string, unknown>>(tx: Tx, query: SQL): AsyncGenerator<T> {
  // All of it is fetched: a plan that is quick to begin would be slow to end.
  await tx.execute(sql`set local cursor_tuple_fraction = 1`);
  await tx.execute(sql`declare pieces no scroll cursor for ${query}`);
  for (;;) {
    const { rows } = await tx.execute<T>(sql`fetch ${sql.raw(String(AT_ONCE))} from pieces`);
    yield* rows as unknown as T[];
    if (rows.length < AT_ONCE) break;
  }
  await tx.execute(sql`close pieces`);
}
