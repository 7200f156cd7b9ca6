/** Landed cost by orders that came in, first in first out, and what is left on the shelf. */
import { describe, expect, it } from 'vitest';
import { SHARED_BY } from '../orders/bills.ts';
import type { Bill } from '../orders/bills.ts';
import { orderProgress, orderTerms } from '../orders/schema.ts';
import type { Order } from '../orders/schema.ts';
import { Draw } from '../testing/draw.ts';
import { RUN_SEED } from '../testing/seed.ts';
import { asPlanned, BASE, readAll, sumsOf } from '../testing/settled.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { FirstOut, layersOf, onTheWay } from './received.ts';
import { placeSettled, soldOf } from './onSale.ts';
import { stockOf } from './stock.ts';

const line = (id: string, units: number, unitPrice: number, over: object = {}) => ({
  id,
  name: id,
  laneId: id === 'l1' ? 'lane' : null,
  units,
  priceBreaks: [{ minQty: 0, unitPrice }],
  ...over,
});
const orderOf = (over: {
  terms?: object;
  progress?: object;
  state?: Order['state'];
  number?: number;
}): Order => ({
  id: `o${over.number ?? 1}`,
  number: over.number ?? 1,
  state: over.state ?? 'received',
  terms: orderTerms.parse({
    currency: 'EUR',
    delivery: 0,
    lines: [line('l1', 100, 6), line('l2', 50, 12)],
    ...over.terms,
  }),
  progress: orderProgress.parse({
    receipts: [{ id: 'r1', day: '2026-08-01', lines: [{ line: 'l1', units: 100 }] }],
    ...over.progress,
  }),
});
const bill = (over: Partial<Bill>): Bill => ({
  id: 'b',
  day: '2026-08-02',
  kind: 'freight',
  amount: 120,
  by: 'value',
  note: '',
  ...over,
});
const MEASURES = new Map([
  ['l1', { kg: 0.5, m3: 0.002 }],
  ['l2', { kg: 2, m3: 0.002 }],
]);
const layers = (order: Order, doc: LaneDocument = BASE) => layersOf([order], 'lane', doc, MEASURES);

describe('goods that came in', () => {
  it('cost what the order says; bills are shared as one chooses', () => {
    expect(layers(orderOf({}))).toEqual([{ day: '2026-08-01', order: 1, units: 100, lines: { goods: 6 } }]);
    const each = (by: Bill['by']) =>
      layers(orderOf({ progress: { bills: [bill({ by })] } }))[0]?.lines.freight;
    // 600 and 600 of value; 100 and 50 units; 50 and 100 kg; 0.2 and 0.1 m3.
    expect(SHARED_BY.map(each)).toEqual([0.6, 0.8, 0.4, 0.8]);
  });
  it('what is shared by something that is not known of every line stays unknown', () => {
    const order = orderOf({ progress: { bills: [bill({ by: 'weight' }), bill({ id: 'c', kind: 'duty' })] } });
    const [layer] = layersOf([order], 'lane', BASE, new Map([['l1', { kg: 1, m3: 1 }]]));
    expect(layer?.lines).toEqual({ goods: 6, duty: 0.6 });
  });
  it('delivery and charges of the order are shared by value, the VAT on them left out', () => {
    const [layer] = layers(
      orderOf({
        terms: {
          delivery: 24,
          deliveryVat: { vat: 'included', vatRate: 0.2 },
          charges: [{ name: 'inspection', amount: 60 }],
        },
      }),
    );
    expect(layer?.lines).toEqual({ goods: 6, freight: 0.1, buyingCosts: 0.3 });
  });
  it('damaged units make the good ones of their receipt dearer', () => {
    const receipts = [
      { id: 'r1', day: '2026-08-01', lines: [{ line: 'l1', units: 40, damaged: 10 }] },
      { id: 'r2', day: '2026-09-01', lines: [{ line: 'l1', units: 50 }] },
      { id: 'r3', day: '2026-09-02', lines: [{ line: 'l2', units: 50 }] },
    ];
    expect(layers(orderOf({ progress: { receipts } })).map((l) => [l.units, l.lines.goods])).toEqual([
      [40, 7.5],
      [50, 6],
    ]);
  });
  it('another currency goes by what was paid, else by the rates of the lane', () => {
    const exchange = { base: 'EUR', date: '2026-08-01', source: '', rates: { USD: 1.25, PLN: 4 } };
    const doc = { ...BASE, rates: { ...BASE.rates, exchange } };
    const dollars = { terms: { currency: 'USD' } };
    expect(layers(orderOf(dollars), doc)[0]?.lines.goods).toBeCloseTo(4.8, 9);
    const payments = [{ id: 'p', day: '2026-07-01', amount: 1000, home: 900 }];
    const paid = orderOf({ ...dollars, progress: { payments } });
    expect(layers(paid, doc)[0]?.lines.goods).toBeCloseTo(5.4, 9);
    expect(layers(orderOf(dollars), BASE)[0]?.lines).toEqual({});
  });
  it('packs that hold more than is sold at once make as many units', () => {
    const goods = (BASE.goods as Exclude<LaneDocument['goods'], null | 'none'>).map((g) => ({
      ...g,
      unitsInBoughtPack: 6,
      unitsInSoldPack: 2,
    }));
    expect(layers(orderOf({}), { ...BASE, goods })[0]).toMatchObject({ units: 300, lines: { goods: 2 } });
    expect(layers(orderOf({}), { ...BASE, goods: [...goods, ...goods] })).toEqual([]);
    expect(layers(orderOf({}), { ...BASE, goods: 'none' })).toEqual([]);
  });
  it('orders that were never sent, or called off, brought nothing', () => {
    expect(layers(orderOf({ state: 'draft' }))).toEqual([]);
    expect(layers(orderOf({ state: 'cancelled' }))).toEqual([]);
  });
  it('what was ordered and is not here is on its way', () => {
    const receipts = [{ id: 'r1', day: '2026-08-01', lines: [{ line: 'l1', units: 30, damaged: 5 }] }];
    const goods = (BASE.goods as Exclude<LaneDocument['goods'], null | 'none'>).map((g) => ({
      ...g,
      source: { ...g.source, leadDays: 20 },
    })) as LaneDocument['goods'];
    const way = { state: 'onItsWay', progress: { receipts }, terms: { placedOn: '2026-08-01' } } as const;
    expect(onTheWay([orderOf(way)], 'lane', { ...BASE, goods })).toEqual([{ day: '2026-08-21', units: 65 }]);
    const own = { ...way, terms: { ...way.terms, leadDays: 5 } };
    expect(onTheWay([orderOf(own)], 'lane', BASE)).toEqual([{ day: '2026-08-06', units: 65 }]);
    expect(onTheWay([orderOf(way)], 'lane', BASE)).toEqual([{ day: null, units: 65 }]);
    expect(onTheWay([orderOf(way)], 'other', BASE)).toEqual([]);
    expect(onTheWay([orderOf({ state: 'received', progress: { receipts } })], 'lane', BASE)).toEqual([]);
    expect(onTheWay([orderOf({ state: 'sent' })], 'lane', { ...BASE, goods: 'none' })).toEqual([]);
  });
});

