/** Lanes on sale on the real database: the shelf, what is decided and taken over, months, reports of one's own. */
import { eq } from 'drizzle-orm';
import { afterAll, describe, expect, it } from 'vitest';
import { settlementMap } from '../core/actuals/schema.ts';
import { evaluate } from '../core/lane/evaluate.ts';
import { closeDatabase, inWorkspace } from './db/client.ts';
import { candidate } from './db/schema.ts';
import { closeQueue } from './jobs/boss.ts';
import { month, refusalOf, row, seller } from './testing/selling.ts';
import { documentOf } from './use/candidates.ts';
import { draftOrders } from './use/draftOrders.ts';
import { countStock, dropCount, letGo, takeOver } from './use/launched.ts';
import { learnedIn } from './use/laneBooks.ts';
import { keepLeftOver } from './use/leftOver.ts';
import {
  dropBill,
  moveOrder,
  noteBill,
  noteBillFile,
  payOrder,
  receiveGoods,
  saveOrder,
} from './use/orderSteps.ts';
import { loadOrder } from './use/orders.ts';
import { loadSelling } from './use/selling.ts';
import { takeBackSettlement } from './use/settlements.ts';

const s = seller();
afterAll(() => Promise.all([closeDatabase(), closeQueue()]));

describe('the shelf', () => {
  it('is counted and counted anew; a day to come, or none, is refused', async () => {
    await s.launch();
    await s.bring([...month('2026-09', 10, 4), row('2026-10-02', 'X', 'sold', 29.9, 3)]);
    expect((await s.page()).stock.units).toBeNull();
    await countStock(s.w.id, s.laneId, { day: '2026-10-01', units: 50 });
    expect((await s.page()).stock).toMatchObject({ units: 47, from: 'counted' });
    await countStock(s.w.id, s.laneId, { day: '2026-09-05', units: 9 });
    await countStock(s.w.id, s.laneId, { day: '2026-10-01', units: 40 });
    const page = await s.page();
    expect(page.stock.units).toBe(37);
    expect(page.counts).toEqual([
      { day: '2026-09-05', units: 9 },
      { day: '2026-10-01', units: 40 },
    ]);
    await dropCount(s.w.id, s.laneId, '2026-10-01');
    // Five orders after the fifth of September, and three units in October.
    expect((await s.page()).stock.units).toBe(9 - 5 - 3);
    expect(await refusalOf(countStock(s.w.id, s.laneId, { day: '2099-01-01', units: 1 }))).toBe(
      'countedNoDay',
    );
    expect(await refusalOf(countStock(s.w.id, s.laneId, { day: '', units: 1 }))).toBe('countedNoDay');
    expect(await refusalOf(countStock(s.w.id, 'none', { day: '2026-10-01', units: 1 }))).toBe('gone');
  });
  it('holds what orders brought, at what they and their bills cost', async () => {
    const { ids } = await draftOrders(s.w.id, { lanes: [s.laneId], goods: [], byHand: false }, s.w.personId);
    const id = ids[0] as string;
    const at = async () => (await loadOrder(s.w.id, id)).order;
    const first = (await at()).terms.lines[0];
    if (first === undefined) throw new Error('no line');
    const bought = { ...first, units: 100, priceBreaks: [{ minQty: 0, unitPrice: 7 }] };
    await saveOrder(
      s.w.id,
      id,
      { terms: { delivery: 0, placedOn: '2026-07-01' }, lines: { [first.id]: bought } },
      'me',
    );
    const bill = { day: '2026-08-20', kind: 'freight', amount: 150, by: 'units', note: '' } as const;
    expect(await refusalOf(noteBill(s.w.id, id, bill, (await at()).edition, 'me'))).toBe('orderNoWay');
    await moveOrder(s.w.id, id, { to: 'sent', note: '', edition: (await at()).edition }, 'me');
    await s.launch();
    expect((await s.page()).coming).toMatchObject([{ units: 100 }]);
    const came = { day: '2026-08-20', lines: [{ line: first.id, units: 100, damaged: 0 }], note: '' };
    await receiveGoods(s.w.id, id, came, (await at()).edition, 'me');
    await noteBill(s.w.id, id, bill, (await at()).edition, 'me');
    await s.bring(month('2026-09', 20, 4));
    const page = await s.page();
    const line = (l: string) => page.whole?.lines.find((x) => x.line === l);
    expect(line('goods')).toMatchObject({ actual: 7, from: 'received' });
    expect(line('freight')).toMatchObject({ actual: 1.5, from: 'received' });
    expect(page.stock).toMatchObject({ units: 80, from: 'orders' });
    expect(page.coming).toEqual([]);
    await payOrder(s.w.id, id, { day: '2026-07-01', amount: 700, home: 700 }, (await at()).edition, 'me');
    const { cash } = await s.page();
    expect(cash?.byPlan ?? []).not.toContain('goods');
    const edition = async () => (await at()).edition;
    const order = (await at()).number;
    const file = `Day;For what;Amount;Order\n21.08.2026;Duty;12,50;${order}\n22.08.2026;Freight;9;${order + 1}`;
    await noteBillFile(s.w.id, id, file, await edition(), 'me');
    // The same file once more notes nothing twice; a row that is wrong leaves all as it was.
    await noteBillFile(s.w.id, id, `\uFEFF${file}`, await edition(), 'me');
    const wrong = noteBillFile(
      s.w.id,
      id,
      'Day,For what,Amount\n2026-08-21,Duty,3\nx,Duty,4',
      await edition(),
      'me',
    );
    expect(await refusalOf(wrong)).toBe('billDay');
    const many = ['Day,For what,Amount', ...Array.from({ length: 99 }, (_, i) => `2026-08-21,Duty,${i + 1}`)];
    expect(await refusalOf(noteBillFile(s.w.id, id, many.join('\n'), await edition(), 'me'))).toBe(
      'billMany',
    );
    expect((await at()).progress.bills.map((b) => [b.kind, b.amount])).toEqual([
      ['freight', 150],
      ['duty', 12.5],
    ]);
    const billId = (await at()).progress.bills[0]?.id ?? '';
    await dropBill(s.w.id, id, billId, (await at()).edition, 'me');
    expect(await refusalOf(dropBill(s.w.id, id, billId, (await at()).edition, 'me'))).toBe('gone');
    expect((await s.page()).whole?.lines.find((l) => l.line === 'freight')?.from).toBe('asPlanned');
  });
});

