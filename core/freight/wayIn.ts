import type { Reckoning } from '../lane/reckoning.ts';
import { netOf } from '../lane/reckoning.ts';
import type { Incoterm, LaneDocument, Leg, Stage } from '../lane/schema.ts';
import { INCOTERMS } from '../lane/schema.ts';
import { clamp, up, within } from '../money/money.ts';
import type { Shipment } from './shipment.ts';
import { shipmentOf } from './shipment.ts';

/** The first stage the buyer pays by the rule of the quote (Incoterms 2020): 0 origin, 1 main, 2 destination, 3 inbound. */
const BUYER_PAYS_FROM: Readonly<Record<Incoterm, number>> = {
  EXW: 0, FCA: 1, FAS: 1, FOB: 1, CFR: 2, CPT: 2, CIF: 2, CIP: 2, DAP: 3, DPU: 3, DDP: 3,
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

/** Whether the leg reckoned last lacked an input, rather than an answer. */
let legBlank = false;
const shipment: Shipment = { cartons: 0, kg: 0, m3: 0 };

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
  if (Q !== Q) {
    r.blank('freight');
    return;
  }
  shipmentOf(doc, route, Q, shipment);
  for (let i = 0; i < route.legs.length; i++) {
    const leg = route.legs[i] as Leg;
    if (!buyerPaysLeg(leg, rule)) continue;
    if (leg.rate === null && !(leg.basis === 'perKg' && leg.bands.length > 0)) {
      r.blank('freight');
      continue;
    }
    const cost = legCost(r, leg, i, Q);
    if (cost !== cost && legBlank) continue; // a leg whose inputs are blank stays out of the sum
    const net = (netOf(cost, leg) * r.fx(leg.currency, 'freight')) / Q;
    r.landVat(net, leg);
    if (leg.stage === 'origin') r.originLegs += net;
    else if (leg.stage === 'main') r.mainLegs += net;
    else if (leg.stage === 'destination') r.destinationLegs += net;
    else r.inboundLegs += net;
    r.trace?.line('freight', net, 'max(minCharge, shipmentCost) * (1 + fuelSurcharge) / orderQuantity', [
      ['leg', leg.name || leg.stage, 'text', `route.legs.${i}`], ['basis', leg.basis, 'text', `route.legs.${i}.basis`],
      ['rate', leg.rate, 'number', `route.legs.${i}.rate`], ['minCharge', leg.minCharge, 'number', `route.legs.${i}.minCharge`],
      ['fuelSurcharge', leg.fuelSurcharge, 'share', `route.legs.${i}.fuelSurcharge`],
      ['orderQuantity', Q, 'pieces', 'orderQuantity'], ['cartons', nullable(shipment.cartons), 'number', ''],
      ['shipmentKg', nullable(shipment.kg), 'kg', ''], ['shipmentM3', nullable(shipment.m3), 'm3', ''],
      ['shipmentCost', nullable(cost), 'number', ''],
    ]);
  }
  r.freight = r.originLegs + r.mainLegs + r.destinationLegs + r.inboundLegs;
  if (route.insuranceRate > 0 && BUYER_INSURES.has(rule)) {
    r.insurance = route.insuranceRate * (r.goods + r.originLegs + r.mainLegs);
    r.trace?.line('insurance', r.insurance, 'insuranceRate * (goods + originAndMainLegs)', [
      ['insuranceRate', route.insuranceRate, 'share', 'route.insuranceRate'], ['goods', r.goods, 'money', ''],
      ['originAndMainLegs', r.originLegs + r.mainLegs, 'money', ''],
    ]);
  }
}

function legIsBlank(r: Reckoning): void {
  legBlank = true;
  r.blank('freight');
}

function nullable(x: number): number | null {
  return x === x ? x : null;
}

