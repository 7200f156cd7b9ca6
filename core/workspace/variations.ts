/** Sizes, colours, packs of one product: each with what differs from it. */
import { z } from 'zod';
import { readCell } from '../cards/cells.ts';
import type { Cell, Column } from '../cards/cells.ts';
import { isFault } from '../fault.ts';
import { evaluate } from '../lane/evaluate.ts';
import type { LaneResult } from '../lane/result.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { nonNegative, orBlank, positive, share, shortText } from '../money/schema.ts';
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';

/** What is blank is as the product itself. Prices in the lane's sales currency, costs in that of its quote. */
export const variation = z.strictObject({
  name: shortText,
  price: orBlank(nonNegative),
  cost: orBlank(nonNegative).meta({
    description: 'Unit price (or shelf price) in the currency of the quote',
  }),
  delivery: orBlank(nonNegative).meta({
    description: 'Delivery of the source, per bought unit, in the currency of the quote',
  }),
  kg: orBlank(positive),
  shareOfSales: orBlank(share),
  stock: orBlank(nonNegative).meta({ description: 'Units the source has left' }),
});
export type Variation = z.output<typeof variation>;

export const VARIATION_COLUMNS: readonly Column[] = [
  { key: 'name', kind: 'text' },
  { key: 'price', kind: 'number' },
  { key: 'cost', kind: 'number' },
  { key: 'delivery', kind: 'number' },
  { key: 'kg', kind: 'number', aboveZero: true },
  { key: 'shareOfSales', kind: 'share' },
  { key: 'stock', kind: 'number' },
];

/** Variations as rows of cells, and back; wrong cells are said, blank rows skipped. */
export function variationCells(list: readonly Variation[]): Cell[][] {
  const text = (x: number | null): string => (x === null ? '' : String(x));
  return list.map((v) => [
    v.name,
    text(v.price),
    text(v.cost),
    text(v.delivery),
    text(v.kg),
    v.shareOfSales === null ? '' : `${Number((v.shareOfSales * 100).toPrecision(12))}%`,
    text(v.stock),
  ]);
}
export function readVariations(rows: readonly (readonly Cell[])[]): {
  list: Variation[];
  errors: (Fault & { row: number; column: string })[];
} {
  const errors: (Fault & { row: number; column: string })[] = [];
  const list: Variation[] = [];
  const seen = new Map<string, number>();
  rows.forEach((cells, i) => {
    if (cells.every((c) => c === null || String(c).trim() === '')) return;
    const out: Record<string, unknown> = {};
    let wrong = false;
    const fail = (column: string, f: Fault): void => {
      errors.push({ row: i + 2, column, ...f });
      wrong = true;
    };
    VARIATION_COLUMNS.forEach((column, j) => {
      const value = readCell(column, cells[j] ?? null, { decimalComma: false });
      if (isFault(value)) fail(column.key, value);
      else out[column.key] = value;
    });
    const name = String(out.name ?? '');
    if (name === '') fail('name', fault('variationNoName'));
    else if (seen.has(name)) fail('name', fault('rowTwice', { text: name, row: seen.get(name) }));
    else seen.set(name, i + 2);
    if (!wrong) list.push(variation.parse(out));
  });
  const total = list.reduce((s, v) => s + (v.shareOfSales ?? 0), 0);
  if (total > 1 + 1e-9)
    errors.push({
      row: rows.length + 1,
      column: 'shareOfSales',
      ...fault('salesShares', { percent: Number((total * 100).toFixed(2)) }),
    });
  return { list, errors };
}

/** The lane as one variation: its price, cost, weight, and its share of the units a month. */
export function asVariation(doc: LaneDocument, v: Variation): LaneDocument {
  const goods =
    doc.goods === null || doc.goods === 'none'
      ? doc.goods
      : doc.goods.map((c, i) => {
          if (i > 0 || (v.cost === null && v.delivery === null)) return c;
          const more = v.delivery ?? 0;
          if (c.source.kind === 'retail')
            return {
              ...c,
              source: {
                ...c.source,
                shelfPrice: v.cost ?? c.source.shelfPrice,
                delivery:
                  v.delivery === null
                    ? c.source.delivery
                    : {
                        amount: more * (doc.orderQuantity ?? 1),
                        currency: c.source.currency,
                        vat: c.source.vat,
                        vatRate: c.source.vatRate,
                        recoverable: c.source.recoverable,
                      },
              },
            };
          return {
            ...c,
            source: {
              ...c.source,
              priceBreaks: c.source.priceBreaks.map((b) => ({ ...b, unitPrice: v.cost ?? b.unitPrice })),
              extras: more === 0 ? c.source.extras : [...c.source.extras, { name: 'Delivery', amount: more }],
            },
          };
        });
  const units = evaluate(doc).figures.expectedMonthlyUnits;
  return {
    ...doc,
    goods,
    price: v.price ?? doc.price,
    product: v.kg === null ? doc.product : { ...doc.product, kg: v.kg },
    demand:
      v.shareOfSales === null || units === null
        ? doc.demand
        : { kind: 'typed', units: units * v.shareOfSales },
  };
}

export type VariationResult = { readonly variation: Variation; readonly result: LaneResult };
export type VariationSummary = {
  readonly rows: readonly VariationResult[];
  /** Units a month of those that keep something, less than the source has. */
  readonly paying: number;
  /** Unit profit over all by share of sales; null where a share or a profit is missing. */
  readonly blended: number | null;
};

/** Every variation evaluated, and what they keep together. */
export function weighVariations(doc: LaneDocument, list: readonly Variation[]): VariationSummary {
  const rows = list.map((v) => ({ variation: v, result: evaluate(asVariation(doc, v)) }));
  const known = rows.every((r) => r.variation.shareOfSales !== null && r.result.figures.unitProfit !== null);
  const total = rows.reduce((s, r) => s + (r.variation.shareOfSales ?? 0), 0);
  return {
    rows,
    paying: rows.filter((r) => (r.result.figures.unitProfit ?? -1) > 0).length,
    blended:
      known && total > 0
        ? rows.reduce(
            (s, r) => s + (r.variation.shareOfSales as number) * (r.result.figures.unitProfit as number),
            0,
          ) / total
        : null,
  };
}
