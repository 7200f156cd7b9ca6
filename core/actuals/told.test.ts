/** Reports of one's own: what adverts and dispatch took, told beside the account of the marketplace. */
import { describe, expect, it } from 'vitest';
import { cashPlan } from '../cash/schema.ts';
import { isFault } from '../fault.ts';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { asPlanned, BASE, PLACE, readAll, sumsOf } from '../testing/settled.ts';
import type { Said } from '../testing/settled.ts';
import { cashOfKinds } from './allMonths.ts';
import { placeBook } from './book.ts';
import { cashBeside } from './cashBeside.ts';
import { earlierFor, guessSettlementMap, mapLike } from './map.ts';
import { placeSettled, soldOf } from './onSale.ts';
import { SettlementReader, settlementMapIssues } from './read.ts';
import { settlementMap } from './schema.ts';
import type { SettledLine } from './schema.ts';
import { addKinds } from './sums.ts';
import { offersOf } from './takeOver.ts';

const HEADER = ['Date', 'Item', 'Search', 'Clicks', 'Spend', 'Orders', 'Sales'];
const DAY = '2026-10-31';
const read = (rows: readonly (readonly string[])[], over: object = {}, header = HEADER) => {
  const map = settlementMap.parse({ ...guessSettlementMap(header, rows), ...over });
  const reader = new SettlementReader(map, header, PLACE, DAY);
  const out = rows.map((r, i) => reader.read(r, i + 2));
  return {
    map,
    totals: reader.totals,
    faults: out.flatMap((x) => (isFault(x) ? x.code : [])),
    lines: out.flatMap((x) => (isFault(x) ? [] : x)),
  };
};
/** October of a code: 200 clicks for 90, of which 16 bought. */
const ADVERTS = [
  ['2026-10-03', 'A', 'bowl', '150', '60.00', '12', '288.00'],
  ['2026-10-04', 'A', 'dish', '50', '30.00', '4', '96.00'],
];
const settled = (rows: readonly Said[]): SettledLine[] =>
  readAll(rows.map((r) => ({ ...r, date: r.date ?? '2026-10-20' }))).lines;
/** A lane that sold as planned in October beside what reports of one's own tell. */
function sold(told: readonly SettledLine[], rows: readonly Said[], doc: LaneDocument = BASE) {
  const sums = sumsOf([...settled(rows), ...told]);
  const lane = { document: doc, codes: ['A'], since: '2026-10-01', ramp: [1] };
  const place = placeSettled(sums, DAY);
  return { sums, lane, place, ...soldOf(lane, place) };
}
const noAdverts = asPlanned(BASE, 100).filter((r) => r.what !== 'adverts');

