import { commonMultiple, orderStep } from '../goods/orders.ts';
import type { LaneDocument } from '../lane/schema.ts';

/** Which order quantities (sold units) a supplier takes: every multiple of `step` not under `first`. */
export type Admissible = { readonly step: number; readonly first: number };

/**
 * Admissible orders (economics, section 11): Q whole and, of every component, a whole number of cartons
 * (without a carton: of bought units), not under the minimum order or the first price break.
 */
export function admissibleOrders(doc: LaneDocument): Admissible {
  let step = 1;
  let least = 1;
  if (doc.goods !== null && doc.goods !== 'none')
    for (const c of doc.goods) {
      const lot = c.source.kind === 'quote' ? (c.source.carton?.units ?? 1) : 1;
      step = commonMultiple(step, orderStep(c.unitsInSoldPack, c.unitsInBoughtPack, lot));
      if (c.source.kind === 'quote') {
        const minimum = Math.max(c.source.minimumOrder, c.source.priceBreaks[0]?.minQty ?? 0);
        least = Math.max(least, (minimum * c.unitsInBoughtPack) / c.unitsInSoldPack);
      }
    }
  return { step, first: Math.max(1, Math.ceil(least / step - 1e-9)) * step };
}

/** Half, all and twice an order quantity, each as the supplier takes it, each once. */
export function quantitiesToCompare(orders: Admissible, quantity: number): number[] {
  const taken = (q: number): number => Math.max(orders.first, Math.round(q / orders.step) * orders.step);
  return [...new Set([taken(quantity / 2), taken(quantity), taken(quantity * 2)])];
}

/**
 * The lane's own order quantity, and the least admissible order that reaches each further price break;
 * rising, each once. None where no quantity is known.
 */
export function breakQuantities(doc: LaneDocument): number[] {
  const { orderQuantity } = doc;
  if (orderQuantity === null) return [];
  const { step, first } = admissibleOrders(doc);
  const reached = new Set([orderQuantity]);
  if (doc.goods !== null && doc.goods !== 'none')
    for (const c of doc.goods)
      if (c.source.kind === 'quote')
        for (const b of c.source.priceBreaks)
          reached.add(
            Math.max(
              first,
              orderQuantity,
              Math.ceil((b.minQty * c.unitsInBoughtPack) / c.unitsInSoldPack / step - 1e-9) * step,
            ),
          );
  return [...reached].sort((x, y) => x - y);
}

/** The lane at another order quantity. */
