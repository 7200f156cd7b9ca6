import { addProduct, answer, at, expect, newcomer, openDemoList, ready, saved, test } from './help.ts';

const door = (state: 'open' | 'shut') => fetch(`${process.env.E2E_DOOR}/${state}`);
// One after the other: what is taken away from one test would be missing in the next.
test.describe.configure({ mode: 'default' });
test.afterEach(() => door('open'));

test('the database is away: a clear page, nothing typed is lost, and recovery without a restart', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await addProduct(page, base);
  await door('shut');
  await page.getByLabel('Price, EUR', { exact: true }).fill('38');
  await expect(page.getByText('Not saved: no answer from the server. Trying again …')).toBeVisible();
  await expect(answer(page)).toContainText('at €38.00');
  const response = await page.request.get(at(`${base}/weigh`));
  expect(response.status()).toBe(503);
  const text = await response.text();
  expect(text).toContain('The database is away');
  expect(text).not.toMatch(/ECONNREFUSED|postgres|at \/|\.ts:\d+/);
  await door('open');
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('Price, EUR', { exact: true })).toHaveValue('38.00');

  await door('shut');
  await page.goto(at(`${base}/weigh`));
  await expect(page.getByText('The database is away')).toBeVisible();
  await door('open');
  await page
    .getByRole('link', { name: 'Try again' })
    .or(page.getByRole('button', { name: 'Try again' }))
    .click();
  await expect(page.getByRole('link', { name: 'Bird bath, stoneware' })).toBeVisible();
});

test('an address that leads nowhere says so', async ({ page }) => {
  await page.goto(at('/no/such/place'));
  await expect(page.getByText('There is nothing here')).toBeVisible();
});

test('rows of an open list come back by themselves when the screening process has been killed', async ({
  page,
}) => {
  const path = await openDemoList(page, 'Stock list November');
  await page.goto(at(`${path}?all=1&sort=line`));
  await ready(page);
  const grid = page.getByRole('grid', { name: 'Rows of the list' });
  await expect(grid.locator('[aria-rowindex="2"]')).toContainText(/\w+ \w+/);
  process.kill(Number(process.env.E2E_SCREENING_PID), 'SIGKILL');
  await page.getByRole('button', { name: 'Title', exact: true }).click();
  await expect(page.getByRole('columnheader', { name: /Title/ })).toHaveAttribute('aria-sort', 'ascending');
  await expect(grid.locator('[aria-rowindex="2"]')).toContainText('Bee hotel');
});
