import { at, DEMO, enterDemo, expect, newcomer, addProduct, ready, test } from './help.ts';
import type { Page } from '@playwright/test';

/** The name of each candidate: the first link of its row's head. */
const names = (page: Page) => page.getByRole('row').getByRole('rowheader').locator('a:first-of-type');
const row = (page: Page, name: string) =>
  page.getByRole('row').filter({ has: page.getByRole('link', { name, exact: true }) });

test(
  'every candidate of the demo with its figures; a loss has sign and word; an incomplete one says ' +
    'what is missing; one fits no tier',
  async ({ page }) => {
    await enterDemo(page);
    await expect(names(page)).toHaveCount(15);
    await expect(page.getByText('15 candidates')).toBeVisible();
    await expect(row(page, 'Propagation tray, steel, four pieces')).toContainText(/−\d+\.\d\d\s*loses/);
    await expect(row(page, 'Rain gauge, brass, on a stake')).toContainText(/not known: .*adverts/);
    await expect(row(page, 'Willow arch, 240 cm')).toContainText('fits no size tier');
    await expect(row(page, 'Hedgehog shelter, slate roof')).toContainText('quote expired');
    await expect(row(page, 'Window feeder, two suction rails')).toContainText('misses margin');
  },
);

test('limits say what they take away, stand in the address, and Back undoes them', async ({ page }) => {
  await enterDemo(page);
  await page.getByRole('textbox', { name: 'Keeps at least' }).fill('5');
  await expect(page.getByText(/takes away \d+/)).toBeVisible();
  const left = await names(page).count();
  expect(left).toBeGreaterThan(2);
  expect(left).toBeLessThan(15);
  await expect(page).toHaveURL(/keeps=5/);
  const link = page.url();
  await page.getByRole('button', { name: 'Clear all limits' }).click();
  await expect(names(page)).toHaveCount(15);
  await page.goto(link);
  await expect(names(page)).toHaveCount(left);
  await page.getByRole('button', { name: 'Clear all limits' }).click();
  await page.getByLabel('Way', { exact: true }).selectOption('Wholesale');
  await expect(names(page)).toHaveCount(2);
  await page.getByRole('textbox', { name: 'Name has' }).fill('nothing is called that');
  await expect(page.getByText('No candidate is within these limits.')).toBeVisible();
});

test('sorts by any figure, both ways', async ({ page }) => {
  await enterDemo(page);
  const margins = async (): Promise<number[]> =>
    (await page.locator('tbody tr > td:nth-of-type(4)').allInnerTexts()).flatMap((x) =>
      /^−?\d+\.\d%$/.test(x.trim()) ? Number(x.replace('−', '-').replace('%', '')) : [],
    );
  await page.getByRole('button', { name: 'Margin', exact: true }).click();
  await expect(page).toHaveURL(/sort=margin/);
  await expect.poll(async () => (await margins())[0]).toBe(Math.max(...(await margins())));
  const down = await margins();
  expect(down).toEqual([...down].sort((a, b) => b - a));
  expect(down.length).toBeGreaterThan(8);
  await page.getByRole('button', { name: /^Margin/ }).click();
  await expect.poll(async () => (await margins())[0]).toBe(Math.min(...(await margins())));
  const up = await margins();
  expect(up).toEqual([...up].sort((a, b) => a - b));
});

test('a row opens its lanes on the same scale; a lane leads to its sheet', async ({ page }) => {
  await enterDemo(page);
  await row(page, 'Bee house, larch, three chambers')
    .getByRole('button', { name: /best of 9/ })
    .click();
  await expect(page).toHaveURL(/open=/);
  await page.getByRole('link', { name: 'France · Alderway' }).click();
  await expect(page.getByTestId('answer')).toContainText('In France on Alderway');
});

test('duplicate, archive, drop with a reason, delete: each with a way back', async ({ page }) => {
  const { base } = await newcomer(page);
  await addProduct(page, base, { name: 'Frog shelter' });
  await page.goto(at(`${base}/weigh`));
  await ready(page);
  const act = async (name: string): Promise<void> => {
    await page.getByRole('button', { name: 'Actions for Frog shelter', exact: true }).click();
    await page.getByRole('menuitem', { name, exact: true }).click();
  };
  await act('Duplicate');
  await page.waitForURL(/\/weigh\/[0-9a-f-]{36}/);
  await page.goto(at(`${base}/weigh`));
  await ready(page);
  await expect(names(page)).toHaveCount(2);
  for (const [name, message] of [
    ['Archive', 'Archived.'],
    ['Delete', 'Deleted.'],
  ] as const) {
    await act(name);
    await expect(page.getByRole('alert').filter({ hasText: message })).toBeVisible();
    await expect(names(page)).toHaveCount(1);
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(names(page)).toHaveCount(2);
  }
  await act('Drop');
  await page.getByLabel('Why?').fill('too many like it');
  await page.getByRole('button', { name: 'Drop', exact: true }).click();
  await expect(names(page)).toHaveCount(1);
  await page.getByLabel('Show', { exact: true }).selectOption('dropped');
  await expect(row(page, 'Frog shelter')).toContainText('too many like it');
  await act('Take up again');
  await page.waitForURL(/\/weigh$/);
  await expect(names(page)).toHaveCount(2);
});

