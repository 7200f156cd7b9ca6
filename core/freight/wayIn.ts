import type { TaxCard } from '../lane/rates.ts';
import type { Reckoning } from '../lane/reckoning.ts';
import { netOf } from '../lane/reckoning.ts';
import type { Incoterm, LaneDocument, Leg, Stage } from '../lane/schema.ts';
import { INCOTERMS } from '../lane/schema.ts';
import { clamp, up, within } from '../money/money.ts';
import type { Shipment } from './shipment.ts';
import { shipmentOf } from './shipment.ts';

/**
 * The first stage the buyer pays by the rule of the quote (Incoterms 2020): 0 origin, 1 main, 2 destination, 3
 * inbound.
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
    const net = r.inSales(netOf(cost, leg), leg.currency, 'freight') / Q;
    r.landVat(net, leg);
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
    r.insurance = route.insuranceRate * (r.goods + r.originLegs + r.mainLegs);
    r.trace?.line('insurance', r.insurance, 'insuranceRate * (goods + originAndMainLegs)', [
      ['insuranceRate', route.insuranceRate, 'share', 'route.insuranceRate'],
      ['goods', r.goods, 'money', ''],
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
          if (!found)
            r.problem('noWeightBand', 'freight', `route.legs.${index}.bands`, {
              leg: leg.name || leg.stage,
              kg: round3(kg),
            });
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
      if (leg.usableM3 === null)
        r.problem('noContainer', 'freight', `route.legs.${index}.usableM3`, { leg: leg.name || leg.stage });
      else if (shipment.m3 !== shipment.m3) legIsBlank(r);
      cost = rate * up(shipment.m3 / (leg.usableM3 ?? Number.NaN));
      break;
  }
  return Math.max(leg.minCharge, cost) * (1 + leg.fuelSurcharge);
}

/**
 * `max(actualKg, volumeCm3 / divisor, minKg)`; without a divisor volume does not count. NaN where weight is not
 * known.
 */
export function chargeableKg(leg: Leg, s: Shipment): number {
  const volumetric = leg.divisor === null ? 0 : (s.m3 * 1e6) / leg.divisor;
  return Math.max(s.kg, volumetric, leg.minKg);
}

function round3(x: number): number {
  return Math.round(x * 1000) / 1000;
}

/**
 * Duty, import charges and import VAT (economics, section 4), per unit sold, sales currency. All three are none under
 * DDP
 * and where no customs border is crossed. Delivery by a supplier who ships is part of the international freight:
 * where it is
 * blank, what is worked out from it says so.
 */
export function reckonImport(r: Reckoning): void {
  const doc = r.doc;
  r.duty = r.importCharges = r.importVat = 0;
  const intl = r.originLegs + r.mainLegs + (doc.imported ? r.supplierDeliveryNet : 0);
  r.cifValue = r.goods + intl + r.insurance;
  r.customsValue = r.cifValue;
  const ddp = incotermOf(doc) === 'DDP';
  const customsFollowCif = ddp || doc.rates.tax?.customsBasis !== 'FOB';
  if (doc.imported && deliveryIsBlank(doc)) {
    r.blank('deliveryInCif');
    if (customsFollowCif) r.blank('deliveryInCustoms');
  }
  if (!doc.imported || ddp) {
    r.trace?.line('duty', 0, '0', [['imported', doc.imported ? 'DDP' : 'no', 'text', 'imported']]);
    return;
  }
  const { tax } = doc.rates;
  if (tax === null) {
    r.problem('noTaxCard', 'duty', 'rates.tax', { country: doc.country });
    r.duty = r.importCharges = r.importVat = Number.NaN;
    r.irrecoverableVat = r.recoverableVat = Number.NaN;
    return;
  }
  if (tax.customsBasis === 'FOB') r.customsValue = r.goods + r.originLegs - insidePrice(r);
  if (customsFollowCif && deliveryIsBlank(doc)) r.blank('deliveryInCost');
  reckonDuty(r, tax);
  reckonImportCharges(r, tax);
  reckonImportVat(r, tax);
}

/** Whether a supplier ships and what delivery costs is not known. */
const deliveryIsBlank = (doc: LaneDocument): boolean =>
  doc.method === 'supplierShips' &&
  (doc.supplierDelivery === null || (doc.supplierDelivery !== 'none' && doc.supplierDelivery.amount === null)) &&
  doc.typed.fulfilmentFee === null;

