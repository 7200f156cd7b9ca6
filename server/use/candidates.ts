import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import equal from 'fast-deep-equal';
import { z } from 'zod';
import { issuesOf } from '../../core/issues.ts';
import { evaluate } from '../../core/lane/result.ts';
import type { LaneResult } from '../../core/lane/result.ts';
import type { MarketplaceCard, TaxCard } from '../../core/lane/rates.ts';
import { laneDocument, quote as quoteSchema, retailPurchase, WAYS } from '../../core/lane/schema.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import type { LaunchPlan } from '../../core/launch/schema.ts';
import type { ExchangeTable } from '../../core/money/money.ts';
import { country, currency as currencyCode, nonNegative, positive } from '../../core/money/schema.ts';
import { newLane } from '../../core/workspace/newLane.ts';
import { patched, valueAt } from '../../core/workspace/patch.ts';
import type { Patch } from '../../core/workspace/patch.ts';
import { candidateData, composeLane, quoteSource, storedLane } from '../../core/workspace/records.ts';
import type { CandidateData, CardData, CardKind, QuoteSource, StoredLane } from '../../core/workspace/records.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { candidate, lane, quote, rateCard } from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { today } from '../env.ts';
import { cardsInForce, changeSettings, newId, OPENED, settingsIn } from './workspaces.ts';
import type { CardRow } from './workspaces.ts';

export type CandidateRow = { id: string; data: CandidateData; archivedAt: Date | null; droppedAt: Date | null; droppedReason: string | null; updatedAt: Date };
export type QuoteRow = { id: string; candidateId: string; supplierId: string | null; data: QuoteSource };
export type LaneRow = { id: string; candidateId: string; position: number; data: StoredLane; result: LaneResult | null; resultAt: Date | null; updatedAt: Date };
export type CardHead = Omit<CardRow, 'data'>;

const candidateColumns = { id: candidate.id, data: candidate.data, archivedAt: candidate.archivedAt, droppedAt: candidate.droppedAt, droppedReason: candidate.droppedReason, updatedAt: candidate.updatedAt };
const quoteColumns = { id: quote.id, candidateId: quote.candidateId, supplierId: quote.supplierId, data: quote.data };
const laneColumns = { id: lane.id, candidateId: lane.candidateId, position: lane.position, data: lane.data, result: lane.result, resultAt: lane.resultAt, updatedAt: lane.updatedAt };

/** Ids of the rate cards that lanes were computed with. */
function cardsUsed(lanes: readonly { data: StoredLane }[]): string[] {
  return [...new Set(lanes.flatMap((l) => [l.data.marketplaceCardId, l.data.taxCardId, l.data.exchangeCardId]).filter((id): id is string => id !== null))];
}

async function cardData(tx: Tx, workspaceId: string, ids: string[]): Promise<Record<string, CardData>> {
  if (ids.length === 0) return {};
  const rows = await tx.select({ id: rateCard.id, data: rateCard.data }).from(rateCard).where(and(eq(rateCard.workspaceId, workspaceId), inArray(rateCard.id, ids)));
  return Object.fromEntries(rows.map((r) => [r.id, r.data]));
}

export type Everything = { settings: Settings; candidates: CandidateRow[]; quotes: QuoteRow[]; lanes: LaneRow[]; cards: Record<string, CardData>; today: string };

/** All candidates of a workspace that are not deleted, with lanes, quotes and the cards they use: five statements. Null where the workspace is deleted. */
export async function loadCandidates(workspaceId: string): Promise<Everything | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) return null;
    const candidates = await tx.select(candidateColumns).from(candidate).where(and(eq(candidate.workspaceId, workspaceId), isNull(candidate.deletedAt))).orderBy(asc(candidate.createdAt));
    const quotes = await tx.select(quoteColumns).from(quote).where(eq(quote.workspaceId, workspaceId));
    const lanes = await tx.select(laneColumns).from(lane).where(eq(lane.workspaceId, workspaceId)).orderBy(asc(lane.position));
    const cards = await cardData(tx, workspaceId, cardsUsed(lanes));
    return { settings, candidates, quotes, lanes, cards, today: today() };
  });
}

export type Sheet = { settings: Settings; candidate: CandidateRow; quotes: QuoteRow[]; lanes: LaneRow[]; cards: Record<string, CardData>; cardHeads: CardHead[]; today: string };

