/** Lanes by the many: stored with their results, proposed, generated, compared. */
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { pack } from '../../core/compare/pack.ts';
import type { Packed } from '../../core/compare/pack.ts';
import type { CardData, FreightCard } from '../../core/cards/schema.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import { quote as quoteSchema, retailPurchase } from '../../core/lane/schema.ts';
import { cardsOf, composeLane } from '../../core/workspace/compose.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../core/workspace/records.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { measuresOf, planOf } from '../../core/workspace/summary.ts';
import type { MarketFacts } from '../../core/evidence/stored.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { lane, quote, rateCard } from '../db/schema.ts';
import { today } from '../env.ts';
import { candidateIn, cardData, laneData } from './columns.ts';
import { storeLanes } from './storeLanes.ts';
import { storedMarkets } from './storedMarkets.ts';
import { newId, notOpened, settingsIn } from './workspaces.ts';
import { around } from './proposals.ts';

export type Owner = { id: string; data: CandidateData };

/** Takes lanes away and returns them, so that this can be undone. */
export async function removeLanes(
  workspaceId: string,
  candidateId: string,
  ids: readonly string[],
): Promise<{ id: string; position: number; data: StoredLane }[]> {
  if (ids.length === 0) return [];
  return inWorkspace(workspaceId, (tx) =>
    tx
      .delete(lane)
      .where(
        and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId), inArray(lane.id, [...ids])),
      )
      .returning({ id: lane.id, position: lane.position, data: laneData }),
  );
}

// ---- the comparison
// --------------------------------------------------------------------------------------------------

export type Comparison = {
  settings: Settings;
  candidate: { id: string; data: CandidateData };
  quotes: { id: string; data: QuoteSource }[];
  lanes: { id: string; data: StoredLane }[];
  cards: Record<string, CardData>;
  /** Name, kind and day of every card version that the lanes name. */
  cardHeads: { id: string; kind: string; key: string; name: string; inForceFrom: string }[];
  /** Of each card version in use that has a newer one in force: the newer one's id. */
  newest: Record<string, string>;
  /** Freight cards in force. */
  freight: { id: string; card: FreightCard }[];
  /** What tells its markets apart, by market. */
  markets: Record<string, MarketFacts>;
  today: string;
};

/** One candidate with all its lanes (no scenarios): six statements, however many lanes. */
export async function loadComparison(workspaceId: string, candidateId: string): Promise<Comparison | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const of = await candidateIn(tx, workspaceId, candidateId);
    if (settings === null || of === undefined) return null;
    const quotes = await tx
      .select({ id: quote.id, data: quote.data })
      .from(quote)
      .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)))
      .orderBy(asc(quote.createdAt));
    const lanes = await tx
      .select({ id: lane.id, data: laneData })
      .from(lane)
      .where(
        and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId), isNull(lane.scenarioOf)),
      )
      .orderBy(asc(lane.position), asc(lane.createdAt));
    const used = new Set(cardsOf(lanes.map((l) => l.data)));
    const day = today();
    // All heads in one statement; the data of what lanes use and of the routes they could take.
    const all = await tx
      .select({
        id: rateCard.id,
        kind: rateCard.kind,
        key: rateCard.key,
        name: rateCard.name,
        inForceFrom: rateCard.inForceFrom,
        live: sql<boolean>`${rateCard.withdrawnAt} is null and ${rateCard.inForceFrom} <= ${day} and ${notOpened}`,
        data: sql<CardData | null>`case
            when ${rateCard.kind} = 'freight' or ${inArray(rateCard.id, [...used, ''])} then ${rateCard.data} end`,
      })
      .from(rateCard)
      .where(eq(rateCard.workspaceId, workspaceId))
      .orderBy(asc(rateCard.inForceFrom), asc(rateCard.createdAt));
    const latest = new Map<string, string>();
    for (const r of all) if (r.live) latest.set(`${r.kind}/${r.key}`, r.id);
    const newest: Record<string, string> = {};
    for (const r of all) {
      const now = latest.get(`${r.kind}/${r.key}`);
      if (used.has(r.id) && now !== undefined && now !== r.id) newest[r.id] = now;
    }
    const usedRows = all.filter((r) => used.has(r.id));
    return {
      settings,
      candidate: of,
      quotes,
      lanes,
      cards: Object.fromEntries(usedRows.map((r) => [r.id, r.data as CardData])),
      cardHeads: usedRows.map(({ data: _, live: _l, ...head }) => head),
      newest,
      freight: all
        .filter((r) => r.kind === 'freight' && latest.get(`freight/${r.key}`) === r.id)
        .map((r) => ({ id: r.id, card: r.data as FreightCard })),
      markets: await marketsOf(tx, workspaceId, settings, candidateId, lanes),
      today: day,
    };
  });
}

