import { addProduct, answer, at, expect, newcomer, openFamily, ready, searchFor, test } from './help.ts';
import type { Page } from '@playwright/test';

/** A schedule as a web page would show it: imperial units, several tables, footnotes. */
const FEES = `Selling fees

Category→Referral fee→Minimum
Garden→15 % up to $100.00, 8 % of the rest→$0.30
Books→12 %→$0.30

Fulfilment fees per unit

Size tier→Dimensions→Weight→Fee
Flat→15 x 12 x 0.75 in→up to 6 oz→$2.40
→→up to 1 lb→$3.05*
Box→18 x 14 x 8 in→up to 1 lb→$3.94
→→up to 2 lb→$4.60
→→up to 20 lb→$4.60 and $0.38 for each 1 lb over 2 lb

* textiles +0.30

Monthly storage per cubic foot

Month→Fee
January - September→$0.78
October - December→$2.40`.replaceAll('→', '\t');

const give = (page: Page, text: string) => page.getByLabel('What you gave').fill(text);
async function prove(page: Page, line: string): Promise<void> {
  await page.getByLabel('Add one: size, weight, what it cost').fill(line);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
}
async function readInto(page: Page, base: string, marketplace: string, country: string): Promise<void> {
  await page.goto(at(`${base}/rates/read`));
  await ready(page);
  await page.getByLabel('Marketplace', { exact: true }).fill(marketplace);
  await searchFor(page.getByLabel('Country'), country);
  await page.getByLabel('Your VAT standing there').selectOption({ label: 'Not registered' });
}

test('from an empty workspace to a proven lane on a marketplace of one’s own, and a second country of it', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await page.goto(at(`${base}/find`));
  await ready(page);
  await page.getByRole('link', { name: 'Sell elsewhere?' }).click();
  await page.waitForURL(/rates\/read/);
  await readInto(page, base, 'Ostrelle', 'United States');
  await give(page, FEES);
  await expect(page.getByTestId('read-sentence')).toHaveText(/Read: 24 of 24 cells\.\s*/);
  await prove(page, '10 x 8 x 3 in, 1.5 lb, 4.60');
  await prove(page, '12 x 10 x 5 in, 3 lb, 4.98');
  await prove(page, 'price 29.90, Garden, referral 4.49');
  await expect(page.getByText('It meets 3 of your 3 proofs.')).toBeVisible();
  await page.getByRole('button', { name: /^Put in force from/ }).click();
  await page.waitForURL(/rates\?card=/);
  await ready(page);
  await expect(page.getByRole('heading', { name: 'Ostrelle US' })).toBeVisible();
  await expect(page.getByText('It meets 3 of your 3 proofs.')).toBeVisible();

  // One's own marketplace is the one a product is sold on, unless another is chosen.
  await addProduct(page, base, { price: '29.90', cost: '6.40', sides: '30 x 20 x 10', weight: '0.6' });
  await expect(answer(page)).toContainText('In United States on Ostrelle');

  await openFamily(page, 'Marketplace');
  await expect(page.getByText('It meets 3 of your 3 proofs.')).toBeVisible();

  await readInto(page, base, 'Ostrelle', 'Canada');
  await give(page, FEES.replaceAll('$', 'CAD '));
  await expect(page.getByTestId('read-sentence')).toHaveText(/Read: 24 of 24 cells\.\s*/);
  await page.getByRole('button', { name: /^Put in force from/ }).click();
  await page.waitForURL(/rates\?card=/);
  await expect(page.getByRole('heading', { name: 'Ostrelle CA' })).toBeVisible();
});

test('next year’s table is held against this year’s card and its proofs before it is in force', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await readInto(page, base, 'Ostrelle', 'United States');
  await give(page, FEES);
  await expect(page.getByTestId('read-sentence')).toHaveText(/Read: 24 of 24 cells\.\s*/);
  await prove(page, '10 x 8 x 3 in, 1.5 lb, 4.60');
  await page.getByRole('button', { name: /^Put in force from/ }).click();
  await page.waitForURL(/rates\?card=/);
  await ready(page);
  await page.getByRole('link', { name: 'Read a table into it' }).click();
  await page.waitForURL(/rates\/read\?card=/);
  await ready(page);
  await give(page, FEES.replaceAll('4.60', '4.85'));
  await expect(page.getByText('1 row changes')).toBeVisible();
  await expect(page.getByText('0.25 too much. Box, counted as 0.68 kg')).toBeVisible();
  await page.getByRole('button', { name: 'Make a draft' }).click();
  await page.waitForURL(/rates\/draft\//);
  await ready(page);
  await expect(page.getByText('This draft breaks one proof that the version before meets.')).toBeVisible();
});

test('a cell that can be read two ways is asked about, and remembered for the table’s next version', async ({
  page,
}) => {
  const { base } = await newcomer(page);
  await readInto(page, base, 'Ostrelle', 'Portugal');
  await page.getByLabel('Takes of a sale').fill('12');
  await give(page, 'Weight\tFee\nup to 500 g\t3\nup to 1.500 g\t5');
  await expect(page.getByTestId('read-sentence')).toContainText('One can be read two ways.');
  await expect(page.getByRole('button', { name: /^Put in force/ })).toBeDisabled();
  await page.getByRole('button', { name: 'It is up to 1.5 kg' }).click();
  await page.getByRole('button', { name: /^Put in force/ }).click();
  await page.waitForURL(/rates\?card=/);
  await page.goto(at(`${base}/rates/read`));
  await ready(page);
  await give(page, 'Weight\tFee\nup to 500 g\t3\nup to 1.500 g\t5');
  await expect(page.getByTestId('read-sentence')).toHaveText(/Read: 4 of 4 cells\.\s*/);
});
