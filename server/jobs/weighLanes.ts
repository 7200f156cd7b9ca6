/**
 * Long work on many lanes: brings them up to the newest versions of their cards, or weighs them again after
 * the settings changed. Worked in chunks, each one transaction that also notes where to go on; a job ends
 * after some seconds and puts the next into the queue, so that a worker that stops loses nothing and others
 * get their turn.
 */
import { and, asc, eq, gt, inArray, sql } from 'drizzle-orm';
import { fallsUnder, impactOf } from '../../core/workspace/impact.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import { CARD_FIELDS, cardsOf, composeLane } from '../../core/workspace/compose.ts';
import type { CandidateData, StoredLane } from '../../core/workspace/records.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { measuresOf, planOf } from '../../core/workspace/summary.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, notice, quote, rateCard, task } from '../db/schema.ts';
import { today } from '../env.ts';
import { candidateColumns, cardData, laneCard, laneData, quoteColumns } from '../use/columns.ts';
import { storeLanes } from '../use/storeLanes.ts';
import type { Evaluated } from '../use/storeLanes.ts';
import { addNotices, taskColumns } from '../use/tasks.ts';
import type { NewNotice } from '../use/tasks.ts';
import { notOpened, settingsIn } from '../use/workspaces.ts';
import type { Asked, Piece } from './kinds.ts';
import type { Service } from './serve.ts';

/** Lanes in one transaction. */
const CHUNK = 1000;
/** Lanes stored by one statement. */
const PART = 200;
/** How long one job works before it gives way. */
const TURN_MS = 8000;

/**
 * What a task on lanes keeps in its data: what was asked (nothing: all lanes are weighed again), and how far
 * it is.
 */
export type LanesTask = Partial<Asked<'bringUpToDate'>> & {
  /** Last lane that is done. */
  after?: string;
  changed?: number;
  noticed?: string[];
};

/** Works on a task until it is done or its turn is over. True where there is more to do. */
export async function workOnLanes({ workspaceId, taskId }: Piece, turnMs = TURN_MS): Promise<boolean> {
  const until = Date.now() + turnMs;
  for (;;) {
    const more = await inWorkspace(workspaceId, (tx) => oneChunk(tx, workspaceId, taskId));
    if (!more) return false;
    if (Date.now() > until) return true;
  }
}

async function oneChunk(tx: Tx, workspaceId: string, taskId: string): Promise<boolean> {
  const [t] = await tx
    .select(taskColumns)
    .from(task)
    .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)))
    .for('update');
  if (t === undefined || (t.state !== 'waiting' && t.state !== 'running')) return false;
  const work = t.data as LanesTask;
  const settings = await settingsIn(tx, workspaceId);
  if (settings === null) return false;

  const bringing = t.kind === 'bringUpToDate';
  const versions = await versionsOf(tx, workspaceId, work);
  const rows = await nextLanes(tx, workspaceId, work, versions);
  const changes = rows.map((r) => (bringing ? versions.newerThan(r.data) : {}));
  const around = await aroundLanes(tx, workspaceId, rows, changes);
  const notices = await hurdleNotices(tx, workspaceId, work, versions.wanted, settings);
  const store = storingOf(tx, workspaceId, bringing ? 'rates' : null, t.createdBy);
  for (const [i, r] of rows.entries()) {
    const of = around.candidates.get(r.candidateId);
    if (of === undefined) continue;
    const change = changes[i] as Partial<StoredLane>;
    const same = Object.keys(change).length === 0;
    const parts = {
      candidate: of.data,
      quotes: around.quotes,
      cards: around.cards,
      homeCurrency: settings.homeCurrency,
      standings: settings.standings,
      today: versions.day,
    };
    const doc = composeLane({ ...parts, lane: same ? r.data : { ...r.data, ...change } });
    if (!same) notices.look(r.id, of, () => composeLane({ ...parts, lane: r.data }), doc);
    if (work.lookOnly || (bringing && same)) continue;
    const result = evaluate(doc);
    const measures = measuresOf(doc, result, planOf(of.data, settings.launch));
    await store.add({ id: r.id, changes: change, result, measures });
  }
  const changed = (work.changed ?? 0) + (await store.end());
  await addNotices(tx, workspaceId, notices.fallen);

  const finished = rows.length < CHUNK;
  if (finished && bringing && !work.lookOnly && changed > 0)
    await addNotices(tx, workspaceId, [upToDateNotice(work, changed)]);
  await tx
    .update(task)
    .set({
      state: finished ? 'done' : 'running',
      done: t.done + rows.length,
      data: { ...work, after: rows.at(-1)?.id ?? work.after, changed, noticed: [...notices.told] },
      updatedAt: new Date(),
    })
    .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)));
  return !finished;
}

