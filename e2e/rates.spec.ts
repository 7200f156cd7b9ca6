import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import ExcelJS from 'exceljs';
import { root } from '../scripts/lib/system.mjs';
import { cardId, draftSaved, importFile, openCard, turnTo, typeDown, workbook } from './cardSteps.ts';
import {
  addProduct,
  another,
  at,
  bm,
  downloadLane,
  enterDemo,
  expect,
  newcomer,
  openFamily,
  ready,
  saved,
  test,
} from './help.ts';

/** Every lane document of a comparison, evaluated by the command line. */
function evaluateAll(
  jsonl: string,
): { figures: Record<string, number | null>; lines: Record<string, number | null> }[] {
  const path = join(tmpdir(), `bm-${Date.now()}.jsonl`);
  writeFileSync(path, jsonl);
  return execFileSync(
    process.execPath,
    ['--import', 'tsx', join(root, 'cli/bm.ts'), 'evaluate', '--jsonl', path],
    { cwd: root, encoding: 'utf8', maxBuffer: 1e8 },
  )
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l));
}
/** The exported table of a comparison, row by row. */
async function comparedTable(page: Page): Promise<Record<string, unknown>[]> {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(
    (await (
      await page.request.get(page.url().replace(/\/compare.*/, '/compare/file?as=xlsx'))
    ).body()) as unknown as ArrayBuffer,
  );
  const sheet = book.worksheets[0] as ExcelJS.Worksheet;
  const header = (sheet.getRow(1).values as string[]).slice(1);
  return Array.from({ length: sheet.rowCount - 1 }, (_, i) =>
    Object.fromEntries(header.map((h, j) => [h, sheet.getRow(i + 2).getCell(j + 1).value])),
  );
}

test(
  'a card goes out to a spreadsheet, comes back as next month’s version, and says which candidates ' +
    'suffer and why',
  async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base, { name: 'Bird bath', price: '29.90', cost: '6.40' });
    await openCard(page, base, 'Alderway DE');
    const book = await workbook(page, base);
    const tiers = book.getWorksheet('referralTiers') as ExcelJS.Worksheet;
    tiers.eachRow((r, n) => {
      if (n > 1) r.getCell(3).value = Number((Number(r.getCell(3).value) + 0.04).toFixed(4));
    });
    await importFile(page, 'card.xlsx', Buffer.from(await book.xlsx.writeBuffer()));
    const preview = page.getByRole('region', { name: 'What this file would do' });
    await expect(preview).toContainText('12 rows changed');
    await expect(page.getByLabel('In force from')).toHaveValue('2026-12-01');
    await preview.getByRole('button', { name: /^Put in force from 1 Dec/ }).click();
    await page.waitForURL(/rates\/touch/);
    await expect(page.getByTestId('touch-answer')).toContainText('1 lane of 1 candidate: 1 keeps less');
    const row = page.getByRole('row').filter({ hasText: 'Bird bath' });
    await expect(row).toContainText(/Referral fee −1\.\d\d/);
    await expect(
      page.getByText('It is in force from 1 Dec 2026; lanes can be brought up to date from that day on.'),
    ).toBeVisible();
    // the same day again is refused, with a remedy
    await openCard(page, base, 'Alderway DE');
    await importFile(page, 'again.xlsx', Buffer.from(await book.xlsx.writeBuffer()));
    await page.getByLabel('In force from').fill('2026-12-01');
    await page.getByRole('button', { name: /^Put in force from 1 Dec/ }).click();
    await expect(
      page.getByText(/Another version of Alderway\/DE is in force from 2026-12-01 already/),
    ).toBeVisible();
  },
);

