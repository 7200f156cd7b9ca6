// npm run demo | start | dev: installs what is missing, starts the database, migrates, builds, serves.
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { spawnSync } from 'node:child_process';
import {
  alive,
  fail,
  listening,
  needBuild,
  needModules,
  needPostgres,
  prepareDatabase,
  root,
  say,
  secrets,
  startCluster,
  keepHelper,
  startScreening,
  startServer,
  startSimulator,
  stateDir,
} from './lib/system.mjs';

const mode = process.argv[2] ?? 'demo';
if (!['demo', 'start', 'dev'].includes(mode)) fail('Use: node scripts/serve.mjs demo | start | dev');
const [major, minor] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 19))
  fail(`This needs Node 20.19 or newer; this is ${process.versions.node}.`);
const port = Number(process.env.PORT ?? 4300);
if (!Number.isInteger(port) || port < 1 || port > 65535)
  fail(`PORT must be a number from 1 to 65535, not "${process.env.PORT}".`);

const dir = stateDir();
const runFile = join(dir, 'run.json');
const ready = (p) => console.log(`Bold Margin is ready at http://127.0.0.1:${p}`);

if (existsSync(runFile)) {
  const run = JSON.parse(readFileSync(runFile, 'utf8'));
  if (alive(run.pid) && (await listening(run.port))) {
    if (run.mode !== mode)
      say(`It is running already, started with npm run ${run.mode}; stop that first to change.`);
    ready(run.port);
    process.exit(0);
  }
  rmSync(runFile, { force: true });
}
if (await listening(port))
  fail(`Port ${port} is taken by another program. Choose one: PORT=4301 npm run ${mode}`);

needModules();
const ownServer = process.env.DATABASE_URL;
if (!ownServer) needPostgres();
const keys = secrets(dir);
const cluster = ownServer ? { url: ownServer, stop: async () => {} } : await startCluster(dir, keys.owner);
let web = null;
const helpers = [];
let stopping = false;
const stop = async (code) => {
  if (stopping) return;
  stopping = true;
  rmSync(runFile, { force: true });
  await Promise.all([web?.stop(), ...helpers.map((h) => h.stop())]);
  await cluster.stop();
  process.exit(code);
};
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));

try {
  const urls = await prepareDatabase(cluster.url, keys);
  const env = {
    ...urls,
    BM_FILES_DIR: process.env.BM_FILES_DIR ?? join(dir, 'files'),
    BM_DEMO: mode === 'demo' ? '1' : '0',
    BM_ORIGIN: process.env.BM_ORIGIN ?? `http://127.0.0.1:${port}`,
  };
  // The demo brings its own stand-in for outside services; elsewhere BM_OUTSIDE_URL names one, or there is
  // none.
  if (mode !== 'start' && process.env.BM_OUTSIDE_URL === undefined) {
    const outside = await startSimulator();
    helpers.push(outside);
    env.BM_OUTSIDE_URL = outside.url;
    if (process.env.BM_SMTP_URL === undefined) {
      env.BM_SMTP_URL = outside.smtp;
      env.BM_MAILBOX_URL = outside.mailbox;
    }
  }
  const screening = await startScreening(env);
  helpers.push(screening);
  env.BM_SCREENING_URL = screening.url;
  if (mode === 'demo') {
    const r = spawnSync(process.execPath, ['--import', 'tsx', join(root, 'server/loadDemo.ts')], {
      cwd: root,
      stdio: ['ignore', 2, 2],
      env: { ...process.env, ...env },
    });
    if (r.status !== 0) throw new Error('The demo data could not be loaded; see the lines above.');
  }
  if (mode !== 'dev') needBuild();
  web = await startServer(env, port, { dev: mode === 'dev' });
  helpers.push(keepHelper('app/worker.ts', env));
  writeFileSync(runFile, JSON.stringify({ pid: process.pid, port, mode }));
  // A web process that dies is started again like the others; one that dies at once, again and again, is not.
  const starts = [];
  const again = async () => {
    if (stopping) return;
    const now = Date.now();
    starts.push(now);
    if (starts.filter((t) => now - t < 60_000).length > 5) return void stop(1);
    say('The web server ended; starting it again …');
    await new Promise((done) => setTimeout(done, 300));
    if (stopping) return;
    web = await startServer(env, port, { dev: mode === 'dev' }).catch(() => null);
    if (web === null) return void again();
    web.child.once('exit', () => void again());
  };
  web.child.once('exit', () => void again());
  ready(port);
} catch (e) {
  say(
    e instanceof Error && e.code === 'ECONNREFUSED'
      ? 'The database does not answer. Check DATABASE_URL.'
      : String(e instanceof Error ? e.message : e),
  );
  await stop(1);
}
