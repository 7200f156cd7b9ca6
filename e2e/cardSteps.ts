/** Steps on rate cards that several browser tests take. */
import { writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import ExcelJS from 'exceljs';
import { at, expect, ready } from './help.ts';

/** Opens a card of a workspace by its name. */
export const openCard = async (page: Page, base: string, name: string): Promise<void> => {
  await page.goto(at(`${base}/rates`));
  await ready(page);
  await page
    .getByRole('navigation', { name: 'Cards' })
    .getByRole('link', { name, exact: true })
    .first()
    .click();
  await page.waitForURL(/card=/);
  await expect(page.getByRole('heading', { level: 2, name, exact: true })).toBeVisible();
  await ready(page);
};
export const cardId = (page: Page): string => new URL(page.url()).searchParams.get('card') ?? '';
/** The card of the page as a workbook. */
export async function workbook(page: Page, base: string): Promise<ExcelJS.Workbook> {
  const book = new ExcelJS.Workbook();
  await book.xlsx.load(
    (await (
      await page.request.get(at(`${base}/rates/file?card=${cardId(page)}&as=xlsx`))
    ).body()) as unknown as ArrayBuffer,
  );
  return book;
}
/** Imports a file as a version of the card that is open, up to the preview. */
export async function importFile(page: Page, name: string, body: Buffer | string): Promise<void> {
  const path = join(tmpdir(), `bm-${Date.now()}-${name}`);
  writeFileSync(path, body);
  await page.getByLabel('Import a file').setInputFiles(path);
  await expect(page.getByRole('region', { name: 'What this file would do' })).toBeVisible();
}
/** Types into cells downwards from the active one; null leaves a cell as it is. */
export async function typeDown(page: Page, values: (string | null)[]): Promise<void> {
  for (const v of values) {
    if (v === null) await page.keyboard.press('ArrowDown');
    else {
      await page.keyboard.type(v);
      await page.keyboard.press('Enter');
    }
  }
}
/** Turns to a sheet of the draft and puts the focus on its first cell. */
export async function turnTo(page: Page, sheet: string): Promise<void> {
  await page.getByRole('tab', { name: new RegExp(`^${sheet}`) }).click();
  await page.getByRole('grid', { name: sheet, exact: true }).focus();
}
export const draftSaved = (page: Page) =>
  expect(page.getByRole('status').filter({ hasText: 'Draft saved' })).toBeVisible();
