/** Lanes on sale on the real database: fees claimed, drift told, stock, decisions, what is taken over. */
import { Readable } from 'node:stream';
import { and, eq } from 'drizzle-orm';
import { afterAll, beforeEach, describe, expect, it } from 'vitest';
import { settlementMap } from '../core/actuals/schema.ts';
import type { MarketplaceCard } from '../core/cards/rates.ts';
import { SummingUp } from '../core/actuals/sums.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { Draw } from '../core/testing/draw.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { candidate, feeClaim, notice, settledLine, settledMonth, task } from './db/schema.ts';
import { closeQueue } from './jobs/boss.ts';
import { reportsWork } from './jobs/readReport.ts';
import { Refusal } from './refusal.ts';
import { makeWorkspace, someCandidate } from './testing/workspaces.ts';
import type { TestWorkspace } from './testing/workspaces.ts';
import { createCandidates, documentOf, loadSheet } from './use/candidates.ts';
import { putInForce, withdraw } from './use/cards.ts';
import { findClaims, stateClaim } from './use/claims.ts';
import { draftOrders } from './use/draftOrders.ts';
import { countStock, dropCount, launchLane, letGo, takeOver, unlaunchLane } from './use/launched.ts';
import { dropBill, moveOrder, noteBill, receiveGoods, saveOrder } from './use/orderSteps.ts';
import { keepBooks } from './use/laneBooks.ts';
import { keepLeftOver } from './use/leftOver.ts';
import { loadOrder } from './use/orders.ts';
import { savePatches } from './use/savePatches.ts';
import { loadLaunched, loadSelling } from './use/selling.ts';
import { readSettlement, receiveSettlement, takeBackSettlement } from './use/settlements.ts';
import { loadTask } from './use/tasks.ts';

let w: TestWorkspace;
let candidateId: string;
let laneId: string;
const lane = async () => (await loadSheet(w.id, candidateId))?.lanes[0];
const patch = async (path: (string | number)[], to: unknown) => {
  const sheet = await lane();
  const from = path.reduce<unknown>((at, key) => (at as Record<string, unknown>)[key], sheet?.data);
  const saved = await savePatches(
    w.id,
    candidateId,
    [{ entity: 'lane', id: laneId, path, from, to }],
    w.personId,
  );
  expect(saved.ok).toBe(true);
};
beforeEach(async () => {
  w = await makeWorkspace();
  const [id] = await createCandidates(w.id, [someCandidate(w)], w.personId);
  candidateId = id as string;
  laneId = (await lane())?.id ?? '';
  await patch(['typed', 'fulfilmentFee'], 4);
  await patch(['typed', 'referralPct'], 0.1);
});
afterAll(() => Promise.all([closeDatabase(), closeQueue()]));

const PLACE = { marketplace: 'Alderway', country: 'DE', currency: 'EUR' };
const MAP = settlementMap.parse({
  columns: { line: 'No', day: 'Date', order: 'Order', code: 'Item', kind: 'What', units: 'Qty' },
  amounts: [{ column: 'Amount' }],
  kinds: { sold: 'sale', fee: 'referral', pack: 'fulfilment', back: 'refund', out: 'transfer' },
});
let numbers = 0;
const row = (day: string, order: string, what: string, amount: number, qty: number | string = '') =>
  `${++numbers},${day},${order},BB,${what},${amount},${qty}`;
/** Orders of a month with the fee for handling that each of them was charged. */
const month = (m: string, orders: number, pack: number): string[] =>
  Array.from({ length: orders }, (_, i) => {
    const day = `${m}-${String((i % 28) + 1).padStart(2, '0')}`;
    return [
      row(day, `${m}/${i}`, 'sold', 29.9, 1),
      row(day, `${m}/${i}`, 'fee', -2.99),
      row(day, `${m}/${i}`, 'pack', -pack),
    ];
  }).flat();
async function bring(lines: readonly string[]) {
  const bytes = ['No,Date,Order,Item,What,Amount,Qty', ...lines].join('\n');
  const { id } = await receiveSettlement(w.id, 'r.csv', Readable.from([Buffer.from(bytes)]), w.personId);
  const said = await readSettlement(w.id, id, { place: PLACE, map: MAP, sheet: null });
  return { id, said };
}
const launch = (since = '2026-09-01') => launchLane(w.id, { laneId, codes: ['BB'], since }, w.personId);
const claims = async () => (await loadLaunched(w.id, laneId)).claims;
const refusalOf = (working: Promise<unknown>): Promise<string> =>
  working.then(
    () => 'nothing was refused',
    (e: unknown) => (e instanceof Refusal ? (e.fault?.code ?? e.reason) : String(e)),
  );

