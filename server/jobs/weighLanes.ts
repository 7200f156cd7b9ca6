/**
 * Long work on many lanes: brings them up to the newest versions of their cards, or weighs them again after
 * the settings changed. Worked in chunks, each one transaction that also notes where to go on; a job ends
 * after some seconds and puts the next into the queue, so that a worker that stops loses nothing and others
 * get their turn.
 */
import { and, asc, eq, gt, inArray, sql } from 'drizzle-orm';
import { fallsUnder, impactOf } from '../../core/workspace/impact.ts';
import { evaluate } from '../../core/lane/evaluate.ts';
import { CARD_FIELDS, cardsOf, composeLane } from '../../core/workspace/records.ts';
import type { StoredLane } from '../../core/workspace/records.ts';
import { measuresOf, planOf } from '../../core/workspace/summary.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { candidate, lane, notice, quote, rateCard, task } from '../db/schema.ts';
import { today } from '../env.ts';
import { candidateColumns, cardData, laneCard, laneData, quoteColumns } from '../use/columns.ts';
import { storeLanes } from '../use/storeLanes.ts';
import type { Evaluated } from '../use/storeLanes.ts';
import { addNotices, taskColumns } from '../use/tasks.ts';
import { notOpened, settingsIn } from '../use/workspaces.ts';
import type { Asked, Piece } from './kinds.ts';
import type { Service } from './serve.ts';

/** Lanes in one transaction. */
const CHUNK = 1000;
/** Lanes stored by one statement. */
const PART = 200;
/** How long one job works before it gives way. */
const TURN_MS = 8000;