describe('an advert report', () => {
  it('is known by its clicks: cost and sales are its amounts, orders its units', () => {
    const { map, lines, faults, totals } = read(ADVERTS);
    expect(map.columns).toEqual({ day: 'Date', code: 'Item', clicks: 'Clicks', units: 'Orders' });
    expect(map.amounts).toEqual([
      { column: 'Spend', kind: 'clicks' },
      { column: 'Sales', kind: 'advertSale' },
    ]);
    expect(faults).toEqual([]);
    // What is told has no sign of an account, whichever is chosen.
    expect(lines.map((l) => [l.kind, l.amount, l.units])).toEqual([
      ['clicks', -600_000, 150],
      ['advertSale', 2_880_000, 12],
      ['clicks', -300_000, 50],
      ['advertSale', 960_000, 4],
    ]);
    expect(read(ADVERTS, { signs: 'bare' }).lines).toEqual(lines);
    // Its days say nothing of what the marketplace settled.
    expect([totals.first, totals.last]).toEqual([null, null]);
    expect(totals.lines).toBe(4);
  });
  it('without clicks or without their cost is read as any settlement', () => {
    expect(guessSettlementMap(['Date', 'Item', 'Amount'], []).amounts).toEqual([
      { column: 'Amount', kind: null },
    ]);
    expect(guessSettlementMap(['Date', 'Clicks', 'Amount'], []).amounts[0]?.kind).toBeNull();
    expect(guessSettlementMap(['Date', 'Clicks', 'Cost'], []).amounts).toEqual([
      { column: 'Cost', kind: 'clicks' },
    ]);
  });
  it('of search terms has a day that is said for all; it is asked for anew each time', () => {
    const header = ['Search', 'Item', 'Clicks', 'Spend'];
    const rows = [['bowl', 'A', '10', '4']];
    const map = guessSettlementMap(header, rows);
    expect(settlementMapIssues(map, header).map((i) => i.detail)).toEqual([{ column: 'day' }]);
    const said = { ...map, onDay: '2026-10-31' };
    expect(settlementMapIssues(said, header)).toEqual([]);
    expect(read(rows, said, header).lines[0]).toMatchObject({ day: '2026-10-31', units: 10 });
    expect(read(rows, { onDay: '2026-11-30' }, header).faults).toEqual(['settledFuture']);
    expect(read(rows, { onDay: '1960-01-01' }, header).faults).toEqual(['settledOutside']);
    expect(read(rows, { onDay: null }, header).faults).toEqual(['settledBlank']);
    expect(mapLike(map, said, header).onDay).toBeNull();
    expect(settlementMap.safeParse({ ...said, onDay: '31.10.2026' }).success).toBe(false);
  });
  it('of a place is read as the last one was, and its settlements as the last of those', () => {
    const advert = guessSettlementMap(HEADER, ADVERTS);
    const settled = settlementMap.parse({
      columns: { day: 'Date', kind: 'What' },
      amounts: [{ column: 'Amount' }],
      kinds: { sold: 'sale' },
    });
    expect(earlierFor([advert, settled], HEADER)).toBe(advert);
    expect(earlierFor([advert, settled], ['Date', 'What', 'Amount'])).toBe(settled);
    // Of other headings what is known is what kinds of lines are.
    expect(earlierFor([advert, settled], ['Posted', 'Entry', 'Sum'])).toBe(settled);
    expect(earlierFor([advert], ['Posted'])).toBe(advert);
    expect(earlierFor([], HEADER)).toBeUndefined();
    // Rows of an advert report have no kind of line.
    expect(mapLike(advert, settled, HEADER).kinds).toEqual({});
    const others = guessSettlementMap(['Posted', 'Entry', 'Sum'], []);
    expect(mapLike(others, settled, ['Posted', 'Entry', 'Sum']).kinds).toEqual({ sold: 'sale' });
  });
  it('counts clicks that are whole and not below none', () => {
    const odd = [['2026-10-03', 'A', '', '1.5', '60', '', '']];
    expect(read(odd).faults).toEqual(['settledUnits']);
    // A line that says no clicks, or no orders, is of none.
    const bare = [['2026-10-03', 'A', '', '', '60', '', '5']];
    expect(read(bare).lines.map((l) => l.units)).toEqual([0, 0]);
  });
});

