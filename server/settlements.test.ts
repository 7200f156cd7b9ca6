/** Settlement reports on the real database: counted once, corrected, taken back, and held against launched lanes. */
import { Readable } from 'node:stream';
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { standsAt } from '../core/actuals/compare.ts';
import { placeSettled, soldOf } from '../core/actuals/onSale.ts';
import { SummingUp } from '../core/actuals/sums.ts';
import type { LaneDocument } from '../core/lane/schema.ts';
import { STEPS, settlementMap } from '../core/actuals/schema.ts';
import type { SettlementMap } from '../core/actuals/schema.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { candidate, launchedLane, settledLine, settledMonth, settlement } from './db/schema.ts';
import { Refusal } from './refusal.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { needRoomForReport } from './use/quotas.ts';
import { createCandidates, loadSheet } from './use/candidates.ts';
import { launchLane, lanesToLaunch, unlaunchLane } from './use/launched.ts';
import { loadLaunched, loadSelling } from './use/selling.ts';
import { readSettlement, receiveSettlement, takeBackSettlement } from './use/settlements.ts';
import { loadSettlement, reportsIn } from './use/settlementPages.ts';

let w: TestWorkspace;
let laneId: string;
beforeEach(async () => {
  w = await makeWorkspace();
  const [id] = await createCandidates(w.id, [someCandidate(w)], w.personId);
  laneId = (await loadSheet(w.id, id as string))?.lanes[0]?.id ?? '';
});
afterAll(closeDatabase);

const PLACE = { marketplace: 'Alderway', country: 'DE', currency: 'EUR' };
const HEAD = 'No;Date;Order;Item;What;Amount;Qty';
const MAP: SettlementMap = settlementMap.parse({
  columns: { line: 'No', day: 'Date', order: 'Order', code: 'Item', kind: 'What', units: 'Qty' },
  amounts: [{ column: 'Amount' }],
  decimal: 'comma',
  kinds: { sold: 'sale', fee: 'referral', back: 'refund', ads: 'adverts' },
});
const report = (lines: readonly string[]): string => [HEAD, ...lines].join('\n');
async function bring(lines: readonly string[] | string, map = MAP, name = 'october.csv') {
  const bytes = typeof lines === 'string' ? lines : report(lines);
  const { id } = await receiveSettlement(w.id, name, Readable.from([Buffer.from(bytes)]), w.personId);
  const said = await readSettlement(w.id, id, { place: PLACE, map, sheet: null });
  return { id, said };
}
/** What counts of a code in a month, in currency. */
async function counted(code: string, month = '2026-10') {
  const [row] = await inWorkspace(w.id, (tx) =>
    tx
      .select({ sums: settledMonth.sums })
      .from(settledMonth)
      .where(
        and(eq(settledMonth.workspaceId, w.id), eq(settledMonth.code, code), eq(settledMonth.month, month)),
      ),
  );
  return Object.fromEntries(
    Object.entries(row?.sums ?? {}).map(([kind, s]) => [kind, [s.amount / STEPS, s.units]]),
  );
}
const refusalOf = (working: Promise<unknown>): Promise<string> =>
  working.then(
    () => 'nothing was refused',
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );
const OCTOBER = [
  '1;03.10.2026;A1;BB;Sold;29,90;1',
  '2;03.10.2026;A1;BB;Fee;-4,49;',
  '3;05.10.2026;A2;BB;Sold;29,90;2',
  '4;09.10.2026;;;Ads;-6,00;',
];

