import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buffer, text } from 'node:stream/consumers';
import Papa from 'papaparse';
import { afterAll, describe, expect, it } from 'vitest';
import { fault } from '../../core/fault.ts';
import { sayFault } from '../../words/index.ts';
import { refusedHead, refusedRow, rowsToMend } from './refusedRows.ts';

const folder = mkdtempSync(join(tmpdir(), 'bm-refused-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const kept = (name: string, content: string): string => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
const mended = async (path: string): Promise<string[][]> =>
  Papa.parse<string[]>((await text(rowsToMend(path, sayFault))).replace('\ufeff', '').trim()).data;
const fileOf = (header: readonly string[], rows: readonly unknown[][]): string =>
  `${refusedHead(header)}${Papa.unparse([...rows])}\r\n`;

describe('rows to mend', () => {
  it('stand as they stood, with their row, what is wrong and what to do', async () => {
    const rows = [
      refusedRow(['9521', 'Nest box', '-1,00'], 7, [
        fault('barcodeLength', { value: '9521', digits: 4 }),
        fault('costNegative', { value: '-1,00' }),
      ]),
    ];
    expect(await mended(kept('two.csv', fileOf(['EAN', 'Title', 'Price'], rows)))).toEqual([
      ['EAN', 'Title', 'Price', 'row', 'problem', 'remedy'],
      [
        '9521',
        'Nest box',
        "'-1,00",
        '7',
        '"9521" has 4 digits; The purchase price -1,00 is below 0',
        'A barcode has 8, 12, 13 or 14. Write what a unit costs.',
      ],
    ]);
  });
  it('keep line breaks, quotation marks and commas of their cells', async () => {
    const odd = ['a "quoted" one', 'two\nlines', 'one, two'];
    const rows = [refusedRow(odd, 2, [fault('costMissing')])];
    const [, row] = await mended(kept('odd.csv', fileOf(['A', 'B', 'C'], rows)));
    expect(row?.slice(0, 3)).toEqual(odd);
  });
  it('what a spreadsheet would run is led by an apostrophe, in the heading too', async () => {
    const rows = [refusedRow(['=1+1'], 2, [fault('costMissing')])];
    const [head, row] = await mended(kept('formula.csv', fileOf(['=HYPERLINK("x")'], rows)));
    expect([head?.[0], row?.[0]]).toEqual(['\'=HYPERLINK("x")', "'=1+1"]);
  });
  it('come whole where there are more than are put into words at once', async () => {
    const rows = Array.from({ length: 1234 }, (_, i) =>
      refusedRow([String(i)], i + 2, [fault('costMissing')]),
    );
    const out = await mended(kept('many.csv', fileOf(['n'], rows)));
    expect(out).toHaveLength(1235);
    expect(out.slice(1).map((r) => Number(r[0]))).toEqual(Array.from({ length: 1234 }, (_, i) => i));
    expect(new Set(out.slice(1).map((r) => r[2]))).toEqual(new Set(['There is no purchase price']));
  });
  it('a file that was kept in words goes out as it is', async () => {
    const old = '\ufeffEAN,row,problem,remedy\r\n123,4,Too short,Write more\r\n';
    expect((await buffer(rowsToMend(kept('old.csv', old), sayFault))).toString()).toBe(old);
  });
  it('a file that is not there ends the stream with its reason', async () => {
    await expect(text(rowsToMend(join(folder, 'nowhere.csv'), sayFault))).rejects.toMatchObject({
      code: 'ENOENT',
    });
  });
});
