/** What was observed of the markets of a candidate, what was decided about them, and how both are kept. */
import { and, count, desc, eq, inArray, sql } from 'drizzle-orm';
import { z } from 'zod';
import {
  gistOf,
  mergedObservation,
  NO_WATCH,
  OBSERVED,
  OBSERVED_KINDS,
  watch,
} from '../../core/evidence/observed.ts';
import type {
  EarlierObservation,
  ObservationHead,
  ObservedKind,
  ObservedValue,
  Watch,
} from '../../core/evidence/observed.ts';
import type { EvidenceMap, FileKind } from '../../core/evidence/fileMap.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { evidenceMap, observation, watched } from '../db/schema.ts';
import { gone, refused } from '../refusal.ts';
import { candidateIn } from './columns.ts';
import type { Place } from './keptMarkets.ts';
import { newId } from './workspaces.ts';

/** The kinds that are observed of a listing, where its code is known; the others belong to the candidate. */
const OF_LISTING: ReadonlySet<ObservedKind> = new Set([
  'history',
  'offers',
  'units',
  'permission',
  'complaints',
]);
export const subjectOf = (candidateId: string, kind: ObservedKind, listing: string): string =>
  listing !== '' && OF_LISTING.has(kind) ? `listing/${listing}` : `candidate/${candidateId}`;

/** What one decides about a market: only what is named changes, entry by entry. */
export const decision = z.strictObject({
  market: z.string().min(1).max(300),
  change: watch
    .partial()
    .extend({
      terms: watch.shape.terms.removeDefault().optional(),
      struck: z.record(z.string().max(420), z.boolean().nullable()).optional(),
      variations: watch.shape.variations.removeDefault().optional(),
      improvements: watch.shape.improvements.removeDefault().optional(),
    })
    .partial(),
});
export type Decision = z.output<typeof decision>;

async function watchIn(tx: Tx, workspaceId: string, candidateId: string, market: string): Promise<Watch> {
  const [kept] = await tx
    .select({ data: watched.data })
    .from(watched)
    .where(
      and(
        eq(watched.workspaceId, workspaceId),
        eq(watched.candidateId, candidateId),
        eq(watched.market, market),
      ),
    );
  return watch.safeParse(kept?.data).data ?? NO_WATCH;
}

/**
 * Keeps a decision about a market. Those about different terms or rivals do not touch each other.
 * @throws Refusal `gone` where the candidate is not of this workspace
 */
export async function decide(
  workspaceId: string,
  candidateId: string,
  raw: Record<string, unknown>,
  by: string,
): Promise<void> {
  const { market, change } = decision.parse(raw);
  const named = Object.fromEntries(Object.keys((raw.change ?? {}) as object).map((k) => [k, true]));
  await inWorkspace(workspaceId, async (tx) => {
    // The lock puts all who decide about this candidate in one order.
    if ((await candidateIn(tx, workspaceId, candidateId, 'lock')) === undefined) throw gone();
    const before = await watchIn(tx, workspaceId, candidateId, market);
    const own = Object.fromEntries(Object.entries(change).filter(([k]) => named[k])) as Decision['change'];
    const struck = { ...before.struck, ...own.struck };
    const data = watch.parse({
      ...before,
      ...own,
      terms: { ...before.terms, ...own.terms },
      struck: Object.fromEntries(Object.entries(struck).filter(([, v]) => v !== null)),
      variations: { ...before.variations, ...own.variations },
      improvements: { ...before.improvements, ...own.improvements },
    });
    await tx
      .insert(watched)
      .values({ workspaceId, candidateId, market, data, updatedBy: by })
      .onConflictDoUpdate({
        target: [watched.workspaceId, watched.candidateId, watched.market],
        set: { data, updatedBy: by, updatedAt: sql`now()`, edition: sql`${watched.edition} + 1` },
      });
  });
}

