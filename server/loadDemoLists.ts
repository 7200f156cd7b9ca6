/** The demo's suppliers' lists: a tidy one, a messy one and a workbook, taken in and read as anybody's are. */
import { Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import {
  demoRow,
  marketFigures,
  messyFile,
  TIDY_HEADER,
  tidyLine,
  windows1252,
  workbookSheets,
} from '../demo/lists.ts';
import { workOnList } from './jobs/readList.ts';
import { startList } from './use/lists.ts';
import { loadSetup, saveSetup } from './use/listSetup.ts';
import { receiveList, receiveReference } from './use/receiveLists.ts';

const TIDY_ROWS = 6000;
const MESSY_ROWS = 1200;

async function workbook(): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  for (const s of workbookSheets(240)) {
    const page = book.addWorksheet(s.name);
    for (const row of s.rows) page.addRow(row);
  }
  return Buffer.from(await book.xlsx.writeBuffer());
}

type DemoList = {
  file: string;
  name: string;
  supplier: string;
  bytes: Uint8Array;
  sheet?: string;
  figures?: string;
  extras?: string[];
};

const tidyFile = (): string =>
  [TIDY_HEADER.join(','), ...Array.from({ length: TIDY_ROWS }, (_, i) => tidyLine(demoRow(i)))].join('\n');

const demoListFiles = async (): Promise<DemoList[]> => [
  {
    file: 'range-autumn.xlsx',
    name: 'Autumn range',
    supplier: 'Brindle & Vale Trading',
    bytes: await workbook(),
    sheet: 'Autumn',
    extras: ['Finish'],
  },
  {
    file: 'Preisliste_Winter.csv',
    name: 'Preisliste Winter',
    supplier: 'Grosshandel Grüner Winkel',
    bytes: windows1252(messyFile(MESSY_ROWS)),
    figures: marketFigures(MESSY_ROWS),
  },
  {
    file: 'stocklist.csv',
    name: 'Stock list November',
    supplier: 'Pentlow Wholesale',
    bytes: Buffer.from(tidyFile()),
  },
];

export async function loadDemoLists(workspaceId: string, by: string): Promise<void> {
  for (const f of await demoListFiles()) {
    const id = await setUp(workspaceId, f, by);
    const run = await startList(workspaceId, id, 'readList', by);
    while (await workOnList(workspaceId, run, { turnMs: 60_000, othersWait: async () => false }));
  }
}

/** Takes the file in and chooses its columns and assumptions; the list's id. */
async function setUp(workspaceId: string, f: DemoList, by: string): Promise<string> {
  const { id } = await receiveList(workspaceId, f.file, Readable.from([Buffer.from(f.bytes)]), by);
  if (f.figures !== undefined)
    await receiveReference(workspaceId, id, 'market-figures.csv', Readable.from([Buffer.from(f.figures)]));
  const setup = await loadSetup(workspaceId, id, f.sheet ?? null);
  if (setup === null) throw new Error('a demo list is gone');
  const { own } = setup;
  await saveSetup(workspaceId, id, {
    name: f.name,
    supplier: f.supplier,
    sheet: f.sheet ?? null,
    map: { ...setup.map, extras: f.extras ?? [] },
    previousId: null,
    reference:
      setup.list.reference === null
        ? null
        : {
            sheet: setup.list.reference.sheet,
            map: setup.list.reference.map,
            choice: setup.list.reference.choice,
          },
    settings: {
      ...own,
      categories: { home: 'household' },
      assumptions: {
        ...own.assumptions,
        category: 'garden',
        unitsShare: 0.3,
        inbound: { perUnit: 0.2, perKg: 0.15 },
        purchase: { ...own.assumptions.purchase, vat: 'added', vatRate: 0.19 },
      },
    },
  });
  return id;
}
