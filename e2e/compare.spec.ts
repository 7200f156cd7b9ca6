import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import {
  addProduct,
  answer,
  at,
  DEMO,
  enterDemo,
  expect,
  fillsPaper,
  newcomer,
  ready,
  saved,
  searchFor,
  test,
} from './help.ts';

async function openComparison(page: Page, name: string): Promise<void> {
  await enterDemo(page);
  await page.getByRole('link', { name, exact: true }).click();
  await answer(page).waitFor();
  await ready(page);
  await page.getByRole('link', { name: 'Side by side' }).click();
  await page.getByTestId('compare-answer').waitFor();
  await ready(page);
}
const lanes = (page: Page) => page.locator('.compared');

test('lanes on one scale: best first, sorted, grouped, per 100, in local currency, all in the address', async ({
  page,
}) => {
  await openComparison(page, 'Bee house, larch, three chambers');
  await expect(page.getByTestId('compare-answer')).toContainText(
    /is best by unit profit: €\d+\.\d\d\. \d of 9 lanes keep something/,
  );
  await expect(lanes(page)).toHaveCount(9);
  const keeps = async (): Promise<number[]> =>
    (await page.locator('.compared .num:nth-child(5) b').allInnerTexts()).map((x) =>
      Number(x.replace('−', '-')),
    );
  const first = await keeps();
  expect(first).toEqual([...first].sort((a, b) => b - a));
  await page.getByRole('button', { name: 'Turn the order' }).click();
  await expect.poll(keeps).toEqual([...first].reverse());
  await page.getByLabel('Grouped by').selectOption('marketplace');
  await expect(page.locator('.compared-group')).toHaveCount(3);
  await page.getByLabel('Bars').selectOption('hundred');
  await page.getByLabel('Figures in').selectOption('local');
  await expect(page).toHaveURL(/group=marketplace.*per=hundred.*currency=local/);
  await expect(page.getByText('zł').first()).toBeVisible();
  await page.reload();
  await expect(page.locator('.compared-group')).toHaveCount(3);
});

test('several lanes are ticked: shown alone, dropped together, and brought back', async ({ page }) => {
  await openComparison(page, 'Bee house, larch, three chambers');
  const all = await lanes(page).count();
  for (const where of ['France · Alderway', 'Italy · Alderway'])
    await page
      .getByRole('checkbox', { name: `Tick ${where}` })
      .first()
      .check();
  const ticked = page.getByRole('toolbar', { name: '2 lanes ticked' });
  await ticked.getByRole('button', { name: 'Show only these' }).click();
  await expect(lanes(page)).toHaveCount(2);
  await expect(page.getByText(`2 of ${all} lanes shown.`)).toBeVisible();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(lanes(page)).toHaveCount(all);
});

test('why one keeps less than another: the lines add up to the difference', async ({ page }) => {
  await openComparison(page, 'Bee house, larch, three chambers');
  await page.getByRole('button', { name: 'Compare the others with Germany · Alderway' }).click();
  await lanes(page).filter({ hasText: 'France' }).click();
  const pane = page.getByTestId('differences');
  await expect(pane).toContainText(
    /Why does France · Alderway keep €\d+\.\d\d (less|more) than Germany · Alderway\?/,
  );
  const amounts = (await pane.locator('div > div:nth-child(2)').allInnerTexts())
    .filter((x) => /^[+−]?\d+\.\d\d$/.test(x.trim()))
    .map((x) => Number(x.replace('−', '-')));
  const total = Number((await page.getByTestId('difference-total').innerText()).replace('−', '-'));
  expect(amounts.length).toBeGreaterThan(2);
  expect(Math.round(amounts.reduce((s, x) => s + x, 0) * 100) / 100).toBe(total);
});

test('by keyboard alone: pin a lane, ask why another differs; converted figures name their rates', async ({
  page,
}) => {
  await openComparison(page, 'Bee house, larch, three chambers');
  await expect(page.getByTestId('rates-used')).toContainText(
    /Converted at .*1 GBP = 1\.\d+ EUR \(\d+ Nov 2026, \d+ days? old\)/,
  );
  await page.getByRole('button', { name: 'Compare the others with Germany · Alderway' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Why France · Alderway differs' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('differences')).toContainText(/Why does France · Alderway keep/);
  await page.getByRole('tab', { name: 'Grid' }).click();
  await expect(page.getByRole('tab', { name: 'Grid' })).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByTestId('differences')).toHaveCount(0);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'This table as CSV' }).click(),
  ]);
  const csv = readFileSync(await download.path(), 'utf8');
  expect(csv.split('\r\n')[0]).toMatch(/^\ufeffCountry,Alderway,/);
  expect(csv).toMatch(/\r\nDE,-?\d+\.\d+,/);
});

