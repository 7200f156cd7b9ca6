/** Settlement lines read, added up and held against the plan. */
import { describe, expect, it } from 'vitest';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { evaluate } from '../lane/evaluate.ts';
import { Draw } from '../testing/draw.ts';
import { RUN_SEED } from '../testing/seed.ts';
import { marketplaceCardOf, taxCardOf } from '../testing/documents.ts';
import { ACTUAL_LINES } from './actual.ts';
import { compare, mixOf, plannedOf, standsAt, unitsPlanned } from './compare.ts';
import { countedOnce } from './once.ts';
import { isFault, SettlementReader, settlementMapIssues } from './read.ts';
import { SETTLED_KINDS, settlementMap, STEPS } from './schema.ts';
import type { SettledKind, SettledLine, SettlementMap } from './schema.ts';
import { addKinds, kindsOfCodes, kindsSettled, sharedOut, shareOut, SummingUp } from './sums.ts';
import type { SettledSums } from './sums.ts';

const PLACE = { marketplace: 'Alderway', country: 'DE', currency: 'EUR' };
const HEADER = ['No', 'Date', 'Order', 'Item', 'What', 'Amount', 'Tax', 'Qty', 'Currency', 'Country'];
const mapOf = (over: object = {}): SettlementMap =>
  settlementMap.parse({
    columns: {
      line: 'No',
      day: 'Date',
      order: 'Order',
      code: 'Item',
      kind: 'What',
      tax: 'Tax',
      units: 'Qty',
      currency: 'Currency',
      country: 'Country',
    },
    amounts: [{ column: 'Amount' }],
    kinds: Object.fromEntries(SETTLED_KINDS.map((k) => [k.toLowerCase(), k])),
    ...over,
  });
type Said = Partial<
  Record<'no' | 'date' | 'order' | 'item' | 'what' | 'amount' | 'tax' | 'qty' | 'cur' | 'land', string>
>;
const raw = (s: Said): string[] => [
  s.no ?? '',
  s.date ?? '2026-10-05',
  s.order ?? '',
  s.item ?? 'A',
  s.what ?? 'sale',
  s.amount ?? '24.00',
  s.tax ?? '',
  s.qty ?? '',
  s.cur ?? '',
  s.land ?? '',
];
const readerOf = (over: object = {}): SettlementReader =>
  new SettlementReader(mapOf(over), HEADER, PLACE, '2026-11-30');
const readAll = (rows: readonly Said[], over: object = {}) => {
  const reader = readerOf(over);
  const out = rows.map((s, i) => reader.read(raw(s), i + 2));
  return {
    totals: reader.totals,
    faults: out.map((x) => (isFault(x) ? x.code : null)),
    lines: out.flatMap((x) => (isFault(x) ? [] : x)),
  };
};
const sumsOf = (lines: readonly SettledLine[]): SettledSums => {
  const summing = new SummingUp();
  for (const l of lines) summing.add(l);
  return summing.sums();
};

