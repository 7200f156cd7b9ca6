import ExcelJS from 'exceljs';
import { addProduct, at, bm, enterDemo, expect, newcomer, ready, setStandIn, test } from './help.ts';
import type { Page } from '@playwright/test';

/** The day that the server under test lives on. */
const today = Date.parse('2026-11-24');
const dayAgo = (n: number): string => new Date(today - n * 86_400_000).toISOString().slice(0, 10);
const monthAgo = (n: number): string => {
  const d = new Date(today);
  d.setUTCDate(1);
  d.setUTCMonth(d.getUTCMonth() - n);
  return d.toISOString().slice(0, 7);
};
/** Two years of prices: mostly 30, a week without an offer, a week at 8. */
const PRICES = [
  'Datum;Preis;Rang',
  ...Array.from({ length: 200 }, (_, i) => {
    const n = 199 - i;
    const price = n >= 60 && n < 67 ? '' : n >= 20 && n < 27 ? '8,00' : `${30 + (n % 3)},00`;
    return `${dayAgo(n)};${price};${4000 + n}`;
  }),
].join('\n');
/** Two years of searches, double from November to January. */
const months = Array.from({ length: 24 }, (_, i) => monthAgo(24 - i));
const winter = (month: string): boolean => ['11', '12', '01'].includes(month.slice(5));
const TERMS = [
  ['Term', ...months, 'Sales'],
  ['bird bath stoneware', ...months.map((m) => (winter(m) ? 900 : 450)), 40],
  ['bath', ...months.map(() => 90_000), 5],
];

const RIVALS = [
  'Code,Title,Brand,Price,Units,Ratings,Paid',
  'R1,Stone bath,Fenlow,25,300,40,',
  'R2,Oak bath,Fenlow,35,100,900,',
  'R3,Bath XL,,45,50,20,',
  'R4,Paid bath,,29,80,10,yes',
].join('\n');

async function openMarket(page: Page): Promise<string> {
  await page.getByRole('link', { name: 'Market', exact: true }).click();
  await page.waitForURL(/\/market/);
  await ready(page);
  return new URL(page.url()).pathname;
}
async function keepFile(
  page: Page,
  kind: string,
  file: string | { name: string; mimeType: string; buffer: Buffer },
): Promise<void> {
  await page.getByLabel('What it is').selectOption({ label: kind });
  await page.getByLabel('Choose a file').setInputFiles(file);
  await page.getByRole('button', { name: /^Keep .*row/ }).click();
  await expect(page.getByText(/^Kept:/)).toBeVisible();
}
const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test('three files made in a spreadsheet become evidence, without a feed, and feed the lane', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await addProduct(page, base);
  await openMarket(page);
  await expect(page.getByTestId('market-sentence')).toContainText('is not known yet');
  await page.getByRole('button', { name: 'Bring evidence in' }).click();
  await keepFile(page, 'Prices by day', csv('preise.csv', PRICES));
  const book = new ExcelJS.Workbook();
  book.addWorksheet('Searches').addRows(TERMS);
  const terms = test.info().outputPath('terms.xlsx');
  await book.xlsx.writeFile(terms);
  await keepFile(page, 'Terms and their volumes', terms);
  await keepFile(page, 'Rivals', csv('rivals.csv', RIVALS));
  await page.getByRole('button', { name: 'Close' }).click();
  const sentence = page.getByTestId('market-sentence');
  await expect(sentence).toContainText(/lost on 7 or more of 17\d/);

  // The season is of the ticked term; the broad one says nothing of it.
  await page.getByLabel('bird bath stoneware belongs to the product').check();
  await expect(sentence).toContainText('Nov to Jan');
  await expect(page.getByText('3 of 4 count, 1 paid and 0 others struck out')).toBeVisible();
  await expect(page.getByText(/place 2 of 4/).first()).toBeVisible();
  const kept = page.waitForResponse((r) => r.ok() && r.request().postData()?.includes('struck') === true);
  await page.getByLabel('Oak bath counts').uncheck();
  await expect(page.getByText('2 of 4 count, 1 paid and 1 others struck out')).toBeVisible();
  await expect(page.getByText(/place 2 of 3/).first()).toBeVisible();
  await kept;
  await page.reload();
  await ready(page);
  await expect(page.getByText('2 of 4 count, 1 paid and 1 others struck out')).toBeVisible();

  // Every figure is what the command line makes of the downloaded document.
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as a document' }).click(),
  ]);
  const file = test.info().outputPath('market.evidence.json');
  await download.saveAs(file);
  const rivals = bm<{ rows: number; columns: { price: { median: number } } }>('evidence', 'rivals', file);
  expect(rivals).toMatchObject({ rows: 2, columns: { price: { median: 35 } } });
  await expect(page.getByText(/middle €35\.00/)).toBeVisible();
  const season = bm<{ together: { season: { peaks: number[] } } }>('evidence', 'season', file);
  expect(season.together.season.peaks).toEqual([1, 11, 12]);
  const history = bm<{ windows: { 180: { days: number } }; bases: { trend: { price: number } } }>(
    'evidence',
    'history',
    file,
  );
  await expect(page.getByText(`${history.windows[180].days} priced days`)).toBeVisible();

  // One press each puts them into the lane, and the lane says where they come from.
  const row = page.getByRole('row', { name: /middle of 180 days/ });
  await row.getByRole('button', { name: 'Go by this price' }).click();
  await expect(row.getByText('in the lane')).toBeVisible();
  await page.getByRole('button', { name: 'Use in the lane' }).first().click();
  await expect(page.getByRole('status').filter({ hasText: 'Saved' })).toBeVisible();
  await page.getByRole('link', { name: 'Costs' }).click();
  await page.waitForURL(/\/weigh\/[0-9a-f-]{36}/);
  await ready(page);
  await expect(page.getByLabel('Price, EUR')).toHaveValue(String(history.bases.trend.price.toFixed(2)));
  await expect(page.getByText('wanted')).toBeVisible();
});

