import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import equal from 'fast-deep-equal';
import { data } from 'react-router';
import { z } from 'zod';
import { issuesOf } from '../../core/issues.ts';
import { evaluate } from '../../core/lane/result.ts';
import type { EarlierResult, LaneResult } from '../../core/lane/result.ts';
import type { MarketplaceCard, TaxCard } from '../../core/lane/rates.ts';
import { laneDocument, quote as quoteSchema, retailPurchase, WAYS } from '../../core/lane/schema.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { launchCash } from '../../core/launch/launch.ts';
import type { LaunchPlan } from '../../core/launch/schema.ts';
import type { ExchangeTable } from '../../core/money/money.ts';
import { country, currency as currencyCode, nonNegative, positive } from '../../core/money/schema.ts';
import { measuresOf, planOf } from '../../core/workspace/summary.ts';
import { newLane } from '../../core/workspace/newLane.ts';
import { patched, valueAt } from '../../core/workspace/patch.ts';
import type { Patch } from '../../core/workspace/patch.ts';
import { candidateData, cardsOf, composeLane, quoteSource, storedLane } from '../../core/workspace/records.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../../core/workspace/records.ts';
import type { CardData, CardKind } from '../../core/cards/schema.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { candidate, lane, laneHistory, quote, rateCard } from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { today } from '../env.ts';
import { circleAmong } from './bundles.ts';
import { namedByLanes, needOwn, notOwn } from './own.ts';
import { candidateColumns, cardData, laneColumns, quoteColumns } from './columns.ts';
import { insertLanes } from './lanes.ts';
import { cardsInForce, changeSettings, newId, OPENED, settingsIn } from './workspaces.ts';
import type { CardRow } from './workspaces.ts';

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

/** How many lanes of a candidate a list reads; the rest are counted. */
const LANES_IN_LIST = 12;
const MEASURE_COLUMNS = {
  unitProfit: lane.unitProfit,
  margin: lane.margin,
  roi: lane.roi,
  profitPerMonth: lane.profitPerMonth,
  yearlyReturnOnCash: lane.yearlyReturnOnCash,
  launchCash: lane.launchCash,
} as const;

export type Everything = {
  settings: Settings;
  candidates: CandidateRow[];
  quotes: QuoteRow[];
  lanes: LaneRow[];
  laneCounts: Record<string, number>;
  cards: Record<string, CardData>;
  today: string;
};

/**
 * All candidates of a workspace that are not deleted, with the best lanes of each, quotes and the cards they use: six
 * statements. Null where the workspace is deleted.
 */
export async function loadCandidates(workspaceId: string): Promise<Everything | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) return null;
    const candidates = await tx
      .select(candidateColumns)
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), isNull(candidate.deletedAt)))
      .orderBy(asc(candidate.createdAt));
    const quotes = await tx.select(quoteColumns).from(quote).where(eq(quote.workspaceId, workspaceId));
    // Ranked in the database by the stored measures: of thousands of lanes only those that are shown are read.
    const by = MEASURE_COLUMNS[settings.bestBy];
    const best = settings.bestBy === 'launchCash' ? sql`${by} asc nulls last` : sql`${by} desc nulls last`;
    const ranked = tx.$with('ranked').as(
      tx
        .select({
          id: lane.id,
          n: sql<number>`row_number() over (partition by ${lane.candidateId} order by (${by} is null), ${lane.whole} desc, ${best}, ${lane.position})`.as(
            'n',
          ),
          of: sql<number>`count(*) over (partition by ${lane.candidateId})`.as('of'),
        })
        .from(lane)
        .where(and(eq(lane.workspaceId, workspaceId), isNull(lane.scenarioOf))),
    );
    const found = await tx
      .with(ranked)
      .select({ ...laneColumns, of: ranked.of })
      .from(lane)
      .innerJoin(ranked, eq(ranked.id, lane.id))
      .where(and(eq(lane.workspaceId, workspaceId), sql`${ranked.n} <= ${LANES_IN_LIST}`))
      .orderBy(asc(lane.position));
    const laneCounts = Object.fromEntries(found.map((l) => [l.candidateId, Number(l.of)]));
    const lanes = found.map(({ of: _, ...l }) => l);
    const cards = await cardData(tx, workspaceId, cardsOf(lanes.map((l) => l.data)));
    return { settings, candidates, quotes, lanes, laneCounts, cards, today: today() };
  });
}

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

