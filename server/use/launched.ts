/** Lanes that are on sale: kept as they stood at the launch, and what really came of them. */
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { compare, mixOf, standsAt, unitsPlanned } from '../../core/actuals/compare.ts';
import type { Compared, Stands } from '../../core/actuals/compare.ts';
import { STEPS } from '../../core/actuals/schema.ts';
import type { SettledKind } from '../../core/actuals/schema.ts';
import { kindsOfCodes, kindsSettled, sharedOut } from '../../core/actuals/sums.ts';
import type { KindSums, SettledSums, SharedOut } from '../../core/actuals/sums.ts';
import { cashTerms } from '../../core/cash/schema.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import { daysBefore, firstOfNextMonth } from '../../core/money/days.ts';
import { composeLane } from '../../core/workspace/compose.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, launchedLane, settledMonth, settlement } from '../db/schema.ts';
import { gone, refused } from '../refusal.ts';
import { loadSheet } from './candidates.ts';
import { placeOf } from './settlements.ts';

/** Lanes on sale that a workspace may have. */
const MOST_LAUNCHED = 2000;

/** Puts a lane on sale: it is kept as it stands now, and its candidate is selling. */
export async function launchLane(
  workspaceId: string,
  of: { readonly laneId: string; readonly codes: readonly string[]; readonly since: string },
  by: string,
): Promise<void> {
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
  const document = composeLane({
    candidate: sheet.candidate.data,
    lane: stored.data,
    quotes: Object.fromEntries(sheet.quotes.map((q) => [q.id, q.data])),
    cards: sheet.cards,
    homeCurrency: sheet.settings.homeCurrency,
    standings: sheet.settings.standings,
    today: sheet.today,
  });
  await inWorkspace(workspaceId, async (tx) => {
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
/** What was settled in one place, and up to which day reports speak. */
type Place = {
  readonly sums: SettledSums;
  readonly out: SharedOut;
  readonly kinds: ReadonlySet<SettledKind>;
  readonly last: string | null;
};

async function placesIn(tx: Tx, workspaceId: string): Promise<Map<string, Place>> {
  const rows = await tx.select().from(settledMonth).where(eq(settledMonth.workspaceId, workspaceId));
  const reports = await tx
    .select({
      marketplace: settlement.marketplace,
      country: settlement.country,
      last: sql<string | null>`max(${settlement.said} ->> 'last')`,
    })
    .from(settlement)
    .where(eq(settlement.workspaceId, workspaceId))
    .groupBy(settlement.marketplace, settlement.country);
  const lasts = new Map(reports.map((r) => [`${r.marketplace}/${r.country}`, r.last]));
  const by = new Map<string, Map<string, Map<string, KindSums>>>();
  for (const { place, code, month, sums } of rows) {
    const codes = by.get(place) ?? new Map<string, Map<string, KindSums>>();
    by.set(place, codes);
    const months = codes.get(code) ?? new Map<string, KindSums>();
    codes.set(code, months);
    months.set(month, sums);
  }
  return new Map(
    [...by].map(([place, sums]) => [
      place,
      { sums, out: sharedOut(sums), kinds: kindsSettled(sums), last: lasts.get(place) ?? null },
    ]),
  );
}

const NOTHING: Place = {
  sums: new Map(),
  out: { by: new Map(), left: new Map() },
  kinds: new Set(),
  last: null,
};

/** Plan against actual of a lane over some months, year-month, both included. */
function comparedOver(l: Launched, place: Place, from: string, to: string): Compared {
  const start = `${from}-01` < l.since ? l.since : `${from}-01`;
  const end = daysBefore(firstOfNextMonth(`${to}-01`), 1);
  const until = place.last !== null && place.last < end ? place.last : end;
  const perMonth = evaluate(l.document).figures.expectedMonthlyUnits;
  const units = unitsPlanned(perMonth, l.document.season, l.ramp, l.since, start, until) ?? 0;
  const settled = {
    own: kindsOfCodes(place.sums, l.codes, from, to),
    shared: kindsOfCodes(place.out.by, l.codes, from, to),
    kinds: place.kinds,
  };
  return compare(l.document, settled, units);
}

/** Months from the first day on sale to the last that a report speaks of. */
function monthsOf(l: Launched, place: Place): string[] {
  const settled = l.codes.flatMap((c) => [...(place.sums.get(c)?.keys() ?? [])]);
  if (settled.length === 0) return [];
  const months: string[] = [];
  let day = `${[l.since.slice(0, 7), ...settled].sort()[0]}-01`;
  const last = [...settled, place.last?.slice(0, 7) ?? ''].sort().at(-1) as string;
  for (; day.slice(0, 7) <= last && months.length < 120; day = firstOfNextMonth(day))
    months.push(day.slice(0, 7));
  return months;
}

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
  readonly months: readonly string[];
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
  const { launched, places, currencies } = await inWorkspace(workspaceId, async (tx) => ({
    launched: await launchedIn(tx, workspaceId, null),
    places: await placesIn(tx, workspaceId),
    currencies: await tx
      .selectDistinct({
        marketplace: settlement.marketplace,
        country: settlement.country,
        currency: settlement.currency,
      })
      .from(settlement)
      .where(eq(settlement.workspaceId, workspaceId)),
  }));
  const currencyOf = new Map(currencies.map((c) => [`${c.marketplace}/${c.country}`, c.currency ?? '']));
  const lanes = launched.map((l): LaunchedSaid => {
    const place = places.get(l.place) ?? NOTHING;
    const months = monthsOf(l, place);
    const whole =
      months.length === 0 ? null : comparedOver(l, place, months[0] as string, months.at(-1) as string);
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
    unknown: unknownCodes(launched, places, currencyOf),
    months: [
      ...new Set([...places.values()].flatMap((p) => [...p.sums.values()].flatMap((m) => [...m.keys()]))),
    ].sort(),
  };
}
const URGENCY: readonly Stands['standing'][] = ['loses', 'paysLess', 'open', 'asPlanned', 'paysMore'];

function unknownCodes(
  launched: readonly Launched[],
  places: ReadonlyMap<string, Place>,
  currencyOf: ReadonlyMap<string, string>,
): CodeUnknown[] {
  const known = new Set(launched.flatMap((l) => l.codes.map((c) => `${l.place}\n${c}`)));
  return [...places].flatMap(([place, { sums }]) =>
    [...sums.keys()]
      .filter((code) => code !== '' && !known.has(`${place}\n${code}`))
      .map((code) => {
        const kinds = Object.entries(kindsOfCodes(sums, [code])).filter(([kind]) => kind !== 'transfer');
        return {
          place,
          code,
          currency: currencyOf.get(place) ?? '',
          units: kinds.find(([kind]) => kind === 'sale')?.[1].units ?? 0,
          amount: kinds.reduce((s, [, k]) => s + k.amount, 0) / STEPS,
        };
      }),
  );
}

export type LaunchedPage = Omit<LaunchedSaid, 'stands' | 'whole'> & {
  readonly months: readonly { readonly month: string; readonly compared: Compared }[];
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
  const months = monthsOf(l, place);
  const whole =
    months.length === 0 ? null : comparedOver(l, place, months[0] as string, months.at(-1) as string);
  return {
    laneId,
    candidateId: l.candidateId,
    name: l.name,
    place: l.place,
    codes: l.codes,
    since: l.since,
    until: place.last,
    months: months.map((month) => ({ month, compared: comparedOver(l, place, month, month) })),
    whole: whole === null ? null : { ...whole, stands: standsAt(whole) },
  };
}
