/** Lanes that are put on sale: kept as they stood at the launch, counted, let go, told what really came. */
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { stopped } from '../../core/actuals/letGo.ts';
import { EARLIEST } from '../../core/actuals/read.ts';
import type { Stopped } from '../../core/actuals/letGo.ts';
import type { Count } from '../../core/actuals/stock.ts';
import { offersOf } from '../../core/actuals/takeOver.ts';
import type { Offer, TakenOver } from '../../core/actuals/takeOver.ts';
import { cashTerms } from '../../core/cash/schema.ts';
import { day } from '../../core/money/schema.ts';
import { cashPlanOf, fundPlanOf } from '../../core/workspace/fundPlan.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, launchedLane } from '../db/schema.ts';
import { today } from '../env.ts';
import { gone, refused } from '../refusal.ts';
import { documentOf, loadSheet } from './candidates.ts';
import type { Sheet } from './candidates.ts';
import { dropOpenClaims, findClaims } from './claims.ts';
import { launchedIn, onSaleIn } from './onSale.ts';
import type { LaneOnSale, Launched } from './onSale.ts';
import { savePatches } from './savePatches.ts';
import { lockReports, placeOf } from './settledPlaces.ts';
import { settingsIn } from './workspaces.ts';

/** Lanes on sale that a workspace may have. */
const MOST_LAUNCHED = 2000;

/** Puts a lane on sale: it is kept as it stands now, and its candidate is selling. */
export async function launchLane(
  workspaceId: string,
  of: { readonly laneId: string; readonly codes: readonly string[]; readonly since: string },
  by: string,
): Promise<void> {
  if (of.laneId === '') throw refused('chooseLane');
  if (of.codes.length === 0) throw refused('launchedNoCode');
  if (!day.safeParse(of.since).success || of.since < EARLIEST) throw refused('launchedNoDay');
  const { found, settings } = await inWorkspace(workspaceId, async (tx) => {
    const [row] = await tx
      .select({ candidateId: lane.candidateId })
      .from(lane)
      .innerJoin(
        candidate,
        and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)),
      )
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.id, of.laneId), isNull(candidate.deletedAt)));
    return { found: row, settings: await settingsIn(tx, workspaceId) };
  });
  const sheet = found === undefined ? null : await loadSheet(workspaceId, found.candidateId);
  const stored = sheet?.lanes.find((l) => l.id === of.laneId);
  if (sheet === null || stored === undefined || found === undefined || settings === null) throw gone();
  const document = documentOf(sheet, stored);
  await inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    const others = await tx
      .select({ laneId: launchedLane.laneId, place: launchedLane.place, codes: launchedLane.codes })
      .from(launchedLane)
      .where(eq(launchedLane.workspaceId, workspaceId));
    if (others.length >= MOST_LAUNCHED) throw refused('quotaLaunched', { most: MOST_LAUNCHED });
    const place = placeOf(document);
    const taken = of.codes.find((c) =>
      others.some((o) => o.laneId !== of.laneId && o.place === place && o.codes.includes(c)),
    );
    if (taken !== undefined) throw refused('launchedCodeTaken', { code: taken });
    const row = {
      place,
      codes: [...of.codes],
      since: of.since,
      ramp: (sheet.candidate.data.overTime ?? cashTerms.parse({})).ramp,
      document,
      plan: cashPlanOf(fundPlanOf(sheet.candidate.data, settings.launch), of.since),
      stopped: null,
      book: null,
      createdBy: by,
    };
    await tx
      .insert(launchedLane)
      .values({ workspaceId, laneId: of.laneId, candidateId: found.candidateId, ...row })
      .onConflictDoUpdate({ target: [launchedLane.workspaceId, launchedLane.laneId], set: row });
    await followStage(tx, workspaceId, found.candidateId, by);
    await findClaims(tx, workspaceId, place);
  });
}

/** Takes a lane off the page; what was settled stays. */
export async function unlaunchLane(workspaceId: string, laneId: string): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    await dropOpenClaims(tx, workspaceId, laneId);
    await tx.delete(launchedLane).where(own(workspaceId, laneId));
  });
}

/** A lane that could be put on sale. */
export type LaneChoice = { readonly id: string; readonly name: string; readonly lane: string };

/** Lanes that are not on sale, those of candidates that are to be launched first; scenarios are none. */
export const lanesToLaunch = (workspaceId: string, most = 500): Promise<LaneChoice[]> =>
  inWorkspace(workspaceId, (tx) =>
    tx
      .select({
        id: lane.id,
        name: sql<string>`${candidate.data} ->> 'name'`,
        lane: sql<string>`concat_ws(', ', nullif(${lane.data} ->> 'name', ''),
          ${lane.data} ->> 'marketplace', ${lane.data} ->> 'country')`,
      })
      .from(lane)
      .innerJoin(
        candidate,
        and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)),
      )
      .leftJoin(
        launchedLane,
        and(
          eq(launchedLane.workspaceId, lane.workspaceId),
          eq(launchedLane.laneId, lane.id),
          isNull(launchedLane.stopped),
        ),
      )
      .where(
        and(
          eq(lane.workspaceId, workspaceId),
          isNull(candidate.deletedAt),
          isNull(lane.scenarioOf),
          isNull(launchedLane.laneId),
        ),
      )
      .orderBy(
        sql`(${candidate.data} ->> 'launchLane' = ${lane.id}) desc nulls last`,
        sql`${candidate.data} ->> 'name'`,
        asc(lane.position),
      )
      .limit(most),
  );