/** Cost of the whole shipment on one leg, in the leg's currency and VAT basis; NaN with a problem or blank inputs. */
function legCost(r: Reckoning, leg: Leg, index: number, Q: number): number {
  const rate = leg.rate ?? Number.NaN;
  let cost: number;
  legBlank = false;
  switch (leg.basis) {
    case 'perUnit':
      cost = rate * Q;
      break;
    case 'perKg': {
      const kg = chargeableKg(leg, shipment);
      let perKg = rate;
      if (leg.bands.length > 0) {
        perKg = Number.NaN;
        if (kg === kg) {
          let found = false;
          for (let j = 0; j < leg.bands.length; j++) {
            const band = leg.bands[j] as { upToKg: number; rate: number };
            if (within(kg, band.upToKg)) {
              perKg = band.rate;
              found = true;
              break;
            }
          }
          if (!found) r.problem('noWeightBand', 'freight', `route.legs.${index}.bands`, { leg: leg.name || leg.stage, kg: round3(kg) });
        }
      }
      if (kg !== kg) legIsBlank(r);
      cost = perKg * kg;
      break;
    }
    case 'perCbm':
      if (shipment.m3 !== shipment.m3) legIsBlank(r);
      cost = rate * Math.max(shipment.m3, leg.minCbm);
      break;
    case 'perCarton':
      if (shipment.cartons !== shipment.cartons) {
        if (r.doc.goods === null) legIsBlank(r);
        else r.problem('noCarton', 'freight', 'goods.0.source.carton', { leg: leg.name || leg.stage });
      }
      cost = rate * shipment.cartons;
      break;
    case 'perShipment':
      cost = rate;
      break;
    case 'perContainer':
      if (leg.usableM3 === null) r.problem('noContainer', 'freight', `route.legs.${index}.usableM3`, { leg: leg.name || leg.stage });
      else if (shipment.m3 !== shipment.m3) legIsBlank(r);
      cost = rate * up(shipment.m3 / (leg.usableM3 ?? Number.NaN));
      break;
  }
  return Math.max(leg.minCharge, cost) * (1 + leg.fuelSurcharge);
}

/** `max(actualKg, volumeCm3 / divisor, minKg)`; without a divisor volume does not count. NaN where weight is not known. */
export function chargeableKg(leg: Leg, s: Shipment): number {
  const volumetric = leg.divisor === null ? 0 : (s.m3 * 1e6) / leg.divisor;
  return Math.max(s.kg, volumetric, leg.minKg);
}

function round3(x: number): number {
  return Math.round(x * 1000) / 1000;
}

/**
 * Duty, import charges and import VAT (economics, section 4), per unit sold, sales currency. All three are none under DDP
 * and where no customs border is crossed. Delivery by a supplier who ships is part of the international freight.
 */
export function reckonImport(r: Reckoning): void {
  const doc = r.doc;
  r.duty = r.importCharges = r.importVat = 0;
  const intl = r.originLegs + r.mainLegs + (doc.imported ? r.supplierDeliveryNet : 0);
  r.cifValue = r.goods + intl + r.insurance;
  r.customsValue = r.cifValue;
  if (!doc.imported || incotermOf(doc) === 'DDP') {
    r.trace?.line('duty', 0, '0', [['imported', doc.imported ? 'DDP' : 'no', 'text', 'imported']]);
    return;
  }
  const tax = doc.rates.tax;
  const Q = r.quantity;
  if (tax === null) {
    r.problem('noTaxCard', 'duty', 'rates.tax', { country: doc.country });
    r.duty = r.importCharges = r.importVat = Number.NaN;
    r.irrecoverableVat = r.recoverableVat = Number.NaN;
    return;
  }
  const fx = r.fx(tax.currency, 'duty');
  if (tax.customsBasis === 'FOB') r.customsValue = r.goods + r.originLegs - insidePrice(r);

  // duty
  let pct = 0;
  let perUnit = 0;
  let perKg = 0;
  let known = true;
  if (doc.typed.dutyPct !== null) pct = doc.typed.dutyPct;
  else if (doc.product.hsCode === null || doc.product.origin === null) {
    r.blank('duty');
    known = false;
  } else {
    const base = baseDuty(tax.duties, doc.product.hsCode, doc.product.origin);
    if (base < 0) {
      r.problem('noDutyRate', 'duty', 'product.hsCode', { country: doc.country, hsCode: doc.product.hsCode, origin: doc.product.origin });
      r.duty = Number.NaN;
      known = false;
    }
    for (let i = 0; i < tax.duties.length; i++) {
      const d = tax.duties[i] as (typeof tax.duties)[number];
      if (i !== base && !(d.additional && dutyApplies(d, doc.product.hsCode, doc.product.origin))) continue;
      pct += d.pct;
      perUnit += d.perUnit;
      perKg += d.perKg;
    }
  }
  if (known) {
    const free = tax.dutyFreeLimit !== null && within(r.customsValue * Q, tax.dutyFreeLimit * fx);
    let byWeight = 0;
    if (perKg !== 0 && !free) {
      if (doc.product.kg === null) {
        r.blank('duty');
        known = false;
      } else byWeight = perKg * fx * doc.product.kg;
    }
    if (known) r.duty = free ? 0 * r.customsValue : pct * r.customsValue + perUnit * fx + byWeight;
    r.trace?.line('duty', r.duty, free ? '0' : 'dutyRate * customsValue + perUnit + perKg * unitKg', [
      ['dutyRate', pct, 'share', doc.typed.dutyPct !== null ? 'typed.dutyPct' : 'rates.tax.duties'], ['customsValue', r.customsValue, 'money', ''],
      ['perUnit', perUnit * fx, 'money', 'rates.tax.duties'], ['perKg', perKg * fx, 'money', 'rates.tax.duties'],
      ['unitKg', doc.product.kg, 'kg', 'product.kg'], ['hsCode', doc.product.hsCode, 'text', 'product.hsCode'], ['origin', doc.product.origin, 'text', 'product.origin'],
    ]);
  }

  // other import charges
  if (Q !== Q && tax.importCharges.length > 0) r.blank('duty');
  else for (let i = 0; i < tax.importCharges.length; i++) {
    const c = tax.importCharges[i] as (typeof tax.importCharges)[number];
    r.importCharges +=
      (clamp(c.pct * r.customsValue * Q, c.min === null ? null : c.min * fx, c.max === null ? null : c.max * fx) + c.flat * fx) / Q;
  }
  if (tax.importCharges.length > 0)
    r.trace?.line('importCharges', r.importCharges, 'sum(clamp(pct * customsValue * orderQuantity, min, max) + flat) / orderQuantity', [
      ['customsValue', r.customsValue, 'money', ''], ['orderQuantity', Q, 'pieces', 'orderQuantity'],
      ['charges', tax.importCharges.map((c) => c.name).join(', '), 'text', 'rates.tax.importCharges'],
    ]);

  // import VAT
  let rate = doc.typed.importVatRate;
  const table = tax.importVatRates ?? tax.vatRates;
  if (rate === null) rate = table[doc.product.taxClass] ?? null;
  if (rate === null) {
    r.blank('importVat');
    return;
  }
  if (rate !== 0) {
    const base = tax.importVatBase === 'cif' ? r.cifValue + r.importCharges + r.destinationLegs : r.customsValue;
    r.importVat = rate * (base + r.duty);
    if (r.vatIsCost === 0) {
      if (!doc.importVatPostponed) r.recoverableVat += r.importVat;
    } else if (r.vatIsCost === 1) r.irrecoverableVat += r.importVat;
    else {
      r.irrecoverableVat = Number.NaN;
      r.recoverableVat = Number.NaN;
    }
    r.trace?.line('importVat', r.importVat, 'importVatRate * (base + duty)', [
      ['importVatRate', rate, 'share', doc.typed.importVatRate !== null ? 'typed.importVatRate' : 'rates.tax.vatRates'], ['base', base, 'money', ''],
      ['duty', r.duty, 'money', ''], ['standing', doc.standing?.kind ?? null, 'text', 'standing'],
    ]);
  }
}