/** One candidate with all its lanes: five statements, however many lanes. Null where there is none (or it is deleted). */
export async function loadSheet(workspaceId: string, candidateId: string): Promise<Sheet | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const [row] = await tx.select(candidateColumns).from(candidate).where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)));
    if (settings === null || row === undefined) return null;
    const quotes = await tx.select(quoteColumns).from(quote).where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId))).orderBy(asc(quote.createdAt));
    const lanes = await tx.select(laneColumns).from(lane).where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId))).orderBy(asc(lane.position), asc(lane.createdAt));
    const used = cardsUsed(lanes);
    // Heads of all cards, the data of those in use, in one statement.
    const all = await tx
      .select({
        id: rateCard.id, kind: rateCard.kind, key: rateCard.key, name: rateCard.name, inForceFrom: rateCard.inForceFrom, example: rateCard.example,
        data: used.length === 0 ? sql<CardData | null>`null` : sql<CardData | null>`case when ${inArray(rateCard.id, used)} then ${rateCard.data} end`,
      })
      .from(rateCard)
      .where(eq(rateCard.workspaceId, workspaceId))
      .orderBy(asc(rateCard.kind), asc(rateCard.key), asc(rateCard.inForceFrom));
    const cards: Record<string, CardData> = {};
    const latest = new Map<string, CardHead>();
    for (const { data, ...head } of all) {
      if (data !== null) cards[head.id] = data;
      if (head.inForceFrom <= today() && !head.key.startsWith(OPENED)) latest.set(`${head.kind}/${head.key}`, head);
    }
    return { settings, candidate: row, quotes, lanes, cards, cardHeads: [...latest.values()], today: today() };
  });
}

/** The lane document of every lane of a sheet. */
export function documentsOf(parts: { settings: Settings; lanes: readonly LaneRow[]; cards: Record<string, CardData>; today: string }, data: CandidateData, quotes: readonly QuoteRow[]): LaneDocument[] {
  const sources = Object.fromEntries(quotes.map((q) => [q.id, q.data]));
  return parts.lanes.map((l) =>
    composeLane({ candidate: data, lane: l.data, quotes: sources, cards: parts.cards, homeCurrency: parts.settings.homeCurrency, standings: parts.settings.standings, today: parts.today }),
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
  hsCode: z.string().regex(/^\d{4,10}$/, 'Give 4 to 10 digits of the HS code').nullable().default(null),
});
export type NewCandidate = z.output<typeof newCandidate>;

/** Makes candidates with one lane each from the workspace's defaults, all in one transaction. Returns their ids. */
export async function createCandidates(workspaceId: string, list: readonly NewCandidate[], by: string): Promise<string[]> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    if (settings === null) throw new Error('No such workspace');
    const cards = await cardsInForce(tx, workspaceId, today());
    const ids: string[] = [];
    for (const n of list) {
      const id = newId();
      const card = cards.find((c) => c.id === n.marketplaceCardId && c.kind === 'marketplace');
      const categories = (card?.data as MarketplaceCard | undefined)?.categories ?? [];
      const data = candidateData.parse({
        name: n.name, way: n.way,
        product: { sides: n.sides, kg: n.kg, origin: n.origin, hsCode: n.hsCode, category: n.category ?? categories[0]?.key ?? null },
      });
      await tx.insert(candidate).values({ workspaceId, id, data });
      const quoteId = newId();
      const source = n.way === 'retail'
        ? retailPurchase.parse({ kind: 'retail', currency: n.costCurrency, shelfPrice: n.cost, date: today() })
        : quoteSchema.parse({ kind: 'quote', currency: n.costCurrency, date: today(), incoterm: n.way === 'ownBrand' ? 'FOB' : n.way === 'wholesale' ? 'DAP' : 'EXW', priceBreaks: [{ minQty: 0, unitPrice: n.cost }], leadDays: n.way === 'ownBrand' ? settings.defaults.leadDays : n.way === 'wholesale' ? 3 : 0 });
      await tx.insert(quote).values({ workspaceId, id: quoteId, candidateId: id, data: source });
      await addLaneIn(tx, workspaceId, settings, cards, { id, data }, { marketplaceCardId: n.marketplaceCardId, country: n.country, price: n.price, quoteId, position: 0 }, by);
      ids.push(id);
    }
    return ids;
  });
}

type LaneAsk = { marketplaceCardId: string | null; country: string; price: number | null; quoteId: string | null; position: number };