test('several candidates are ticked and dropped with one reason, archived, deleted, each with a way back', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  for (const name of ['Frog shelter', 'Snail lodge', 'Moth hotel']) await addProduct(page, base, { name });
  await page.goto(at(`${base}/weigh`));
  await ready(page);
  await page.getByRole('checkbox', { name: 'Tick Frog shelter' }).check();
  await page.getByRole('checkbox', { name: 'Tick Moth hotel' }).check();
  const ticked = page.getByRole('toolbar', { name: '2 candidates ticked' });
  await ticked.getByRole('button', { name: 'Drop' }).click();
  await page.getByLabel('Why?').fill('same pond, same buyers');
  await page.getByRole('dialog').getByRole('button', { name: 'Drop' }).click();
  await expect(names(page)).toHaveText(['Snail lodge']);
  await expect(ticked).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(names(page)).toHaveCount(3);
  await page.getByRole('checkbox', { name: 'Tick all candidates shown' }).check();
  await page
    .getByRole('toolbar', { name: '3 candidates ticked' })
    .getByRole('button', { name: 'Archive' })
    .click();
  await expect(page.getByRole('alert').filter({ hasText: 'Archived.' })).toBeVisible();
  await expect(names(page)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(names(page)).toHaveCount(3);
});

test('gates: two are computed, three are ticked by hand with a note', async ({ page }) => {
  const { base } = await newcomer(page);
  await addProduct(page, base, { name: 'Frog shelter' });
  await page.getByLabel('Demanded').selectOption('passed');
  await page.getByLabel('Why').first().fill('sold out twice');
  await page.getByLabel('Enterable').selectOption('failed');
  await page.getByLabel('Stage', { exact: true }).selectOption('sampling');
  await page.getByLabel('Tags, comma between').fill('pond, spring');
  await page.getByLabel('Tags, comma between').blur();
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.goto(at(`${base}/weigh?tag=pond&stage=sampling`));
  await expect(row(page, 'Frog shelter')).toContainText('stops: enterable');
  await expect(
    page.getByRole('img', {
      name: /Demanded: passed; Enterable: failed; Profitable: .*; Permitted: not looked at yet/,
    }),
  ).toBeVisible();
});

test(
  'twenty rows pasted from a spreadsheet: each read, wrong ones named with row and reason, the good ' +
    'ones added',
  async ({ page }) => {
    const { base } = await newcomer(page);
    await page.goto(at(`${base}/find`));
    await ready(page);
    const rows = [
      'Name\tPrice\tCost\tSize\tWeight',
      ...Array.from(
        { length: 17 },
        (_, i) =>
          `Pot ${i + 1}\t${(12.5 + i).toFixed(2).replace('.', ',')}\t€3.${10 + i}\t10 x 10 x ${5 + i}\t${200 + i} g`,
      ),
      '\t10\t2',
      'Dear pot\t$10\t2',
      'Odd pot\t10\tabc',
      'Flat pot\t10\t2\t20 x 15',
      'Minus pot\t-1\t2',
    ];
    await page.getByRole('textbox', { name: 'Paste rows from a spreadsheet' }).fill(rows.join('\n'));
    const table = page.getByRole('table');
    await expect(table.getByText('ready')).toHaveCount(17);
    for (const reason of [
      'no name: write one in the first column',
      'price you would ask is in USD; it belongs in EUR',
      'what a unit costs "abc" is not a number',
      '"20 x 15" is not three sides',
      'price you would ask is below 0',
    ])
      await expect(table.getByText(reason)).toBeVisible();
    await expect(table.getByRole('row').nth(18)).toContainText('19');
    await page.getByRole('button', { name: 'Add 17 of 22' }).click();
    await page.waitForURL(/\/weigh/);
    await expect(names(page)).toHaveCount(17);
    await expect(page.getByRole('link', { name: 'Pot 7', exact: true })).toBeVisible();
  },
);

test('the keyboard alone: search, open, go to another place', async ({ page }) => {
  await enterDemo(page);
  await page.keyboard.press('Control+k');
  await expect(page.locator('input[aria-label="Search or type a command"]')).toBeFocused();
  await page.keyboard.type('bee house');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('answer')).toContainText('In Germany on Alderway');
  await page.keyboard.press('Control+k');
  await expect(page.locator('input[aria-label="Search or type a command"]')).toBeFocused();
  await page.keyboard.type('rates');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(`${at(DEMO)}/rates`);
  await page.keyboard.press('Control+k');
  await expect(page.locator('input[aria-label="Search or type a command"]')).toBeFocused();
  await page.keyboard.type('no such thing anywhere');
  await expect(page.getByText('Nothing goes by that name.')).toBeVisible();
});