/**
 * One candidate with all its lanes: five statements, however many lanes. Null where there is none (or it is deleted).
 */
export async function loadSheet(workspaceId: string, candidateId: string): Promise<Sheet | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const [row] = await tx
      .select(candidateColumns)
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)));
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
      if (!withdrawn && head.inForceFrom <= today() && !head.key.startsWith(OPENED))
        latest.set(`${head.kind}/${head.key}`, head);
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
  });
}

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

// ---- creating ------------------------------------------------------------------------------------------------------

export const newCandidate = z.object({
  name: z.string().trim().min(1, 'Give the product a name').max(200),
  way: z.enum(WAYS),
  price: nonNegative.nullable(),
  cost: nonNegative.nullable(),
  costCurrency: currencyCode,
  sides: z.tuple([positive, positive, positive]).nullable(),
  kg: positive.nullable(),
  marketplaceCardId: z.string().max(64).nullable(),
  country,
  origin: country.nullable().default(null),
  category: z.string().max(200).nullable().default(null),
  hsCode: z
    .string()
    .regex(/^\d{4,10}$/, 'Give 4 to 10 digits of the HS code')
    .nullable()
    .default(null),
});
export type NewCandidate = z.output<typeof newCandidate>;

/** Makes candidates with one lane each from the workspace's defaults, all in one transaction. Returns their ids. */
export async function createCandidates(
  workspaceId: string,
  list: readonly NewCandidate[],
  by: string,
): Promise<string[]> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) throw new Error('No such workspace');
    const cards = await cardsInForce(tx, workspaceId, today());
    const ids: string[] = [];
    for (const n of list) {
      const id = newId();
      const marketplaceCardId = await versionInForce(tx, workspaceId, cards, n.marketplaceCardId);
      const card = cards.find((c) => c.id === marketplaceCardId && c.kind === 'marketplace');
      const categories = (card?.data as MarketplaceCard | undefined)?.categories ?? [];
      const data = candidateData.parse({
        name: n.name,
        way: n.way,
        product: {
          sides: n.sides,
          kg: n.kg,
          origin: n.origin,
          hsCode: n.hsCode,
          category: n.category ?? categories[0]?.key ?? null,
        },
      });
      await tx.insert(candidate).values({ workspaceId, id, data });
      const quoteId = newId();
      const source =
        n.way === 'retail'
          ? retailPurchase.parse({ kind: 'retail', currency: n.costCurrency, shelfPrice: n.cost })
          : quoteSchema.parse({
              kind: 'quote',
              currency: n.costCurrency,
              incoterm: n.way === 'ownBrand' ? 'FOB' : n.way === 'wholesale' ? 'DAP' : 'EXW',
              priceBreaks: [{ minQty: 0, unitPrice: n.cost }],
              leadDays: n.way === 'ownBrand' ? settings.defaults.leadDays : n.way === 'wholesale' ? 3 : 0,
            });
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
  });
}

/** The version in force of the card that `id` is a version of: a form may have been opened before a newer one came. */
async function versionInForce(
  tx: Tx,
  workspaceId: string,
  cards: readonly CardRow[],
  id: string | null,
): Promise<string | null> {
  if (id === null || cards.some((c) => c.id === id)) return id;
  await needOwn(tx, workspaceId, { card: [id] });
  const [old] = await tx
    .select({ kind: rateCard.kind, key: rateCard.key })
    .from(rateCard)
    .where(and(eq(rateCard.workspaceId, workspaceId), eq(rateCard.id, id)));
  return cards.find((c) => c.kind === old?.kind && c.key === old.key)?.id ?? null;
}

type LaneAsk = {
  marketplaceCardId: string | null;
  country: string;
  price: number | null;
  quoteId: string | null;
  position: number;
};