describe('fees above the card', () => {
  it('are found by month and reason with their orders; what is claimed stays when its report goes', async () => {
    await launch();
    const twice = [
      row('2026-10-20', 'T1', 'sold', 29.9, 1),
      row('2026-10-20', 'T1', 'pack', -4),
      row('2026-10-21', 'T1', 'pack', -4),
    ];
    await bring([...month('2026-09', 10, 4), ...month('2026-10', 10, 4.6)]);
    const { id } = await bring(twice);
    const found = await claims();
    expect(found.map((c) => [c.kind, c.month, c.why, c.found.count, c.found.of, c.state])).toEqual([
      ['fulfilment', '2026-10', 'aboveCard', 10, 11, 'open'],
      ['fulfilment', '2026-10', 'twice', 1, 11, 'open'],
    ]);
    expect((found[0]?.found.charged ?? 0) - (found[0]?.found.due ?? 0)).toBeCloseTo(6, 9);
    expect(found[1]?.found.orders).toEqual([
      { order: 'T1', day: '2026-10-20', units: 1, due: 4, charged: 8 },
    ]);
    const page = await loadSelling(w.id);
    expect(page.lanes[0]?.decisions[0]).toMatchObject({ what: 'claim', count: 11 });

    const key = {
      place: 'Alderway/DE',
      code: 'BB',
      kind: 'fulfilment',
      month: '2026-10',
      why: 'twice',
    } as const;
    await stateClaim(w.id, key, { state: 'claimed', note: '' }, w.personId);
    expect((await loadSelling(w.id)).lanes[0]?.decisions[0]).toMatchObject({ what: 'claim', count: 10 });
    await takeBackSettlement(w.id, id);
    const left = await claims();
    expect(left.map((c) => [c.why, c.state, c.claimed, c.found.count])).toEqual([
      ['aboveCard', 'open', null, 10],
      ['twice', 'claimed', 4, 0],
    ]);
    await stateClaim(w.id, key, { state: 'granted', note: '' }, w.personId);
    expect((await claims())[1]).toMatchObject({ state: 'granted', claimed: 4 });
    // Nothing is left of it once nobody claims what no report shows.
    await stateClaim(w.id, key, { state: 'open', note: '' }, w.personId);
    expect((await claims()).map((c) => c.why)).toEqual(['aboveCard']);
    expect(await refusalOf(stateClaim(w.id, key, { state: 'claimed', note: '' }, w.personId))).toBe('gone');
  });
  it('are found anew once another card was in force, by a job; not where nothing is on sale', async () => {
    await patch(['typed', 'fulfilmentFee'], null);
    const fee = (await lane())?.result?.lines.fulfilment as number;
    await launch();
    await bring(month('2026-11', 3, fee + 0.6));
    expect((await claims()).map((c) => c.found.count)).toEqual([3]);
    const sheet = await loadSheet(w.id, candidateId);
    const card = sheet?.cards[(await lane())?.data.marketplaceCardId ?? ''] as MarketplaceCard;
    const dearer = JSON.parse(JSON.stringify(card), (key, x) => (key === 'fee' && x !== null ? x + 1 : x));
    const put = await putInForce(
      w.id,
      'marketplace',
      { ...dearer, inForceFrom: '2026-10-15' },
      null,
      w.personId,
    );
    const tasks = () =>
      inWorkspace(w.id, (tx) =>
        tx.select({ id: task.id }).from(task).where(eq(task.kind, 'holdAgainstCards')),
      );
    const [asked] = await tasks();
    const taskId = asked?.id ?? '';
    expect(await reportsWork.work({ workspaceId: w.id, taskId }, async () => false)).toBe(false);
    expect(await loadTask(w.id, taskId)).toMatchObject({ state: 'done' });
    expect(await claims()).toEqual([]);
    await unlaunchLane(w.id, laneId);
    await withdraw(w.id, put.ok ? put.id : '', false);
    expect(await tasks()).toHaveLength(1);
  });
  it('are found when a lane is put on sale after its reports, and go with it unless claimed', async () => {
    await bring(month('2026-09', 5, 5));
    expect(await inWorkspace(w.id, (tx) => tx.select().from(feeClaim))).toEqual([]);
    await launch();
    expect(await claims()).toHaveLength(1);
    await unlaunchLane(w.id, laneId);
    expect(await inWorkspace(w.id, (tx) => tx.select().from(feeClaim))).toEqual([]);
  });
});

