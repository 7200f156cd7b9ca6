/** A supplier's list from file to grid, through worker, database and screening process, beside papaparse alone. */
import { createReadStream, createWriteStream, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Papa from 'papaparse';
import { listQuery } from '../core/lists/query.ts';
import type { ListQuery } from '../core/lists/query.ts';
import { demoRow, TIDY_HEADER, tidyLine } from '../demo/lists.ts';
import { authDb } from '../server/db/client.ts';
import { member, organization } from '../server/db/authSchema.ts';
import { convertSheet } from '../server/files/workbook.ts';
import { askList } from '../server/screening/client.ts';
import type { Wanted } from '../server/screening/client.ts';
import { loadList, startList } from '../server/use/lists.ts';
import { loadSetup, saveSetup } from '../server/use/listSetup.ts';
import { receiveList } from '../server/use/receiveLists.ts';
import type { ListPage } from '../server/use/lists.ts';
import ExcelJS from 'exceljs';
import type { Measure } from './core.ts';

const SIZES = [10_000, 50_000, 250_000, 1_000_000];
const median = (xs: number[]): number => xs.sort((a, b) => a - b)[xs.length >> 1] as number;
const wait = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
const query = (over: Partial<ListQuery>): ListQuery => listQuery.parse(over);
const window: Wanted = {
  query: query({
    filters: [{ kind: 'verdict', only: ['pass'] }],
    sort: [{ by: 'profitPerMonth', down: true }],
  }),
  show: 'kept',
  from: 0,
  count: 60,
  remedies: true,
  figures: [],
  facets: false,
};

async function write(path: string, rows: number): Promise<void> {
  const out = createWriteStream(path);
  out.write(`${TIDY_HEADER.join(',')}\n`);
  for (let i = 0; i < rows; i += 2000) {
    let text = '';
    for (let k = i; k < Math.min(rows, i + 2000); k++) text += `${tidyLine(demoRow(k, 4))}\n`;
    if (!out.write(text)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'close');
}

async function parseAlone(path: string): Promise<number> {
  const started = performance.now();
  await new Promise<void>((done) =>
    Papa.parse(createReadStream(path, { encoding: 'utf8', highWaterMark: 65_536 }), {
      chunk: () => undefined,
      complete: () => done(),
    }),
  );
  return performance.now() - started;
}

/** Highest memory that web process, worker and screening process have had so far, in MB. */
function peaks(): number[] {
  return (process.env.BM_PIDS ?? '').split(',').map((pid) => {
    const found = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
    return found === null ? Number.NaN : Number(found[1]) / 1024;
  });
}

async function timed(work: () => Promise<unknown>): Promise<number> {
  const started = performance.now();
  await work();
  return performance.now() - started;
}

async function times(n: number, work: (i: number) => Promise<unknown>): Promise<number> {
  const all: number[] = [];
  for (let i = 0; i < n; i++) all.push(await timed(() => work(i)));
  return median(all);
}

export async function measureLists(): Promise<Measure[]> {
  const [w] = await authDb()
    .select({ id: organization.id, by: member.userId })
    .from(organization)
    .innerJoin(member, (await import('drizzle-orm')).eq(member.organizationId, organization.id))
    .limit(1);
  if (w === undefined) throw new Error('no workspace');
  const folder = mkdtempSync(join(tmpdir(), 'bold-margin-bench-'));
  const measures: Measure[] = [];
  const byRow: number[] = [];
  try {
    let page: ListPage | null = null;
    for (const rows of SIZES) {
      const path = join(folder, `${rows}.csv`);
      await write(path, rows);
      const alone = median([await parseAlone(path), await parseAlone(path), await parseAlone(path)]);
      const { id } = await receiveList(w.id, `${rows}.csv`, createReadStream(path), w.by);
      const setup = await loadSetup(w.id, id, null);
      if (setup === null) throw new Error('no set-up');
      await saveSetup(w.id, id, {
        name: setup.list.name,
        supplier: '',
        sheet: null,
        map: setup.map,
        settings: setup.own,
        previousId: null,
        reference: null,
      });
      const started = performance.now();
      let first = 0;
      let asked = 0;
      await startList(w.id, id, 'readList', w.by);
      for (;;) {
        await wait(100);
        page = await loadList(w.id, id);
        if (page === null) throw new Error('the list is gone');
        // As the screen does: what is there so far, every second.
        if (page.shown !== null && (first === 0 || performance.now() - asked > 1000)) {
          const { window: found } = await askList(w.id, page, window);
          asked = performance.now();
          if (first === 0 && found.length > 0) first = asked - started;
        }
        if (page.work[0]?.state === 'failed') throw new Error(page.work[0].error?.code ?? 'failed');
        if (page.work[0]?.state === 'done') break;
      }
      await askList(w.id, page, window);
      const whole = performance.now() - started;
      byRow.push(whole / rows);
      measures.push({
        name:
          `List of ${rows.toLocaleString('en')} rows, 14 columns: from pressing run to a ready grid ` +
          '(read, checked, evaluated, in PostgreSQL, indexed)',
        value: whole,
        unit: 'ms',
        aim: rows === 1_000_000 ? 'at most 8 times' : '',
        yardstick: `papaparse alone ${Math.round(alone)} ms`,
        ratio: whole / alone,
      });
      measures.push({
        name: `  first rows of it`,
        value: first,
        unit: 'ms',
        aim: 'at most 3000',
        yardstick: 'from pressing run',
        ratio: null,
      });
    }
    measures.push({
      name: 'Cost of a row at a million rows',
      value: (byRow[3] as number) * 1000,
      unit: 'us',
      aim: 'at most 1.5 times',
      yardstick: `at 50,000 rows ${((byRow[1] as number) * 1000).toFixed(1)} us`,
      ratio: (byRow[3] as number) / (byRow[1] as number),
    });
    if (page === null || page.screen === null) throw new Error('no page');
    const big = page;
    const screen = page.screen;
    const assume = (perUnit: number): ListPage => ({
      ...big,
      screen: { ...screen, assumptions: { ...screen.assumptions, inbound: { perUnit, perKg: 0.1 } } },
    });
    const all: Wanted = { ...window, query: query({ sort: [{ by: 'margin', down: true }] }) };
    await askList(w.id, assume(0.01), all);
    const assumption = await times(5, (i) => askList(w.id, assume(0.1 + i / 100), all));
    const sorted = await times(5, (i) =>
      askList(w.id, assume(0.14), {
        ...all,
        query: query({
          sort: [{ by: (['unitProfit', 'roi', 'cost', 'units', 'price'] as const)[i] ?? 'roi', down: true }],
        }),
      }),
    );
    const text = await times(4, (i) =>
      askList(w.id, assume(0.14), {
        ...all,
        query: query({ sort: [{ by: i % 2 === 0 ? 'title' : 'brand', down: i < 2 }] }),
      }),
    );
    const filtered = await times(5, (i) =>
      askList(w.id, assume(0.14), {
        ...all,
        query: query({
          text: 'larch',
          filters: [{ kind: 'range', figure: 'cost', min: i, max: 20, keepUnknown: false }],
          sort: [{ by: 'margin', down: true }],
        }),
      }),
    );
    await askList(w.id, assume(0.14), all);
    const scrolled = await times(25, (i) =>
      askList(w.id, assume(0.14), { ...all, from: i * 39_999, count: 100 }),
    );
    const bare = await times(25, () => fetch(`${process.env.BM_ORIGIN}/sign-in`).then((r) => r.text()));
    const beside = `a bare page of the web process ${bare.toFixed(1)} ms`;
    measures.push({
      name: 'A changed assumption on a million rows: evaluated, limited, ordered, first window',
      value: assumption,
      unit: 'ms',
      aim: 'at most 1000',
      yardstick: beside,
      ratio: null,
    });
    measures.push({
      name: 'Another order by a figure',
      value: sorted,
      unit: 'ms',
      aim: 'at most 500',
      yardstick: beside,
      ratio: null,
    });
    measures.push({
      name: 'Another order by a text',
      value: text,
      unit: 'ms',
      aim: 'at most 500',
      yardstick: beside,
      ratio: null,
    });
    measures.push({
      name: 'Another limit and a search',
      value: filtered,
      unit: 'ms',
      aim: 'at most 500',
      yardstick: beside,
      ratio: null,
    });
    measures.push({
      name: 'A scrolled window of 100 rows',
      value: scrolled,
      unit: 'ms',
      aim: 'at most 50',
      yardstick: beside,
      ratio: null,
    });
    const [web, worker, screening] = peaks();
    measures.push({
      name: 'Peak memory: worker',
      value: worker ?? Number.NaN,
      unit: 'MB',
      aim: 'at most 1500',
      yardstick: `web process ${Math.round(web ?? 0)} MB (400)`,
      ratio: null,
    });
    measures.push({
      name: 'Peak memory: screening process',
      value: screening ?? Number.NaN,
      unit: 'MB',
      aim: 'at most 1500',
      yardstick: '',
      ratio: null,
    });
    measures.push(await measureWorkbook(folder));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
  return measures;
}

/** A workbook of 100,000 rows written out as CSV, beside the library reading it alone. */
async function measureWorkbook(folder: string): Promise<Measure> {
  const path = join(folder, 'list.xlsx');
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ filename: path, useSharedStrings: true });
  const sheet = book.addWorksheet('List');
  sheet.addRow(TIDY_HEADER).commit();
  for (let i = 0; i < 100_000; i++) {
    const r = demoRow(i, 9);
    sheet
      .addRow([
        r.barcode,
        r.title,
        r.brand,
        r.group,
        r.cost,
        r.vat,
        r.length,
        r.width,
        r.height,
        r.kg,
        r.shelf,
        r.units,
        r.minimum,
        r.stock,
      ])
      .commit();
  }
  sheet.commit();
  await book.commit();
  const bare = async (): Promise<void> => {
    for await (const s of new ExcelJS.stream.xlsx.WorkbookReader(path, {
      sharedStrings: 'cache',
      hyperlinks: 'ignore',
      styles: 'cache',
      worksheets: 'emit',
      entries: 'emit',
    }))
      for await (const row of s) void row.values;
  };
  const [alone, ours] = [
    await timed(bare),
    await timed(() => convertSheet(path, null, join(folder, 'list.csv'))),
  ];
  return {
    name: 'Workbook of 100,000 rows, read as a list',
    value: ours,
    unit: 'ms',
    aim: 'at most 3 times',
    yardstick: `the library's bare read ${Math.round(alone)} ms`,
    ratio: ours / alone,
  };
}
