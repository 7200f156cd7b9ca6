import { sql } from 'drizzle-orm';
import type { LaneResult } from '../../core/lane/result.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import type { Measures } from '../../core/workspace/summary.ts';
import type { Tx } from '../db/client.ts';
import { newId } from './workspaces.ts';

export type Evaluated = { readonly id: string; readonly data: StoredLane; readonly result: LaneResult; readonly measures: Measures };

/**
 * Stores many evaluated lanes in one statement; what each result was goes into its history first where there is a
 * `cause` and its profit moves.
 */
export async function storeLanes(tx: Tx, workspaceId: string, lanes: readonly Evaluated[], cause: 'edit' | 'rates' | null, by: string | null): Promise<void> {
  if (lanes.length === 0) return;
  const ids = lanes.map((l) => l.id);
  const column = (pick: (l: (typeof lanes)[number]) => unknown) => sql.param(lanes.map(pick));
  if (cause !== null)
    await tx.execute(sql`
      insert into bm.lane_history (workspace_id, id, lane_id, by, cause, result)
      select l.workspace_id, u.history, l.id, ${by}, ${cause}, l.result
      from unnest(${sql.param(ids)}::text[], ${sql.param(ids.map(() => newId()))}::text[], ${column((l) => l.measures.unitProfit)}::float8[]) as u(id, history, profit)
      join bm.lane l on l.workspace_id = ${workspaceId} and l.id = u.id
      where l.result is not null and l.unit_profit is distinct from u.profit`);
  await tx.execute(sql`
    update bm.lane l set data = u.data, result = u.result, result_at = now(), unit_profit = u.unit_profit, margin = u.margin, roi = u.roi, profit_per_month = u.profit_per_month,
      yearly_return_on_cash = u.yearly, launch_cash = u.launch_cash, whole = u.whole
    from unnest(${sql.param(ids)}::text[], ${column((l) => JSON.stringify(l.data))}::jsonb[], ${column((l) => JSON.stringify(l.result))}::jsonb[], ${column((l) => l.measures.unitProfit)}::float8[], ${column((l) => l.measures.margin)}::float8[],
      ${column((l) => l.measures.roi)}::float8[], ${column((l) => l.measures.profitPerMonth)}::float8[], ${column((l) => l.measures.yearlyReturnOnCash)}::float8[], ${column((l) => l.measures.launchCash)}::float8[], ${column((l) => l.measures.whole)}::boolean[])
      as u(id, data, result, unit_profit, margin, roi, profit_per_month, yearly, launch_cash, whole)
    where l.workspace_id = ${workspaceId} and l.id = u.id`);
}