async function addLaneIn(
  tx: Tx,
  workspaceId: string,
  settings: Settings,
  cards: readonly CardRow[],
  of: { id: string; data: CandidateData },
  ask: LaneAsk,
  quotes: Readonly<Record<string, QuoteSource>>,
  by: string,
): Promise<string> {
  const card = cards.find((c) => c.id === ask.marketplaceCardId && c.kind === 'marketplace');
  const market = card?.data as MarketplaceCard | undefined;
  const land = market?.country ?? ask.country;
  const tax = cards.find((c) => c.kind === 'tax' && c.key === land);
  const exchange = cards.find((c) => c.kind === 'exchange');
  const id = newId();
  const stored = newLane({
    way: of.data.way,
    settings,
    country: land,
    currency: market?.currency ?? (tax?.data as TaxCard | undefined)?.currency ?? settings.homeCurrency,
    marketplace: card === undefined || market === undefined ? null : { id: card.id, card: market },
    taxCardId: tax?.id ?? null,
    exchange: exchange === undefined ? null : { id: exchange.id, table: exchange.data as ExchangeTable },
    origin: of.data.product.origin,
    price: ask.price,
    quoteId: ask.quoteId,
    today: today(),
    benchmarkCardId: cards.find((c) => c.kind === 'benchmark' && c.key === settings.homeCurrency)?.id ?? null,
  });
  await insertLanes(
    tx,
    workspaceId,
    settings,
    of,
    [{ id, position: ask.position, data: stored }],
    quotes,
    Object.fromEntries(cards.map((c) => [c.id, c.data])),
    by,
  );
  return id;
}

/** Adds a lane from the workspace's defaults, on the candidate's first quote. */
export async function addLane(
  workspaceId: string,
  candidateId: string,
  ask: { marketplaceCardId: string | null; country: string; price: number | null },
  by: string,
): Promise<string> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const [row] = await tx
      .select(candidateColumns)
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)));
    if (settings === null || row === undefined) throw new Response('gone', { status: 404 });
    const cards = await cardsInForce(tx, workspaceId, today());
    const [first] = await tx
      .select({ id: quote.id, data: quote.data })
      .from(quote)
      .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)))
      .orderBy(asc(quote.createdAt))
      .limit(1);
    const [count] = await tx
      .select({ n: sql<number>`coalesce(max(${lane.position}), -1) + 1` })
      .from(lane)
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)));
    return addLaneIn(
      tx,
      workspaceId,
      settings,
      cards,
      row,
      {
        ...ask,
        marketplaceCardId: await versionInForce(tx, workspaceId, cards, ask.marketplaceCardId),
        quoteId: first?.id ?? null,
        position: count?.n ?? 0,
      },
      first === undefined ? {} : { [first.id]: first.data },
      by,
    );
  });
}

/** Removes a lane and returns it, so that the removal can be undone. */
export async function removeLane(workspaceId: string, laneId: string): Promise<LaneRow | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const [gone] = await tx
      .delete(lane)
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.id, laneId)))
      .returning(laneColumns);
    return gone ?? null;
  });
}

/** A lane as the sheet holds it after its removal, to be put back. */
export const removedLane = z.object({
  id: z.uuid(),
  position: z.number().int().min(0).max(1e6),
  data: storedLane,
  scenarioOf: z.uuid().nullable().default(null),
});

