/** Lane documents as lanes: of a candidate that is there, or of one made of them. */
import { and, eq, sql } from 'drizzle-orm';
import equal from 'fast-deep-equal';
import { firstIssue } from '../../core/issues.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import { laneDocument } from '../../core/lane/schema.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { measuresOf } from '../../core/workspace/summary.ts';
import { candidateData, storedLane } from '../../core/workspace/records.ts';
import type { CandidateData, StoredLane } from '../../core/workspace/records.ts';
import type { CardData, CardKind } from '../../core/cards/schema.ts';
import { candidate, lane, quote, rateCard } from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { newId, OPENED, settingsIn } from './workspaces.ts';
import { refused } from '../refusal.ts';
import { broughtUp } from '../../core/versions.ts';
import { candidateIn } from './columns.ts';

/** Id of a card with exactly this content: one the workspace has, else a new one kept for the opened lane alone. */
async function cardAsGiven(
  tx: Tx,
  workspaceId: string,
  kind: CardKind,
  card: CardData | null,
): Promise<string | null> {
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
    'inForceFrom' in card
      ? { name: card.name, day: card.inForceFrom }
      : { name: 'Exchange rates', day: card.date };
  await tx
    .insert(rateCard)
    .values({
      workspaceId,
      id,
      kind,
      key: `${OPENED}${id}`,
      name,
      inForceFrom: day,
      example: false,
      data: card,
    });
  return id;
}

/** Reads the text of a lane document; refused where it is none, with the place that is wrong. */
export function readLaneDocument(text: unknown): LaneDocument {
  let json: unknown;
  try {
    json = JSON.parse(String(text));
  } catch {
    throw refused('laneNotJson');
  }
  const parsed = laneDocument.safeParse(broughtUp(json));
  if (parsed.success) return parsed.data;
  const { path, code, detail } = firstIssue(parsed.error);
  throw refused(code, { ...detail, in: 'laneFile', path });
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
export async function openAsCandidate(workspaceId: string, doc: LaneDocument, by: string): Promise<string> {
  return inWorkspace(workspaceId, (tx) => candidateFromDocument(tx, workspaceId, doc, by));
}

/** The same within a transaction, with tags, notes and barcode. */
export async function candidateFromDocument(
  tx: Tx,
  workspaceId: string,
  doc: LaneDocument,
  by: string,
  more: Partial<Pick<CandidateData, 'tags' | 'notes' | 'gtin'>> = {},
): Promise<string> {
  const id = newId();
  const data = candidateData.parse({
    ...more,
    name: doc.name.trim() || `${doc.marketplace} ${doc.country}`.trim(),
    way: doc.way,
    product: doc.product,
  });
  await tx.insert(candidate).values({ workspaceId, id, data });
  await laneFromDocument(tx, workspaceId, id, doc, by);
  return id;
}

/**
 * Stores a lane document as one more lane of a candidate, with its own quotes and the very rates it carries,
 * so that its figures are those of the document. Null where the document is about another product: then it is
 * a candidate of its own.
 */
export async function openLaneDocument(
  workspaceId: string,
  candidateId: string,
  doc: LaneDocument,
  by: string,
): Promise<string | null> {
  return inWorkspace(workspaceId, async (tx) => {
    const of = await candidateIn(tx, workspaceId, candidateId);
    return of === undefined || !sameProduct(doc, of.data)
      ? null
      : laneFromDocument(tx, workspaceId, candidateId, doc, by);
  });
}
