/**
 * The loader: fills a table for each run of a list by COPY, and attaches it to `bm.list_row`. Its role sees
 * nothing else of the business tables but how far a task is, which it notes in the same transaction as the
 * rows.
 */
import { once } from 'node:events';
import type pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { env } from '../env.ts';
import { pool } from './client.ts';
import { COPY_COLUMNS } from './copyRows.ts';

let open: pg.Pool | null = null;
function database(): pg.Pool {
  open ??= pool(env().BM_LOADER_URL, 3);
  return open;
}
export async function closeLoader(): Promise<void> {
  const closing = open;
  open = null;
  await closing?.end();
}

const tableOf = (runId: string): string => {
  if (!/^[0-9a-f-]{36}$/.test(runId)) throw new Error('No such run');
  return `lists.r_${runId.replaceAll('-', '')}`;
};

async function transaction<T>(workspaceId: string, work: (c: pg.PoolClient) => Promise<T>): Promise<T> {
  const c = await database().connect();
  let broken: Error | undefined;
  try {
    await c.query('begin');
    await c.query("select set_config('bm.workspace', $1, true)", [workspaceId]);
    const done = await work(c);
    await c.query('commit');
    return done;
  } catch (e) {
    broken = e as Error;
    await c.query('rollback').catch(() => undefined);
    throw e;
  } finally {
    c.release(broken !== undefined && (broken as { code?: string }).code === undefined ? broken : undefined);
  }
}

/**
 * The table of a run. Workspace and run are its defaults, so that no row has to name them; its check is what
 * the partition will ask for, so that attaching it reads no row again.
 */
const madeTable = (table: string, workspaceId: string, runId: string): string => {
  if (!/^[\w-]+$/.test(workspaceId)) throw new Error('No such workspace');
  return `create table if not exists ${table} (like bm.list_row, constraint of_run check (run_id is not null
      and run_id = '${runId}'::uuid)); alter table ${table} alter column workspace_id
      set default '${workspaceId}', alter column run_id set default '${runId}'`;
};

/**
 * Stores a part of a run: its rows (as `copyRows` writes them; null where only the task moves), and with them
 * how far the task is, both or neither. False where the task has gone on from elsewhere, was cancelled, or is
 * gone: then nothing is stored.
 */
export async function storePart(
  workspaceId: string,
  taskId: string,
  rows: Buffer | null,
  parts: number,
  data: unknown,
  done: number,
  total: number,
): Promise<boolean> {
  return transaction(workspaceId, async (c) => {
    const { rowCount } = await c.query(
      "update bm.task set state = 'running', data = $3, done = $4, total = $5, updated_at = now() " +
        "where workspace_id = $1 and id = $2 and state in ('waiting', 'running') and coalesce((data " +
        "->> 'steps')::int, 0) = $6",
      [workspaceId, taskId, JSON.stringify(data), done, total, parts],
    );
    if (rowCount !== 1) return false;
    if (rows !== null) {
      const table = tableOf(taskId);
      if (
        parts === 0 ||
        (await c.query('select to_regclass($1) is null as missing', [table])).rows[0]?.missing
      )
        await c.query(madeTable(table, workspaceId, taskId));
      const stream = c.query(copyFrom(`copy ${table} (${COPY_COLUMNS}) from stdin (format binary)`));
      stream.end(rows);
      await once(stream, 'finish');
    }
    return true;
  });
}

/** Indexes the table of a run and makes it a partition; a second call changes nothing. */
export async function attachRun(workspaceId: string, runId: string): Promise<void> {
  const table = tableOf(runId);
  await transaction(workspaceId, async (c) => {
    await c.query(madeTable(table, workspaceId, runId));
    const { rows } = await c.query('select relispartition from pg_class where oid = $1::regclass', [table]);
    if (rows[0]?.relispartition === true) return;
    const name = table.slice('lists.'.length);
    await c.query(`alter table ${table} add constraint ${name}_line unique (line)`);
    await c.query(`create index ${name}_key on ${table} (key)`);
    await c.query(`alter table bm.list_row attach partition ${table} for values in ('${runId}')`);
  });
}

/** Takes the rows of a run away. */
export async function dropRun(workspaceId: string, runId: string): Promise<void> {
  await transaction(workspaceId, (c) => c.query(`drop table if exists ${tableOf(runId)}`));
}
