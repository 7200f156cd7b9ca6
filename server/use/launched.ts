/** Lanes that are on sale: kept as they stood at the launch, and what really came of them. */
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { day } from '../../core/money/schema.ts';
import { mixOf, standsAt } from '../../core/actuals/compare.ts';
import type { Compared, Stands } from '../../core/actuals/compare.ts';
import { placeSettled, soldOf } from '../../core/actuals/onSale.ts';
import type { PlaceSettled, Sold } from '../../core/actuals/onSale.ts';
import { STEPS } from '../../core/actuals/schema.ts';
import { kindsOfCodes } from '../../core/actuals/sums.ts';
import type { KindSums } from '../../core/actuals/sums.ts';
import { cashTerms } from '../../core/cash/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, launchedLane, settledMonth, settlement } from '../db/schema.ts';
import { gone, refused } from '../refusal.ts';
import { documentOf, loadSheet } from './candidates.ts';
import { lockReports, placeIn, placeOf } from './settlements.ts';

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
  if (!day.safeParse(of.since).success) throw refused('launchedNoDay');
  const [own] = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ candidateId: lane.candidateId })
      .from(lane)
      .innerJoin(
        candidate,
        and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)),
      )
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.id, of.laneId), isNull(candidate.deletedAt))),
  );
  const sheet = own === undefined ? null : await loadSheet(workspaceId, own.candidateId);
  const stored = sheet?.lanes.find((l) => l.id === of.laneId);
  if (sheet === null || stored === undefined || own === undefined) throw gone();
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
      createdBy: by,
    };
    await tx
      .insert(launchedLane)
      .values({ workspaceId, laneId: of.laneId, candidateId: own.candidateId, ...row })
      .onConflictDoUpdate({ target: [launchedLane.workspaceId, launchedLane.laneId], set: row });
    await tx
      .update(candidate)
      .set({
        data: sql`jsonb_set(${candidate.data}, '{stage}', '"selling"')`,
        updatedAt: new Date(),
        updatedBy: by,
      })
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, own.candidateId)));
  });
}

/** Takes a lane off the page; what was settled stays. */
export async function unlaunchLane(workspaceId: string, laneId: string): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .delete(launchedLane)
      .where(and(eq(launchedLane.workspaceId, workspaceId), eq(launchedLane.laneId, laneId))),
  );
}

/** A lane that could be put on sale. */
export type LaneChoice = { readonly id: string; readonly name: string; readonly lane: string };

/** Lanes of candidates, those of one that is to be launched first; scenarios are none. */
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
      .where(and(eq(lane.workspaceId, workspaceId), isNull(candidate.deletedAt), isNull(lane.scenarioOf)))
      .orderBy(
        sql`(${candidate.data} ->> 'launchLane' = ${lane.id}) desc nulls last`,
        sql`${candidate.data} ->> 'name'`,
        asc(lane.position),
      )
      .limit(most),
  );

type Launched = typeof launchedLane.$inferSelect & { readonly name: string };
type Place = PlaceSettled & { readonly currency: string };

async function placesIn(tx: Tx, workspaceId: string): Promise<Map<string, Place>> {
  const rows = await tx.select().from(settledMonth).where(eq(settledMonth.workspaceId, workspaceId));
  const reports = await tx
    .select({
      marketplace: settlement.marketplace,
      country: settlement.country,
      currency: sql<string>`max(${settlement.currency})`,
      last: sql<string | null>`max(${settlement.said} ->> 'last')`,
    })
    .from(settlement)
    .where(eq(settlement.workspaceId, workspaceId))
    .groupBy(settlement.marketplace, settlement.country);
  const about = new Map(reports.map((r) => [placeIn(r), r]));
  const by = new Map<string, Map<string, Map<string, KindSums>>>();
  for (const { place, code, month, sums } of rows) {
    const codes = by.get(place) ?? new Map<string, Map<string, KindSums>>();
    by.set(place, codes);
    const months = codes.get(code) ?? new Map<string, KindSums>();
    codes.set(code, months);
    months.set(month, sums);
  }
  return new Map(
    [...by].map(([place, sums]) => {
      const { last = null, currency = '' } = about.get(place) ?? {};
      return [place, { ...placeSettled(sums, last), currency }];
    }),
  );
}

const NOTHING: Place = { ...placeSettled(new Map(), null), currency: '' };

