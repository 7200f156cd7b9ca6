/** Fees that were more than the card's: found in what was settled, claimed, and how far each claim is. */
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { Claims, FEE_KINDS, overchargesOf } from '../../core/actuals/fees.ts';
import type { Claim, ClaimState, OrderLines } from '../../core/actuals/fees.ts';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { inPieces } from '../db/pieces.ts';
import { candidate, feeClaim, lane, launchedLane, rateCard } from '../db/schema.ts';
import { gone } from '../refusal.ts';
import { launchedIn } from './onSale.ts';
import type { Launched } from './onSale.ts';
import { lockReports } from './settledPlaces.ts';
import { asTable, howManyOf } from './settledSums.ts';
import type { Touched } from './settledSums.ts';
import { storeTask } from './tasks.ts';

/** Kinds of lines that say what an order was sold for, and what was charged for it. */
const KINDS = ['sale', 'delivery', 'discount', 'vat', ...FEE_KINDS];

type DatedCard = { readonly from: string; readonly data: MarketplaceCard };

/** The cards of a place, the earliest first. */
const cardsOf = (tx: Tx, workspaceId: string, place: string): Promise<DatedCard[]> =>
  tx
    .select({ from: rateCard.inForceFrom, data: rateCard.data })
    .from(rateCard)
    .where(
      and(
        eq(rateCard.workspaceId, workspaceId),
        eq(rateCard.kind, 'marketplace'),
        eq(rateCard.key, place),
        isNull(rateCard.withdrawnAt),
      ),
    )
    .orderBy(asc(rateCard.inForceFrom), asc(rateCard.createdAt))
    .then((rows) => rows.map(({ from, data }) => ({ from, data: data as MarketplaceCard })));

/** The lane with the newer cards of its place, each from its day on. */
function docsOf({ document }: Launched, cards: readonly DatedCard[]): (day: string) => LaneDocument {
  const own = document.rates.marketplace;
  if (own === null) return () => document;
  const newer = cards
    .filter((c) => c.from > own.inForceFrom)
    .map(({ from, data }) => ({
      from,
      document: { ...document, rates: { ...document.rates, marketplace: data } },
    }));
  return (day) => newer.findLast((n) => n.from <= day)?.document ?? document;
}

/** The lines of each order of some codes, one order after the other: all of a place in one pass over its lines. */
async function* ordersOf(
  tx: Tx,
  workspaceId: string,
  place: string,
  codes: readonly string[],
  touched: Touched | null,
): AsyncGenerator<OrderLines[]> {
  // All lines of the orders that have one in a month that is touched.
  const [sold, ofThem] =
    touched === null
      ? [sql``, sql``]
      : [
          sql`with sold as materialized (select distinct l.code, l."order" from ${asTable(touched)}
            join bm.settled_line l on l.code = t.code and l.day >= t.first and l.day < t.after
            where l.workspace_id = ${workspaceId} and l.place = ${place})`,
          sql`join sold on sold.code = l.code and sold."order" = l."order"`,
        ];
  const rows = inPieces<OrderLines>(
    tx,
    sql`${sold} select l."order", l.code, kind, min(day)::text as day, sum(amount)::float8 as amount,
      sum(greatest(amount, 0))::float8 as above, sum(tax)::float8 as tax, sum(units)::int as units,
      count(*)::int as lines
    from bm.settled_line l ${ofThem}
    where workspace_id = ${workspaceId} and place = ${place} and counts and l."order" <> ''
      and l.code = any(${sql.param(codes)}::text[]) and kind = any(${sql.param(KINDS)}::text[])
    group by l.code, l."order", kind order by l.code, l."order"`,
    touched === null ? 'many' : await howManyOf(tx, workspaceId, place, touched),
  );
  let open: OrderLines[] = [];
  for await (const row of rows) {
    if (open[0] !== undefined && (open[0].order !== row.order || open[0].code !== row.code)) {
      yield open;
      open = [];
    }
    open.push(row);
  }
  if (open.length > 0) yield open;
}

