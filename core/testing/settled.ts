/** Settlement lines for tests, read by a map as files are. */
import { SettlementReader } from '../actuals/read.ts';
import { SETTLED_KINDS, settlementMap } from '../actuals/schema.ts';
import type { SettledLine, SettlementMap } from '../actuals/schema.ts';
import { SummingUp } from '../actuals/sums.ts';
import type { SettledSums } from '../actuals/sums.ts';
import { isFault } from '../fault.ts';

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
