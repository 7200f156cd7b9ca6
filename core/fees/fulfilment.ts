import { unitVolume } from '../freight/shipment.ts';
import type { Reckoning } from '../lane/reckoning.ts';
import { netOf } from '../lane/reckoning.ts';
import type { SizeTier } from '../lane/rates.ts';
import { up, within } from '../money/money.ts';
import type { PurchasedLine } from '../money/schema.ts';

/** Parcel sides sorted, longest first, cm, and weight, kg. */
export type Parcel = { L: number; W: number; H: number; kg: number };

/** Weight a tier counts: the scale's, or the volumetric weight where the tier has a divisor and that is more. */
export function countedKg(tier: SizeTier, p: Parcel): number {
  return tier.divisor === null ? p.kg : Math.max(p.kg, (p.L * p.W * p.H) / tier.divisor);
}

/** Whether the parcel is within the limits of a tier; blank limits do not bind. */
export function fitsTier(tier: SizeTier, p: Parcel): boolean {
  return (
    (tier.maxL === null || within(p.L, tier.maxL)) &&
    (tier.maxW === null || within(p.W, tier.maxW)) &&
    (tier.maxH === null || within(p.H, tier.maxH)) &&
    (tier.maxKg === null || within(countedKg(tier, p), tier.maxKg)) &&
    (tier.maxLengthGirth === null || within(p.L + 2 * (p.W + p.H), tier.maxLengthGirth))
  );
}

/** Index of the first tier, in the card's order, that takes the parcel; -1 where none does. */
export function sizeTierOf(tiers: readonly SizeTier[], p: Parcel): number {
  for (let i = 0; i < tiers.length; i++) if (fitsTier(tiers[i] as SizeTier, p)) return i;
  return -1;
}

/** Index of the price band that holds `itemPrice` (upper limit inclusive). */
export function priceBandOf(tier: SizeTier, itemPrice: number): number {
  for (let i = 0; i < tier.bands.length; i++) {
    const b = tier.bands[i] as SizeTier['bands'][number];
    if (b.upToPrice === null || within(itemPrice, b.upToPrice)) return i;
  }
  return tier.bands.length - 1;
}

type Steps = {
  readonly steps: readonly { readonly upToKg: number; readonly fee: number | null }[];
  readonly stepKg: number | null;
  readonly stepFee: number;
};

/**
 * Fee of a weight: the first step that holds it; past the last, `lastFee + up((kg - lastUpTo) / stepKg) *
 * stepFee`. NaN where the table ends (no stepKg), or the step that holds it has no fee yet.
 */
export function stepFee(table: Steps, kg: number): number {
  const steps = table.steps;
  for (let i = 0; i < steps.length; i++) {
    const s = steps[i] as Steps['steps'][number];
    if (within(kg, s.upToKg)) return s.fee ?? Number.NaN;
  }
  const last = steps[steps.length - 1] as Steps['steps'][number];
  return table.stepKg === null
    ? Number.NaN
    : (last.fee ?? Number.NaN) + up((kg - last.upToKg) / table.stepKg) * table.stepFee;
}

const parcel: Parcel = { L: 0, W: 0, H: 0, kg: 0 };

/** Sorts three sides into a parcel. Writes into `out` and returns it. */
export function parcelOf(a: number, b: number, c: number, kg: number, out: Parcel): Parcel {
  out.L = Math.max(a, b, c);
  out.H = Math.min(a, b, c);
  out.W = a + b + c - out.L - out.H;
  // Sums of three sides may lose the last bit; the middle side is one of the three.
  out.W = Math.abs(out.W - a) < 1e-9 * a ? a : Math.abs(out.W - b) < 1e-9 * b ? b : c;
  out.kg = kg;
  return out;
}

/**
 * Fulfilment by method (economics, section 5), per unit, sales currency; the warehouse fee rounded, others as
 * purchased. Decision: where a supplier ships, a fee typed on the lane stands for a delivery left blank, in
 * customs as in fulfilment.
 */
