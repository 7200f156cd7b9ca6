/** Suppliers as records, and everything that is bought from each. */
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import type { SupplierRecord } from '../../core/workspace/supplier.ts';
import type { CandidateData, QuoteSource } from '../../core/workspace/records.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, quote, supplier } from '../db/schema.ts';
import { newId } from './workspaces.ts';
import { gone } from '../refusal.ts';

export type Supplier = SupplierRecord & {
  id: string | null;
  quotes: {
    id: string;
    candidateId: string;
    candidate: string;
    way: CandidateData['way'];
    data: QuoteSource;
    lanes: number;
    bestProfit: number | null;
  }[];
};

/** All suppliers by name: those with a record, and names that stand on quotes alone. Profits in the home currency. */
export async function loadSuppliers(workspaceId: string): Promise<Supplier[]> {
  return inWorkspace(workspaceId, async (tx) => {
    const records = await tx
      .select()
      .from(supplier)
      .where(eq(supplier.workspaceId, workspaceId))
      .orderBy(asc(supplier.name));
    const quotes = await tx
      .select({ id: quote.id, candidateId: quote.candidateId, data: quote.data, candidate: candidate.data })
      .from(quote)
      .innerJoin(
        candidate,
        and(eq(candidate.workspaceId, quote.workspaceId), eq(candidate.id, quote.candidateId)),
      )
      .where(and(eq(quote.workspaceId, workspaceId), isNull(candidate.deletedAt)))
      .orderBy(asc(quote.createdAt));
    const used = await tx
      .select({
        quoteId: sql<string>`c ->> 'quoteId'`,
        n: sql<number>`count(*)::int`,
        best: sql<number | null>`max(${lane.unitProfit})`,
      })
      .from(sql`${lane}, jsonb_array_elements(${lane.data} -> 'components') c`)
      .where(and(eq(lane.workspaceId, workspaceId), isNull(lane.scenarioOf)))
      .groupBy(sql`c ->> 'quoteId'`);
    const usage = new Map(used.map((u) => [u.quoteId, u]));
    const byName = new Map<string, Supplier>();
    for (const r of records)
      byName.set(r.name.toLowerCase(), {
        id: r.id,
        name: r.name,
        country: r.country,
        currency: r.currency,
        contact: r.contact,
        mail: r.mail,
        language: r.language,
        notes: r.notes,
        quotes: [],
      });
    for (const q of quotes) {
      const name = q.data.supplier.trim();
      if (name === '') continue;
      const own = byName.get(name.toLowerCase()) ?? {
        id: null,
        name,
        country: null,
        currency: q.data.currency,
        contact: '',
        mail: '',
        language: 'en' as const,
        notes: '',
        quotes: [],
      };
      byName.set(name.toLowerCase(), own);
      own.quotes.push({
        id: q.id,
        candidateId: q.candidateId,
        candidate: q.candidate.name,
        way: q.candidate.way,
        data: q.data,
        lanes: usage.get(q.id)?.n ?? 0,
        bestProfit: usage.get(q.id)?.best ?? null,
      });
    }
    return [...byName.values()].sort((a, b) => a.name.localeCompare(b.name));
  });
}

/** Stores a supplier; a new name on an existing record goes to its quotes too. Returns its id. */
export async function saveSupplier(
  workspaceId: string,
  id: string | null,
  record: SupplierRecord,
): Promise<string> {
  return inWorkspace(workspaceId, async (tx) => {
    if (id === null) {
      const made = newId();
      await tx.insert(supplier).values({ workspaceId, id: made, ...record });
      return made;
    }
    const [was] = await tx
      .select({ name: supplier.name })
      .from(supplier)
      .where(and(eq(supplier.workspaceId, workspaceId), eq(supplier.id, id)))
      .for('update');
    if (was === undefined) throw gone();
    await tx
      .update(supplier)
      .set(record)
      .where(and(eq(supplier.workspaceId, workspaceId), eq(supplier.id, id)));
    if (was.name !== record.name)
      await tx
        .update(quote)
        .set({ data: sql`jsonb_set(${quote.data}, '{supplier}', to_jsonb(${record.name}::text))` })
        .where(
          and(
            eq(quote.workspaceId, workspaceId),
            sql`lower(${quote.data} ->> 'supplier') = lower(${was.name})`,
          ),
        );
    return id;
  });
}

/** The supplier of a name, letters' case aside; made of what is known where there is none. Returns its id. */
export async function supplierNamed(
  tx: Tx,
  workspaceId: string,
  known: Pick<typeof supplier.$inferInsert, 'name' | 'country' | 'currency' | 'mail'>,
): Promise<string> {
  const [own] = await tx
    .select({ id: supplier.id })
    .from(supplier)
    .where(and(eq(supplier.workspaceId, workspaceId), sql`lower(${supplier.name}) = lower(${known.name})`));
  if (own !== undefined) return own.id;
  const id = newId();
  await tx.insert(supplier).values({ workspaceId, id, ...known });
  return id;
}