describe('drift', () => {
  const told = () =>
    keepBooks(w.id).then(() =>
      inWorkspace(w.id, (tx) =>
        tx
          .select({ data: notice.data, link: notice.link })
          .from(notice)
          .where(and(eq(notice.workspaceId, w.id), eq(notice.kind, 'drift'))),
      ),
    );
  it('is told once, and again only where other lines drift', async () => {
    await launch();
    await bring(month('2026-09', 20, 4));
    expect(await told()).toEqual([]);
    await bring(month('2026-10', 20, 5));
    expect(await told()).toEqual([]);
    await bring(month('2026-11', 20, 5));
    const [first] = await told();
    expect(first).toMatchObject({
      link: `/selling/${laneId}`,
      data: { name: 'Bird bath', lines: 'fulfilment' },
    });
    expect(first?.data.each).toBeCloseTo(-1, 9);
    await bring(month('2026-11', 3, 5));
    expect(await told()).toHaveLength(1);
    const page = await loadLaunched(w.id, laneId);
    expect(page.lately).toMatchObject({
      from: '2026-10-01',
      stands: { standing: 'paysLess', because: 'fulfilment' },
    });
    expect(page.hurdles.map((h) => h.hurdle.figure)).toContain('unitProfit');
  });
});

describe('the shelf', () => {
  it('is counted and counted anew; a day to come, or none, is refused', async () => {
    await launch();
    await bring([...month('2026-09', 10, 4), row('2026-10-02', 'X', 'sold', 29.9, 3)]);
    expect((await loadLaunched(w.id, laneId)).stock.units).toBeNull();
    await countStock(w.id, laneId, { day: '2026-10-01', units: 50 });
    expect((await loadLaunched(w.id, laneId)).stock).toMatchObject({ units: 47, from: 'counted' });
    await countStock(w.id, laneId, { day: '2026-09-05', units: 9 });
    await countStock(w.id, laneId, { day: '2026-10-01', units: 40 });
    const page = await loadLaunched(w.id, laneId);
    expect(page.stock.units).toBe(37);
    expect(page.counts).toEqual([
      { day: '2026-09-05', units: 9 },
      { day: '2026-10-01', units: 40 },
    ]);
    await dropCount(w.id, laneId, '2026-10-01');
    // Five orders after the fifth of September, and three units in October.
    expect((await loadLaunched(w.id, laneId)).stock.units).toBe(9 - 5 - 3);
    expect(await refusalOf(countStock(w.id, laneId, { day: '2099-01-01', units: 1 }))).toBe('countedNoDay');
    expect(await refusalOf(countStock(w.id, laneId, { day: '', units: 1 }))).toBe('countedNoDay');
    expect(await refusalOf(countStock(w.id, 'none', { day: '2026-10-01', units: 1 }))).toBe('gone');
  });
  it('holds what orders brought, at what they and their bills cost', async () => {
    const { ids } = await draftOrders(w.id, { lanes: [laneId], goods: [], byHand: false }, w.personId);
    const id = ids[0] as string;
    const at = async () => (await loadOrder(w.id, id)).order;
    const first = (await at()).terms.lines[0];
    if (first === undefined) throw new Error('no line');
    const bought = { ...first, units: 100, priceBreaks: [{ minQty: 0, unitPrice: 7 }] };
    await saveOrder(
      w.id,
      id,
      { terms: { delivery: 0, placedOn: '2026-07-01' }, lines: { [first.id]: bought } },
      'me',
    );
    const bill = { day: '2026-08-20', kind: 'freight', amount: 150, by: 'units', note: '' } as const;
    expect(await refusalOf(noteBill(w.id, id, bill, (await at()).edition, 'me'))).toBe('orderNoWay');
    await moveOrder(w.id, id, { to: 'sent', note: '', edition: (await at()).edition }, 'me');
    await launch();
    expect((await loadLaunched(w.id, laneId)).coming).toMatchObject([{ units: 100 }]);
    const came = { day: '2026-08-20', lines: [{ line: first.id, units: 100, damaged: 0 }], note: '' };
    await receiveGoods(w.id, id, came, (await at()).edition, 'me');
    await noteBill(w.id, id, bill, (await at()).edition, 'me');
    await bring(month('2026-09', 20, 4));
    const page = await loadLaunched(w.id, laneId);
    const line = (l: string) => page.whole?.lines.find((x) => x.line === l);
    expect(line('goods')).toMatchObject({ actual: 7, from: 'received' });
    expect(line('freight')).toMatchObject({ actual: 1.5, from: 'received' });
    expect(page.stock).toMatchObject({ units: 80, from: 'orders' });
    expect(page.coming).toEqual([]);
    const billId = (await at()).progress.bills[0]?.id ?? '';
    await dropBill(w.id, id, billId, (await at()).edition, 'me');
    expect(await refusalOf(dropBill(w.id, id, billId, (await at()).edition, 'me'))).toBe('gone');
    expect((await loadLaunched(w.id, laneId)).whole?.lines.find((l) => l.line === 'freight')?.from).toBe(
      'asPlanned',
    );
  });
});