export function reckonFulfilment(r: Reckoning): void {
  const doc = r.doc;
  r.fulfilment = 0;
  if (doc.method === 'supplierShips' && doc.supplierDelivery !== 'none')
    r.supplierDeliveryNet = deliveryNet(r, doc.supplierDelivery);
  r.fulfilmentIsMarketplaces = false;
  if (doc.typed.fulfilmentFee !== null) {
    r.fulfilmentIsMarketplaces = doc.method === 'warehouse';
    r.fulfilment = r.fulfilmentIsMarketplaces
      ? Math.floor(doc.typed.fulfilmentFee * r.power + 0.5 + 1e-7) / r.power
      : doc.typed.fulfilmentFee;
    r.trace?.line('fulfilment', r.fulfilment, 'fee', [
      ['fee', doc.typed.fulfilmentFee, 'money', 'typed.fulfilmentFee'],
    ]);
    return;
  }
  if (doc.method === 'warehouse') warehouseFee(r);
  else if (doc.method === 'ownDispatch') dispatchCost(r);
  else supplierDelivery(r);
}

function warehouseFee(r: Reckoning): void {
  const doc = r.doc;
  const card = doc.rates.marketplace;
  r.fulfilmentIsMarketplaces = true;
  if (card === null) {
    r.fulfilment = r.problem('noMarketplaceCard', 'fulfilment', 'rates.marketplace', {
      marketplace: doc.marketplace || '—',
      country: doc.country,
    });
    return;
  }
  if (card.warehouse === null) {
    r.fulfilment = r.problem('noWarehouse', 'fulfilment', 'method', {
      marketplace: card.marketplace,
      country: doc.country,
    });
    return;
  }
  if (card.currency !== doc.currency) {
    r.fulfilment = Number.NaN;
    return;
  }
  const sides = doc.product.sides;
  if (sides === null || doc.product.kg === null) {
    r.blank('fulfilment');
    r.blank('fulfilmentInPayout');
    return;
  }
  const p = parcelOf(sides[0], sides[1], sides[2], doc.product.kg, parcel);
  const at = sizeTierOf(card.warehouse.tiers, p);
  if (at < 0) {
    r.fulfilment = noTier(r, p, card.marketplace);
    return;
  }
  const tier = card.warehouse.tiers[at] as SizeTier;
  if (tier.bands.length > 1 && r.itemPrice !== r.itemPrice) {
    r.fulfilment = Number.NaN;
    return;
  }
  const band = tier.bands[priceBandOf(tier, r.itemPrice)] as SizeTier['bands'][number];
  const billable = countedKg(tier, p) + tier.packagingKg;
  const base = stepFee(band.table, billable);
  if (base !== base) {
    r.fulfilment = noTier(r, p, card.marketplace);
    return;
  }
  const addOns =
    (doc.product.dangerous ? card.warehouse.addOns.dangerous : 0) +
    (doc.product.oversize ? card.warehouse.addOns.oversize : 0);
  const peak = card.warehouse.peak === null ? 0 : overTheYear(r, card.warehouse.peak, true);
  const sum = base + addOns + peak;
  r.fulfilment = Math.floor(sum * r.power + 0.5 + 1e-7) / r.power;
  r.trace?.line('fulfilment', r.fulfilment, 'round(stepFee + addOns + peakSurcharge)', [
    ['sizeTier', tier.name, 'text', `rates.marketplace.warehouse.tiers.${at}`],
    ['unitKg', doc.product.kg, 'kg', 'product.kg'],
    ...(tier.divisor === null
      ? []
      : [['volumetricKg', (p.L * p.W * p.H) / tier.divisor, 'kg', 'product.sides'] as const]),
    ...(tier.packagingKg === 0
      ? []
      : [['packagingKg', tier.packagingKg, 'kg', `rates.marketplace.warehouse.tiers.${at}`] as const]),
    ['billableKg', billable, 'kg', ''],
    ['stepFee', base, 'money', `rates.marketplace.warehouse.tiers.${at}`],
    ['addOns', addOns, 'money', 'rates.marketplace.warehouse.addOns'],
    ['peakSurcharge', peak, 'money', 'rates.marketplace.warehouse.peak'],
  ]);
}

