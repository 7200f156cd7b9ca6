/** A lane on sale and settlement lines for tests, read by a map as files are. */
import { SettlementReader } from '../actuals/read.ts';
import { SETTLED_KINDS, settlementMap, STEPS } from '../actuals/schema.ts';
import type { SettledKind, SettledLine, SettlementMap } from '../actuals/schema.ts';
import { SummingUp } from '../actuals/sums.ts';
import type { SettledSums } from '../actuals/sums.ts';
import { isFault } from '../fault.ts';
import { evaluate } from '../lane/evaluate.ts';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { marketplaceCardOf, taxCardOf } from './documents.ts';

export const PLACE = { marketplace: 'Alderway', country: 'DE', currency: 'EUR' };
export const HEADER = ['No', 'Date', 'Order', 'Item', 'What', 'Amount', 'Tax', 'Qty', 'Currency', 'Country'];
export const mapOf = (over: object = {}): SettlementMap =>
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
export type Said = Partial<
  Record<'no' | 'date' | 'order' | 'item' | 'what' | 'amount' | 'tax' | 'qty' | 'cur' | 'land', string>
>;
export const raw = (s: Said): string[] => [
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
export const readerOf = (over: object = {}): SettlementReader =>
  new SettlementReader(mapOf(over), HEADER, PLACE, '2026-11-30');
export const readAll = (rows: readonly Said[], over: object = {}) => {
  const reader = readerOf(over);
  const out = rows.map((s, i) => reader.read(raw(s), i + 2));
  return {
    totals: reader.totals,
    faults: out.map((x) => (isFault(x) ? x.code : null)),
    lines: out.flatMap((x) => (isFault(x) ? [] : x)),
  };
};
export const sumsOf = (lines: readonly SettledLine[]): SettledSums => {
  const summing = new SummingUp();
  for (const l of lines) summing.add(l);
  return summing.sums();
};

/** A lane as it stood when it went on sale. */
export const BASE: LaneDocument = laneDocument.parse({
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
export function asPlanned(doc: LaneDocument, units: number, price = doc.price as number): Said[] {
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
