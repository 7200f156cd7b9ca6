// npm run pictures: one current picture of each main view, from the demo data, into docs/screenshots.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { demoServer, root, say } from './lib/system.mjs';

const demo = await demoServer();
const { chromium } = await import('@playwright/test');
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-sync', '--no-first-run'] });
const folder = join(root, 'docs/screenshots');
mkdirSync(folder, { recursive: true });

async function visitor(options = {}) {
  const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', ...options })).newPage();
  await page.goto(`${demo.origin}/sign-in`);
  return page;
}
async function enter(page) {
  await page.getByRole('button', { name: 'Enter the demo' }).click();
  await page.waitForURL(/weigh/);
  await page.waitForLoadState('networkidle');
}
async function sheet(page) {
  await page.getByRole('link', { name: 'Bee house, larch, three chambers' }).click();
  await page.getByTestId('answer').waitFor();
  await page.waitForLoadState('networkidle');
}
const shoot = async (page, name) => {
  await page.mouse.move(0, 0);
  await page.screenshot({ path: join(folder, `${name}.png`) });
  say(`docs/screenshots/${name}.png`);
};

try {
  const page = await visitor();
  await shoot(page, 'sign-in');
  await enter(page);
  await page.getByRole('button', { name: /best of 9/ }).click();
  await page.getByRole('link', { name: 'France · Alderway' }).waitFor();
  await shoot(page, 'weigh');
  await sheet(page);
  await shoot(page, 'sheet');
  await page.getByRole('button', { name: 'Goods', exact: true }).click();
  await shoot(page, 'sheet-goods');
  const base = `${demo.origin}/w/fernhollow-goods`;
  await page.goto(`${base}/find`);
  await page.waitForLoadState('networkidle');
  for (const [label, text] of [['Product', 'Toad house, glazed'], [/Price you would ask/, '27.90'], [/What a unit costs/, '6.10'], [/Packaged sides/, '24 x 22 x 16'], [/Weight/, '1.2']]) await page.getByLabel(label).fill(text);
  await page.getByLabel('Origin').selectOption('PL');
  await shoot(page, 'find');
  for (const place of ['fund', 'rates', 'settings']) {
    await page.goto(`${base}/${place}`);
    await page.waitForLoadState('networkidle');
    await shoot(page, place);
  }
  const dark = await visitor({ colorScheme: 'dark' });
  await enter(dark);
  await sheet(dark);
  await shoot(dark, 'sheet-dark');
  const phone = await visitor({ viewport: { width: 390, height: 844 } });
  await enter(phone);
  await sheet(phone);
  await shoot(phone, 'sheet-phone');
} finally {
  await browser.close();
  await demo.stop();
}