async function addLaneIn(tx: Tx, workspaceId: string, settings: Settings, cards: readonly CardRow[], of: { id: string; data: CandidateData }, ask: LaneAsk, by: string): Promise<string> {
  const card = cards.find((c) => c.id === ask.marketplaceCardId && c.kind === 'marketplace');
  const market = card?.data as MarketplaceCard | undefined;
  const land = market?.country ?? ask.country;
  const tax = cards.find((c) => c.kind === 'tax' && c.key === land);
  const exchange = cards.find((c) => c.kind === 'exchange');
  const id = newId();
  const stored = newLane({
    way: of.data.way, settings, country: land,
    currency: market?.currency ?? (tax?.data as TaxCard | undefined)?.currency ?? settings.homeCurrency,
    marketplace: card === undefined || market === undefined ? null : { id: card.id, card: market },
    taxCardId: tax?.id ?? null,
    exchange: exchange === undefined ? null : { id: exchange.id, table: exchange.data as ExchangeTable },
    origin: of.data.product.origin, price: ask.price, quoteId: ask.quoteId, today: today(),
  });
  await tx.insert(lane).values({ workspaceId, id, candidateId: of.id, position: ask.position, data: stored, updatedBy: by });
  return id;
}

/** Adds a lane from the workspace's defaults, on the candidate's first quote. */
export async function addLane(workspaceId: string, candidateId: string, ask: { marketplaceCardId: string | null; country: string; price: number | null }, by: string): Promise<string> {
  return inWorkspace(workspaceId, async (tx) => {
    const settings = await settingsIn(tx, workspaceId);
    const [row] = await tx.select(candidateColumns).from(candidate).where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)));
    if (settings === null || row === undefined) throw new Response('gone', { status: 404 });
    const cards = await cardsInForce(tx, workspaceId, today());
    const [first] = await tx.select({ id: quote.id }).from(quote).where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId))).orderBy(asc(quote.createdAt)).limit(1);
    const [count] = await tx.select({ n: sql<number>`coalesce(max(${lane.position}), -1) + 1` }).from(lane).where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)));
    return addLaneIn(tx, workspaceId, settings, cards, row, { ...ask, quoteId: first?.id ?? null, position: count?.n ?? 0 }, by);
  });
}

/** Removes a lane and returns it, so that the removal can be undone. */
export async function removeLane(workspaceId: string, laneId: string): Promise<LaneRow | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const [gone] = await tx.delete(lane).where(and(eq(lane.workspaceId, workspaceId), eq(lane.id, laneId))).returning(laneColumns);
    return gone ?? null;
  });
}

/** A lane as the sheet holds it after its removal, to be put back. */
export const removedLane = z.object({ id: z.uuid(), position: z.number().int().min(0).max(1e6), data: storedLane });

/** Puts a removed lane back. */
export async function putLane(workspaceId: string, candidateId: string, row: z.output<typeof removedLane>, by: string): Promise<string> {
  return inWorkspace(workspaceId, async (tx) => {
    await tx.insert(lane).values({ workspaceId, candidateId, ...row, updatedBy: by }).onConflictDoNothing();
    return row.id;
  });
}

/** Id of a card with exactly this content: one the workspace has, else a new one kept for the opened lane alone. */
async function cardAsGiven(tx: Tx, workspaceId: string, kind: CardKind, card: CardData | null): Promise<string | null> {
  if (card === null) return null;
  const [same] = await tx.select({ id: rateCard.id }).from(rateCard).where(and(eq(rateCard.workspaceId, workspaceId), eq(rateCard.kind, kind), sql`${rateCard.data} = ${JSON.stringify(card)}::jsonb`)).limit(1);
  if (same !== undefined) return same.id;
  const id = newId();
  const { name, day } = 'inForceFrom' in card ? { name: card.name, day: card.inForceFrom } : { name: 'Exchange rates', day: card.date };
  await tx.insert(rateCard).values({ workspaceId, id, kind, key: `${OPENED}${id}`, name, inForceFrom: day, example: false, data: card });
  return id;
}

/** Reads the text of a lane document; says what it is not, where it is wrong, and what to do. */
export function readLaneDocument(text: unknown): { ok: true; doc: LaneDocument } | { ok: false; message: string } {
  let json: unknown;
  try {
    json = JSON.parse(String(text));
  } catch {
    return { ok: false, message: 'This file is not a lane document: it is not JSON. Choose a file that was downloaded from a sheet.' };
  }
  const parsed = laneDocument.safeParse(json);
  if (parsed.success) return { ok: true, doc: parsed.data };
  const [issue] = issuesOf(parsed.error);
  return { ok: false, message: `This file is not a lane document. At ${issue?.path}: ${issue?.problem}. ${issue?.remedy}` };
}

/** Whether a document is about the very product of a candidate; its category is the lane's own. */
function sameProduct(doc: LaneDocument, data: CandidateData): boolean {
  return equal({ ...doc.product, category: null }, { ...data.product, category: null });
}

