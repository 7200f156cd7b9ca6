/** Where reports are of, and that they are read one after the other. */
import { sql } from 'drizzle-orm';
import type { SettledPlace } from '../../core/actuals/schema.ts';
import type { Tx } from '../db/client.ts';

export const placeOf = (p: Pick<SettledPlace, 'marketplace' | 'country'>): string =>
  `${p.marketplace}/${p.country}`;

/** Where a report is of; null: nobody has said. */
export const placeIn = (r: { marketplace: string | null; country: string | null }): string | null =>
  r.marketplace === null || r.country === null ? null : `${r.marketplace}/${r.country}`;

/** Reports are read, and lanes put on sale, one after the other: no line and no code is counted by two. */
export const lockReports = (tx: Tx, workspaceId: string): Promise<unknown> =>
  tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`settlements/${workspaceId}`}, 0))`);
