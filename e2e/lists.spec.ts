import AxeBuilder from '@axe-core/playwright';
import { readFileSync } from 'node:fs';
import { checkDigit } from '../core/goods/gtin.ts';
import { at, expect, newcomer, openDemoList, ready, test } from './help.ts';

const code = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + checkDigit(body);
};
const comma = (x: number): string => x.toFixed(2).replace('.', ',');
/**
 * A file as somebody makes it with a spreadsheet program: other headings, decimal commas, semicolons, a title
 * above.
 */
const ownFile = (): string =>
  [
    'Bestellliste März;;;;;;',
    'Artikel;EAN;Einkaufspreis;Verkaufspreis;Absatz/Monat;Gewicht (g);Maße',
    ...Array.from(
      { length: 60 },
      (_, i) =>
        `Vogelhaus ${i};${code(i)};${comma(2 + i / 7)};${comma(19.9 + (i % 5))};` +
        `${40 + i};${300 + 10 * i};20 x 15 x ${8 + (i % 6)}`,
    ),
    `Ohne Preis;${code(900)};;9,90;10;200;10 x 10 x 10`,
    `Zweimal;${code(3)};3,10;9,90;10;200;10 x 10 x 10`,
    'Falscher Code;9521234567890;3,10;9,90;10;200;10 x 10 x 10',
  ].join('\r\n');

test("a file of one's own: from drop to short list, kept rows and an exported file", async ({ page }) => {
  const { base } = await newcomer(page, { standing: 'Registered' });
  await page.goto(at(`${base}/find`));
  await page.getByRole('link', { name: 'Supplier lists' }).click();
  await expect(page.getByText('No list yet.')).toBeVisible();
  await ready(page);
  await page.setInputFiles('input[type=file]', {
    name: 'Bestellliste.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(ownFile()),
  });
  await page.waitForURL(/setup/);
  await ready(page);
  await expect(page.getByLabel(/^Barcode/)).toHaveValue('EAN');
  await expect(page.getByLabel(/^Purchase price/)).toHaveValue('Einkaufspreis');
  await expect(page.getByLabel('Decimals')).toHaveValue('comma');
  await expect(page.getByText('The header stands in row 2.')).toBeVisible();
  await expect(page.getByRole('cell', { name: '19.90', exact: true }).first()).toBeVisible();
  await page.getByLabel('Supplier').fill('Waldrand Versand');
  await page
    .getByLabel('Category where a row names none the card has')
    .selectOption({ label: 'Garden wildlife' });
  await page.getByRole('button', { name: 'Check the rows' }).click();
  await expect(page.getByText('63 rows: 60 good, 3 to mend.')).toBeVisible();
  await expect(page.getByText('1 purchase price')).toBeVisible();
  const mend = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Rows to mend, as a file' }).click();
  const refused = readFileSync((await (await mend).path()) as string, 'utf8');
  expect(refused).toContain('There is no purchase price');
  expect(refused).toMatch(/stands in row 6 already/);
  await page.getByRole('button', { name: 'Read the list' }).click();
  await page.waitForURL(/lists\/[0-9a-f-]+$/);
  await expect(page.getByText(/of 60 rows clear your hurdles/)).toBeVisible();
  await expect(page.getByRole('link', { name: '3 rows to mend' })).toBeVisible();
  await ready(page);

  // One row is opened and kept; the candidate's sheet says what the row said.
  await page.getByRole('row').nth(1).click();
  const pane = page.getByRole('region', { name: /Vogelhaus/ });
  const keeps = await pane.getByText(/^Keeps €/).innerText();
  await pane.getByRole('button', { name: 'Keep as candidate' }).click();
  await expect(page.getByText('1 kept as a candidate')).toBeVisible();
  await expect(page.getByText(/1 kept from this list/)).toBeVisible();
  await pane.getByRole('link', { name: 'Open it in Weigh' }).click();
  await page.waitForURL(/weigh\//);
  const amount = /€[\d.]+/.exec(keeps)?.[0] ?? 'nothing';
  await expect(page.getByTestId('answer')).toContainText(amount);
  await page.goBack();
  await ready(page);

  // Two are ticked into the shortlist, which leaves as a file.
  await page
    .getByRole('checkbox', { name: /^Tick row/ })
    .nth(2)
    .click();
  await page
    .getByRole('checkbox', { name: /^Tick row/ })
    .nth(4)
    .click({ modifiers: ['Shift'] });
  await expect(page.getByRole('toolbar', { name: '3 ticked' })).toBeVisible();
  await page.getByRole('button', { name: 'Shortlist', exact: true }).click();
  await page.getByRole('button', { name: '3 shortlisted' }).click();
  await expect(page.getByText('leaves 3')).toBeVisible();
  await page.getByRole('button', { name: /^Export/ }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: 'The shortlist as CSV' }).click();
  const csv = readFileSync((await (await download).path()) as string, 'utf8')
    .trim()
    .split('\r\n');
  expect(csv).toHaveLength(4);
  expect(csv[0]).toContain('Keeps a unit, EUR');
  expect(csv.slice(1).every((l) => l.includes('shortlisted'))).toBe(true);

  // The next list of this supplier is read the same way without asking.
  await page.goto(at(`${base}/lists`));
  await ready(page);
  await page.setInputFiles('input[type=file]', {
    name: 'April.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(ownFile()),
  });
  await page.waitForURL(/setup/);
  await ready(page);
  await expect(page.getByText('This is the very file you took in as')).toBeVisible();
  await page.getByRole('button', { name: 'Waldrand Versand' }).click();
  await expect(page.getByText('The columns are those of the last list of Waldrand Versand.')).toBeVisible();
});

