import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import {
  addProduct,
  at,
  DEMO,
  enterDemo,
  expect,
  newcomer,
  openDemoList,
  openDemoSheet,
  ready,
  saved,
  test,
} from './help.ts';

/** A fee table with a cell that can be read two ways, one that cannot be read, and one that is left out. */
const TABLE =
  'Tier\tWeight\tFee\nSmall\tup to 500 g\t3\nSmall\tup to 1.500 g\t5\nLarge\tup to 5 kg\t$9\nHuge\theavier\task us';

async function accessible(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(
    violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .map((n) => n.target.join(' '))
          .slice(0, 3)
          .join(' | ')} ${v.nodes[0]?.failureSummary ?? ''}`,
    ),
  ).toEqual([]);
}

async function holdsItsWidth(page: Page): Promise<void> {
  const wider = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(wider, `${page.url()} is wider than the window`).toBeLessThanOrEqual(0);
}

for (const { scheme, ...size } of [
  { scheme: 'light', width: 1280, height: 800 },
  { scheme: 'dark', width: 390, height: 844 },
] as const) {
  test(`every main screen is accessible and holds its width: ${scheme}, ${size.width} wide`, async ({
    page,
  }) => {
    test.setTimeout(600_000);
    await page.emulateMedia({ colorScheme: scheme });
    await page.setViewportSize(size);
    await page.goto(at('/sign-in'));
    await accessible(page);
    const sheet = await openDemoSheet(page);
    for (const path of [
      `${DEMO}/weigh`,
      `${DEMO}/weigh?open=${sheet.split('/').pop()}`,
      sheet,
      `${sheet}/market`,
      `${sheet}/market?all=1`,
      `${DEMO}/find`,
      `${DEMO}/check?goods=9520000010058`,
      `${DEMO}/checks`,
      `${DEMO}/find/market?list=best`,
      `${DEMO}/find/listing?market=Alderway%2FDE&code=LT003658`,
      `${sheet}/compare?view=markets`,
      `${DEMO}/fund`,
      `${DEMO}/fund?view=time`,
      `${DEMO}/fund?view=quantities`,
      `${DEMO}/fund?view=sure`,
      `${DEMO}/fund/purse`,
      `${DEMO}/fund/months`,
      `${DEMO}/order`,
      `${DEMO}/order/new`,
      `${DEMO}/order/enquiries`,
      `${DEMO}/selling`,
      `${DEMO}/lists`,
      `${DEMO}/rates`,
      `${DEMO}/rates/read`,
      `${DEMO}/rates/packs`,
      `${DEMO}/settings`,
      '/account',
      '/?new=1',
    ]) {
      await page.goto(at(path));
      await ready(page);
      if (path.endsWith('/read')) await page.getByLabel('What you gave').fill(TABLE);
      if (path === sheet)
        for (const family of [
          'Tax',
          'Goods',
          'Way in',
          'Marketplace',
          'Fulfilment',
          'Returns',
          'Other',
          'Adverts',
        ]) {
          await page.getByRole('button', { name: family, exact: true }).click();
          if (size.width > 1000) await accessible(page);
        }
      await accessible(page);
      await holdsItsWidth(page);
    }
  });
}

test('the places of many lanes and of rates are accessible', async ({ page }) => {
  const sheet = await openDemoSheet(page);
  for (const path of [
    `${sheet}/compare`,
    `${sheet}/compare?view=grid`,
    `${sheet}/compare?view=markets`,
    `${sheet}/compare?view=prices`,
    `${sheet}/compare?view=routes`,
    `${sheet}/compare?view=suppliers`,
    `${sheet}/add-lanes?m=Alderway%2FDE&f=warehouse`,
    `${sheet}?more=ladder`,
    `${sheet}?more=variations`,
    `${DEMO}/suppliers`,
    `${DEMO}/rates?kind=freight&key=By+sea+to+Germany`,
  ]) {
    await page.goto(at(path));
    await ready(page);
    await accessible(page);
    await holdsItsWidth(page);
  }
});

test('lists, their set-up and their rows are accessible', async ({ page }) => {
  const list = await openDemoList(page, 'Preisliste Winter');
  for (const path of [list, `${list}?verdict=near&limit=cost::20`, `${list}/setup`]) {
    await page.goto(at(path));
    await ready(page);
    await accessible(page);
    await holdsItsWidth(page);
  }
  await page.goto(at(list));
  await ready(page);
  await page.getByRole('row').nth(1).click();
  await page
    .getByRole('region')
    .getByText(/^Keeps €/)
    .waitFor();
  await accessible(page);
});

test('the first answer stands at 1280 x 800 without scrolling', async ({ page }) => {
  await openDemoSheet(page);
  for (const part of [
    page.getByTestId('answer'),
    page.getByTestId('unit-profit'),
    page.getByLabel('Price, EUR', { exact: true }),
  ]) {
    const box = await part.boundingBox();
    expect((box?.y ?? 9999) + (box?.height ?? 0)).toBeLessThanOrEqual(800);
  }
});

test('numbers follow the reader: in German decimals have a comma', async ({ browser }) => {
  const context = await browser.newContext({ locale: 'de-DE', viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await openDemoSheet(page);
  await expect(page.getByTestId('answer')).toContainText('34,90 €');
  await expect(page.getByLabel('Price, EUR', { exact: true })).toHaveValue('34,90');
  await page.getByLabel('Price, EUR', { exact: true }).fill('35.5');
  await expect(page.getByTestId('answer')).toContainText('35,50 €');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('answer')).toContainText('34,90 €');
  // The demo is everybody's: it is left once it stands as it was.
  await saved(page);
  await context.close();
});

test('rates: a card is readable, and an item tried on it marks the rows that applied', async ({ page }) => {
  await enterDemo(page);
  await page.goto(at(`${DEMO}/rates`));
  await ready(page);
  await expect(page.getByText('example: replace with your own')).toBeVisible();
  const marked = page.locator('tr[aria-current="true"]');
  const before = await marked.allInnerTexts();
  expect(before.length).toBeGreaterThanOrEqual(2);
  await page.getByLabel(/Price, EUR/).fill('9.50');
  await page.getByLabel(/Packaged sides/).fill('60 x 40 x 30');
  await expect.poll(() => marked.allInnerTexts()).not.toEqual(before);
  await page.getByLabel(/Packaged sides/).fill('400 x 200 x 100');
  await expect(page.getByText(/No size tier of Alderway takes/)).toBeVisible();
  await page
    .getByRole('link', { name: /^(Taxes of DE|Germany)$/ })
    .first()
    .click();
  await expect(page.getByText('19.0%').first()).toBeVisible();
});

test('fund: what cash allows, three quantities with their breaks, the goal, and what is short', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await addProduct(page, base);
  await page.goto(at(`${base}/fund`));
  await ready(page);
  await expect(page.getByTestId('fund-answer')).toContainText('Enter your cash');
  await page.getByLabel(/Cash at hand/).fill('900');
  await expect(page.getByTestId('fund-answer')).toContainText(/€[\d,.]+ short/);
  await page.getByLabel(/Cash at hand/).fill('12,000');
  await expect(page.getByTestId('fund-answer')).toContainText('Your cash pays for');
  await page.getByLabel('No. 3').fill('1000');
  await expect(page.getByRole('row', { name: /^Goods/ })).toContainText(/\d/);
  await page.getByLabel(/Profit wanted a month/).fill('600');
  await expect(page.getByTestId('goal-answer')).toContainText(/units a day would do/);
  await page.getByRole('button', { name: 'Add a one-off' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Photographs');
  await page.getByLabel('Amount, EUR').fill('250');
  await expect(page.getByText('Photographs')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Amount, EUR')).toHaveValue('250.00');
});

test('settings: a hurdle, a standing and a default, each saved where it stands and in force at once', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/settings`));
  await ready(page);
  await page.getByLabel('France').selectOption('Not registered');
  await page.getByLabel('Level, EUR').first().fill('50');
  // A hurdle that is added is none before its level is typed.
  const own = page.getByRole('button', { name: 'Add a hurdle' }).first();
  await own.click();
  await expect(page.getByRole('button', { name: 'Add a hurdle' }).first()).toBeDisabled();
  const stored = page.waitForResponse(
    (r) =>
      r.url().includes('/settings') &&
      r.request().method() === 'POST' &&
      (r.request().postData() ?? '').includes('320'),
  );
  await page.getByLabel('Order quantity').fill('320');
  expect((await stored).status()).toBe(200);
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await addProduct(page, base);
  await expect(page.getByText('Unit profit at least €50.00')).toBeVisible();
  await expect(page.getByTestId('answer')).toContainText('A launch of 320');
});