async function newestIn<K extends ObservedKind>(
  tx: Tx,
  workspaceId: string,
  subject: string,
  market: string,
  kind: K,
): Promise<ObservedValue<K> | null> {
  const [row] = await tx
    .select({ value: observation.value })
    .from(observation)
    .where(
      and(
        eq(observation.workspaceId, workspaceId),
        eq(observation.subject, subject),
        eq(observation.market, market),
        eq(observation.kind, kind),
        sql`${observation.takenBackAt} is null`,
      ),
    )
    .orderBy(desc(observation.asOf), desc(observation.createdAt))
    .limit(1);
  const read = row === undefined ? null : OBSERVED[kind].safeParse(row.value);
  return read?.success ? (read.data as ObservedValue<K>) : null;
}

export type NewObservation = ObservationHead & { readonly kind: ObservedKind; readonly value: unknown };

/**
 * Keeps observations of a candidate's market, all or none; what they add to (terms, bids) is brought together with
 * what was known.
 * @throws Refusal `gone` where the candidate is not of this workspace, `invalid` where it has all it may have
 */
export async function observe(
  workspaceId: string,
  place: Place,
  seen: readonly NewObservation[],
  by: string | null,
): Promise<void> {
  await inWorkspace(workspaceId, async (tx) => {
    if ((await candidateIn(tx, workspaceId, place.candidateId, 'lock')) === undefined) throw gone();
    await needRoom(tx, workspaceId, place, seen);
    await keepObservations(tx, workspaceId, [{ place, seen }], by);
  });
}

/** Observations of one kind that a candidate's market may have by hand and file: many years of every day. */
const MOST_OF_KIND = 3000;
async function needRoom(
  tx: Tx,
  workspaceId: string,
  { candidateId, market }: Place,
  seen: readonly NewObservation[],
): Promise<void> {
  const { listing } = await watchIn(tx, workspaceId, candidateId, market);
  const rows = await tx
    .select({ n: count() })
    .from(observation)
    .where(
      and(
        eq(observation.workspaceId, workspaceId),
        inArray(
          observation.subject,
          seen.map((o) => subjectOf(candidateId, o.kind, listing)),
        ),
        eq(observation.market, market),
        inArray(
          observation.kind,
          seen.map((o) => o.kind),
        ),
      ),
    )
    .groupBy(observation.kind);
  if (rows.some((r) => r.n >= MOST_OF_KIND)) throw refused('evidenceFull', { most: MOST_OF_KIND });
}

/** Notes that something new was seen of markets, which are followed from then on; gives the listing each follows. */
async function seenNow(tx: Tx, workspaceId: string, places: readonly Place[]): Promise<Map<string, string>> {
  const seenAt = sql`clock_timestamp()`;
  const rows = await tx
    .insert(watched)
    .values(places.map((p) => ({ workspaceId, ...p, data: NO_WATCH, seenAt })))
    .onConflictDoUpdate({
      target: [watched.workspaceId, watched.candidateId, watched.market],
      set: { seenAt },
    })
    .returning({ candidateId: watched.candidateId, market: watched.market, data: watched.data });
  return new Map(rows.map((r) => [placeKey(r), watch.safeParse(r.data).data?.listing ?? '']));
}
const placeKey = ({ candidateId, market }: Place): string => `${candidateId} ${market}`;

/** What was seen of a place. */
export type SeenOf = { readonly place: Place; readonly seen: readonly NewObservation[] };

/** The same within a transaction, of one place or of several, each of them once. */
export async function keepObservations(
  tx: Tx,
  workspaceId: string,
  all: readonly SeenOf[],
  by: string | null,
): Promise<void> {
  const some = all.filter((o) => o.seen.length > 0);
  if (some.length === 0) return;
  const listings = await seenNow(
    tx,
    workspaceId,
    some.map(({ place: { candidateId, market } }) => ({ candidateId, market })),
  );
  const rows: (typeof observation.$inferInsert)[] = [];
  for (const { place, seen } of some) {
    const own = await rowsOf(tx, workspaceId, place, seen, listings.get(placeKey(place)) ?? '');
    rows.push(...own.map((r) => ({ ...r, createdBy: by })));
  }
  // Of several in one transaction the later stands.
  const timed = rows.map((r, i) => ({
    ...r,
    createdAt: sql`clock_timestamp() + ${i} * interval '1 microsecond'`,
  }));
  await tx.insert(observation).values(timed);
}

