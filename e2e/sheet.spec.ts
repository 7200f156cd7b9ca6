import { writeFileSync } from 'node:fs';
import {
  addProduct,
  another,
  answer,
  at,
  DEMO,
  downloadLane,
  enterDemo,
  expect,
  menuItem,
  newcomer,
  openFamily,
  ready,
  searchFor,
  saved,
  test,
} from './help.ts';
import type { Page } from '@playwright/test';

const price = (page: Page) => page.getByLabel('Price, EUR', { exact: true });
const sheetOf = async (page: Page, name: string): Promise<void> => {
  await page.getByRole('link', { name }).first().click();
  await page.waitForURL(/\/weigh\/[0-9a-f-]{36}/);
  await ready(page);
};

test.describe('what people type', () => {
  test(
    '12,90 and 12.90 are one price; 1,234 is echoed; signs and spaces are taken; another currency, ' +
      'text, negative and huge are refused with a remedy',
    async ({ page }) => {
      const { base } = await newcomer(page);
      await addProduct(page, base);
      for (const text of ['12,90', '12.90', ' € 12.90', '12,90 EUR']) {
        await price(page).fill('20');
        await price(page).fill(text);
        await expect(answer(page)).toContainText('at €12.90');
      }
      await price(page).fill('1,234');
      await expect(page.getByText('Read as €1,234.00')).toBeVisible();
      await expect(answer(page)).toContainText('at €1,234.00');
      await price(page).fill('18');
      await expect(answer(page)).toContainText('at €18.00');
      for (const [text, message] of [
        ['$ 12.90', 'That is in USD; this field is in EUR'],
        ['twelve', 'Not a number'],
        ['-4', 'Cannot be below 0'],
        ['9000000000000', 'At most'],
      ] as const) {
        await price(page).fill(text);
        await expect(page.getByRole('alert').filter({ hasText: message })).toBeVisible();
        // The last good value stays in the sums.
        await expect(answer(page)).toContainText('at €18.00');
      }
      await price(page).fill('');
      await expect(answer(page)).toContainText('Enter a price');
      await expect(page.getByTestId('unit-profit')).toContainText('–');
      await price(page).fill('0');
      await expect(answer(page)).toContainText('loses');
      await saved(page);
    },
  );

  test('an empty cost is not zero: the answer says what is not known yet', async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base);
    await openFamily(page, 'Adverts');
    await page.getByRole('button', { name: 'not known yet' }).click();
    await expect(answer(page)).toContainText(/Not known yet: .*adverts/);
    await expect(page.getByText('keeps under').first()).toBeVisible();
    await openFamily(page, 'Goods');
    await page.getByLabel('Unit price, EUR').first().fill('');
    await expect(page.getByTestId('unit-profit')).toContainText('–');
    await expect(answer(page)).toContainText('Pay the supplier less than');
  });

  test('a quantity under the minimum, a size over every tier, an expired quote: each says what to change', async ({
    page,
  }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base);
    await openFamily(page, 'Goods');
    await page.getByLabel('Minimum order').fill('500');
    await expect(
      page
        .getByRole('alert')
        .filter({ hasText: 'The supplier takes no order under 500 pieces; this order is 200. Order more.' }),
    ).toBeVisible();
    await page.getByLabel('Minimum order').fill('100');
    await page.getByLabel('Valid until').fill('2026-11-01');
    await page.getByLabel('Valid until').blur();
    await expect(page.getByText(/was valid until 2026-11-01\. Ask for a new one/)).toBeVisible();
    await openFamily(page, 'Fulfilment');
    await page.getByLabel(/Packaged sides/).fill('400 x 90 x 80');
    await expect(
      page
        .getByRole('alert')
        .filter({ hasText: 'No size tier of Alderway takes 400 × 90 × 80 cm at 0.9 kg' }),
    ).toBeVisible();
    await expect(page.getByTestId('unit-profit')).toContainText('–');
  });

  test('a missing VAT standing and a missing exchange rate are problems with a remedy, not figures', async ({
    page,
  }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base, { where: 'Alderway FR' });
    await expect(
      page
        .getByRole('alert')
        .filter({ hasText: 'Your VAT standing in FR is not set. Choose it in Settings or on this lane.' }),
    ).toBeVisible();
    await openFamily(page, 'Tax');
    await page.getByLabel('VAT standing there').selectOption({ label: 'Registered' });
    await expect(answer(page)).toContainText('one unit keeps');
    await openFamily(page, 'Goods');
    await searchFor(page.getByLabel('Currency', { exact: true }).first(), 'SEK');
    await expect(
      page.getByRole('alert').filter({ hasText: 'There is no exchange rate for SEK on 2026-11-20' }),
    ).toBeVisible();
  });

  test('a script in a name is a name', async ({ page }) => {
    const { base } = await newcomer(page);
    const name = '<img src=x onerror=alert(1)><script>alert(2)</script>';
    page.on('dialog', () => {
      throw new Error('a script of a name ran');
    });
    await addProduct(page, base, { name });
    await expect(page.getByRole('heading', { name })).toBeVisible();
    await page.goto(at(`${base}/weigh`));
    await expect(page.getByRole('link', { name })).toBeVisible();
    expect(await page.title()).toBe('Weigh · Bold Margin');
  });
});