/** What a task on lanes keeps in its data: what was asked (nothing: all lanes are weighed again), and how far it is. */
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

  // The newest version in force of every card, and of which card each version is.
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
  const newest = new Map<string, string>();
  const day = today();
  for (const h of heads) if (!h.withdrawn && h.inForceFrom <= day) newest.set(`${h.kind}/${h.key}`, h.id);
  const cardOf = new Map(heads.map((h) => [h.id, `${h.kind}/${h.key}`]));
  const only = work.kind === undefined ? null : `${work.kind}/${work.key}`;

  // Rows are found by key order, so that a stop is taken up where it was.
  const narrowed = only === null ? [] : heads.filter((h) => `${h.kind}/${h.key}` === only).map((h) => h.id);
  const rows = await tx
    .select({ id: lane.id, candidateId: lane.candidateId, data: laneData })
    .from(lane)
    .where(
      and(
        eq(lane.workspaceId, workspaceId),
        gt(lane.id, work.after ?? ''),
        only === null ? undefined : inArray(laneCard(work.kind as keyof typeof CARD_FIELDS), narrowed),
      ),
    )
    .orderBy(asc(lane.id))
    .limit(CHUNK)
    .for('update');

  const candidateIds = [...new Set(rows.map((r) => r.candidateId))];
  const candidates = new Map(
    (candidateIds.length === 0
      ? []
      : await tx
          .select({ ...candidateColumns, deletedAt: candidate.deletedAt })
          .from(candidate)
          .where(and(eq(candidate.workspaceId, workspaceId), inArray(candidate.id, candidateIds)))
    ).map((c) => [c.id, c]),
  );
  const quotes = Object.fromEntries(
    (candidateIds.length === 0
      ? []
      : await tx
          .select(quoteColumns)
          .from(quote)
          .where(and(eq(quote.workspaceId, workspaceId), inArray(quote.candidateId, candidateIds)))
    ).map((q) => [q.id, q.data]),
  );

  /** The newer versions of the cards a lane is on (of the one card, where the task is about one). */
  const newer = (data: StoredLane): Partial<StoredLane> => {
    const changes: Partial<StoredLane> = {};
    for (const [kind, field] of Object.entries(CARD_FIELDS)) {
      if (work.kind !== undefined && kind !== work.kind) continue;
      const id = data[field];
      const key = id === null || id === undefined ? undefined : cardOf.get(id);
      const to =
        key === undefined ? undefined : key === only ? (work.version ?? newest.get(key)) : newest.get(key);
      if (to !== undefined && to !== id && (only === null || key === only)) changes[field] = to;
    }
    return changes;
  };
  const bringing = t.kind === 'bringUpToDate';
  const after = rows.map((r) => {
    const changes = bringing ? newer(r.data) : {};
    const same = Object.keys(changes).length === 0;
    return { ...r, changes, same, next: same ? r.data : { ...r.data, ...changes } };
  });
  const cards = await cardData(
    tx,
    workspaceId,
    cardsOf([...rows.map((r) => r.data), ...after.map((r) => r.next)]),
  );

  // The database stores one part while the next is evaluated; one statement at a time.
  let storing: Promise<void> = Promise.resolve();
  let part: Evaluated[] = [];
  let changed = work.changed ?? 0;
  const store = async (): Promise<void> => {
    await storing;
    storing = storeLanes(tx, workspaceId, part, bringing ? 'rates' : null, t.createdBy);
    // What goes wrong is said when it is awaited.
    storing.catch(() => undefined);
    changed += part.length;
    part = [];
    await new Promise((done) => setImmediate(done));
  };
  const noticed = new Set(work.noticed ?? []);
  // Looking at a version when it came gave notice already; bringing lanes up to it says nothing twice.
  const version = work.version ?? (only === null ? undefined : newest.get(only));
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
      noticed.add(n.link.split('/')[2]?.split('?')[0] ?? '');
  const fallen: Parameters<typeof addNotices>[2][number][] = [];
  for (const r of after) {
    const c = candidates.get(r.candidateId);
    if (c === undefined) continue;
    const parts = {
      candidate: c.data,
      quotes,
      cards,
      homeCurrency: settings.homeCurrency,
      standings: settings.standings,
      today: day,
    };
    const doc = composeLane({ ...parts, lane: r.next });
    if (
      !r.same &&
      c.deletedAt === null &&
      c.archivedAt === null &&
      c.droppedAt === null &&
      !noticed.has(c.id)
    ) {
      const before = composeLane({ ...parts, lane: r.data });
      const hurdles = settings.hurdles[c.data.way] ?? [];
      const [figure] = fallsUnder(before, doc, hurdles);
      if (figure !== undefined) {
        const impact = impactOf(before, doc, []);
        noticed.add(c.id);
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
          link: `/weigh/${c.id}?lane=${r.id}`,
        });
      }
    }
    if (work.lookOnly || (bringing && r.same)) continue;
    const result = evaluate(doc);
    part.push({
      id: r.id,
      changes: r.changes,
      result,
      measures: measuresOf(doc, result, planOf(c.data, settings.launch)),
    });
    if (part.length >= PART) await store();
  }
  await store();
  await storing;
  await addNotices(tx, workspaceId, fallen);

  const last = rows[rows.length - 1];
  const finished = rows.length < CHUNK;
  if (finished && bringing && !work.lookOnly && changed > 0)
    await addNotices(tx, workspaceId, [
      {
        kind: 'upToDate',
        data: { count: changed, card: work.key ?? '' },
        link:
          work.kind === undefined
            ? '/weigh'
            : `/rates?kind=${work.kind}&key=${encodeURIComponent(work.key ?? '')}`,
      },
    ]);
  await tx
    .update(task)
    .set({
      state: finished ? 'done' : 'running',
      done: t.done + rows.length,
      data: { ...work, after: last?.id ?? work.after, changed, noticed: [...noticed] },
      updatedAt: new Date(),
    })
    .where(and(eq(task.workspaceId, workspaceId), eq(task.id, taskId)));
  return !finished;
}

/** Work on lanes. */
export const lanesWork: Service = { queue: 'lanes', work: (piece) => workOnLanes(piece) };
