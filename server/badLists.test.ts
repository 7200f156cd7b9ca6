/**
 * Files that go wrong, through the whole of reading: nothing is lost, nothing half read is shown as whole,
 * every message says what to do.
 */
import { existsSync, mkdirSync, symlinkSync } from 'node:fs';
import { Readable } from 'node:stream';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { checkDigit } from '../core/goods/gtin.ts';
import { rowsOut } from './files/rowsOut.ts';
import { storePath } from './files/store.ts';
import { workOnList } from './jobs/readList.ts';
import { alone, listTests } from './testing/lists.ts';
import { markGoods, moreOf } from './use/goods.ts';
import { loadList, startList } from './use/lists.ts';
import { receiveList, receiveReference } from './use/receiveLists.ts';
import { text } from 'node:stream/consumers';
import { fault } from '../core/fault.ts';
import { sayFault } from '../words/index.ts';
import { rowsToMend } from './files/refusedRows.ts';

const made = listTests();

const code = (n: number): string => {
  const body = `952${String(n).padStart(9, '0')}`;
  return body + checkDigit(body);
};
const file = (rows: readonly (readonly string[])[]): string =>
  Papa.unparse([['Barcode', 'Title', 'Net price'], ...rows]);

describe('rows that no list should have', () => {
  it(
    'letters from everywhere, NULs and what a spreadsheet would run come through; figures that are ' +
      'none are refused with their row',
    async () => {
      const good: [string, string][] = [
        ['أصيص نبات', 'أصيص نبات'],
        ['🌱🪴 Pot', '🌱🪴 Pot'],
        ['Pot\0 with a NUL', 'Pot with a NUL'],
        ['=HYPERLINK("http://x","y")', '=HYPERLINK("http://x","y")'],
        ['+1+cmd|x', '+1+cmd|x'],
        ['@SUM(A1)', '@SUM(A1)'],
        ['Tab\there', 'Tab\there'],
        ['Back\\slash "quoted"', 'Back\\slash "quoted"'],
        ['Two\nlines', 'Two\nlines'],
        [`${'x'.repeat(1999)}🌱`, 'x'.repeat(1999)],
      ];
      const prices = [
        '1e308',
        '1e999',
        '2026-03-04',
        '04.03.2026',
        'NaN',
        'Infinity',
        '-0.01',
        'call us',
        '',
        '12,34,56',
      ];
      const id = await made.tools.bring(
        file([
          ...good.map(([title], i) => [code(i), title, '2.50']),
          ...prices.map((price, i) => [code(100 + i), 'Bad', price]),
        ]),
      );
      const page = await made.tools.read(id);
      expect(page.shown).toMatchObject({
        state: 'done',
        data: { valid: good.length, invalid: prices.length, garbled: 0 },
      });
      const stored = await made.tools.rowsOf(page.shown?.id as string);
      expect(stored.map((r) => r.title.slice(0, 1999))).toEqual(good.map(([, title]) => title));
      expect(stored.every((r) => r.cost === 2.5)).toBe(true);
      const refused = Papa.parse<Record<string, string>>(
        (await text(rowsToMend(storePath(made.w.id, id, page.shown?.id as string, 'refused.csv'), sayFault)))
          .replace('\ufeff', '')
          .trim(),
        { header: true },
      ).data;
      expect(refused.map((r) => r['Net price'])).toEqual(prices);
      expect(
        refused.every((r) => (r.problem ?? '') !== '' && (r.remedy ?? '') !== '' && Number(r.row) > 1),
      ).toBe(true);
      // As a file no title begins with what a spreadsheet runs.
      const out = await Readable.from(
        rowsOut(
          'csv',
          'x',
          [{ name: 'title', kind: 'text' }],
          (async function* () {
            yield stored.map((r) => [r.title]);
          })(),
        ),
      ).toArray();
      const titles = Papa.parse<string[]>(Buffer.concat(out).toString('utf8').replace('\ufeff', '').trim())
        .data.slice(1)
        .map(([t]) => t ?? '');
      expect(titles.filter((t) => /^[=+@\t-]/.test(t))).toEqual([]);
      expect(titles.filter((t) => t.startsWith("'"))).toHaveLength(3);
    },
  );

  it(
    'ragged rows and blank ones: what is missing is unknown, what is too much is left, lines count ' +
      'as a spreadsheet counts them',
    async () => {
      const page = await made.tools.read(
        await made.tools.bring(
          [
            'Barcode,Title,Net price,Shelf price',
            `${code(1)},Pot,2.50`,
            '',
            ',,,',
            `${code(2)},Pot,2.50,9.90,and,more`,
            `${code(3)}`,
          ].join('\n'),
        ),
      );
      expect(page.shown?.data).toMatchObject({ valid: 2, invalid: 1, troubles: { cost: 1 } });
      expect((await made.tools.rowsOf(page.shown?.id as string)).map((r) => [r.line, r.price])).toEqual([
        [2, null],
        [5, 9.9],
      ]);
    },
  );

  it('two encodings in one file: every row is read, and how many have letters that were lost is said', async () => {
    const good = Array.from({ length: 4000 }, (_, i) => `${code(i)},Blumentöpfe groß,2.50`);
    const head = `Barcode,Title,Net price\n${good.join('\n')}\n`;
    const tail = Buffer.from(
      Array.from({ length: 50 }, (_, i) => `${code(5000 + i)},Töpfe,2.50`).join('\n'),
      'latin1',
    );
    const page = await made.tools.read(await made.tools.bring(Buffer.concat([Buffer.from(head), tail])));
    expect(page.shown?.data).toMatchObject({ valid: 4050, invalid: 0, garbled: 50 });
  });

  it('columns kept as they are travel along, a half character at the cut too', async () => {
    const id = await made.tools.bring(
      Papa.unparse([
        ['Barcode', 'Title', 'Net price', 'Colour', 'Remarks'],
        [code(1), 'Pot', '2.50', 'grün "matt"', `${'y'.repeat(4999)}🌱`],
        [code(2), 'Pot', '3.50', '', ''],
      ]),
      'extras.csv',
      { extras: ['Colour'] },
    );
    const page = await made.tools.read(id);
    const more = await moreOf(made.w.id, page.shown?.id as string, [2, 3, 99]);
    expect(more.get(2)).toEqual({ Colour: 'grün "matt"', notes: 'y'.repeat(4999) });
    expect([...more.keys()]).toEqual([2, 3]);
    expect(more.get(3)).toEqual({});
  });
});