test.describe('editing', () => {
  test('keeps what was typed over a reload; undo and redo by key and button; arrow keys step a value', async ({
    page,
  }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base);
    // The first edit of a value, taken back, leaves everything as it was.
    await price(page).fill('44');
    await saved(page);
    await page.keyboard.press('Control+z');
    await expect(answer(page)).toContainText('at €29.90');
    await expect(page.getByRole('status').filter({ hasText: /^Not saved yet$|^Saving/ })).toHaveCount(0);
    await saved(page);
    await page.reload();
    await ready(page);
    await expect(price(page)).toHaveValue('29.90');
    await price(page).fill('31.50');
    await saved(page);
    await page.reload();
    await ready(page);
    await expect(price(page)).toHaveValue('31.50');
    await price(page).fill('33');
    await page.keyboard.press('Control+z');
    await expect(answer(page)).toContainText('at €31.50');
    await page.keyboard.press('Control+y');
    await expect(answer(page)).toContainText('at €33.00');
    await page.getByRole('button', { name: /^Undo/ }).click();
    await expect(answer(page)).toContainText('at €31.50');
    await price(page).focus();
    await price(page).press('ArrowUp');
    await expect(answer(page)).not.toContainText('at €31.50');
    await saved(page);
  });

  test('every figure opens its workings with their sources', async ({ page }) => {
    await enterDemo(page);
    await sheetOf(page, 'Bee house, larch, three chambers');
    await page.getByRole('button', { name: 'Workings of Margin', exact: true }).click();
    const dialog = page.getByRole('dialog');
    await expect(dialog).toContainText('Unit profit ÷ Net sales = 35.2');
    await page.keyboard.press('Escape');
    await openFamily(page, 'Marketplace');
    await page.getByRole('button', { name: 'Workings of Referral fee' }).click();
    await expect(dialog).toContainText('rate card · Alderway DE · 1 Oct 2026');
    await page.keyboard.press('Escape');
    await openFamily(page, 'Goods');
    await page.getByRole('button', { name: 'Workings of Goods' }).click();
    await expect(dialog).toContainText('quote · Haiyu Garden Crafts · 12 Nov 2026');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Workings of Breaks even at' }).click();
    await expect(dialog).toContainText('unit profit one step cheaper');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Workings of Launch takes' }).click();
    await expect(dialog).toContainText(
      'goods landed + one-offs + launch adverts + launch discounts + contingency',
    );
  });

  test('a typed fee beats the card and says so; emptied, the card is back', async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base);
    await openFamily(page, 'Marketplace');
    const before = await page.getByRole('button', { name: 'Workings of Referral fee' }).innerText();
    await page.getByLabel(/^Referral, %/).fill('5');
    await expect(page.getByText('typed, beats the card')).toBeVisible();
    await expect(page.getByRole('button', { name: 'Workings of Referral fee' })).toHaveText('1.50');
    await page.getByLabel(/^Referral, %/).fill('');
    await expect(page.getByRole('button', { name: 'Workings of Referral fee' })).toHaveText(before);
  });

  test('lanes: add another country, switch, remove, undo; targets; worst and best', async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base);
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Nordkai DE' }).click();
    const lanes = page.getByRole('listitem').filter({ hasText: /Alderway|Nordkai/ });
    await expect(lanes).toHaveCount(2);
    await lanes.filter({ hasText: 'Nordkai' }).getByRole('button').first().click();
    await expect(page).toHaveURL(/lane=/);
    await expect(page.getByText('Enter a price')).toBeVisible();
    await price(page).fill('27');
    await expect(answer(page)).toContainText('In Germany on Nordkai at €27.00');
    await saved(page);
    await page.getByRole('button', { name: 'Remove lane Germany · Nordkai' }).click();
    await expect(lanes).toHaveCount(1);
    await page.getByRole('button', { name: 'Undo', exact: true }).click();
    await expect(lanes).toHaveCount(2);
    await page.getByLabel('What if I want, %').fill('20');
    await expect(page.getByTestId('target-answer')).toContainText(
      /Price that gives it: above €\d+\.\d\d\. Purchase price that gives it: less than €\d+\.\d\d/,
    );
    await expect(page.getByRole('row', { name: /^Worst/ })).toContainText('+10%');
  });

  test('remedies of a missed hurdle clear it when typed in', async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base, { price: '17', name: 'Frog shelter' });
    await menuItem(page, 'Duplicate');
    await expect(page.getByRole('heading', { name: 'Frog shelter (copy)' })).toBeVisible();
    await ready(page);
    const row = page.getByText(/Unit profit at least €4\.00/).locator('..');
    const needed = (await row.innerText()).match(/price of (?:over )?€(\d+\.\d\d)/)?.[1] as string;
    await price(page).fill(needed);
    await expect(page.getByText(/Unit profit at least €4\.00 · is under €4\.0/)).toBeVisible();
    await menuItem(page, 'Delete');
    await expect(page.getByText('Deleted.')).toBeVisible();
  });
});

