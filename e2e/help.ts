import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, test as base } from '@playwright/test';
import type { Browser, Locator, Page } from '@playwright/test';
import { root } from '../scripts/lib/system.mjs';

/**
 * Every page of every test fails the test when it throws, or when the browser reports a breach of the content
 * policy.
 */
export const test = base.extend<{ faults: string[] }>({
  faults: [
    async ({ context }, use) => {
      const faults: string[] = [];
      context.on('weberror', (e) => {
        // The router lets the abort of an overtaken request surface as an error; it means nothing and shows
        // nowhere.
        if (!/signal is aborted/.test(e.error().message)) faults.push(`threw: ${e.error().message}`);
      });
      context.on('console', (m) => {
        if (
          m.type() === 'error' &&
          /Content Security Policy|Minified React|Hydration|did not match/i.test(m.text())
        )
          faults.push(m.text());
      });
      await use(faults);
      expect(faults).toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

export const at = (path: string): string => `${process.env.E2E_URL}${path}`;
export const DEMO = '/w/fernhollow-goods';
let people = 0;

/** Opens the demo by the session that `setup.ts` signed in for all tests. */
export async function enterDemo(page: Page): Promise<void> {
  await page.context().addCookies(JSON.parse(process.env.E2E_DEMO_SESSION ?? '[]'));
  await page.goto(at(`${DEMO}/weigh`));
  await ready(page);
}

/** Opens the sheet of the demo's first product; returns its path. */
export async function openDemoSheet(page: Page): Promise<string> {
  await enterDemo(page);
  await page.getByRole('link', { name: 'Bee house, larch, three chambers' }).click();
  await page.waitForURL(/[0-9a-f-]{36}/);
  return new URL(page.url()).pathname;
}

/** Waits until the page answers to the keyboard, not only shows. */
export async function ready(page: Page): Promise<void> {
  await page.waitForFunction(() => document.documentElement.dataset.answers === window.location.pathname);
}

/** On paper, where there is no rail, a page has the whole width, and `figures` are read on it without scrolling. */
export async function fillsPaper(page: Page, figures: Locator): Promise<void> {
  const { width } = page.viewportSize() ?? { width: 0 };
  expect((await page.locator('main').boundingBox())?.width).toBeGreaterThan(0.9 * width);
  expect((await figures.boundingBox())?.width).toBeGreaterThan(0.5 * width);
}

/** Opens a list of the demo by its name; returns its path. */
export async function openDemoList(page: Page, name: string): Promise<string> {
  await enterDemo(page);
  await page.goto(at(`${DEMO}/lists`));
  await page.getByRole('link', { name }).click();
  await page.waitForURL(/lists\/[0-9a-f-]+/);
  return new URL(page.url()).pathname;
}

/** A person of their own with an empty workspace; returns its path. */
export async function newcomer(
  page: Page,
  over: { country?: string; standing?: string } = {},
): Promise<{ base: string; email: string }> {
  const email = `person${++people}.${process.pid}.${Date.now()}@test.example`;
  await signUp(page, email);
  await page.getByLabel('Name of the workspace').fill('Thornbury Garden Post');
  if (over.country !== undefined) {
    await searchFor(page.getByLabel('Country you sell from'), over.country);
  }
  await page.getByRole('button', { name: 'Create workspace' }).click();
  await page.waitForURL(/\/w\/[^/]+\/weigh/);
  await ready(page);
  return { base: new URL(page.url()).pathname.replace(/\/weigh.*/, ''), email };
}

export async function signUp(page: Page, email: string): Promise<void> {
  await page.goto(at('/sign-up'));
  await page.getByLabel('Your name').fill('Rowan Achterberg');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password').fill('a long enough one');
  await page.getByRole('button', { name: 'Create an account' }).click();
  await page.waitForURL((u) => !u.pathname.startsWith('/sign-up'));
  await ready(page);
}

/** Adds a product through the form and waits for its sheet. */
export async function addProduct(
  page: Page,
  base: string,
  over: {
    name?: string;
    price?: string;
    cost?: string;
    sides?: string;
    weight?: string;
    way?: string;
    where?: string;
  } = {},
): Promise<void> {
  await page.goto(at(`${base}/find`));
  await ready(page);
  const form = page.getByRole('form', { name: 'New candidate' });
  if (over.where !== undefined) {
    await form.getByLabel('Sold on').selectOption({ label: over.where });
    await ready(page);
  }
  if (over.way !== undefined) await form.getByLabel('Way of working').selectOption({ label: over.way });
  await form.getByLabel('Product').fill(over.name ?? 'Bird bath, stoneware');
  await form.getByLabel(/Price you would ask/).fill(over.price ?? '29.90');
  await form.getByLabel(/What a unit costs|Shelf price/).fill(over.cost ?? '6.40');
  await form.getByLabel(/Packaged sides/).fill(over.sides ?? '30 x 20 x 10');
  await form.getByLabel(/Weight/).fill(over.weight ?? '0.9');
  await form.getByRole('button', { name: 'Add and open its sheet' }).click();
  await page.waitForURL(/\/weigh\/[0-9a-f-]{36}/);
  await ready(page);
}

export const openFamily = (page: Page, family: string) =>
  page.getByRole('button', { name: family, exact: true }).click();
export const answer = (page: Page) => page.getByTestId('answer');
export const saved = (page: Page) =>
  expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();

/** The lane document of the sheet, as it is downloaded. */
export async function downloadLane(page: Page): Promise<{ text: string; path: string }> {
  const [download] = await Promise.all([page.waitForEvent('download'), menuItem(page, 'Download this lane')]);
  const path = await download.path();
  return { path, text: (await import('node:fs')).readFileSync(path, 'utf8') };
}

export async function menuItem(page: Page, name: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name }).click();
}

/** Chooses in a field of many options by typing a part of the name. */
export async function searchFor(field: Locator, text: string): Promise<void> {
  await field.click();
  await expect(field).toHaveAttribute('aria-autocomplete', 'list');
  await field.fill(text);
  await field.press('Enter');
}

/** What the command line says about a document. */
export function bm<T>(...args: string[]): T {
  return JSON.parse(
    execFileSync(process.execPath, ['--import', 'tsx', join(root, 'cli/bm.ts'), ...args], {
      cwd: root,
      encoding: 'utf8',
    }),
  ) as T;
}

/** A second person in a browser of their own. */
export async function another(browser: Browser): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    reducedMotion: 'reduce',
  });
  return context.newPage();
}

/** On the settings: the stand-in as market feed, tried at once. */
export async function setStandIn(page: Page): Promise<void> {
  await page.getByLabel('Feed', { exact: true }).selectOption({ label: 'the invented stand-in' });
  await page.getByRole('button', { name: 'Keep and try' }).click();
  await expect(page.getByText(/Kept\. It knows 2\d markets\./)).toBeVisible();
}
