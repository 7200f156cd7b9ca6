import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cashOf } from '../cash/cash.ts';
import { cashTerms } from '../cash/schema.ts';
import { evaluate } from '../lane/evaluate.ts';
import { quote as quoteSchema, retailPurchase } from '../lane/schema.ts';
import { launchPlan } from '../launch/schema.ts';
import { CHEAPER_FROM_300, lantern } from '../testing/lantern.ts';
import '../testing/seed.ts';
import { storedLane } from '../workspace/records.ts';
import { misfitOf, nextBreak, priceAt } from './fit.ts';
import { boughtFor, lineFrom, linesOfLane, ordersOf } from './fromGoods.ts';
import { withAgreedOf } from './inPlan.ts';
import { ordersPurse } from './purse.ts';
import { orderChange, orderLine, orderProgress, orderTerms } from './schema.ts';
import type { Order, OrderLine, OrderTerms } from './schema.ts';
import { arrivedOf, isAllHere, ORDER_WAYS, stateBefore } from './states.ts';
import { nextDue, openOf, orderSaid, taxed } from './totals.ts';

const line = (over: Partial<OrderLine> = {}): OrderLine => ({
  ...orderLine.parse({ id: 'a', name: 'Lantern', priceBreaks: [{ minQty: 0, unitPrice: 10 }], units: 100 }),
  ...over,
});
const terms = (over: Partial<OrderTerms> = {}): OrderTerms => ({
  ...orderTerms.parse({ currency: 'EUR', delivery: 0 }),
  lines: [line()],
  ...over,
});
const order = (over: Partial<Order> = {}): Order => ({
  id: 'o',
  number: 1,
  state: 'draft',
  terms: terms(),
  progress: orderProgress.parse({}),
  ...over,
});
const DAY = '2026-11-24';

describe('what a supplier takes', () => {
  const goods = { carton: 24, minimumOrder: 100, priceBreaks: [{ minQty: 0, unitPrice: 4 }] };
  it('whole cartons, not under the minimum; what would fit is said below and above', () => {
    expect(misfitOf(120, goods, 0)).toBeNull();
    expect(misfitOf(130, goods, 0)).toEqual({ short: 0, brokenCarton: true, below: 120, above: 144 });
    // 100 is no whole number of cartons: the least order is 120.
    expect(misfitOf(96, goods, 0)).toEqual({ short: 4, brokenCarton: false, below: null, above: 120 });
    expect(misfitOf(110, goods, 0)).toEqual({ short: 0, brokenCarton: true, below: null, above: 120 });
  });
  it('lines that count together need the minimum together', () => {
    expect(misfitOf(48, goods, 60)).toBeNull();
    expect(misfitOf(24, goods, 60)).toMatchObject({ short: 16, above: 48 });
  });
  it('the first price break is a minimum too, and without a carton units are whole', () => {
    const from500 = { carton: null, minimumOrder: 0, priceBreaks: [{ minQty: 500, unitPrice: 4 }] };
    expect(misfitOf(499, from500, 0)).toMatchObject({ short: 1, above: 500 });
    expect(misfitOf(500.5, from500, 0)).toEqual({ short: 0, brokenCarton: true, below: 500, above: 501 });
  });
  it('whatever is ordered, what is said to fit fits', () => {
    fc.assert(
      fc.property(
        fc.record({
          units: fc.double({ min: 0.5, max: 5000, noNaN: true }),
          carton: fc.option(fc.integer({ min: 1, max: 60 })),
          minimumOrder: fc.integer({ min: 0, max: 900 }),
          first: fc.integer({ min: 0, max: 400 }),
          others: fc.integer({ min: 0, max: 600 }),
        }),
        ({ units, carton, minimumOrder, first, others }) => {
          const g = { carton, minimumOrder, priceBreaks: [{ minQty: first, unitPrice: 1 }] };
          const said = misfitOf(units, g, others);
          if (said === null) return;
          expect(misfitOf(said.above, g, others)).toBeNull();
          expect(said.above).toBeGreaterThanOrEqual(units - 1e-9);
          if (said.below !== null) {
            expect(misfitOf(said.below, g, others)).toBeNull();
            expect(said.below).toBeLessThan(units);
          }
        },
      ),
    );
  });
  it('the next price break: what it takes and costs, or saves', () => {
    const g = { carton: null, minimumOrder: 0, priceBreaks: CHEAPER_FROM_300 };
    expect(priceAt(g, 299)).toBe(10);
    expect(priceAt(g, 300)).toBe(8);
    expect(nextBreak(g, 200)).toEqual({ more: 100, unitPrice: 8, costsMore: 400 });
    expect(nextBreak(g, 280)).toEqual({ more: 20, unitPrice: 8, costsMore: -400 });
    expect(nextBreak({ ...g, carton: 24 }, 280)?.more).toBe(24);
    expect(nextBreak(g, 300)).toBeNull();
    // A break that is not cheaper, or whose price is blank, is none.
    const odd = [
      { minQty: 0, unitPrice: 5 },
      { minQty: 10, unitPrice: null },
      { minQty: 20, unitPrice: 6 },
    ];
    expect(nextBreak({ ...g, priceBreaks: odd }, 5)).toBeNull();
  });
});

