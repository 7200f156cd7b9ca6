import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { messyFile, windows1252 } from '../../demo/lists.ts';
import { firstRows, readList } from './lists.ts';
import { sniffEncoding, textIn } from './textIn.ts';
import { saying } from '../testing/saying.ts';

const folder = mkdtempSync(join(tmpdir(), 'bm-lists-'));
afterAll(() => rmSync(folder, { recursive: true }));
let n = 0;
const file = (body: string | Uint8Array): string => {
  const path = join(folder, `${++n}.csv`);
  writeFileSync(path, body);
  return path;
};
const all = async (body: string | Uint8Array, headings = ['ean', 'price']) => {
  const out: { header: readonly string[]; headerLine: number; rows: string[][]; lines: number[] } = {
    header: [],
    headerLine: 0,
    rows: [],
    lines: [],
  };
  await readList(
    file(body),
    headings,
    (f) => Object.assign(out, f),
    (batch, lines) => {
      for (const r of batch) out.rows.push([...r]);
      out.lines.push(...lines);
    },
  );
  return out;
};

it('a file of twenty thousand columns is refused at once', async () => {
  const wide = file(
    `${Array.from({ length: 20_000 }, (_, i) => `c${i}`).join(',')}\n${'1,'.repeat(19_999)}1\n`,
  );
  const started = Date.now();
  await expect(firstRows(wide, 40)).rejects.toMatchObject({
    fault: { code: 'tooManyColumns', detail: { columns: 20000 } },
  });
  await expect(
    readList(
      wide,
      ['c1'],
      () => undefined,
      () => undefined,
    ),
  ).rejects.toMatchObject({ fault: { code: 'tooManyColumns', detail: { columns: 20000 } } });
  expect(Date.now() - started).toBeLessThan(2000);
});

describe('text of any encoding', () => {
  const text = 'ean,price,name\r\n1,4.50,Töpfe für Kräuter\r\n';
  const utf16 = (big: boolean, mark: boolean): Uint8Array => {
    const b = Buffer.from(`${mark ? '\ufeff' : ''}${text}`, 'utf16le');
    return big ? b.swap16() : b;
  };
  it.each([
    ['UTF-8', Buffer.from(text), 'utf-8'],
    ['UTF-8 with a mark', Buffer.from(`\ufeff${text}`), 'utf-8'],
    ['UTF-16, little end first', utf16(false, true), 'utf-16le'],
    ['UTF-16, big end first', utf16(true, true), 'utf-16be'],
    ['UTF-16 without a mark', utf16(false, false), 'utf-16le'],
    ['Windows-1252', windows1252(text), 'windows-1252'],
  ] as const)('%s', async (_, bytes, encoding) => {
    expect(sniffEncoding(bytes)).toBe(encoding);
    const read = await all(bytes);
    expect(read).toMatchObject({
      header: ['ean', 'price', 'name'],
      headerLine: 1,
      rows: [['1', '4.50', 'Töpfe für Kräuter']],
      lines: [2],
    });
  });
  it('a character that falls between two pieces of the file is whole', async () => {
    const lines = Array.from({ length: 9000 }, (_, i) => `${i},1,${'ä€🌱'.repeat(4)}`);
    const long = `ean,price,name\n${lines.join('\n')}\n`;
    const read = await all(long);
    expect(read.rows.length).toBe(9000);
    expect(read.rows.every((r) => r[2] === 'ä€🌱'.repeat(4))).toBe(true);
  });
  it('pictures, archives and programs are no text', async () => {
    expect(await textIn(file(Buffer.from([0x50, 0x4b, 3, 4, 1, 2, 3])))).toBe('notText');
    expect(sniffEncoding(Buffer.from(Array.from({ length: 400 }, (_, i) => (i * 7) % 32)))).toBeNull();
    expect(await textIn(file(''))).toBe('empty');
  });
});

describe('lists as rows', () => {
  it.each([[';'], ['\t'], ['|'], [',']])('delimiter %j is found', async (d) => {
    expect((await all(`${['ean', 'price', 'name'].join(d)}\n${['1', '2', 'x'].join(d)}\n`)).rows).toEqual([
      ['1', '2', 'x'],
    ]);
  });
  it(
    'the header may stand below a title; blank rows are passed over, and lines counted as a ' +
      'spreadsheet does',
    async () => {
      const read = await all('Price list,,\n,,\nean,price,name\n1,2,x\n\n,,\n3,4,"two\nlines"\n5,6,z\n');
      expect([read.headerLine, read.rows.length, read.lines]).toEqual([3, 3, [4, 7, 8]]);
    },
  );
  it('ragged rows come as they are', async () => {
    expect((await all('ean,price\n1\n2,3,4\n')).rows).toEqual([['1'], ['2', '3', '4']]);
  });
  it('a slow taker is waited for, and what it throws ends the reading', async () => {
    const body = `ean,price\n${Array.from({ length: 20_000 }, (_, i) => `${i},1`).join('\n')}\n`;
    let running = 0;
    let most = 0;
    await readList(
      file(body),
      ['ean'],
      () => undefined,
      async () => {
        most = Math.max(most, ++running);
        await new Promise((done) => setTimeout(done, 2));
        running--;
      },
    );
    expect(most).toBe(1);
    await expect(
      readList(
        file(body),
        ['ean'],
        () => undefined,
        () => Promise.reject(new Error('full')),
      ),
    ).rejects.toThrow('full');
  });
  it.each([
    ['nothing', '', 'The file is empty. Choose a file with a header line and rows.'],
    [
      'a header alone',
      'ean,price\n',
      'The file has a header and no rows. Choose the file that holds the goods.',
    ],
    [
      'one column',
      'ean\n1\n2\n',
      'No row among the first 30 has the columns "price". The file has "ean"; name these in the mapping.',
    ],
    [
      'other headings',
      'code,cost\n1,2\n',
      'No row among the first 30 has the columns "ean", "price". The file has "code", "cost"; name ' +
        'these in the mapping.',
    ],
    [
      'a renamed workbook',
      Buffer.from([0x50, 0x4b, 3, 4, 20, 0, 6, 0]),
      'The file is not CSV text. Save the list as CSV, or as XLSX under its own name.',
    ],
    [
      'junk',
      Buffer.from(Array.from({ length: 3000 }, (_, i) => (i * 37) % 256)),
      'The file is not CSV text. Save the list as CSV, or as XLSX under its own name.',
    ],
    [
      'a quotation mark that is never closed',
      'ean,price,name\n1,2,"x\n3,4,y\n',
      'A quotation mark is never closed: the file may have been cut off. Export it again, and choose the whole file.',
    ],
    [
      'a cell of two million characters',
      `ean,price,name\n1,2,"${'x'.repeat(2_000_000)}"\n`,
      'A cell in row 2 is over a million characters long: a quotation mark is not closed there. ' +
        'Close or remove it, and choose the file again.',
    ],
  ])('%s is refused with a remedy', async (_, body, message) => {
    await expect(all(body as string)).rejects.toEqual(saying(message));
  });
  it('the messy list of the demo is read whole', async () => {
    const read = await all(windows1252(messyFile(500)), ['EAN', 'EK netto']);
    expect([read.headerLine, read.rows.length]).toEqual([3, 500]);
    expect(read.rows[0]?.[4]).toMatch(/^\d+,\d\d €$/);
  });
});
