import { chargeableKg, containersOf, insurance, legCharge, perUnit } from '../../rules/wayIn.ts';
import { WHEN_PAID } from '../reckoning.ts';
import type { Reckoning } from '../reckoning.ts';
import { netOf } from '../../money/net.ts';
import type { LaneDocument } from '../schema.ts';
import type { Incoterm } from '../choices.ts';
import type { Leg, Stage } from '../../cards/carriage.ts';
import { INCOTERMS } from '../choices.ts';
import { isKnown, isUnknown, within } from '../../rules/numbers.ts';
import type { Shipment } from './shipment.ts';
import { shipmentOf } from './shipment.ts';

/**
 * The first stage the buyer pays by the rule of the quote (Incoterms 2020): 0 origin, 1 main, 2 destination,
 * 3 inbound.
 */
const BUYER_PAYS_FROM: Readonly<Record<Incoterm, number>> = {
  EXW: 0,
  FCA: 1,
  FAS: 1,
  FOB: 1,
  CFR: 2,
  CPT: 2,
  CIF: 2,
  CIP: 2,
  DAP: 3,
  DPU: 3,
  DDP: 3,
};
const STAGE_RANK: Readonly<Record<Stage, number>> = { origin: 0, main: 1, destination: 2, inbound: 3 };
/** The buyer insures where the rule does not make the seller do it. */
const BUYER_INSURES = new Set<Incoterm>(['EXW', 'FCA', 'FAS', 'FOB', 'CFR', 'CPT']);

/** The rule of the first quote; a retail purchase is taken away from the shop, EXW. */
export function incotermOf(doc: LaneDocument): Incoterm {
  const first = doc.goods === null || doc.goods === 'none' ? undefined : doc.goods[0];
  return first?.source.kind === 'quote' ? first.source.incoterm : INCOTERMS[0];
}

export function buyerPaysLeg(leg: Leg, rule: Incoterm): boolean {
  return leg.buyerPays ?? STAGE_RANK[leg.stage] >= BUYER_PAYS_FROM[rule];
}

/** Freight legs and insurance (economics, section 4), net of VAT, per unit sold, sales currency. */
export function reckonFreight(r: Reckoning): void {
  const doc = r.doc;
  r.originLegs = r.mainLegs = r.destinationLegs = r.inboundLegs = 0;
  r.insurance = 0;
  r.freight = 0;
  if (doc.method === 'supplierShips' || doc.route === 'none') {
    r.trace?.line('freight', 0, '0', []);
    return;
  }
  const route = doc.route;
  if (route === null) {
    r.blank('freight');
    return;
  }
  const rule = incotermOf(doc);
  const Q = r.quantity;
  if (isUnknown(Q)) {
    r.blank('freight');
    return;
  }
  const shipment = shipmentOf(doc, route, Q, r.shipment);
  for (let i = 0; i < route.legs.length; i++) {
    const leg = route.legs[i] as Leg;
    if (!buyerPaysLeg(leg, rule)) continue;
    if (legIsBlank(doc, leg, shipment)) {
      // A leg whose inputs are blank stays out of the sum.
      r.blank('freight');
      continue;
    }
    const cost = legCost(r, leg, i, Q);
    const net = perUnit(r.inSales(netOf(cost, leg), leg.currency, 'freight'), Q);
    r.landVat(net, leg, leg.stage === 'inbound' ? WHEN_PAID.ready : WHEN_PAID.way);
    if (leg.stage === 'origin') r.originLegs += net;
    else if (leg.stage === 'main') r.mainLegs += net;
    else if (leg.stage === 'destination') r.destinationLegs += net;
    else r.inboundLegs += net;
    r.trace?.line('freight', net, 'max(minCharge, shipmentCost) * (1 + fuelSurcharge) / orderQuantity', [
      ['leg', leg.name || leg.stage, 'text', `route.legs.${i}`],
      ['basis', leg.basis, 'text', `route.legs.${i}.basis`],
      ['rate', leg.rate, 'number', `route.legs.${i}.rate`],
      ['minCharge', leg.minCharge, 'number', `route.legs.${i}.minCharge`],
      ['fuelSurcharge', leg.fuelSurcharge, 'share', `route.legs.${i}.fuelSurcharge`],
      ['orderQuantity', Q, 'pieces', 'orderQuantity'],
      ['cartons', nullable(shipment.cartons), 'number', ''],
      ['shipmentKg', nullable(shipment.kg), 'kg', ''],
      ['shipmentM3', nullable(shipment.m3), 'm3', ''],
      ['shipmentCost', nullable(cost), 'number', ''],
    ]);
  }
  r.freight = r.originLegs + r.mainLegs + r.destinationLegs + r.inboundLegs;
  if (route.insuranceRate > 0 && BUYER_INSURES.has(rule)) {
    r.insurance = insurance(route.insuranceRate, r.goods, r.originLegs + r.mainLegs);
    r.trace?.line('insurance', r.insurance, 'insuranceRate * (goods + originAndMainLegs)', [
      ['insuranceRate', route.insuranceRate, 'share', 'route.insuranceRate'],
      ['goods', r.goods, 'money', ''],
      ['originAndMainLegs', r.originLegs + r.mainLegs, 'money', ''],
    ]);
  }
}