describe('what is told beside the account', () => {
  it('is the adverts of a product where no settlement charges any, and no money that is settled', () => {
    const { whole, sums, months } = sold(read(ADVERTS).lines, noAdverts);
    expect(whole?.actual.lines.adverts).toEqual({ amount: 90, from: 'told' });
    const alone = sold([], noAdverts);
    expect(alone.whole?.actual.lines.adverts.from).toBe('asPlanned');
    expect(months[0]?.account).toMatchObject({
      settled: alone.months[0]?.account.settled,
      told: 90,
      adverts: { clicks: 200, cost: 90, units: 16 },
    });
    const kinds = addKinds([...sums.values()].flatMap((m) => [...m.values()]));
    expect(cashOfKinds(kinds).settled).toBeCloseTo(alone.months[0]?.account.settled as number, 9);
    expect(placeBook(sums).codes[0]?.amount).toBeCloseTo(placeBook(alone.sums).codes[0]?.amount as number, 9);
  });
  it('counts once where the marketplace charges adverts itself', () => {
    const { whole, months } = sold(read(ADVERTS).lines, asPlanned(BASE, 100));
    expect(whole?.actual.lines.adverts).toMatchObject({ amount: 200, from: 'settled' });
    expect(months[0]?.account).toMatchObject({ told: 0, adverts: { clicks: 200 } });
  });
  it('that names no product is shared out by what each sold', () => {
    const others = asPlanned(BASE, 300).map((r) => ({ ...r, item: 'B' }));
    const all = read([['2026-10-03', '', '', '400', '100', '', '']]).lines;
    const { whole, months } = sold(all, [...noAdverts, ...others.filter((r) => r.what !== 'adverts')]);
    expect(whole?.actual.lines.adverts).toEqual({ amount: 25, from: 'told' });
    expect(months[0]?.account.adverts).toBeNull();
  });
  it('is the dispatch of who dispatches, in place of the plan’s; of a warehouse’s product it comes on top', () => {
    const header = ['Day', 'Parcel', 'Item', 'Paid'];
    const rows = [['2026-10-05', 'P1', 'A', '410.00']];
    const amounts = [{ column: 'Paid', kind: 'ownDispatch' as const }];
    const { lines } = read(rows, { amounts }, header);
    const noFee = noAdverts.filter((r) => r.what !== 'fulfilment');
    const own = laneDocument.parse({ ...BASE, method: 'ownDispatch', typed: { fulfilmentFee: 3 } });
    const as = sold(lines, noFee, own);
    expect(as.whole?.actual.lines.fulfilment).toEqual({ amount: 410, from: 'told' });
    expect(as.months[0]?.account).toMatchObject({ told: 410, tellsDispatch: true });
    // Another product's parcels say nothing of this one's.
    const of = read([['2026-10-05', 'P1', 'B', '410.00']], { amounts }, header).lines;
    expect(sold(of, noFee, own).whole?.actual.lines.fulfilment.from).toBe('asPlanned');
    const warehouse = sold(lines, noAdverts);
    expect(warehouse.whole?.actual.lines.fulfilment.amount).toBeCloseTo(310 + 410, 6);
  });
  it('goes out of the cash beside what is settled', () => {
    const doc: LaneDocument = { ...BASE, payoutEveryDays: 1, payoutDelayDays: 0 };
    const dated = laneDocument.parse({
      ...doc,
      goods: [{ source: { ...(doc.goods as never as { source: object }[])[0]?.source, leadDays: 0 } }],
    });
    const cash = (told: readonly SettledLine[]) => {
      const { months } = sold(told, noAdverts, dated);
      const paid = { paid: [], open: [], unknown: 0 };
      const so = { since: '2026-10-01', today: DAY, months, last: DAY, paid, shelf: null };
      const said = cashBeside(dated, cashPlan.parse({}), so);
      if (said === null) throw new Error('not known');
      return said;
    };
    const none = cash([]);
    const told = cash(read(ADVERTS).lines);
    expect(none.byPlan).toContain('adverts');
    expect(told.byPlan).not.toContain('adverts');
    // 100 units were planned to take 200 for adverts; 90 were told.
    expect(told.today.actual - none.today.actual).toBeCloseTo(110, 6);
  });
});

describe('adverts taken over', () => {
  const offered = (told: readonly SettledLine[], doc: LaneDocument = BASE) => {
    const { whole, months } = sold(told, asPlanned(BASE, 100));
    if (whole === null) throw new Error('nothing sold');
    const period = { from: '2026-10-01', to: DAY, compared: whole };
    return offersOf(doc, period, months, []).find((o) => o.what === 'adverts');
  };
  it('are what a click cost, how many bought, and the share of sales that came by them', () => {
    const offer = offered(read(ADVERTS).lines);
    expect(offer).toMatchObject({ figure: 0.45, was: 0.5, buy: 0.08, ofSales: 0.16, units: 16 });
    expect(laneDocument.parse({ ...BASE, adverts: offer?.value }).adverts).toMatchObject({
      keywords: [{ low: 0.45, high: 0.45, conversionRate: 0.08 }],
      adShare: 0.16,
    });
    const none = offered(read(ADVERTS).lines, { ...BASE, adverts: 'none' });
    expect(none).toMatchObject({ figure: 0.45, was: null });
    const over = laneDocument.parse({ ...BASE, adverts: offer?.value });
    expect(offered(read(ADVERTS).lines, over)).toBeUndefined();
  });
  it('keep the share that buys where no report tells it', () => {
    const clicks = read(ADVERTS.map((r) => [...r.slice(0, 5), '', ''])).lines;
    const offer = offered(clicks);
    expect(offer).toMatchObject({ figure: 0.45, buy: null, units: 0 });
    expect(offer?.value).toMatchObject({ keywords: [{ conversionRate: 0.1 }], adShare: 0.4 });
    const blank = offered(clicks, { ...BASE, adverts: null });
    expect(blank).toMatchObject({ was: null, value: { keywords: [{ conversionRate: null }], adShare: 1 } });
  });
  it('are not offered of few clicks, or of clicks that cost nothing', () => {
    expect(offered(read([['2026-10-03', 'A', '', '49', '20', '1', '24']]).lines)).toBeUndefined();
    expect(offered(read([['2026-10-03', 'A', '', '90', '0', '1', '24']]).lines)).toBeUndefined();
    expect(offered([])).toBeUndefined();
  });
});
