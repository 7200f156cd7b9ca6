/** What several measures share: the browser's arguments, and a stopwatch. */
import { brotliCompressSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import type { Page } from '@playwright/test';
import { eq } from 'drizzle-orm';
import pg from 'pg';
import { member, organization } from '../server/db/authSchema.ts';
import { CHROMIUM } from '../scripts/lib/system.mjs';
import { authDb } from '../server/db/client.ts';

export async function timed<T>(work: () => Promise<T>): Promise<{ value: T; ms: number }> {
  const started = performance.now();
  const value = await work();
  return { value, ms: performance.now() - started };
}

/** Business statements that a piece of work sends to the database. */
export async function statementsOf(work: () => Promise<unknown>): Promise<number> {
  const query = pg.Client.prototype.query as (...args: unknown[]) => unknown;
  let seen = 0;
  pg.Client.prototype.query = function (this: pg.Client, ...args: unknown[]) {
    const q = args[0] as string | { text: string };
    if (/"bm"\./.test(typeof q === 'string' ? q : q.text)) seen++;
    return query.apply(this, args);
  } as typeof pg.Client.prototype.query;
  try {
    await work();
  } finally {
    pg.Client.prototype.query = query as typeof pg.Client.prototype.query;
  }
  return seen;
}

/** Bytes of script, Brotli, that a page takes which was never opened before. */
export async function firstLoad(page: Page, url: string): Promise<number> {
  const scripts: Promise<number>[] = [];
  const hear = (r: { url: () => string; body: () => Promise<Buffer> }): void => {
    if (r.url().endsWith('.js'))
      scripts.push(
        r.body().then(
          (b) => brotliCompressSync(b).length,
          () => 0,
        ),
      );
  };
  page.on('response', hear);
  const session = await page.context().newCDPSession(page);
  await session.send('Network.clearBrowserCache');
  await page.goto(url);
  await page.waitForLoadState('networkidle');
  page.off('response', hear);
  return (await Promise.all(scripts)).reduce((a, b) => a + b, 0);
}

/** A page of the demo, signed in, in a browser of its own that is closed after the work. */
export async function inDemo<T>(origin: string, work: (page: Page) => Promise<T>): Promise<T> {
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await (
      await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' })
    ).newPage();
    await page.goto(`${origin}/sign-in`);
    await page.getByRole('button', { name: 'Enter the demo' }).click();
    await page.waitForURL(/weigh/);
    return await work(page);
  } finally {
    await browser.close();
  }
}

/** The demo's workspace, and somebody who works in it. */
export async function demoWorkspace(): Promise<{ id: string; by: string }> {
  const [w] = await authDb()
    .select({ id: organization.id, by: member.userId })
    .from(organization)
    .innerJoin(member, eq(member.organizationId, organization.id))
    .limit(1);
  if (w === undefined) throw new Error('no workspace');
  return w;
}