/** Keeps what was seen of a listing, whoever follows it: kinds that are observed of listings alone. */
export async function keepOfListing(
  tx: Tx,
  workspaceId: string,
  { market, listing }: { readonly market: string; readonly listing: string },
  seen: readonly NewObservation[],
  by: string | null,
): Promise<void> {
  const own = seen.filter((o) => OF_LISTING.has(o.kind));
  if (own.length === 0) return;
  const rows = await rowsOf(tx, workspaceId, { candidateId: '', market }, own, listing);
  await tx.insert(observation).values(rows.map((r) => ({ ...r, createdBy: by })));
}

/** Observations of a place as rows; terms and bids add to what is known of them. */
async function rowsOf(
  tx: Tx,
  workspaceId: string,
  { candidateId, market }: Place,
  seen: readonly NewObservation[],
  listing: string,
): Promise<(typeof observation.$inferInsert)[]> {
  const rows: (typeof observation.$inferInsert)[] = [];
  for (const { kind, asOf, source, stated, value: raw } of seen) {
    const subject = subjectOf(candidateId, kind, listing);
    const next = OBSERVED[kind].parse(raw) as ObservedValue<ObservedKind>;
    const adds = kind === 'terms' || kind === 'bids';
    // What they add to may be one of these themselves.
    const own = adds ? (rows.findLast((r) => r.kind === kind)?.value as typeof next | undefined) : undefined;
    const before = adds ? (own ?? (await newestIn(tx, workspaceId, subject, market, kind))) : null;
    const value = mergedObservation(kind, before, next);
    rows.push({ workspaceId, id: newId(), subject, market, kind, asOf, source, stated, value });
  }
  return rows;
}

/** Takes an observation back, or brings it back; it stays among what was known. */
export async function takeBack(workspaceId: string, id: string, back: boolean): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .update(observation)
      .set({ takenBackAt: back ? new Date() : null })
      .where(and(eq(observation.workspaceId, workspaceId), eq(observation.id, id))),
  );
}

const MOST_EARLIER = 50;

/** What was known of a kind before, the newest first. */
export async function earlierObservations(
  workspaceId: string,
  candidateId: string,
  market: string,
  kind: string,
): Promise<EarlierObservation[]> {
  const named = OBSERVED_KINDS.find((k) => k === kind);
  if (named === undefined) throw gone();
  return inWorkspace(workspaceId, async (tx) => {
    const { listing } = await watchIn(tx, workspaceId, candidateId, market);
    const rows = await tx
      .select()
      .from(observation)
      .where(
        and(
          eq(observation.workspaceId, workspaceId),
          // What was known of the candidate before its listing was, too.
          inArray(observation.subject, [`candidate/${candidateId}`, subjectOf(candidateId, named, listing)]),
          eq(observation.market, market),
          eq(observation.kind, named),
        ),
      )
      .orderBy(desc(observation.asOf), desc(observation.createdAt))
      .limit(MOST_EARLIER);
    return rows.map((r) => ({
      id: r.id,
      asOf: r.asOf,
      source: r.source,
      stated: r.stated,
      takenBack: r.takenBackAt !== null,
      at: r.createdAt.toISOString(),
      by: r.createdBy,
      gist: gistOf(named, r.value),
    }));
  });
}

/** How files of evidence were read last, by kind. */
export async function loadEvidenceMaps(workspaceId: string): Promise<Partial<Record<FileKind, EvidenceMap>>> {
  const rows = await inWorkspace(workspaceId, (tx) =>
    tx.select().from(evidenceMap).where(eq(evidenceMap.workspaceId, workspaceId)),
  );
  return Object.fromEntries(rows.map((r) => [r.kind, r.data]));
}
export async function keepEvidenceMap(workspaceId: string, kind: FileKind, data: EvidenceMap): Promise<void> {
  await inWorkspace(workspaceId, (tx) =>
    tx
      .insert(evidenceMap)
      .values({ workspaceId, kind, data })
      .onConflictDoUpdate({
        target: [evidenceMap.workspaceId, evidenceMap.kind],
        set: { data, updatedAt: sql`now()` },
      }),
  );
}