test('shops for the same goods step by step: the order of discounts is seen, switched and saved', async ({
  page,
}) => {
  await openComparison(page, 'Nest box camera, clearance');
  await page.getByRole('tab', { name: 'Suppliers' }).click();
  const shops = page.getByRole('region', { name: 'Shops step by step' }).first();
  await expect(page.getByTestId('retail-answer')).toHaveText(
    'Gartenmarkt am Ring is cheapest after everything: €24.56 landed.',
  );
  const row = (name: string) =>
    shops.getByRole('row').filter({ has: page.getByRole('rowheader', { name, exact: true }) });
  await expect(row('Discount 2')).toContainText('29.18');
  await expect(row('Paid at the till')).toContainText('30.97');
  await ready(page);
  await shops.getByRole('button', { name: 'Order of the discounts at Osttor Restposten' }).click();
  // (54.90 - 12) less a quarter, instead of three quarters less 12
  await expect(row('Paid at the till')).toContainText('32.18');
  await page.reload();
  await expect(row('Paid at the till')).toContainText('32.18');
  await ready(page);
  await shops.getByRole('button', { name: 'Order of the discounts at Osttor Restposten' }).click();
  await expect(row('Paid at the till')).toContainText('29.18');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    shops.getByRole('button', { name: 'This table as XLSX' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Shops step by step.xlsx');
});

test('what if freight trebles: every lane answers at once, nothing is saved; a quantity can be', async ({
  page,
}) => {
  await openComparison(page, 'Bee house, larch, three chambers');
  const before = await lanes(page).first().innerText();
  await page.getByRole('slider').focus();
  for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText('× 3', { exact: true })).toBeVisible();
  await expect.poll(() => lanes(page).first().innerText()).not.toBe(before);
  await expect(page).toHaveURL(/freight=3/);
  await page.getByRole('button', { name: 'As it is' }).click();
  await expect.poll(() => lanes(page).first().innerText()).toBe(before);
});

test('grid, prices, routes and quotes of one product', async ({ page }) => {
  await openComparison(page, 'Bee house, larch, three chambers');
  await page.getByRole('tab', { name: 'Grid' }).click();
  await expect(
    page.getByRole('row').filter({ hasText: 'Germany' }).getByRole('button').first(),
  ).toBeVisible();
  await page.getByRole('tab', { name: 'Routes' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'By sea to' })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'By air to' })).toBeVisible();
  await page.getByRole('tab', { name: 'Suppliers' }).click();
  await expect(page.getByTestId('quotes-answer')).toContainText(
    /Cheapest landed: .+\. (From [\d,]+ units on .+ is cheapest\.)/,
  );
  await page.getByLabel('Quantity', { exact: true }).fill('100');
  await expect(page.getByRole('row').filter({ hasText: 'Haiyu' })).toContainText('takes no order of 100');
  await page.getByRole('tab', { name: 'Prices' }).click();
  await expect(page.getByTestId('spread')).toContainText(/The shelf prices lie \d+% apart/);
  await page.getByLabel('Set by').selectOption('margin');
  await page.getByLabel('Margin wanted, %').fill('30');
  await expect(page.getByRole('row').filter({ hasText: 'Poland' })).toContainText(/zł\s?\d+\.99/);
});

test('prices set across lanes, lanes dropped and brought back', async ({ page }) => {
  const { base } = await newcomer(page);
  await addProduct(page, base, { name: 'Toad house', price: '24.90', cost: '5' });
  const candidate = page.url().split('?')[0] as string;
  await page.goto(`${candidate}/add-lanes?m=Alderway%2FFR&m=Alderway%2FES&f=warehouse`);
  await ready(page);
  await page.getByLabel('Alderway Italy').check();
  await ready(page);
  await page.getByRole('button', { name: 'Make 3 lanes' }).click();
  await page.waitForURL(/\/compare$/);
  await expect(lanes(page)).toHaveCount(4);
  await page.getByRole('button', { name: 'Drop Italy · Alderway' }).click();
  await expect(lanes(page)).toHaveCount(3);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(lanes(page)).toHaveCount(4);
  for (const where of ['Italy · Alderway', 'Spain · Alderway'])
    await page.getByRole('checkbox', { name: `Tick ${where}` }).check();
  await page.getByRole('button', { name: 'Drop these lanes' }).click();
  await expect(lanes(page)).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(lanes(page)).toHaveCount(4);
  await page.getByRole('tab', { name: 'Prices' }).click();
  await page.getByLabel('Shelf price, EUR').fill('31.5');
  await page.getByRole('button', { name: 'Set these prices on 4 lanes' }).click();
  await expect(page.getByText('The prices are set.')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('row').filter({ hasText: 'Spain' })).toContainText('€31.99');
});