describe('first in, first out', () => {
  const two = [
    { day: '2026-08-01', order: 1, units: 10, lines: { goods: 5, freight: 1 } },
    { day: '2026-09-01', order: 2, units: 10, lines: { goods: 8 } },
  ];
  it('takes the earliest first and says of what share a cost is known', () => {
    const out = new FirstOut(two);
    expect(out.take(4)).toEqual({ goods: { share: 1, each: 5 }, freight: { share: 1, each: 1 } });
    expect(out.take(0)).toEqual({});
    expect(out.take(-3)).toEqual({});
    expect(out.take(10)).toEqual({ goods: { share: 1, each: 6.2 }, freight: { share: 0.6, each: 1 } });
    expect(out.rest()).toEqual([{ units: 6, lines: { goods: 8 } }]);
    expect(out.take(12)).toEqual({ goods: { share: 0.5, each: 8 } });
    expect(out.rest()).toEqual([]);
    expect(out.take(1)).toEqual({});
  });
  it('loses no cent and no unit, however it is taken', () => {
    const draw = new Draw(RUN_SEED);
    for (let n = 0; n < 300; n++) {
      const many = Array.from({ length: 1 + Math.floor(draw.next() * 5) }, (_, i) => ({
        day: '2026-08-01',
        order: i,
        units: 1 + Math.floor(draw.next() * 40),
        lines: { goods: draw.next() * 20 },
      }));
      const out = new FirstOut(many);
      const whole = many.reduce((s, l) => s + l.units, 0);
      let spent = 0;
      let taken = 0;
      while (taken < whole) {
        const units = 1 + Math.floor(draw.next() * 30);
        const { goods } = out.take(units);
        spent += units * (goods?.share ?? 0) * (goods?.each ?? 0);
        taken += units;
      }
      expect(spent).toBeCloseTo(
        many.reduce((s, l) => s + l.units * l.lines.goods, 0),
        6,
      );
    }
  });
  it('a lane on sale costs what its orders cost, and the plan’s beyond them', () => {
    const rows = asPlanned(BASE, 20).map((s) => ({ ...s, date: '2026-09-05' }));
    const place = placeSettled(sumsOf(readAll(rows).lines), '2026-09-30');
    const lane = { document: BASE, codes: ['A'], since: '2026-09-01', ramp: [1] };
    const whole = (few: typeof two) => soldOf({ ...lane, layers: few }, place);
    const goods = (s: ReturnType<typeof soldOf>) => s.whole?.lines.find((l) => l.line === 'goods');
    expect(goods(whole(two))).toMatchObject({ actual: 6.5, from: 'received' });
    expect(goods(whole(two.slice(0, 1)))).toMatchObject({ actual: 5, from: 'partly' });
    expect(goods(whole([]))).toMatchObject({ actual: 5, from: 'asPlanned' });
    expect(whole(two)).toMatchObject({ left: 20, rest: [] });
  });
});

describe('the stock', () => {
  const layer = { day: '2026-08-01', order: 1, units: 100, lines: { goods: 6 } };
  it('by orders is what has not left, at what it cost to land', () => {
    const rest = [{ units: 40, lines: { goods: 6 } }];
    expect(stockOf(BASE, [layer], rest, 60, null, 0)).toEqual({ units: 40, from: 'orders', value: 240 });
    expect(stockOf(BASE, [], [], 60, null, 0)).toEqual({ units: null, from: null, value: null });
    expect(stockOf(BASE, [layer], [], 101, null, 0).units).toBeNull();
  });
  it('by a count is what came and left since', () => {
    const counted = { day: '2026-09-01', units: 30 };
    const later = { ...layer, day: '2026-09-20', units: 50, lines: { goods: 7 } };
    expect(stockOf(BASE, [layer, later], [], 500, counted, 20)).toEqual({
      units: 60,
      from: 'counted',
      value: 420,
    });
    expect(stockOf(BASE, [], [], 0, counted, 45)).toEqual({ units: 0, from: 'counted', value: 0 });
  });
  it('whose cost is not known has none', () => {
    const blank = { ...BASE, goods: null };
    const counted = { day: '2026-09-01', units: 30 };
    expect(stockOf(blank, [], [], 0, counted, 0)).toEqual({ units: 30, from: 'counted', value: null });
  });
});
