/**
 * Brings watched markets up to date from the feed: a chunk of them is asked for at a time, outside any transaction,
 * and kept in one that also notes where to go on. What a feed answers wrongly is told, and nothing known is lost.
 */
import { and, asc, count, eq, isNull, sql } from 'drizzle-orm';
import { priceFor } from '../../core/lane/solve.ts';
import { grossOf, itemPrice } from '../../core/rules/revenue.ts';
import type { Fault } from '../../core/fault.ts';
import { fault } from '../../core/fault.ts';
import type { KeptMarket } from '../../core/evidence/observed.ts';
import { daySeries, unpackDays } from '../../core/evidence/series.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, task, watched } from '../db/schema.ts';
import { documentsOf, loadSheet } from '../use/candidates.ts';
import type { Sheet } from '../use/candidates.ts';
import { keepObservations } from '../use/evidence.ts';
import type { NewObservation } from '../use/evidence.ts';
import { keptPlaces } from '../use/keptMarkets.ts';
import type { Place } from '../use/keptMarkets.ts';
import { feedIn } from '../use/feeds.ts';
import { addNotices, taskColumns } from '../use/tasks.ts';
import type { NewNotice } from '../use/tasks.ts';
import { changesOf, updateOf } from '../use/watching.ts';
import { settingsIn } from '../use/workspaces.ts';
import type { Asked, Piece } from './kinds.ts';
import type { Service } from './serve.ts';

/** Markets asked for together, and kept together. */
const CHUNK = 16;
/** How long one job works before it gives way. */
const TURN_MS = 6000;

export type WatchTask = Partial<Asked<'watchMarkets'>> & {
  /** Last market that is done: candidate and market. */
  after?: { candidateId: string; market: string };
  seen?: number;
  faults?: Fault[];
};
type Watching = { readonly candidateId: string; readonly name: string; readonly kept: KeptMarket };

/** Works on a task until it is done or its turn is over. True where there is more to do. */
export async function watchMarkets({ workspaceId, taskId }: Piece, turnMs = TURN_MS): Promise<boolean> {
  const until = Date.now() + turnMs;
  for (;;) {
    if (!(await oneChunk(workspaceId, taskId))) return false;
    if (Date.now() > until) return true;
  }
}

const openTask = (tx: Tx, workspaceId: string, taskId: string) =>
  tx
    .select(taskColumns)
    .from(task)
    .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)))
    .for('update')
    .then(([t]) => (t !== undefined && (t.state === 'waiting' || t.state === 'running') ? t : null));

async function oneChunk(workspaceId: string, taskId: string): Promise<boolean> {
  const read = await inWorkspace(workspaceId, async (tx) => {
    const t = await openTask(tx, workspaceId, taskId);
    const settings = await settingsIn(tx, workspaceId);
    if (t === null || settings === null) return null;
    const work = t.data as WatchTask;
    return {
      work,
      settings,
      feed: await feedIn(tx, workspaceId),
      next: await nextMarkets(tx, workspaceId, work),
    };
  });
  if (read === null) return false;
  const { work, settings, feed, next } = read;
  const all = work.candidateId !== undefined;
  const updates =
    feed === null
      ? []
      : await Promise.all(
          next.map(async (w) => ({ w, ...(await updateOf(feed, w.kept, settings.evidence, all)) })),
        );
  const notices = await noticesOf(workspaceId, updates);
  const faults = [
    ...(work.faults ?? []),
    ...(feed === null ? [fault('feedNone')] : updates.flatMap((u) => u.faults)),
  ];
  const finished = next.length < CHUNK || feed === null;
  const last = next.at(-1);
  return inWorkspace(workspaceId, async (tx) => {
    const t = await openTask(tx, workspaceId, taskId);
    // Cancelled meanwhile: what was asked for is dropped, what is kept stays.
    if (t === null) return false;
    const seenOf = updates.map((u) => ({ place: placeOf(u.w), seen: u.seen }));
    await keepObservations(tx, workspaceId, seenOf, t.createdBy);
    await askedNow(
      tx,
      workspaceId,
      seenOf.map((o) => o.place),
    );
    await addNotices(tx, workspaceId, notices);
    const seen = (work.seen ?? 0) + updates.reduce((n, u) => n + u.seen.length, 0);
    const told = unlike(faults).slice(0, 20);
    const nothing = finished && seen === 0 && told.length > 0;
    const data: WatchTask = { ...work, seen, faults: told };
    if (last !== undefined) data.after = { candidateId: last.candidateId, market: last.kept.market };
    await tx
      .update(task)
      .set({
        state: nothing ? 'failed' : finished ? 'done' : 'running',
        error: nothing ? (told[0] ?? null) : null,
        done: t.done + next.length,
        data,
        updatedAt: new Date(),
      })
      .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)));
    return !finished;
  });
}

/** Notes that these markets were asked about. */
async function askedNow(tx: Tx, workspaceId: string, places: readonly Place[]): Promise<void> {
  if (places.length === 0) return;
  const keys = places.map(({ candidateId, market }) => sql`(${candidateId}, ${market})`);
  await tx
    .update(watched)
    .set({ askedAt: sql`now()` })
    .where(
      and(
        eq(watched.workspaceId, workspaceId),
        sql`(${watched.candidateId}, ${watched.market}) in (${sql.join(keys, sql`, `)})`,
      ),
    );
}