/** Texts that their own box cuts, choices wider than their field, and a page wider than its window. */
function cutIn(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const found: string[] = [];
    const wider = document.documentElement.scrollWidth - window.innerWidth;
    if (wider > 0) found.push(`the page is ${wider} px wider than the window`);
    const cuts = (el: Element): boolean =>
      ['hidden', 'clip'].includes(getComputedStyle(el).overflowX) && el.scrollWidth > el.clientWidth + 1;
    const pen = document.createElement('canvas').getContext('2d') as CanvasRenderingContext2D;
    for (const el of document.querySelectorAll('main *')) {
      // Columns of a list are as wide as one drags them, and say the whole title to the pointer.
      if (
        el.closest('svg, .list-row, .hidden-text') !== null ||
        el.clientWidth <= 2 ||
        el.textContent?.trim() === ''
      )
        continue;
      if (cuts(el) && ![...el.children].some(cuts))
        found.push(
          `"${el.textContent?.trim().slice(0, 60)}" needs ${el.scrollWidth} px and has ${el.clientWidth}`,
        );
      if (!(el instanceof HTMLSelectElement)) continue;
      const style = getComputedStyle(el);
      pen.font = style.font;
      const [needs, has] = [
        pen.measureText(el.selectedOptions[0]?.textContent ?? '').width,
        el.clientWidth - Number.parseFloat(style.paddingLeft) - Number.parseFloat(style.paddingRight) - 18,
      ];
      if (needs > has + 1)
        found.push(
          `the choice "${el.selectedOptions[0]?.textContent}" needs ${Math.ceil(needs)} px and has ${Math.floor(has)}`,
        );
    }
    return found;
  });
}