test('what is wrong with a file is said by row, and nothing of it is kept unasked', async ({ page }) => {
  const { base } = await newcomer(page);
  await addProduct(page, base);
  await openMarket(page);
  await page.getByRole('button', { name: 'Bring evidence in' }).click();
  await page.getByLabel('What it is').selectOption({ label: 'Prices by day' });
  const paste = page.getByLabel('Or paste or type rows, the header first');
  await paste.fill(`Day,Price\n${dayAgo(2)},cheap\n2999-01-01,9\n${dayAgo(1)},-4`);
  await expect(page.getByText('Row 2, Price: "cheap" is no number.', { exact: false })).toBeVisible();
  await expect(page.getByText('Row 3, Day: 2999-01-01 has not been yet.', { exact: false })).toBeVisible();
  await expect(page.getByText('Row 4, Price: -4 is below 0.', { exact: false })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep 0 rows' })).toBeDisabled();
  await paste.fill('Colour,Size\nred,5');
  await expect(page.getByText('No column is chosen for day.', { exact: false })).toBeVisible();
  await page
    .getByLabel('Choose a file')
    .setInputFiles({
      name: 'a.xlsx',
      mimeType: 'application/zip',
      buffer: Buffer.from('PK\u0003\u0004 no workbook'),
    });
  await expect(page.getByRole('alert').first()).toBeVisible();
  await page.reload();
  await ready(page);
  await expect(page.getByTestId('market-sentence')).toContainText(
    'At which price it stands is not known yet',
  );
});

test('in the demo the feed tells nine countries, and what is struck out follows at once', async ({
  page,
}) => {
  await enterDemo(page);
  await page
    .getByRole('link', { name: /^Bee house/ })
    .first()
    .click();
  await page.waitForURL(/weigh\/[0-9a-f-]{36}/);
  await ready(page);
  const path = await openMarket(page);
  // The worker asks the feed after the start; by hand it is asked at once.
  await page.getByRole('button', { name: 'Ask the feed' }).click();
  await expect(page.getByText(/things? (is|are) new/)).toBeVisible({ timeout: 20_000 });
  await expect(page.getByTestId('market-sentence')).toContainText('You may sell it.');
  await page.getByRole('button', { name: 'As a table' }).click();
  await expect(
    page.getByRole('region', { name: 'The margin over time' }).getByRole('row').nth(100),
  ).toBeVisible();
  await page.getByRole('button', { name: 'As a table' }).click();
  await page.goto(at(`${path}?all=1`));
  await ready(page);
  const rows = page.getByRole('region', { name: 'All countries' }).getByRole('row');
  await expect(rows).toHaveCount(10);
  // Where a figure comes from opens what was known before.
  await page.getByRole('button', { name: 'Germany' }).click();
  await page
    .getByRole('button', { name: /^from the feed/ })
    .first()
    .click();
  await expect(page.getByText(/^What was known: /)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take back' }).first()).toBeVisible();
});

test('a market is searched with limits, a search is kept, and a listing is weighed', async ({ page }) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/find/market`));
  await ready(page);
  await page.getByRole('link', { name: 'Set one' }).click();
  await page.waitForURL(/settings/);
  await ready(page);
  await setStandIn(page);
  await page.goto(at(`${base}/find/market`));
  await ready(page);
  await page.getByLabel('Words').fill('Laterne');
  await page.getByRole('button', { name: 'Limits' }).click();
  await page.getByRole('textbox', { name: 'to' }).nth(3).fill('300');
  await page.getByRole('button', { name: 'Search', exact: true }).click();
  await page.waitForURL(/reviewsTo=300/);
  await ready(page);
  const found = page.getByRole('region', { name: 'What was found' });
  await expect(found.locator('tbody tr').nth(6)).toBeVisible();
  const ratings = await found.locator('tbody tr td:nth-child(6)').allTextContents();
  expect(ratings.length).toBeGreaterThan(5);
  expect(ratings.every((x) => Number(x.replace(/\D/g, '')) <= 300)).toBe(true);
  await expect(found.getByText(/^under €/).first()).toBeVisible();
  await page.getByLabel('Keep this search as').fill('Lanterns');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('link', { name: 'Lanterns' })).toBeVisible();
  await page.getByRole('link', { name: 'Clear all' }).click();
  await page.waitForURL(/find\/market$/);
  await page.getByRole('link', { name: 'Lanterns' }).click();
  await page.waitForURL(/words=Laterne/);
  await ready(page);
  await page.getByRole('button', { name: 'Forget the search Lanterns' }).click();
  await expect(page.getByRole('link', { name: 'Lanterns' })).toHaveCount(0);
  await page
    .getByRole('button', { name: /^Weigh .*Laterne/ })
    .first()
    .click();
  await page.waitForURL(/weigh\/[0-9a-f-]{36}\/market/);
  await ready(page);
  await expect(page.getByLabel('Code of the listing')).not.toHaveValue('');
  await expect(page.getByLabel('People search for')).toHaveValue('Laterne');
});

test('listings are shortlisted and dropped with a reason, one leads to its neighbours and back', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/settings`));
  await ready(page);
  await setStandIn(page);
  const path = `${base}/find/market?market=Alderway%2FDE&words=Laterne&sort=units`;
  await page.goto(at(path));
  await ready(page);
  const found = page.getByRole('region', { name: 'What was found' });
  const row = (n: number) => found.locator('tbody tr').nth(n);
  const name = async (n: number): Promise<string> =>
    (await row(n).getByRole('link').first().textContent()) ?? '';
  const [first, second] = [await name(0), await name(1)];
  await row(0).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Shortlist', exact: true }).click();
  await expect(row(0)).toContainText('Shortlisted');
  await row(1).getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Drop', exact: true }).click();
  await page.getByLabel('Why it is dropped').fill('too heavy to send');
  await page.getByRole('button', { name: 'Drop', exact: true }).last().click();
  await expect(page.getByRole('button', { name: /One that was dropped is not shown/ })).toBeVisible();
  // Both are found again by what was decided, after a reload too.
  await page.getByRole('button', { name: 'Dropped (1)' }).click();
  await page.waitForURL(/list=dropped/);
  await expect(row(0)).toContainText('Dropped: too heavy to send');
  await expect(row(0).getByRole('link').first()).toHaveText(second);
  await page.goto(at(`${base}/find/market?market=Alderway%2FDE&list=shortlisted`));
  await ready(page);
  await expect(row(0).getByRole('link').first()).toHaveText(first);
  // From a row to its listing, to a neighbour, and back the way one came.
  await row(0).getByRole('link').first().click();
  await page.waitForURL(/find\/listing/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(first);
  const neighbours = page.getByRole('region', { name: 'What was found' }).last();
  const neighbour =
    (await neighbours.locator('tbody tr').first().getByRole('link').first().textContent()) ?? '';
  await neighbours.locator('tbody tr').first().getByRole('link').first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(neighbour);
  await page.goBack();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(first);
  await page.goBack();
  await page.waitForURL(/list=shortlisted/);
});

test('a feed of one’s own is tried when it is set; an address inside the network is refused', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/settings`));
  await ready(page);
  await page.getByLabel('Feed', { exact: true }).selectOption({ label: 'one of your own' });
  await page.getByLabel('Address', { exact: true }).fill('https://127.0.0.1/feed');
  await page.getByRole('button', { name: 'Keep and try' }).click();
  await expect(
    page.getByText('127.0.0.1 is in the private network of this server', { exact: false }),
  ).toBeVisible();
  await setStandIn(page);
});
