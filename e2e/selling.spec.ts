/** After the launch, as a new user: a report with headings of one's own shows which line eats the margin. */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { tmpdir } from 'node:os';
import AxeBuilder from '@axe-core/playwright';
import {
  addProduct,
  at,
  bm,
  DEMO,
  downloadLane,
  enterDemo,
  expect,
  newcomer,
  ready,
  searchFor,
  test,
} from './help.ts';

const HEAD = 'Posting;Booked on;Booking;Thing;Text;EUR;Pcs';
/** Thirty sales in October, the third fee of each twice as high as one would think, and four that came back. */
function october(): string {
  const lines: string[] = [];
  const say = (day: number, order: string, code: string, text: string, amount: string, units = ''): void => {
    lines.push(
      [lines.length + 1, `${String(day).padStart(2, '0')}.10.2026`, order, code, text, amount, units].join(
        ';',
      ),
    );
  };
  for (let i = 0; i < 30; i++) {
    say(1 + i, `B${i}`, 'TH-7', 'Goods out', '29,90', '1');
    say(1 + i, `B${i}`, 'TH-7', 'Our share', '-4,49');
    say(1 + i, `B${i}`, 'TH-7', 'Packing', '-9,80');
  }
  for (let i = 0; i < 4; i++) {
    say(20 + i, `B${i}`, 'TH-7', 'Goods back', '-29,90', '1');
    say(20 + i, `B${i}`, 'TH-7', 'Our share', '4,49');
  }
  say(31, '', '', 'Promotion', '-21,00');
  return [HEAD, ...lines, `${lines.length + 1};40.10.2026;B1;TH-7;Goods out;29,90;1`].join('\n');
}
const KINDS = {
  'goods out': 'Sale',
  'our share': 'Referral fee',
  packing: 'Fulfilment',
  'goods back': 'Refund to the buyer',
  promotion: 'Adverts',
} as const;
const MAP = {
  columns: { line: 'Posting', day: 'Booked on', order: 'Booking', code: 'Thing', kind: 'Text', units: 'Pcs' },
  amounts: [{ column: 'EUR' }],
  decimal: 'comma',
  kinds: {
    'goods out': 'sale',
    'our share': 'referral',
    packing: 'fulfilment',
    'goods back': 'refund',
    promotion: 'adverts',
  },
};

