/** How goods that were weighed become lines of orders, one order for each supplier and currency. */
import type { Component, RetailPurchase } from '../lane/schema.ts';
import { afterDiscounts } from '../lane/steps/retail.ts';
import { minorDigits } from '../money/money.ts';
import { roundMinor } from '../rules/numbers.ts';
import type { CandidateData, QuoteSource, StoredLane } from '../workspace/records.ts';
import { orderLine, orderTerms } from './schema.ts';
import type { OrderLine, OrderTerms } from './schema.ts';

/** A line with whom it is bought from, and the terms its quote brings. */
export type LineFrom = {
  readonly supplier: string;
  readonly currency: string;
  readonly line: OrderLine;
  readonly leadDays: number | null;
  readonly depositShare: number | null;
  readonly creditDays: number;
  readonly incoterm: string;
  readonly charges: OrderTerms['charges'];
};

type About = {
  readonly id: string;
  readonly name: string;
  readonly gtin?: string | null;
  readonly candidateId?: string | null;
  readonly laneId?: string | null;
  readonly quoteId?: string | null;
};

/**
 * A line of an order from the source of goods: its price as quoted, with what is packed around each unit. Goods from a
 * shop's shelf have one price, less what the shop takes off. `units`: bought units; null: not known.
 */
export function lineFrom(source: QuoteSource, units: number | null, about: About): LineFrom {
  const { supplier, currency, vat, vatRate, validUntil } = source;
  const own = { ...about, units: units !== null && units > 0 ? units : null, vat, vatRate, validUntil };
  if (source.kind === 'retail')
    return {
      supplier,
      currency,
      line: orderLine.parse({ ...own, priceBreaks: [{ minQty: 0, unitPrice: shelfPaid(source) }] }),
      leadDays: null,
      depositShare: 1,
      creditDays: 0,
      incoterm: '',
      charges: [],
    };
  const extras = source.extras.reduce<number | null>(
    (s, x) => (s === null || x.amount === null ? null : s + x.amount),
    0,
  );
  return {
    supplier,
    currency,
    line: orderLine.parse({
      ...own,
      priceBreaks: source.priceBreaks.map(({ minQty, unitPrice }) => ({
        minQty,
        unitPrice: unitPrice === null || extras === null ? null : unitPrice + extras,
      })),
      minimumOrder: source.minimumOrder,
      carton: source.carton?.units ?? null,
    }),
    leadDays: source.leadDays,
    depositShare: source.depositShare,
    creditDays: source.creditDays,
    incoterm: source.incoterm,
    charges: source.perOrder,
  };
}

/** What one of the goods on a shelf costs once the shop has taken its discounts off, as it is written: to the cent. */
function shelfPaid(source: RetailPurchase): number | null {
  if (source.shelfPrice === null) return null;
  const paid = afterDiscounts(source, source.shelfPrice);
  return Number.isNaN(paid) ? null : roundMinor(paid, 10 ** minorDigits(source.currency));
}

/** Bought units of a component for so many sold units: whole ones, since nobody sells a part of one. */
export const boughtFor = (
  sold: number | null,
  c: Pick<Component, 'unitsInSoldPack' | 'unitsInBoughtPack'>,
): number | null =>
  sold === null ? null : Math.ceil((sold * c.unitsInSoldPack) / c.unitsInBoughtPack - 1e-9);

/** The lines that the goods of a lane ask for, at the lane's order quantity. A lane without goods asks for none. */
export function linesOfLane(
  candidate: { readonly id: string; readonly data: Pick<CandidateData, 'name' | 'gtin'> },
  lane: { readonly id: string; readonly data: StoredLane },
  quotes: Readonly<Record<string, QuoteSource>>,
  newId: () => string,
): LineFrom[] {
  return lane.data.components.flatMap((c) => {
    const source = quotes[c.quoteId];
    if (source === undefined) return [];
    const alone = lane.data.components.length === 1;
    return lineFrom(source, boughtFor(lane.data.orderQuantity, c), {
      id: newId(),
      name: alone || c.name === '' ? candidate.data.name : `${candidate.data.name}: ${c.name}`.slice(0, 500),
      // A bundle's barcode is none of its parts.
      gtin: alone ? candidate.data.gtin : null,
      candidateId: candidate.id,
      laneId: lane.id,
      quoteId: c.quoteId,
    });
  });
}

/** The one value that all agree on; null where they do not. */
function agreed<T>(values: readonly T[]): T | null {
  const [first] = values;
  return first !== undefined && values.every((v) => v === first) ? first : null;
}

/**
 * Orders of these lines: one for each supplier (letters' case aside) and currency, in the order in which they come.
 * Terms on which quotes do not agree are the longest wait, and stay blank where they are about money.
 */
export function ordersOf(lines: readonly LineFrom[]): OrderTerms[] {
  const groups = new Map<string, LineFrom[]>();
  for (const l of lines) {
    const key = `${l.supplier.trim().toLowerCase()}\n${l.currency}`;
    groups.set(key, [...(groups.get(key) ?? []), l]);
  }
  return [...groups.values()].map((of) => {
    const waits = of.map((l) => l.leadDays);
    const charges = of.flatMap((l) => l.charges);
    const named = new Map(charges.map((c) => [`${c.name}\n${c.amount}`, c]));
    return orderTerms.parse({
      supplier: of[0]?.supplier ?? '',
      currency: of[0]?.currency,
      lines: of.map((l) => l.line),
      leadDays: waits.some((w) => w === null) ? null : Math.max(...(waits as number[])),
      depositShare: agreed(of.map((l) => l.depositShare)),
      creditDays: Math.min(...of.map((l) => l.creditDays)),
      incoterm: agreed(of.map((l) => l.incoterm)) ?? '',
      charges: [...named.values()].slice(0, 20),
    });
  });
}