function noTier(r: Reckoning, p: Parcel, marketplace: string): number {
  return r.problem('noSizeTier', 'fulfilment', 'product.sides', {
    marketplace,
    sides: `${p.L} × ${p.W} × ${p.H}`,
    kg: p.kg,
  });
}

/**
 * A yearly amount from twelve monthly ones (section 5): that of the sale month where the lane sets it; else
 * their mean, or, for what follows sales, the mean weighted by the season's index.
 */
function overTheYear(r: Reckoning, months: readonly number[], followsSales: boolean): number {
  const doc = r.doc;
  if (doc.saleMonth !== null) return months[doc.saleMonth - 1] as number;
  let sum = 0;
  if (followsSales && doc.season !== null) {
    // Each month's amount by its season's value over their mean, as `seasonIndex` has it, without a list of
    // its own.
    let sold = 0;
    for (let i = 0; i < 12; i++) {
      sold += doc.season[i] as number;
      sum += (doc.season[i] as number) * (months[i] as number);
    }
    return sum / sold;
  }
  for (let i = 0; i < 12; i++) sum += months[i] as number;
  return sum / 12;
}

/** Whether the step that holds a weight was opened and has no fee yet. */
function stepIsOpen({ steps, stepKg }: Steps, kg: number): boolean {
  return (
    (steps.find((s) => within(kg, s.upToKg)) ?? (stepKg === null ? undefined : steps[steps.length - 1]))
      ?.fee === null
  );
}

function dispatchCost(r: Reckoning): void {
  const doc = r.doc;
  const d = doc.dispatch;
  if (d === 'none') {
    r.trace?.line('fulfilment', 0, '0', []);
    return;
  }
  if (
    d === null ||
    doc.product.kg === null ||
    d.packaging?.amount === null ||
    d.pickAndPack?.amount === null
  ) {
    r.blank('fulfilment');
    return;
  }
  const kg = doc.product.kg + d.packagingKg;
  let postage = 0;
  for (let i = 0; i < d.zones.length; i++) {
    const zone = d.zones[i] as (typeof d.zones)[number];
    const fee = stepFee(zone.postage, kg);
    if (fee !== fee) {
      const { steps } = zone.postage;
      if (stepIsOpen(zone.postage, kg)) {
        r.blank('fulfilment');
        r.fulfilment = 0;
        return;
      }
      r.fulfilment = r.problem('noPostageStep', 'fulfilment', `dispatch.zones.${i}.postage`, {
        kg,
        upToKg: steps[steps.length - 1]?.upToKg ?? 0,
      });
      return;
    }
    postage +=
      zone.share *
      r.cost(
        {
          amount: fee,
          currency: zone.postage.currency,
          vat: d.vat,
          vatRate: d.vatRate,
          recoverable: d.recoverable,
        },
        'fulfilment',
      );
  }
  const packaging = d.packaging === null ? 0 : r.cost(d.packaging, 'fulfilment');
  const picking = d.pickAndPack === null ? 0 : r.cost(d.pickAndPack, 'fulfilment');
  r.fulfilment = postage + packaging + picking;
  r.trace?.line('fulfilment', r.fulfilment, 'sum(zoneShare * postage) + packaging + pickAndPack', [
    ['postage', postage, 'money', 'dispatch.zones'],
    ['parcelKg', kg, 'kg', 'product.kg'],
    ['packaging', packaging, 'money', 'dispatch.packaging'],
    ['pickAndPack', picking, 'money', 'dispatch.pickAndPack'],
  ]);
}

/**
 * Delivery by the supplier a unit, net of VAT, sales currency; 0 where it is blank, which whatever it belongs
 * in says.
 */
function deliveryNet(r: Reckoning, line: PurchasedLine | null): number {
  if (line === null || line.amount === null) return r.doc.typed.fulfilmentFee ?? 0;
  return r.doc.imported ? r.inSales(netOf(line.amount, line), line.currency, 'fulfilment') / r.quantity : 0;
}