describe('a settlement report', () => {
  it('is kept as it came, shown with its first rows, and its columns are guessed; kinds of lines are not', async () => {
    const { id, sameAs } = await receiveSettlement(
      w.id,
      'october.csv',
      Readable.from([Buffer.from(report(OCTOBER))]),
      w.personId,
    );
    expect(sameAs).toBeNull();
    const page = await loadSettlement(w.id, id);
    expect(page.header).toEqual(HEAD.split(';'));
    expect(page.map).toBeNull();
    expect(page.guessed).toMatchObject({
      columns: { line: 'No', day: 'Date', order: 'Order', code: 'Item', kind: 'What', units: 'Qty' },
      amounts: [{ column: 'Amount', kind: null }],
      decimal: 'comma',
      kinds: {},
    });
    expect((await inWorkspace(w.id, (tx) => reportsIn(tx, w.id)))[0]?.said).toBeNull();
    const again = await receiveSettlement(
      w.id,
      'x.csv',
      Readable.from([Buffer.from(report(OCTOBER))]),
      w.personId,
    );
    expect(again.sameAs).toBe('october');
  });
  it('is read, added up by code and month, and says what waits and what was refused', async () => {
    const { said } = await bring([...OCTOBER, '5;09.10.2026;;;Levy;-2,50;', '6;x;A3;BB;Sold;1,00;1']);
    expect(said).toMatchObject({
      rows: 6,
      lines: 4,
      amount: 49.31 * STEPS,
      waiting: [{ kind: 'levy', lines: 1, amount: -2.5 * STEPS }],
      refusedRows: 1,
      refusedAmount: STEPS,
      first: '2026-10-03',
      last: '2026-10-09',
    });
    expect(said.refused).toEqual([{ row: 7, code: 'settledDay', detail: { text: 'x' } }]);
    expect(await counted('BB')).toEqual({ sale: [59.8, 3], referral: [-4.49, 0] });
    expect(await counted('')).toEqual({ adverts: [-6, 0] });
  });
  it('read again with more kinds said takes the place of what it said before', async () => {
    const { id } = await bring([...OCTOBER, '5;09.10.2026;A1;BB;Levy;-2,50;']);
    const map = { ...MAP, kinds: { ...MAP.kinds, levy: 'surcharge' as const } };
    await readSettlement(w.id, id, { place: PLACE, map, sheet: null });
    expect(await counted('BB')).toMatchObject({ sale: [59.8, 3], surcharge: [-2.5, 0] });
    // The next report of the place is read the same way.
    const next = await receiveSettlement(
      w.id,
      'n.csv',
      Readable.from([Buffer.from(report(OCTOBER))]),
      w.personId,
    );
    const { earlier } = await loadSettlement(w.id, next.id);
    expect(Object.keys(earlier)).toEqual(['Alderway/DE']);
    expect(earlier['Alderway/DE']?.kinds).toEqual(map.kinds);
  });
  it('that overlaps another counts its lines once; a later one corrects; taken back, the first counts', async () => {
    const first = await bring(OCTOBER);
    const second = await bring(
      ['3;05.10.2026;A2;BB;Sold;31,90;2', '7;02.11.2026;A9;BB;Sold;29,90;1'],
      MAP,
      'b.csv',
    );
    expect(await counted('BB')).toMatchObject({ sale: [61.8, 3] });
    expect(await counted('BB', '2026-11')).toEqual({ sale: [29.9, 1] });
    // Read again, the first does not beat the one that came after it.
    await readSettlement(w.id, first.id, { place: PLACE, map: MAP, sheet: null });
    expect(await counted('BB')).toMatchObject({ sale: [61.8, 3] });
    await takeBackSettlement(w.id, second.id);
    expect(await counted('BB')).toMatchObject({ sale: [59.8, 3] });
    expect(await counted('BB', '2026-11')).toEqual({});
    await takeBackSettlement(w.id, first.id);
    expect(await counted('BB')).toEqual({});
    expect(await inWorkspace(w.id, (tx) => reportsIn(tx, w.id))).toEqual([]);
    expect(await refusalOf(takeBackSettlement(w.id, first.id))).toBe('gone');
  });
  it('the same file twice counts once, with line numbers and without', async () => {
    await bring(OCTOBER);
    await bring(OCTOBER, MAP, 'again.csv');
    expect(await counted('BB')).toMatchObject({ sale: [59.8, 3] });
    const { line: _, ...columns } = MAP.columns;
    const bare = { ...MAP, columns };
    const rows = OCTOBER.map((r) => r.replace(';BB;', ';CC;'));
    await bring(rows, bare, 'c.csv');
    await bring([...rows, rows[0] as string], bare, 'd.csv');
    // The second file has the first line twice: it was sold twice.
    expect(await counted('CC')).toMatchObject({ sale: [89.7, 4] });
  });
  it('a period cut in two reports adds up to the whole', async () => {
    await bring(OCTOBER.slice(0, 2));
    await bring(OCTOBER.slice(2), MAP, 'rest.csv');
    expect(await counted('BB')).toMatchObject({ sale: [59.8, 3], referral: [-4.49, 0] });
  });
  it('of another place counts there alone', async () => {
    const { id } = await bring(OCTOBER);
    await readSettlement(w.id, id, { place: { ...PLACE, country: 'FR' }, map: MAP, sheet: null });
    const places = await inWorkspace(w.id, (tx) =>
      tx.selectDistinct({ place: settledMonth.place }).from(settledMonth),
    );
    expect(places).toEqual([{ place: 'Alderway/FR' }]);
  });
  it('two read at once count each line once', async () => {
    const ids = await Promise.all(
      ['a.csv', 'b.csv', 'c.csv'].map(
        async (name) =>
          (await receiveSettlement(w.id, name, Readable.from([Buffer.from(report(OCTOBER))]), w.personId)).id,
      ),
    );
    await Promise.all(ids.map((id) => readSettlement(w.id, id, { place: PLACE, map: MAP, sheet: null })));
    expect(await counted('BB')).toMatchObject({ sale: [59.8, 3] });
    const lines = await inWorkspace(w.id, (tx) =>
      tx.select().from(settledLine).where(eq(settledLine.counts, true)),
    );
    expect(lines).toHaveLength(4);
  });
  it('that cannot be read leaves what was there as it was', async () => {
    const { id } = await bring(OCTOBER);
    const wrong = { ...MAP, amounts: [{ column: 'Betrag', kind: null }] };
    expect(await refusalOf(readSettlement(w.id, id, { place: PLACE, map: wrong, sheet: null }))).toBe(
      'headingsNotFound',
    );
    expect(await counted('BB')).toMatchObject({ sale: [59.8, 3] });
    const broken = Buffer.from(`${report(OCTOBER)}\n5;09.10.2026;"A`);
    const half = await receiveSettlement(w.id, 'half.csv', Readable.from([broken]), w.personId);
    expect(await refusalOf(readSettlement(w.id, half.id, { place: PLACE, map: MAP, sheet: null }))).toBe(
      'quoteOpen',
    );
    expect(await counted('BB')).toMatchObject({ sale: [59.8, 3] });
  });
  it('is refused where a workspace has all it may have', async () => {
    await bring(OCTOBER);
    const room = (most: Parameters<typeof needRoomForReport>[2]) =>
      refusalOf(inWorkspace(w.id, (tx) => needRoomForReport(tx, w.id, most)));
    const enough = { count: 2, bytes: 10_000, lines: 5 };
    expect(await room(enough)).toBe('nothing was refused');
    for (const full of [{ count: 1 }, { bytes: 10 }, { lines: 4 }])
      expect(await room({ ...enough, ...full })).toBe('quotaReports');
  });
  it('that is empty, or no text, leaves nothing behind', async () => {
    const receive = (bytes: Buffer) => receiveSettlement(w.id, 'x.csv', Readable.from([bytes]), w.personId);
    expect(await refusalOf(receive(Buffer.alloc(0)))).toBe('fileEmpty');
    expect(
      await refusalOf(receive(Buffer.from(Array.from({ length: 4000 }, (_, i) => (i * 7919) % 31)))),
    ).toBe('notCsv');
    expect(await inWorkspace(w.id, (tx) => reportsIn(tx, w.id))).toEqual([]);
  });
  it('long texts in every cell are kept and counted', async () => {
    const long = 'ł'.repeat(200);
    await bring([`${long};03.10.2026;${long};${long};Sold;5,00;1`]);
    expect(await counted(long)).toEqual({ sale: [5, 1] });
  });
  it('of another workspace is not there', async () => {
    const { id } = await bring(OCTOBER);
    const other = await makeWorkspace();
    expect(await refusalOf(loadSettlement(other.id, id))).toBe('gone');
    expect(await refusalOf(takeBackSettlement(other.id, id))).toBe('gone');
    expect(await refusalOf(readSettlement(other.id, id, { place: PLACE, map: MAP, sheet: null }))).toBe(
      'gone',
    );
    expect(
      await refusalOf(launchLane(other.id, { laneId, codes: ['BB'], since: '2026-10-01' }, other.personId)),
    ).toBe('gone');
    expect(await refusalOf(loadLaunched(other.id, laneId))).toBe('gone');
  });
});