describe('a settlement line', () => {
  it('is read with its kind, day, order, code, units and tax, in ten-thousandths', () => {
    const { lines, totals } = readAll([
      { no: '7', order: 'O1', what: ' Sale ', amount: '24.05', tax: '3.84', qty: '2' },
      { no: '8', order: 'O1', what: 'referral', amount: '-3.6075' },
    ]);
    expect(lines[0]).toMatchObject({
      kind: 'sale',
      amount: 240_500,
      tax: 38_400,
      units: 2,
      code: 'A',
      day: '2026-10-05',
    });
    expect(lines[1]).toMatchObject({ kind: 'referral', amount: -36_075, tax: null, units: 0 });
    expect(totals).toMatchObject({
      rows: 2,
      lines: 2,
      amount: 204_425,
      first: '2026-10-05',
      last: '2026-10-05',
    });
  });
  it('whose kind nobody has said waits, with what it comes to, and is not counted', () => {
    const { lines, totals } = readAll([{ what: 'Levy', amount: '-5' }, { what: 'LEVY ', amount: '-2' }, {}]);
    expect(lines.map((l) => l.kind)).toEqual([null, null, 'sale']);
    expect([...totals.waiting]).toEqual([['levy', { lines: 2, amount: -70_000 }]]);
    expect(totals.amount).toBe(240_000);
    expect([...(sumsOf(lines).get('A')?.keys() ?? [])]).toEqual(['2026-10']);
  });
  it.each<[string, Said, object]>([
    ['settledBlank', { date: '' }, {}],
    ['settledDay', { date: '31/13/2026' }, {}],
    ['settledDay', { date: '10/31/2026' }, {}],
    ['settledOutside', { date: '1961-01-01' }, {}],
    ['settledFuture', { date: '2027-01-01' }, {}],
    ['settledNothing', { amount: '' }, {}],
    ['settledNumber', { amount: 'twelve' }, {}],
    ['settledNumber', { tax: 'some' }, {}],
    ['settledTooLarge', { amount: '99999999999' }, {}],
    ['settledUnits', { qty: '1.5' }, {}],
    ['settledUnits', { qty: '9999999' }, {}],
    ['settledNegativeUnits', { qty: '-1' }, {}],
    ['settledTax', { amount: '4', tax: '5' }, {}],
    ['settledCurrency', { cur: 'PLN' }, {}],
    ['settledCountry', { land: 'fr' }, {}],
  ])('that cannot count says why: %s %o', (code, said, over) => {
    const { faults, totals } = readAll([said], over);
    expect(faults).toEqual([code]);
    expect([totals.lines, totals.refusedRows]).toEqual([0, 1]);
  });
  it('of a day written the other way round is read as the map says', () => {
    expect(readAll([{ date: '10/05/2026' }]).lines[0]?.day).toBe('2026-05-10');
    expect(readAll([{ date: '10/05/2026' }], { days: 'monthFirst' }).lines[0]?.day).toBe('2026-10-05');
  });
  it('a number that stands twice counts once; without numbers equal lines of one file are several', () => {
    expect(readAll([{ no: '1' }, { no: '1' }]).faults).toEqual([null, 'settledTwice']);
    const { lines } = readAll([{}, {}]);
    expect(new Set(lines.map((l) => l.key)).size).toBe(2);
  });
  it('amounts without a sign get that of their kind; tax beside an amount is added to it', () => {
    const bare = readAll(
      [
        {},
        { what: 'referral', amount: '3' },
        { what: 'refund', amount: '24' },
        { what: 'reimbursement', amount: '9' },
      ],
      { signs: 'bare' },
    );
    expect(bare.lines.map((l) => l.amount / STEPS)).toEqual([24, -3, -24, 9]);
    const beside = readAll(
      [
        { amount: '20', tax: '4' },
        { what: 'referral', amount: '-3', tax: '0.6' },
      ],
      { tax: 'beside' },
    );
    expect(beside.lines.map((l) => [l.amount / STEPS, (l.tax ?? 0) / STEPS])).toEqual([
      [24, 4],
      [-3.6, -0.6],
    ]);
  });
  it('a row with a column for each amount is several lines; the units are those of what was sold', () => {
    const map = settlementMap.parse({
      columns: { day: 'D', code: 'C', units: 'U' },
      amounts: [
        { column: 'Sold', kind: 'sale' },
        { column: 'Fee', kind: 'referral' },
        { column: 'Box', kind: 'fulfilment' },
      ],
    });
    const header = ['D', 'C', 'U', 'Sold', 'Fee', 'Box'];
    expect(settlementMapIssues(map, header)).toEqual([]);
    const reader = new SettlementReader(map, header, PLACE, '2026-11-30');
    const lines = reader.read(['2026-10-05', 'A', '2', '48', '-7.20', ''], 2) as SettledLine[];
    expect(lines.map((l) => [l.kind, l.units])).toEqual([
      ['sale', 2],
      ['referral', 2],
    ]);
    expect(reader.read(['', '', '', '', '', ''], 3)).toEqual([]);
  });
  it('a map that names no day, no kind or a column that is not there says so', () => {
    const map = settlementMap.parse({ columns: {}, amounts: [{ column: 'Betrag' }] });
    expect(settlementMapIssues(map, ['Amount']).map((f) => f.code)).toEqual([
      'settledColumnMissing',
      'settledColumnMissing',
      'settledNoColumn',
    ]);
    expect(settlementMap.safeParse({ columns: {}, amounts: [] }).success).toBe(false);
  });
});

