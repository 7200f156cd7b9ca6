import { ratioOf } from './goods.ts';
import { cartonsOf, volumeM3 } from '../../rules/wayIn.ts';
import { isKnown } from '../../rules/numbers.ts';
import type { LaneDocument } from '../schema.ts';
import type { Route } from '../../cards/carriage.ts';

/** The shipment of an order: whole cartons, weight and volume. Unknown is NaN. */
export type Shipment = { cartons: number; kg: number; m3: number };

/** Volume of the packaged unit, m3; NaN where its sides are blank. */
export function unitVolume(doc: LaneDocument): number {
  const s = doc.product.sides;
  return s === null ? Number.NaN : volumeM3(s[0], s[1], s[2]);
}

/**
 * The shipment is `up(B / unitsPerCarton)` whole cartons of each component (economics, section 4). Where a
 * component has no carton, the whole shipment is Q packaged sold units with the packing allowance, since
 * cartons and loose units of one sold pack cannot be told apart; the same holds for weight alone or volume
 * alone where a carton does not state it. Writes into `out` and returns it.
 */
export function shipmentOf(doc: LaneDocument, route: Route, quantity: number, out: Shipment): Shipment {
  const goods = doc.goods;
  let cartons = 0;
  let kg = 0;
  let m3 = 0;
  if (goods === null || goods === 'none') cartons = Number.NaN;
  else
    for (let i = 0; i < goods.length; i++) {
      const c = goods[i] as (typeof goods)[number];
      const box = c.source.kind === 'quote' ? c.source.carton : null;
      if (box === null) {
        cartons = Number.NaN;
        break;
      }
      const n = cartonsOf(quantity * ratioOf(c), box.units);
      cartons += n;
      kg += box.kg === null ? Number.NaN : n * box.kg;
      m3 += box.volumeM3 === null ? Number.NaN : n * box.volumeM3;
    }
  const loose = 1 + route.packingAllowance;
  out.cartons = cartons;
  out.kg =
    isKnown(cartons) && isKnown(kg)
      ? kg
      : doc.product.kg === null
        ? Number.NaN
        : quantity * doc.product.kg * loose;
  out.m3 = isKnown(cartons) && isKnown(m3) ? m3 : quantity * unitVolume(doc) * loose;
  return out;
}