/** Puts removed lanes back, or stores copies of lanes as scenarios; those that are there already stay as they are. */
export async function putLanes(
  workspaceId: string,
  candidateId: string,
  rows: readonly z.output<typeof removedLane>[],
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const [of] = await tx
      .select({ id: candidate.id, data: candidate.data })
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)));
    if (settings === null || of === undefined) throw new Response('gone', { status: 404 });
    const there = new Set(
      (
        await tx
          .select({ id: lane.id })
          .from(lane)
          .where(
            and(
              eq(lane.workspaceId, workspaceId),
              inArray(
                lane.id,
                rows.map((r) => r.id),
              ),
            ),
          )
      ).map((r) => r.id),
    );
    const quotes = Object.fromEntries(
      (
        await tx
          .select(quoteColumns)
          .from(quote)
          .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)))
      ).map((q) => [q.id, q.data]),
    );
    const fresh = rows.filter((r) => !there.has(r.id));
    const named = namedByLanes(fresh.map((r) => r.data));
    await needOwn(tx, workspaceId, { card: named.card, candidate: named.candidate });
    if (named.quote.some((id) => !Object.hasOwn(quotes, id)))
      throw data({ error: 'This names a quote that is not of this product. Choose one that is.' }, 422);
    const scenarios = fresh.flatMap((r) => r.scenarioOf ?? []);
    const base =
      scenarios.length === 0
        ? []
        : await tx
            .select({ id: lane.id })
            .from(lane)
            .where(
              and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId), inArray(lane.id, scenarios)),
            );
    if (scenarios.some((id) => !base.some((b) => b.id === id) && !rows.some((r) => r.id === id)))
      throw data({ error: 'The lane this is a scenario of is not there any more.' }, 422);
    await insertLanes(
      tx,
      workspaceId,
      settings,
      of,
      fresh,
      quotes,
      await cardData(tx, workspaceId, cardsOf(fresh.map((r) => r.data))),
      by,
    );
  });
}

/** Id of a card with exactly this content: one the workspace has, else a new one kept for the opened lane alone. */
async function cardAsGiven(tx: Tx, workspaceId: string, kind: CardKind, card: CardData | null): Promise<string | null> {
  if (card === null) return null;
  const [same] = await tx
    .select({ id: rateCard.id })
    .from(rateCard)
    .where(
      and(
        eq(rateCard.workspaceId, workspaceId),
        eq(rateCard.kind, kind),
        sql`${rateCard.data} = ${JSON.stringify(card)}::jsonb`,
      ),
    )
    .limit(1);
  if (same !== undefined) return same.id;
  const id = newId();
  const { name, day } =
    'inForceFrom' in card ? { name: card.name, day: card.inForceFrom } : { name: 'Exchange rates', day: card.date };
  await tx
    .insert(rateCard)
    .values({ workspaceId, id, kind, key: `${OPENED}${id}`, name, inForceFrom: day, example: false, data: card });
  return id;
}

/** Reads the text of a lane document; says what it is not, where it is wrong, and what to do. */
export function readLaneDocument(text: unknown): { ok: true; doc: LaneDocument } | { ok: false; message: string } {
  let json: unknown;
  try {
    json = JSON.parse(String(text));
  } catch {
    return {
      ok: false,
      message: 'This file is not a lane document: it is not JSON. Choose a file that was downloaded from a sheet.',
    };
  }
  const parsed = laneDocument.safeParse(json);
  if (parsed.success) return { ok: true, doc: parsed.data };
  const [issue] = issuesOf(parsed.error);
  return {
    ok: false,
    message: `This file is not a lane document. At ${issue?.path}: ${issue?.problem}. ${issue?.remedy}`,
  };
}

/** Whether a document is about the very product of a candidate; its category is the lane's own. */
function sameProduct(doc: LaneDocument, data: CandidateData): boolean {
  return equal({ ...doc.product, category: null }, { ...data.product, category: null });
}