describe('several files', () => {
  it('that overlap count each line once; a later report corrects an earlier one', () => {
    const one = readAll([{ no: '1' }, { no: '2', amount: '10' }]).lines;
    const two = readAll([
      { no: '2', amount: '12' },
      { no: '3', date: '2026-11-02' },
    ]).lines;
    const once = countedOnce([one, two, two]);
    expect(once.lines.reduce((s, l) => s + l.amount, 0) / STEPS).toBe(24 + 12 + 24);
    expect([once.twice, once.corrected, once.first, once.last]).toEqual([3, 1, '2026-10-05', '2026-11-02']);
  });
  it('without numbers count equal lines as often as the file that has most of them', () => {
    const one = readAll([{}, {}]).lines;
    const two = readAll([{}, {}, {}]).lines;
    expect(countedOnce([one, two]).lines).toHaveLength(3);
  });
});

describe('sums', () => {
  it('are by code, month and kind; a charge that comes back with a refund of its order is known as such', () => {
    const { lines } = readAll([
      { no: '1', order: 'O1' },
      { no: '2', order: 'O1', what: 'referral', amount: '-3.60' },
      { no: '3', order: 'O1', what: 'referral', amount: '3.60' },
      { no: '4', order: 'O1', what: 'refund', amount: '-24' },
      { no: '5', order: 'O2', what: 'referral', amount: '1.00' },
      { no: '6', order: 'O1', what: 'vat', amount: '-4' },
      { no: '7', order: 'O2', date: '2026-11-01', what: 'vat', amount: '4' },
    ]);
    const sums = sumsOf(lines);
    const october = sums.get('A')?.get('2026-10');
    expect(october?.referral).toEqual({ amount: 10_000, back: 36_000, tax: null, units: 0, lines: 3 });
    expect(october?.refund?.units).toBe(1);
    expect(october?.vat?.back).toBe(-40_000);
    expect(sums.get('A')?.get('2026-11')?.vat?.back).toBe(0);
    expect([...kindsSettled(sums)].sort()).toEqual(['referral', 'refund', 'sale', 'vat']);
    expect(kindsOfCodes(sums, ['A'], '2026-11').vat?.lines).toBe(1);
    expect(kindsOfCodes(sums, ['A'], null, '2026-10').vat?.lines).toBe(1);
    expect(addKinds([kindsOfCodes(sums, ['A']), {}]).vat?.lines).toBe(2);
  });
  it('what is of no product is shared out by what each sold, to the last step; without sales it is left', () => {
    const { lines } = readAll([
      { no: '1', item: 'A', amount: '30' },
      { no: '2', item: 'B', amount: '60' },
      { no: '3', item: '', what: 'adverts', amount: '-10', tax: '-1' },
      { no: '4', item: '', what: 'transfer', amount: '-70' },
      { no: '5', item: '', what: 'reimbursement', amount: '2' },
      { no: '6', item: '', what: 'subscription', amount: '-39', date: '2026-09-01' },
    ]);
    const { by, left } = sharedOut(sumsOf(lines));
    const of = (code: string) => by.get(code)?.get('2026-10')?.adverts;
    expect([of('A')?.amount, of('B')?.amount]).toEqual([-33_333, -66_667]);
    expect((of('A')?.tax ?? 0) + (of('B')?.tax ?? 0)).toBe(-10_000);
    expect(left.get('2026-09')?.subscription?.amount).toBe(-390_000);
    expect(left.get('2026-10')?.reimbursement?.amount).toBe(20_000);
    expect(left.get('2026-10')?.transfer).toBeUndefined();
  });
  it('parts of any whole add up to it', () => {
    const d = new Draw(RUN_SEED);
    for (let i = 0; i < 500; i++) {
      const weights = Array.from({ length: d.int(1, 9) }, () => (d.chance(0.2) ? 0 : d.int(1, 1000)));
      const total = d.int(-100_000, 100_000);
      const parts = shareOut(total, weights);
      if (weights.every((w) => w === 0)) expect(parts).toBeNull();
      else {
        expect(parts?.reduce((s, p) => s + p, 0)).toBe(total);
        for (const [k, w] of weights.entries()) if (w === 0) expect(parts?.[k]).toBe(0);
      }
    }
  });
});

