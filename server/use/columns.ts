/** What is read of a row, the same in every use case. */
import { and, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { CardData, CardKind } from '../../core/cards/schema.ts';
import { CARD_FIELDS } from '../../core/workspace/compose.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, quote, rateCard } from '../db/schema.ts';

export const candidateColumns = {
  id: candidate.id,
  data: candidate.data,
  archivedAt: candidate.archivedAt,
  droppedAt: candidate.droppedAt,
  droppedReason: candidate.droppedReason,
  updatedAt: candidate.updatedAt,
};
export const quoteColumns = {
  id: quote.id,
  candidateId: quote.candidateId,
  supplierId: quote.supplierId,
  data: quote.data,
};
/**
 * What a lane says, with the card versions it has been brought up to: these stand beside the document, so
 * that a change of rates on thousands of lanes writes a few ids of each and not the whole of it.
 */
export const laneData = sql<StoredLane>`case when ${lane.newerCards} = '{}'::jsonb then ${lane.data}
    else ${lane.data} || ${lane.newerCards} end`;
/** The card version of one kind that a lane is computed with. */
export const laneCard = (kind: CardKind) => {
  const field = sql.raw(`'${CARD_FIELDS[kind]}'`);
  return sql<string | null>`coalesce(${lane.newerCards} ->> ${field}, ${lane.data} ->> ${field})`;
};
export const laneColumns = {
  id: lane.id,
  candidateId: lane.candidateId,
  position: lane.position,
  data: laneData,
  result: lane.result,
  resultAt: lane.resultAt,
  updatedAt: lane.updatedAt,
  scenarioOf: lane.scenarioOf,
};

/** Data of card versions by id. */
export async function cardData(
  tx: Tx,
  workspaceId: string,
  ids: readonly string[],
): Promise<Record<string, CardData>> {
  if (ids.length === 0) return {};
  const rows = await tx
    .select({ id: rateCard.id, data: rateCard.data })
    .from(rateCard)
    .where(and(eq(rateCard.workspaceId, workspaceId), inArray(rateCard.id, [...ids])));
  return Object.fromEntries(rows.map((r) => [r.id, r.data]));
}

/** A candidate that is there; `lock` puts all who change it in one order. Undefined: none in this workspace. */
export async function candidateIn(tx: Tx, workspaceId: string, id: string, lock?: 'lock') {
  const asked = tx
    .select(candidateColumns)
    .from(candidate)
    .where(and(eq(candidate.workspaceId, workspaceId), eq(candidate.id, id), isNull(candidate.deletedAt)));
  const [found] = lock === undefined ? await asked : await asked.for('update');
  return found;
}

/** Quotes of a candidate, and its lanes with their scenarios, as they come. */
export const quotesIn = (tx: Tx, workspaceId: string, candidateId: string) =>
  tx
    .select(quoteColumns)
    .from(quote)
    .where(and(eq(quote.workspaceId, workspaceId), eq(quote.candidateId, candidateId)));
export const lanesIn = (tx: Tx, workspaceId: string, candidateId: string) =>
  tx
    .select(laneColumns)
    .from(lane)
    .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, candidateId)));
