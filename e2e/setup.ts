/**
 * Starts what the browser tests need: the demo data, the application, and a door to the database that can be
 * shut.
 */
import { spawnSync } from 'node:child_process';
import { createServer as createHttp } from 'node:http';
import { connect, createServer } from 'node:net';
import type { AddressInfo, Socket } from 'node:net';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import type { Cookie } from '@playwright/test';
import {
  CHROMIUM,
  freePort,
  root,
  say,
  startHelper,
  startScreening,
  startServer,
  startSimulator,
} from '../scripts/lib/system.mjs';

/** Enters the demo as anybody does; returns the cookies of the session, which all tests share. */
async function signIntoDemo(origin: string): Promise<Cookie[]> {
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage();
  await page.goto(`${origin}/sign-in`);
  await page.getByRole('button', { name: 'Enter the demo' }).click();
  await page.waitForURL(/\/weigh/);
  const cookies = await page.context().cookies();
  await browser.close();
  return cookies;
}

export default async function setup(): Promise<() => Promise<void>> {
  const { BM_APP_URL, BM_AUTH_URL, BM_JOBS_URL, BM_LOADER_URL, BM_FILES_DIR, BM_SECRET } = process.env;
  if (
    BM_APP_URL === undefined ||
    BM_AUTH_URL === undefined ||
    BM_JOBS_URL === undefined ||
    BM_LOADER_URL === undefined ||
    BM_FILES_DIR === undefined ||
    BM_SECRET === undefined
  )
    throw new Error(
      'Run the browser tests with npm test (or npm test -- e2e): it starts the database they use.',
    );

  const target = new URL(BM_APP_URL);
  let open = true;
  const sockets = new Set<Socket>();
  const door = createServer((client) => {
    if (!open) {
      client.destroy();
      return;
    }
    const server = connect(Number(target.port), target.hostname);
    for (const s of [client, server]) {
      sockets.add(s);
      s.on('error', () => s.destroy());
      s.on('close', () => {
        sockets.delete(s);
        client.destroy();
        server.destroy();
      });
    }
    client.pipe(server).pipe(client);
  });
  await new Promise<void>((done) => door.listen(0, '127.0.0.1', done));
  const doorman = createHttp((req, res) => {
    open = req.url === '/open';
    if (!open) for (const s of sockets) s.destroy();
    res.end();
  });
  await new Promise<void>((done) => doorman.listen(0, '127.0.0.1', done));
  const through = (url: string): string => {
    const u = new URL(url);
    u.port = String((door.address() as AddressInfo).port);
    return u.href;
  };

  const outside = await startSimulator({ quiet: true, today: '2026-11-24' });
  process.env.E2E_OUTSIDE = outside.url;
  const screening = await startScreening({ BM_FILES_DIR, BM_SECRET }, { quiet: true });
  process.env.E2E_SCREENING_PID = String(screening.pid());
  const env = {
    BM_LOADER_URL,
    BM_FILES_DIR,
    BM_SCREENING_URL: screening.url,
    BM_APP_URL: through(BM_APP_URL),
    BM_AUTH_URL: through(BM_AUTH_URL),
    BM_JOBS_URL,
    BM_OUTSIDE_URL: outside.url,
    BM_SMTP_URL: outside.smtp,
    BM_MAILBOX_URL: outside.mailbox,
    BM_SECRET,
    BM_DEMO: '1',
    BM_TODAY: '2026-11-24',
    BM_SIGN_IN_ATTEMPTS: '100000',
  };
  const loaded = spawnSync(process.execPath, ['--import', 'tsx', join(root, 'server/loadDemo.ts')], {
    cwd: root,
    encoding: 'utf8',
    env: { ...process.env, ...env, BM_APP_URL, BM_AUTH_URL, BM_ORIGIN: 'http://127.0.0.1:1' },
  });
  if (loaded.status !== 0) throw new Error(`The demo data could not be loaded:\n${loaded.stderr}`);
  const [port, strictPort] = [await freePort(), await freePort()];
  const web = await startServer({ ...env, BM_ORIGIN: `http://127.0.0.1:${port}` }, port, { quiet: true });
  const strict = await startServer(
    { ...env, BM_ORIGIN: `http://127.0.0.1:${strictPort}`, BM_SIGN_IN_ATTEMPTS: '3', BM_DEMO: '0' },
    strictPort,
    { quiet: true },
  );
  const worker = startHelper(
    'app/worker.ts',
    { ...env, BM_APP_URL, BM_AUTH_URL, BM_ORIGIN: `http://127.0.0.1:${port}` },
    { quiet: true },
  );
  process.env.E2E_URL = `http://127.0.0.1:${port}`;
  process.env.E2E_STRICT_URL = `http://127.0.0.1:${strictPort}`;
  process.env.E2E_DEMO_SESSION = JSON.stringify(await signIntoDemo(process.env.E2E_URL));
  process.env.E2E_DOOR = `http://127.0.0.1:${(doorman.address() as AddressInfo).port}`;
  return async () => {
    // What went wrong on the server stands beside what went wrong in the browser.
    const faults = web
      .log()
      .split('\n')
      .filter((line) => /"level":[56]0/.test(line));
    if (faults.length > 0) say(`The server logged:\n${faults.join('\n')}`);
    await Promise.all([web.stop(), strict.stop(), worker.stop(), outside.stop(), screening.stop()]);
    doorman.close();
    for (const s of sockets) s.destroy();
    door.close();
  };
}