const BASE: LaneDocument = laneDocument.parse({
  format: 'bold-margin/lane',
  version: 1,
  date: '2026-09-01',
  homeCurrency: 'EUR',
  country: 'DE',
  currency: 'EUR',
  price: 24,
  standing: { kind: 'registered' },
  goods: [
    {
      source: {
        kind: 'quote',
        currency: 'EUR',
        priceBreaks: [{ minQty: 0, unitPrice: 5 }],
        vat: 'added',
        vatRate: 0.2,
      },
    },
  ],
  orderQuantity: 100,
  route: 'none',
  prep: 'none',
  method: 'warehouse',
  storage: 'card',
  returns: { rate: 0.05, resaleShare: 0.5, handling: { amount: 1, currency: 'EUR' } },
  adverts: { keywords: [{ low: 0.4, high: 0.6, conversionRate: 0.1 }], adShare: 0.4 },
  demand: { kind: 'typed', units: 100 },
  product: { sides: [20, 10, 10], kg: 0.5, category: 'any' },
  rates: {
    tax: taxCardOf('inclusive', 0.2),
    marketplace: {
      ...marketplaceCardOf([{ upTo: null, pct: 0.15 }]),
      refund: { adminPct: 0.2, adminMax: 5 },
      warehouse: {
        tiers: [{ name: 'one', bands: [{ upToPrice: null, table: { steps: [{ upToKg: 2, fee: 3.1 }] } }] }],
      },
      storage: { perM3Month: new Array(12).fill(20) },
    },
  },
});
/** What a marketplace would settle of so many units at a price if all went by the lane's own rates. */
function asPlanned(doc: LaneDocument, units: number, price = doc.price as number): Said[] {
  const { lines } = evaluate({ ...doc, price });
  const fee = (what: SettledKind, x: number | null): Said => ({
    what,
    amount: String(-Math.round(units * (x ?? 0) * STEPS) / STEPS),
  });
  return [
    { what: 'sale', amount: String(units * price), qty: String(units) },
    fee('referral', lines.referral),
    fee('fulfilment', lines.fulfilment),
    fee('storage', lines.storage),
    fee('adverts', lines.adverts),
  ];
}
const settledOf = (rows: readonly Said[]) => {
  const sums = sumsOf(readAll(rows).lines);
  return {
    own: kindsOfCodes(sums, ['A']),
    shared: kindsOfCodes(sharedOut(sums).by, ['A']),
    kinds: kindsSettled(sums),
  };
};
const lineOf = (c: ReturnType<typeof compare>, line: string) => c.lines.find((l) => l.line === line);

