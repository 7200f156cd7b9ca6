import type { LaneDocument } from './schema.ts';

/**
 * The lane with its price and the unit prices of its goods multiplied: what worst, expected and best try.
 * Units a month stay those of the lane (`units`, null: unknown), also where they would follow the price.
 * Unknown stays unknown.
 */
export function trial(
  doc: LaneDocument,
  units: number | null,
  priceFactor: number,
  costFactor: number,
): LaneDocument {
  const dearer = (x: number | null) => (x === null ? null : x * costFactor);
  return {
    ...doc,
    demand: units === null ? doc.demand : { kind: 'typed', units },
    price: doc.price === null ? null : doc.price * priceFactor,
    goods: Array.isArray(doc.goods)
      ? doc.goods.map((c) => ({
          ...c,
          source:
            c.source.kind === 'quote'
              ? {
                  ...c.source,
                  priceBreaks: c.source.priceBreaks.map((b) => ({ ...b, unitPrice: dearer(b.unitPrice) })),
                }
              : { ...c.source, shelfPrice: dearer(c.source.shelfPrice) },
        }))
      : doc.goods,
  };
}