test(
  'limits say what they take, stand in the address, and every row that went says why; assumptions ' +
    'answer at once',
  async ({ page }) => {
    const path = await openDemoList(page, 'Stock list November');
    await page.goto(at(`${path}?verdict=pass&limit=cost:2:15&sort=-margin`));
    await ready(page);
    await expect(page.getByText('All 6,000 rows')).toBeVisible();
    await expect(page.getByText(/^takes [\d,]+$/)).toHaveCount(2);
    const left = async (): Promise<number> =>
      Number(
        (
          await page
            .getByText(/^leaves /)
            .last()
            .innerText()
        ).replace(/\D/g, ''),
      );
    const before = await left();
    expect(before).toBeGreaterThan(10);
    await expect(page.getByRole('columnheader', { name: /Margin/ })).toHaveAttribute(
      'aria-sort',
      'descending',
    );
    // Tighter: fewer rows, and the address follows.
    await page.getByLabel('to, EUR').fill('8');
    await expect.poll(left).toBeLessThan(before);
    await expect(page).toHaveURL(/limit=cost%3A2%3A8/);
    await page.reload();
    await ready(page);
    await expect(page.getByLabel('to, EUR')).toHaveValue('8.00');
    // What went says which limit took it.
    await page.getByRole('button', { name: 'Show what went' }).click();
    await expect(page.getByText(/^Taken by/).first()).toBeVisible();
    await page.getByRole('button', { name: 'What is left' }).click();
    // A dearer way in, and fewer rows pay; the change is not kept here, so that the demo stays as it was.
    const sentence = page.getByText(/of 6,000 rows clear your hurdles/);
    const paying = async (): Promise<number> =>
      Number(/^[^\d]*([\d,]+) of/.exec(await sentence.innerText())?.[1]?.replaceAll(',', ''));
    const now = await paying();
    await page.route('**/act', (route) =>
      route.fulfill({
        status: 422,
        contentType: 'application/json',
        body: '{"error":"not kept in this test"}',
      }),
    );
    await page.getByRole('button', { name: 'Assumptions' }).click();
    await page.getByLabel('Inbound a unit, EUR').fill('3');
    await expect.poll(paying).toBeLessThan(now);
    // Near misses say what would clear them.
    await page.getByLabel('Inbound a unit, EUR').fill('0.2');
    await page.getByRole('button', { name: /^Near misses/ }).click();
    await page.getByRole('button', { name: 'Limits' }).click();
    await page.getByRole('button', { name: 'Clear all' }).click();
    await page.getByRole('button', { name: /^Near misses/ }).click();
    await expect(page.getByText(/pays at €[\d.]+ instead of €[\d.]+/).first()).toBeVisible();
  },
);