describe('plan against actual', () => {
  it('where all goes as planned no part is anything, and what no report says stands as planned', () => {
    const c = compare(BASE, settledOf(asPlanned(BASE, 100)), 100);
    expect(c.parts).toEqual({ leavesOut: [], difference: 0, volume: 0, price: 0, rate: 0 });
    expect(c.unitProfit).toBeCloseTo(c.planned.unitProfit as number, 3);
    expect(lineOf(c, 'goods')).toMatchObject({ from: 'asPlanned', actual: 5, rate: 0 });
    expect(lineOf(c, 'referral')).toMatchObject({ from: 'settled', actual: 3.6, planned: 3.6 });
    expect(lineOf(c, 'outputVat')?.from).toBe('reckoned');
    expect(lineOf(c, 'outputVat')?.actual).toBeCloseTo(4, 9);
    expect(lineOf(c, 'returns')?.from).toBe('asPlanned');
    expect(standsAt(c)).toEqual({ standing: 'asPlanned', because: null, amount: null });
  });
  it('more units at another price, and a dearer fee, are told apart', () => {
    const rows = asPlanned(BASE, 120, 22).map((s) =>
      s.what === 'fulfilment' ? { ...s, amount: '-492' } : s,
    );
    const c = compare(BASE, settledOf(rows), 100);
    const up = plannedOf(BASE, 100).unitProfit as number;
    expect(c.actual.price).toBe(22);
    expect(c.parts?.volume).toBeCloseTo(20 * up, 2);
    const at22 = evaluate({ ...BASE, price: 22 }).figures.unitProfit as number;
    expect(c.parts?.price).toBeCloseTo(120 * (at22 - up), 2);
    expect(lineOf(c, 'fulfilment')?.rate).toBe(-120);
    expect(c.parts?.rate).toBe(-120);
    expect(standsAt(c)).toMatchObject({ standing: 'paysLess', because: 'price' });
  });
  it('a refund gives back revenue and fees, keeps its fee, and half of what came back is worth its cost', () => {
    const rows: Said[] = [
      ...asPlanned(BASE, 100),
      { what: 'refund', order: 'O9', amount: '-24' },
      { what: 'referral', order: 'O9', amount: '3.6' },
      { what: 'refundFee', order: 'O9', amount: '-0.72' },
    ];
    const c = compare(BASE, settledOf(rows), 100);
    // 20 net less 3.60 back, the fee, handling of 1, half a unit of 5 back on the shelf.
    expect(lineOf(c, 'returns')?.actual).toBeCloseTo((20 - 3.6 + 0.72 + 1 - 2.5) / 100, 9);
    expect(lineOf(c, 'referral')?.actual).toBeCloseTo(3.6, 9);
    expect(c.actual.returned).toBe(1);
  });
  it('a refund before its sale counts in its month by the VAT of the lane', () => {
    const c = compare(BASE, settledOf([{ what: 'refund', amount: '-24' }]), 0);
    expect(c.actual).toMatchObject({ shipped: 0, returned: 1, price: null });
    expect(c.actual.lines.returns.amount).toBeCloseTo(20 + 1 - 2.5, 9);
    expect(c.unitProfit).toBeNull();
    expect(c.parts?.difference).toBeCloseTo(-(20 + 1 - 2.5), 2);
  });
  it('units that were lost cost what they cost to land, and what is paid for them comes in', () => {
    const rows: Said[] = [...asPlanned(BASE, 100), { what: 'reimbursement', amount: '18', qty: '2' }];
    const c = compare(BASE, settledOf(rows), 100);
    expect(c.actual.lost).toBe(2);
    expect(c.actual.lines.breakage.amount).toBeCloseTo(10, 9);
    expect(c.actual.lines.reimbursement.amount).toBe(-18);
    expect(c.parts?.difference).toBe(8);
  });
  it('VAT is that of the report where it says any: in a column, beside, or kept by the marketplace', () => {
    const column = compare(BASE, settledOf([{ amount: '24', tax: '4.5' }]), 1);
    expect(lineOf(column, 'outputVat')).toMatchObject({ from: 'settled', actual: 4.5 });
    const beside = compare(BASE, settledOf([{ amount: '20' }, { what: 'vat', amount: '4' }]), 1);
    expect([beside.actual.gross, beside.actual.lines.outputVat.amount]).toEqual([24, 4]);
    const kept = compare(BASE, settledOf([{ amount: '24' }, { what: 'vatWithheld', amount: '-4' }]), 1);
    expect([kept.actual.gross, kept.actual.lines.outputVat.amount]).toEqual([24, 4]);
    const back = compare(
      BASE,
      settledOf([
        { amount: '20' },
        { what: 'vat', amount: '4' },
        { what: 'refund', amount: '-20' },
        { what: 'vat', amount: '-4' },
      ]),
      1,
    );
    expect(back.actual.lines.outputVat.amount).toBe(4);
    expect(back.actual.lines.returns.amount).toBeCloseTo(20 + 1 - 2.5, 9);
  });
  it('where tax is added at checkout it is no part of the price', () => {
    const doc = laneDocument.parse({ ...BASE, rates: { ...BASE.rates, tax: taxCardOf('exclusive', 0) } });
    const c = compare(doc, settledOf([{ amount: '25.92', tax: '1.92' }]), 1);
    expect([c.actual.gross, c.actual.lines.outputVat.amount, c.actual.price]).toEqual([24, 0, 24]);
  });
  it('VAT on fees is a cost for one trader and comes back for another', () => {
    const rows: Said[] = [{}, { what: 'referral', amount: '-4.32', tax: '-0.72' }];
    const { lines } = compare(BASE, settledOf(rows), 1).actual;
    expect(lines.referral.amount).toBeCloseTo(3.6, 9);
    expect(lines.feeVat).toEqual({ amount: 0, from: 'settled' });
    const small = laneDocument.parse({ ...BASE, standing: { kind: 'notRegistered' } });
    expect(compare(small, settledOf(rows), 1).actual.lines.feeVat.amount).toBeCloseTo(0.72, 9);
  });
  it('a part of the account’s charges is marked as shared; what orders really cost stands in for the plan', () => {
    const settled = settledOf([
      ...asPlanned(BASE, 100).slice(0, 3),
      { what: 'adverts', item: '', amount: '-100' },
    ]);
    const c = compare(BASE, { ...settled, received: { goods: 5.5 } }, 100);
    expect(lineOf(c, 'adverts')).toMatchObject({ from: 'shared', actual: 1, rate: 100 });
    expect(lineOf(c, 'goods')).toMatchObject({ from: 'received', actual: 5.5, rate: -50 });
    expect(lineOf(c, 'storage')?.from).toBe('asPlanned');
  });
  it('a line unknown to the plan is left out on both sides and named; without VAT there are no parts', () => {
    const doc = laneDocument.parse({
      ...BASE,
      prep: null,
      typed: { fulfilmentFee: null },
      product: { category: 'any' },
    });
    const rows = asPlanned(BASE, 100, 22);
    const c = compare(doc, settledOf(rows), 100);
    expect(c.planned.lines).toMatchObject({ prep: null, fulfilment: null });
    expect(c.parts?.leavesOut).toEqual(expect.arrayContaining(['prep', 'fulfilment']));
    expect([lineOf(c, 'fulfilment')?.rate, lineOf(c, 'prep')?.rate]).toEqual([null, null]);
    expect(lineOf(c, 'fulfilment')?.actual).toBeCloseTo(3.1, 9);
    // What follows the price is the same whatever is left out.
    const whole = compare(BASE, settledOf(rows), 100);
    expect(c.parts?.price).toBeCloseTo(whole.parts?.price ?? Number.NaN, 1);
    expect([c.parts?.volume, c.planned.lacks]).toEqual([0, expect.arrayContaining(['prep'])]);
    expect(c.actual.lacks).toEqual(['prep']);
    expect(c.actual.profit).not.toBeNull();
    expect(standsAt(c)).toMatchObject({ standing: 'paysLess', because: 'price' });
    const nowhere = compare(
      laneDocument.parse({ ...BASE, standing: null }),
      settledOf(asPlanned(BASE, 1)),
      1,
    );
    expect([nowhere.actual.profit, nowhere.unitProfit, nowhere.parts]).toEqual([null, null, null]);
    expect(standsAt(nowhere).standing).toBe('open');
    const noPrice = compare(laneDocument.parse({ ...BASE, price: null }), settledOf(asPlanned(BASE, 1)), 1);
    expect([noPrice.parts, noPrice.actual.price]).toEqual([null, 24]);
  });
  it('says why a product loses', () => {
    const rows = asPlanned(BASE, 100).map((s) => (s.what === 'adverts' ? { ...s, amount: '-1500' } : s));
    const c = compare(BASE, settledOf(rows), 100);
    expect(standsAt(c)).toMatchObject({ standing: 'loses', because: 'adverts', amount: -1300 });
  });
  it('parts add up to the whole difference to the cent, whatever is settled', () => {
    const d = new Draw(RUN_SEED);
    const reached = new Set<string>();
    for (let i = 0; i < 400; i++) {
      const rows: Said[] = Array.from({ length: d.int(1, 40) }, () => {
        const what = d.pick(SETTLED_KINDS);
        const incoming = ['sale', 'delivery', 'vat', 'reimbursement'].includes(what) || d.chance(0.1);
        reached.add(what);
        return {
          what,
          order: `O${d.int(1, 9)}`,
          item: d.chance(0.85) ? 'A' : d.chance(0.5) ? 'B' : '',
          amount: String(((incoming ? 1 : -1) * d.int(0, 100_000)) / 1000),
          qty: d.chance(0.5) ? '' : String(d.int(0, 4)),
          date: `2026-${d.pick(['09', '10', '11'])}-05`,
        };
      });
      const unitsOfPlan = d.int(0, 200);
      const c = compare(BASE, settledOf(rows), unitsOfPlan);
      const { parts, actual, planned } = c;
      expect(parts).not.toBeNull();
      if (parts === null) continue;
      const whole = (actual.profit as number) - unitsOfPlan * (planned.unitProfit as number);
      expect(Math.abs(parts.difference - whole)).toBeLessThan(0.00501);
      const cents = (x: number): number => Math.round(x * 100);
      expect(cents(parts.volume) + cents(parts.price) + cents(parts.rate)).toBe(cents(parts.difference));
      expect(c.lines.reduce((s, l) => s + cents(l.rate ?? 0), 0)).toBe(cents(parts.rate));
      const spent = ACTUAL_LINES.reduce((s, l) => s + (actual.lines[l].amount as number), 0);
      expect(actual.gross - spent).toBeCloseTo(actual.profit as number, 6);
      reached.add(standsAt(c).standing);
    }
    expect([...reached].sort()).toEqual(expect.arrayContaining([...SETTLED_KINDS, 'loses']));
  });
});

