/**
 * The list of candidates, each with its best lane. What the list shows of a lane stands beside it
 * (`lane.shown`) with the state it was worked out in; only where that state has moved (an edit, rates, the
 * settings, a new day) is it worked out again, and stored.
 */
import { createHash } from 'node:crypto';
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Settings } from '../../core/workspace/settings.ts';
import { planOf, summarise } from '../../core/workspace/summary.ts';
import { weighLine } from '../../core/workspace/weighLine.ts';
import type { WeighLine } from '../../core/workspace/weighLine.ts';
import type { MarketStored, NewerLine } from '../../core/evidence/stored.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { cardsOf } from '../../core/workspace/compose.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, quote } from '../db/schema.ts';
import { today } from '../env.ts';
import { candidateColumns, cardData, laneColumns, quoteColumns } from './columns.ts';
import { documentsOf } from './candidates.ts';
import type { CandidateRow, QuoteRow } from './candidates.ts';
import { storedMarkets } from './storedMarkets.ts';
import type { MarketShown } from './storedMarkets.ts';
import { settingsIn } from './workspaces.ts';

/** How many lanes of a candidate a list opens; the rest are counted. */
const LANES_IN_LIST = 12;
const MEASURE_COLUMNS = {
  unitProfit: lane.unitProfit,
  margin: lane.margin,
  roi: lane.roi,
  profitPerMonth: lane.profitPerMonth,
  yearlyReturnOnCash: lane.yearlyReturnOnCash,
  launchCash: lane.launchCash,
} as const;

/** Raised where a line gains a figure. */
const EDITION = 2;

export type LaneLine = WeighLine & { readonly id: string };
export type Weighed = {
  settings: Settings;
  candidates: {
    row: CandidateRow;
    laneCount: number;
    best: LaneLine | null;
    /** What evidence says of the market of its best lane; null: nobody follows it. */
    market: MarketStored | null;
    /** Evidence newer than that lane holds. */
    newer: readonly NewerLine[];
  }[];
  today: string;
};

/** All candidates that are not deleted with the best lane of each, by age. Null where the workspace is deleted. */
export async function loadWeighed(workspaceId: string): Promise<Weighed | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) return null;
    const candidates = await tx
      .select(candidateColumns)
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), isNull(candidate.deletedAt)))
      .orderBy(asc(candidate.createdAt));
    const ranked = await rankedLanes(tx, workspaceId, settings, null, 1);
    const lines = await linesOf(tx, workspaceId, settings, candidates, ranked);
    const best = new Map(ranked.map((r, i) => [r.candidateId, { ...r, line: lines[i] as LaneLine }]));
    const marketOf = (l: LaneLine): string => `${l.marketplace}/${l.country}`;
    const of = new Map(candidates.map((c) => [c.id, c]));
    const markets = await storedMarkets(
      tx,
      workspaceId,
      settings,
      ranked.map((r, i) => {
        const line = lines[i] as LaneLine;
        const state = `${r.changed} ${of.get(r.candidateId)?.updatedAt.getTime()}`;
        return {
          candidateId: r.candidateId,
          market: marketOf(line),
          lane: line.fed ? { id: r.id, state } : null,
        };
      }),
      (ids) => {
        const anew = new Set(ids);
        return documentsFor(
          tx,
          workspaceId,
          settings,
          of,
          ranked.filter((r) => anew.has(r.id)),
        );
      },
    );
    const shownOf = (id: string, line: LaneLine | undefined): MarketShown | null =>
      line === undefined ? null : (markets.get(`${id} ${marketOf(line)}`) ?? null);
    return {
      settings,
      candidates: candidates.map((row) => ({
        row,
        laneCount: Number(best.get(row.id)?.of ?? 0),
        best: best.get(row.id)?.line ?? null,
        ...marketAndNewer(shownOf(row.id, best.get(row.id)?.line)),
      })),
      today: today(),
    };
  });
}

const marketAndNewer = (
  shown: MarketShown | null,
): { market: MarketStored | null; newer: readonly NewerLine[] } => ({
  market: shown?.said ?? null,
  newer: shown?.newer ?? [],
});

/** The best lanes of one candidate, the best first; empty where it is not there. */
export async function loadWeighedLanes(workspaceId: string, candidateId: string): Promise<LaneLine[]> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const candidates = await tx
      .select(candidateColumns)
      .from(candidate)
      .where(
        and(
          eq(candidate.workspaceId, workspaceId),
          eq(candidate.id, candidateId),
          isNull(candidate.deletedAt),
        ),
      );
    if (settings === null || candidates.length === 0) return [];
    const ranked = await rankedLanes(tx, workspaceId, settings, candidateId, LANES_IN_LIST);
    return linesOf(tx, workspaceId, settings, candidates, ranked);
  });
}

type Ranked = {
  id: string;
  candidateId: string;
  changed: string;
  shown: { key: string; line: WeighLine } | null;
  of: number;
};

