import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
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
  const r = spawnSync(process.execPath, [join(root, 'scripts/backup.mjs'), what, file], {
    cwd: root,
    encoding: 'utf8',
    env: {
      ...process.env,
      DATABASE_URL: cluster.ownerUrl,
      BM_STATE_DIR: join(folder, 'state'),
      BM_FILES_DIR: join(folder, 'state/files'),
    },
  });
  return { code: r.status, said: r.stdout + r.stderr };
};
const state = async () => ({
  names: (
    await owner.query("select settings ->> 'homeCurrency' as currency from bm.workspace order by 1")
  ).rows.map((r) => r.currency),
  tasks: (await owner.query('select state, error from bm.task order by id')).rows,
});

it('a backup is put back over what has become of the database since, with the queue standing', async () => {
  await owner.query(
    `insert into bm.workspace (workspace_id, settings) values ('w', '{"homeCurrency": "PLN"}')`,
  );
  await owner.query(
    `insert into bm.task (workspace_id, id, kind, state) values ('w', 'a', 'weighAgain', 'running'), ('w',
        'b', 'weighAgain', 'done')`,
  );
  // A list's rows with their partition, a run that was never finished, and a file in the store.
  const RUN = '00000000-0000-4000-8000-000000000001';
  const table = (name: string) =>
    `create table lists.${name} (like bm.list_row, check (run_id is not null and run_id = '${RUN}'::uuid));
        alter table lists.${name} owner to bm_loader`;
  await owner.query(
    `${table('r_done')}; insert into lists.r_done values ('w', '${RUN}', 2, 9520000000019, '9520000000019',
        'Pot', '', '', 1.5); alter table bm.list_row attach partition lists.r_done for values in ('${RUN}')`,
  );
  const store = join(folder, 'state/files/w');
  mkdirSync(store, { recursive: true });
  writeFileSync(join(store, 'source'), 'Barcode,Net price');
  const file = join(folder, 'all.dump');
  expect(run('backup', file)).toMatchObject({ code: 0, said: expect.stringContaining('Saved to') });
  expect(run('backup', file)).toMatchObject({ code: 1, said: expect.stringContaining('is there already') });
  await owner.query(
    `insert into bm.workspace (workspace_id, settings) values ('later', '{"homeCurrency": "GBP"}')`,
  );
  await owner.query("delete from bm.task where id = 'b'");
  await owner.query(`${table('r_unfinished')}; delete from bm.list_row`);
  writeFileSync(join(store, 'source'), 'something else');

  expect(run('restore', file)).toMatchObject({ code: 0, said: expect.stringContaining('Restored from') });
  expect(await state()).toEqual({
    names: ['PLN'],
    tasks: [
      { state: 'failed', error: { code: 'underWayAtBackup', detail: {} } },
      { state: 'done', error: null },
    ],
  });
  expect(
    (await owner.query("select count(*)::int as n from jobs.queue where name = 'lanes'")).rows[0]?.n,
  ).toBe(1);
  expect((await owner.query('select title from bm.list_row')).rows).toEqual([{ title: 'Pot' }]);
  expect(readFileSync(join(store, 'source'), 'utf8')).toBe('Barcode,Net price');
  // The loader owns what it fills, so that lists can be read again.
  expect(
    (
      await owner.query(
        "select distinct tableowner from pg_tables where schemaname = 'lists' or tablename = 'list_row'",
      )
    ).rows,
  ).toEqual([{ tableowner: 'bm_loader' }]);
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
  expect(run('restore', join(folder, 'none.dump'))).toMatchObject({
    code: 1,
    said: expect.stringContaining('There is no file'),
  });
  expect(run('restore', join(root, 'package.json'))).toMatchObject({
    code: 1,
    said: expect.stringContaining('Nothing was changed'),
  });
  expect(await state()).toEqual(before);
  expect(existsSync(join(folder, 'none.dump'))).toBe(false);
}, 60_000);
