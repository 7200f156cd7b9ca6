/** What is read of a row, the same in every use case. */
import { and, eq, inArray } from 'drizzle-orm';
import type { CardData } from '../../core/cards/schema.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, quote, rateCard } from '../db/schema.ts';

export const candidateColumns = { id: candidate.id, data: candidate.data, archivedAt: candidate.archivedAt, droppedAt: candidate.droppedAt, droppedReason: candidate.droppedReason, updatedAt: candidate.updatedAt };
export const quoteColumns = { id: quote.id, candidateId: quote.candidateId, supplierId: quote.supplierId, data: quote.data };
export const laneColumns = { id: lane.id, candidateId: lane.candidateId, position: lane.position, data: lane.data, result: lane.result, resultAt: lane.resultAt, updatedAt: lane.updatedAt, scenarioOf: lane.scenarioOf };

/** Data of card versions by id. */
export async function cardData(tx: Tx, workspaceId: string, ids: readonly string[]): Promise<Record<string, CardData>> {
  if (ids.length === 0) return {};
  const rows = await tx.select({ id: rateCard.id, data: rateCard.data }).from(rateCard).where(and(eq(rateCard.workspaceId, workspaceId), inArray(rateCard.id, [...ids])));
  return Object.fromEntries(rows.map((r) => [r.id, r.data]));
}
