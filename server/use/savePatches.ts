/** What a sheet and its launch plan send as one types: applied wholly or not at all, reckoned again, noted. */
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import equal from 'fast-deep-equal';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { issuesOf } from '../../core/issues.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import type { EarlierResult, LaneResult } from '../../core/lane/result.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { launchCash } from '../../core/launch/launch.ts';
import type { LaunchPlan } from '../../core/launch/schema.ts';
import { measuresOf, planOf } from '../../core/workspace/summary.ts';
import { patched, valueAt } from '../../core/workspace/patch.ts';
import type { Patch } from '../../core/workspace/patch.ts';
import { candidateData, cardsOf, quoteSource, storedLane } from '../../core/workspace/records.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../core/workspace/records.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { candidate, lane, laneHistory, quote } from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { today } from '../env.ts';
import { circleAmong } from './bundles.ts';
import { namedByLanes, notOwn } from './own.ts';
import { candidateColumns, cardData, laneColumns, quoteColumns } from './columns.ts';
import { changeSettings, settingsIn } from './workspaces.ts';
import { documentsOf } from './candidates.ts';
import { storeLaneData, storeLanes } from './storeLanes.ts';

// ---- saving
// --------------------------------------------------------------------------------------------------------

export type Conflict = { patch: Patch; current: unknown };

export type Saved =
  | { ok: true; results: Record<string, LaneResult> }
  | { ok: false; conflicts: Conflict[] }
  | { ok: false; invalid: { patch: Patch; fault: Fault }[] }
  | { ok: false; gone: true };

const TABLES = {
  candidate: { table: candidate, schema: candidateData },
  quote: { table: quote, schema: quoteSource },
  lane: { table: lane, schema: storedLane },
} as const;

/**
 * Applies edits to one candidate, all or none. Each names what it replaces; where something else stands there
 * by now, nobody's work is overwritten: the conflicts come back with what stands there (`whatever`: a choice
 * from a list, which replaces what stands there). Then the lanes are reckoned again and stored.
 */
export async function savePatches(
  workspaceId: string,
  candidateId: string,
  patches: readonly Patch[],
  by: string,
  whatever = false,
): Promise<Saved> {
  class Stop extends Error {
    constructor(readonly saved: Saved) {
      super('stop');
    }
  }
  try {
    return await inWorkspace(workspaceId, async (tx) => {
      const settings = await settingsIn(tx, workspaceId);
      // Locking the candidate first puts all writers of it in one order.
      const [row] = await tx
        .select(candidateColumns)
        .from(candidate)
        .where(
          and(
            eq(candidate.workspaceId, workspaceId),
            eq(candidate.id, candidateId),
            isNull(candidate.deletedAt),
          ),
        )
        .for('update');
      if (settings === null || row === undefined) throw new Stop({ ok: false, gone: true });
      const quotes = await tx
        .select(quoteColumns)
        .from(quote)
        .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)));
      const lanes = await tx
        .select(laneColumns)
        .from(lane)
        .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)));
      const lanesBefore = lanes.map((l) => l.data);
      const rows = { candidate: [row], quote: quotes, lane: lanes } as Record<
        Patch['entity'],
        { id: string; data: unknown }[]
      >;

      const touched = new Map<
        string,
        { entity: Patch['entity']; row: { id: string; data: unknown }; patch: Patch }
      >();
      const conflicts: Conflict[] = [];
      for (const p of patches) {
        const target = rows[p.entity].find((r) => r.id === p.id);
        if (target === undefined) throw new Stop({ ok: false, gone: true });
        const now = valueAt(target.data, p.path);
        // A note of where a value came from follows the value; by itself it is nothing to disagree about.
        if (
          !whatever &&
          p.path[0] !== 'provenance' &&
          !equal(now ?? null, p.from ?? null) &&
          !equal(now ?? null, p.to ?? null)
        ) {
          conflicts.push({ patch: p, current: now ?? null });
          continue;
        }
        target.data = patched(target.data, p);
        touched.set(`${p.entity}/${p.id}`, { entity: p.entity, row: target, patch: p });
      }
      if (conflicts.length > 0) throw new Stop({ ok: false, conflicts });

      const invalid: { patch: Patch; fault: Fault }[] = [];
      for (const t of touched.values()) {
        const parsed = TABLES[t.entity].schema.safeParse(t.row.data);
        if (!parsed.success) {
          for (const issue of issuesOf(parsed.error)) {
            const at = issue.path;
            const patch =
              patches.find(
                (p) =>
                  p.entity === t.entity &&
                  p.id === t.row.id &&
                  (at.startsWith(p.path.join('.')) || p.path.join('.').startsWith(at)),
              ) ?? t.patch;
            invalid.push({ patch, fault: { code: issue.code, detail: issue.detail } });
          }
          continue;
        }
        t.row.data = parsed.data;
      }
      if (invalid.length > 0) throw new Stop({ ok: false, invalid });

      const lanesNow = [...touched.values()].flatMap((t) =>
        t.entity === 'lane' ? [t.row.data as StoredLane] : [],
      );
      const named = namedByLanes(lanesNow, lanesBefore);
      const foreign = named.quote.some((id) => !quotes.some((q) => q.id === id))
        ? fault('foreignQuote')
        : await notOwn(tx, workspaceId, { card: named.card, candidate: named.candidate });
      if (foreign !== null)
        throw new Stop({
          ok: false,
          invalid: patches.filter((p) => p.entity === 'lane').map((patch) => ({ patch, fault: foreign })),
        });

      const parts = [...touched.values()].flatMap((t) =>
        t.entity === 'lane' ? (t.row.data as StoredLane).components.flatMap((c) => c.candidateId ?? []) : [],
      );
      const circle = await circleAmong(tx, workspaceId, candidateId, [...new Set(parts)]);
      if (circle !== null)
        throw new Stop({
          ok: false,
          invalid: patches
            .filter((p) => p.path[0] === 'components')
            .map((patch) => ({ patch, fault: circle })),
        });

      const now = new Date();
      for (const { entity, row: changed } of touched.values()) {
        const where = (t: { workspaceId: typeof lane.workspaceId; id: typeof lane.id }) =>
          and(eq(t.workspaceId, workspaceId), eq(t.id, changed.id));
        if (entity === 'candidate')
          await tx
            .update(candidate)
            .set({ data: changed.data as CandidateData })
            .where(where(candidate as never));
        else if (entity === 'quote')
          await tx
            .update(quote)
            .set({ data: changed.data as QuoteSource, updatedAt: now })
            .where(where(quote as never));
      }
      const changedLanes = [...touched.values()].flatMap((t) =>
        t.entity === 'lane' ? [{ id: t.row.id, data: t.row.data as StoredLane }] : [],
      );
      await storeLaneData(tx, workspaceId, changedLanes, now, by);
      await tx
        .update(candidate)
        .set({ updatedAt: now, updatedBy: by })
        .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId)));

      // Only a lane's own edit leaves its neighbours as they were.
      const onlyLanes = [...touched.values()].every((t) => t.entity === 'lane');
      const again = lanes.filter((l) => !onlyLanes || touched.has(`lane/${l.id}`));
      const cards = await cardData(tx, workspaceId, cardsOf(again.map((l) => l.data)));
      const docs = documentsOf({ settings, lanes: again, cards, today: today() }, row.data, quotes);
      const plan = planOf(row.data, settings.launch);
      const evaluated = again.map(({ id }, i) => {
        const doc = docs[i] as LaneDocument;
        const result = evaluate(doc);
        return { id, changes: {}, result, measures: measuresOf(doc, result, plan) };
      });
      await storeLanes(tx, workspaceId, evaluated, 'edit', by);
      const results = Object.fromEntries(evaluated.map((e) => [e.id, e.result]));
      return { ok: true, results };
    });
  } catch (e) {
    if (e instanceof Stop) return e.saved;
    throw e;
  }
}