/** The best lanes of each candidate (or of one), ranked in the database by the stored measures. */
async function rankedLanes(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  candidateId: string | null,
  most: number,
): Promise<Ranked[]> {
  const by = MEASURE_COLUMNS[settings.bestBy];
  const best = settings.bestBy === 'launchCash' ? sql`${by} asc nulls last` : sql`${by} desc nulls last`;
  const ranked = tx.$with('ranked').as(
    tx
      .select({
        id: lane.id,
        n: sql<number>`row_number() over (partition by ${lane.candidateId}
            order by (${by} is null), ${lane.whole} desc, ${best}, ${lane.position})`.as('n'),
        of: sql<number>`count(*) over (partition by ${lane.candidateId})`.as('of'),
      })
      .from(lane)
      .innerJoin(
        candidate,
        and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)),
      )
      .where(
        and(
          eq(lane.workspaceId, workspaceId),
          isNull(lane.scenarioOf),
          isNull(candidate.deletedAt),
          candidateId === null ? undefined : eq(lane.candidateId, candidateId),
        ),
      ),
  );
  return tx
    .with(ranked)
    .select({
      id: lane.id,
      candidateId: lane.candidateId,
      changed: sql<string>`extract(epoch from greatest(${lane.updatedAt}, ${lane.resultAt}))::text`,
      shown: lane.shown,
      of: ranked.of,
    })
    .from(lane)
    .innerJoin(ranked, eq(ranked.id, lane.id))
    .where(and(eq(lane.workspaceId, workspaceId), sql`${ranked.n} <= ${most}`))
    .orderBy(asc(ranked.n));
}

/** The lines of these lanes, in their order: as stored, or worked out anew and stored. */
async function linesOf(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  candidates: readonly CandidateRow[],
  ranked: readonly Ranked[],
): Promise<LaneLine[]> {
  const under = createHash('sha1')
    .update(JSON.stringify([EDITION, settings, today()]))
    .digest('base64url');
  const of = new Map(candidates.map((c) => [c.id, c]));
  const keyOf = (r: Ranked): string =>
    `${under} ${(of.get(r.candidateId) as CandidateRow).updatedAt.getTime()} ${r.changed}`;
  const old = ranked.filter((r) => r.shown?.key !== keyOf(r));
  const anew = await workOut(tx, workspaceId, settings, of, old);
  await store(
    tx,
    workspaceId,
    old.flatMap((r) => {
      const line = anew.get(r.id);
      return line === undefined ? [] : [{ id: r.id, shown: { key: keyOf(r), line } }];
    }),
  );
  return ranked.map((r) => ({ ...((anew.get(r.id) ?? r.shown?.line) as WeighLine), id: r.id }));
}

async function workOut(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  of: ReadonlyMap<string, CandidateRow>,
  wanted: readonly Ranked[],
): Promise<Map<string, WeighLine>> {
  const out = new Map<string, WeighLine>();
  const candidateOf = new Map(wanted.map((w) => [w.id, w.candidateId]));
  for (const [id, doc] of await documentsFor(tx, workspaceId, settings, of, wanted)) {
    const { data } = of.get(candidateOf.get(id) ?? '') as CandidateRow;
    const summary = summarise(doc, settings.hurdles[data.way] ?? [], planOf(data, settings.launch));
    out.set(id, weighLine(doc, summary));
  }
  return out;
}

/** The documents of these lanes, by lane. */
async function documentsFor(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  of: ReadonlyMap<string, CandidateRow>,
  wanted: readonly Pick<Ranked, 'id' | 'candidateId'>[],
): Promise<Map<string, LaneDocument>> {
  const out = new Map<string, LaneDocument>();
  if (wanted.length === 0) return out;
  const ids = wanted.map((w) => w.id);
  const lanes = await tx
    .select(laneColumns)
    .from(lane)
    .where(and(eq(lane.workspaceId, workspaceId), inArray(lane.id, ids)));
  const quotes = await tx
    .select(quoteColumns)
    .from(quote)
    .where(
      and(
        eq(quote.workspaceId, workspaceId),
        inArray(quote.candidateId, [...new Set(wanted.map((w) => w.candidateId))]),
      ),
    );
  const cards = await cardData(tx, workspaceId, cardsOf(lanes.map((l) => l.data)));
  const quotesOf = new Map<string, QuoteRow[]>();
  for (const q of quotes) quotesOf.set(q.candidateId, [...(quotesOf.get(q.candidateId) ?? []), q]);
  for (const l of lanes) {
    const { data } = of.get(l.candidateId) as CandidateRow;
    const [doc] = documentsOf(
      { settings, lanes: [l], cards, today: today() },
      data,
      quotesOf.get(l.candidateId) ?? [],
    );
    if (doc !== undefined) out.set(l.id, doc);
  }
  return out;
}

async function store(
  tx: Tx,
  workspaceId: string,
  rows: readonly { id: string; shown: { key: string; line: WeighLine } }[],
): Promise<void> {
  if (rows.length === 0) return;
  await tx.execute(sql`
    update bm.lane l set shown = u.shown
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as u(id text, shown jsonb)
    where l.workspace_id = ${workspaceId} and l.id = u.id`);
}