describe('decisions of a lane', () => {
  const stage = async () => {
    const [own] = await inWorkspace(s.w.id, (tx) =>
      tx.select({ data: candidate.data }).from(candidate).where(eq(candidate.id, s.candidateId)),
    );
    return own?.data.stage;
  };
  it('to let go is kept with its reason, asks for nothing more, and is taken back', async () => {
    await s.launch();
    await s.bring([...month('2026-09', 20, 9), ...month('2026-10', 20, 9)]);
    expect(await stage()).toBe('selling');
    expect((await loadSelling(s.w.id)).lanes[0]?.decisions.length).toBeGreaterThan(0);
    await letGo(s.w.id, s.laneId, { reason: 'loses', note: 'too dear', by: 'Rowan' }, s.w.personId);
    expect(await stage()).toBe('letGo');
    const [let1] = (await loadSelling(s.w.id)).lanes;
    expect(let1).toMatchObject({
      stopped: { reason: 'loses', note: 'too dear', by: 'Rowan' },
      decisions: [],
    });
    await letGo(s.w.id, s.laneId, null, s.w.personId);
    expect(await stage()).toBe('selling');
    await letGo(s.w.id, s.laneId, { reason: 'other', note: '', by: '' }, s.w.personId);
    // Put on sale again, it sells.
    await s.launch('2026-10-01');
    expect((await loadSelling(s.w.id)).lanes[0]?.stopped).toBeNull();
    expect(await stage()).toBe('selling');
  });
  it('what is left of it brings what its sale brings, and is kept as a scenario without its goods', async () => {
    await s.launch();
    expect((await s.page()).ways).toEqual([]);
    await letGo(s.w.id, s.laneId, { reason: 'season', note: '', by: '' }, s.w.personId);
    const [own, ...others] = (await s.page()).ways;
    expect(others).toEqual([]);
    const figures = (await s.lane())?.result?.figures;
    const sheet = await s.sheet();
    const unit = documentOf(sheet as NonNullable<typeof sheet>, (await s.lane()) as never);
    expect(own).toMatchObject({ laneId: s.laneId, price: 29.9 });
    if (figures?.unitProfit != null) {
      expect(own?.brings).toBeCloseTo(figures.unitProfit + (evaluate(unit).figures.landedCost as number), 6);
      const at = evaluate({ ...unit, price: own?.floor as number }).figures;
      expect((at.unitProfit as number) + (at.landedCost as number)).toBeGreaterThanOrEqual(-1e-9);
    }
    await keepLeftOver(s.w.id, s.laneId, { of: s.laneId, price: 12.5, name: 'Sell off' }, s.w.personId);
    const kept = (await s.sheet())?.lanes.find((l) => l.scenarioOf === s.laneId);
    expect(kept?.data).toMatchObject({ name: 'Sell off', price: 12.5, noGoods: true, route: 'none' });
    const gone = keepLeftOver(s.w.id, s.laneId, { of: 'none', price: 1, name: '' }, s.w.personId);
    expect(await refusalOf(gone)).toBe('gone');
  });
  it('what came goes into the lane as it is now, as actual; the plan stays what it was', async () => {
    expect(await refusalOf(s.launch('1899-01-01'))).toBe('launchedNoDay');
    await s.launch();
    expect(await refusalOf(takeOver(s.w.id, s.laneId, ['price'], s.w.personId))).toBe('nothingToTakeOver');
    const cheaper = [...month('2026-09', 20, 4), ...month('2026-10', 20, 4)].map((l) =>
      l.replace('sold,29.9', 'sold,24.9'),
    );
    await s.bring([
      ...cheaper,
      ...Array.from({ length: 4 }, (_, i) =>
        row(`2026-${i < 2 ? '09' : '10'}-28`, `2026-09/${i}`, 'back', -24.9, 1),
      ),
    ]);
    const before = await s.page();
    expect(before.offers.map((o) => [o.what, o.figure])).toEqual([
      ['price', 24.9],
      ['returnRate', 0.1],
      ['units', expect.any(Number)],
    ]);
    await takeOver(s.w.id, s.laneId, ['price', 'returnRate'], s.w.personId);
    const data = (await s.lane())?.data;
    expect(data).toMatchObject({ price: 24.9, returns: { rate: 0.1 } });
    expect(data?.provenance.price).toEqual({ source: 'actual', date: '2026-10-28', note: '', units: 40 });
    expect(data?.provenance['returns.rate']).toMatchObject({ source: 'actual', units: 40 });
    const after = await s.page();
    expect(after.whole?.planned.price).toBe(29.9);
    expect(after.offers.map((o) => o.what)).toEqual(['units']);
  });
});