/** Puts the document's quotes, rates and terms in place as one more lane of a candidate. */
async function laneFromDocument(
  tx: Tx,
  workspaceId: string,
  candidateId: string,
  doc: LaneDocument,
  by: string,
): Promise<string> {
  const {
    format: _format,
    version: _version,
    date: _date,
    homeCurrency: _home,
    way: _way,
    product,
    goods,
    rates,
    ...terms
  } = doc;
  const [there] = await tx
    .select({ position: sql<number>`coalesce(max(${lane.position}), -1) + 1` })
    .from(lane)
    .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)));
  const components: StoredLane['components'] = [];
  for (const c of goods === null || goods === 'none' ? [] : goods) {
    const quoteId = newId();
    await tx.insert(quote).values({ workspaceId, id: quoteId, candidateId, data: c.source });
    components.push({
      quoteId,
      name: c.name,
      unitsInSoldPack: c.unitsInSoldPack,
      unitsInBoughtPack: c.unitsInBoughtPack,
      candidateId: null,
    });
  }
  const data = storedLane.parse({
    ...terms,
    components,
    noGoods: goods === 'none',
    category: product.category,
    benchmark: rates.benchmark,
    marketplaceCardId: await cardAsGiven(tx, workspaceId, 'marketplace', rates.marketplace),
    taxCardId: await cardAsGiven(tx, workspaceId, 'tax', rates.tax),
    exchangeCardId: await cardAsGiven(tx, workspaceId, 'exchange', rates.exchange),
  });
  const id = newId();
  const result = evaluate(doc);
  const settings = await settingsIn(tx, workspaceId);
  await tx
    .insert(lane)
    .values({
      workspaceId,
      id,
      candidateId,
      position: there?.position ?? 0,
      data,
      result,
      resultAt: new Date(),
      updatedBy: by,
      ...(settings === null ? {} : measuresOf(doc, result, settings.launch)),
    });
  return id;
}

/**
 * Makes a candidate of a lane document: its product and one lane with the very rates it carries. Returns the
 * candidate's id.
 */
export async function openAsCandidate(
  workspaceId: string,
  doc: LaneDocument,
  by: string,
  more: Partial<Pick<CandidateData, 'tags' | 'notes'>> = {},
): Promise<string> {
  const id = newId();
  const data = candidateData.parse({
    ...more,
    name: doc.name.trim() || `${doc.marketplace} ${doc.country}`.trim(),
    way: doc.way,
    product: doc.product,
  });
  await inWorkspace(workspaceId, async (tx) => {
    await tx.insert(candidate).values({ workspaceId, id, data });
    await laneFromDocument(tx, workspaceId, id, doc, by);
  });
  return id;
}

/**
 * Stores a lane document as one more lane of a candidate, with its own quotes and the very rates it carries, so that
 * its
 * figures are those of the document. Null where the document is about another product: then it is a candidate of its
 * own.
 */
export async function openLaneDocument(
  workspaceId: string,
  candidateId: string,
  doc: LaneDocument,
  by: string,
): Promise<string | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const [of] = await tx
      .select({ data: candidate.data })
      .from(candidate)
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)));
    return of === undefined || !sameProduct(doc, of.data)
      ? null
      : laneFromDocument(tx, workspaceId, candidateId, doc, by);
  });
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

// ---- saving --------------------------------------------------------------------------------------------------------

export type Conflict = { patch: Patch; current: unknown };
export type Saved =
  | { ok: true; results: Record<string, LaneResult> }
  | { ok: false; conflicts: Conflict[] }
  | { ok: false; invalid: { patch: Patch; message: string }[] }
  | { ok: false; gone: true };

const TABLES = {
  candidate: { table: candidate, schema: candidateData },
  quote: { table: quote, schema: quoteSource },
  lane: { table: lane, schema: storedLane },
} as const;

