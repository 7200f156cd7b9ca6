/** Proofs of cards, and how doubtful cells of fee tables were read before. */
import { and, asc, count, desc, eq, inArray, sql } from 'drizzle-orm';
import { MOST_PROOFS, proof } from '../../core/proofs/schema.ts';
import type { Proof } from '../../core/proofs/schema.ts';
import type { Choices } from '../../core/schedules/readCells.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { cardProof, scheduleChoice } from '../db/schema.ts';
import { refused } from '../refusal.ts';
import { newId } from './workspaces.ts';

export type KeptProof = { readonly id: string; readonly proof: Proof };
/** Choices that are kept: those of some twenty long tables. */
const MOST_CHOICES = 5000;

/** The proofs of a card by what it is about, the oldest first. */
export async function loadProofs(workspaceId: string, cardKey: string): Promise<KeptProof[]> {
  const rows = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ id: cardProof.id, data: cardProof.data })
      .from(cardProof)
      .where(and(eq(cardProof.workspaceId, workspaceId), eq(cardProof.cardKey, cardKey)))
      .orderBy(asc(cardProof.createdAt), asc(cardProof.id))
      .limit(MOST_PROOFS),
  );
  return rows.map((r) => ({ id: r.id, proof: proof.parse(r.data) }));
}

/**
 * Adds proofs to a card, all or none.
 * @throws Refusal `invalid` where the card would have more than it may
 */
export async function addProofs(
  workspaceId: string,
  cardKey: string,
  proofs: readonly Proof[],
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, (tx) => addProofsIn(tx, workspaceId, cardKey, proofs, by));
}

/** The same within a transaction. */
export async function addProofsIn(
  tx: Tx,
  workspaceId: string,
  cardKey: string,
  proofs: readonly Proof[],
  by: string,
): Promise<void> {
  if (proofs.length === 0) return;
  // Two who add at once wait for each other, so that the count holds.
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`${workspaceId}/${cardKey}`}, 13))`);
  const [there] = await tx
    .select({ n: count() })
    .from(cardProof)
    .where(and(eq(cardProof.workspaceId, workspaceId), eq(cardProof.cardKey, cardKey)));
  if ((there?.n ?? 0) + proofs.length > MOST_PROOFS) throw refused('tooManyProofs', { most: MOST_PROOFS });
  // A moment apart each, so that they stay in the order in which they were given.
  const now = Date.now();
  const rows = proofs.map((data, i) => ({
    workspaceId,
    id: newId(),
    cardKey,
    data,
    createdBy: by,
    createdAt: new Date(now + i),
  }));
  for (let i = 0; i < rows.length; i += 1000) await tx.insert(cardProof).values(rows.slice(i, i + 1000));
}

/** Takes proofs away; ids of another workspace find nothing. */
export async function dropProofs(workspaceId: string, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  await inWorkspace(workspaceId, (tx) =>
    tx.delete(cardProof).where(and(eq(cardProof.workspaceId, workspaceId), inArray(cardProof.id, [...ids]))),
  );
}

/** How doubtful cells were read before, the latest. */
export async function loadChoices(workspaceId: string): Promise<Choices> {
  const rows = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ cell: scheduleChoice.cell, reading: scheduleChoice.reading })
      .from(scheduleChoice)
      .where(eq(scheduleChoice.workspaceId, workspaceId))
      .orderBy(desc(scheduleChoice.updatedAt))
      .limit(MOST_CHOICES),
  );
  return Object.fromEntries(rows.map((r) => [r.cell, r.reading]));
}

/** Keeps how cells were read. */
export async function keepChoices(workspaceId: string, choices: Choices): Promise<void> {
  const rows = Object.entries(choices).map(([cell, reading]) => ({ workspaceId, cell, reading }));
  if (rows.length === 0) return;
  await inWorkspace(workspaceId, (tx) =>
    tx
      .insert(scheduleChoice)
      .values(rows)
      .onConflictDoUpdate({
        target: [scheduleChoice.workspaceId, scheduleChoice.cell],
        set: { reading: sql`excluded.reading`, updatedAt: sql`now()` },
      }),
  );
}