test('a report of one’s own making shows which line eats the margin, to the figures of the command line', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await addProduct(page, base);
  const lane = await downloadLane(page);
  await page.goto(at(`${base}/selling`));
  await ready(page);
  await expect(page.getByText('Put a lane on sale and bring in a settlement report')).toBeVisible();
  await page.getByRole('button', { name: 'Put a lane on sale' }).click();
  const form = page.getByRole('region', { name: 'Put a lane on sale' });
  await form.getByRole('button', { name: 'Put on sale', exact: true }).click();
  await expect(form.getByRole('alert')).toContainText('No lane is chosen');
  await searchFor(form.getByRole('combobox', { name: 'Lane' }), 'Bird');
  await form.getByLabel(/^Listing code or own number/).fill('TH-7');
  await form.getByLabel('First day on sale').fill('2026-10-01');
  await form.getByRole('button', { name: 'Put on sale', exact: true }).click();
  await expect(page.getByText('Nothing of it has been settled yet.')).toBeVisible();

  const file = join(tmpdir(), `october-${process.pid}.csv`);
  writeFileSync(file, october());
  await page.getByLabel('Bring in a report').setInputFiles(file);
  await page.waitForURL(/selling\/reports\/[0-9a-f-]{36}/);
  await ready(page);
  await page.getByLabel('Marketplace and country').selectOption({ label: 'Alderway DE, EUR' });
  for (const [label, column] of [
    ['Line number', 'Posting'],
    ['Day', 'Booked on'],
    ['Order', 'Booking'],
    ['Code of the goods', 'Thing'],
    ['Kind of line', 'Text'],
    ['Units', 'Pcs'],
    ['Amount', 'EUR'],
  ] as const)
    await page.getByLabel(label, { exact: true }).selectOption(column);
  await page.getByRole('button', { name: 'Read the report' }).click();
  // Nothing is guessed: every kind waits until somebody says it.
  await expect(page.getByTestId('report-said')).toContainText('Lines that count: 0');
  await expect(page.getByTestId('report-said')).toContainText('1 row is refused; its amounts come to €29.90');
  await expect(page.getByText('"40.10.2026" is no day')).toBeVisible();
  for (const [text, kind] of Object.entries(KINDS))
    await page.getByLabel(new RegExp(`^${text}`)).selectOption({ label: kind });
  await page.getByRole('button', { name: 'Read again' }).click();
  await expect(page.getByTestId('report-said')).toContainText('Lines that count: 99');

  await page.getByRole('main').getByRole('link', { name: 'Selling' }).click();
  await ready(page);
  const row = page.getByRole('article', { name: 'Bird bath' });
  await expect(row).toContainText('most of all by Fulfilment');
  await row.getByRole('link', { name: 'Bird bath' }).click();
  await page.waitForURL(/selling\/[0-9a-f-]{36}$/);
  await ready(page);

  const mapFile = join(tmpdir(), `october-${process.pid}.map.json`);
  writeFileSync(mapFile, JSON.stringify(MAP));
  const clean = join(tmpdir(), `october-clean-${process.pid}.csv`);
  writeFileSync(clean, october().split('\n').slice(0, -1).join('\n'));
  const { whole } = bm<{
    whole: {
      unitProfit: number;
      parts: { difference: number; volume: number; price: number; rate: number };
      lines: { line: string; actual: number; rate: number }[];
    };
  }>('actuals', '--lane', lane.path, '--settlement', clean, '--map', mapFile, '--since', '2026-10-01');
  const money = (x: number): string =>
    `€${Math.abs(x).toLocaleString('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 })}`;
  const lines = page.getByRole('region', { name: 'A unit sold' });
  for (const [line, name] of [
    ['fulfilment', 'Fulfilment'],
    ['referral', 'Referral fee'],
    ['returns', 'Returns'],
    ['adverts', 'Adverts'],
  ] as const) {
    const said = whole.lines.find((l) => l.line === line);
    const shown = lines.getByRole('row', { name: new RegExp(`^${name}`) });
    await expect(shown).toContainText(money(said?.actual ?? Number.NaN));
    await expect(shown).toContainText(money(said?.rate ?? Number.NaN));
  }
  await expect(lines.getByRole('row', { name: /^Profit/ })).toContainText(money(whole.unitProfit));
  await expect(page.getByRole('heading', { name: /beside the plan/ })).toContainText(
    money(whole.parts.difference),
  );
  // What the card asks for handling is known: each of the thirty fees is above it.
  const fees = page.getByRole('region', { name: 'Fees above the card' });
  const claim = fees.getByRole('row', { name: /^Fulfilment, Oct 2026/ });
  await expect(claim).toContainText('30 of 30');
  await claim.getByRole('button', { name: 'Orders' }).click();
  await expect(page.getByRole('region', { name: 'Orders' }).getByRole('row', { name: /^B7/ })).toBeVisible();
  await claim.getByLabel('Claim of Fulfilment, Oct 2026').selectOption({ label: 'claimed' });
  await expect(claim).toContainText('asked for €');
  await page.getByLabel('Units there').fill('40');
  await page.getByLabel('Units there').blur();
  await page.getByRole('button', { name: 'Note the count' }).click();
  await expect(page.getByTestId('shelf-said')).toContainText('40 units by the last count');
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => v.id)).toEqual([]);
  await page.getByLabel('Because').selectOption({ label: 'it pays less than it must' });
  await page.getByRole('button', { name: 'Let it go' }).click();
  await expect(page.getByText(/^Let go on .*it pays less than it must/)).toBeVisible();
  await page.getByRole('button', { name: 'Go on with it after all' }).click();
  await expect(page.getByLabel('Because')).toBeVisible();
  await page.getByRole('button', { name: 'Take off sale' }).click();
  await expect(page.getByText('Codes that no lane on sale has')).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  expect(
    await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth),
  ).toBeLessThanOrEqual(0);
});

test('the demo tells what came after its launches, and what to decide', async ({ page }) => {
  await enterDemo(page);
  await page.goto(at(`${DEMO}/selling`));
  await ready(page);
  const moss = page.getByRole('article', { name: 'Moss pole, bendable, 60 cm' });
  const here = moss.filter({ hasText: 'Alderway DE' });
  await expect(here).toContainText('Loses, most of all by Adverts');
  const decide = here.getByRole('list', { name: 'To decide' });
  await expect(decide).toContainText('fees are above the card');
  await expect(decide).toContainText('Cut adverts');
  await expect(moss.filter({ hasText: 'Alderway ES' })).toContainText('most of all by its price');
  await expect(page.getByRole('article', { name: /^Seed-starting kit/ })).toContainText(
    'most of all by Returns',
  );
  await expect(page.getByRole('article', { name: 'Rain barrel tap kit' })).toContainText('Pays');
  await expect(page.getByText(/No report speaks of .*: is one missing\?/)).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'How good the estimates were' }).getByRole('row', { name: /^Price/ }),
  ).toBeVisible();
  await here.getByRole('link').click();
  await ready(page);
  const drifts = page.getByRole('region', { name: 'Left the plan in both of the last two periods' });
  await expect(drifts.getByRole('row', { name: /^Fulfilment/ })).toBeVisible();
  const lines = page.getByRole('region', { name: 'A unit sold' });
  await expect(lines.getByRole('row', { name: /^Goods/ })).toContainText('orders received');
  await expect(page.getByTestId('shelf-said')).toContainText('units by what orders brought');
  await expect(page.getByText(/^Adverts €.* a click instead of €.* of clicks buy/)).toBeVisible();
  const cash = page.getByRole('region', { name: 'Cash since the launch' });
  await expect(cash).toContainText(/Money back on .*|As it goes now the money is not back/);
  await expect(cash).toContainText('beside before the launch; planned');
  await cash.getByText('By month').click();
  await expect(cash.getByRole('row', { name: /^Nov 2026/ })).toBeVisible();
  await page.getByLabel('Days').selectOption({ label: 'since the launch' });
  await expect(page.getByRole('heading', { name: /^Why the profit is/ })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => v.id)).toEqual([]);
});