describe('files that end the reading', () => {
  it('a disk that fills: the reading ends and says so, and what was read is no list', async () => {
    const id = await made.tools.bring(
      file([
        [code(1), 'Pot', '2.50'],
        [code(3), 'Jug', '4.00'],
        [code(2), 'Pan', 'call us'],
      ]),
    );
    const run = await startList(made.w.id, id, 'readList', made.w.personId);
    // The file of refused rows goes where nothing can be written.
    mkdirSync(storePath(made.w.id, id, run), { recursive: true });
    symlinkSync('/dev/full', storePath(made.w.id, id, run, 'refused.csv'));
    await workOnList(made.w.id, run, alone);
    const page = await loadList(made.w.id, id);
    expect(page?.work[0]).toMatchObject({ state: 'failed', error: fault('diskFull') });
    expect(page?.list.runId).toBeNull();
    expect(await made.tools.rowsOf(run)).toEqual([]);
  });
  it.each([
    [
      'a cell of ten megabytes',
      () => `${file([[code(1), 'Pot', '2.50']])}\r\n${code(2)},"${'z'.repeat(10_000_000)}",2.50\r\n`,
      'cellTooLong',
    ],
    [
      'a quotation mark that is never closed',
      () =>
        `${file(Array.from({ length: 5000 }, (_, i) => [code(i), 'Pot', '2.50']))}\r\n${code(9000)},"open,2.50\r\n`,
      'quoteOpen',
    ],
  ])('%s: it says so, and no part is shown as the whole', async (_, make, says) => {
    const id = await made.tools.bring(make());
    const page = await made.tools.read(id);
    expect(page.work[0]).toMatchObject({ state: 'failed', error: { code: says } });
    expect(page.list.runId).toBeNull();
    // What was read before the fault is told as a failed reading, never as a list that is ready.
    expect(page.shown === null || page.shown.state === 'failed').toBe(true);
  });

  it.each([
    ['a header and nothing else', 'Barcode,Title,Net price\n', 'onlyHeader'],
    ['one column', `Barcode\n${code(1)}\n${code(2)}\n`, 'noColumnFor'],
  ])('%s', async (_, text, says) => {
    const id = await made.tools.bring(text);
    expect((await made.tools.read(id)).work[0]).toMatchObject({ state: 'failed', error: { code: says } });
  });
});