describe('a lane on sale', () => {
  it('is kept as it stood, its candidate is selling, and what came of it is compared month by month', async () => {
    expect((await lanesToLaunch(w.id)).map((l) => l.id)).toEqual([laneId]);
    await launchLane(w.id, { laneId, codes: ['BB'], since: '2026-10-01' }, w.personId);
    const [own] = await inWorkspace(w.id, (tx) =>
      tx.select().from(candidate).where(eq(candidate.workspaceId, w.id)),
    );
    expect(own?.data.stage).toBe('selling');
    expect((await loadSelling(w.id)).lanes[0]).toMatchObject({ gist: null, stands: { standing: 'open' } });
    await bring([...OCTOBER, '8;02.11.2026;A9;BB;Sold;29,90;1', '9;02.11.2026;A9;ZZ;Sold;9,00;1']);
    const page = await loadSelling(w.id);
    expect(page.lanes[0]?.gist?.actual.units).toBe(4);
    expect(page.lanes[0]?.gist?.actual.gross).toBeCloseTo(89.7 / 4, 9);
    expect(page.lanes[0]?.gist?.currency).toBe('EUR');
    expect(page.unknown).toEqual([
      { place: 'Alderway/DE', code: 'ZZ', currency: 'EUR', units: 1, amount: 9 },
    ]);
    const one = await loadLaunched(w.id, laneId);
    expect(one.months.map((m) => [m.month, m.compared.actual.shipped])).toEqual([
      ['2026-10', 3],
      ['2026-11', 1],
    ]);
    const adverts = one.months[0]?.compared.lines.find((l) => l.line === 'adverts');
    expect(adverts).toMatchObject({ from: 'shared', actual: 2 });
    // No report of November has a line of adverts: there they stand as planned.
    const planned = one.whole?.planned.lines.adverts as number;
    expect(one.whole?.actual.lines.adverts).toEqual({ amount: 6 + planned, from: 'partly' });
    await unlaunchLane(w.id, laneId);
    expect((await loadSelling(w.id)).lanes).toEqual([]);
  });
  it('what the page says is what the core says of the same lines', async () => {
    await launchLane(w.id, { laneId, codes: ['BB'], since: '2026-10-01' }, w.personId);
    await bring([...OCTOBER, '5;10.10.2026;A1;BB;Back;-29,90;1', '6;10.10.2026;A1;BB;Fee;4,49;']);
    const { whole, stands } = await loadLaunched(w.id, laneId);
    const [kept] = await inWorkspace(w.id, (tx) => tx.select().from(launchedLane));
    const lines = await inWorkspace(w.id, (tx) => tx.select().from(settledLine));
    const summing = new SummingUp();
    for (const l of lines) summing.add(l);
    const sums = summing.sums();
    const doc = kept?.document as LaneDocument;
    const said = soldOf(
      { document: doc, codes: ['BB'], since: '2026-10-01', ramp: [1] },
      placeSettled(sums, '2026-10-10'),
    );
    const sold = said.whole as NonNullable<typeof said.whole>;
    expect(whole).toEqual(JSON.parse(JSON.stringify(sold)));
    expect(stands).toEqual(standsAt(sold));
  });
  it('no two lanes of a place have one code; the same lane may change its own', async () => {
    const [second] = await createCandidates(w.id, [someCandidate(w, { name: 'Other' })], w.personId);
    const otherLane = (await loadSheet(w.id, second as string))?.lanes[0]?.id ?? '';
    await launchLane(w.id, { laneId, codes: ['BB', 'B2'], since: '2026-10-01' }, w.personId);
    await launchLane(w.id, { laneId, codes: ['BB'], since: '2026-09-01' }, w.personId);
    const again = launchLane(
      w.id,
      { laneId: otherLane, codes: ['X', 'BB'], since: '2026-10-01' },
      w.personId,
    );
    expect(await refusalOf(again)).toBe('launchedCodeTaken');
    const rows = await inWorkspace(w.id, (tx) => tx.select().from(launchedLane));
    expect(rows.map((r) => [r.codes, r.since])).toEqual([[['BB'], '2026-09-01']]);
  });
  it('needs a lane, a code and a day', async () => {
    const whole = { laneId, codes: ['BB'], since: '2026-10-01' };
    for (const [lacks, code] of [
      [{ laneId: '' }, 'chooseLane'],
      [{ codes: [] }, 'launchedNoCode'],
      [{ since: '' }, 'launchedNoDay'],
      [{ since: '2026-02-30' }, 'launchedNoDay'],
    ] as const)
      expect(await refusalOf(launchLane(w.id, { ...whole, ...lacks }, w.personId))).toBe(code);
  });
  it('of two that want one code at once, one gets it', async () => {
    const [second] = await createCandidates(w.id, [someCandidate(w, { name: 'Other' })], w.personId);
    const otherLane = (await loadSheet(w.id, second as string))?.lanes[0]?.id ?? '';
    const said = await Promise.all(
      [laneId, otherLane].map((id) =>
        refusalOf(launchLane(w.id, { laneId: id, codes: ['BB'], since: '2026-10-01' }, w.personId)),
      ),
    );
    expect(said.sort()).toEqual(['launchedCodeTaken', 'nothing was refused']);
  });
  it('reports have a number each, whoever brings them at once', async () => {
    await Promise.all([bring(OCTOBER, MAP, 'a.csv'), bring(OCTOBER, MAP, 'b.csv')]);
    const rows = await inWorkspace(w.id, (tx) => tx.select({ seq: settlement.seq }).from(settlement));
    expect(rows.map((r) => r.seq).sort()).toEqual([1, 2]);
  });
});