/** Freight and insurance inside the unit price, per unit sold, sales currency (C and D rules, FOB customs value). */
function insidePrice(r: Reckoning): number {
  const goods = r.doc.goods;
  if (goods === null || goods === 'none') return 0;
  let sum = 0;
  for (let i = 0; i < goods.length; i++) {
    const c = goods[i] as (typeof goods)[number];
    if (c.source.kind === 'quote' && c.source.freightInPrice > 0)
      sum += ((c.source.freightInPrice * c.unitsInSoldPack) / c.unitsInBoughtPack) * r.fx(c.source.currency, 'duty');
  }
  return sum;
}

type DutyRow = { heading: string; origins: readonly string[] | null; additional: boolean };

function dutyApplies(d: DutyRow, hsCode: string, origin: string): boolean {
  return hsCode.startsWith(d.heading) && (d.origins === null || d.origins.includes(origin));
}

/** The base duty: the longest heading that begins the code; among equals a row for the origin beats one for all. -1: none. */
export function baseDuty(duties: readonly DutyRow[], hsCode: string, origin: string): number {
  let best = -1;
  let bestRank = -1;
  for (let i = 0; i < duties.length; i++) {
    const d = duties[i] as DutyRow;
    if (d.additional || !dutyApplies(d, hsCode, origin)) continue;
    const rank = d.heading.length * 2 + (d.origins === null ? 0 : 1);
    if (rank > bestRank) {
      best = i;
      bestRank = rank;
    }
  }
  return best;
}

/** Preparation: labels, bags, bundling; the oversize amount where the product is flagged so and one is given. */
export function reckonPrep(r: Reckoning): void {
  const prep = r.doc.prep;
  r.prep = 0;
  if (r.doc.method === 'supplierShips' || prep === 'none') {
    r.trace?.line('prep', 0, '0', []);
    return;
  }
  if (prep === null) {
    r.blank('prep');
    return;
  }
  const oversize = r.doc.product.oversize && prep.oversize !== null;
  const amount = oversize ? (prep.oversize as number) : prep.standard;
  r.prep = netOf(amount, prep) * r.fx(prep.currency, 'prep');
  r.landVat(r.prep, prep);
  r.trace?.line('prep', r.prep, 'amount * exchangeRate', [['amount', amount, 'number', oversize ? 'prep.oversize' : 'prep.standard'], ['exchangeRate', r.fx(prep.currency, 'prep'), 'number', prep.currency === r.doc.currency ? '' : 'rates.exchange']]);
}