test.describe('two at once, and sessions that end', () => {
  test('two people on one field: neither overwrites the other unseen', async ({ page }) => {
    const { base } = await newcomer(page);
    await addProduct(page, base);
    const second = await page.context().newPage();
    await second.goto(page.url());
    await ready(second);
    await price(page).fill('35');
    await saved(page);
    await price(second).fill('25');
    const alert = second
      .getByRole('alert')
      .filter({ hasText: 'somebody else entered 35 while you entered 25' });
    await expect(alert).toBeVisible();
    await alert.getByRole('button', { name: 'Keep mine' }).click();
    await saved(second);
    await page.reload();
    await expect(price(page)).toHaveValue('25.00');
    // The other way: theirs is taken.
    await ready(page);
    await price(second).fill('26');
    await saved(second);
    await price(page).fill('40');
    await page
      .getByRole('alert')
      .filter({ hasText: 'entered 26 while you entered 40' })
      .getByRole('button', { name: 'Take theirs' })
      .click();
    await expect(price(page)).toHaveValue('26.00');
    await saved(page);
  });

  test('a session that ended while typing: what was typed is kept and saved after signing in', async ({
    page,
    context,
  }) => {
    const { base, email } = await newcomer(page);
    await addProduct(page, base);
    await context.clearCookies();
    await price(page).fill('44.40');
    await expect(page.getByText('You were signed out. What you typed is kept here')).toBeVisible();
    await page.getByRole('link', { name: 'Sign in' }).click();
    await page.getByLabel('E-mail').fill(email);
    await page.getByLabel('Password').fill('a long enough one');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL(/\/weigh\/[0-9a-f-]{36}/);
    await expect(price(page)).toHaveValue('44.40');
    await ready(page);
    await saved(page);
    await page.reload();
    await expect(price(page)).toHaveValue('44.40');
  });
});