test(
  'from today on: lanes keep their version until they are brought up to date, as a job, with a ' +
    'notice and a history',
  async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base, { name: 'Bird bath', price: '29.90', cost: '6.40' });
    const sheet = page.url();
    const before = await page.getByTestId('unit-profit').innerText();
    await openCard(page, base, 'Alderway DE');
    await page.getByRole('button', { name: 'Write the next version' }).click();
    await page.waitForURL(/draft/);
    await ready(page);
    await page.getByRole('grid', { name: 'Card', exact: true }).focus();
    await typeDown(page, [null, '2026-11-24']);
    await turnTo(page, 'Referral tiers');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    // a wrong cell is marked, named and leads to itself; undo brings back what stood there
    await typeDown(page, ['400']);
    await expect(page.getByText('4 is over 1, that is over 100 %').first()).toBeVisible();
    await expect(page.getByRole('button', { name: /^Put in force/ })).toBeDisabled();
    await page.keyboard.press('Control+z');
    await expect(page.getByText('Every cell is in order.')).toBeVisible();
    // fill down over a column: select from the first to the last row, type, fill
    await page.keyboard.press('Control+ArrowUp');
    await typeDown(page, ['40%']);
    await page.keyboard.press('Control+ArrowUp');
    await page.keyboard.press('Control+Shift+ArrowDown');
    await page.keyboard.press('Control+d');
    await expect(page.getByRole('heading', { name: /^13 changes to Alderway DE$/ })).toBeVisible();
    await draftSaved(page);
    await page.getByRole('button', { name: 'Put in force from 24 Nov 2026' }).click();
    await page.waitForURL(/rates\/touch/);
    await expect(page.getByTestId('touch-answer')).toContainText('1 keeps less, 1 falls under a hurdle');
    await page.goto(sheet);
    await expect(page.getByTestId('unit-profit')).toHaveText(before);
    await expect(
      page.getByText('Computed with Alderway DE of 1 Oct 2026; a version of 24 Nov 2026 is in force.'),
    ).toBeVisible();
    await page.getByRole('link', { name: 'All lanes on this card' }).click();
    await page.waitForURL(/rates\/touch/);
    await page.getByRole('button', { name: 'Bring this lane up to date' }).click();
    await expect(page.getByText('Done: 1 lane is up to date.')).toBeVisible();
    await page.goto(`${sheet}?more=history`);
    await expect(page.getByTestId('unit-profit')).not.toHaveText(before);
    await expect(page.getByText('rates changed')).toBeVisible();
    await expect(page.getByText(/Referral fee −/).first()).toBeVisible();
    await page.getByRole('button', { name: /new notice/ }).click();
    await expect(page.getByRole('dialog', { name: 'Notices' })).toContainText(
      'Bird bath falls under your hurdle for',
    );
    await expect(page.getByRole('dialog', { name: 'Notices' })).toContainText(
      '1 lane is up to date with Alderway/DE.',
    );
  },
);

test(
  'one lane alone is brought up to date from its sheet, once it is seen what that changes; undo ' +
    'takes it back',
  async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base, { name: 'Bird bath', price: '29.90', cost: '6.40' });
    const sheet = page.url();
    const before = await page.getByTestId('unit-profit').innerText();
    await openCard(page, base, 'Alderway DE');
    const book = await workbook(page, base);
    (book.getWorksheet('referralTiers') as ExcelJS.Worksheet).eachRow((r, n) => {
      if (n > 1) r.getCell(3).value = Number((Number(r.getCell(3).value) + 0.04).toFixed(4));
    });
    await importFile(page, 'card.xlsx', Buffer.from(await book.xlsx.writeBuffer()));
    await page.getByLabel('In force from').fill('2026-11-24');
    await page.getByRole('button', { name: /^Put in force from 24 Nov/ }).click();
    await page.waitForURL(/rates\/touch/);
    await page.goto(sheet);
    await ready(page);
    await page.getByRole('button', { name: 'What it would change here' }).click();
    const pane = page.getByTestId('up-to-date');
    await expect(pane).toContainText(
      /This lane would keep €\d+\.\d\d instead of €\d+\.\d\d: Referral fee −1\.\d\d/,
    );
    const promised = /would keep €(\d+\.\d\d)/.exec(await pane.innerText())?.[1] ?? '';
    await expect(page.getByTestId('unit-profit')).toHaveText(before);
    await pane.getByRole('button', { name: 'Bring this lane up to date' }).click();
    await expect(page.getByTestId('unit-profit')).toHaveText(promised);
    await expect(page.getByRole('button', { name: 'What it would change here' })).toHaveCount(0);
    await saved(page);
    await page.reload();
    await expect(page.getByTestId('unit-profit')).toHaveText(promised);
    await page.goto(`${sheet}?more=history`);
    await expect(page.getByText(/Referral fee −1\.\d\d/).first()).toBeVisible();
  },
);