describe('the months of the workspace', () => {
  it('add up what was sold and paid out; a report that lacks is asked for', async () => {
    await s.launch();
    await s.bring([...month('2026-09', 10, 4), row('2026-09-29', '', 'out', -100)]);
    await s.bring([row('2026-11-02', 'Z', 'sold', 29.9, 1)]);
    const page = await loadSelling(s.w.id);
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

describe('reports of one’s own', () => {
  const told = settlementMap.parse({
    columns: { day: 'Date', code: 'Item', clicks: 'Clicks', units: 'Orders' },
    amounts: [
      { column: 'Cost', kind: 'clicks' },
      { column: 'Sales', kind: 'advertSale' },
    ],
  });
  const HEADING = 'Date,Item,Clicks,Cost,Orders,Sales';
  it('tell what adverts took, are no days that are settled, are taken over and taken back', async () => {
    await s.patch(['adverts'], {
      keywords: [{ text: '', low: 0.4, high: 0.6, weight: 0.5, conversionRate: 0.1, expectedClicks: null }],
      adShare: 0.4,
    });
    await s.launch();
    await s.bring([...month('2026-09', 20, 4), ...month('2026-10', 20, 4)]);
    const before = await loadSelling(s.w.id);
    const days = ['2026-09-10,BB,100,30,8,240', '2026-10-10,BB,100,60,12,360', '2026-11-20,BB,9,9,0,0'];
    const { id, said } = await s.bring(days, told, HEADING);
    expect(said).toMatchObject({ lines: 5, first: null, last: null });
    const page = await s.page();
    expect(page.whole?.lines.find((l) => l.line === 'adverts')).toMatchObject({ from: 'told' });
    expect(page.until).toBe('2026-10-20');
    // November is not settled yet, whatever adverts took in it.
    expect(page.months.map((m) => m.month)).toEqual(['2026-09', '2026-10']);
    const after = await loadSelling(s.w.id);
    expect(after.places).toEqual(before.places);
    expect(after.months.find((m) => m.month === '2026-10')?.settled).toBe(
      before.months.find((m) => m.month === '2026-10')?.settled,
    );
    expect(page.offers.find((o) => o.what === 'adverts')).toMatchObject({
      figure: 0.45,
      buy: 0.1,
      units: 20,
    });
    await takeOver(s.w.id, s.laneId, ['adverts'], s.w.personId);
    expect((await s.lane())?.data).toMatchObject({
      adverts: { keywords: [{ low: 0.45, high: 0.45, conversionRate: 0.1 }], adShare: 0.5 },
      provenance: { adverts: { source: 'actual', units: 20 } },
    });
    await takeBackSettlement(s.w.id, id);
    expect((await s.page()).whole?.lines.find((l) => l.line === 'adverts')?.from).toBe('asPlanned');
  });
  it('one launch teaches no width yet', async () => {
    await s.launch();
    await s.bring(month('2026-09', 20, 4));
    await loadSelling(s.w.id);
    expect(await learnedIn(s.w.id)).toEqual({});
  });
});