describe('what an order comes to', () => {
  it('each line rounded as it stands on the order, VAT as quoted', () => {
    expect(taxed(121, { vat: 'included', vatRate: 0.21 }, 'EUR')).toEqual({ net: 100, vat: 21, gross: 121 });
    expect(taxed(10.005, { vat: 'added', vatRate: 0.19 }, 'EUR')).toEqual({
      net: 10.01,
      vat: 1.9,
      gross: 11.91,
    });
    expect(taxed(99.6, { vat: 'none', vatRate: 0.19 }, 'JPY')).toEqual({ net: 100, vat: 0, gross: 100 });
  });
  it('lines, delivery, charges and VAT add up; deposit and balance with their days', () => {
    // 3 x 3.335 = 10.005 -> 10.01; VAT 1.90. 100 x 10 = 1000. Delivery 50 with 19 % on top: 59.50. Charge 20.
    const t = terms({
      lines: [
        line({
          id: 'a',
          units: 3,
          priceBreaks: [{ minQty: 0, unitPrice: 3.335 }],
          vat: 'added',
          vatRate: 0.19,
        }),
        line({ id: 'b' }),
      ],
      delivery: 50,
      deliveryVat: { vat: 'added', vatRate: 0.19 },
      charges: [{ name: 'Inspection', amount: 20 }],
      depositShare: 0.3,
      placedOn: DAY,
      leadDays: 30,
      creditDays: 14,
    });
    const said = orderSaid(t, DAY);
    expect(said).toMatchObject({ goods: 1010.01, charges: 20, vat: 11.4, total: 1091.41, lacks: [] });
    expect(said.due).toEqual([
      { kind: 'deposit', amount: 327.42, day: DAY },
      { kind: 'balance', amount: 763.99, day: '2027-01-07' },
    ]);
  });
  it('a day that was agreed beats the one that follows; all at once where there is no deposit', () => {
    const t = terms({ depositDay: '2026-12-01', depositShare: null });
    expect(orderSaid(t, DAY).due).toEqual([{ kind: 'deposit', amount: 1000, day: '2026-12-01' }]);
    expect(orderSaid(terms({ depositShare: 0, placedOn: DAY }), DAY).due).toEqual([
      { kind: 'balance', amount: 1000, day: null },
    ]);
  });
  it('what is not known is named, and never counted as nothing unsaid', () => {
    const t = terms({
      lines: [line({ units: null }), line({ id: 'b', priceBreaks: [{ minQty: 500, unitPrice: 4 }] })],
      delivery: null,
      charges: [{ name: 'Transfer', amount: null }],
    });
    const said = orderSaid(t, DAY);
    expect(said.lacks).toEqual(['units', 'price', 'delivery', 'charges']);
    expect(said.lines.map((l) => l.amount)).toEqual([null, null]);
  });
  it('price breaks of one quote count over the whole order', () => {
    const shared = { quoteId: 'q', priceBreaks: CHEAPER_FROM_300 };
    const t = terms({ lines: [line({ ...shared, units: 200 }), line({ ...shared, id: 'b', units: 100 })] });
    expect(orderSaid(t, DAY).lines.map((l) => l.unitPrice)).toEqual([8, 8]);
    const apart = terms({
      lines: [line({ ...shared, units: 200 }), line({ ...shared, id: 'b', quoteId: 'r' })],
    });
    expect(orderSaid(apart, DAY).lines.map((l) => l.unitPrice)).toEqual([10, 10]);
    // One line whose quantity is not known leaves all of them open.
    const open = terms({
      lines: [line({ ...shared, units: 400 }), line({ ...shared, id: 'b', units: null })],
    });
    expect(orderSaid(open, DAY).lines.map((l) => l.unitPrice)).toEqual([null, null]);
  });
  it('what was confirmed counts in place of what was ordered, and fits whatever it is', () => {
    const t = terms({ lines: [line({ carton: 24, confirmed: { units: 90, unitPrice: 9.5 } })] });
    expect(orderSaid(t, DAY)).toMatchObject({
      total: 855,
      lines: [{ units: 90, unitPrice: 9.5, misfit: null }],
    });
  });
  it('a quote that has run out, and a supplier’s least order, are said', () => {
    const t = terms({ lines: [line({ validUntil: '2026-11-23' })], minimumValue: 1500 });
    expect(orderSaid(t, DAY)).toMatchObject({ shortOfMinimum: 500, lines: [{ expired: true }] });
    expect(orderSaid(t, '2026-11-23').lines[0]?.expired).toBe(false);
  });
  it('payments are taken off what is due, the earliest first', () => {
    const o = order({
      terms: terms({ depositShare: 0.3, placedOn: DAY, leadDays: 10 }),
      progress: orderProgress.parse({ payments: [{ id: 'p', day: DAY, amount: 300, home: 300 }] }),
    });
    const said = orderSaid(o.terms, DAY);
    expect(openOf(o, said)).toBe(700);
    expect(nextDue(o, said)).toEqual({ kind: 'balance', amount: 700, day: '2026-12-04' });
    const all = {
      ...o,
      progress: orderProgress.parse({ payments: [{ id: 'p', day: DAY, amount: 1200, home: 1 }] }),
    };
    expect(openOf(all, said)).toBe(0);
    expect(nextDue(all, said)).toBeNull();
    const part = {
      ...o,
      progress: orderProgress.parse({ payments: [{ id: 'p', day: DAY, amount: 100, home: 1 }] }),
    };
    expect(nextDue(part, said)).toMatchObject({ kind: 'deposit', amount: 200 });
  });
  it('lines add up to the total on whatever order', () => {
    const anyLine = fc.record({
      units: fc.double({ min: 0.01, max: 1e5, noNaN: true }),
      unitPrice: fc.double({ min: 0, max: 1e4, noNaN: true }),
      vat: fc.constantFrom('none' as const, 'included' as const, 'added' as const),
      vatRate: fc.double({ min: 0, max: 0.3, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(anyLine, { maxLength: 12 }),
        fc.constantFrom('EUR', 'JPY', 'KWD'),
        (all, currency) => {
          const t = terms({
            currency,
            lines: all.map(({ unitPrice, ...l }, i) =>
              line({ ...l, id: `${i}`, priceBreaks: [{ minQty: 0, unitPrice }] }),
            ),
          });
          const said = orderSaid(t, DAY);
          const sum = said.lines.reduce((s, l) => s + (l.amount?.gross ?? Number.NaN), 0);
          expect(said.total).toBeCloseTo(sum, 3);
          expect(said.goods + said.vat).toBeCloseTo(said.total, 3);
          expect(said.due.reduce((s, d) => s + d.amount, 0)).toBeCloseTo(said.total, 3);
        },
      ),
    );
  });
});

describe('one purse for all orders', () => {
  const exchange = { date: DAY, base: 'EUR', rates: { USD: 1.25 } };
  const frame = { exchange, home: 'EUR', today: DAY };
  it('what is sent is promised until it is paid; drafts and what was cancelled are not', () => {
    const paid = orderProgress.parse({ payments: [{ id: 'p', day: DAY, amount: 400, home: 400 }] });
    const all = [
      order({ state: 'draft' }),
      order({ number: 2, state: 'sent', progress: paid }),
      order({ number: 3, state: 'confirmed', terms: terms({ currency: 'USD' }) }),
      order({ number: 4, state: 'cancelled' }),
      order({ number: 5, state: 'closed' }),
    ];
    expect(ordersPurse(all, { cash: 3000, reserve: 500 }, frame)).toEqual({
      toSpend: 2500,
      promised: 600 + 800,
      lacking: [],
      noRate: [],
      left: 1100,
    });
  });
  it('what lacks something, and what no rate turns, is named; no cash is no 0', () => {
    const all = [
      order({ state: 'sent', terms: terms({ delivery: null }) }),
      order({ number: 2, state: 'sent', terms: terms({ currency: 'GBP' }) }),
    ];
    expect(ordersPurse(all, { cash: null, reserve: 0 }, frame)).toMatchObject({
      toSpend: null,
      left: null,
      promised: 1000,
      lacking: [1],
      noRate: [2],
    });
  });
});

describe('the way of an order', () => {
  it('what was sent is never a draft again, whichever way it went', () => {
    for (const [from, ways] of Object.entries(ORDER_WAYS))
      if (from !== 'draft') expect(ways).not.toContain('draft');
    const step = (state: Order['state']) => ({ state, at: DAY, by: 'me', note: '' });
    const past = (...states: Order['state'][]) => ({
      progress: orderProgress.parse({ steps: states.map(step) }),
    });
    expect(stateBefore(past('draft', 'sent', 'confirmed'))).toBe('sent');
    expect(stateBefore(past('draft', 'sent'))).toBeNull();
    expect(stateBefore(past())).toBeNull();
  });
  it('goods come in parts, with damage and differences', () => {
    const receipts = [
      { id: '1', day: DAY, lines: [{ line: 'a', units: 40, damaged: 2 }], note: '' },
      { id: '2', day: DAY, lines: [{ line: 'a', units: 50, damaged: 0 }], note: '' },
    ];
    const progress = orderProgress.parse({ receipts });
    expect(arrivedOf(line(), progress)).toEqual({ ordered: 100, good: 90, damaged: 2, open: 8 });
    expect(isAllHere({ terms: terms(), progress })).toBe(false);
    const more = orderProgress.parse({
      receipts: [...receipts, { id: '3', day: DAY, lines: [{ line: 'a', units: 12 }] }],
    });
    expect(arrivedOf(line(), more).open).toBe(-4);
    expect(isAllHere({ terms: terms(), progress: more })).toBe(true);
    expect(arrivedOf(line({ units: null }), progress).open).toBeNull();
    expect(isAllHere({ terms: terms({ lines: [line({ units: null })] }), progress: more })).toBe(false);
  });
});

describe('goods as lines of orders', () => {
  const quote = (over: object = {}) =>
    quoteSchema.parse({
      kind: 'quote',
      supplier: 'Brackwater',
      currency: 'USD',
      priceBreaks: CHEAPER_FROM_300,
      extras: [{ name: 'Box', amount: 0.5 }],
      perOrder: [{ name: 'Inspection', amount: 80 }],
      leadDays: 20,
      depositShare: 0.3,
      ...over,
    });
  let n = 0;
  const newId = (): string => `id${n++}`;
  const lane = (components: object[], over: object = {}) => ({
    id: 'lane',
    data: storedLane.parse({ country: 'DE', currency: 'EUR', orderQuantity: 101, components, ...over }),
  });
  const candidate = { id: 'c', data: { name: 'Lantern', gtin: '9520000010010' } };

  it('at the lane’s quantity in bought units, the price with what is packed around each', () => {
    const [only, ...more] = linesOfLane(
      candidate,
      lane([{ quoteId: 'q', unitsInSoldPack: 2, unitsInBoughtPack: 4 }]),
      { q: quote({ minimumOrder: 10, carton: { units: 6, volumeM3: null, kg: null } }) },
      newId,
    );
    expect(more).toEqual([]);
    // 101 sold packs of 2 out of bought packs of 4: 50.5, so 51.
    expect(only?.line).toMatchObject({
      name: 'Lantern',
      gtin: '9520000010010',
      units: 51,
      minimumOrder: 10,
      carton: 6,
      quoteId: 'q',
      laneId: 'lane',
      candidateId: 'c',
    });
    expect(only?.line.priceBreaks.map((b) => b.unitPrice)).toEqual([10.5, 8.5]);
  });
  it('an extra that is not known leaves the price open', () => {
    const l = lineFrom(quote({ extras: [{ name: 'Print', amount: null }] }), 10, {
      id: 'a',
      name: 'Lantern',
    });
    expect(l.line.priceBreaks.map((b) => b.unitPrice)).toEqual([null, null]);
    expect(lineFrom(quote(), null, { id: 'a', name: 'x' }).line.units).toBeNull();
  });
  it('a shop’s shelf has one price, paid at once; a lane whose source is gone asks for nothing', () => {
    const shop = retailPurchase.parse({
      kind: 'retail',
      supplier: 'Corner shop',
      currency: 'EUR',
      shelfPrice: 7,
    });
    expect(lineFrom(shop, 3, { id: 'a', name: 'Lantern' })).toMatchObject({
      depositShare: 1,
      line: { priceBreaks: [{ minQty: 0, unitPrice: 7 }], units: 3 },
    });
    const off = (discounts: object[]): number | null | undefined =>
      lineFrom(retailPurchase.parse({ ...shop, discounts }), 3, { id: 'a', name: 'Lantern' }).line
        .priceBreaks[0]?.unitPrice;
    // A tenth off 7 is 6.30; a coupon of 1 over two units another half; what is not filled in leaves it open.
    expect(off([{ kind: 'percent', share: 0.1 }])).toBe(6.3);
    expect(
      off([
        { kind: 'percent', share: 0.1 },
        { kind: 'coupon', amount: 1, covers: 2 },
      ]),
    ).toBe(5.8);
    expect(off([{ kind: 'percent', share: 0.123 }])).toBe(6.14);
    expect(off([{ kind: 'percent', share: null }])).toBeNull();
    expect(linesOfLane(candidate, lane([{ quoteId: 'gone' }]), {}, newId)).toEqual([]);
    expect(boughtFor(null, { unitsInSoldPack: 1, unitsInBoughtPack: 1 })).toBeNull();
  });
  it('parts of a bundle are named, and its barcode is none of theirs', () => {
    const lines = linesOfLane(
      candidate,
      lane([{ quoteId: 'q', name: 'Base' }, { quoteId: 'r' }]),
      { q: quote(), r: quote({ supplier: 'Ember' }) },
      newId,
    );
    expect(lines.map((l) => [l.line.name, l.line.gtin])).toEqual([
      ['Lantern: Base', null],
      ['Lantern', null],
    ]);
  });
  it('one order for each supplier and currency; terms that quotes do not agree on stay open', () => {
    const from = (over: object) => lineFrom(quote(over), 10, { id: newId(), name: 'Lantern' });
    const orders = ordersOf([
      from({}),
      from({ supplier: ' brackwater ', leadDays: 35, depositShare: 0.5, incoterm: 'FOB' }),
      from({ currency: 'EUR' }),
      from({ supplier: 'Ember', leadDays: null }),
    ]);
    expect(orders.map((o) => [o.supplier, o.currency, o.lines.length])).toEqual([
      ['Brackwater', 'USD', 2],
      ['Brackwater', 'EUR', 1],
      ['Ember', 'USD', 1],
    ]);
    expect(orders[0]).toMatchObject({ leadDays: 35, depositShare: null, incoterm: '' });
    expect(orders[0]?.charges).toEqual([{ name: 'Inspection', amount: 80 }]);
    expect(orders[2]).toMatchObject({ leadDays: null, depositShare: 0.3, incoterm: 'EXW' });
    expect(ordersOf([])).toEqual([]);
  });
});

describe('an agreed order in the launch over time', () => {
  const doc = lantern();
  const plan = {
    format: 'bold-margin/cash-plan' as const,
    version: 1 as const,
    ...cashTerms.parse({ start: '2026-12-01', horizon: 200 }),
    start: '2026-12-01',
    launch: launchPlan.parse({ cash: 500 }),
  };
  const lane = { id: 'lane', data: { components: [{ quoteId: 'q' }] } };
  const agreed = (over: Partial<Order> = {}, own: Partial<OrderLine> = {}) =>
    order({
      number: 7,
      state: 'confirmed',
      terms: terms({
        placedOn: '2026-11-20',
        leadDays: 10,
        depositShare: 0.5,
        lines: [line({ laneId: 'lane', quoteId: 'q', confirmed: { units: 40, unitPrice: 6 }, ...own })],
      }),
      ...over,
    });
  it('its quantity, price, terms and day stand where those of the plan stood', () => {
    const with7 = withAgreedOf([agreed()], lane, doc, plan);
    expect(with7.agreed).toMatchObject({ order: 7, units: 40, unitPrice: 6 });
    expect(with7.plan).toMatchObject({ start: '2026-11-20', launch: { cash: 500 } });
    expect(with7.doc.orderQuantity).toBe(40);
    expect(evaluate(with7.doc).lines.goods).toBe(6);
    const said = cashOf(with7.doc, with7.plan);
    // Half of 240 on the day of the order.
    expect(said.known && said.cases.expected.run.cumulated[0]).toBe(-120);
  });
  it('what has been paid already was in the account when the run begins', () => {
    const paid = orderProgress.parse({ payments: [{ id: 'p', day: DAY, amount: 120, home: 118 }] });
    expect(withAgreedOf([agreed({ progress: paid })], lane, doc, plan).plan.launch.cash).toBe(618);
    const unknown = { ...plan, launch: { ...plan.launch, cash: null } };
    expect(withAgreedOf([agreed({ progress: paid })], lane, doc, unknown).plan.launch.cash).toBeNull();
  });
  it('nothing changes where no order is agreed, or it is not about this lane, or not known', () => {
    const same = { doc, plan, agreed: null };
    for (const orders of [
      [],
      [agreed({ state: 'sent' })],
      [agreed({}, { laneId: 'other' })],
      [agreed({}, { quoteId: 'other' })],
      [agreed({}, { confirmed: null, units: null })],
      [agreed({}, { confirmed: { units: 0, unitPrice: 6 } })],
    ])
      expect(withAgreedOf(orders, lane, doc, plan)).toEqual(same);
    const bundle = { id: 'lane', data: { components: [{ quoteId: 'q' }, { quoteId: 'r' }] } };
    expect(withAgreedOf([agreed()], bundle, doc, plan)).toEqual(same);
  });
  it('the earliest of several; goods that no supplier quoted stay as they are', () => {
    const later = agreed({ number: 9 }, { confirmed: { units: 70, unitPrice: 5 } });
    expect(withAgreedOf([later, agreed()], lane, doc, plan).agreed?.order).toBe(7);
    const none = { ...doc, goods: 'none' as const };
    expect(withAgreedOf([agreed()], lane, none, plan).doc).toBe(none);
  });
});

describe('what a change of an order may hold', () => {
  it('a line without a name, or two with a price that falls back, is refused with its place', () => {
    const said = orderChange.safeParse({ lines: { a: { ...line(), name: ' ' } } });
    expect(said.success).toBe(false);
    const breaks = [
      { minQty: 5, unitPrice: 1 },
      { minQty: 5, unitPrice: 2 },
    ];
    expect(orderChange.safeParse({ lines: { a: { ...line(), priceBreaks: breaks } } }).success).toBe(false);
    expect(orderChange.safeParse({ terms: { mail: 'a@b.example\nBcc: all' } }).success).toBe(false);
    expect(orderChange.safeParse({ terms: { lines: [] } }).success).toBe(false);
    expect(orderChange.parse({ lines: { a: null }, terms: { note: 'x' } })).toEqual({
      lines: { a: null },
      terms: { note: 'x' },
    });
  });
});
