/** Fees that were more than the card's: found in what was settled, claimed, and how far each claim is. */
import { and, asc, eq, sql } from 'drizzle-orm';
import { Claims, FEE_KINDS, overchargesOf } from '../../core/actuals/fees.ts';
import type { Claim, ClaimState, OrderLines } from '../../core/actuals/fees.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, feeClaim, lane, launchedLane, rateCard } from '../db/schema.ts';
import { gone } from '../refusal.ts';
import { launchedIn } from './onSale.ts';
import type { Launched } from './onSale.ts';
import { lockReports } from './settledPlaces.ts';

/** Kinds of lines that say what an order was sold for, and what was charged for it. */
const KINDS = ['sale', 'delivery', 'discount', 'vat', ...FEE_KINDS];
/** Orders' lines that are fetched at once. */
const AT_ONCE = 5000;

/** The lane with the newer cards of its place, each from its day on. */
async function cardsSince(tx: Tx, workspaceId: string, l: Launched): Promise<(day: string) => LaneDocument> {
  const own = l.document.rates.marketplace;
  if (own === null) return () => l.document;
  const rows = await tx
    .select({ from: rateCard.inForceFrom, data: rateCard.data })
    .from(rateCard)
    .where(
      and(
        eq(rateCard.workspaceId, workspaceId),
        eq(rateCard.kind, 'marketplace'),
        eq(rateCard.key, l.place),
        sql`${rateCard.inForceFrom} > ${own.inForceFrom}`,
        sql`${rateCard.withdrawnAt} is null`,
      ),
    )
    .orderBy(asc(rateCard.inForceFrom), asc(rateCard.createdAt));
  const newer = rows.map(({ from, data }) => ({
    from,
    document: { ...l.document, rates: { ...l.document.rates, marketplace: data as MarketplaceCard } },
  }));
  return (day) => newer.findLast((n) => n.from <= day)?.document ?? l.document;
}

/** The lines of each order of a lane, one order after the other. */
async function* ordersOf(tx: Tx, workspaceId: string, l: Launched): AsyncGenerator<OrderLines[]> {
  await tx.execute(sql`
    declare orders_settled no scroll cursor for
    select "order", code, kind, min(day)::text as day, sum(amount)::float8 as amount, sum(tax)::float8 as tax,
      sum(units)::int as units, count(*)::int as lines
    from bm.settled_line where workspace_id = ${workspaceId} and place = ${l.place} and counts and "order" <> ''
      and code = any(${sql.param(l.codes)}::text[]) and kind = any(${sql.param(KINDS)}::text[])
    group by code, "order", kind order by code, "order"`);
  let open: OrderLines[] = [];
  for (;;) {
    const { rows } = await tx.execute<OrderLines>(sql`fetch ${sql.raw(String(AT_ONCE))} from orders_settled`);
    for (const row of rows) {
      if (open[0] !== undefined && (open[0].order !== row.order || open[0].code !== row.code)) {
        yield open;
        open = [];
      }
      open.push(row);
    }
    if (rows.length < AT_ONCE) break;
  }
  if (open.length > 0) yield open;
  await tx.execute(sql`close orders_settled`);
}

async function claimsOf(tx: Tx, workspaceId: string, l: Launched): Promise<Claim[]> {
  const docOn = await cardsSince(tx, workspaceId, l);
  const claims = new Claims();
  for await (const lines of ordersOf(tx, workspaceId, l)) claims.add(lines, overchargesOf(lines, docOn));
  return claims.all();
}

/** What the reports do not show any more, though it was claimed. */
const NOT_FOUND = { count: 0, of: 0, due: 0, charged: 0, orders: [] };

/**
 * Holds what a place charged against the cards anew. Claims that nobody has done anything about come and go with what
 * was settled; of the others it is noted what is found of them now.
 */
export async function findClaims(tx: Tx, workspaceId: string, place: string): Promise<void> {
  const ofPlace = and(eq(feeClaim.workspaceId, workspaceId), eq(feeClaim.place, place));
  await tx.delete(feeClaim).where(and(ofPlace, eq(feeClaim.state, 'open')));
  await tx.update(feeClaim).set({ found: NOT_FOUND }).where(ofPlace);
  for (const l of await launchedIn(tx, workspaceId, { place }))
    for (const { code, kind, month, why, ...found } of await claimsOf(tx, workspaceId, l))
      await tx
        .insert(feeClaim)
        .values({ workspaceId, place, laneId: l.laneId, code, kind, month, why, found })
        .onConflictDoUpdate({
          target: [
            feeClaim.workspaceId,
            feeClaim.place,
            feeClaim.code,
            feeClaim.kind,
            feeClaim.month,
            feeClaim.why,
          ],
          set: { found, laneId: l.laneId },
        });
}

