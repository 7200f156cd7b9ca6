/** Where reports are of, and that they are read one after the other. */
import { sql } from 'drizzle-orm';
import type { SettledPlace } from '../../core/actuals/schema.ts';
import type { Tx } from '../db/client.ts';

export const placeOf = (p: Pick<SettledPlace, 'marketplace' | 'country'>): string =>
  `${p.marketplace}/${p.country}`;

/** Where a report is of; null: nobody has said. */
export const placeIn = (r: { marketplace: string | null; country: string | null }): string | null =>
  r.marketplace === null || r.country === null ? null : `${r.marketplace}/${r.country}`;

const lockOf = (workspaceId: string) => sql`hashtextextended(${`settlements/${workspaceId}`}, 0)`;

/** Reports are read, and lanes put on sale, one after the other: no line and no code is counted by two. */
export const lockReports = (tx: Tx, workspaceId: string): Promise<unknown> =>
  tx.execute(sql`select pg_advisory_xact_lock(${lockOf(workspaceId)})`);

/** The same where nobody else is at it; false: somebody is. */
export async function tryLockReports(tx: Tx, workspaceId: string): Promise<boolean> {
  const { rows } = await tx.execute<{ mine: boolean }>(
    sql`select pg_try_advisory_xact_lock(${lockOf(workspaceId)}) as mine`,
  );
  return rows[0]?.mine === true;
}