/** Whether what a leg is charged by is not known: its rate, or weight, volume or cartons of the shipment. */
function legIsBlank(doc: LaneDocument, leg: Leg, shipment: Shipment): boolean {
  switch (leg.basis) {
    case 'perKg':
      return (leg.rate === null && leg.bands.length === 0) || isUnknown(chargedKg(leg, shipment));
    case 'perCbm':
      return leg.rate === null || isUnknown(shipment.m3);
    case 'perCarton':
      return leg.rate === null || (isUnknown(shipment.cartons) && doc.goods === null);
    case 'perContainer':
      return leg.rate === null || (leg.usableM3 !== null && isUnknown(shipment.m3));
    default:
      return leg.rate === null;
  }
}

function nullable(x: number): number | null {
  return isKnown(x) ? x : null;
}

/** Cost of the whole shipment on one leg, in the leg's currency and VAT basis; NaN with a problem. */
function legCost(r: Reckoning, leg: Leg, index: number, Q: number): number {
  const cost = beforeMinimum(r, leg, index, Q);
  return legCharge(cost, leg.minCharge, leg.fuelSurcharge) * r.tried.freight;
}

function beforeMinimum(r: Reckoning, leg: Leg, index: number, Q: number): number {
  const { shipment } = r;
  const rate = leg.rate ?? Number.NaN;
  const name = leg.name || leg.stage;
  switch (leg.basis) {
    case 'perUnit':
      return rate * Q;
    case 'perKg':
      return kgRate(r, leg, index) * chargedKg(leg, shipment);
    case 'perCbm':
      return rate * Math.max(shipment.m3, leg.minCbm);
    case 'perCarton':
      if (isUnknown(shipment.cartons))
        return r.problem('noCarton', 'freight', 'goods.0.source.carton', { leg: name });
      return rate * shipment.cartons;
    case 'perShipment':
      return rate;
    case 'perContainer':
      if (leg.usableM3 === null)
        return r.problem('noContainer', 'freight', `route.legs.${index}.usableM3`, { leg: name });
      return rate * containersOf(shipment.m3, leg.usableM3);
  }
}

/** Rate a kilogram: that of the band of the weight charged, where the leg has bands; NaN where none takes it. */
function kgRate(r: Reckoning, leg: Leg, index: number): number {
  if (leg.bands.length === 0) return leg.rate ?? Number.NaN;
  const kg = chargedKg(leg, r.shipment);
  for (let j = 0; j < leg.bands.length; j++) {
    const band = leg.bands[j] as { upToKg: number; rate: number };
    if (within(kg, band.upToKg)) return band.rate;
  }
  return r.problem('noWeightBand', 'freight', `route.legs.${index}.bands`, {
    leg: leg.name || leg.stage,
    kg: round3(kg),
  });
}

/** Weight of a shipment that a leg charges; unknown where the weight is not known. */
export const chargedKg = (leg: Leg, s: Shipment): number => chargeableKg(s.kg, s.m3, leg.divisor, leg.minKg);

function round3(x: number): number {
  return Math.round(x * 1000) / 1000;
}

/** Rules under which freight and insurance of the main carriage are inside the price: the C and D rules. */
export const FREIGHT_INSIDE = new Set<Incoterm>(['CFR', 'CPT', 'CIF', 'CIP', 'DAP', 'DPU', 'DDP']);

export type DutyRow = { heading: string; origins: readonly string[] | null; additional: boolean };

/** Preparation: labels, bags, bundling; the oversize amount where the product is flagged so and one is given. */
export function reckonPrep(r: Reckoning): void {
  const prep = r.doc.prep;
  r.prep = 0;
  if (r.doc.method === 'supplierShips' || prep === 'none') {
    r.trace?.line('prep', 0, '0', []);
    return;
  }
  const oversize = prep !== null && r.doc.product.oversize && prep.oversize !== null;
  const amount = prep === null ? null : oversize ? prep.oversize : prep.standard;
  if (prep === null || amount === null) {
    r.blank('prep');
    return;
  }
  r.prep = r.inSales(netOf(amount, prep), prep.currency, 'prep');
  r.landVat(r.prep, prep, WHEN_PAID.ready);
  r.trace?.line('prep', r.prep, 'amount * exchangeRate', [
    ['amount', amount, 'number', oversize ? 'prep.oversize' : 'prep.standard'],
    [
      'exchangeRate',
      r.fx(prep.currency, 'prep'),
      'number',
      prep.currency === r.doc.currency ? '' : 'rates.exchange',
    ],
  ]);
}
