import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { at, bm, DEMO, enterDemo, expect, fillsPaper, newcomer, ready, test } from './help.ts';

/** A lane as somebody has it: bought in Poland, sold in Germany, registered for VAT; nothing is left open. */
const laneOf = (name: string, price: number, cost: number, units: number, orderQuantity: number) => ({
  format: 'bold-margin/lane',
  version: 1,
  date: '2026-11-24',
  name,
  homeCurrency: 'EUR',
  country: 'DE',
  currency: 'EUR',
  price,
  standing: { kind: 'registered' },
  orderQuantity,
  demand: { kind: 'typed', units },
  goods: [
    {
      name: '',
      source: {
        kind: 'quote',
        currency: 'EUR',
        incoterm: 'DAP',
        priceBreaks: [
          { minQty: 0, unitPrice: cost },
          { minQty: orderQuantity * 2, unitPrice: cost * 0.9 },
        ],
        leadDays: 25,
        depositShare: 0.3,
        vat: 'none',
      },
    },
  ],
  imported: false,
  route: { legs: [], transitDays: 6, inboundDays: 3 },
  prep: 'none',
  method: 'ownDispatch',
  dispatch: 'none',
  storage: 'none',
  returns: { rate: 0.03 },
  adverts: {
    adShare: 0.3,
    keywords: [{ text: name, low: 0.3, high: 0.5, weight: 0.5, conversionRate: 0.1 }],
  },
  payoutEveryDays: 14,
  payoutDelayDays: 3,
  referralApplies: false,
  rates: {
    tax: {
      name: 'Germany',
      inForceFrom: '2026-01-01',
      country: 'DE',
      currency: 'EUR',
      regime: 'inclusive',
      vatRates: { standard: 0.19 },
      customsBasis: 'CIF',
      importVatBase: 'cif',
      dutyFreeLimit: null,
    },
  },
});
const FIVE = [
  laneOf('Log basket', 49, 14, 90, 120),
  laneOf('Rope ladder', 35, 12, 60, 150),
  laneOf('Wash stand', 120, 62, 25, 60),
  laneOf('Bread crock', 28, 11, 70, 200),
  laneOf('Tin bucket', 11, 12, 40, 100),
];
type Cash = { cases: { expected: { moneyNeeded: number; end: number } } };
type Risk = { launch: { spread: { p50: number; p5: number } } };
type Purse = { plan: { value: number; launches: { key: string; quantity: number; week: number }[] } };
const money = (x: number): string =>
  new Intl.NumberFormat('en-GB', { style: 'currency', currency: 'EUR' }).format(x);

/** What a button saves, as a file that the command line reads. */
async function savedBy(page: Page, name: string): Promise<string> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name, exact: true }).click(),
  ]);
  return download.path();
}
async function type(page: Page, label: string, value: string): Promise<void> {
  await page.getByLabel(label).fill(value);
  await page.getByLabel(label).blur();
}

test('five lanes of one’s own and 8,000: what to launch, how it runs, how sure; as the command line says', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  for (const lane of FIVE) {
    const path = join(tmpdir(), `bm-${Date.now()}.lane.json`);
    writeFileSync(path, JSON.stringify(lane));
    await page.goto(at(`${base}/find`));
    await ready(page);
    await page.getByLabel('Open a lane document').setInputFiles(path);
    await page.waitForURL(/\/weigh\/[0-9a-f-]{36}/);
    await ready(page);
  }
  await page.goto(at(`${base}/fund/purse`));
  await ready(page);
  const answer = page.getByTestId('purse-answer');
  await expect(answer).toContainText('Enter the cash you have');
  await type(page, 'Cash at hand, EUR', '8000');
  await type(page, 'Kept back, EUR', '1000');
  await expect(answer).toContainText(/Launch (one|\d):/, { timeout: 30_000 });
  await expect(answer).toContainText('there is no better plan.', { timeout: 30_000 });
  await expect(page.getByText('Solved in')).toBeVisible({ timeout: 60_000 });
  const purse = bm<Purse>('purse', await savedBy(page, 'Document'));
  await expect(answer).toContainText(money(purse.plan.value));
  await expect(page.getByText('Stands aside')).toBeVisible();
  await page.getByRole('button', { name: 'Make this the plan' }).click();
  await expect(page.getByText(/The launch plans of \d candidates start on their days now/)).toBeVisible();

  // The first of them over time.
  const [candidate, lane] = (purse.plan.launches[0]?.key ?? '').split('/');
  await page.goto(at(`${base}/fund?candidate=${candidate}&lane=${lane}&view=time`));
  await ready(page);
  await expect(page.getByLabel('Order quantity', { exact: true })).toHaveValue(
    String(purse.plan.launches[0]?.quantity),
  );
  const cash = bm<Cash>('cash', await savedBy(page, 'Lane'), '--plan', await savedBy(page, 'Plan'));
  await expect(page.getByTestId('time-answer')).toContainText(money(cash.cases.expected.moneyNeeded));
  // What is tried answers at once, and the lane stays as it is.
  await type(page, 'Price, EUR', '60');
  await expect(page.getByText('Tried, not in the lane')).toBeVisible();
  await page.getByRole('button', { name: 'As the lane says' }).click();
  await expect(page.getByTestId('time-answer')).toContainText(money(cash.cases.expected.moneyNeeded));

  // How sure, by the ranges that are offered.
  await page.getByRole('link', { name: 'How sure' }).click();
  await page.getByRole('button', { name: 'Take all that are offered' }).click();
  await expect(page.getByTestId('sure-answer')).toContainText('A unit loses in');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  const files = [await savedBy(page, 'Document')];
  await page.getByRole('link', { name: 'Over time' }).click();
  files.unshift(await savedBy(page, 'Lane'));
  const risk = bm<Risk>('risk', files[0] as string, '--ranges', files[1] as string);
  await page.getByRole('link', { name: 'How sure' }).click();
  await expect(page.getByTestId('sure-answer')).toContainText(money(risk.launch.spread.p50));

  // All launches of the workspace.
  await page.getByRole('link', { name: 'All launches' }).click();
  await expect(page.getByTestId('months-answer')).toContainText('as planned: between');
});

test('the demo’s purse: dragged to another week a launch is pinned there, and taken back it moves again', async ({
  page,
}) => {
  await enterDemo(page);
  await page.goto(at(`${DEMO}/fund/purse`));
  await ready(page);
  await expect(page.getByTestId('purse-answer')).toContainText(/Launch/, { timeout: 30_000 });
  const calendar = page.locator('section', { hasText: 'Launches over the account they share' });
  const bar = calendar.getByTitle(/Drag a launch/).first();
  const box = await bar.boundingBox();
  if (box === null) throw new Error('there is a bar');
  await page.mouse.move(box.x + 12, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x + 132, box.y + 10, { steps: 6 });
  await page.mouse.up();
  const pinned = page.getByRole('button', { name: /^Take back: pinned/ });
  await expect(pinned).toBeVisible();
  await expect(calendar.getByText(/· pinned/)).toBeVisible({ timeout: 30_000 });
  await pinned.click();
  await expect(calendar.getByText(/· pinned/)).toHaveCount(0, { timeout: 30_000 });
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Make this the plan' })).toBeHidden();
  await fillsPaper(page, page.locator('main table').first());
});
