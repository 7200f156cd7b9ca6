// npm run reset-link -- EMAIL: prints a link by which that account's password can be set anew. The link works
// once.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  fail,
  needModules,
  needPostgres,
  prepareDatabase,
  root,
  secrets,
  startCluster,
  stateDir,
} from './lib/system.mjs';

const email = process.argv[2];
if (!email?.includes('@')) fail('Use: npm run reset-link -- EMAIL');
const dir = stateDir();
needModules();
if (!process.env.DATABASE_URL) needPostgres();
const keys = secrets(dir);
const cluster = process.env.DATABASE_URL
  ? { url: process.env.DATABASE_URL, stop: async () => {} }
  : await startCluster(dir, keys.owner);
const urls = await prepareDatabase(cluster.url, keys);
const run = existsSync(join(dir, 'run.json'))
  ? JSON.parse(readFileSync(join(dir, 'run.json'), 'utf8'))
  : { port: Number(process.env.PORT ?? 4300) };
const { status } = spawnSync(
  process.execPath,
  ['--import', 'tsx', join(root, 'server/resetLink.ts'), email],
  {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...urls, BM_ORIGIN: process.env.BM_ORIGIN ?? `http://127.0.0.1:${run.port}` },
  },
);
await cluster.stop();
process.exit(status ?? 1);