/** What a task brings lanes to: the newest version in force of every card, or of the one card it is about. */
type Versions = {
  readonly day: string;
  /** Versions of the one card that a task is about; null: it is about all. */
  readonly only: readonly string[] | null;
  /** The version of that card that lanes are brought to. */
  readonly wanted: string | undefined;
  /** The card fields of a lane that a newer version takes. */
  newerThan(data: StoredLane): Partial<StoredLane>;
};

async function versionsOf(tx: Tx, workspaceId: string, work: LanesTask): Promise<Versions> {
  const heads = await tx
    .select({
      id: rateCard.id,
      kind: rateCard.kind,
      key: rateCard.key,
      inForceFrom: rateCard.inForceFrom,
      withdrawn: sql<boolean>`${rateCard.withdrawnAt} is not null`,
    })
    .from(rateCard)
    .where(and(eq(rateCard.workspaceId, workspaceId), notOpened))
    .orderBy(asc(rateCard.inForceFrom), asc(rateCard.createdAt));
  const day = today();
  const newest = new Map<string, string>();
  for (const h of heads) if (!h.withdrawn && h.inForceFrom <= day) newest.set(`${h.kind}/${h.key}`, h.id);
  const cardOf = new Map(heads.map((h) => [h.id, `${h.kind}/${h.key}`]));
  const about = work.kind === undefined ? null : `${work.kind}/${work.key}`;
  const versionFor = (key: string): string | undefined =>
    about === null ? newest.get(key) : key === about ? (work.version ?? newest.get(key)) : undefined;
  return {
    day,
    only: about === null ? null : heads.filter((h) => cardOf.get(h.id) === about).map((h) => h.id),
    wanted: work.version ?? (about === null ? undefined : newest.get(about)),
    newerThan(data) {
      const changes: Partial<StoredLane> = {};
      for (const [kind, field] of Object.entries(CARD_FIELDS)) {
        if (work.kind !== undefined && kind !== work.kind) continue;
        const id = data[field];
        const key = id == null ? undefined : cardOf.get(id);
        const to = key === undefined ? undefined : versionFor(key);
        if (to !== undefined && to !== id) changes[field] = to;
      }
      return changes;
    },
  };
}

/** The next lanes, found by key order, so that a stop is taken up where it was. */
async function nextLanes(tx: Tx, workspaceId: string, work: LanesTask, { only }: Versions) {
  return tx
    .select({ id: lane.id, candidateId: lane.candidateId, data: laneData })
    .from(lane)
    .where(
      and(
        eq(lane.workspaceId, workspaceId),
        gt(lane.id, work.after ?? ''),
        only === null ? undefined : inArray(laneCard(work.kind as keyof typeof CARD_FIELDS), [...only]),
      ),
    )
    .orderBy(asc(lane.id))
    .limit(CHUNK)
    .for('update');
}

