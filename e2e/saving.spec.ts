import type { Page } from '@playwright/test';
import { addProduct, another, at, expect, newcomer, ready, saved, signUp, test } from './help.ts';

const price = (page: Page) => page.getByLabel('Price, EUR', { exact: true });

test(
  'two people: what the other changes stands on screen within five seconds, with the name; different ' +
    'fields of a plan are both kept',
  async ({ page, browser }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base);
    const sheet = page.url();
    await page.goto(at(`${base}/settings`));
    await ready(page);
    const email = `second.${Date.now()}@test.example`;
    await page.getByLabel('E-mail to invite').fill(email);
    await page.getByRole('button', { name: 'Invite' }).click();
    const link = (
      await page
        .getByText(/is invited as editor/)
        .locator('code')
        .innerText()
    ).trim();
    const editor = await another(browser);
    await signUp(editor, email);
    await editor.goto(link);
    await editor.getByRole('button', { name: 'Join' }).click();
    await editor.waitForURL(new RegExp(base));

    await page.goto(sheet);
    await ready(page);
    await editor.goto(sheet);
    await ready(editor);
    await price(editor).fill('41');
    await saved(editor);
    await expect(price(page)).toHaveValue('41.00', { timeout: 5000 });
    await expect(page.getByText('Changed by Rowan Achterberg')).toBeVisible();

    const fund = `${base}/fund?candidate=${sheet.split('/').at(-1)?.split('?')[0]}`;
    await page.goto(at(fund));
    await ready(page);
    await editor.goto(at(fund));
    await ready(editor);
    await page.getByLabel(/Cash at hand/).fill('5000');
    await editor.getByLabel(/^Contingency/).fill('12');
    await expect(page.getByLabel(/^Contingency/)).toHaveValue(/^12/, { timeout: 8000 });
    await expect(page.getByLabel(/Cash at hand/)).toHaveValue('5000');
    await editor.context().close();
  },
);

test('a launch plan that cannot be saved is told why, kept in the tab, and saved when it can be', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await addProduct(page, base);
  await page.clock.install();
  await page.goto(at(`${base}/fund`));
  await ready(page);
  let tries = 0;
  await page.route('**/fund/save', (route) => {
    tries++;
    return route.fulfill({ status: 413, body: '{}' });
  });
  await page.getByLabel(/Cash at hand/).fill('4000');
  await expect(page.getByText('Not saved: this is more than can be saved at once.')).toBeVisible();
  await page.clock.fastForward(4000);
  expect(tries, 'what is refused is not sent again by itself').toBe(1);
  await page.unroute('**/fund/save');
  await page.route('**/fund/save', (route) => route.abort());
  await page.getByLabel(/Kept back/).fill('500');
  await expect(page.getByText('Not saved: no answer from the server.')).toBeVisible();
  await page.reload();
  await ready(page);
  await expect(page.getByLabel(/Cash at hand/)).toHaveValue('4000.00');
  await page.unroute('**/fund/save');
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.reload();
  await ready(page);
  await expect(page.getByLabel(/Cash at hand/)).toHaveValue('4000.00');
});