describe('decisions of a lane', () => {
  const stage = async () => {
    const [own] = await inWorkspace(w.id, (tx) =>
      tx.select({ data: candidate.data }).from(candidate).where(eq(candidate.id, candidateId)),
    );
    return own?.data.stage;
  };
  it('to let go is kept with its reason, asks for nothing more, and is taken back', async () => {
    await launch();
    await bring([...month('2026-09', 20, 9), ...month('2026-10', 20, 9)]);
    expect(await stage()).toBe('selling');
    expect((await loadSelling(w.id)).lanes[0]?.decisions.length).toBeGreaterThan(0);
    await letGo(w.id, laneId, { reason: 'loses', note: 'too dear', by: 'Rowan' }, w.personId);
    expect(await stage()).toBe('letGo');
    const [let1] = (await loadSelling(w.id)).lanes;
    expect(let1).toMatchObject({
      stopped: { reason: 'loses', note: 'too dear', by: 'Rowan' },
      decisions: [],
    });
    await letGo(w.id, laneId, null, w.personId);
    expect(await stage()).toBe('selling');
    await letGo(w.id, laneId, { reason: 'other', note: '', by: '' }, w.personId);
    // Put on sale again, it sells.
    await launch('2026-10-01');
    expect((await loadSelling(w.id)).lanes[0]?.stopped).toBeNull();
    expect(await stage()).toBe('selling');
  });
  it('what is left of it brings what its sale brings, and is kept as a scenario without its goods', async () => {
    await launch();
    expect((await loadLaunched(w.id, laneId)).ways).toEqual([]);
    await letGo(w.id, laneId, { reason: 'season', note: '', by: '' }, w.personId);
    const [own, ...others] = (await loadLaunched(w.id, laneId)).ways;
    expect(others).toEqual([]);
    const figures = (await lane())?.result?.figures;
    const sheet = await loadSheet(w.id, candidateId);
    const unit = documentOf(sheet as NonNullable<typeof sheet>, (await lane()) as never);
    expect(own).toMatchObject({ laneId, price: 29.9 });
    if (figures?.unitProfit != null) {
      expect(own?.brings).toBeCloseTo(figures.unitProfit + (evaluate(unit).figures.landedCost as number), 6);
      const at = evaluate({ ...unit, price: own?.floor as number }).figures;
      expect((at.unitProfit as number) + (at.landedCost as number)).toBeGreaterThanOrEqual(-1e-9);
    }
    await keepLeftOver(w.id, laneId, { of: laneId, price: 12.5, name: 'Sell off' }, w.personId);
    const kept = (await loadSheet(w.id, candidateId))?.lanes.find((l) => l.scenarioOf === laneId);
    expect(kept?.data).toMatchObject({ name: 'Sell off', price: 12.5, noGoods: true, route: 'none' });
    const gone = keepLeftOver(w.id, laneId, { of: 'none', price: 1, name: '' }, w.personId);
    expect(await refusalOf(gone)).toBe('gone');
  });
  it('what came goes into the lane as it is now, as actual; the plan stays what it was', async () => {
    await launch();
    expect(await refusalOf(takeOver(w.id, laneId, ['price'], w.personId))).toBe('nothingToTakeOver');
    const cheaper = [...month('2026-09', 20, 4), ...month('2026-10', 20, 4)].map((l) =>
      l.replace('sold,29.9', 'sold,24.9'),
    );
    await bring([
      ...cheaper,
      ...Array.from({ length: 4 }, (_, i) =>
        row(`2026-${i < 2 ? '09' : '10'}-28`, `2026-09/${i}`, 'back', -24.9, 1),
      ),
    ]);
    const before = await loadLaunched(w.id, laneId);
    expect(before.offers.map((o) => [o.what, o.figure])).toEqual([
      ['price', 24.9],
      ['returnRate', 0.1],
      ['units', expect.any(Number)],
    ]);
    await takeOver(w.id, laneId, ['price', 'returnRate'], w.personId);
    const data = (await lane())?.data;
    expect(data).toMatchObject({ price: 24.9, returns: { rate: 0.1 } });
    expect(data?.provenance.price).toEqual({ source: 'actual', date: '2026-10-28', note: '', units: 40 });
    expect(data?.provenance['returns.rate']).toMatchObject({ source: 'actual', units: 40 });
    const after = await loadLaunched(w.id, laneId);
    expect(after.whole?.planned.price).toBe(29.9);
    expect(after.offers.map((o) => o.what)).toEqual(['units']);
  });
});