/** The lane on sale, locked. @throws Refusal `gone` */
async function needLaunched(tx: Tx, workspaceId: string, laneId: string): Promise<Launched> {
  await lockReports(tx, workspaceId);
  const [found] = await launchedIn(tx, workspaceId, { lanes: [laneId] });
  if (found === undefined) throw gone();
  return found;
}
const own = (workspaceId: string, laneId: string) =>
  and(eq(launchedLane.workspaceId, workspaceId), eq(launchedLane.laneId, laneId));

/** Counts that are kept of a lane. */
const MOST_COUNTS = 500;

/** Notes what was counted on the shelf at the end of a day; of a day counted twice the later count holds. */
export async function countStock(workspaceId: string, laneId: string, counted: Count): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const { counts } = await needLaunched(tx, workspaceId, laneId);
    if (!day.safeParse(counted.day).success || counted.day > today()) throw refused('countedNoDay');
    const kept = [...counts.filter((c) => c.day !== counted.day), counted].sort((a, b) =>
      a.day < b.day ? -1 : 1,
    );
    await tx
      .update(launchedLane)
      .set({ counts: kept.slice(-MOST_COUNTS), book: null })
      .where(own(workspaceId, laneId));
  });
}

/** Takes a count back. */
export async function dropCount(workspaceId: string, laneId: string, onDay: string): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const { counts } = await needLaunched(tx, workspaceId, laneId);
    await tx
      .update(launchedLane)
      .set({ counts: counts.filter((c) => c.day !== onDay), book: null })
      .where(own(workspaceId, laneId));
  });
}

/** Decides that a lane is let go, or takes that back (null); its candidate's stage follows once all its lanes are. */
export async function letGo(
  workspaceId: string,
  laneId: string,
  said: Omit<Stopped, 'day'> | null,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const { candidateId } = await needLaunched(tx, workspaceId, laneId);
    await tx
      .update(launchedLane)
      .set({ stopped: said === null ? null : stopped.parse({ ...said, day: today() }), book: null })
      .where(own(workspaceId, laneId));
    await followStage(tx, workspaceId, candidateId, by);
  });
}

/** A candidate sells while one of its lanes is on sale and not let go. */
async function followStage(tx: Tx, workspaceId: string, candidateId: string, by: string): Promise<void> {
  const lanes = await tx
    .select({ stopped: launchedLane.stopped })
    .from(launchedLane)
    .where(and(eq(launchedLane.workspaceId, workspaceId), eq(launchedLane.candidateId, candidateId)));
  if (lanes.length === 0) return;
  const stage = lanes.every((l) => l.stopped !== null) ? 'letGo' : 'selling';
  await tx
    .update(candidate)
    .set({
      data: sql`jsonb_set(${candidate.data}, '{stage}', to_jsonb(${stage}::text))`,
      updatedAt: new Date(),
      updatedBy: by,
    })
    .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId)));
}

/** What of a lane as it is now could be taken over, and the day it speaks of; null: too little was settled. */
export function offersNow(
  { lately, sold, place, launched }: LaneOnSale,
  sheet: Sheet | null,
): { readonly offers: readonly Offer[]; readonly day: string } | null {
  const stored = sheet?.lanes.find((l) => l.id === launched.laneId);
  if (sheet === null || stored === undefined || lately === null) return null;
  const within = sold.months.filter(
    (m) => m.month >= lately.from.slice(0, 7) && m.month <= lately.to.slice(0, 7),
  );
  const over = sold.months.filter((m) => place.last === null || m.month < place.last.slice(0, 7));
  return { offers: offersOf(documentOf(sheet, stored), lately, within, over), day: lately.to };
}

/**
 * Writes what really came into the lane as it is now: origin actual, with the day and the units behind it. The lane as
 * it stood at the launch stays, so that plan and actual can still be told apart.
 */
export async function takeOver(
  workspaceId: string,
  laneId: string,
  whats: readonly TakenOver[],
  by: string,
): Promise<void> {
  const { lanes } = await inWorkspace(workspaceId, (tx) => onSaleIn(tx, workspaceId, { lanes: [laneId] }));
  const [found] = lanes;
  if (found === undefined) throw gone();
  const { candidateId } = found.launched;
  const sheet = await loadSheet(workspaceId, candidateId);
  const now = offersNow(found, sheet);
  const chosen = now?.offers.filter((o) => whats.includes(o.what)) ?? [];
  if (now === null || chosen.length === 0) throw refused('nothingToTakeOver');
  const stored = sheet?.lanes.find((l) => l.id === laneId)?.data as StoredLane;
  const own = { entity: 'lane' as const, id: laneId };
  const patches = chosen.flatMap(({ path, value, units, clears = [] }) => {
    const key = path.join('.');
    const from = path.reduce<unknown>((at, k) => (at as Record<string, unknown> | null)?.[k], stored) ?? null;
    const said = { source: 'actual' as const, date: now.day, note: '', units: Math.round(units) };
    return [
      ...clears
        .filter((field) => stored[field] !== null)
        .map((field) => ({ ...own, path: [field], from: stored[field], to: null })),
      { ...own, path: [...path], from, to: value },
      { ...own, path: ['provenance', key], from: stored.provenance[key] ?? null, to: said },
    ];
  });
  const saved = await savePatches(workspaceId, candidateId, patches, by, true);
  if (!saved.ok) throw refused('nothingToTakeOver');
}
