/** Answers over many rows: how they are joined, and how a long one is fetched a part at a time. */
import { sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import type { Tx } from './client.ts';

/** Rows that are fetched at once. */
const AT_ONCE = 5000;

/**
 * Of `few` rows each finds its partners by an index; of `many` all are read once. Told outright, for rows that were
 * stored a moment ago are in no statistics: joined row by row, many could take as long as their number by itself.
 */
export type Joined = 'few' | 'many';
const WITHOUT: Readonly<Record<Joined, readonly string[]>> = {
  few: ['enable_seqscan', 'enable_hashjoin', 'enable_mergejoin'],
  many: ['enable_nestloop'],
};
/** A statement that joins rows so. */
export async function joining(tx: Tx, how: Joined, statement: SQL): Promise<void> {
  const each = (to: 'on' | 'off') => WITHOUT[how].map((w) => `set local ${w} = ${to}`).join(';');
  await tx.execute(sql.raw(each('off')));
  await tx.execute(statement);
  await tx.execute(sql.raw(each('on')));
}

/** All rows that a statement answers. One answer at a time in a transaction; it is closed at the end, or with it. */
export async function* inPieces<T extends Record<string, unknown>>(
  tx: Tx,
  query: SQL,
  how: Joined = 'many',
): AsyncGenerator<T> {
  // All of it is fetched: a plan that is quick to begin would be slow to end.
  await tx.execute(sql`set local cursor_tuple_fraction = 1`);
  await joining(tx, how, sql`declare pieces no scroll cursor for ${query}`);
  for (;;) {
    const { rows } = await tx.execute<T>(sql`fetch ${sql.raw(String(AT_ONCE))} from pieces`);
    yield* rows as unknown as T[];
    if (rows.length < AT_ONCE) break;
  }
  await tx.execute(sql`close pieces`);
}
