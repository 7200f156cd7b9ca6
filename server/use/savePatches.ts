/** What a sheet and its launch plan send as one types: applied wholly or not at all, reckoned again, noted. */
import { and, desc, eq, sql } from 'drizzle-orm';
import equal from 'fast-deep-equal';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { issuesOf } from '../../core/issues.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import type { EarlierResult, LaneResult } from '../../core/lane/result.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { launchCash } from '../../core/launch/launch.ts';
import { fundPlanOf, launchOf, termsOf } from '../../core/workspace/fundPlan.ts';
import type { FundPlan } from '../../core/workspace/fundPlan.ts';
import { measuresOf, planOf } from '../../core/workspace/summary.ts';
import { patched, valueAt } from '../../core/workspace/patch.ts';
import type { Patch } from '../../core/workspace/patch.ts';
import { candidateData, quoteSource, storedLane } from '../../core/workspace/records.ts';
import { cardsOf } from '../../core/workspace/compose.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../core/workspace/records.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { candidate, lane, laneHistory, quote } from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { today } from '../env.ts';
import { circleAmong } from './bundles.ts';
import { namedByLanes, notOwn } from './own.ts';
import { quotesIn, lanesIn, candidateIn, cardData } from './columns.ts';
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

/** Ends the transaction with nothing stored, and says why. */
class Stop extends Error {
  constructor(readonly saved: Saved) {
    super('stop');
  }
}

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
  try {
    return await inWorkspace(workspaceId, async (tx) => {
      const whole = await lockCandidate(tx, workspaceId, candidateId);
      const lanesBefore = whole.lanes.map((l) => l.data);
      const touched = applied(whole, patches, whatever);
      const invalid = [...touched.values()].flatMap((t) => checked(t, patches));
      if (invalid.length > 0) throw new Stop({ ok: false, invalid });
      await needOwnParts(tx, workspaceId, candidateId, { whole, touched, lanesBefore, patches });
      await storeTouched(tx, workspaceId, candidateId, touched, by);
      return { ok: true, results: await weighTouched(tx, workspaceId, whole, touched, by) };
    });
  } catch (e) {
    if (e instanceof Stop) return e.saved;
    throw e;
  }
}

/** A candidate with its quotes and lanes. */
type Whole = Awaited<ReturnType<typeof lockCandidate>>;

/** Locking the candidate first puts all writers of it in one order. */
async function lockCandidate(tx: Tx, workspaceId: string, candidateId: string) {
  const settings = await settingsIn(tx, workspaceId);
  const row = await candidateIn(tx, workspaceId, candidateId, 'lock');
  if (settings === null || row === undefined) throw new Stop({ ok: false, gone: true });
  const quotes = await quotesIn(tx, workspaceId, candidateId);
  const lanes = await lanesIn(tx, workspaceId, candidateId);
  return { settings, row, quotes, lanes };
}

/** A record that was changed, and the last patch that did. */
type Touched = { entity: Patch['entity']; row: { id: string; data: unknown }; patch: Patch };
type AllTouched = ReadonlyMap<string, Touched>;
const lanesOf = (touched: AllTouched): { id: string; data: StoredLane }[] =>
  [...touched.values()].flatMap((t) =>
    t.entity === 'lane' ? [{ id: t.row.id, data: t.row.data as StoredLane }] : [],
  );

/** The records as the patches leave them; stops where one of them meets something else than it replaces. */
function applied(whole: Whole, patches: readonly Patch[], whatever: boolean): AllTouched {
  const rows = { candidate: [whole.row], quote: whole.quotes, lane: whole.lanes } as Record<
    Patch['entity'],
    { id: string; data: unknown }[]
  >;
  const touched = new Map<string, Touched>();
  const conflicts: Conflict[] = [];
  for (const p of patches) {
    const target = rows[p.entity].find((r) => r.id === p.id);
    if (target === undefined) throw new Stop({ ok: false, gone: true });
    const now = valueAt(target.data, p.path) ?? null;
    // A note of where a value came from follows the value; by itself it is nothing to disagree about.
    const free = whatever || p.path[0] === 'provenance';
    if (free || equal(now, p.from ?? null) || equal(now, p.to ?? null)) {
      target.data = patched(target.data, p);
      touched.set(`${p.entity}/${p.id}`, { entity: p.entity, row: target, patch: p });
    } else conflicts.push({ patch: p, current: now });
  }
  if (conflicts.length > 0) throw new Stop({ ok: false, conflicts });
  return touched;
}

