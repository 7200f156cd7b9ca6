import { createWriteStream, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import { afterAll, describe, expect, it } from 'vitest';
import { listMap } from '../../core/lists/map.ts';
import { RowReader } from '../../core/lists/rows.ts';
import { makeColumns } from '../../core/columns/columns.ts';
import { HOSTILE, PLAIN, writeZip } from '../testing/zip.ts';
import type { ZipPart } from '../testing/zip.ts';
import { rowsOut } from './rowsOut.ts';
import { receiveFile } from './store.ts';
import { checkWorkbook, convertSheet, LIST_LIMITS, sheetHeads } from './workbook.ts';

const folder = mkdtempSync(join(tmpdir(), 'bold-margin-books-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const path = (name: string): string => join(folder, name);

async function book(name: string, fill: (b: ExcelJS.Workbook) => void): Promise<string> {
  const b = new ExcelJS.Workbook();
  fill(b);
  writeFileSync(path(name), Buffer.from(await b.xlsx.writeBuffer()));
  return path(name);
}

describe('a workbook as a list', () => {
  it('keeps its rows, reads formulas by their stored values, and does not take a day for a price', async () => {
    const file = await book('odd.xlsx', (b) => {
      b.addWorksheet('Terms').addRow(['Delivered']);
      const s = b.addWorksheet('Goods');
      s.addRow(['Price list']);
      s.mergeCells('A1:C1');
      s.addRow([]);
      s.addRow(['EAN', 'Price', 'Name']);
      s.addRow([
        '9520000000011',
        { formula: 'A1*2', result: 12.5 },
        { richText: [{ text: 'Pot ' }, { text: '🌱 أصيص' }] },
      ]);
      s.addRow([9520000000028, new Date('2026-03-04T00:00:00Z'), '=cmd()']);
      s.addRow(['9520000000035', { formula: '1/0', result: { error: '#DIV/0!' } }, 'Broken']);
    });
    expect(await checkWorkbook(file)).toBe(2);
    expect((await sheetHeads(file, 40, 2)).map((s) => s.name)).toEqual(['Terms', 'Goods']);
    // Of the last sheet no more is read than is shown.
    expect((await sheetHeads(file, 3, 2))[1]?.rows).toHaveLength(3);
    await convertSheet(file, 'Goods', path('odd.csv'));
    const lines = readFileSync(path('odd.csv'), 'utf8').split('\r\n');
    // Row 3 of the sheet is line 3 of the file.
    expect(lines[2]).toBe('EAN,Price,Name');
    expect(lines[3]).toBe('9520000000011,12.5,Pot 🌱 أصيص');
    expect(lines[4]).toMatch(/^9520000000028,2026-03-04,/);
    const reader = new RowReader(
      listMap.parse({ columns: { identifier: 'EAN', cost: 'Price', title: 'Name' } }),
      ['EAN', 'Price', 'Name'],
    );
    const columns = makeColumns(1);
    const read = (line: string) =>
      reader.read(line.split(','), 4, columns, 0, () => -1).troubles.map((t) => t.what);
    expect([lines[3], lines[4], lines[5]].map((l) => read(l as string))).toEqual([[], ['cost'], ['cost']]);
  });
  it('numbers take the decimal mark that its texts use', async () => {
    const file = await book('comma.xlsx', (b) => {
      const s = b.addWorksheet('Liste');
      s.addRow(['EAN', 'Preis']);
      for (let i = 0; i < 5; i++) s.addRow(['9520000000011', '12,90']);
      s.addRow(['9520000000011', 7.5]);
    });
    await convertSheet(file, null, path('comma.csv'));
    expect(readFileSync(path('comma.csv'), 'utf8')).toContain('9520000000011,"7,5"');
  });
  it('a sheet that is not there is named', async () => {
    const file = await book('one.xlsx', (b) => void b.addWorksheet('One').addRow(['EAN']));
    await expect(convertSheet(file, 'Two', path('none.csv'))).rejects.toMatchObject({
      fault: { code: 'workbookNoSuchSheet', detail: { sheet: 'Two' } },
    });
  });
  const unpacks = { fault: { code: 'workbookUnpacks' } };
  const half = { fault: { code: 'notWorkbook' } };
  it('one that unpacks beyond all measure is refused before it is read, and so is half of one', async () => {
    const file = await book('bomb.xlsx', (b) => {
      const s = b.addWorksheet('Zeros');
      for (let i = 0; i < 3000; i++) s.addRow(['0'.repeat(300), i]);
    });
    await checkWorkbook(file);
    for (const limit of [{ all: 100_000 }, { part: 100 }, { shared: 100 }])
      await expect(checkWorkbook(file, { ...LIST_LIMITS, ...limit })).rejects.toMatchObject(unpacks);
    const [sheet] = HOSTILE['one cell of 600 MB'].slice(-1);
    writeZip(path('cell.xlsx'), [...PLAIN.slice(0, -1), { ...(sheet as ZipPart), times: 3000 }]);
    await expect(checkWorkbook(path('cell.xlsx'))).rejects.toMatchObject(unpacks);
    const bytes = readFileSync(file);
    writeFileSync(path('half.xlsx'), bytes.subarray(0, bytes.length / 2));
    await expect(checkWorkbook(path('half.xlsx'))).rejects.toMatchObject(half);
    writeFileSync(path('renamed.xlsx'), 'EAN;Preis');
    await expect(checkWorkbook(path('renamed.xlsx'))).rejects.toMatchObject(half);
  });
});

describe('a file taken in', () => {
  it('is refused by its size while it comes, and leaves nothing behind', async () => {
    await expect(
      receiveFile(Readable.from([Buffer.alloc(600), Buffer.alloc(600)]), path('big/source'), 1000),
    ).rejects.toMatchObject({ reason: 'tooLarge' });
    expect(() => readFileSync(path('big/source'))).toThrow();
    expect(() => readFileSync(path('big/source.part'))).toThrow();
  });
});

describe('rows as a file', () => {
  const columns = [
    { name: 'title', kind: 'text' as const },
    { name: 'margin', kind: 'number' as const, percent: true },
  ];
  async function* batches() {
    yield [
      ['=SUM(A1)', 0.25],
      ['+49 30', null],
    ];
    yield [['-plain', -1.5]];
  }
  const save = async (format: 'csv' | 'xlsx' | 'parquet'): Promise<string> => {
    const to = path(`out.${format}`);
    const out = createWriteStream(to);
    rowsOut(format, 'List', columns, batches()).pipe(out);
    await once(out, 'close');
    return to;
  };
  it('CSV: what a spreadsheet would run is led by an apostrophe; unknown is blank', async () => {
    expect(readFileSync(await save('csv'), 'utf8')).toBe(
      "\ufefftitle,margin\r\n'=SUM(A1),0.25\r\n'+49 30,\r\n'-plain,-1.5\r\n",
    );
  });
  it('XLSX: texts stay texts, numbers numbers', async () => {
    const b = new ExcelJS.Workbook();
    await b.xlsx.readFile(await save('xlsx'));
    const page = b.worksheets[0];
    expect(page?.getCell('A2').value).toBe('=SUM(A1)');
    expect(page?.getCell('A2').type).toBe(ExcelJS.ValueType.String);
    expect([page?.getCell('B2').value, page?.getCell('B3').value, page?.getCell('B4').value]).toEqual([
      0.25,
      null,
      -1.5,
    ]);
  });
  it('Parquet: reads back as it was', async () => {
    const { parquetReadObjects } = await import('hyparquet');
    const bytes = readFileSync(await save('parquet'));
    const file = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
    expect(await parquetReadObjects({ file })).toEqual(
      [
        { title: '=SUM(A1)', margin: 0.25 },
        { title: '+49 30', margin: undefined },
        { title: '-plain', margin: -1.5 },
      ].map((r) => ({ ...r, margin: r.margin ?? null })),
    );
  });
});