/**
 * `duty = dutyRate * customsValue + perUnit + perKg * unit kg`; 0 where `customsValue * Q` is not above the duty-free
 * limit.
 * Decision: amounts of the tax card are converted only where there is one, so a card of percentages alone needs no
 * rate.
 */
function reckonDuty(r: Reckoning, tax: TaxCard): void {
  const { product, typed, country } = r.doc;
  let pct = 0;
  let perUnit = 0;
  let perKg = 0;
  if (typed.dutyPct !== null) pct = typed.dutyPct;
  else if (product.hsCode === null || product.origin === null) {
    r.blank('duty');
    return;
  } else {
    const base = baseDuty(tax.duties, product.hsCode, product.origin);
    if (base < 0) {
      r.duty = r.problem('noDutyRate', 'duty', 'product.hsCode', {
        country,
        hsCode: product.hsCode,
        origin: product.origin,
      });
      return;
    }
    for (let i = 0; i < tax.duties.length; i++) {
      const d = tax.duties[i] as (typeof tax.duties)[number];
      if (i !== base && !(d.additional && dutyApplies(d, product.hsCode, product.origin))) continue;
      pct += d.pct;
      perUnit += d.perUnit;
      perKg += d.perKg;
    }
  }
  const limit =
    tax.dutyFreeLimit === null ? Number.NEGATIVE_INFINITY : r.inSales(tax.dutyFreeLimit, tax.currency, 'duty');
  const free = within(r.customsValue * r.quantity, limit);
  if (limit !== limit) r.duty = Number.NaN;
  else if (free) r.duty = 0 * r.customsValue;
  else if (perKg !== 0 && product.kg === null) {
    r.blank('duty');
    return;
  } else
    r.duty =
      pct * r.customsValue +
      r.inSales(perUnit, tax.currency, 'duty') +
      r.inSales(perKg, tax.currency, 'duty') * (product.kg ?? 0);
  if (r.trace === null) return;
  r.trace.line('duty', r.duty, free ? '0' : 'dutyRate * customsValue + perUnit + perKg * unitKg', [
    ['dutyRate', pct, 'share', typed.dutyPct !== null ? 'typed.dutyPct' : 'rates.tax.duties'],
    ['customsValue', r.customsValue, 'money', ''],
    ['perUnit', r.inSales(perUnit, tax.currency, 'duty'), 'money', 'rates.tax.duties'],
    ['perKg', r.inSales(perKg, tax.currency, 'duty'), 'money', 'rates.tax.duties'],
    ['unitKg', product.kg, 'kg', 'product.kg'],
    ['hsCode', product.hsCode, 'text', 'product.hsCode'],
    ['origin', product.origin, 'text', 'product.origin'],
  ]);
}

/** `sum(clamp(pct * customsValue * Q, min, max) + flat) / Q` over the charges of the tax card. */
function reckonImportCharges(r: Reckoning, tax: TaxCard): void {
  const Q = r.quantity;
  if (tax.importCharges.length === 0) return;
  if (Q !== Q) {
    r.blank('duty');
    return;
  }
  for (let i = 0; i < tax.importCharges.length; i++) {
    const c = tax.importCharges[i] as (typeof tax.importCharges)[number];
    const min = c.min === null ? null : r.inSales(c.min, tax.currency, 'duty');
    const max = c.max === null ? null : r.inSales(c.max, tax.currency, 'duty');
    const boundsKnown = min === min && max === max;
    r.importCharges += boundsKnown
      ? (clamp(c.pct * r.customsValue * Q, min, max) + r.inSales(c.flat, tax.currency, 'duty')) / Q
      : Number.NaN;
  }
  r.trace?.line(
    'importCharges',
    r.importCharges,
    'sum(clamp(pct * customsValue * orderQuantity, min, max) + flat) / orderQuantity',
    [
      ['customsValue', r.customsValue, 'money', ''],
      ['orderQuantity', Q, 'pieces', 'orderQuantity'],
      ['charges', tax.importCharges.map((c) => c.name).join(', '), 'text', 'rates.tax.importCharges'],
    ],
  );
}

