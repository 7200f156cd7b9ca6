import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { HOSTILE, PLAIN, writeZip } from '../testing/zip.ts';
import { Refusal } from '../refusal.ts';
import { headsOfWorkbook, sheetAsCsv, tablesOfWorkbook } from './readApart.ts';

const folder = mkdtempSync(join(tmpdir(), 'bold-margin-hostile-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const path = (name: string): string => join(folder, name.replace(/\W+/g, '-'));

describe('a workbook read in a process of its own', () => {
  it('is read like any other', async () => {
    writeZip(path('plain'), PLAIN);
    expect(await headsOfWorkbook(path('plain'), 5)).toMatchObject([
      {
        name: 'One',
        rows: [
          ['9520000000011', '12.5'],
          ['9520000000011', '12.5'],
        ],
      },
    ]);
    await sheetAsCsv(path('plain'), null, path('plain.csv'));
    expect(readFileSync(path('plain.csv'), 'utf8')).toBe('9520000000011,12.5\r\n9520000000011,12.5\r\n');
    expect(await tablesOfWorkbook(readFileSync(path('plain')))).toMatchObject({
      ok: true,
      sheets: [{ name: 'One', header: ['9520000000011', '12.5'] }],
    });
    expect(await tablesOfWorkbook(Buffer.from('no workbook'))).toMatchObject({
      ok: false,
      fault: { code: 'notWorkbook' },
    });
    await expect(headsOfWorkbook(path('nowhere'), 5)).rejects.toBeInstanceOf(Refusal);
  });
  it.each(Object.keys(HOSTILE) as (keyof typeof HOSTILE)[])(
    '%s are refused in time, and take no memory here',
    async (name) => {
      writeZip(path(name), HOSTILE[name]);
      expect(statSync(path(name)).size).toBeLessThan(20_000_000);
      const [started, before] = [Date.now(), process.memoryUsage().rss];
      let ticks = 0;
      const ticking = setInterval(() => ticks++, 20);
      const refused = { fault: { code: 'workbookUnpacks' } };
      await expect(headsOfWorkbook(path(name), 40)).rejects.toMatchObject(refused);
      await expect(sheetAsCsv(path(name), null, path('out.csv'))).rejects.toMatchObject(refused);
      expect(await tablesOfWorkbook(readFileSync(path(name)))).toMatchObject({ ok: false, ...refused });
      clearInterval(ticking);
      expect(() => statSync(path('out.csv'))).toThrow();
      // Three readings; others are served meanwhile.
      expect(Date.now() - started).toBeLessThan(30_000);
      expect(ticks).toBeGreaterThan(10);
      expect(process.memoryUsage().rss - before).toBeLessThan(200_000_000);
    },
  );
});
