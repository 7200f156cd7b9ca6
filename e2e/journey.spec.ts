import { writeFileSync } from 'node:fs';
import {
  answer,
  bm,
  downloadLane,
  expect,
  menuItem,
  newcomer,
  openFamily,
  ready,
  searchFor,
  test,
} from './help.ts';

type Result = { figures: Record<string, number | null>; lines: Record<string, number | null> };
type Solution = {
  breakEvenPrice: { price: number };
  highestPurchaseCost: { unitPrice: number; currency: string }[];
};
type Launch = { budget: { total: number; lines: { goods: number } } };

const money = (x: number): string =>
  new Intl.NumberFormat('en-GB', { style: 'currency', currency: 'EUR' }).format(x);
const down = (x: number): number => Math.floor(x * 100 + 1e-9) / 100;

test('from nothing to break-even, most to pay and launch budget, with the figures of the command line', async ({
  page,
}, info) => {
  await newcomer(page);
  await expect(page.getByText('Here stand your products')).toBeVisible();
  const started = Date.now();
  await page.getByRole('link', { name: 'Add your first product' }).click();
  const form = page.getByRole('form', { name: 'New candidate' });
  await form.getByLabel('Product').fill('Bird bath, stoneware');
  await form.getByLabel(/Price you would ask/).fill('29,90');
  await form.getByLabel(/What a unit costs/).fill('€6.40');
  await form.getByLabel(/Packaged sides/).fill('12 x 8 x 4 in');
  await form.getByLabel(/Weight/).fill('900 g');
  await searchFor(form.getByLabel('Origin'), 'China');
  await form.getByLabel('HS code').fill('691390');
  await expect(page.getByTestId('first-answer')).toContainText('One unit keeps €');
  await form.getByRole('button', { name: 'Add and open its sheet' }).click();
  await page.waitForURL(/\/weigh\/[0-9a-f-]{36}/);
  await expect(answer(page)).toContainText('It breaks even at €');
  await expect(answer(page)).toContainText('Pay the supplier at most €');
  await expect(answer(page)).toContainText(/A launch of 200 takes over €[\d,]+\.\d\d/);
  const seconds = (Date.now() - started) / 1000;
  info.annotations.push({ type: 'seconds from empty list to launch budget', description: String(seconds) });
  expect(seconds).toBeLessThan(60);

  await ready(page);
  await page.getByRole('link', { name: 'Budget and cash' }).click();
  await page.waitForURL(/\/fund/);
  await page.getByLabel(/Cash at hand/).fill('4000');
  await page.getByLabel(/Planned by/).selectOption('daily');
  await page.getByLabel(/^Per day/).fill('10');
  await page.getByLabel('Days', { exact: true }).fill('30');
  await expect(page.getByTestId('fund-answer')).toContainText('Your cash pays for');
  // Left before the moment of saving has come: nothing is lost.
  await page.goBack();
  await ready(page);

  const { path, text } = await downloadLane(page);
  const doc = JSON.parse(text) as { name: string; rates: { marketplace: object } };
  expect(doc.rates.marketplace).toMatchObject({ marketplace: 'Alderway' });
  const result = bm<Result>('evaluate', path);
  const solution = bm<Solution>('solve', path);
  const f = result.figures as Record<string, number>;
  const text2 = await answer(page).innerText();
  expect(text2).toContain(`keeps ${money(f.unitProfit as number)}`);
  expect(text2).toContain(`breaks even at ${money(solution.breakEvenPrice.price)}`);
  expect(text2).toContain(`at most ${money(down(solution.highestPurchaseCost[0]?.unitPrice ?? 0))}`);
  // Every line, opened one after the other, and every figure below.
  for (const [family, lines] of Object.entries({
    Tax: ['outputVat'],
    Goods: ['goods', 'prep'],
    'Way in': ['freight', 'insurance', 'duty', 'importCharges'],
    Marketplace: ['referral'],
    Fulfilment: ['fulfilment', 'storage'],
    Returns: ['returns'],
    Adverts: ['adverts'],
  })) {
    await openFamily(page, family);
    for (const line of lines) {
      const label = {
        outputVat: 'Output VAT',
        goods: 'Goods',
        prep: 'Preparation',
        freight: 'Freight',
        insurance: 'Insurance',
        duty: 'Duty',
        importCharges: 'Import charges',
        referral: 'Referral fee',
        fulfilment: 'Fulfilment',
        storage: 'Storage',
        returns: 'Returns',
        adverts: 'Adverts',
      }[line] as string;
      // Shown lines add up to the shown family, so a line may be a cent from its own rounding.
      const shown = page.getByRole('button', { name: `Workings of ${label}`, exact: true });
      await expect(shown).toHaveText(/^\d+\.\d\d$/);
      expect(Math.abs(Number(await shown.innerText()) - (result.lines[line] as number))).toBeLessThan(0.0101);
    }
  }
  for (const [label, value] of [
    ['Margin', `${((f.margin as number) * 100).toFixed(1)}%`],
    ['ROI', `${((f.roi as number) * 100).toFixed(0)}%`],
    ['Break-even ACoS', `${((f.breakEvenAcos as number) * 100).toFixed(1)}%`],
    ['after fees', money(f.proceeds as number).slice(1)],
    ['after cost', money(f.contribution as number).slice(1)],
    ['Unit profit', money(f.unitProfit as number).slice(1)],
  ] as const)
    await expect(page.getByRole('button', { name: `Workings of ${label}`, exact: true })).toHaveText(value);

  const plan = {
    cash: 4000,
    reserve: 0,
    contingency: 0,
    oneOffs: [],
    advertising: { kind: 'daily', perDay: 10, days: 30 },
    discounts: { units: 0, discount: 0 },
  };
  const launchPath = info.outputPath('launch.json');
  writeFileSync(
    launchPath,
    JSON.stringify({ format: 'bold-margin/launch', version: 1, lane: JSON.parse(text), plan }),
  );
  const launch = bm<Launch>('launch', launchPath);
  await page.reload();
  await ready(page);
  await expect(page.getByTestId('launch-total')).toContainText(money(launch.budget.total));

  // Back in, the document gives a lane with the very same figures.
  await page.goto(page.url().replace(/\/weigh.*/, '/find'));
  await ready(page);
  await page.getByLabel('Open a lane document').setInputFiles(path);
  await page.waitForURL(/\/weigh\/[0-9a-f-]{36}/);
  await expect(answer(page)).toContainText(`keeps ${money(f.unitProfit as number)}`);
  await ready(page);
  await menuItem(page, 'Copy this lane as a document');
  const copied = JSON.parse(await page.evaluate(() => navigator.clipboard.readText())) as Record<
    string,
    unknown
  >;
  expect(copied.rates).toEqual((JSON.parse(text) as Record<string, unknown>).rates);
});
