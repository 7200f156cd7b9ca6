/** From a key in a list's assumptions to the repainted grid, in real Chromium, at 200,000 rows. */
import { Readable } from 'node:stream';
import { setTimeout as wait } from 'node:timers/promises';
import type { Page } from '@playwright/test';
import { eq } from 'drizzle-orm';
import { demoRow, TIDY_HEADER, tidyLine } from '../demo/lists.ts';
import { member, organization } from '../server/db/authSchema.ts';
import { authDb } from '../server/db/client.ts';
import { loadList, loadLists, startList } from '../server/use/lists.ts';
import { loadSetup, saveSetup } from '../server/use/listSetup.ts';
import { receiveList } from '../server/use/receiveLists.ts';
import type { Measure } from './core.ts';
import { median } from './sheet.ts';
import { inDemo } from './tools.ts';

const ROWS = 200_000;
const KEYS = 40;

export async function measureGrid(origin: string): Promise<Measure[]> {
  const [w] = await authDb()
    .select({ id: organization.id, by: member.userId })
    .from(organization)
    .innerJoin(member, eq(member.organizationId, organization.id))
    .limit(1);
  if (w === undefined) throw new Error('no workspace');
  const id = await longList(w.id, w.by);
  return inDemo(origin, async (page) => {
    await page.goto(`${page.url().replace(/weigh.*/, '')}lists/${id}?all=1&sort=line`);
    await page.locator('html[data-answers]').waitFor({ state: 'attached' });
    await page.getByRole('button', { name: 'Assumptions' }).click();
    const repainted = await keyToGrid(page);
    return [
      {
        name: `Key in a list's assumptions to the repainted grid, ${ROWS / 1000} thousand rows, median of ${KEYS}`,
        value: median(repainted.rows),
        unit: 'ms',
        aim: 'under 150',
        yardstick:
          `slowest ${Math.max(...repainted.rows).toFixed(0)} ms; ` +
          `a bare answer there and back ${(await bareTrip(page)).toFixed(1)} ms`,
        ratio: null,
      },
      {
        name: 'The same until all rows are evaluated, limited, put in order and shown',
        value: median(repainted.whole),
        unit: 'ms',
        aim: '–',
        yardstick: `slowest ${Math.max(...repainted.whole).toFixed(0)} ms`,
        ratio: null,
      },
    ];
  });
}

/** The demo's stock list, longer, under the same settings, read to its end. */
async function longList(workspaceId: string, by: string): Promise<string> {
  const short = (await loadLists(workspaceId)).find((l) => l.name === 'Stock list November');
  const like = short === undefined ? null : await loadSetup(workspaceId, short.id, null);
  if (like === null) throw new Error('the demo has no stock list');
  const lines = function* () {
    yield `${TIDY_HEADER.join(',')}\n`;
    for (let i = 0; i < ROWS; i++) yield `${tidyLine(demoRow(i))}\n`;
  };
  const { id } = await receiveList(
    workspaceId,
    'long.csv',
    Readable.from(lines(), { objectMode: false }),
    by,
  );
  const setup = await loadSetup(workspaceId, id, null);
  if (setup === null) throw new Error('no set-up');
  await saveSetup(workspaceId, id, {
    name: 'Long stock list',
    supplier: '',
    sheet: null,
    map: setup.map,
    previousId: null,
    reference: null,
    settings: { ...like.own },
  });
  await startList(workspaceId, id, 'readList', by);
  for (;;) {
    await wait(200);
    const work = (await loadList(workspaceId, id))?.work[0];
    if (work?.state === 'failed') throw new Error(work.error?.code ?? 'failed');
    if (work?.state === 'done') return id;
  }
}

/**
 * Milliseconds from each key to the first frame after the grid's rows have changed, and until the whole list
 * has answered.
 */
async function keyToGrid(page: Page): Promise<{ rows: number[]; whole: number[] }> {
  const field = page.getByLabel('Inbound a unit, EUR');
  await field.fill('0.2');
  await page.waitForTimeout(2500);
  await page.evaluate(() => {
    const grid = document.querySelector('[role="grid"]') as HTMLElement;
    const bench = {
      at: 0,
      before: '',
      ms: 0,
      rows(): string {
        return [...grid.querySelectorAll('[role="row"]')].map((r) => r.textContent).join();
      },
    };
    Object.assign(window, { bench });
    document.addEventListener(
      'keydown',
      () => {
        bench.before = bench.rows();
        bench.ms = 0;
        bench.at = performance.now();
      },
      true,
    );
    new MutationObserver(() => {
      if (bench.ms !== 0 || bench.rows() === bench.before) return;
      bench.ms = -1;
      requestAnimationFrame(() =>
        setTimeout(() => {
          bench.ms = performance.now() - bench.at;
        }),
      );
    }).observe(grid, { subtree: true, childList: true, characterData: true });
  });
  await field.focus();
  await page.keyboard.press('End');
  const all = { rows: [] as number[], whole: [] as number[] };
  for (let i = 0; i < KEYS; i++) {
    await page.keyboard.press(i % 2 === 0 ? String(1 + ((i / 2) % 9)) : 'Backspace');
    await page.waitForFunction(() => (window as unknown as { bench: { ms: number } }).bench.ms > 0);
    await page.waitForFunction(() => document.querySelector('[role="progressbar"]') === null);
    const [ms, whole] = await page.evaluate(() => {
      const { bench } = window as unknown as { bench: { ms: number; at: number } };
      return [bench.ms, performance.now() - bench.at];
    });
    all.rows.push(ms as number);
    all.whole.push(whole as number);
    // What follows the grid (sums, distributions, saving) has its time, as between two keys of somebody who looks.
    await page.waitForTimeout(i % 8 === 7 ? 1500 : 250);
  }
  return all;
}

/** What an answer of the server takes that reads no list, median of 20. */
async function bareTrip(page: Page): Promise<number> {
  return median(
    await page.evaluate(async () => {
      const all: number[] = [];
      for (let i = 0; i < 20; i++) {
        const started = performance.now();
        await (await fetch('/names')).text();
        all.push(performance.now() - started);
      }
      return all;
    }),
  );
}