describe('several listings of one barcode', () => {
  it('the listing chosen by hand is kept with the goods until other figures come', async () => {
    const figures = Papa.unparse([
      ['Barcode', 'Title', 'Shelf price', 'Monthly units'],
      [code(1), 'Small', '9.90', '40'],
      [code(1), 'Large', '14.90', '90'],
      [code(2), 'Other', '5.00', '3'],
    ]);
    const id = await made.tools.bring(
      file([
        [code(1), 'Pot', '2.50'],
        [code(2), 'Pan', '1.00'],
      ]),
      'list.csv',
      { figures },
    );
    const page = await made.tools.read(id);
    expect(existsSync(storePath(made.w.id, id, page.shown?.id as string, 'listings'))).toBe(true);
    expect((await made.tools.rowsOf(page.shown?.id as string)).map((r) => r.price)).toEqual([14.9, 5]);
    const rows = [{ key: Number(code(1)), name: 'Pot', profitPerMonth: null, lacks: [] }];
    const chosen = async (): Promise<unknown> =>
      (await (await import('./use/goods.ts')).marksOf(made.w.id, [Number(code(1))]))[0]?.listings;
    await markGoods(made.w.id, page, { rows, listing: 2 }, made.w.personId);
    expect(await chosen()).toEqual({ [id]: 2 });
    // Another decision about the goods leaves it as it is; taking it back leaves the rule of the list.
    await markGoods(made.w.id, page, { rows, state: 'shortlisted' }, made.w.personId);
    expect(await chosen()).toEqual({ [id]: 2 });
    await markGoods(made.w.id, page, { rows, listing: null }, made.w.personId);
    expect(await chosen()).toEqual({});
    await markGoods(made.w.id, page, { rows, listing: 3 }, made.w.personId);
    await receiveReference(made.w.id, id, 'newer.csv', Readable.from([Buffer.from(figures)]));
    expect(await chosen()).toEqual({});
  });
});

it('a workbook under a CSV name is read as what it is', async () => {
  const ExcelJS = (await import('exceljs')).default;
  const book = new ExcelJS.Workbook();
  const s = book.addWorksheet('Goods');
  s.addRow(['Barcode', 'Title', 'Net price']);
  s.addRow([code(1), 'Pot', 2.5]);
  s.addRow([code(3), 'Jug', 4]);
  s.addRow([code(2), 'Pan', new Date('2026-03-04T00:00:00Z')]);
  const page = await made.tools.read(
    await made.tools.bring(Buffer.from(await book.xlsx.writeBuffer()), 'renamed.csv'),
  );
  expect(page.shown?.data).toMatchObject({ valid: 2, invalid: 1, troubles: { cost: 1 } });
  await expect(
    receiveList(made.w.id, 'book.xlsx', Readable.from([Buffer.from([0x50, 0x4b, 3, 4])]), made.w.personId),
  ).rejects.toMatchObject({ fault: { code: 'notWorkbook' } });
});