/** Puts the document's quotes, rates and terms in place as one more lane of a candidate. */
async function laneFromDocument(tx: Tx, workspaceId: string, candidateId: string, doc: LaneDocument, by: string): Promise<string> {
  const { format: _format, version: _version, date: _date, homeCurrency: _home, way: _way, product, goods, rates, ...terms } = doc;
  const [there] = await tx.select({ position: sql<number>`coalesce(max(${lane.position}), -1) + 1` }).from(lane).where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)));
  const components: StoredLane['components'] = [];
  for (const c of goods === null || goods === 'none' ? [] : goods) {
    const quoteId = newId();
    await tx.insert(quote).values({ workspaceId, id: quoteId, candidateId, data: c.source });
    components.push({ quoteId, name: c.name, unitsInSoldPack: c.unitsInSoldPack, unitsInBoughtPack: c.unitsInBoughtPack });
  }
  const data = storedLane.parse({
    ...terms, components, noGoods: goods === 'none', category: product.category, benchmark: rates.benchmark,
    marketplaceCardId: await cardAsGiven(tx, workspaceId, 'marketplace', rates.marketplace),
    taxCardId: await cardAsGiven(tx, workspaceId, 'tax', rates.tax),
    exchangeCardId: await cardAsGiven(tx, workspaceId, 'exchange', rates.exchange),
  });
  const id = newId();
  await tx.insert(lane).values({ workspaceId, id, candidateId, position: there?.position ?? 0, data, result: evaluate(doc), resultAt: new Date(), updatedBy: by });
  return id;
}

/** Makes a candidate of a lane document: its product and one lane with the very rates it carries. Returns the candidate's id. */
export async function openAsCandidate(workspaceId: string, doc: LaneDocument, by: string): Promise<string> {
  const id = newId();
  const data = candidateData.parse({ name: doc.name.trim() || `${doc.marketplace} ${doc.country}`.trim(), way: doc.way, product: doc.product });
  await inWorkspace(workspaceId, async (tx) => {
    await tx.insert(candidate).values({ workspaceId, id, data });
    await laneFromDocument(tx, workspaceId, id, doc, by);
  });
  return id;
}

/**
 * Stores a lane document as one more lane of a candidate, with its own quotes and the very rates it carries, so that its
 * figures are those of the document. Null where the document is about another product: then it is a candidate of its own.
 */
export async function openLaneDocument(workspaceId: string, candidateId: string, doc: LaneDocument, by: string): Promise<string | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const [of] = await tx.select({ data: candidate.data }).from(candidate).where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt)));
    return of === undefined || !sameProduct(doc, of.data) ? null : laneFromDocument(tx, workspaceId, candidateId, doc, by);
  });
}