test('the very last row is reached by keyboard, and the first again', async ({ page }) => {
  const path = await openDemoList(page, 'Stock list November');
  await page.goto(at(`${path}?all=1&sort=line`));
  await ready(page);
  await expect(page.locator('.list-foot')).toContainText('6,000 rows');
  const grid = page.getByRole('grid', { name: 'Rows of the list' });
  await expect(grid).toHaveAttribute('aria-rowcount', '6001');
  await grid.focus();
  await page.keyboard.press('End');
  await expect(grid.locator('[aria-rowindex="6001"]')).toContainText(/\w+ \w+/);
  await page.keyboard.press('Home');
  await expect(grid.locator('[aria-rowindex="2"]')).toBeVisible();
});

test('what cannot be a list is refused with what to do, and leaves no list behind', async ({ page }) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/lists`));
  await ready(page);
  for (const [name, bytes, says] of [
    ['empty.csv', '', 'The file is empty'],
    [
      'junk.csv',
      Buffer.from(Array.from({ length: 4000 }, (_, i) => (i * 7919) % 31)),
      'The file is not CSV text',
    ],
    ['half.xlsx', Buffer.from([0x50, 0x4b, 3, 4, 1, 2, 3]), 'not a whole XLSX workbook'],
  ] as const) {
    await page.setInputFiles('input[type=file]', {
      name,
      mimeType: 'application/octet-stream',
      buffer: Buffer.from(bytes as string),
    });
    await expect(page.getByText(says)).toBeVisible();
  }
  await page.reload();
  await expect(page.getByText('No list yet.')).toBeVisible();
});

test('where nothing can be said to pay, the screen says what is lacking and leads there', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/lists`));
  await ready(page);
  const file = [
    'EAN;Artikel;EK',
    ...Array.from({ length: 30 }, (_, i) => `${code(2000 + i)};Futterhaus ${i};${3 + i},50`),
  ].join('\n');
  await page.setInputFiles('input[type=file]', {
    name: 'ohne-alles.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(file),
  });
  await page.waitForURL(/setup/);
  await ready(page);
  await page.getByRole('button', { name: 'Read the list' }).click();
  await page.waitForURL(/lists\/[0-9a-f-]+$/);
  await expect(
    page.getByRole('heading', { name: 'No row can be said to pay: 30 cannot be told yet.' }),
  ).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: '30 rows' }).first()).toBeVisible();
  await expect(page.getByText(/bring market figures of your own there/)).toBeVisible();
  await page.getByRole('button', { name: 'Show what cannot be told' }).click();
  await expect(page.getByRole('button', { name: /^Unknown 30/ })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByText('no shelf price').first()).toBeVisible();
});

test('of several listings one is chosen by hand, and the row answers; the rule of the list can be had back', async ({
  page,
}) => {
  const path = await openDemoList(page, 'Preisliste Winter');
  await page.goto(at(`${path}?flag=severalListings:yes&sort=line`));
  await ready(page);
  const row = page.getByRole('row').nth(1);
  const price = async (): Promise<string> =>
    (/\b\d+\.99\b/.exec((await row.innerText()).replaceAll('\n', ' ')) ?? [''])[0];
  const before = await price();
  await row.click();
  const listings = page.getByRole('group', { name: 'Listings of this barcode in your market figures' });
  await expect(listings.getByRole('radio')).toHaveCount(2);
  await listings.getByRole('radio', { checked: false }).click();
  await expect.poll(price).not.toBe(before);
  expect(Number(await price()) - Number(before)).toBe(2);
  await listings.getByRole('button', { name: 'By the rule of the list' }).click();
  await expect.poll(price).toBe(before);
});

