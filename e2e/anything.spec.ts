import type { Page } from '@playwright/test';
import { at, DEMO, enterDemo, expect, newcomer, ready, test } from './help.ts';

const start = (page: Page) => page.getByLabel(/^Barcode, listing code, page address/);

test('a barcode leads to its listing, and back to where one was', async ({ page }) => {
  await enterDemo(page);
  await page.goto(at(`${DEMO}/find`));
  await ready(page);
  await start(page).fill('9520000010010');
  await expect(page.getByText('A barcode.')).toBeVisible();
  // The product that follows the listing of this barcode is known already.
  await expect(page.getByRole('search').getByRole('link', { name: /^Bee house/ })).toBeVisible();
  const listing = page
    .getByRole('search')
    .getByRole('link', { name: /Bienenhaus/ })
    .first();
  await listing.click();
  await expect(page).toHaveURL(/find\/listing\?.*code=/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Bienenhaus');
  await page.goBack();
  await ready(page);
  await start(page).fill('9520000010011');
  await expect(page.getByText(/its last digit does not fit/)).toBeVisible();
  await start(page).fill('https://alderway.example/listing/LT000001');
  await expect(page.getByText('The page of a listing on Alderway/DE.')).toBeVisible();
  await start(page).fill('https://elsewhere.example/LT000001');
  await expect(page.getByText(/No marketplace here has pages at elsewhere.example/)).toBeVisible();
});

test('the command bar takes a barcode: to a new product that has it, known from then on', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await page.keyboard.press('Control+k');
  const bar = page.getByRole('combobox', { name: 'Search or type a command' });
  await bar.fill('9521000000001');
  await page.getByRole('option', { name: 'Weigh a new product with this barcode' }).click();
  await expect(page.getByLabel('Barcode', { exact: true })).toHaveValue('9521000000001');
  await page.getByLabel('Product', { exact: true }).fill('Cork mat');
  await page.getByRole('button', { name: 'Add and open its sheet' }).click();
  await page.waitForURL(/weigh\/[^/]+$/);
  await page.goto(at(`${base}/find`));
  await ready(page);
  await start(page).fill('9521000000001');
  await expect(page.getByRole('search').getByRole('link', { name: 'Cork mat' })).toBeVisible();
});

test('rows pasted where one begins are read as rows', async ({ page }) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/find`));
  await ready(page);
  await page.evaluate(() => navigator.clipboard.writeText('9521000000001\tPot\t12\t3\n\tJug\t15\t4\n'));
  await start(page).focus();
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('cell', { name: 'Pot · 9521000000001' })).toBeVisible();
});
