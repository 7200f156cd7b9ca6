// npm run bench [-- --json]: measures, each beside a yardstick taken in the same run. Nothing here passes or
// fails.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { demoServer, root, say } from './lib/system.mjs';

const demo = await demoServer();
try {
  say('Measuring (about a minute) …');
  const { status } = spawnSync(
    process.execPath,
    ['--import', 'tsx', join(root, 'bench/run.ts'), ...process.argv.slice(2)],
    { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...demo.env } },
  );
  process.exitCode = status ?? 1;
} finally {
  await demo.stop();
}