test('columns are dragged and moved with keys, and what the file says beside can stand among them', async ({
  page,
}) => {
  await openDemoList(page, 'Autumn range');
  await ready(page);
  // The demo stays as it was.
  await page.route('**/act', (route) =>
    route.fulfill({
      status: 422,
      contentType: 'application/json',
      body: '{"error":"not kept in this test"}',
    }),
  );
  const heads = async (): Promise<string[]> =>
    (await page.getByRole('columnheader').allInnerTexts()).map((h) => h.replace(/ [↓↑]\d?$/, '')).slice(1, 6);
  await expect.poll(heads).toEqual(['Title', 'The price', 'Hurdles', 'Keeps a unit', 'Margin']);
  await page
    .getByRole('button', { name: 'Margin', exact: true })
    .dragTo(page.getByRole('columnheader', { name: 'Hurdles' }));
  await expect.poll(heads).toEqual(['Title', 'The price', 'Margin', 'Hurdles', 'Keeps a unit']);
  await page.getByRole('button', { name: 'Margin', exact: true }).press('Alt+ArrowRight');
  await expect.poll(heads).toEqual(['Title', 'The price', 'Hurdles', 'Margin', 'Keeps a unit']);
  await page.getByRole('button', { name: /^View/ }).click();
  await page.getByRole('menuitem', { name: 'Columns' }).click();
  for (const name of ['Finish', 'Link']) await page.getByRole('checkbox', { name, exact: true }).click();
  for (let i = 0; i < 12; i++) await page.getByRole('button', { name: 'Finish: to the left' }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(
    page.getByRole('gridcell', { name: /^(terracotta|glazed|larch|coir|felt|slate)$/ }).first(),
  ).toBeVisible();
  await expect(page.getByRole('link', { name: 'Open the page' }).first()).toHaveAttribute(
    'href',
    /^https:\/\/brindle-vale\.example\/\d+$/,
  );
});

test('a row says what larger orders keep, and shows itself at one', async ({ page }) => {
  const path = await openDemoList(page, 'Autumn range');
  await page.goto(at(`${path}?all=1&sort=line`));
  await ready(page);
  await page.getByRole('row').nth(1).click();
  const orders = page.getByRole('group', { name: 'In larger orders' });
  await expect(orders.getByRole('radio')).toHaveCount(2);
  await expect(orders.getByRole('radio').first()).toBeChecked();
  const pane = page.getByRole('region', { name: /\w+ \w+ \d+/ }).last();
  // Ten are asked for, and six make a carton.
  const order = pane.locator('.figures div').filter({ hasText: 'To order' });
  await expect(order).toContainText('12');
  await orders.getByRole('radio').last().click();
  await expect(order).toContainText('48');
});

test('goods without a barcode are matched, decided by a key, and counted where one looks', async ({
  page,
}) => {
  await openDemoList(page, 'Preisliste Winter');
  await page.getByRole('link', { name: /without a barcode: match/ }).click();
  await page.waitForURL(/match/);
  await ready(page);
  const match = page.getByRole('button', { name: /^Match (them|again)$/ });
  await match.click();
  await expect(match).toHaveText('Match again');
  await expect(page.getByTestId('matching-answer')).toBeVisible();
  await expect(page.getByTestId('match-reason')).toContainText('likely: brand and title are near');
  const row = page.getByRole('heading', { name: /^In the list, row/ });
  const first = await row.innerText();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Decided 1' })).toBeVisible();
  await expect(row).not.toHaveText(first);
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
  await page.keyboard.press('u');
  await expect(page.getByRole('link', { name: 'Decided 0' })).toBeVisible();
});
