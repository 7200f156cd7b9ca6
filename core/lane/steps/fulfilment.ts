import { unitVolume } from './shipment.ts';
import type { Reckoning } from '../reckoning.ts';
import { netOf } from '../../money/net.ts';
import type { SizeTier } from '../../cards/rates.ts';
import { isUnknown, meanOfSales, meanOfYear, roundMinor, within } from '../../rules/numbers.ts';
import {
  countedKg,
  parcelOf,
  priceBandOf,
  sizeTierOf,
  stepFee,
  volumetricKg,
  warehouseFee,
} from '../../rules/parcel.ts';
import type { Parcel, WeightSteps } from '../../rules/parcel.ts';
import { coverMonths, coverOfMonthsHeld, longStayRate, storage as storageCost } from '../../rules/storage.ts';
import type { LongStay } from '../../rules/storage.ts';
import type { PurchasedLine } from '../../money/schema.ts';

const parcel: Parcel = { L: 0, W: 0, H: 0, kg: 0 };

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
      ? roundMinor(doc.typed.fulfilmentFee, r.power)
      : doc.typed.fulfilmentFee;
    r.trace?.line('fulfilment', r.fulfilment, 'fee', [
      ['fee', doc.typed.fulfilmentFee, 'money', 'typed.fulfilmentFee'],
    ]);
    return;
  }
  if (doc.method === 'warehouse') reckonWarehouse(r);
  else if (doc.method === 'ownDispatch') reckonDispatch(r);
  else reckonDelivery(r);
}

function reckonWarehouse(r: Reckoning): void {
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
  if (tier.bands.length > 1 && isUnknown(r.itemPrice)) {
    r.fulfilment = Number.NaN;
    return;
  }
  const band = tier.bands[priceBandOf(tier.bands, r.itemPrice)] as SizeTier['bands'][number];
  const billable = countedKg(tier, p) + tier.packagingKg;
  const base = stepFee(band.table, billable);
  if (isUnknown(base)) {
    r.fulfilment = noTier(r, p, card.marketplace);
    return;
  }
  const addOns =
    (doc.product.dangerous ? card.warehouse.addOns.dangerous : 0) +
    (doc.product.oversize ? card.warehouse.addOns.oversize : 0);
  const peak = card.warehouse.peak === null ? 0 : overTheYear(r, card.warehouse.peak, true);
  r.fulfilment = warehouseFee(base, addOns, peak, r.power);
  r.trace?.line('fulfilment', r.fulfilment, 'round(stepFee + addOns + peakSurcharge)', [
    ['sizeTier', tier.name, 'text', `rates.marketplace.warehouse.tiers.${at}`],
    ['unitKg', doc.product.kg, 'kg', 'product.kg'],
    ...(tier.divisor === null
      ? []
      : [['volumetricKg', volumetricKg(p, tier.divisor), 'kg', 'product.sides'] as const]),
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
  return followsSales && doc.season !== null ? meanOfSales(months, doc.season) : meanOfYear(months);
}

/** Whether the step that holds a weight was opened and has no fee yet. */
function stepIsOpen({ steps, stepKg }: WeightSteps, kg: number): boolean {
  return (
    (steps.find((s) => within(kg, s.upToKg)) ?? (stepKg === null ? undefined : steps[steps.length - 1]))
      ?.fee === null
  );
}

function reckonDispatch(r: Reckoning): void {
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
    if (isUnknown(fee)) {
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
function reckonDelivery(r: Reckoning): void {
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
  r.cover = doc.monthsHeld !== null ? coverOfMonthsHeld(doc.monthsHeld) : coverMonths(r.quantity, r.units);
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
  if (isUnknown(m3)) {
    storageIsBlank(r);
    return;
  }
  if (doc.monthsHeld === null) {
    if (r.units <= 1e-9) {
      r.storage = r.problem('zeroUnits', 'storage', 'demand');
      return;
    }
    if (isUnknown(r.cover)) {
      storageIsBlank(r);
      return;
    }
  }
  const C = r.cover;
  const card = doc.rates.marketplace;
  let rate: number;
  let longStay: readonly LongStay[] = [];
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
  const aged = longStayRate(C, longStay);
  r.storage = storageCost(m3, rate, C, aged);
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