/** What tells the markets of a candidate's lanes apart, by market; one that nobody follows is not among them. */
async function marketsOf(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  candidateId: string,
  lanes: readonly { data: StoredLane }[],
): Promise<Record<string, MarketFacts>> {
  const keys = new Set(lanes.map(({ data }) => `${data.marketplace}/${data.country}`));
  const wanted = [...keys].map((market) => ({ candidateId, market, lane: null }));
  const stored = await storedMarkets(tx, workspaceId, settings, wanted, async () => new Map());
  return Object.fromEntries(
    wanted.flatMap(({ market }) => {
      const shown = stored.get(`${candidateId} ${market}`);
      return shown === undefined ? [] : [[market, shown.said.facts]];
    }),
  );
}

/**
 * Orders the same quantity on every lane of a candidate; the lanes are weighed again. Null where the
 * candidate is gone.
 */
export async function setQuantity(
  workspaceId: string,
  candidateId: string,
  quantity: number,
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const a = await around(tx, workspaceId, candidateId);
    if (a === null) return;
    const cards = await cardData(tx, workspaceId, cardsOf(a.lanes.map((l) => l.data)));
    const quotes = Object.fromEntries(a.quotes.map((q) => [q.id, q.data]));
    const plan = planOf(a.of.data, a.settings.launch);
    const typed = { source: 'typed' as const, date: today(), note: '' };
    const rows = a.lanes.map((l) => {
      const changes = { orderQuantity: quantity, provenance: { ...l.data.provenance, orderQuantity: typed } };
      const doc = composeLane({
        candidate: a.of.data,
        lane: { ...l.data, ...changes },
        quotes,
        cards,
        homeCurrency: a.settings.homeCurrency,
        standings: a.settings.standings,
        today: today(),
      });
      const result = evaluate(doc);
      return { id: l.id, changes, result, measures: measuresOf(doc, result, plan) };
    });
    await storeLanes(tx, workspaceId, rows, 'edit', by);
  });
}

/** Adds an empty quote to a candidate; returns its id, null where the candidate is gone. */
export async function addQuote(workspaceId: string, candidateId: string): Promise<string | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const of = await candidateIn(tx, workspaceId, candidateId);
    if (settings === null || of === undefined) return null;
    const id = newId();
    const source =
      of.data.way === 'retail'
        ? retailPurchase.parse({ kind: 'retail', currency: settings.homeCurrency, date: today() })
        : quoteSchema.parse({
            kind: 'quote',
            currency: settings.homeCurrency,
            date: today(),
            priceBreaks: [{ minQty: 0, unitPrice: null }],
          });
    await tx.insert(quote).values({ workspaceId, id, candidateId, data: source });
    return id;
  });
}

/** The lanes of a comparison for the way to the browser. */
export function packLanes(lanes: Comparison['lanes']): { ids: string[]; lanes: Packed } {
  return { ids: lanes.map((l) => l.id), lanes: pack(lanes.map((l) => l.data)) };
}