/**
 * Applies edits to one candidate, all or none. Each names what it replaces; where something else stands there by now,
 * nobody's
 * work is overwritten: the conflicts come back with what stands there (`whatever`: a choice from a list, which
 * replaces what
 * stands there). Then the lanes are reckoned again and stored.
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
        .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)))
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

      const touched = new Map<string, { entity: Patch['entity']; row: { id: string; data: unknown }; patch: Patch }>();
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

      const invalid: { patch: Patch; message: string }[] = [];
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
            invalid.push({ patch, message: `${issue.problem}. ${issue.remedy}` });
          }
          continue;
        }
        t.row.data = parsed.data;
      }
      if (invalid.length > 0) throw new Stop({ ok: false, invalid });

      const lanesNow = [...touched.values()].flatMap((t) => (t.entity === 'lane' ? [t.row.data as StoredLane] : []));
      const named = namedByLanes(lanesNow, lanesBefore);
      const foreign = named.quote.some((id) => !quotes.some((q) => q.id === id))
        ? 'This names a quote that is not of this product. Choose one that is.'
        : await notOwn(tx, workspaceId, { card: named.card, candidate: named.candidate });
      if (foreign !== null)
        throw new Stop({
          ok: false,
          invalid: patches.filter((p) => p.entity === 'lane').map((patch) => ({ patch, message: foreign })),
        });

      const parts = [...touched.values()].flatMap((t) =>
        t.entity === 'lane' ? (t.row.data as StoredLane).components.flatMap((c) => c.candidateId ?? []) : [],
      );
      const circle = await circleAmong(tx, workspaceId, candidateId, [...new Set(parts)]);
      if (circle !== null)
        throw new Stop({
          ok: false,
          invalid: patches.filter((p) => p.path[0] === 'components').map((patch) => ({ patch, message: circle })),
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
        else
          await tx
            .update(lane)
            .set({ data: changed.data as StoredLane, newerCards: {}, updatedAt: now, updatedBy: by })
            .where(where(lane as never));
      }
      await tx
        .update(candidate)
        .set({ updatedAt: now, updatedBy: by })
        .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId)));

      // Only a lane's own edit leaves its neighbours as they were.
      const onlyLanes = [...touched.values()].every((t) => t.entity === 'lane');
      const again = lanes.filter((l) => !onlyLanes || touched.has(`lane/${l.id}`));
      const cards = await cardData(tx, workspaceId, cardsOf(again.map((l) => l.data)));
      const docs = documentsOf({ settings, lanes: again, cards, today: today() }, row.data, quotes);
      const results: Record<string, LaneResult> = {};
      const plan = planOf(row.data, settings.launch);
      for (const [i, l] of again.entries()) {
        const doc = docs[i] as LaneDocument;
        const result = evaluate(doc);
        results[l.id] = result;
        await tx
          .update(lane)
          .set({ result, resultAt: now, ...measuresOf(doc, result, plan) })
          .where(and(eq(lane.workspaceId, workspaceId), eq(lane.id, l.id)));
        await keepHistory(tx, workspaceId, l, result, by);
      }
      return { ok: true, results };
    });
  } catch (e) {
    if (e instanceof Stop) return e.saved;
    throw e;
  }
}

/**
 * Keeps what a lane's result was before an edit moved its profit: once for all edits of one person within ten
 * minutes.
 */
async function keepHistory(tx: Tx, workspaceId: string, was: LaneRow, now: LaneResult, by: string): Promise<void> {
  if (was.result === null || was.result.figures.unitProfit === now.figures.unitProfit) return;
  const {
    currency,
    lines,
    figures: { unitProfit, gross },
  } = was.result;
  await tx.execute(sql`
    insert into ${laneHistory} (workspace_id, lane_id, by, cause, result)
    select ${workspaceId}, ${was.id}, ${by}, 'edit', ${JSON.stringify({ currency, lines, figures: { unitProfit, gross } } satisfies EarlierResult)}::jsonb
    where not exists (select 1 from ${laneHistory} where workspace_id = ${workspaceId} and lane_id = ${was.id} and by = ${by} and cause = 'edit' and at > now() - interval '10 minutes')`);
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
    sql`update bm.lane l set launch_cash = u.c from jsonb_to_recordset(${rows}::jsonb) as u(id text, c float8) where l.workspace_id = ${workspaceId} and l.id = u.id`,
  );
}

/**
 * Stores a launch plan: cash, reserve and the goal belong to the workspace, the rest to the candidate. Both or neither.
 * False where the candidate is gone.
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
      .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)))
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
      launch: { ...s.launch, cash: plan.cash, reserve: plan.reserve, monthlyProfitGoal: plan.monthlyProfitGoal },
    }));
    await storeLaunchCash(tx, workspaceId, settings, { id: candidateId, data: { ...row.data, launch: plan } });
    return true;
  });
}

export type Earlier = { at: Date; cause: string; result: EarlierResult };

/** What a lane's result was before its latest changes, newest first. */
export async function laneHistoryOf(workspaceId: string, candidateId: string, laneId: string): Promise<Earlier[]> {
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