test('nothing is cut on any main view: wide, narrow, at one and a half times the size, on a phone', async ({
  page,
}) => {
  test.setTimeout(600_000);
  const list = await openDemoList(page, 'Stock list November');
  const sheet = await openDemoSheet(page);
  const views = [
    `${DEMO}/weigh`,
    sheet,
    `${sheet}/compare`,
    `${sheet}/compare?view=grid`,
    `${sheet}/compare?view=markets`,
    `${sheet}/compare?view=prices`,
    `${sheet}/compare?view=routes`,
    `${sheet}/add-lanes?m=Alderway%2FDE&f=warehouse`,
    `${DEMO}/find`,
    `${DEMO}/fund`,
    `${DEMO}/fund?view=time`,
    `${DEMO}/fund?view=quantities`,
    `${DEMO}/fund?view=sure`,
    `${DEMO}/fund/purse`,
    `${DEMO}/fund/months`,
    `${DEMO}/lists`,
    list,
    `${list}/setup`,
    `${DEMO}/rates`,
    `${DEMO}/settings`,
    `${DEMO}/suppliers`,
  ];
  const cut: string[] = [];
  // 1280 x 800 at 150 % is 853 x 533.
  for (const size of [
    { width: 1280, height: 800 },
    { width: 1024, height: 768 },
    { width: 853, height: 533 },
    { width: 390, height: 844 },
  ]) {
    await page.setViewportSize(size);
    for (const path of views) {
      await page.goto(at(path));
      await ready(page);
      cut.push(...(await cutIn(page)).map((what) => `${size.width} wide, ${path}: ${what}`));
    }
  }
  expect(cut).toEqual([]);
});