test('scenarios, price ladder, variations, how sure, a second quote and a route by card on the sheet', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await addProduct(page, base, { name: 'Toad house', price: '24.90', cost: '5' });
  const sheet = page.url().split('?')[0] as string;
  await page.goto(`${sheet}?more=scenarios`);
  await ready(page);
  // The part loads on demand; it answers once it has.
  await expect(async () => {
    await page.getByLabel('Name of a scenario').fill('');
    await page.getByLabel('Name of a scenario').fill('Dearer, fewer');
    await expect(page.getByRole('button', { name: 'Keep this lane as a scenario' })).toBeEnabled({
      timeout: 1000,
    });
  }).toPass();
  await page.getByRole('button', { name: 'Keep this lane as a scenario' }).click();
  const row = page.getByRole('row').filter({ hasText: 'Dearer, fewer' });
  await row.getByRole('button', { name: 'Open' }).click();
  await expect(page.getByText('You are in the scenario "Dearer, fewer".')).toBeVisible();
  await page.getByLabel('Price, EUR', { exact: true }).fill('29.90');
  await saved(page);
  await expect(row).toContainText('€29.90');
  await expect(row).toContainText(/\+\d\.\d\d/);
  await page.getByRole('button', { name: 'Back to the lane' }).click();
  await expect(page.getByLabel('Price, EUR', { exact: true })).toHaveValue('24.90');

  await page.getByRole('button', { name: 'Price ladder' }).click();
  await page.getByLabel(/Rivals' prices/).fill('19.90; 27');
  await page.getByLabel(/Rivals' prices/).blur();
  await expect(page.getByRole('row').filter({ hasText: 'rival' })).toHaveCount(2);
  await expect(page.getByText(/Price cushion|There is no cushion/)).toBeVisible();

  await page.getByRole('button', { name: 'Variations' }).click();
  await page.getByRole('button', { name: 'Add a row' }).click();
  const grid = page.getByRole('grid', { name: 'Variations' });
  await grid.focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', 'Green\t24.90\t5\t\t\t70%\t\nRed\t24.90\t19\t\t\t30%\t');
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByTestId('variations-answer')).toContainText(
    /1 of 2 keep something\. Over all, a unit keeps/,
  );
  await saved(page);

  await page.getByRole('button', { name: 'How sure' }).click();
  await expect(page.getByTestId('sure-answer')).toContainText(/\d+% of the costs rest on guesses/);

  await page.getByRole('button', { name: 'Way in', exact: true }).click();
  await searchFor(page.getByLabel('Taken from'), 'By air to Germany');
  await saved(page);
  await expect(page.getByLabel('Taken from')).toHaveValue('By air to Germany');
  await page.getByRole('button', { name: 'Goods', exact: true }).click();
  await page.getByRole('button', { name: 'Ask another supplier: a new quote' }).click();
  await expect(page.getByLabel('Bought on')).toBeVisible();
  await page.reload();
  await ready(page);
  await page.goto(`${sheet}?more=variations`);
  await expect(page.getByRole('gridcell', { name: 'Green' })).toBeVisible();
});

test('suppliers with everything bought there', async ({ page }) => {
  await enterDemo(page);
  await page.goto(at(`${DEMO}/suppliers`));
  await ready(page);
  await page.getByRole('link', { name: /Haiyu Garden Crafts/ }).click();
  await page.waitForURL(/name=Haiyu/);
  await ready(page);
  await expect(page.getByRole('row').filter({ hasText: 'Bee house' })).toContainText(
    /from 400: (US)?\$5\.60/,
  );
  await page.getByLabel('Contact').fill('Ms Bao, export');
  const [saved_] = await Promise.all([
    page.waitForResponse((r) => r.request().method() === 'POST'),
    page.getByRole('button', { name: 'Save' }).click(),
  ]);
  expect(saved_.ok()).toBe(true);
  await ready(page);
  await page.reload();
  await expect(page.getByLabel('Contact')).toHaveValue('Ms Bao, export');
  const csv = await (await page.request.get(at(`${DEMO}/suppliers/file?as=csv`))).text();
  expect(csv).toContain('Haiyu Garden Crafts,CN,"Bee house, larch, three chambers",USD,FOB,6.1');
});

test('to print: every lane, nothing around it', async ({ page }) => {
  await openComparison(page, 'Bee house, larch, three chambers');
  await page.goto(`${page.url()}?print=1`);
  await expect(lanes(page)).toHaveCount(9);
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeHidden();
  await expect(page.getByText('Bee house, larch, three chambers, 9 lanes, 24 Nov 2026')).toBeVisible();
  await fillsPaper(page, lanes(page).first());
});