/** What a place charged above the cards of its lanes, with the lane each claim is of. */
async function claimsOf(
  tx: Tx,
  workspaceId: string,
  place: string,
  touched: Touched | null,
): Promise<(Claim & { laneId: string })[]> {
  const lanes = new Map<string, { laneId: string; docOn: (day: string) => LaneDocument }>();
  const cards = await cardsOf(tx, workspaceId, place);
  for (const l of await launchedIn(tx, workspaceId, { place })) {
    const docOn = docsOf(l, cards);
    for (const code of l.codes) lanes.set(code, { laneId: l.laneId, docOn });
  }
  if (lanes.size === 0) return [];
  const claims = new Claims();
  for await (const lines of ordersOf(tx, workspaceId, place, [...lanes.keys()], touched)) {
    const lane = lanes.get(lines[0]?.code ?? '');
    if (lane !== undefined) claims.add(lines, overchargesOf(lines, lane.docOn));
  }
  const within = touched === null ? null : new Set(touched.map((t) => `${t.code}\n${t.month}`));
  const found = claims.all().filter((c) => within === null || within.has(`${c.code}\n${c.month}`));
  return found.map((c) => ({ ...c, laneId: lanes.get(c.code)?.laneId ?? '' }));
}

/** Claims that are stored in one statement. */
const AT_ONCE = 500;

/** What the reports do not show any more, though it was claimed. */
const NOT_FOUND = { count: 0, of: 0, due: 0, charged: 0, orders: [] };

/**
 * Holds what a place charged against the cards anew, all of it or in the months that are touched. Claims that nobody
 * has done anything about come and go with what was settled; of the others it is noted what is found of them now.
 */
export async function findClaims(
  tx: Tx,
  workspaceId: string,
  place: string,
  touched: Touched | null = null,
): Promise<void> {
  const ofPlace = and(
    eq(feeClaim.workspaceId, workspaceId),
    eq(feeClaim.place, place),
    touched === null
      ? undefined
      : sql`(${feeClaim.code}, ${feeClaim.month}) in
          (select code, to_char(first, 'YYYY-MM') from ${asTable(touched)})`,
  );
  await tx.delete(feeClaim).where(and(ofPlace, eq(feeClaim.state, 'open')));
  await tx.update(feeClaim).set({ found: NOT_FOUND }).where(ofPlace);
  const claims = await claimsOf(tx, workspaceId, place, touched);
  const rows = claims.map(({ laneId, code, kind, month, why, ...found }) => {
    return { workspaceId, place, laneId, code, kind, month, why, found };
  });
  for (let at = 0; at < rows.length; at += AT_ONCE)
    await tx
      .insert(feeClaim)
      .values(rows.slice(at, at + AT_ONCE))
      .onConflictDoUpdate({
        target: [
          feeClaim.workspaceId,
          feeClaim.place,
          feeClaim.code,
          feeClaim.kind,
          feeClaim.month,
          feeClaim.why,
        ],
        set: { found: sql`excluded.found`, laneId: sql`excluded.lane_id` },
      });
}

/** What the list says of the lanes of a place is worked out anew at the next look. */
export const voidBooks = (tx: Tx, workspaceId: string, place: string): Promise<unknown> =>
  tx
    .update(launchedLane)
    .set({ book: null })
    .where(and(eq(launchedLane.workspaceId, workspaceId), eq(launchedLane.place, place)));

/** Who asks for it: the card that was changed, whoever changed it. */
const BY = 'cards';

/** Has what a place charged held against its cards anew, where lanes are on sale there. */
export async function askToHold(tx: Tx, workspaceId: string, place: string): Promise<void> {
  const [onSale] = await tx
    .select({ laneId: launchedLane.laneId })
    .from(launchedLane)
    .where(and(eq(launchedLane.workspaceId, workspaceId), eq(launchedLane.place, place)))
    .limit(1);
  if (onSale !== undefined) await storeTask(tx, workspaceId, 'holdAgainstCards', { place }, 0, BY);
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