describe('the months of the workspace', () => {
  it('add up what was sold and paid out; a report that lacks is asked for', async () => {
    await launch();
    await bring([...month('2026-09', 10, 4), row('2026-09-29', '', 'out', -100)]);
    await bring([row('2026-11-02', 'Z', 'sold', 29.9, 1)]);
    const page = await loadSelling(w.id);
    expect(page.months.map((m) => [m.month, m.units, m.paidOut])).toEqual([
      ['2026-11', 1, 0],
      ['2026-10', 0, 0],
      ['2026-09', 10, 100],
    ]);
    expect(page.months[2]?.settled).toBeCloseTo(10 * (29.9 - 2.99 - 4), 6);
    expect(page.places).toEqual([
      {
        place: 'Alderway/DE',
        until: '2026-11-02',
        gaps: [{ from: '2026-09-30', to: '2026-11-01' }],
        holds: null,
        currency: 'EUR',
      },
    ]);
    expect(page.stock).toEqual({ value: 0, lacks: 1 });
  });
});

describe('books after each report', () => {
  /** What stands in the books, and what they come to worked out from all lines at once. */
  async function booksAreWhole(): Promise<void> {
    await inWorkspace(w.id, async (tx) => {
      const summing = new SummingUp();
      const lines = await tx
        .select()
        .from(settledLine)
        .where(and(eq(settledLine.workspaceId, w.id), eq(settledLine.counts, true)));
      for (const l of lines) summing.add(l);
      const kept = await tx.select().from(settledMonth).where(eq(settledMonth.workspaceId, w.id));
      const key = (code: string, month: string) => `${code} ${month}`;
      expect(Object.fromEntries(kept.map((k) => [key(k.code, k.month), k.sums]))).toEqual(
        Object.fromEntries(
          [...summing.sums()].flatMap(([code, by]) => [...by].map(([m, sums]) => [key(code, m), sums])),
        ),
      );
      const found = () =>
        tx
          .select({
            code: feeClaim.code,
            kind: feeClaim.kind,
            month: feeClaim.month,
            why: feeClaim.why,
            found: feeClaim.found,
          })
          .from(feeClaim)
          .orderBy(feeClaim.kind, feeClaim.month, feeClaim.why);
      const before = await found();
      await findClaims(tx, w.id, 'Alderway/DE');
      expect(before).toEqual(await found());
    });
  }
  it('are what all lines come to, whatever is brought in, corrected, read again and taken back', async () => {
    await launch();
    const draw = new Draw(77);
    const pick = <T>(of: readonly T[]): T => of[Math.floor(draw.next() * of.length)] as T;
    const reports: string[] = [];
    const file = (): string[] =>
      Array.from({ length: 30 }, () => {
        const order = `P${Math.floor(draw.next() * 25)}`;
        const day = `2026-${pick(['08', '09', '10'])}-${pick(['03', '14', '27'])}`;
        const what = pick(['sold', 'sold', 'fee', 'pack', 'pack', 'back']);
        const amount =
          { sold: 29.9, fee: pick([-2.99, 2.99, -4]), pack: pick([-4, -4.6]), back: -29.9 }[what] ?? 0;
        const no = `N${Math.floor(draw.next() * 60)}`;
        return [
          no,
          day,
          pick([order, order, '']),
          pick(['BB', 'BB', 'CC']),
          what,
          amount,
          what === 'sold' ? 1 : '',
        ].join(',');
      });
    const how = { place: PLACE, map: MAP, sheet: null };
    const did = new Set<string>();
    for (let step = 0; step < 14; step++) {
      const what = reports.length < 2 ? 'bring' : pick(['bring', 'again', 'back']);
      did.add(what);
      if (what === 'bring') reports.push((await bring(file())).id);
      else if (what === 'again') await readSettlement(w.id, pick(reports), how);
      else
        await takeBackSettlement(w.id, reports.splice(Math.floor(draw.next() * reports.length), 1)[0] ?? '');
      await booksAreWhole();
    }
    expect(did.size).toBe(3);
  });
});
