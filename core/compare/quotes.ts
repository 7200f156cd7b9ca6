import type { FreightCard } from '../cards/schema.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning } from '../lane/reckoning.ts';
import type { LaneDocument } from '../lane/schema.ts';
import type { QuoteSource } from '../workspace/records.ts';

/** The lane bought on another quote: in place of its first component's, whose name and pack sizes stay. */
export function onQuote(doc: LaneDocument, source: QuoteSource): LaneDocument {
  if (doc.goods === null || doc.goods === 'none')
    return { ...doc, goods: [{ name: '', unitsInSoldPack: 1, unitsInBoughtPack: 1, source }] };
  return { ...doc, goods: doc.goods.map((c, i) => (i === 0 ? { ...c, source } : c)) };
}

/** The lane moved along a freight card's route. */
export function alongRoute(doc: LaneDocument, card: FreightCard): LaneDocument {
  return { ...doc, route: { ...card.route, name: card.name } };
}

const r = new Reckoning();
/**
 * Landed cost a unit at an order quantity, sales currency; null where it is unknown, incomplete or the quote
 * takes no such order.
 */
export function landedAt(doc: LaneDocument, quantity: number): number | null {
  reckon({ ...doc, orderQuantity: quantity }, r);
  return Number.isFinite(r.landedCost) && !r.isBlank('goods') ? r.landedCost : null;
}

/**
 * From which order quantity on which of the lanes has the lowest landed cost (index; -1: none takes such an
 * order).
 */
export type Stretch = { readonly from: number; readonly best: number };

function bestAt(docs: readonly LaneDocument[], quantity: number): number {
  let best = -1;
  let least = Number.POSITIVE_INFINITY;
  docs.forEach((d, i) => {
    const cost = landedAt(d, quantity);
    // A tie goes to the one named first.
    if (cost !== null && cost < least - 1e-9) {
      least = cost;
      best = i;
    }
  });
  return best;
}

/**
 * The crossing points of quotes over whole order quantities from 1 to `most`. Between price breaks, minimums,
 * cartons and weight bands costs are smooth, so a change of the cheapest is looked for between neighbouring
 * points of a fine grid that holds all price breaks and minimums, and then pinned down by halving.
 */
export function crossings(docs: readonly LaneDocument[], most: number): Stretch[] {
  const points = new Set<number>([1, most]);
  for (let i = 1; i < 240; i++) points.add(Math.max(1, Math.round((most * i) / 240)));
  for (const d of docs)
    if (Array.isArray(d.goods))
      for (const c of d.goods) {
        const k = c.unitsInSoldPack / c.unitsInBoughtPack;
        if (c.source.kind === 'quote')
          for (const q of [c.source.minimumOrder, ...c.source.priceBreaks.map((b) => b.minQty)])
            for (const at of [Math.ceil(q / k - 1e-9), Math.ceil(q / k - 1e-9) - 1])
              if (at >= 1 && at <= most) points.add(at);
      }
  const grid = [...points].sort((a, b) => a - b);
  const out: Stretch[] = [];
  let before = -2;
  grid.forEach((quantity, i) => {
    const best = bestAt(docs, quantity);
    if (best === before) return;
    let lo = i === 0 ? quantity : (grid[i - 1] as number);
    let hi = quantity;
    while (hi - lo > 1) {
      const mid = Math.floor((lo + hi) / 2);
      if (bestAt(docs, mid) === before) lo = mid;
      else hi = mid;
    }
    out.push({ from: hi, best });
    before = best;
  });
  return out;
}
