/**
 * Who is at which piece of work. The queue itself would wait two minutes for a worker that was killed; here a
 * worker that has been silent for a few seconds loses its piece, and another takes it up where the last chunk
 * was stored. How often a piece took its worker down without getting any further is counted beside it; what
 * was stored and never came to the queue is found.
 */
import { randomUUID } from 'node:crypto';
import type pg from 'pg';
import { env } from '../env.ts';
import { pool } from '../db/client.ts';
import { log } from '../log.ts';

/** Seconds after which a worker that is not heard of counts as gone; it is heard of five times as often. */
const silentSeconds = (): number => 5 * env().BM_WAITS;
/** Seconds after which work that is in no queue counts as lost. */
const straySeconds = (): number => 10 * env().BM_WAITS;
/** Workers a piece may take down at one place before it is given up. */
export const MOST_KILLS = 3;
const me = randomUUID();
const held = new Set<string>();
let open: pg.Pool | null = null;
let beating: NodeJS.Timeout | null = null;

function database(): pg.Pool {
  open ??= pool(env().BM_JOBS_URL, 2);
  return open;
}

export type Piece = { readonly taskId: string; readonly workspaceId: string };

const isSilent = (): string => `lease.beat_at < now() - make_interval(secs => ${silentSeconds()})`;

/**
 * Takes a piece of work for this process. Null where another is at it and has been heard of lately; else how
 * many workers it has taken down since it last got further (`progress`: how far it is, any number that moves
 * when it does).
 */
export async function claim(
  piece: Piece,
  queueName: string,
  progress: (piece: Piece) => Promise<number>,
): Promise<{ kills: number } | null> {
  const { rows } = await database().query<{ kills: number; progress: string }>(
    `insert into jobs.lease (task_id, workspace_id, queue, worker) values ($1, $2, $3, $4)
     on conflict (task_id) do update set worker = $4, beat_at = now(), kills = lease.kills + case
     when lease.worker in ('', $4) then 0 else 1 end
     where lease.worker in ($4, '') or ${isSilent()} returning kills, progress`,
    [piece.taskId, piece.workspaceId, queueName, me],
  );
  const [row] = rows;
  if (row === undefined) return null;
  held.add(piece.taskId);
  beating ??= setInterval(() => {
    if (held.size > 0)
      database()
        .query('update jobs.lease set beat_at = now() where worker = $1 and task_id = any($2)', [
          me,
          [...held],
        ])
        .catch(() => undefined);
  }, 200 * silentSeconds()).unref();
  if (row.kills === 0) return { kills: 0 };
  const now = await progress(piece);
  if (now === Number(row.progress)) return { kills: row.kills };
  // It has got further since the last worker went: this is the first at this place.
  await database().query('update jobs.lease set kills = 1, progress = $2 where task_id = $1', [
    piece.taskId,
    now,
  ]);
  return { kills: 1 };
}

/**
 * Lets go of a piece that is not finished, for whoever takes it from the queue next. Its lease stays: should
 * the piece never come to the queue, or the database be away, its silence brings it back.
 */
export async function letGo(taskId: string): Promise<void> {
  held.delete(taskId);
  await database()
    .query("update jobs.lease set worker = '', beat_at = now() where task_id = $1 and worker = $2", [
      taskId,
      me,
    ])
    .catch(() => undefined);
}

/** Gives a finished piece back. */
export async function release(taskId: string): Promise<void> {
  held.delete(taskId);
  await database()
    .query('delete from jobs.lease where task_id = $1 and worker = $2', [taskId, me])
    .catch(() => undefined);
}

/** Whether a piece waits in the queue already. */
const QUEUED =
  "exists (select 1 from jobs.job j where j.name = $1 and j.state < 'active' and j.data ->> 'taskId' = lease.task_id)";

/** Leases whose worker has fallen silent; they are nobody's from now on, and a worker that held one has been lost. */
async function silent(queueName: string): Promise<Piece[]> {
  const { rows } = await database().query<{ task_id: string; workspace_id: string }>(
    `update jobs.lease set worker = '', kills = kills + case when worker = '' then 0 else 1 end,
        beat_at = now() where queue = $1 and ${isSilent()} and not ${QUEUED} returning task_id, workspace_id`,
    [queueName],
  );
  return rows.map((r) => ({ taskId: r.task_id, workspaceId: r.workspace_id }));
}

/** Tasks of these kinds that were stored and are neither in the queue nor at any worker. */
async function strays(queueName: string, kinds: readonly string[]): Promise<Piece[]> {
  const { rows } = await database().query<{ task_id: string; workspace_id: string }>(
    `insert into jobs.lease (task_id, workspace_id, queue, worker)
     select t.id, t.workspace_id, $1, '' from bm.task t
     where t.kind = any($2) and t.state in ('waiting', 'running')
     and t.updated_at < now() - make_interval(secs => ${straySeconds()})
       and not exists (select 1 from jobs.lease l where l.task_id = t.id)
       and not exists (select 1 from jobs.job j where j.name = $1 and j.state < 'completed'
       and j.data ->> 'taskId' = t.id)
     on conflict do nothing returning task_id, workspace_id`,
    [queueName, kinds],
  );
  return rows.map((r) => ({ taskId: r.task_id, workspaceId: r.workspace_id }));
}

/**
 * Looks every two seconds (of the usual waits) for pieces whose worker has fallen silent, or that never came to
 * the queue, and puts them into it again.
 */
export function sweepLeases(
  queueName: string,
  kinds: readonly string[],
  send: (piece: Piece) => Promise<unknown>,
): () => void {
  const sweep = async (): Promise<void> => {
    const found = [...(await silent(queueName)), ...(await strays(queueName, kinds))];
    for (const piece of found) await send(piece);
    if (found.length > 0) log.info({ count: found.length }, 'work that nobody is at is taken up again');
  };
  // What is not sent because the database goes away is silent again after a few seconds.
  const timer = setInterval(() => void sweep().catch(() => undefined), 400 * silentSeconds()).unref();
  return () => clearInterval(timer);
}

export async function closeLeases(): Promise<void> {
  if (beating !== null) clearInterval(beating);
  beating = null;
  const closing = open;
  open = null;
  // A worker that is asked to end takes nothing down with it.
  if (held.size > 0)
    await closing
      ?.query("update jobs.lease set worker = '', beat_at = now() where worker = $1", [me])
      .catch(() => undefined);
  await closing?.end();
}
