import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { root, throwawayCluster } from '../scripts/lib/system.mjs';

const folder = mkdtempSync(join(tmpdir(), 'bm-backup-'));
let cluster: Awaited<ReturnType<typeof throwawayCluster>>;
let owner: pg.Client;
beforeAll(async () => {
  cluster = await throwawayCluster();
  owner = new pg.Client({ connectionString: cluster.ownerUrl });
  await owner.connect();
}, 60_000);
afterAll(async () => {
  await owner.end();
  await cluster.stop();
  rmSync(folder, { recursive: true });
});

const run = (what: 'backup' | 'restore', file: string): { code: number | null; said: string } => {
  const r = spawnSync(process.execPath, [join(root, 'scripts/backup.mjs'), what, file], { cwd: root, encoding: 'utf8', env: { ...process.env, DATABASE_URL: cluster.ownerUrl, BM_STATE_DIR: join(folder, 'state') } });
  return { code: r.status, said: r.stdout + r.stderr };
};
const state = async () => ({
  names: (await owner.query("select settings ->> 'homeCurrency' as currency from bm.workspace order by 1")).rows.map((r) => r.currency),
  tasks: (await owner.query('select state, error from bm.task order by id')).rows,
});

it('a backup is put back over what has become of the database since, with the queue standing', async () => {
  await owner.query(`insert into bm.workspace (workspace_id, settings) values ('w', '{"homeCurrency": "PLN"}')`);
  await owner.query(`insert into bm.task (workspace_id, id, kind, state) values ('w', 'a', 'weighAgain', 'running'), ('w', 'b', 'weighAgain', 'done')`);
  const file = join(folder, 'all.dump');
  expect(run('backup', file)).toMatchObject({ code: 0, said: expect.stringContaining('Saved to') });
  expect(run('backup', file)).toMatchObject({ code: 1, said: expect.stringContaining('is there already') });
  await owner.query(`insert into bm.workspace (workspace_id, settings) values ('later', '{"homeCurrency": "GBP"}')`);
  await owner.query("delete from bm.task where id = 'b'");

  expect(run('restore', file)).toMatchObject({ code: 0, said: expect.stringContaining('Restored from') });
  expect(await state()).toEqual({ names: ['PLN'], tasks: [{ state: 'failed', error: 'It was under way when the backup was made. Start it again.' }, { state: 'done', error: null }] });
  expect((await owner.query("select count(*)::int as n from jobs.queue where name = 'lanes'")).rows[0]?.n).toBe(1);
  // Row-level security came back with the tables.
  const app = new pg.Client({ connectionString: cluster.ownerUrl });
  await app.connect();
  await app.query('set role bm_app');
  expect((await app.query('select * from bm.workspace')).rows).toEqual([]);
  await app.query("select set_config('bm.workspace', 'w', false)");
  expect((await app.query('select workspace_id from bm.workspace')).rows).toEqual([{ workspace_id: 'w' }]);
  await app.end();
}, 90_000);

it('a file that is not there, or no backup, changes nothing', async () => {
  const before = await state();
  expect(run('restore', join(folder, 'none.dump'))).toMatchObject({ code: 1, said: expect.stringContaining('There is no file') });
  expect(run('restore', join(root, 'package.json'))).toMatchObject({ code: 1, said: expect.stringContaining('Nothing was changed') });
  expect(await state()).toEqual(before);
  expect(existsSync(join(folder, 'none.dump'))).toBe(false);
}, 60_000);
