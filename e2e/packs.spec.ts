import { at, expect, newcomer, ready, searchFor, test } from './help.ts';
import type { Page } from '@playwright/test';

const FEES = `Tier→Weight→Fee
Small→up to 1 lb→$2.50
Small→up to 2 lb→$2.90`.replaceAll('→', '\t');

async function ownMarket(page: Page, base: string): Promise<void> {
  await page.goto(at(`${base}/rates/read`));
  await ready(page);
  await page.getByLabel('Marketplace', { exact: true }).fill('Ostrelle');
  await searchFor(page.getByLabel('Country'), 'Portugal');
  await page.getByLabel('Currency').fill('US Dollar');
  await page.getByRole('option', { name: 'US Dollar' }).first().click();
  await page.getByLabel('Takes of a sale').fill('12');
  await page.getByLabel('What you gave').fill(FEES);
  await page.getByLabel('Add one: size, weight, what it cost').fill('10 x 8 x 3 in, 1.5 lb, 2.90');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await page.getByRole('button', { name: /^Put in force from/ }).click();
  await page.waitForURL(/rates\?card=/);
  await ready(page);
}

test('cards go with their proofs from one workspace to another, and nothing there is overwritten', async ({
  page,
  browser,
}) => {
  const { base } = await newcomer(page);
  await ownMarket(page, base);
  await page.getByRole('link', { name: 'Packs' }).click();
  await page.waitForURL(/rates\/packs/);
  await ready(page);
  // One's own cards are in it, the examples are not.
  await expect(page.getByLabel('Ostrelle PT')).toBeChecked();
  await expect(page.getByLabel('Alderway DE')).not.toBeChecked();
  await page.getByLabel('Name of the pack').fill('Our cards');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as zip' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Our cards.zip');
  const file = test.info().outputPath('pack.zip');
  await download.saveAs(file);

  const other = await (await browser.newContext()).newPage();
  const there = await newcomer(other);
  await other.goto(at(`${there.base}/rates/packs`));
  await ready(other);
  await other.getByLabel('Choose a pack (JSON or zip)').setInputFiles(file);
  const row = other.getByRole('row', { name: /Ostrelle PT/ });
  await expect(row).toContainText('new to you');
  await expect(row).toContainText('one new proof');
  await other.getByRole('button', { name: /^Take in \d cards$/ }).click();
  await expect(other.getByRole('alert')).toContainText('2 cards in force, one proof');
  await other.goto(at(`${there.base}/rates?kind=marketplace&key=Ostrelle/PT`));
  await ready(other);
  await expect(other.getByText(/From a pack: Thornbury Garden Post/)).toBeVisible();
  await expect(other.getByText('It meets your one proof.')).toBeVisible();

  // What is no pack says so; nothing is taken in.
  await other.goto(at(`${there.base}/rates/packs`));
  await ready(other);
  await other
    .getByLabel('Choose a pack (JSON or zip)')
    .setInputFiles({ name: 'a.json', mimeType: 'application/json', buffer: Buffer.from('{"a":1}') });
  await expect(other.getByRole('alert')).toContainText('This pack cannot be taken in');
  await other.context().close();
});

test('a forwarder’s quote becomes a freight card; the invented examples can be hidden', async ({ page }) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/rates/read`));
  await ready(page);
  await page.getByLabel('Read into').selectOption('freight');
  await page.getByLabel('Name of the card').fill('Sea, Ningbo');
  await searchFor(page.getByLabel('From country'), 'China');
  await page
    .getByLabel('What you gave')
    .fill('Charge\tAmount\nOcean freight\t95.00 per CBM\nTHC\t38.00 per CBM\nTransit time\t34 days');
  await expect(page.getByTestId('read-sentence')).toContainText('One can be read two ways.');
  await page.getByRole('button', { name: 'It is paid at the destination' }).click();
  await page.getByRole('button', { name: /^Put in force from/ }).click();
  await page.waitForURL(/rates\?card=/);
  await ready(page);
  await expect(page.getByRole('heading', { name: 'Sea, Ningbo' })).toBeVisible();
  await expect(page.getByText('Ocean freight')).toBeVisible();

  await page.getByRole('button', { name: 'Hide the invented ones' }).click();
  await expect(page.getByRole('link', { name: 'Alderway DE' })).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Germany' })).toBeVisible();
  await page.getByRole('button', { name: 'Show the invented ones' }).click();
  await expect(page.getByRole('link', { name: 'Alderway DE' })).toBeVisible();
});