export type ClaimKey = Pick<Claim, 'code' | 'kind' | 'month' | 'why'> & { readonly place: string };
export type ClaimSaid = typeof feeClaim.$inferSelect & { readonly name: string; readonly currency: string };

/** Claims of a workspace, or of one lane, the dearest that are open first. */
export const loadClaims = (tx: Tx, workspaceId: string, laneId?: string): Promise<ClaimSaid[]> =>
  tx
    .select({
      claim: feeClaim,
      name: sql<string>`${candidate.data} ->> 'name'`,
      currency: sql<string>`${lane.data} ->> 'currency'`,
    })
    .from(feeClaim)
    .innerJoin(lane, and(eq(lane.workspaceId, feeClaim.workspaceId), eq(lane.id, feeClaim.laneId)))
    .innerJoin(
      candidate,
      and(eq(candidate.workspaceId, lane.workspaceId), eq(candidate.id, lane.candidateId)),
    )
    .where(
      and(
        eq(feeClaim.workspaceId, workspaceId),
        laneId === undefined ? undefined : eq(feeClaim.laneId, laneId),
      ),
    )
    .orderBy(
      sql`array_position(array['open', 'claimed', 'granted', 'refused', 'dropped'], ${feeClaim.state})`,
      sql`(${feeClaim.found} ->> 'charged')::float8 - (${feeClaim.found} ->> 'due')::float8 desc`,
    )
    .limit(500)
    .then((rows) => rows.map((r) => ({ ...r.claim, name: r.name, currency: r.currency })));

/** What is open of a lane's claims, or of all, by lane. */
export async function openClaims(
  tx: Tx,
  workspaceId: string,
): Promise<Map<string, { amount: number; count: number }>> {
  const rows = await tx
    .select({
      laneId: feeClaim.laneId,
      amount: sql<number>`sum((${feeClaim.found} ->> 'charged')::float8 - (${feeClaim.found} ->> 'due')::float8)`,
      count: sql<number>`sum((${feeClaim.found} ->> 'count')::int)::int`,
    })
    .from(feeClaim)
    .where(and(eq(feeClaim.workspaceId, workspaceId), eq(feeClaim.state, 'open')))
    .groupBy(feeClaim.laneId);
  return new Map(rows.map(({ laneId, ...sum }) => [laneId, sum]));
}

/** Says how far a claim is. What was asked for is kept as it was then. @throws Refusal `gone` */
export async function stateClaim(
  workspaceId: string,
  key: ClaimKey,
  said: { readonly state: ClaimState; readonly note: string },
  by: string,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    await lockReports(tx, workspaceId);
    const own = and(
      eq(feeClaim.workspaceId, workspaceId),
      eq(feeClaim.place, key.place),
      eq(feeClaim.code, key.code),
      eq(feeClaim.kind, key.kind),
      eq(feeClaim.month, key.month),
      eq(feeClaim.why, key.why),
    );
    const [found] = await tx.select().from(feeClaim).where(own);
    if (found === undefined) throw gone();
    const asked = found.found.charged - found.found.due;
    const claimed =
      said.state === 'open' ? null : said.state === 'claimed' ? asked : (found.claimed ?? asked);
    await tx
      .update(feeClaim)
      .set({ ...said, claimed, statedBy: by, statedAt: new Date() })
      .where(own);
    await tx
      .update(launchedLane)
      .set({ book: null })
      .where(and(eq(launchedLane.workspaceId, workspaceId), eq(launchedLane.laneId, found.laneId)));
    // An open claim that the reports do not show is none.
    await tx
      .delete(feeClaim)
      .where(and(own, eq(feeClaim.state, 'open'), sql`(${feeClaim.found} ->> 'count')::int = 0`));
  });
}

/** Takes the open claims of a lane away; what somebody has done about others stays. */
export const dropOpenClaims = (tx: Tx, workspaceId: string, laneId: string): Promise<unknown> =>
  tx
    .delete(feeClaim)
    .where(
      and(eq(feeClaim.workspaceId, workspaceId), eq(feeClaim.laneId, laneId), eq(feeClaim.state, 'open')),
    );
