import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { bitmap, film, picture } from '../core/testing/ean.ts';
import { CHROMIUM } from '../scripts/lib/system.mjs';
import { at, DEMO, enterDemo, expect, newcomer, ready, test } from './help.ts';

const GTIN = '9520000010010';
const OTHER = '9520000010027';
const PHONE = { width: 390, height: 844 };
const folder = mkdtempSync(join(tmpdir(), 'bold-margin-film-'));
const FILM = join(folder, 'barcode.y4m');
writeFileSync(FILM, film(picture([GTIN])));
test.use({
  viewport: PHONE,
  permissions: ['camera'],
  launchOptions: {
    ...CHROMIUM,
    args: [
      ...CHROMIUM.args,
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-video-capture=${FILM}`,
    ],
  },
});

const goods = (page: Page) => page.getByLabel('Barcode, listing code or name');
const shelf = (page: Page) => page.getByLabel('On the shelf, EUR');
const verdict = (page: Page) => page.getByTestId('verdict');
const tally = (page: Page) => page.getByTestId('tally');

async function openCheck(page: Page, root: string): Promise<void> {
  await page.goto(at(`${root}/check`));
  await ready(page);
}

/** Waits until the page and its parts are on the device. */
async function atHand(page: Page): Promise<void> {
  const isThere = (): Promise<boolean> =>
    page.evaluate(async () => {
      const { active } = await navigator.serviceWorker.ready;
      const pages = await caches.open('bold-margin-check-pages');
      const kept = await pages.match(window.location.href, { ignoreVary: true });
      return active?.state === 'activated' && ((await kept?.text()) ?? '') !== '';
    });
  await expect.poll(isThere, { timeout: 30_000 }).toBe(true);
}

test('a barcode in front of the camera, one price: the verdict, and it is kept', async ({ page }) => {
  await enterDemo(page);
  await openCheck(page, DEMO);
  await page.getByRole('button', { name: 'Scan' }).click();
  await expect(goods(page)).toHaveValue(GTIN);
  // The camera closes by itself, and the price is next.
  await expect(shelf(page)).toBeFocused();
  await expect(page.getByRole('heading', { level: 2, name: /Bienenhaus/ })).toBeVisible();
  await expect(page.getByText(/^Permission:/)).toBeVisible();
  await shelf(page).fill('1');
  await expect(verdict(page)).toContainText('Buy.');
  await expect(verdict(page)).toContainText(/Each keeps €[\d.]+ of €[\d.]+\./);
  await shelf(page).fill('200');
  await expect(verdict(page)).toContainText('It loses.');
  await shelf(page).fill('1');
  await page.getByLabel('Take').fill('4');
  await page.getByRole('button', { name: 'Keep 4, next' }).click();
  await expect(tally(page)).toContainText('1 kept, 0 left');
  await expect(goods(page)).toHaveValue('');
  await expect(page.getByTestId('waiting')).toHaveCount(0);
});

test('from a picture: two barcodes are chosen from, none is said', async ({ page }) => {
  await enterDemo(page);
  await openCheck(page, DEMO);
  const take = (grey: Uint8Array): Promise<void> =>
    page
      .getByLabel('From a picture')
      .setInputFiles({ name: 'shelf.bmp', mimeType: 'image/bmp', buffer: Buffer.from(bitmap(grey)) });
  await take(picture([]));
  await expect(page.getByText('No barcode was found in this picture.')).toBeVisible();
  await take(picture([GTIN, OTHER]));
  await page.getByRole('button', { name: OTHER }).click();
  await expect(goods(page)).toHaveValue(OTHER);
});

test('without a network: checked, kept, closed, opened again; sent once when there is one', async ({
  page,
  context,
}) => {
  const { base: root } = await newcomer(page);
  await openCheck(page, root);
  await atHand(page);
  await context.setOffline(true);
  await page.reload();
  await ready(page);
  await expect(page.getByText('no network')).toBeVisible();
  for (let i = 0; i < 3; i++) {
    await goods(page).fill(i === 0 ? GTIN : `garden goods ${i}`);
    await shelf(page).fill('5');
    await page.getByLabel('Sells for, EUR').first().fill('30');
    await page.getByRole('button', { name: 'Keep 1, next' }).click();
    await expect(tally(page)).toContainText(`${i + 1} kept`);
  }
  await expect(page.getByTestId('waiting')).toContainText('3 checks wait on this device');
  // The tab is closed, and another opened.
  const again = await context.newPage();
  await page.close();
  await again.goto(at(`${root}/check`));
  await ready(again);
  await expect(tally(again)).toContainText('3 kept');
  const second = await context.newPage();
  await second.goto(at(`${root}/check`));
  await ready(second);
  await context.setOffline(false);
  await expect(again.getByTestId('waiting')).toHaveCount(0, { timeout: 40_000 });
  await again.getByRole('link', { name: 'Walks' }).click();
  await expect(again.getByText('3 checked')).toBeVisible();
  // What was found becomes candidates, bought as at the shelf.
  await again.getByRole('listitem').getByRole('link').first().click();
  await expect(again.getByTestId('walk-said')).toContainText('3 of 3 kept');
  await again.getByRole('button', { name: 'Weigh the kept' }).click();
  await again.waitForURL(/weigh\?sort=changed/);
  await expect(again.getByRole('link', { name: 'garden goods 1' })).toBeVisible();
});

test('what waits is taken along as a file and taken in by hand; signing out leaves nothing at hand', async ({
  page,
  context,
}) => {
  const { base: root } = await newcomer(page);
  await openCheck(page, root);
  await atHand(page);
  await context.setOffline(true);
  await goods(page).fill('cork mat');
  await shelf(page).fill('5');
  await page.getByRole('button', { name: 'Keep 1, next' }).click();
  await expect(page.getByTestId('waiting')).toContainText('1 check waits');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Take along as a file' }).click(),
  ]);
  const text = readFileSync(await file.path(), 'utf8');
  // The device goes; the file comes in on another.
  await page.evaluate(() => indexedDB.deleteDatabase('bold-margin-checks'));
  await page.goto('about:blank');
  await context.setOffline(false);
  await page.goto(at(`${root}/checks`));
  await ready(page);
  const checks = { name: 'checks.json', mimeType: 'application/json', buffer: Buffer.from(text) };
  await page.getByLabel('Take in a file of checks').setInputFiles(checks);
  await expect(page.getByText('1 check is here now.')).toBeVisible();
  await page.getByRole('listitem').getByRole('link').first().click();
  await expect(page.getByTestId('walk-said')).toContainText('1 of 1 kept');
  await page.getByRole('button', { name: 'Make a list of the kept' }).click();
  await page.waitForURL(/lists\/[0-9a-f-]+\/setup/);
  await expect(page.getByText('cork mat')).toBeVisible();
  await ready(page);
  const pagesAtHand = () =>
    page.evaluate(async () => (await caches.keys()).filter((name) => name.startsWith('bold-margin-check')));
  expect(await pagesAtHand()).not.toEqual([]);
  await page.getByRole('button', { name: /Rowan Achterberg/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await page.waitForURL(/sign-in/);
  expect(await pagesAtHand()).toEqual([]);
});
