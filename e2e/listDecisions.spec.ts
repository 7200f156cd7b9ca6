import type { Page } from '@playwright/test';
import type ExcelJS from 'exceljs';
import { checkDigit } from '../core/goods/gtin.ts';
import { importFile, openCard, workbook } from './cardSteps.ts';
import { at, expect, newcomer, ready, test } from './help.ts';

const code = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + checkDigit(body);
};

/** A list of so many bird houses, read in a workspace of one's own; returns its path. */
async function readOwnList(page: Page, base: string, rows: number): Promise<string> {
  const lines = Array.from(
    { length: rows },
    (_, i) => `Bird house ${i},${code(i)},${(3 + i / 9).toFixed(2)},24.90,${20 + i},400,20 x 15 x 8`,
  );
  await page.goto(at(`${base}/lists`));
  await ready(page);
  await page.setInputFiles('input[type=file]', {
    name: 'Bird houses.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      ['Title,Barcode,Net price,Shelf price,Units a month,Weight g,Size', ...lines].join('\n'),
    ),
  });
  await page.waitForURL(/setup/);
  await ready(page);
  await page
    .getByLabel('Category where a row names none the card has')
    .selectOption({ label: 'Garden wildlife' });
  await page.getByRole('button', { name: 'Read the list' }).click();
  await page.waitForURL(/lists\/[0-9a-f-]+$/);
  await expect(page.getByText(`of ${rows} rows clear your hurdles`)).toBeVisible();
  await ready(page);
  return new URL(page.url()).pathname;
}

test('all rows shown are ticked at once, also those not in view, and dropped with one reason', async ({
  page,
}) => {
  const { base } = await newcomer(page, { standing: 'Registered' });
  const path = await readOwnList(page, base, 140);
  await page.goto(at(`${path}?all=1&sort=line`));
  await ready(page);
  const all = page.getByRole('checkbox', { name: 'Tick all rows shown' });
  await all.click();
  const chosen = page.getByRole('toolbar', { name: '140 ticked' });
  await expect(chosen).toBeVisible();
  await expect(all).toBeChecked();
  await all.click();
  await expect(chosen).toBeHidden();
  // one row is spared
  await all.click();
  await expect(chosen).toBeVisible();
  await page.getByRole('checkbox', { name: 'Tick row 2', exact: true }).click();
  const rest = page.getByRole('toolbar', { name: '139 ticked' });
  await rest.getByRole('button', { name: 'Drop' }).click();
  await page.getByRole('button', { name: 'too large' }).click();
  await page.getByRole('button', { name: 'Drop', exact: true }).last().click();
  await expect(rest).toBeHidden();
  await page.goto(at(`${path}?flag=dropped:yes&sort=line`));
  await ready(page);
  await expect(page.getByText('leaves 139')).toBeVisible();
  await page.getByRole('row').nth(1).click();
  await expect(page.getByText('dropped: too large')).toBeVisible();
});

test('a list says which rates it was weighed with, what newer ones change, and takes them', async ({
  page,
}) => {
  const { base } = await newcomer(page, { standing: 'Registered' });
  const path = await readOwnList(page, base, 40);
  await page.getByRole('button', { name: 'Assumptions', exact: true }).click();
  await expect(page.getByText('Alderway DE, version of 1 Oct 2026')).toBeVisible();
  await expect(page.getByText(/a version of .* is in force/)).toBeHidden();
  const pays = (): Promise<string> => page.getByRole('button', { name: /^Pay / }).innerText();
  const before = await pays();

  await openCard(page, base, 'Alderway DE');
  const book = await workbook(page, base);
  const tiers = book.getWorksheet('referralTiers') as ExcelJS.Worksheet;
  tiers.eachRow((r, n) => {
    if (n > 1) r.getCell(3).value = Number((Number(r.getCell(3).value) + 0.3).toFixed(4));
  });
  await importFile(page, 'dearer.xlsx', Buffer.from(await book.xlsx.writeBuffer()));
  await page.getByLabel('In force from').fill('2026-11-24');
  await page.getByRole('button', { name: /^Put in force from 24 Nov/ }).click();
  await page.waitForURL(/rates\/touch/);
  await expect(page.getByText('1 list is weighed with an older version')).toBeVisible();
  await page.getByRole('link', { name: 'Bird houses' }).click();
  await page.waitForURL(/lists\//);
  await ready(page);
  await expect(
    page.getByText('Weighed with Alderway DE of 1 Oct 2026; a version of 24 Nov 2026 is in force.'),
  ).toBeVisible();
  expect(await pays()).toBe(before);
  await page.getByRole('button', { name: 'What would change' }).click();
  await expect(page.getByText(/^Rows before and after: Pay \d+, then \d+/)).toBeVisible();
  // seen, not taken: the rows stand as they were
  expect(await pays()).toBe(before);
  await page.getByRole('button', { name: 'Weigh with the newer rates' }).click();
  await expect(page.getByText('Alderway DE, version of 24 Nov 2026')).toBeVisible();
  await expect(page.getByText(/a version of .* is in force/)).toBeHidden();
  await expect.poll(pays).not.toBe(before);
  await page.goto(at(path));
  await ready(page);
  expect(await pays()).not.toBe(before);
});
