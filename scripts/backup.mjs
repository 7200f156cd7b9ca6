// npm run backup -- FILE | npm run restore -- FILE: the whole database as one archive of PostgreSQL's own
// format, and beside it the file store (suppliers' lists) as FILE.files.tar.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import {
  alive,
  fail,
  needModules,
  needPostgres,
  postgresPrograms,
  prepareDatabase,
  say,
  secrets,
  startCluster,
  stateDir,
} from './lib/system.mjs';

const [what, file] = process.argv.slice(2);
if (!file || !['backup', 'restore'].includes(what)) fail(`Use: npm run ${what ?? 'backup'} -- FILE`);
const path = resolve(file);
if (what === 'restore' && !existsSync(path)) fail(`There is no file ${file}.`);
if (what === 'backup' && existsSync(path))
  fail(`${file} is there already. Choose another name, so that no backup is written over.`);
const dir = stateDir();
if (
  what === 'restore' &&
  existsSync(join(dir, 'run.json')) &&
  alive(JSON.parse(readFileSync(join(dir, 'run.json'), 'utf8')).pid)
)
  fail('The application is running. Stop it before restoring.');
needModules();
needPostgres();
const keys = secrets(dir);
const cluster = process.env.DATABASE_URL
  ? { url: process.env.DATABASE_URL, stop: async () => {} }
  : await startCluster(dir, keys.owner);
const bin = postgresPrograms();
// The password goes through the environment, not the command line, where other users could read it.
const url = new URL(cluster.url);
const env = {
  ...process.env,
  PGPASSWORD: decodeURIComponent(url.password),
  PGHOST: url.hostname,
  PGPORT: url.port || '5432',
  PGUSER: decodeURIComponent(url.username),
  PGDATABASE: url.pathname.slice(1),
};
// The queue of long work belongs to the running application, which makes it anew; its partitions cannot be
// put back over themselves.
const NO_QUEUE = ['--exclude-schema=jobs'];
const files = process.env.BM_FILES_DIR ?? join(dir, 'files');
const archive = `${path}.files.tar`;
const run = (program, args) => spawnSync(program, args, { stdio: ['ignore', 2, 2], env }).status === 0;
let ok;
if (what === 'backup')
  ok =
    spawnSync(join(bin, 'pg_dump'), ['--format=custom', '--no-owner', ...NO_QUEUE, `--file=${path}`], {
      stdio: ['ignore', 2, 2],
      env,
    }).status === 0 &&
    (!existsSync(files) || run('tar', ['-C', files, '-cf', archive, '.']));
else {
  // Roles first (a migration makes them), then everything as it was in the archive, in one transaction.
  await prepareDatabase(cluster.url, keys);
  // Rows of a run that was never finished belong to no list, and would keep their schema from being put back.
  const UNFINISHED =
    'do $$ declare t text; begin for t in select c.relname from pg_class c join pg_namespace n on ' +
    "n.oid = c.relnamespace where n.nspname = 'lists' and c.relkind = 'r' and not c.relispartition " +
    "loop execute format('drop table lists.%I', t); end loop; end $$";
  ok =
    run(join(bin, 'pg_restore'), ['--list', '--file=/dev/null', path]) &&
    run(join(bin, 'psql'), ['--quiet', '--command', UNFINISHED]) &&
    spawnSync(
      join(bin, 'pg_restore'),
      [
        '--clean',
        '--if-exists',
        '--no-owner',
        '--single-transaction',
        ...NO_QUEUE,
        `--dbname=${env.PGDATABASE}`,
        path,
      ],
      { stdio: ['ignore', 2, 2], env },
    ).status === 0;
  if (ok) {
    await prepareDatabase(cluster.url, keys);
    // Work that was under way when the archive was made has no place in the queue any more: people start it
    // again.
    ok =
      spawnSync(
        join(bin, 'psql'),
        [
          '--quiet',
          '--command',
          `update bm.task set state = 'failed', error = '{"code":"underWayAtBackup","detail":{}}' ` +
            "where state in ('waiting', 'running')",
        ],
        { stdio: ['ignore', 2, 2], env },
      ).status === 0;
    if (ok && existsSync(archive)) {
      // Unpacked beside the store first, so that half an archive does not take the place of a whole one.
      rmSync(`${files}.coming`, { recursive: true, force: true });
      mkdirSync(`${files}.coming`, { recursive: true });
      ok = run('tar', ['-C', `${files}.coming`, '-xf', archive]);
      if (ok) {
        rmSync(files, { recursive: true, force: true });
        renameSync(`${files}.coming`, files);
      }
    }
  }
}
await cluster.stop();
if (!ok)
  fail(
    `The ${what} did not succeed; see the lines above.${what === 'restore' ? ' Nothing was changed.' : ''}`,
  );
say(
  what === 'backup'
    ? `Saved to ${file}${existsSync(archive) ? ` and ${file}.files.tar` : ''}.`
    : `Restored from ${file}.`,
);