/** Delivery by the supplier, per order: spread over the units of an order (1 unless typed). */
function supplierDelivery(r: Reckoning): void {
  const line = r.doc.supplierDelivery;
  if (line === 'none') {
    r.trace?.line('fulfilment', 0, '0', []);
    return;
  }
  if (line === null || line.amount === null) {
    r.blank('fulfilment');
    return;
  }
  r.fulfilment = r.cost(line, 'fulfilment') / r.quantity;
  r.trace?.line('fulfilment', r.fulfilment, 'delivery / orderQuantity', [
    ['delivery', line.amount, 'number', 'supplierDelivery'],
    ['orderQuantity', r.quantity, 'pieces', 'orderQuantity'],
  ]);
}

function storageIsBlank(r: Reckoning): void {
  r.blank('storage');
  if (r.storageIsMarketplaces) r.blank('storageInPayout');
}

/**
 * Storage (economics, section 5), per unit, sales currency: `m3 * (rate * C/2 + sum(bandRate * (F(from) -
 * F(to))))` with cover `C = Q / units a month` (or twice the months held) and `F(x) = max(0, C - x)^2 / (2
 * C)`.
 */
export function reckonStorage(r: Reckoning): void {
  const doc = r.doc;
  r.storage = 0;
  r.storageIsMarketplaces = false;
  r.cover = doc.monthsHeld !== null ? 2 * doc.monthsHeld : r.units > 1e-9 ? r.quantity / r.units : Number.NaN;
  if (doc.monthsHeld === null && doc.demand === null) {
    r.blank('demandInCover');
    // A supplier who ships leaves no stock in the cash cycle.
    if (doc.method !== 'supplierShips') r.blank('demandInCycle');
  }
  const storage = doc.storage;
  if (doc.method === 'supplierShips' || storage === 'none') {
    r.trace?.line('storage', 0, '0', []);
    return;
  }
  const typed = doc.typed.storagePerM3Month;
  const own = storage !== null && storage !== 'card' ? storage.own : null;
  r.storageIsMarketplaces = own === null;
  if ((storage === null || own?.amount === null) && typed === null) {
    storageIsBlank(r);
    return;
  }
  const m3 = unitVolume(doc);
  if (m3 !== m3) {
    storageIsBlank(r);
    return;
  }
  if (doc.monthsHeld === null) {
    if (r.units <= 1e-9) {
      r.storage = r.problem('zeroUnits', 'storage', 'demand');
      return;
    }
    if (r.cover !== r.cover) {
      storageIsBlank(r);
      return;
    }
  }
  const C = r.cover;
  const card = doc.rates.marketplace;
  let rate: number;
  let longStay: readonly { fromMonths: number; toMonths: number | null; rate: number }[] = [];
  if (own !== null) rate = typed ?? r.cost(own, 'storage');
  else if (typed !== null) rate = typed;
  else if (card === null || card.storage === null) {
    r.storage = r.problem('noStorageRates', 'storage', 'typed.storagePerM3Month', {
      marketplace: doc.marketplace || '—',
    });
    return;
  } else if (card.currency !== doc.currency) {
    r.storage = Number.NaN;
    return;
  } else {
    rate = overTheYear(r, card.storage.perM3Month, false);
    longStay = card.storage.longStay;
  }
  let aged = 0;
  for (let i = 0; i < longStay.length; i++) {
    const b = longStay[i] as (typeof longStay)[number];
    aged += b.rate * (agedShare(C, b.fromMonths) - (b.toMonths === null ? 0 : agedShare(C, b.toMonths)));
  }
  r.storage = m3 * ((rate * C) / 2 + aged);
  r.trace?.line('storage', r.storage, 'unitM3 * (ratePerM3Month * coverMonths / 2 + longStay)', [
    ['unitM3', m3, 'm3', 'product.sides'],
    [
      'ratePerM3Month',
      rate,
      'money',
      typed !== null ? 'typed.storagePerM3Month' : own !== null ? 'storage' : 'rates.marketplace.storage',
    ],
    ['coverMonths', C, 'months', doc.monthsHeld === null ? 'demand' : 'monthsHeld'],
    ['longStay', aged, 'money', own === null ? 'rates.marketplace.storage' : ''],
  ]);
}

/** Average months a unit spends past the age of x months while a cover of C months sells off evenly. */
export function agedShare(C: number, x: number): number {
  if (C <= 0) return 0;
  const over = Math.max(0, C - x);
  return (over * over) / (2 * C);
}