test(
  'eight countries on three marketplaces in one screen, every figure as the command line has it; and ' +
    'in a country made from nothing',
  async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base, { name: 'Bird bath', price: '29.90', cost: '6.40' });
    const candidate = page.url().split('?')[0] as string;

    // a tax card and a marketplace from nothing
    await page.goto(at(`${base}/rates`));
    await ready(page);
    await page.getByRole('button', { name: 'New card' }).click();
    await page.getByRole('menuitem', { name: 'Taxes' }).click();
    await page.waitForURL(/draft/);
    await ready(page);
    await page.getByRole('grid', { name: 'Card', exact: true }).focus();
    await typeDown(page, ['Taxes of NL', '2026-01-01', null, 'NL', 'EUR']);
    await turnTo(page, 'VAT');
    await page.keyboard.press('ArrowRight');
    await typeDown(page, ['21%']);
    await draftSaved(page);
    await page.getByRole('button', { name: 'Put in force from 1 Jan 2026' }).click();
    await page.waitForURL(/rates\/touch/);
    await page.goto(at(`${base}/rates`));
    await ready(page);
    await page.getByRole('button', { name: 'New card' }).click();
    await page.getByRole('menuitem', { name: 'Marketplaces' }).click();
    await page.waitForURL(/draft/);
    await ready(page);
    await page.getByRole('grid', { name: 'Card', exact: true }).focus();
    await typeDown(page, ['Quillhaven NL', '2026-01-01', null, 'Quillhaven', 'NL', 'EUR', '0.35']);
    await turnTo(page, 'Referral tiers');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.press('ArrowRight');
    await typeDown(page, ['12.5%']);
    await turnTo(page, 'Categories');
    await page.keyboard.press('ArrowLeft');
    await typeDown(page, ['wildlife']);
    await turnTo(page, 'Referral tiers');
    await typeDown(page, ['wildlife']);
    await draftSaved(page);
    await page.getByRole('button', { name: 'Put in force from 1 Jan 2026' }).click();
    await page.waitForURL(/rates\/touch/);

    await page.goto(`${candidate}/add-lanes`);
    await ready(page);
    for (const m of ['Alderway', 'Nordkai', 'Sundra']) {
      await page.getByRole('button', { name: m, exact: true }).click();
      await ready(page);
    }
    await page.getByLabel('Quillhaven Netherlands').check();
    await page.getByLabel('Own dispatch').check();
    await ready(page);
    await expect(page.getByText('lacks your VAT standing').first()).toBeVisible();
    await page.getByRole('button', { name: /^Make \d+ lanes$/ }).click();
    await page.waitForURL(/\/compare$/);
    await ready(page);
    const jsonl = await (
      await page.request.get(page.url().replace(/\/compare.*/, '/compare/file?as=jsonl'))
    ).text();
    const docs = jsonl
      .trim()
      .split('\n')
      .map((l) => JSON.parse(l) as { country: string; marketplace: string; currency: string; price: number });
    expect(new Set(docs.map((d) => d.country)).size).toBe(10);
    expect(new Set(docs.map((d) => d.marketplace))).toEqual(
      new Set(['Alderway', 'Nordkai', 'Sundra', 'Quillhaven']),
    );
    const said = evaluateAll(jsonl);
    const table = await comparedTable(page);
    expect(table).toHaveLength(docs.length);
    for (const [i, row] of table.entries()) {
      expect([row.Country, row.Marketplace]).toEqual([docs[i]?.country, docs[i]?.marketplace]);
      // Money leaves in the coins of its currency, ratios as they are.
      const coin = docs[i]?.currency === 'JPY' ? 0.5001 : 0.005001;
      for (const [figure, heading] of Object.entries({
        gross: 'Gross sales',
        landedCost: 'Landed cost',
        unitProfit: 'Unit profit',
        margin: 'Margin',
        roi: 'ROI',
      })) {
        const [shown, wanted] = [row[heading] ?? null, said[i]?.figures[figure] ?? null];
        if (wanted === null) expect(shown, `${row.Country} ${row.Marketplace} ${figure}`).toBeNull();
        else
          expect(Math.abs(Number(shown) - wanted)).toBeLessThan(
            figure === 'margin' || figure === 'roi' ? 1e-9 * Math.max(1, Math.abs(wanted)) : coin,
          );
      }
    }
    await page.getByRole('tab', { name: 'Grid' }).click();
    await expect(
      page
        .getByRole('region', { name: /by country and marketplace$/ })
        .getByRole('row')
        .filter({ has: page.getByRole('rowheader', { name: 'Germany' }) }),
    ).toContainText(/€−?\d/);
    // the country made from nothing: what its lane lacks is said, and once it is given, the sheet says what the
    // command line says
    await page.goto(`${candidate}/compare?turned=1`);
    await ready(page);
    await expect(page.locator('.compared').filter({ hasText: 'Quillhaven' }).first()).toContainText(
      'VAT standing not set',
    );
    await page.getByRole('link', { name: 'Open Netherlands · Quillhaven on the sheet' }).first().click();
    await page.waitForURL(/\?lane=/);
    await ready(page);
    await openFamily(page, 'Tax');
    await page.getByLabel('VAT standing there').selectOption('registered');
    await saved(page);
    const { path } = await downloadLane(page);
    const own = bm<{ figures: { unitProfit: number } }>('evaluate', path);
    await expect(page.getByTestId('unit-profit')).toHaveText(
      own.figures.unitProfit.toFixed(2).replace('-', '−'),
    );
  },
);