/** What the launch of each lane takes under the candidate's plan, stored beside the lanes. */
async function storeLaunchCash(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  of: { id: string; data: CandidateData },
): Promise<void> {
  const lanes = await tx
    .select(laneColumns)
    .from(lane)
    .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, of.id)));
  const quotes = await tx
    .select(quoteColumns)
    .from(quote)
    .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, of.id)));
  const cards = await cardData(tx, workspaceId, cardsOf(lanes.map((l) => l.data)));
  const plan = planOf(of.data, settings.launch);
  const rows = JSON.stringify(
    documentsOf({ settings, lanes, cards, today: today() }, of.data, quotes).map((doc, i) => ({
      id: lanes[i]?.id,
      c: launchCash(doc, plan),
    })),
  );
  await tx.execute(
    sql`update bm.lane l set launch_cash = u.c from jsonb_to_recordset(${rows}::jsonb) as u(id text,
        c float8) where l.workspace_id = ${workspaceId} and l.id = u.id`,
  );
}

/**
 * Stores a launch plan: cash, reserve and the goal belong to the workspace, the rest to the candidate. Both
 * or neither. False where the candidate is gone.
 */
export async function saveLaunchPlan(
  workspaceId: string,
  candidateId: string,
  part: Partial<LaunchPlan>,
  by: string,
): Promise<boolean> {
  return inWorkspace(workspaceId, async (tx) => {
    const [row] = await tx
      .select({ data: candidate.data })
      .from(candidate)
      .where(
        and(
          eq(candidate.workspaceId, workspaceId),
          eq(candidate.id, candidateId),
          isNull(candidate.deletedAt),
        ),
      )
      .for('update');
    const before = await settingsIn(tx, workspaceId);
    if (row === undefined || before === null) return false;
    const plan: LaunchPlan = { ...planOf(row.data, before.launch), ...part };
    await tx
      .update(candidate)
      .set({ data: candidateData.parse({ ...row.data, launch: plan }), updatedAt: new Date(), updatedBy: by })
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId)));
    const settings = await changeSettings(tx, workspaceId, (s) => ({
      ...s,
      launch: {
        ...s.launch,
        cash: plan.cash,
        reserve: plan.reserve,
        monthlyProfitGoal: plan.monthlyProfitGoal,
      },
    }));
    await storeLaunchCash(tx, workspaceId, settings, {
      id: candidateId,
      data: { ...row.data, launch: plan },
    });
    return true;
  });
}

export type Earlier = { at: Date; cause: string; result: EarlierResult };

/** What a lane's result was before its latest changes, newest first. */
export async function laneHistoryOf(
  workspaceId: string,
  candidateId: string,
  laneId: string,
): Promise<Earlier[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select({ at: laneHistory.at, cause: laneHistory.cause, result: laneHistory.result })
      .from(laneHistory)
      .innerJoin(lane, and(eq(lane.workspaceId, laneHistory.workspaceId), eq(lane.id, laneHistory.laneId)))
      .where(
        and(
          eq(laneHistory.workspaceId, workspaceId),
          eq(laneHistory.laneId, laneId),
          eq(lane.candidateId, candidateId),
        ),
      )
      .orderBy(desc(laneHistory.at))
      .limit(30),
  );
}
