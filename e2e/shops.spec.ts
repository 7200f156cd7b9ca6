import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { at, enterDemo, DEMO, expect, newcomer, ready, saved, setStandIn, test } from './help.ts';

async function accessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
}

test('from an empty workspace: a shop’s catalogue becomes a list, a second look, an order that fits, a mail', async ({
  page,
}) => {
  test.slow();
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/settings`));
  await ready(page);
  await setStandIn(page);
  await page.getByLabel(/Cash at hand/).fill('2000');
  await saved(page);
  await page.goto(at(`${base}/lists`));
  await ready(page);
  await page.getByRole('link', { name: 'Read a shop’s catalogue' }).click();
  await page.waitForURL(/lists\/shop/);
  await ready(page);
  await accessible(page);
  await page.getByRole('checkbox', { name: /^Bienenhaus/ }).check();
  await page.getByRole('checkbox', { name: /^Nistkasten \d/ }).check();
  await page.getByLabel('Cheaper than, EUR').fill('5');
  await page.getByLabel('Sold on').selectOption({ label: 'Alderway DE' });
  await page.getByLabel('Discount on everything, %').fill('10');
  await expect(page.getByText(/^About \d+ goods of 2 categories of Haldern Gartenlager/)).toBeVisible();
  await page.getByRole('button', { name: 'Read them' }).click();
  await page.waitForURL(/lists\/[0-9a-f-]{36}$/);
  // Rows stand there while listings of goods without a barcode are still looked for.
  await expect(page.getByText(/clear your hurdles/)).toBeVisible();
  const list = page.url();
  await expect(page.getByRole('button', { name: 'Read the shop again' })).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText(/left out \(.*not in stock: \d+/)).toBeVisible();

  const rows = page.getByRole('grid').getByRole('checkbox');
  for (let i = 1; i <= 5; i++) await rows.nth(i).check();
  await page.getByRole('button', { name: 'Look closer' }).click();
  await page.waitForURL(/closer$/);
  await expect(page.getByText(/of 5 ha(s|ve) nothing that speaks against/)).toBeVisible({ timeout: 60_000 });
  await accessible(page);
  const looked = page.getByRole('region', { name: 'A second look' }).getByRole('checkbox');
  await expect(looked).toHaveCount(5);
  for (let i = 0; i < 5; i++) await looked.nth(i).check();
  await page.getByRole('button', { name: 'Shortlist' }).click();
  await expect(page.getByText('shortlisted').first()).toBeVisible();

  await page.goto(at(`${base}/order/new`));
  await ready(page);
  const goods = page.getByRole('checkbox', { name: /Bienenhaus|Nistkasten/i });
  await expect(goods).toHaveCount(5);
  for (let i = 0; i < 5; i++) await goods.nth(i).check();
  await page.getByRole('button', { name: 'Make drafts of 5' }).click();
  await page.waitForURL(/order\/[0-9a-f-]{36}/);
  await ready(page);
  await expect(page.getByLabel('Supplier', { exact: true })).toHaveValue('Haldern Gartenlager');
  const units = page.getByLabel(/^Units, /);
  await expect(units).toHaveCount(5);
  for (let i = 0; i < 5; i++) await units.nth(i).fill('4');
  await page.getByLabel(/^Delivery, EUR/).fill('12');
  await expect(page.getByTestId('order-answer')).toContainText('5 lines come to €');
  await expect(page.getByTestId('order-answer')).toContainText('to order with.');
  await saved(page);
  const pdf = await page.request.get(`${page.url()}/file?as=pdf`);
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  await page.getByRole('button', { name: 'Send by mail' }).click();
  const dialog = page.getByRole('dialog');
  const subject = `Order of five lines ${Date.now()}`;
  await dialog.getByLabel('Subject').fill(subject);
  await dialog.getByRole('button', { name: 'Send', exact: true }).click();
  type Letter = { to: string; subject: string };
  const mine = async (): Promise<Letter[]> =>
    ((await (await page.request.get(`${process.env.E2E_OUTSIDE}/mail.json`)).json()) as Letter[]).filter(
      (l) => l.subject === subject,
    );
  await expect.poll(mine, { timeout: 30_000 }).toMatchObject([{ to: 'bestellung@haldern.example' }]);

  // What was ordered is marked, and reading the shop again finds what changed: nothing, on the same day.
  await page.goto(list);
  await ready(page);
  await page.getByRole('button', { name: 'Read the shop again' }).click();
  await page.waitForURL((url) => /lists\/[0-9a-f-]{36}$/.test(url.pathname) && url.href !== list);
  await expect(page.getByText(/0 new, 0 dearer, 0 cheaper/)).toBeVisible({ timeout: 90_000 });
  await page.getByRole('link', { name: 'Shop and terms' }).click();
  await page.waitForURL(/lists\/shop\?shop=haldern/);
  await ready(page);
  await expect(page.getByRole('checkbox', { name: /^Bienenhaus/ })).toBeChecked();
  await expect(page.getByLabel('Cheaper than, EUR')).toHaveValue('5.00');
  await expect(page.getByText(/what has changed since last time will be said/)).toBeVisible();
});

test('another seller’s shop: from a listing to what sells there, followed, and on to who else sells it', async ({
  page,
}) => {
  await enterDemo(page);
  await page.goto(at(`${DEMO}/find/market?market=Alderway/DE&words=Bienenhaus`));
  await ready(page);
  const link = page.locator('a[href*="seller="]').first();
  const name = await link.innerText();
  await link.click();
  await page.waitForURL(/find\/seller/);
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  await expect(page.getByText(/listings sell about/)).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Follow', exact: true }).click();
  await expect(page.getByText(/Followed since .* nothing has changed/)).toBeVisible();
  await page.goto(at(`${DEMO}/find/seller`));
  await ready(page);
  await page.getByRole('main').getByRole('link', { name }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  await page.getByRole('button', { name: 'No longer follow' }).click();
  await expect(page.getByRole('button', { name: 'Follow', exact: true })).toBeVisible();
  const other = page
    .locator('section', { hasText: 'Who else sells its best goods' })
    .last()
    .getByRole('link')
    .first();
  const next = await other.innerText();
  await other.click();
  await expect(page.getByRole('heading', { level: 1, name: next })).toBeVisible();
});