export type LaunchedSaid = {
  readonly laneId: string;
  readonly candidateId: string;
  readonly name: string;
  readonly place: string;
  readonly codes: readonly string[];
  readonly since: string;
  readonly until: string | null;
  readonly stands: Stands;
  /** Over all months; null: nothing of it has been settled. */
  readonly whole: Compared | null;
};
export type CodeUnknown = {
  readonly place: string;
  readonly code: string;
  readonly currency: string;
  readonly units: number;
  /** What its lines come to, transfers apart. */
  readonly amount: number;
};
export type SellingPage = {
  readonly lanes: readonly LaunchedSaid[];
  readonly mix: { readonly currency: string; readonly volume: number; readonly mix: number } | null;
  /** Codes that reports name and no lane on sale has. */
  readonly unknown: readonly CodeUnknown[];
};

async function launchedIn(tx: Tx, workspaceId: string, laneId: string | null): Promise<Launched[]> {
  const rows = await tx
    .select({ launched: launchedLane, name: sql<string>`${candidate.data} ->> 'name'` })
    .from(launchedLane)
    .innerJoin(
      candidate,
      and(eq(candidate.workspaceId, launchedLane.workspaceId), eq(candidate.id, launchedLane.candidateId)),
    )
    .where(
      and(
        eq(launchedLane.workspaceId, workspaceId),
        isNull(candidate.deletedAt),
        laneId === null ? undefined : eq(launchedLane.laneId, laneId),
      ),
    )
    .orderBy(asc(launchedLane.createdAt));
  return rows.map((r) => ({ ...r.launched, name: r.name }));
}

/** Every lane on sale with what came of it; those that lose or pay less than planned stand first. */
export async function loadSelling(workspaceId: string): Promise<SellingPage> {
  const { launched, places } = await inWorkspace(workspaceId, async (tx) => ({
    launched: await launchedIn(tx, workspaceId, null),
    places: await placesIn(tx, workspaceId),
  }));
  const lanes = launched.map((l): LaunchedSaid => {
    const place = places.get(l.place) ?? NOTHING;
    const { whole } = soldOf(l, place);
    const { laneId, candidateId, name, codes, since } = l;
    return {
      laneId,
      candidateId,
      name,
      place: l.place,
      codes,
      since,
      until: place.last,
      stands: whole === null ? { standing: 'open', because: null, amount: null } : standsAt(whole),
      whole,
    };
  });
  lanes.sort((a, b) => URGENCY.indexOf(a.stands.standing) - URGENCY.indexOf(b.stands.standing));
  const compared = lanes.flatMap((l) => l.whole ?? []);
  const [first, ...others] = [...new Set(compared.map((c) => c.currency))];
  const mix = compared.length < 2 || others.length > 0 ? null : mixOf(compared);
  return {
    lanes,
    mix: mix === null ? null : { currency: first as string, ...mix },
    unknown: unknownCodes(launched, places),
  };
}
const URGENCY: readonly Stands['standing'][] = ['loses', 'paysLess', 'open', 'asPlanned', 'paysMore'];

function unknownCodes(launched: readonly Launched[], places: ReadonlyMap<string, Place>): CodeUnknown[] {
  const known = new Set(launched.flatMap((l) => l.codes.map((c) => `${l.place}\n${c}`)));
  return [...places].flatMap(([place, { sums, currency }]) =>
    [...sums.keys()]
      .filter((code) => code !== '' && !known.has(`${place}\n${code}`))
      .map((code) => {
        const kinds = Object.entries(kindsOfCodes(sums, [code])).filter(([kind]) => kind !== 'transfer');
        return {
          place,
          code,
          currency,
          units: kinds.find(([kind]) => kind === 'sale')?.[1].units ?? 0,
          amount: kinds.reduce((s, [, k]) => s + k.amount, 0) / STEPS,
        };
      }),
  );
}

export type LaunchedPage = Omit<LaunchedSaid, 'stands' | 'whole'> & {
  readonly months: Sold['months'];
  readonly whole: (Compared & { readonly stands: Stands }) | null;
};

/** One lane on sale, month by month and whole. */
export async function loadLaunched(workspaceId: string, laneId: string): Promise<LaunchedPage> {
  const { l, places } = await inWorkspace(workspaceId, async (tx) => ({
    l: (await launchedIn(tx, workspaceId, laneId))[0],
    places: await placesIn(tx, workspaceId),
  }));
  if (l === undefined) throw gone();
  const place = places.get(l.place) ?? NOTHING;
  const { months, whole } = soldOf(l, place);
  return {
    laneId,
    candidateId: l.candidateId,
    name: l.name,
    place: l.place,
    codes: l.codes,
    since: l.since,
    until: place.last,
    months,
    whole: whole === null ? null : { ...whole, stands: standsAt(whole) },
  };
}