/** A copy of a candidate with its quotes and lanes. */
export async function duplicateCandidate(workspaceId: string, candidateId: string, name: (old: string) => string): Promise<string | null> {
  const sheet = await loadSheet(workspaceId, candidateId);
  if (sheet === null) return null;
  return inWorkspace(workspaceId, async (tx) => {
    const id = newId();
    const quoteIds = new Map(sheet.quotes.map((q) => [q.id, newId()]));
    await tx.insert(candidate).values({ workspaceId, id, data: { ...sheet.candidate.data, name: name(sheet.candidate.data.name) } });
    for (const q of sheet.quotes) await tx.insert(quote).values({ workspaceId, id: quoteIds.get(q.id) as string, candidateId: id, supplierId: q.supplierId, data: q.data });
    for (const l of sheet.lanes)
      await tx.insert(lane).values({ workspaceId, id: newId(), candidateId: id, position: l.position, data: { ...l.data, components: l.data.components.map((c) => ({ ...c, quoteId: quoteIds.get(c.quoteId) ?? c.quoteId })) }, result: l.result, resultAt: l.resultAt });
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
    const done = await tx.update(candidate).set(set).where(and(eq(candidate.workspaceId, workspaceId), inArray(candidate.id, [...ids]))).returning({ id: candidate.id });
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

const TABLES = { candidate: { table: candidate, schema: candidateData }, quote: { table: quote, schema: quoteSource }, lane: { table: lane, schema: storedLane } } as const;

/**
 * Applies edits to one candidate, all or none. Each names what it replaces; where something else stands there by now, nobody's
 * work is overwritten: the conflicts come back with what stands there. Then the lanes are reckoned again and stored.
 */
export async function savePatches(workspaceId: string, candidateId: string, patches: readonly Patch[], by: string): Promise<Saved> {
  class Stop extends Error {
    constructor(readonly saved: Saved) {
      super('stop');
    }
  }
  try {
    return await inWorkspace(workspaceId, async (tx) => {
      const settings = await settingsIn(tx, workspaceId);
      // Locking the candidate first puts all writers of it in one order.
      const [row] = await tx.select(candidateColumns).from(candidate).where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt))).for('update');
      if (settings === null || row === undefined) throw new Stop({ ok: false, gone: true });
      const quotes = await tx.select(quoteColumns).from(quote).where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)));
      const lanes = await tx.select(laneColumns).from(lane).where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)));
      const rows = { candidate: [row], quote: quotes, lane: lanes } as Record<Patch['entity'], { id: string; data: unknown }[]>;

      const touched = new Map<string, { entity: Patch['entity']; row: { id: string; data: unknown }; patch: Patch }>();
      const conflicts: Conflict[] = [];
      for (const p of patches) {
        const target = rows[p.entity].find((r) => r.id === p.id);
        if (target === undefined) throw new Stop({ ok: false, gone: true });
        const now = valueAt(target.data, p.path);
        // A note of where a value came from follows the value; by itself it is nothing to disagree about.
        if (p.path[0] !== 'provenance' && !equal(now ?? null, p.from ?? null) && !equal(now ?? null, p.to ?? null)) {
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
            const patch = patches.find((p) => p.entity === t.entity && p.id === t.row.id && (at.startsWith(p.path.join('.')) || p.path.join('.').startsWith(at))) ?? t.patch;
            invalid.push({ patch, message: `${issue.problem}. ${issue.remedy}` });
          }
          continue;
        }
        t.row.data = parsed.data;
      }
      if (invalid.length > 0) throw new Stop({ ok: false, invalid });

      const now = new Date();
      for (const { entity, row: changed } of touched.values()) {
        const where = (t: { workspaceId: typeof lane.workspaceId; id: typeof lane.id }) => and(eq(t.workspaceId, workspaceId), eq(t.id, changed.id));
        if (entity === 'candidate') await tx.update(candidate).set({ data: changed.data as CandidateData }).where(where(candidate as never));
        else if (entity === 'quote') await tx.update(quote).set({ data: changed.data as QuoteSource, updatedAt: now }).where(where(quote as never));
        else await tx.update(lane).set({ data: changed.data as StoredLane, updatedAt: now, updatedBy: by }).where(where(lane as never));
      }
      await tx.update(candidate).set({ updatedAt: now }).where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId)));

      // Only a lane's own edit leaves its neighbours as they were.
      const onlyLanes = [...touched.values()].every((t) => t.entity === 'lane');
      const again = lanes.filter((l) => !onlyLanes || touched.has(`lane/${l.id}`));
      const cards = await cardData(tx, workspaceId, cardsUsed(again));
      const docs = documentsOf({ settings, lanes: again, cards, today: today() }, row.data, quotes);
      const results: Record<string, LaneResult> = {};
      for (const [i, l] of again.entries()) {
        const result = evaluate(docs[i] as LaneDocument);
        results[l.id] = result;
        await tx.update(lane).set({ result, resultAt: now }).where(and(eq(lane.workspaceId, workspaceId), eq(lane.id, l.id)));
      }
      return { ok: true, results };
    });
  } catch (e) {
    if (e instanceof Stop) return e.saved;
    throw e;
  }
}

/**
 * Stores a launch plan: cash, reserve and the goal belong to the workspace, the rest to the candidate. Both or neither.
 * False where the candidate is gone.
 */
export async function saveLaunchPlan(workspaceId: string, candidateId: string, plan: LaunchPlan): Promise<boolean> {
  return inWorkspace(workspaceId, async (tx) => {
    const [row] = await tx.select({ data: candidate.data }).from(candidate).where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId), isNull(candidate.deletedAt))).for('update');
    if (row === undefined) return false;
    await tx.update(candidate).set({ data: candidateData.parse({ ...row.data, launch: plan }), updatedAt: new Date() }).where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, candidateId)));
    await changeSettings(tx, workspaceId, (s) => ({ ...s, launch: { ...s.launch, cash: plan.cash, reserve: plan.reserve, monthlyProfitGoal: plan.monthlyProfitGoal } }));
    return true;
  });
}

/** Names of the candidates, for the search box. */
export async function candidateNames(workspaceId: string): Promise<{ id: string; name: string }[]> {
  return inWorkspace(workspaceId, (tx) =>
    tx.select({ id: candidate.id, name: sql<string>`${candidate.data} ->> 'name'` }).from(candidate).where(and(eq(candidate.workspaceId, workspaceId), isNull(candidate.deletedAt))).orderBy(asc(candidate.createdAt)),
  );
}
