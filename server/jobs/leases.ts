/**
 * Who is at which piece of work. The queue itself would wait two minutes for a worker that was killed; here a worker that has been
 * silent for a few seconds loses its piece, and another takes it up where the last chunk was stored.
 */
import { randomUUID } from 'node:crypto';
import type pg from 'pg';
import { env } from '../env.ts';
import { pool } from '../db/client.ts';
import { log } from '../log.ts';

const SILENT_SECONDS = 5;
const me = randomUUID();
const held = new Set<string>();
let open: pg.Pool | null = null;
let beating: NodeJS.Timeout | null = null;

function database(): pg.Pool {
  open ??= pool(env().BM_JOBS_URL, 2);
  return open;
}

export type Piece = { readonly taskId: string; readonly workspaceId: string };

/** Takes a piece of work for this process; false where another is at it and has been heard of lately. */
export async function claim(piece: Piece, queueName: string): Promise<boolean> {
  const { rowCount } = await database().query(
    `insert into jobs.lease (task_id, workspace_id, queue, worker) values ($1, $2, $3, $4)
     on conflict (task_id) do update set worker = $4, beat_at = now() where lease.worker in ($4, '') or lease.beat_at < now() - make_interval(secs => ${SILENT_SECONDS})`,
    [piece.taskId, piece.workspaceId, queueName, me],
  );
  if (rowCount !== 1) return false;
  held.add(piece.taskId);
  beating ??= setInterval(() => {
    if (held.size > 0) database().query('update jobs.lease set beat_at = now() where worker = $1 and task_id = any($2)', [me, [...held]]).catch(() => undefined);
  }, 1000).unref();
  return true;
}

/**
 * Lets go of a piece that is not finished, for whoever takes it from the queue next. Its lease stays: should the piece never come to
 * the queue, or the database be away, its silence brings it back.
 */
export async function letGo(taskId: string): Promise<void> {
  held.delete(taskId);
  await database().query("update jobs.lease set worker = '', beat_at = now() where task_id = $1 and worker = $2", [taskId, me]).catch(() => undefined);
}

/** Gives a finished piece back. */
export async function release(taskId: string): Promise<void> {
  held.delete(taskId);
  await database().query('delete from jobs.lease where task_id = $1 and worker = $2', [taskId, me]).catch(() => undefined);
}

/** Looks every two seconds for pieces whose worker has fallen silent, and puts them into the queue again. */
export function sweepLeases(queueName: string, send: (piece: Piece) => Promise<unknown>): () => void {
  const timer = setInterval(() => {
    database()
      .query<{ task_id: string; workspace_id: string }>(`select task_id, workspace_id from jobs.lease where queue = $1 and beat_at < now() - make_interval(secs => ${SILENT_SECONDS})`, [queueName])
      .then(async ({ rows }) => {
        for (const r of rows) {
          await send({ taskId: r.task_id, workspaceId: r.workspace_id });
          // Only once it is in the queue; from now on its silence counts anew.
          await database().query(`update jobs.lease set worker = '', beat_at = now() where task_id = $1 and beat_at < now() - make_interval(secs => ${SILENT_SECONDS})`, [r.task_id]);
        }
        if (rows.length > 0) log.info({ count: rows.length }, 'work of a silent worker is taken up again');
      })
      .catch(() => undefined);
  }, 2000).unref();
  return () => clearInterval(timer);
}

export async function closeLeases(): Promise<void> {
  if (beating !== null) clearInterval(beating);
  beating = null;
  const closing = open;
  open = null;
  await closing?.end();
}