/** Brings a changed record into its schema's form; what keeps it from that, each beside the patch it comes from. */
function checked(t: Touched, patches: readonly Patch[]): { patch: Patch; fault: Fault }[] {
  const parsed = TABLES[t.entity].schema.safeParse(t.row.data);
  if (parsed.success) {
    t.row.data = parsed.data;
    return [];
  }
  return issuesOf(parsed.error).map(({ path: at, code, detail }) => {
    const about = (p: Patch): boolean => at.startsWith(p.path.join('.')) || p.path.join('.').startsWith(at);
    const patch = patches.find((p) => p.entity === t.entity && p.id === t.row.id && about(p)) ?? t.patch;
    return { patch, fault: { code, detail } };
  });
}

/** Stops where a lane names what is not this product's or this workspace's, or a bundle would contain itself. */
async function needOwnParts(
  tx: Tx,
  workspaceId: string,
  candidateId: string,
  of: { whole: Whole; touched: AllTouched; lanesBefore: readonly StoredLane[]; patches: readonly Patch[] },
): Promise<void> {
  const stop = (what: Fault, patches: readonly Patch[]): never => {
    throw new Stop({ ok: false, invalid: patches.map((patch) => ({ patch, fault: what })) });
  };
  const now = lanesOf(of.touched).map((l) => l.data);
  const named = namedByLanes(now, of.lanesBefore);
  const foreign = named.quote.some((id) => !of.whole.quotes.some((q) => q.id === id))
    ? fault('foreignQuote')
    : await notOwn(tx, workspaceId, { card: named.card, candidate: named.candidate });
  if (foreign !== null)
    stop(
      foreign,
      of.patches.filter((p) => p.entity === 'lane'),
    );
  const parts = now.flatMap((l) => l.components.flatMap((c) => c.candidateId ?? []));
  const circle = await circleAmong(tx, workspaceId, candidateId, [...new Set(parts)]);
  if (circle !== null)
    stop(
      circle,
      of.patches.filter((p) => p.path[0] === 'components'),
    );
}

async function storeTouched(
  tx: Tx,
  workspaceId: string,
  candidateId: string,
  touched: AllTouched,
  by: string,
): Promise<void> {
  const now = new Date();
  for (const { entity, row } of touched.values()) {
    if (entity === 'candidate')
      await tx
        .update(candidate)
        .set({ data: row.data as CandidateData })
        .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, row.id)));
    else if (entity === 'quote')
      await tx
        .update(quote)
        .set({ data: row.data as QuoteSource, updatedAt: now })
        .where(and(eq(quote.workspaceId, workspaceId), eq(quote.id, row.id)));
  }
  await storeLaneData(tx, workspaceId, lanesOf(touched), now, by);
  await tx
    .update(candidate)
    .set({ updatedAt: now, updatedBy: by })
    .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId)));
}

/** Weighs again what the edits bear on, and stores it: only a lane's own edit leaves its neighbours as they were. */
async function weighTouched(
  tx: Tx,
  workspaceId: string,
  { settings, row, quotes, lanes }: Whole,
  touched: AllTouched,
  by: string,
): Promise<Record<string, LaneResult>> {
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
  return Object.fromEntries(evaluated.map((e) => [e.id, e.result]));
}

/** What the launch of each lane takes under the candidate's plan, stored beside the lanes. */
async function storeLaunchCash(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  of: { id: string; data: CandidateData },
): Promise<void> {
  const lanes = await lanesIn(tx, workspaceId, of.id);
  const quotes = await quotesIn(tx, workspaceId, of.id);
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
export async function saveFundPlan(
  workspaceId: string,
  candidateId: string,
  part: Partial<FundPlan>,
  by: string,
): Promise<boolean> {
  return inWorkspace(workspaceId, async (tx) => {
    const row = await candidateIn(tx, workspaceId, candidateId, 'lock');
    const before = await settingsIn(tx, workspaceId);
    if (row === undefined || before === null) return false;
    const whole: FundPlan = { ...fundPlanOf(row.data, before.launch), ...part };
    const plan = launchOf(whole);
    // Nobody has said when it starts until somebody does.
    const isTimed = Object.keys(termsOf(whole)).some((key) => Object.hasOwn(part, key));
    await tx
      .update(candidate)
      .set({
        data: candidateData.parse({
          ...row.data,
          launch: plan,
          ...(isTimed && { overTime: termsOf(whole) }),
          sure: whole.sure,
        }),
        updatedAt: new Date(),
        updatedBy: by,
      })
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
