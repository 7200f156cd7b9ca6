/**
 * What came after the launch: half a million settlement lines read, counted once and summed, beside papaparse's bare
 * stream; the same as a report on the server; a page of two hundred lanes on sale beside one of none.
 */
import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { once } from 'node:events';
import { Readable } from 'node:stream';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Papa from 'papaparse';
import { and, eq } from 'drizzle-orm';
import { SettlementReader } from '../core/actuals/read.ts';
import { settlementMap } from '../core/actuals/schema.ts';
import { SummingUp } from '../core/actuals/sums.ts';
import { isFault } from '../core/fault.ts';
import { monthText } from '../core/money/days.ts';
import { laneDocument } from '../core/lane/schema.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { inWorkspace } from '../server/db/client.ts';
import { candidate, lane, launchedLane } from '../server/db/schema.ts';
import { documentOf, loadSheet } from '../server/use/candidates.ts';
import { loadSelling } from '../server/use/selling.ts';
import { readSettlement, receiveSettlement, takeBackSettlement } from '../server/use/settlements.ts';
import { newId } from '../server/use/workspaces.ts';
import type { Measure } from './core.ts';
import { median } from './sheet.ts';
import { demoWorkspace, inDemo, timed } from './tools.ts';

const LINES = 500_000;
const LANES = 200;
const MONTHS = 24;
const PLACE = { marketplace: 'Bench', country: 'DE', currency: 'EUR' };
const HEADER = ['No', 'Day', 'Order', 'Item', 'Entry', 'Amount', 'Pieces'];
const MAP = settlementMap.parse({
  columns: { line: 'No', day: 'Day', order: 'Order', code: 'Item', kind: 'Entry', units: 'Pieces' },
  amounts: [{ column: 'Amount' }],
  kinds: { sold: 'sale', commission: 'referral', handling: 'fulfilment', back: 'refund' },
});
/** Line `i` of many: four lines an order, two hundred codes, two years of days. */
function lineText(i: number): string {
  const order = i >> 2;
  const month = Math.floor((order * MONTHS) / (LINES / 4));
  const two = (n: number): string => String(n).padStart(2, '0');
  const day = `${monthText('2024-11-01', month)}-${two((order % 28) + 1)}`;
  const [entry, amount, pieces] = (
    [
      ['sold', '34.90', '1'],
      ['commission', '-4.54', ''],
      ['handling', '-3.66', ''],
      order % 25 === 0 ? ['back', '-34.90', '1'] : ['handling', '-0.10', ''],
    ] as const
  )[i & 3] as readonly [string, string, string];
  return `${i},${day},O${order},L${order % LANES},${entry},${amount},${pieces}`;
}

