import { isOffered } from '../../core/workspace/offered.ts';
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { LaneResult } from '../../core/lane/result.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { candidateOf, firstSource } from '../../core/workspace/newCandidate.ts';
import type { NewCandidate } from '../../core/workspace/newCandidate.ts';
import { cardsOf, composeLane } from '../../core/workspace/compose.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../core/workspace/records.ts';
import type { CardData } from '../../core/cards/schema.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { candidate, lane, quote, rateCard } from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { marketsIn } from './keptMarkets.ts';
import { today } from '../env.ts';
import { candidateIn, laneColumns, quoteColumns } from './columns.ts';
import { insertLanes } from './storeLanes.ts';
import { cardsInForce, newId, OPENED, settingsIn } from './workspaces.ts';
import type { CardRow } from './workspaces.ts';
import { versionInForce, addLaneIn } from './candidateLanes.ts';

export type CandidateRow = {
  id: string;
  data: CandidateData;
  archivedAt: Date | null;
  droppedAt: Date | null;
  droppedReason: string | null;
  updatedAt: Date;
};
export type QuoteRow = { id: string; candidateId: string; supplierId: string | null; data: QuoteSource };
export type LaneRow = {
  id: string;
  candidateId: string;
  position: number;
  data: StoredLane;
  result: LaneResult | null;
  resultAt: Date | null;
  updatedAt: Date;
  scenarioOf: string | null;
};
export type CardHead = Omit<CardRow, 'data'>;

export type Sheet = {
  settings: Settings;
  candidate: CandidateRow;
  quotes: QuoteRow[];
  lanes: LaneRow[];
  cards: Record<string, CardData>;
  cardHeads: CardHead[];
  usedHeads: CardHead[];
  today: string;
};

/** A lane of a sheet as a document that needs nothing else. */
export const documentOf = (sheet: Sheet, { data }: Pick<LaneRow, 'data'>): LaneDocument =>
  composeLane({
    candidate: sheet.candidate.data,
    lane: data,
    quotes: Object.fromEntries(sheet.quotes.map((q) => [q.id, q.data])),
    cards: sheet.cards,
    homeCurrency: sheet.settings.homeCurrency,
    standings: sheet.settings.standings,
    today: sheet.today,
  });

/**
 * One candidate with all its lanes: five statements, however many lanes. Null where there is none (or it is
 * deleted).
 */
export const loadSheet = (workspaceId: string, candidateId: string): Promise<Sheet | null> =>
  inWorkspace(workspaceId, (tx) => sheetIn(tx, workspaceId, candidateId));

/**
 * The same with what is kept of its markets: six statements. Of the market that a lane sells in (the first one's unless
 * it is named), or of all of them.
 */
export const loadMarketSheet = (
  workspaceId: string,
  candidateId: string,
  which: { readonly lane?: string | null; readonly all?: boolean } = {},
) =>
  inWorkspace(workspaceId, async (tx) => {
    const sheet = await sheetIn(tx, workspaceId, candidateId);
    if (sheet === null) return null;
    const own = sheet.lanes.filter((l) => l.scenarioOf === null);
    const lane = own.find((l) => l.id === which.lane) ?? own[0];
    const only =
      which.all === true || lane === undefined ? null : `${lane.data.marketplace}/${lane.data.country}`;
    return { sheet, ...(await marketsIn(tx, workspaceId, candidateId, only)) };
  });

async function sheetIn(tx: Tx, workspaceId: string, candidateId: string): Promise<Sheet | null> {
  const settings = await settingsIn(tx, workspaceId);
  const row = await candidateIn(tx, workspaceId, candidateId);
  if (settings === null || row === undefined) return null;
  const quotes = await tx
    .select(quoteColumns)
    .from(quote)
    .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)))
    .orderBy(asc(quote.createdAt));
  const lanes = await tx
    .select(laneColumns)
    .from(lane)
    .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)))
    .orderBy(asc(lane.position), asc(lane.createdAt));
  const used = cardsOf(lanes.map((l) => l.data));
  // Heads of all cards, the data of those in use, in one statement.
  const all = await tx
    .select({
      id: rateCard.id,
      kind: rateCard.kind,
      key: rateCard.key,
      name: rateCard.name,
      inForceFrom: rateCard.inForceFrom,
      example: rateCard.example,
      withdrawn: sql<boolean>`${rateCard.withdrawnAt} is not null`,
      data:
        used.length === 0
          ? sql<CardData | null>`null`
          : sql<CardData | null>`case when ${inArray(rateCard.id, used)} then ${rateCard.data} end`,
    })
    .from(rateCard)
    .where(eq(rateCard.workspaceId, workspaceId))
    .orderBy(asc(rateCard.kind), asc(rateCard.key), asc(rateCard.inForceFrom));
  const cards: Record<string, CardData> = {};
  const latest = new Map<string, CardHead>();
  const usedHeads: CardHead[] = [];
  for (const { data, withdrawn, ...head } of all) {
    if (data !== null) {
      cards[head.id] = data;
      usedHeads.push(head);
    }
    const isThere = !withdrawn && head.inForceFrom <= today() && !head.key.startsWith(OPENED);
    if (isThere && isOffered(head, settings)) latest.set(`${head.kind}/${head.key}`, head);
  }
  return {
    settings,
    candidate: row,
    quotes,
    lanes,
    cards,
    cardHeads: [...latest.values()],
    usedHeads,
    today: today(),
  };
}