/**
 * `importVat = rImport * (base + duty)`; rImport is the tax card's import rate of the product's class or, where it
 * has none of
 * its own, its VAT rate. A rate that is not known is blank: a cost where VAT is one, cash where it is paid and
 * recovered.
 */
function reckonImportVat(r: Reckoning, tax: TaxCard): void {
  const { product, typed, importVatPostponed, standing } = r.doc;
  const rate = typed.importVatRate ?? tax.importVatRates?.[product.taxClass] ?? tax.vatRates[product.taxClass] ?? null;
  if (rate === 0) return;
  const isCost = r.vatIsCost !== 0;
  const isCash = isCost || !importVatPostponed;
  const onDelivery = deliveryIsBlank(r.doc) && (tax.importVatBase === 'cif' || tax.customsBasis === 'CIF');
  if (onDelivery) {
    r.blank('deliveryInImportVat');
    if (isCost) r.blank('deliveryInCost');
    if (isCash) r.blank('deliveryInCash');
  }
  if (rate === null) {
    r.blank('importVat');
    if (isCost) r.blank('importVatAsCost');
    if (isCash) r.blank('importVatAsCash');
    return;
  }
  const base = tax.importVatBase === 'cif' ? r.cifValue + r.importCharges + r.destinationLegs : r.customsValue;
  r.importVat = rate * (base + r.duty);
  if (r.vatIsCost === 0) {
    if (!importVatPostponed) r.recoverableVat += r.importVat;
  } else if (r.vatIsCost === 1) r.irrecoverableVat += r.importVat;
  else {
    r.irrecoverableVat = Number.NaN;
    r.recoverableVat = Number.NaN;
  }
  r.trace?.line('importVat', r.importVat, 'importVatRate * (base + duty)', [
    ['importVatRate', rate, 'share', typed.importVatRate !== null ? 'typed.importVatRate' : 'rates.tax.vatRates'],
    ['base', base, 'money', ''],
    ['duty', r.duty, 'money', ''],
    ['standing', standing?.kind ?? null, 'text', 'standing'],
  ]);
}

/** Rules under which freight and insurance of the main carriage are inside the price: the C and D rules. */
const FREIGHT_INSIDE = new Set<Incoterm>(['CFR', 'CPT', 'CIF', 'CIP', 'DAP', 'DPU', 'DDP']);

/**
 * Freight and insurance inside the unit price, net of VAT, per unit sold, sales currency: what leaves an FOB customs
 * value. It
 * counts under the C and D rules alone. Decision: in a bundle each quote goes by its own rule, since its own price
 * holds it.
 */
function insidePrice(r: Reckoning): number {
  const goods = r.doc.goods;
  if (goods === null || goods === 'none') return 0;
  let sum = 0;
  for (let i = 0; i < goods.length; i++) {
    const { source, unitsInSoldPack, unitsInBoughtPack } = goods[i] as (typeof goods)[number];
    if (source.kind === 'quote' && FREIGHT_INSIDE.has(source.incoterm))
      sum += (r.inSales(source.freightInPrice, source.currency, 'duty') * unitsInSoldPack) / unitsInBoughtPack;
  }
  return sum;
}

type DutyRow = { heading: string; origins: readonly string[] | null; additional: boolean };

function dutyApplies(d: DutyRow, hsCode: string, origin: string): boolean {
  return hsCode.startsWith(d.heading) && (d.origins === null || d.origins.includes(origin));
}

/**
 * The base duty: the longest heading that begins the code; among equals a row for the origin beats one for all. -1:
 * none.
 */
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
  const oversize = prep !== null && r.doc.product.oversize && prep.oversize !== null;
  const amount = prep === null ? null : oversize ? prep.oversize : prep.standard;
  if (prep === null || amount === null) {
    r.blank('prep');
    return;
  }
  r.prep = r.inSales(netOf(amount, prep), prep.currency, 'prep');
  r.landVat(r.prep, prep);
  r.trace?.line('prep', r.prep, 'amount * exchangeRate', [
    ['amount', amount, 'number', oversize ? 'prep.oversize' : 'prep.standard'],
    ['exchangeRate', r.fx(prep.currency, 'prep'), 'number', prep.currency === r.doc.currency ? '' : 'rates.exchange'],
  ]);
}
