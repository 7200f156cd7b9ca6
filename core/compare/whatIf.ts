import type { LaneDocument } from '../lane/schema.ts';
import type { Leg } from '../cards/carriage.ts';
import type { LaneResult } from '../lane/result.ts';
import { isMoney } from '../lane/figures.ts';
import { FAMILIES, LINES } from '../lane/costLines.ts';
import { FIGURES } from '../lane/figures.ts';
import type { Family, Line } from '../lane/costLines.ts';
import type { Figure } from '../lane/figures.ts';

/** A question asked of many lanes at once; blank parts leave each lane as it is. */
export type WhatIf = {
  /** Order quantity of every lane, in sold units. */
  readonly orderQuantity: number | null;
  /** Factor on the rates of all main legs: 3 is "freight three times as dear". */
  readonly mainFreight: number;
  /** Factor on every shelf price. */
  readonly price: number;
};
export const AS_IS: WhatIf = { orderQuantity: null, mainFreight: 1, price: 1 };

function scaledLeg(leg: Leg, factor: number): Leg {
  return leg.stage !== 'main'
    ? leg
    : {
        ...leg,
        rate: leg.rate === null ? null : leg.rate * factor,
        minCharge: leg.minCharge * factor,
        bands: leg.bands.map((b) => ({ ...b, rate: b.rate * factor })),
      };
}

/**
 * The lane as the question has it; the very lane where nothing is asked. A supplier's delivery and fixed
 * charges stay.
 */
export function asked(doc: LaneDocument, q: WhatIf): LaneDocument {
  if (q.orderQuantity === null && q.mainFreight === 1 && q.price === 1) return doc;
  return {
    ...doc,
    orderQuantity: q.orderQuantity ?? doc.orderQuantity,
    price: doc.price === null ? null : doc.price * q.price,
    route:
      q.mainFreight === 1 || doc.route === null || doc.route === 'none'
        ? doc.route
        : { ...doc.route, legs: doc.route.legs.map((l) => scaledLeg(l, q.mainFreight)) },
  };
}

/** The same result with all its money per 100 of gross; null where gross is not above zero. */
export function perHundred(result: LaneResult): LaneResult | null {
  const gross = result.figures.gross;
  if (gross === null || gross <= 1e-9) return null;
  const f = 100 / gross;
  const scale = <K extends string>(
    keys: readonly K[],
    values: Readonly<Record<K, number | null>>,
    money: (k: K) => boolean,
  ) =>
    Object.fromEntries(
      keys.map((k) => [k, values[k] === null || !money(k) ? values[k] : values[k] * f]),
    ) as Record<K, number | null>;
  return {
    ...result,
    lines: scale<Line>(LINES, result.lines, () => true),
    families: scale<Family>(FAMILIES, result.families, () => true),
    figures: scale<Figure>(FIGURES, result.figures, isMoney),
  };
}