test('files that are wrong change nothing and say where', async ({ page }) => {
  const { base } = await newcomer(page);
  await openCard(page, base, 'Alderway FR');
  const region = page.getByRole('region', { name: 'What this file would do' });
  const tiers = await (
    await page.request.get(at(`${base}/rates/file?card=${cardId(page)}&as=csv&sheet=referralTiers`))
  ).text();
  await importFile(page, 'comma.csv', tiers.replace(/,0\.\d+\r\n/, ',"0,12"\r\n'));
  await expect(region).toContainText(
    'Referral tiers, row 2, Rate: "0,12" has a comma where the decimal point belongs. Write 0.12',
  );
  await expect(region.getByRole('button', { name: /Put in force/ })).toHaveCount(0);
  await region.getByLabel('The numbers of this file have decimal commas').check();
  await expect(region).toContainText('1 row changed');
  await importFile(page, 'half.csv', tiers.slice(0, tiers.length - 9));
  await expect(region).toContainText('Referral tiers, row 13, Rate: This is missing');
  await importFile(
    page,
    'newer.json',
    JSON.stringify({ format: 'bold-margin/rate-card', version: 3, kind: 'marketplace', data: {} }),
  );
  await expect(region).toContainText('This card is of version 3, newer than this program reads');
  await importFile(page, 'not.xlsx', 'nothing of the kind');
  await expect(region).toContainText('The file is not a whole XLSX workbook');
  await region.getByRole('button', { name: 'Cancel' }).click();
  await expect(region).toHaveCount(0);
});

