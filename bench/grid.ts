/** From a key in an assumption to the repainted grid, in the browser, on a list of 200,000 rows. */
import { createReadStream, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import type { Page } from '@playwright/test';
import { eq } from 'drizzle-orm';
import { member, organization } from '../server/db/authSchema.ts';
import { authDb } from '../server/db/client.ts';
import { loadList, startList } from '../server/use/lists.ts';
import { loadSetup, saveSetup } from '../server/use/listSetup.ts';
import { receiveList } from '../server/use/receiveLists.ts';
import type { Measure } from './core.ts';
import { writeList } from './lists.ts';
import { median } from './sheet.ts';
import { CHROMIUM } from './tools.ts';

const ROWS = 200_000;

/** Brings a list in and waits until it is read; returns its id. */
async function bringIn(path: string): Promise<string> {
  const [w] = await authDb()
    .select({ id: organization.id, by: member.userId })
    .from(organization)
    .innerJoin(member, eq(member.organizationId, organization.id))
    .limit(1);
  if (w === undefined) throw new Error('no workspace');
  const { id } = await receiveList(w.id, 'grid.csv', createReadStream(path), w.by);
  const setup = await loadSetup(w.id, id, null);
  if (setup === null) throw new Error('no set-up');
  await saveSetup(w.id, id, {
    name: 'Two hundred thousand',
    supplier: '',
    sheet: null,
    map: setup.map,
    settings: setup.own,
    previousId: null,
    reference: null,
  });
  await startList(w.id, id, 'readList', w.by);
  for (;;) {
    await new Promise((done) => setTimeout(done, 200));
    const work = (await loadList(w.id, id))?.work[0];
    if (work?.state === 'failed') throw new Error(work.error ?? 'failed');
    if (work?.state === 'done') return id;
  }
}

/** Milliseconds from the key to the first frame in which another amount stands in the first row. */
async function fromKeyToFrame(page: Page, key: string): Promise<number> {
  const told = page.evaluate(
    () =>
      new Promise<number>((done) => {
        let pressed = 0;
        const row = (): string => document.querySelector('.list-row')?.textContent ?? '';
        const before = row();
        addEventListener('keydown', (e) => (pressed = e.timeStamp), { capture: true, once: true });
        const look = new MutationObserver(() => {
          if (pressed === 0 || row() === before || row() === '') return;
          look.disconnect();
          requestAnimationFrame(() => setTimeout(() => done(performance.now() - pressed)));
        });
        look.observe(document.querySelector('[role=grid]') ?? document.body, {
          subtree: true,
          childList: true,
          characterData: true,
        });
      }),
  );
  await page.keyboard.press(key);
  return told;
}

export async function measureGrid(origin: string): Promise<Measure[]> {
  const folder = mkdtempSync(join(tmpdir(), 'bold-margin-bench-'));
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM });
  try {
    const path = join(folder, 'grid.csv');
    await writeList(path, ROWS);
    const id = await bringIn(path);
    const page = await (
      await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' })
    ).newPage();
    await page.goto(`${origin}/sign-in`);
    await page.getByRole('button', { name: 'Enter the demo' }).click();
    await page.waitForURL(/weigh/);
    const list = page.url().replace(/\/weigh.*/, `/lists/${id}`);
    await page.goto(`${list}?verdict=pass&sort=-profitPerMonth`);
    await page.locator('html[data-answers]').waitFor({ state: 'attached' });
    await page.getByRole('button', { name: 'Assumptions', exact: true }).click();
    await page.getByLabel('Inbound a unit, EUR').focus();
    const took: number[] = [];
    for (let i = 0; i < 25; i++) {
      const ms = await fromKeyToFrame(page, i % 2 === 0 ? 'ArrowUp' : 'ArrowDown');
      if (i > 4) took.push(ms);
      // As somebody who looks before pressing the next key; what follows (sums, saving) has its time.
      await page.waitForTimeout(1500);
    }
    const bare: number[] = [];
    for (let i = 0; i < 12; i++) {
      const started = performance.now();
      await (await page.request.get(`${origin}/sign-in`)).body();
      bare.push(performance.now() - started);
    }
    return [
      {
        name: 'From a key in an assumption to the repainted grid, 200,000 rows, in the browser, median of 20',
        value: median(took),
        unit: 'ms',
        aim: 'under 150',
        yardstick: `a bare page of the web process ${median(bare).toFixed(1)} ms`,
        ratio: median(took) / median(bare),
      },
    ];
  } finally {
    await browser.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
