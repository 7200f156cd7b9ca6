/** What was decided about listings found on a market: shortlisted, dropped with a reason, kept as a candidate. */
import { and, count, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import { feedRow } from '../../between/feed.ts';
import type { FeedRow } from '../../between/feed.ts';
import { watch } from '../../core/evidence/observed.ts';
import { newCandidate } from '../../core/workspace/newCandidate.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, listingMark, watched } from '../db/schema.ts';
import type { ListingState } from '../db/schema.ts';
import { gone, refused } from '../refusal.ts';
import { createCandidatesIn } from './candidates.ts';

/** Decisions that a workspace may keep. */
const MOST = 20_000;
/** Those that are shown of one market, the latest first. */
const SHOWN = 500;

export type ListingMark = {
  readonly state: ListingState;
  readonly reason: string;
  readonly row: FeedRow;
  readonly currency: string;
  readonly asOf: string;
  readonly candidateId: string | null;
};

const seen = {
  market: z.string().min(1).max(300),
  currency: z.string().regex(/^[A-Z]{3}$/, 'currencyCode'),
  asOf: z.iso.date(),
};
export const listingMarks = z.strictObject({
  ...seen,
  rows: z.array(feedRow).min(1).max(200),
  /** Null: no decision any more. */
  state: z.enum(['shortlisted', 'dropped']).nullable(),
  reason: z.string().trim().max(500).default(''),
});
export const listingKept = z.strictObject({
  ...seen,
  row: feedRow,
  candidate: newCandidate,
  /** Words by which it was found; they find its rivals and terms. */
  search: z.string().max(200),
});

const ofMarket = (workspaceId: string, market: string) =>
  and(eq(listingMark.workspaceId, workspaceId), eq(listingMark.market, market));

/** What was decided about the listings of a market, the latest first. */
export const marksOfMarket = (workspaceId: string, market: string): Promise<ListingMark[]> =>
  inWorkspace(workspaceId, (tx) =>
    tx
      .select({
        state: listingMark.state,
        reason: listingMark.reason,
        row: listingMark.row,
        currency: listingMark.currency,
        asOf: listingMark.asOf,
        candidateId: listingMark.candidateId,
      })
      .from(listingMark)
      .where(ofMarket(workspaceId, market))
      .orderBy(desc(listingMark.at))
      .limit(SHOWN),
  );

/**
 * Notes a decision about listings, or takes it back.
 * @throws Refusal `invalid` where the workspace has all it may have
 */
export async function markListings(
  workspaceId: string,
  { market, currency, asOf, rows, state, reason }: z.output<typeof listingMarks>,
  by: string,
): Promise<void> {
  // A listing may stand in a free and in a paid place: it is decided about once.
  const own = [...new Map(rows.map((row) => [row.listing, row])).values()];
  await inWorkspace(workspaceId, async (tx) => {
    if (state !== null) {
      await put(tx, workspaceId, { market, currency, asOf, state, reason, candidateId: null, by }, own);
      return;
    }
    const listings = own.map((row) => row.listing);
    await tx
      .delete(listingMark)
      .where(and(ofMarket(workspaceId, market), inArray(listingMark.listing, listings)));
  });
}

type Said = Omit<typeof listingMark.$inferInsert, 'workspaceId' | 'listing' | 'row' | 'at'>;
async function put(tx: Tx, workspaceId: string, said: Said, rows: readonly FeedRow[]): Promise<void> {
  const mine = eq(listingMark.workspaceId, workspaceId);
  const [had] = await tx.select({ n: count() }).from(listingMark).where(mine);
  if ((had?.n ?? 0) + rows.length > MOST) throw refused('listingMarksFull', { most: MOST });
  const at = new Date();
  await tx
    .insert(listingMark)
    .values(rows.map((row) => ({ workspaceId, listing: row.listing, row, at, ...said })))
    .onConflictDoUpdate({
      target: [listingMark.workspaceId, listingMark.market, listingMark.listing],
      set: { ...said, row: sql`excluded.row`, at },
    });
}

/**
 * Keeps a listing as a candidate that follows it: all of it or nothing, and once, however many press at the same time.
 * Its evidence comes with the next asking.
 * @returns id of the candidate
 */
export async function keepListing(
  workspaceId: string,
  { market, currency, asOf, row, candidate: fresh, search }: z.output<typeof listingKept>,
  by: string,
): Promise<string> {
  const { listing } = row;
  return inWorkspace(workspaceId, async (tx) => {
    const lock = `${workspaceId}/${market}/${listing}`;
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${lock}, 0))`);
    const [before] = await tx
      .select({ id: candidate.id })
      .from(listingMark)
      .innerJoin(
        candidate,
        and(eq(candidate.workspaceId, listingMark.workspaceId), eq(candidate.id, listingMark.candidateId)),
      )
      .where(and(ofMarket(workspaceId, market), eq(listingMark.listing, listing)));
    if (before !== undefined) return before.id;
    const [id] = await createCandidatesIn(tx, workspaceId, [fresh], by);
    if (id === undefined) throw gone();
    const data = watch.parse({ listing, search });
    await tx.insert(watched).values({ workspaceId, candidateId: id, market, data, updatedBy: by });
    const said = { market, currency, asOf, state: 'kept' as const, reason: '', candidateId: id, by };
    await put(tx, workspaceId, said, [row]);
    return id;
  });
}
