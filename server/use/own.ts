/**
 * Ids inside documents are held against the workspace before they are saved: nothing of another workspace is
 * named, known or not.
 */
import { and, eq, inArray } from 'drizzle-orm';
import { CARD_FIELDS } from '../../core/workspace/compose.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import type { Tx } from '../db/client.ts';
import { candidate, quote, rateCard, supplierList } from '../db/schema.ts';
import { fault } from '../../core/fault.ts';
import type { Fault } from '../../core/fault.ts';
import { Refusal } from '../refusal.ts';

const TABLES = { card: rateCard, quote, candidate, list: supplierList } as const;
export type Named = Partial<Record<keyof typeof TABLES, readonly (string | null | undefined)[]>>;

/** What of the named ids this workspace does not have; null where it has them all. */
export async function notOwn(tx: Tx, workspaceId: string, named: Named): Promise<Fault | null> {
  for (const kind of Object.keys(named) as (keyof typeof TABLES)[]) {
    const ids = [
      ...new Set((named[kind] ?? []).filter((id): id is string => id !== null && id !== undefined)),
    ];
    if (ids.length === 0) continue;
    const table = TABLES[kind] as typeof candidate;
    const there = new Set(
      (
        await tx
          .select({ id: table.id })
          .from(table)
          .where(and(eq(table.workspaceId, workspaceId), inArray(table.id, ids)))
      ).map((r) => r.id),
    );
    if (ids.some((id) => !there.has(id))) return fault('foreign', { kind });
  }
  return null;
}

/** The same as a refusal. */
export async function needOwn(tx: Tx, workspaceId: string, named: Named): Promise<void> {
  const problem = await notOwn(tx, workspaceId, named);
  if (problem !== null) throw new Refusal('invalid', problem);
}

/** The ids that lanes name, but for those that `before` named already: what stands is not asked about again. */
export function namedByLanes(
  lanes: readonly StoredLane[],
  before: readonly StoredLane[] = [],
): Record<'card' | 'quote' | 'candidate', string[]> {
  const of = (list: readonly StoredLane[]) => ({
    card: list.flatMap((l) => Object.values(CARD_FIELDS).flatMap((f) => l[f] ?? [])),
    quote: list.flatMap((l) => l.components.map((c) => c.quoteId)),
    candidate: list.flatMap((l) => l.components.flatMap((c) => c.candidateId ?? [])),
  });
  const [now, was] = [of(lanes), of(before)];
  const fresh = (kind: keyof typeof now): string[] => now[kind].filter((id) => !was[kind].includes(id));
  return { card: fresh('card'), quote: fresh('quote'), candidate: fresh('candidate') };
}
