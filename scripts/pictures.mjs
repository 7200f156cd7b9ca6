// npm run pictures: one current picture of each main view, from the demo data, into docs/screenshots.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { CHROMIUM, demoServer, root, say } from './lib/system.mjs';

const demo = await demoServer();
const { chromium } = await import('@playwright/test');
const browser = await chromium.launch(CHROMIUM);
/** A schedule as a carrier might publish it. */
const FEES = `What we charge to send a parcel, spring list

Kind       up to     a piece
Slim       5 oz      $2.07
           12 oz     $2.61
           1.5 lb    $3.18*
Carton     12 oz     $3.94
           1.5 lb    $4.52
           4 lb      $5,26
           24 lb     $5.26 and $0.31 for
                     each 12 oz over 4 lb
Freight    heavier   ask us

Slim: 16 x 11 x 1 in at most.
Carton: 20 x 15 x 9 in at most.
What counts is the weight, or length x width x height / 150.
* textiles +0.30`;
const folder = join(root, 'docs/screenshots');
mkdirSync(folder, { recursive: true });

async function visitor(options = {}) {
  const page = await (
    await browser.newContext({ viewport: { width: 1280, height: 800 }, locale: 'en-GB', ...options })
  ).newPage();
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
  await enter(page);
  await page.getByRole('button', { name: /best of 9/ }).click();
  await page.getByRole('link', { name: 'France · Alderway' }).waitFor();
  await shoot(page, 'weigh');
  await sheet(page);
  await shoot(page, 'sheet');
  const base = `${demo.origin}/w/fernhollow-goods`;
  await page.goto(`${base}/find`);
  await page.waitForLoadState('networkidle');
  for (const [label, text] of [
    ['Product', 'Toad house, glazed'],
    [/Price you would ask/, '27.90'],
    [/What a unit costs/, '6.10'],
    [/Packaged sides/, '24 x 22 x 16'],
    [/Weight/, '1.2'],
  ])
    await page.getByLabel(label).fill(text);
  await page.getByLabel('Origin').click();
  await page.keyboard.type('Poland');
  await page.getByRole('option', { name: 'Poland' }).click();
  await shoot(page, 'find');
  await page.goto(`${base}/weigh`);
  await sheet(page);
  const candidate = page.url().split('?')[0];
  const wanted = new URLSearchParams(
    Object.entries({
      Alderway: 'DE FR ES IT PL GB US JP',
      Nordkai: 'DE FR PL GB',
      Sundra: 'DE ES IT GB',
    }).flatMap(([name, countries]) => countries.split(' ').map((c) => ['m', `${name}/${c}`])),
  );
  for (const method of ['warehouse', 'ownDispatch']) wanted.append('f', method);
  await page.goto(`${candidate}/add-lanes?${wanted}`);
  await page.waitForLoadState('networkidle');
  await page.locator('input[type=checkbox]:checked').first().waitFor();
  await page.getByRole('button', { name: /^Make \d+ lanes$/ }).click();
  await page.waitForURL(/compare$/);
  await page.waitForLoadState('networkidle');
  await page.getByRole('button', { name: 'Compare the others with Germany · Alderway' }).first().click();
  await page.locator('.compared').filter({ hasText: 'France' }).first().click();
  await page.getByTestId('difference-total').waitFor();
  await shoot(page, 'compare');
  await page.goto(`${candidate}/market`);
  await page.getByRole('button', { name: 'Ask the feed' }).click();
  await page.getByText(/things? (is|are) new/).waitFor();
  await page.getByTestId('margin-chart').waitFor();
  await shoot(page, 'market');
  await page.goto(`${candidate}/market?all=1`);
  await page.waitForLoadState('networkidle');
  await shoot(page, 'market-countries');
  await page.goto(`${base}/find/market?market=Alderway%2FDE&words=Bienenhaus&reviewsTo=600`);
  await page.waitForLoadState('networkidle');
  await shoot(page, 'find-market');
  await page.goto(`${base}/rates/read`);
  await page.locator('html[data-answers]').waitFor({ state: 'attached' });
  await page.getByLabel('Marketplace', { exact: true }).fill('Ostrelle');
  await page.getByLabel('Country').click();
  await page.keyboard.type('United States');
  await page.getByRole('option', { name: 'United States · US' }).click();
  await page.getByLabel('Takes of a sale').fill('15');
  await page.getByLabel('What you gave').fill(FEES);
  for (const line of [
    '10 x 8 x 0.8 in, 11 oz, 2.61',
    '14 x 10 x 6 in, 3 lb, 5.26',
    '12 x 12 x 7 in, 2.2 lb, 6.19',
  ]) {
    await page.getByLabel('Add one: size, weight, what it cost').fill(line);
    await page.getByRole('button', { name: 'Add', exact: true }).click();
  }
  await page.getByText('It meets').waitFor();
  await shoot(page, 'read-table');
  await page.goto(`${base}/fund?view=time`);
  await page.locator('html[data-answers]').waitFor({ state: 'attached' });
  // Sold at a season's peak: sold out in it, and the reorder comes after it.
  await page.getByLabel('Candidate').selectOption({ label: 'Seed-starting kit, 24 cells with lid' });
  await page.getByText('order 512').first().waitFor();
  await page.getByLabel('Lane').selectOption({ label: 'Germany · Alderway' });
  await page.waitForURL(/lane=/);
  await page.waitForLoadState('networkidle');
  await page.getByText('You are sold out').waitFor();
  await shoot(page, 'fund-time');
  await page.goto(`${base}/fund?view=sure`);
  await page.locator('html[data-answers]').waitFor({ state: 'attached' });
  await page.getByRole('button', { name: 'Take all that are offered' }).click();
  await page.getByText('A unit loses in').waitFor();
  await page.waitForTimeout(1200);
  await shoot(page, 'fund-sure');
  await page.goto(`${base}/fund/purse`);
  await page.getByText('Solved in').waitFor({ timeout: 60_000 });
  await shoot(page, 'fund-purse');
  for (const place of ['fund', 'rates']) {
    await page.goto(`${base}/${place}`);
    await page.waitForLoadState('networkidle');
    await shoot(page, place);
  }
  await page.goto(`${base}/order`);
  await page.getByRole('link', { name: 'PO-0002' }).click();
  await page.getByTestId('order-answer').waitFor();
  await page.getByLabel(/^Units, Seed/).fill('260');
  await page.waitForLoadState('networkidle');
  await shoot(page, 'order');
  await page.goto(`${base}/selling`);
  await page.waitForLoadState('networkidle');
  await shoot(page, 'selling');
  await page.goto(`${base}/lists`);
  await page.waitForLoadState('networkidle');
  await page.getByRole('link', { name: 'Stock list November' }).click();
  await page.waitForURL(/lists\/[0-9a-f-]+/);
  const list = page.url().split('?')[0];
  await page.goto(`${list}?verdict=pass&limit=cost:2:20&flag=multipack:no&sort=-profitPerMonth`);
  await page.waitForLoadState('networkidle');
  await page.waitForTimeout(1200);
  await shoot(page, 'list');
  const dark = await visitor({ colorScheme: 'dark' });
  await enter(dark);
  await sheet(dark);
  await shoot(dark, 'sheet-dark');
  const phone = await visitor({ viewport: { width: 390, height: 844 } });
  await enter(phone);
  await sheet(phone);
  await shoot(phone, 'sheet-phone');
  await phone.goto(`${base}/check`);
  await phone.locator('html[data-answers$="/check"]').waitFor({ state: 'attached' });
  for (const [code, price, what] of [
    ['9520000010034', '3.20', /^Keep/],
    ['9520000010041', '62', 'Leave'],
    ['9520000010058', '7.90', null],
  ]) {
    await phone.getByLabel('Barcode, listing code or name').fill(code);
    await phone.getByText(/^Permission:/).waitFor();
    await phone.getByLabel('On the shelf').fill(price);
    if (what !== null) await phone.getByRole('button', { name: what }).click();
  }
  await phone.getByText('Buy.').waitFor();
  await shoot(phone, 'check');
} finally {
  await browser.close();
  await demo.stop();
}
