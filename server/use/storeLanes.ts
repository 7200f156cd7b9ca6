import { sql } from 'drizzle-orm';
import type { LaneResult } from '../../core/lane/result.ts';
import { CARD_FIELDS } from '../../core/workspace/compose.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import type { Measures } from '../../core/workspace/summary.ts';
import type { Tx } from '../db/client.ts';
import type { CardData } from '../../core/cards/schema.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import { composeLane } from '../../core/workspace/compose.ts';
import type { QuoteSource } from '../../core/workspace/records.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { measuresOf, planOf } from '../../core/workspace/summary.ts';
import { lane } from '../db/schema.ts';
import { today } from '../env.ts';
import type { Owner } from './lanes.ts';

export type LaneToStore = {
  id: string;
  position: number;
  data: StoredLane;
  scenarioOf?: string | null;
  createdAt?: Date;
};

/** Stores lanes of one candidate, each evaluated, in one statement. `quotes` and `cards` hold what the lanes name. */
export async function insertLanes(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  of: Owner,
  lanes: readonly LaneToStore[],
  quotes: Readonly<Record<string, QuoteSource>>,
  cards: Readonly<Record<string, CardData>>,
  by: string | null,
): Promise<void> {
  if (lanes.length === 0) return;
  const plan = planOf(of.data, settings.launch);
  const now = new Date();
  await tx.insert(lane).values(
    lanes.map((l) => {
      const doc = composeLane({
        candidate: of.data,
        lane: l.data,
        quotes,
        cards,
        homeCurrency: settings.homeCurrency,
        standings: settings.standings,
        today: today(),
      });
      const result = evaluate(doc);
      return {
        workspaceId,
        id: l.id,
        candidateId: of.id,
        position: l.position,
        data: l.data,
        result,
        resultAt: now,
        updatedBy: by,
        scenarioOf: l.scenarioOf ?? null,
        ...measuresOf(doc, result, plan),
        ...(l.createdAt === undefined ? {} : { createdAt: l.createdAt }),
      };
    }),
  );
}

/** A lane to store: its result, its measures, and the parts of its data that have changed. */
export type Evaluated = {
  readonly id: string;
  readonly changes: Partial<StoredLane>;
  readonly result: LaneResult;
  readonly measures: Measures;
};

const CARDS: ReadonlySet<string> = new Set(Object.values(CARD_FIELDS));
/** Changes of cards apart from the others: they leave the document as it is. */
function parted(changes: Partial<StoredLane>): { changes: object | null; cards: object | null } {
  const some = (own: boolean): object | null => {
    const list = Object.entries(changes).filter(([key]) => CARDS.has(key) === own);
    return list.length === 0 ? null : Object.fromEntries(list);
  };
  return { changes: some(false), cards: some(true) };
}

/** Stores what was typed into lanes, in one statement; their results follow (`storeLanes`). */
export async function storeLaneData(
  tx: Tx,
  workspaceId: string,
  lanes: readonly { readonly id: string; readonly data: StoredLane }[],
  at: Date,
  by: string | null,
): Promise<void> {
  if (lanes.length === 0) return;
  await tx.execute(sql`
    update bm.lane l set data = u.data, newer_cards = '{}', updated_at = ${at.toISOString()}, updated_by = ${by}
    from jsonb_to_recordset(${JSON.stringify(lanes)}::jsonb) as u(id text, data jsonb)
    where l.workspace_id = ${workspaceId} and l.id = u.id`);
}

/**
 * Stores many evaluated lanes in one statement; what each result was goes into its history where there is a
 * `cause` and its profit moves: by edits of one person once in ten minutes. The rows travel as one JSON text:
 * parsing arrays of texts takes the database twice as long.
 */
export async function storeLanes(
  tx: Tx,
  workspaceId: string,
  lanes: readonly Evaluated[],
  cause: 'edit' | 'rates' | null,
  by: string | null,
): Promise<void> {
  if (lanes.length === 0) return;
  const rows = JSON.stringify(
    lanes.map(({ id, changes, result, measures: m }) => ({
      id,
      ...parted(changes),
      result,
      p: m.unitProfit,
      m: m.margin,
      r: m.roi,
      n: m.profitPerMonth,
      y: m.yearlyReturnOnCash,
      c: m.launchCash,
      w: m.whole,
    })),
  );
  await tx.execute(sql`
    with u as materialized (
      select * from jsonb_to_recordset(${rows}::jsonb) as u(
        id text, changes jsonb, cards jsonb, result jsonb,
        p float8, m float8, r float8, n float8, y float8, c float8, w boolean)
    ), kept as (
      insert into bm.lane_history (workspace_id, lane_id, by, cause, result)
      select l.workspace_id, l.id, ${by}, ${cause ?? ''}, jsonb_build_object(
        'currency', l.result -> 'currency',
        'lines', l.result -> 'lines',
        'figures', jsonb_build_object(
          'unitProfit', l.result -> 'figures' -> 'unitProfit',
          'gross', l.result -> 'figures' -> 'gross'))
      from u join bm.lane l on l.workspace_id = ${workspaceId} and l.id = u.id
      where ${cause}::text is not null and l.result is not null and l.unit_profit is distinct from u.p
        and (${cause}::text <> 'edit' or not exists (
          select 1 from bm.lane_history h
          where h.workspace_id = l.workspace_id and h.lane_id = l.id and h.by = ${by}
            and h.cause = 'edit' and h.at > now() - interval '10 minutes'))
    )
    update bm.lane l set
      data = case when u.changes is null then l.data else l.data || u.changes end,
      newer_cards = case when u.cards is null then l.newer_cards else l.newer_cards || u.cards end,
      result = u.result, result_at = now(),
      unit_profit = u.p, margin = u.m, roi = u.r, profit_per_month = u.n,
      yearly_return_on_cash = u.y, launch_cash = u.c, whole = u.w
    from u where l.workspace_id = ${workspaceId} and l.id = u.id`);
}