export async function write(path: string): Promise<void> {
  const out = createWriteStream(path);
  out.write(`${HEADER.join(',')}\n`);
  for (let i = 0; i < LINES; i += 5000) {
    let text = '';
    for (let k = i; k < i + 5000; k++) text += `${lineText(k)}\n`;
    if (!out.write(text)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'close');
}

/** Streams the file; `each` gets every row but the first. */
function stream(path: string, each: ((row: string[], at: number) => void) | null): Promise<void> {
  return new Promise((done) => {
    let at = 0;
    Papa.parse<string[]>(createReadStream(path, { encoding: 'utf8', highWaterMark: 65_536 }), {
      chunk: ({ data }) => {
        if (each !== null)
          for (const row of data) {
            at++;
            if (at > 1) each(row, at);
          }
      },
      complete: () => done(),
    });
  });
}

/** The file read by its map, each line counted once, and summed. */
async function readAndSum(path: string): Promise<number> {
  const reader = new SettlementReader(MAP, HEADER, PLACE, '2026-11-30');
  const summing = new SummingUp();
  let lines = 0;
  await stream(path, (row, at) => {
    const read = reader.read(row, at);
    if (isFault(read)) return;
    for (const line of read) summing.add(line);
    lines += read.length;
  });
  summing.sums();
  return lines;
}

/** Two hundred lanes on sale, copies of one of the demo's. */
async function putOnSale(w: { id: string; by: string }): Promise<() => Promise<void>> {
  const [bee] = await inWorkspace(w.id, (tx) =>
    tx.select().from(candidate).where(eq(candidate.workspaceId, w.id)).limit(1),
  );
  const sheet = bee === undefined ? null : await loadSheet(w.id, bee.id);
  const stored = sheet?.lanes[0];
  if (bee === undefined || sheet === null || stored === undefined) throw new Error('no lane');
  const document: LaneDocument = laneDocument.parse({ ...documentOf(sheet, stored), ...PLACE });
  const ids = Array.from({ length: LANES }, () => newId());
  await inWorkspace(w.id, async (tx) => {
    const [own] = await tx
      .select()
      .from(lane)
      .where(and(eq(lane.workspaceId, w.id), eq(lane.id, stored.id)));
    if (own === undefined) throw new Error('no lane');
    for (const [i, id] of ids.entries()) {
      await tx.insert(lane).values({ ...own, id, position: 100 + i });
      await tx
        .insert(launchedLane)
        .values({
          workspaceId: w.id,
          laneId: id,
          candidateId: bee.id,
          place: 'Bench/DE',
          codes: [`L${i}`],
          since: '2024-11-01',
          ramp: [1],
          document,
        });
    }
  });
  return () =>
    inWorkspace(w.id, async (tx) => {
      for (const id of ids) await tx.delete(lane).where(and(eq(lane.workspaceId, w.id), eq(lane.id, id)));
    });
}

async function several(work: () => Promise<unknown>): Promise<number> {
  const all: number[] = [];
  for (let i = 0; i < 5; i++) all.push((await timed(work)).ms);
  return median(all);
}

export async function measureActuals(origin: string): Promise<Measure[]> {
  const folder = mkdtempSync(join(tmpdir(), 'bench-actuals-'));
  const path = join(folder, 'settled.csv');
  try {
    await write(path);
    const bare = Math.min(
      (await timed(() => stream(path, null))).ms,
      (await timed(() => stream(path, null))).ms,
    );
    const summed = await timed(() => readAndSum(path));
    const megabytes = (statSync(path).size / 1e6).toFixed(0);
    const beside = `papaparse’s bare stream, ${(bare / 1000).toFixed(2)} s for ${megabytes} MB`;
    const measures: Measure[] = [
      {
        name: `${summed.value.toLocaleString('en')} settlement lines read, counted once and summed`,
        value: summed.ms / 1000,
        unit: 's',
        aim: 'at most 4 times its yardstick',
        yardstick: beside,
        ratio: summed.ms / bare,
      },
    ];
    return [...measures, ...(await onTheServer(origin, path, bare))];
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

async function onTheServer(origin: string, path: string, bare: number): Promise<Measure[]> {
  const w = await demoWorkspace();
  const open = (url: string): Promise<number> =>
    inDemo(origin, async (page) => {
      await page.goto(url);
      await page.waitForLoadState('networkidle');
      return several(() => page.request.get(url));
    });
  const slug = 'fernhollow-goods';
  const selling = `${origin}/w/${slug}/selling`;
  const few = await open(selling);
  const takeOff = await putOnSale(w);
  const { id } = await receiveSettlement(w.id, 'bench.csv', createReadStream(path), w.by);
  try {
    const how = { place: PLACE, map: MAP, sheet: null };
    const stored = await timed(() => readSettlement(w.id, id, how));
    const first = await timed(() => loadSelling(w.id));
    const many = await open(selling);
    const month = await closeMonth(w);
    return [
      {
        name: `The same as a report: stored, counted once, summed, held against ${LANES} cards`,
        value: stored.ms / 1000,
        unit: 's',
        aim: '',
        yardstick: 'papaparse’s bare stream',
        ratio: stored.ms / bare,
      },
      {
        name: `Entries of ${LANES} lanes of ${MONTHS} months worked out anew`,
        value: first.ms / 1000,
        unit: 's',
        aim: '',
        yardstick: '',
        ratio: null,
      },
      {
        name: `Page of ${LANES} lanes on sale, ${MONTHS} months each`,
        value: many,
        unit: 'ms',
        aim: 'at most twice its yardstick',
        yardstick: `the same page with the demo’s four, ${few.toFixed(0)} ms`,
        ratio: many / few,
      },
      month,
    ];
  } finally {
    await takeBackSettlement(w.id, id);
    await takeOff();
  }
}

/** A month of 200 lanes that comes in as one more report, up to the page that shows it. */
async function closeMonth(w: { id: string; by: string }): Promise<Measure> {
  const lines = Array.from({ length: LANES * 10 }, (_, i) =>
    [
      `M${i}`,
      '2026-11-05',
      `N${i}`,
      `L${i % LANES}`,
      i % 2 === 0 ? 'sold' : 'handling',
      i % 2 === 0 ? '34.90' : '-3.66',
      i % 2 === 0 ? '1' : '',
    ].join(','),
  );
  const bytes = [HEADER.join(','), ...lines].join('\n');
  const { id } = await receiveSettlement(w.id, 'month.csv', Readable.from([bytes]), w.by);
  const closed = await timed(() => readSettlement(w.id, id, { place: PLACE, map: MAP, sheet: null }));
  await takeBackSettlement(w.id, id);
  return {
    name: `A month of ${LANES} lanes (${lines.length} lines) closed beside all of these`,
    value: closed.ms / 1000,
    unit: 's',
    aim: 'at most 1 s',
    yardstick: '',
    ratio: null,
  };
}