test('exchange rates from the feed, from files, and without the feed', async ({ page }) => {
  const { base } = await newcomer(page);
  await openCard(page, base, 'Example exchange rates');
  await page.getByRole('button', { name: "Fetch today's rates" }).click();
  await expect(page.getByText(/^These rates, as of \d{4}-/)).toBeVisible();
  await page.goto(at(`${base}/rates?kind=exchange&key=exchange`));
  await expect(page.getByText('of today')).toBeVisible();
  await importFile(
    page,
    'rates.csv',
    'date,currency,rate\n2026-11-22,USD,1.09\n2026-11-23,USD,1.10\n2026-11-24,USD,1.11\n',
  );
  const region = page.getByRole('region', { name: 'What this file would do' });
  await expect(region).toContainText('3 days of rates 22 Nov 2026 to 24 Nov 2026');
  await region.getByRole('button', { name: 'Take them over' }).click();
  await expect(page.getByLabel('Version')).toContainText('22 Nov 2026');
  await importFile(page, 'zero.csv', 'date,currency,rate\n2026-11-24,USD,0\n');
  await expect(region).toContainText('row 2, Rate: A rate of 0 cannot be used');
});

test('a withdrawn version, two versions compared, a second card tried beside; a viewer only reads', async ({
  page,
  browser,
}) => {
  await enterDemo(page);
  const base = '/w/fernhollow-goods';
  await openCard(page, base, 'Nordkai PL');
  await page.getByLabel('Beside').selectOption({ label: 'Nordkai FR' });
  await expect(page.getByRole('columnheader', { name: 'Nordkai FR' })).toBeVisible();
  await expect(page.getByRole('row', { name: /All fees/ }).getByRole('cell')).toHaveCount(2);
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Copy as a new card' }).click();
  await page.waitForURL(/draft/);
  await ready(page);
  await page.getByRole('grid', { name: 'Card', exact: true }).focus();
  await typeDown(page, ['Nordkai CZ', null, null, null, 'CZ', 'CZK', '9']);
  await draftSaved(page);
  await page.getByRole('button', { name: /^Put in force from/ }).click();
  await page.waitForURL(/rates\/touch/);
  await openCard(page, base, 'Nordkai CZ');
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Withdraw this version' }).click();
  await expect(page.getByText('This version is withdrawn')).toBeVisible();
  const stranger = await another(browser);
  await newcomer(stranger);
  expect((await stranger.request.get(at(`${base}/rates/file?card=x&as=json`))).status()).toBe(404);
});

test('a draft that is thrown away comes back', async ({ page }) => {
  const { base } = await newcomer(page);
  await openCard(page, base, 'Sundra DE');
  await page.getByRole('button', { name: 'Write the next version' }).click();
  await page.waitForURL(/draft/);
  await ready(page);
  await page.getByRole('grid', { name: 'Card', exact: true }).focus();
  await typeDown(page, ['Sundra, my own']);
  await draftSaved(page);
  await page.getByRole('button', { name: 'Throw the draft away' }).click();
  await page.waitForURL(/thrown=/);
  await ready(page);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.waitForURL(/draft\//);
  await expect(page.getByRole('heading', { level: 1, name: 'Sundra, my own' })).toBeVisible();
});

test('the schema of a card is published, and an exported card keeps to it', async ({ page }) => {
  await enterDemo(page);
  await openCard(page, '/w/fernhollow-goods', 'Alderway GB');
  const card = (await (
    await page.request.get(at(`/w/fernhollow-goods/rates/file?card=${cardId(page)}&as=json`))
  ).json()) as { format: string; kind: string; data: { country: string } };
  expect(card).toMatchObject({
    format: 'bold-margin/rate-card',
    kind: 'marketplace',
    data: { country: 'GB' },
  });
  const schema = execFileSync(
    process.execPath,
    ['--import', 'tsx', join(root, 'cli/bm.ts'), 'schema', 'card'],
    { cwd: root, encoding: 'utf8' },
  );
  expect(Object.keys(JSON.parse(schema) as object).length).toBeGreaterThan(1);
  expect(readFileSync(join(root, 'docs/formats.md'), 'utf8')).toContain('bold-margin/rate-card');
});