/** What the browser holds of a sheet while it is edited. */
export const sheetState = ({ candidate: c, quotes, lanes }: Sheet) => ({
  candidate: { id: c.id, data: c.data },
  quotes: quotes.map(({ id, data }) => ({ id, data })),
  lanes: lanes.map(({ id, position, data, scenarioOf }) => ({ id, position, data, scenarioOf })),
});

/** The lane document of every lane of a sheet. */
export function documentsOf(
  parts: { settings: Settings; lanes: readonly LaneRow[]; cards: Record<string, CardData>; today: string },
  data: CandidateData,
  quotes: readonly QuoteRow[],
): LaneDocument[] {
  const sources = Object.fromEntries(quotes.map((q) => [q.id, q.data]));
  return parts.lanes.map((l) =>
    composeLane({
      candidate: data,
      lane: l.data,
      quotes: sources,
      cards: parts.cards,
      homeCurrency: parts.settings.homeCurrency,
      standings: parts.settings.standings,
      today: parts.today,
    }),
  );
}

// ---- creating
// ------------------------------------------------------------------------------------------------------

/** Makes candidates with one lane each from the workspace's defaults, all in one transaction. Returns their ids. */
export const createCandidates = (
  workspaceId: string,
  list: readonly NewCandidate[],
  by: string,
): Promise<string[]> => inWorkspace(workspaceId, (tx) => createCandidatesIn(tx, workspaceId, list, by));

/** The same within a transaction. */
export async function createCandidatesIn(
  tx: Tx,
  workspaceId: string,
  list: readonly NewCandidate[],
  by: string,
): Promise<string[]> {
  const settings = await settingsIn(tx, workspaceId);
  if (settings === null) throw new Error('No such workspace');
  const cards = await cardsInForce(tx, workspaceId, today());
  const ids: string[] = [];
  for (const n of list) {
    const id = newId();
    const marketplaceCardId = await versionInForce(tx, workspaceId, cards, n.marketplaceCardId);
    const card = cards.find((c) => c.id === marketplaceCardId && c.kind === 'marketplace');
    const data = candidateOf(n, (card?.data as MarketplaceCard | undefined) ?? null);
    await tx.insert(candidate).values({ workspaceId, id, data });
    const quoteId = newId();
    const source = firstSource(n, settings.defaults);
    await tx.insert(quote).values({ workspaceId, id: quoteId, candidateId: id, data: source });
    await addLaneIn(
      tx,
      workspaceId,
      settings,
      cards,
      { id, data },
      { marketplaceCardId, country: n.country, price: n.price, quoteId, position: 0 },
      { [quoteId]: source },
      by,
    );
    ids.push(id);
  }
  return ids;
}

/** A copy of a candidate with its quotes and lanes. */
export async function duplicateCandidate(
  workspaceId: string,
  candidateId: string,
  name: (old: string) => string,
): Promise<string | null> {
  const sheet = await loadSheet(workspaceId, candidateId);
  if (sheet === null) return null;
  return inWorkspace(workspaceId, async (tx) => {
    const id = newId();
    const quoteIds = new Map(sheet.quotes.map((q) => [q.id, newId()]));
    await tx
      .insert(candidate)
      .values({ workspaceId, id, data: { ...sheet.candidate.data, name: name(sheet.candidate.data.name) } });
    for (const q of sheet.quotes)
      await tx
        .insert(quote)
        .values({
          workspaceId,
          id: quoteIds.get(q.id) as string,
          candidateId: id,
          supplierId: q.supplierId,
          data: q.data,
        });
    const laneIds = new Map(sheet.lanes.map((l) => [l.id, newId()]));
    const copies = sheet.lanes.map((l) => ({
      id: laneIds.get(l.id) as string,
      position: l.position,
      scenarioOf: l.scenarioOf === null ? null : (laneIds.get(l.scenarioOf) ?? null),
      data: {
        ...l.data,
        components: l.data.components.map((c) => ({ ...c, quoteId: quoteIds.get(c.quoteId) ?? c.quoteId })),
      },
    }));
    await insertLanes(
      tx,
      workspaceId,
      sheet.settings,
      { id, data: sheet.candidate.data },
      copies,
      Object.fromEntries(sheet.quotes.map((q) => [quoteIds.get(q.id) as string, q.data])),
      sheet.cards,
      null,
    );
    return id;
  });
}

export type Fate = { archived?: boolean; dropped?: string | null; deleted?: boolean };

/** Archives, drops with a reason, deletes, or takes any of these back. Returns how many candidates it reached. */
export async function setFate(workspaceId: string, ids: readonly string[], fate: Fate): Promise<number> {
  if (ids.length === 0) return 0;
  const now = new Date();
  const set: Partial<typeof candidate.$inferInsert> = { updatedAt: now };
  if (fate.archived !== undefined) set.archivedAt = fate.archived ? now : null;
  if (fate.deleted !== undefined) set.deletedAt = fate.deleted ? now : null;
  if (fate.dropped !== undefined) {
    set.droppedAt = fate.dropped === null ? null : now;
    set.droppedReason = fate.dropped;
  }
  return inWorkspace(workspaceId, async (tx) => {
    const done = await tx
      .update(candidate)
      .set(set)
      .where(and(eq(candidate.workspaceId, workspaceId), inArray(candidate.id, [...ids])))
      .returning({ id: candidate.id });
    return done.length;
  });
}

/** Names of the candidates, for the search box. */
export async function candidateNames(workspaceId: string): Promise<{ id: string; name: string }[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx
      .select({ id: candidate.id, name: sql<string>`${candidate.data} ->> 'name'` })
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), isNull(candidate.deletedAt)))
      .orderBy(asc(candidate.createdAt)),
  );
}