/** Each fault once. */
const unlike = (faults: readonly Fault[]): Fault[] => [
  ...new Map(faults.map((f) => [JSON.stringify(f), f])).values(),
];

/** The next markets by key, with what is kept of them. */
async function nextMarkets(tx: Tx, workspaceId: string, work: WatchTask): Promise<Watching[]> {
  const rows = await tx
    .select({ candidateId: watched.candidateId, market: watched.market, data: candidate.data })
    .from(watched)
    .innerJoin(
      candidate,
      and(eq(candidate.workspaceId, watched.workspaceId), eq(candidate.id, watched.candidateId)),
    )
    .where(
      and(
        eq(watched.workspaceId, workspaceId),
        isNull(candidate.deletedAt),
        isNull(candidate.archivedAt),
        work.candidateId === undefined ? undefined : eq(watched.candidateId, work.candidateId),
        work.market === undefined ? undefined : eq(watched.market, work.market),
        work.after === undefined
          ? undefined
          : sql`(${watched.candidateId}, ${watched.market}) > (${work.after.candidateId}, ${work.after.market})`,
      ),
    )
    .orderBy(asc(watched.candidateId), asc(watched.market))
    .limit(CHUNK);
  const kept = await keptPlaces(tx, workspaceId, rows);
  return rows.flatMap((r) => {
    const own = kept.find((k) => k.candidateId === r.candidateId && k.market === r.market);
    return own === undefined ? [] : [{ candidateId: r.candidateId, name: r.data.name, kept: own.kept }];
  });
}
const placeOf = (w: Watching): Place => ({ candidateId: w.candidateId, market: w.kept.market });

/** How many markets a task will look at. */
export async function countWatched(
  tx: Tx,
  workspaceId: string,
  asked: Asked<'watchMarkets'>,
): Promise<number> {
  const [n] = await tx
    .select({ n: count() })
    .from(watched)
    .where(
      and(
        eq(watched.workspaceId, workspaceId),
        asked.candidateId === undefined ? undefined : eq(watched.candidateId, asked.candidateId),
        asked.market === undefined ? undefined : eq(watched.market, asked.market),
      ),
    );
  return n?.n ?? 0;
}

type Updated = { readonly w: Watching; readonly seen: readonly NewObservation[] };
/** A candidate's sheet, read once for all its markets. */
type SheetOf = (candidateId: string) => Promise<Sheet | null>;
/** What people should know: what changed in a market, and a price that fell under a lane's break-even. */
async function noticesOf(workspaceId: string, updates: readonly Updated[]): Promise<NewNotice[]> {
  const notices: NewNotice[] = [];
  const sheets = new Map<string, Promise<Sheet | null>>();
  const sheetOf: SheetOf = (id) => {
    const known = sheets.get(id) ?? loadSheet(workspaceId, id);
    sheets.set(id, known);
    return known;
  };
  for (const { w, seen } of updates) {
    const about = { candidate: w.name, market: w.kept.market };
    const link = `/weigh/${w.candidateId}/market`;
    for (const c of changesOf(w.kept, seen))
      notices.push({ kind: c.what, data: { ...about, ...c.detail }, link });
    const under = await fellUnder(sheetOf, w, seen);
    if (under !== null)
      notices.push({
        kind: 'underBreakEven',
        data: { ...about, ...under.data },
        link: `${link}?lane=${under.lane}`,
      });
  }
  return notices;
}

/** The last priced day of stretches, the newest first. */
function lastPrice(values: readonly unknown[]): { price: number; currency: string } | null {
  for (const value of values) {
    const read = daySeries.safeParse(value);
    const day = read.success ? unpackDays(read.data).findLast((d) => d.price !== null) : undefined;
    if (read.success && day?.price != null) return { price: day.price, currency: read.data.currency };
  }
  return null;
}

/** A lane of this market whose break-even price the market's price has fallen under since it was seen last. */
async function fellUnder(sheetOf: SheetOf, w: Watching, seen: readonly NewObservation[]) {
  const now = lastPrice(seen.flatMap((o) => (o.kind === 'history' ? [o.value] : [])));
  const before = lastPrice(w.kept.observations.flatMap((o) => (o.kind === 'history' ? [o.value] : [])));
  // Only what fell can have fallen under; most prices stand.
  if (now === null || before === null || now.price >= before.price) return null;
  const sheet = await sheetOf(w.candidateId);
  if (sheet === null) return null;
  const docs = documentsOf(sheet, sheet.candidate.data, sheet.quotes);
  for (const [i, doc] of docs.entries()) {
    const lane = sheet.lanes[i];
    if (lane === undefined || lane.scenarioOf !== null || doc.currency !== now.currency) continue;
    if (`${doc.marketplace}/${doc.country}` !== w.kept.market) continue;
    const { price } = priceFor(doc);
    const even = price === null ? null : grossOf(itemPrice(price, doc.averageDiscount), doc.shippingCharged);
    if (even !== null && before.price >= even && now.price < even)
      return { lane: lane.id, data: { price: now.price, breakEven: even, currency: now.currency } };
  }
  return null;
}

/** Work on markets. */
export const marketsWork: Service = { queue: 'markets', work: (piece) => watchMarkets(piece) };
