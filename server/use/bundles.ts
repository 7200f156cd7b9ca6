/**
 * Components that are other candidates of the workspace: their goods are bought as those candidates' first
 * lane buys them.
 */
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { circleBy } from '../../core/workspace/bundles.ts';
import type { Makeup } from '../../core/workspace/bundles.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import { candidate, lane, quote } from '../db/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { newId } from './workspaces.ts';
import type { Fault } from '../../core/fault.ts';
import { fault } from '../../core/fault.ts';
import { Refusal, refused } from '../refusal.ts';
import { candidateIn } from './columns.ts';

async function makeupOf(tx: Tx, workspaceId: string): Promise<Makeup> {
  const rows = await tx.execute(
    sql`select distinct l.candidate_id as whole, c ->> 'candidateId' as part from bm.lane l,
        jsonb_array_elements(l.data -> 'components') c where l.workspace_id = ${workspaceId}
        and c ->> 'candidateId' is not null`,
  );
  const makeup = new Map<string, string[]>();
  for (const r of rows.rows as { whole: string; part: string }[])
    makeup.set(r.whole, [...(makeup.get(r.whole) ?? []), r.part]);
  return makeup;
}

/** Why `parts` cannot be components of a candidate, naming the circle; null where they can. */
export async function circleAmong(
  tx: Tx,
  workspaceId: string,
  candidateId: string,
  parts: readonly string[],
): Promise<Fault | null> {
  if (parts.length === 0) return null;
  const makeup = await makeupOf(tx, workspaceId);
  for (const part of parts) {
    const way = circleBy(makeup, candidateId, part);
    if (way === null) continue;
    const names = new Map(
      (
        await tx
          .select({ id: candidate.id, name: sql<string>`${candidate.data} ->> 'name'` })
          .from(candidate)
          .where(
            and(
              eq(candidate.workspaceId, workspaceId),
              inArray(candidate.id, [...new Set([candidateId, ...way])]),
            ),
          )
      ).map((c) => [c.id, c.name]),
    );
    const said = way.map((id) => names.get(id) ?? id);
    const [product] = said;
    return part === candidateId
      ? fault('bundleOfItself', { product })
      : fault('bundleCircle', { product, way: said.slice(1).join(' \u2192 ') });
  }
  return null;
}

/**
 * What a candidate's goods are, as components for a bundle: copies of the quotes its first lane buys on, each
 * noting the candidate. `error` where there is nothing to take or a circle would close.
 */
export async function componentsFrom(
  workspaceId: string,
  candidateId: string,
  partId: string,
): Promise<StoredLane['components']> {
  return inWorkspace(workspaceId, async (tx) => {
    // One order among all who put bundles together, so that two cannot close a circle between them.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${`bundles/${workspaceId}`}))`);
    const own = await candidateIn(tx, workspaceId, candidateId);
    const part = await candidateIn(tx, workspaceId, partId);
    if (own === undefined || part === undefined) throw refused('productGone');
    const circle = await circleAmong(tx, workspaceId, candidateId, [partId]);
    if (circle !== null) throw new Refusal('invalid', circle);
    const [first] = await tx
      .select({ data: lane.data })
      .from(lane)
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.candidateId, partId), isNull(lane.scenarioOf)))
      .orderBy(asc(lane.position), asc(lane.createdAt))
      .limit(1);
    const bought = first?.data.components ?? [];
    const quotes = new Map(
      (bought.length === 0
        ? []
        : await tx
            .select({ id: quote.id, data: quote.data, supplierId: quote.supplierId })
            .from(quote)
            .where(
              and(
                eq(quote.workspaceId, workspaceId),
                inArray(
                  quote.id,
                  bought.map((c) => c.quoteId),
                ),
              ),
            )
      ).map((q) => [q.id, q]),
    );
    const components: StoredLane['components'] = [];
    for (const c of bought) {
      const from = quotes.get(c.quoteId);
      if (from === undefined) continue;
      const quoteId = newId();
      await tx
        .insert(quote)
        .values({ workspaceId, id: quoteId, candidateId, supplierId: from.supplierId, data: from.data });
      components.push({
        quoteId,
        name: c.name || part.data.name,
        unitsInSoldPack: c.unitsInSoldPack,
        unitsInBoughtPack: c.unitsInBoughtPack,
        candidateId: partId,
      });
    }
    if (components.length === 0) throw refused('partNoQuote', { product: part.data.name });
    return components;
  });
}