/** Candidates, quotes and cards that lanes are put together from, before and after their changes. */
async function aroundLanes(
  tx: Tx,
  workspaceId: string,
  rows: readonly { candidateId: string; data: StoredLane }[],
  changes: readonly Partial<StoredLane>[],
) {
  const ids = [...new Set(rows.map((r) => r.candidateId))];
  const candidates =
    ids.length === 0
      ? []
      : await tx
          .select({ ...candidateColumns, deletedAt: candidate.deletedAt })
          .from(candidate)
          .where(and(eq(candidate.workspaceId, workspaceId), inArray(candidate.id, ids)));
  const quotes =
    ids.length === 0
      ? []
      : await tx
          .select(quoteColumns)
          .from(quote)
          .where(and(eq(quote.workspaceId, workspaceId), inArray(quote.candidateId, ids)));
  const lanes = rows.flatMap((r, i) => [r.data, { ...r.data, ...changes[i] }]);
  return {
    candidates: new Map(candidates.map((c) => [c.id, c])),
    quotes: Object.fromEntries(quotes.map((q) => [q.id, q.data])),
    cards: await cardData(tx, workspaceId, cardsOf(lanes)),
  };
}

/** Stores results part by part: the database stores one while the next is evaluated, one statement at a time. */
function storingOf(tx: Tx, workspaceId: string, cause: 'rates' | null, by: string | null) {
  let storing: Promise<void> = Promise.resolve();
  let part: Evaluated[] = [];
  let stored = 0;
  const flush = async (): Promise<void> => {
    await storing;
    storing = storeLanes(tx, workspaceId, part, cause, by);
    // What goes wrong is said when it is awaited.
    storing.catch(() => undefined);
    stored += part.length;
    part = [];
    await new Promise((done) => setImmediate(done));
  };
  return {
    async add(e: Evaluated): Promise<void> {
      part.push(e);
      if (part.length >= PART) await flush();
    },
    /** How many were stored in all. */
    async end(): Promise<number> {
      await flush();
      await storing;
      return stored;
    },
  };
}

type CandidateRow = {
  id: string;
  data: CandidateData;
  deletedAt: Date | null;
  archivedAt: Date | null;
  droppedAt: Date | null;
};

/** Notices of candidates that fall under a hurdle, one for each candidate and version. */
async function hurdleNotices(
  tx: Tx,
  workspaceId: string,
  work: LanesTask,
  version: string | undefined,
  settings: Settings,
) {
  const told = new Set(work.noticed ?? []);
  // Looking at a version when it came gave notice already; bringing lanes up to it says nothing twice.
  if (version !== undefined)
    for (const n of await tx
      .select({ link: notice.link })
      .from(notice)
      .where(
        and(
          eq(notice.workspaceId, workspaceId),
          eq(notice.kind, 'underHurdle'),
          sql`${notice.data} ->> 'version' = ${version}`,
        ),
      ))
      told.add(n.link.split('/')[2]?.split('?')[0] ?? '');
  const fallen: NewNotice[] = [];
  const look = (laneId: string, c: CandidateRow, was: () => LaneDocument, now: LaneDocument): void => {
    const shown = c.deletedAt === null && c.archivedAt === null && c.droppedAt === null;
    if (!shown || told.has(c.id)) return;
    const before = was();
    const [figure] = fallsUnder(before, now, settings.hurdles[c.data.way] ?? []);
    if (figure === undefined) return;
    const impact = impactOf(before, now, []);
    told.add(c.id);
    fallen.push({
      kind: 'underHurdle',
      data: {
        candidate: c.data.name,
        figure,
        card: work.key ?? '',
        version: version ?? '',
        before: impact.before ?? '',
        after: impact.after ?? '',
        currency: settings.homeCurrency,
      },
      link: `/weigh/${c.id}?lane=${laneId}`,
    });
  };
  return { told, fallen, look };
}

const upToDateNotice = (work: LanesTask, changed: number): NewNotice => ({
  kind: 'upToDate',
  data: { count: changed, card: work.key ?? '' },
  link:
    work.kind === undefined ? '/weigh' : `/rates?kind=${work.kind}&key=${encodeURIComponent(work.key ?? '')}`,
});

/** Work on lanes. */
export const lanesWork: Service = { queue: 'lanes', work: (piece) => workOnLanes(piece) };