describe('units of the plan', () => {
  it('follow ramp and season from the first day on sale', () => {
    const month = unitsPlanned(304.375, null, [1], '2026-10-01', '2026-10-01', '2026-10-31');
    expect(month).toBeCloseTo(310, 9);
    expect(unitsPlanned(304.375, null, [1], '2026-10-11', '2026-10-01', '2026-10-20')).toBeCloseTo(100, 9);
    expect(unitsPlanned(304.375, null, [0.5, 1], '2026-09-01', '2026-09-01', '2026-10-10')).toBeCloseTo(
      31 * 5 + 9 * 10,
      9,
    );
    const season = [1, 1, 1, 1, 1, 1, 1, 1, 1, 3, 0, 0];
    expect(unitsPlanned(304.375, season, [1], '2026-10-01', '2026-10-01', '2026-10-02')).toBeCloseTo(60, 9);
    expect(unitsPlanned(null, null, [1], '2026-10-01', '2026-10-01', '2026-10-02')).toBeNull();
    expect(unitsPlanned(100, null, [1], '2026-12-01', '2026-10-01', '2026-10-02')).toBe(0);
  });
});

it('of several lanes, what the ones that pay more sold beyond plan is the mix', () => {
  const dear = laneDocument.parse({ ...BASE, price: 34 });
  const [a, b] = [
    compare(BASE, settledOf(asPlanned(BASE, 50)), 100),
    compare(dear, settledOf(asPlanned(dear, 150)), 100),
  ];
  const said = mixOf([a, b]);
  const [ua, ub] = [a.planned.unitProfit as number, b.planned.unitProfit as number];
  expect(said?.volume).toBe(0);
  expect(said?.mix).toBeCloseTo(50 * (ub - ua), 1);
  expect(mixOf([])).toBeNull();
});
