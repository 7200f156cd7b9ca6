import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { addProduct, at, enterDemo, DEMO, expect, newcomer, ready, saved, test } from './help.ts';

type Letter = { to: string; subject: string; text: string; attachments: { name: string }[] };
const letters = async (page: Page): Promise<Letter[]> =>
  (await page.request.get(`${process.env.E2E_OUTSIDE}/mail.json`)).json() as Promise<Letter[]>;
const said = (page: Page) => page.getByTestId('order-answer');

test('from a candidate to an order: draft, mail with its files, confirmed, come in, paid', async ({
  page,
}) => {
  const { base: root } = await newcomer(page);
  await addProduct(page, root);
  await page.goto(at(`${root}/settings`));
  await ready(page);
  await page.getByLabel(/Cash at hand/).fill('3000');
  await saved(page);
  await page.goto(at(`${root}/order`));
  await ready(page);
  await page.getByRole('link', { name: 'Make an order' }).click();
  await page.getByRole('checkbox', { name: /Bird bath/ }).check();
  await page.getByRole('button', { name: 'Make a draft of 1' }).click();
  await page.waitForURL(/order\/[0-9a-f-]{36}/);
  await ready(page);
  await page.getByLabel('Supplier', { exact: true }).fill('Brackwater Pottery');
  await page.getByLabel('Mail address').fill('sales@brackwater.supplier.example');
  await page.getByLabel(/^Units, /).fill('100');
  await page.getByLabel(/^Unit price, /).fill('6.50');
  await page.getByLabel(/^Delivery, EUR/).fill('40');
  await expect(said(page)).toContainText('1 line comes to €690.00 with VAT');
  await expect(said(page)).toContainText('That leaves €2,310.00 to order with.');
  await saved(page);
  // A change is undone, and stays undone after a reload.
  await page.getByLabel(/^Units, /).fill('900');
  await expect(said(page)).toContainText('more than there is to order with');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel(/^Units, /)).toHaveValue('100');
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(said(page)).toContainText('€690.00');

  const pdf = await page.request.get(`${page.url()}/file?as=pdf`);
  expect(pdf.headers()['content-type']).toBe('application/pdf');
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  const number = (await page.getByRole('heading', { level: 1 }).innerText()).split(' ')[0] as string;
  const subject = `Purchase order ${number} for ${Date.now()}`;
  await page.getByRole('button', { name: 'Send by mail' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Subject').fill(subject);
  await dialog.getByRole('button', { name: 'Send', exact: true }).dblclick();
  await expect(page.getByText('sent on')).toBeVisible();
  const mine = async () => (await letters(page)).filter((l) => l.subject === subject);
  await expect.poll(async () => (await mine()).length, { timeout: 20_000 }).toBe(1);
  expect((await mine())[0]).toMatchObject({
    to: 'sales@brackwater.supplier.example',
    attachments: [{ name: `${number}.pdf` }, { name: `${number}.csv` }],
  });

  await page.getByRole('button', { name: 'The supplier confirmed' }).click();
  await dialog.getByLabel(/^Unit price/).fill('6.20');
  await dialog.getByRole('button', { name: 'Confirmed so' }).click();
  await expect(said(page)).toContainText('€660.00');
  await page.getByRole('button', { name: 'A payment was made' }).click();
  await dialog.getByLabel(/^Amount/).fill('660');
  await dialog.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('All is paid.')).toBeVisible();
  await page.getByRole('button', { name: 'Goods came in' }).click();
  await dialog.getByLabel(/^Good, /).fill('100');
  await dialog.getByRole('button', { name: 'Note it' }).click();
  await expect(page.getByText('received on')).toBeVisible();
  const bills = (text: string) =>
    page
      .getByLabel('Bills from a file')
      .setInputFiles({ name: 'bills.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await bills('Day;For what;Amount\n01.06.2026;Lunch;5,00');
  await expect(page.getByText(/Row 2: “Lunch” is nothing a bill is noted for/)).toBeVisible();
  await bills('Day;For what;Amount;Shared out by\n01.06.2026;Road freight;88,40;weight');
  await expect(page.getByText('1 Jun 2026: Freight €88.40, shared out by weight')).toBeVisible();
  await page.getByRole('button', { name: /Take what was paid into the lane/ }).click();
  await page.getByRole('link', { name: 'All orders' }).click();
  await expect(page.getByTestId('orders-answer')).toContainText('Of €2,340.00 at hand');
  await page.goto(at(`${root}/weigh`));
  await ready(page);
  await page.getByRole('link', { name: 'Bird bath, stoneware' }).click();
  await page.getByRole('button', { name: 'Goods', exact: true }).click();
  await expect(page.getByLabel(/^Unit price/).first()).toHaveValue('6.20');
});

test('an enquiry: what is not known is asked, the answer becomes a quote on the sheet', async ({ page }) => {
  const { base: root } = await newcomer(page);
  await addProduct(page, root);
  await page.goto(at(`${root}/order/enquiries`));
  await ready(page);
  const about = page.getByLabel('Ask about');
  await about.click();
  await about.pressSequentially('Bird');
  await page.getByRole('option', { name: 'Bird bath' }).click();
  await page.waitForURL(/enquiries\/[0-9a-f-]{36}/);
  await ready(page);
  await page.getByLabel('Supplier').fill('Brackwater Pottery');
  await page.getByLabel('Mail address').fill('sales@brackwater.supplier.example');
  await page.getByRole('checkbox', { name: 'Price', exact: true }).check();
  await page.getByRole('button', { name: 'Write the letter of these questions' }).click();
  const subject = `Enquiry ${Date.now()}`;
  await page.getByLabel('Subject').fill(subject);
  await saved(page);
  await page.getByRole('button', { name: 'Send by mail' }).click();
  await expect(page.getByText('Mailed to')).toBeVisible({ timeout: 20_000 });
  const sent = async () => (await letters(page)).find((l) => l.subject === subject);
  await expect
    .poll(async () => (await sent())?.text ?? '', { timeout: 20_000 })
    .toContain('Your price for one unit');
  await page.getByLabel('Answer, as it came').fill('5.90 from 100 pieces');
  await page.getByLabel('From units').first().fill('100');
  await page.getByLabel(/^Unit price from 100/).fill('5.90');
  await page.getByRole('combobox', { name: 'Delivery rule' }).selectOption('FOB');
  await saved(page);
  await page.getByRole('button', { name: 'Record it as a quote' }).click();
  await expect(page.getByText('It stands on the sheet as a quote.')).toBeVisible();
  await page.goto(at(`${root}/suppliers?name=Brackwater%20Pottery`));
  await ready(page);
  await expect(page.getByRole('row', { name: /Bird bath/ })).toContainText('€5.90');
});

test('an order and an enquiry of the demo are accessible, and hold a phone’s width', async ({ page }) => {
  await enterDemo(page);
  for (const width of [1280, 390]) {
    await page.setViewportSize({ width, height: 844 });
    for (const [path, name] of [
      [`${DEMO}/order`, /^PO-0002/],
      [`${DEMO}/order`, /^PO-0001/],
      [`${DEMO}/order/enquiries`, /^Rain gauge/],
    ] as const) {
      await page.goto(at(path));
      await ready(page);
      await page.getByRole('link', { name }).click();
      await page.waitForURL(/[0-9a-f-]{36}/);
      await ready(page);
      const { violations } = await new AxeBuilder({ page })
        .withTags(['wcag2a', 'wcag2aa', 'wcag22aa'])
        .analyze();
      expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html}`)).toEqual([]);
      expect(
        await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
        `${page.url()} is wider than the window`,
      ).toBeLessThanOrEqual(0);
    }
  }
});