test('a bundle of candidates costs the sum; one that would contain itself is refused with the way', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await addProduct(page, base, { name: 'Lid', cost: '2.00' });
  await addProduct(page, base, { name: 'Box', cost: '5.00' });
  await openFamily(page, 'Goods');
  await page.getByRole('button', { name: 'Add a product of yours' }).click();
  await page.getByLabel('Product', { exact: true }).selectOption({ label: 'Lid' });
  await expect(page.getByText('Component 2: Lid')).toBeVisible();
  await expect(page.locator('dt', { hasText: /^Goods/ }).locator('+ dd')).toContainText('7.00');
  await saved(page);
  await page.goto(at(`${base}/weigh`));
  await sheetOf(page, 'Lid');
  await openFamily(page, 'Goods');
  await page.getByRole('button', { name: 'Add a product of yours' }).click();
  await page.getByLabel('Product', { exact: true }).selectOption({ label: 'Box' });
  await expect(page.getByRole('alert')).toContainText(
    '"Box" is itself made of "Lid": a bundle cannot contain itself',
  );
});

test.describe('lane documents', () => {
  test('a damaged or foreign file is refused with its place and remedy, and nothing is added', async ({
    page,
  }, info) => {
    const { base } = await newcomer(page);
    await addProduct(page, base);
    const { text } = await downloadLane(page);
    const put = async (name: string, content: string): Promise<void> => {
      const file = info.outputPath(name);
      writeFileSync(file, content);
      await page.getByLabel('Open a lane document …').setInputFiles(file);
    };
    await put('half.json', text.slice(0, text.length / 2));
    await expect(page.getByRole('alert').filter({ hasText: 'it is not JSON' })).toBeVisible();
    await put('foreign.json', JSON.stringify({ hello: 'world' }));
    await expect(
      page.getByRole('alert').filter({ hasText: 'This file is not a lane document. At format' }),
    ).toBeVisible();
    await put('wrong.json', text.replace('"price": 29.9', '"price": "a lot"'));
    await expect(page.getByRole('alert').filter({ hasText: 'At price' })).toBeVisible();
    await put('other.json', text.replace('"kg": 0.9', '"kg": 5'));
    await expect(page.getByRole('alert').filter({ hasText: 'about another product' })).toBeVisible();
    await expect(page.getByRole('listitem').filter({ hasText: 'Alderway' })).toHaveCount(1);
    await put('again.json', text);
    await expect(page.getByRole('listitem').filter({ hasText: 'Alderway' })).toHaveCount(2);
  });
});

test('a viewer tries values and saves none', async ({ page, browser }) => {
  const { base } = await newcomer(page);
  await addProduct(page, base);
  const sheet = page.url();
  await page.goto(at(`${base}/settings`));
  await ready(page);
  const viewer = await another(browser);
  const { signUp } = await import('./help.ts');
  const email = `viewer.${Date.now()}@test.example`;
  await page.getByLabel('E-mail to invite').fill(email);
  await page.getByLabel('Role', { exact: true }).click();
  await page.getByRole('option', { name: 'Viewer' }).click();
  await page.getByRole('button', { name: 'Invite' }).click();
  const link = (
    await page
      .getByText(/is invited as viewer/)
      .locator('code')
      .innerText()
  ).trim();
  await signUp(viewer, email);
  await viewer.goto(link);
  await viewer.getByRole('button', { name: 'Join' }).click();
  await viewer.waitForURL(new RegExp(base));
  await viewer.goto(sheet);
  await ready(viewer);
  await price(viewer).fill('99');
  await expect(answer(viewer)).toContainText('at €99.00');
  await expect(viewer.getByText('You may try values; nothing is saved')).toBeVisible();
  await page.goto(sheet);
  await expect(price(page)).toHaveValue('29.90');
  // Nor does a request made by hand get past the role.
  const status = await viewer.evaluate(
    async (url) =>
      (
        await fetch(`${url}/save`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({
            patches: [{ entity: 'candidate', id: url.split('/').pop(), path: ['notes'], from: '', to: 'x' }],
          }),
        })
      ).status,
    sheet,
  );
  expect(status).toBe(403);
  await viewer.goto(at(`${DEMO}/weigh`));
  await expect(viewer.getByText('There is nothing here')).toBeVisible();
});
