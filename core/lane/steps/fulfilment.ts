import { unitVolume } from './shipment.ts';
import type { Reckoning, Trace } from '../reckoning.ts';
import { netOf } from '../../money/net.ts';
import type { MarketplaceCard, SizeTier } from '../../cards/rates.ts';
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
import type { PurchasedLine } from '../../money/schema.ts';
import type { LaneDocument } from '../schema.ts';

type Dispatch = Exclude<LaneDocument['dispatch'], 'none' | null>;
type Warehouse = NonNullable<MarketplaceCard['warehouse']>;

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

/** The marketplace's warehouse: which card and item it takes, or why it can not be told. */
function reckonWarehouse(r: Reckoning): void {
  const { doc } = r;
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
  const { sides, kg } = doc.product;
  if (sides === null || kg === null) {
    r.blank('fulfilment');
    r.blank('fulfilmentInPayout');
    return;
  }
  const p = parcelOf(sides[0], sides[1], sides[2], kg, parcel);
  r.fulfilment = feeOfWarehouse(r, card.marketplace, card.warehouse, p);
}

/** The fee for a parcel by a warehouse's table; NaN where no tier or step takes it. */
function feeOfWarehouse(r: Reckoning, marketplace: string, warehouse: Warehouse, p: Parcel): number {
  const at = sizeTierOf(warehouse.tiers, p);
  if (at < 0) return noTier(r, p, marketplace);
  const tier = warehouse.tiers[at] as SizeTier;
  if (tier.bands.length > 1 && isUnknown(r.itemPrice)) return Number.NaN;
  const band = tier.bands[priceBandOf(tier.bands, r.itemPrice)] as SizeTier['bands'][number];
  const billable = countedKg(tier, p) + tier.packagingKg;
  const base = stepFee(band.table, billable);
  if (isUnknown(base)) return noTier(r, p, marketplace);
  const { dangerous, oversize } = r.doc.product;
  const addOns = (dangerous ? warehouse.addOns.dangerous : 0) + (oversize ? warehouse.addOns.oversize : 0);
  const peak = warehouse.peak === null ? 0 : overTheYear(r, warehouse.peak, true);
  const fee = warehouseFee(base, addOns, peak, r.power);
  if (r.trace !== null) traceWarehouse(r.trace, fee, tier, at, p, { billable, base, addOns, peak });
  return fee;
}

function traceWarehouse(
  trace: Trace,
  fee: number,
  tier: SizeTier,
  at: number,
  p: Parcel,
  of: { billable: number; base: number; addOns: number; peak: number },
): void {
  const path = `rates.marketplace.warehouse.tiers.${at}`;
  const volumetric = tier.divisor === null ? null : volumetricKg(p, tier.divisor);
  trace.line('fulfilment', fee, 'round(stepFee + addOns + peakSurcharge)', [
    ['sizeTier', tier.name, 'text', path],
    ['unitKg', p.kg, 'kg', 'product.kg'],
    ...(volumetric === null ? [] : [['volumetricKg', volumetric, 'kg', 'product.sides'] as const]),
    ...(tier.packagingKg === 0 ? [] : [['packagingKg', tier.packagingKg, 'kg', path] as const]),
    ['billableKg', of.billable, 'kg', ''],
    ['stepFee', of.base, 'money', path],
    ['addOns', of.addOns, 'money', 'rates.marketplace.warehouse.addOns'],
    ['peakSurcharge', of.peak, 'money', 'rates.marketplace.warehouse.peak'],
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
  const { dispatch: d, product } = r.doc;
  if (d === 'none') {
    r.trace?.line('fulfilment', 0, '0', []);
    return;
  }
  if (d === null || product.kg === null || d.packaging?.amount === null || d.pickAndPack?.amount === null) {
    r.blank('fulfilment');
    return;
  }
  const kg = product.kg + d.packagingKg;
  let postage = 0;
  for (let i = 0; i < d.zones.length; i++) {
    const fee = stepFee((d.zones[i] as Dispatch['zones'][number]).postage, kg);
    if (isUnknown(fee)) {
      r.fulfilment = noPostage(r, d, i, kg);
      return;
    }
    postage += postageCost(r, d, i, fee);
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

/** What a zone's postage adds to the cost of a unit: its fee as it was purchased, by its share of the orders. */
function postageCost(r: Reckoning, d: Dispatch, at: number, fee: number): number {
  const zone = d.zones[at] as Dispatch['zones'][number];
  const { vat, vatRate, recoverable } = d;
  const { currency } = zone.postage;
  return zone.share * r.cost({ amount: fee, currency, vat, vatRate, recoverable }, 'fulfilment');
}

/** No fee for this weight: a step left open is blank (0, named); a weight beyond the table a problem (NaN). */
function noPostage(r: Reckoning, d: Dispatch, at: number, kg: number): number {
  const { postage } = d.zones[at] as Dispatch['zones'][number];
  if (stepIsOpen(postage, kg)) {
    r.blank('fulfilment');
    return 0;
  }
  const upToKg = postage.steps[postage.steps.length - 1]?.upToKg ?? 0;
  return r.problem('noPostageStep', 'fulfilment', `dispatch.zones.${at}.postage`, { kg, upToKg });
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

/** Whether cover is typed; else it follows demand, which what lies on it names where it is blank. */
function reckonCover(r: Reckoning): void {
  const { monthsHeld, demand, method } = r.doc;
  r.cover = monthsHeld !== null ? coverOfMonthsHeld(monthsHeld) : coverMonths(r.quantity, r.units);
  if (monthsHeld !== null || demand !== null) return;
  r.blank('demandInCover');
  // A supplier who ships leaves no stock in the cash cycle.
  if (method !== 'supplierShips') r.blank('demandInCycle');
}

/**
 * Storage (economics, section 5), per unit, sales currency: `m3 * (rate * C/2 + sum(bandRate * (F(from) -
 * F(to))))` with cover `C = Q / units a month` (or twice the months held) and `F(x) = max(0, C - x)^2 / (2
 * C)`.
 */
export function reckonStorage(r: Reckoning): void {
  const { doc } = r;
  const { storage } = doc;
  r.storage = 0;
  r.storageIsMarketplaces = false;
  reckonCover(r);
  if (doc.method === 'supplierShips' || storage === 'none') {
    r.trace?.line('storage', 0, '0', []);
    return;
  }
  const typed = doc.typed.storagePerM3Month;
  const own = storage !== null && storage !== 'card' ? storage.own : null;
  r.storageIsMarketplaces = own === null;
  const m3 = unitVolume(doc);
  if (((storage === null || own?.amount === null) && typed === null) || isUnknown(m3)) {
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
  const rate = own !== null ? (typed ?? r.cost(own, 'storage')) : (typed ?? cardsStorageRate(r));
  const byCard = own === null && typed === null;
  if (byCard && isUnknown(rate)) {
    r.storage = rate;
    return;
  }
  const aged = byCard ? longStayRate(r.cover, doc.rates.marketplace?.storage?.longStay ?? []) : 0;
  r.storage = storageCost(m3, rate, r.cover, aged);
  if (r.trace !== null) traceStorage(r, r.trace, m3, rate, aged);
}

/** The card's rate a cubic metre and month, sales currency; NaN where it has none or stands in another currency. */
function cardsStorageRate(r: Reckoning): number {
  const { doc } = r;
  const card = doc.rates.marketplace;
  if (card === null || card.storage === null)
    return r.problem('noStorageRates', 'storage', 'typed.storagePerM3Month', {
      marketplace: doc.marketplace || '—',
    });
  return card.currency === doc.currency ? overTheYear(r, card.storage.perM3Month, false) : Number.NaN;
}

function traceStorage(r: Reckoning, trace: Trace, m3: number, rate: number, longStay: number): void {
  const { typed, monthsHeld } = r.doc;
  const byCard = r.storageIsMarketplaces ? 'rates.marketplace.storage' : '';
  const ratePath = typed.storagePerM3Month !== null ? 'typed.storagePerM3Month' : byCard || 'storage';
  trace.line('storage', r.storage, 'unitM3 * (ratePerM3Month * coverMonths / 2 + longStay)', [
    ['unitM3', m3, 'm3', 'product.sides'],
    ['ratePerM3Month', rate, 'money', ratePath],
    ['coverMonths', r.cover, 'months', monthsHeld === null ? 'demand' : 'monthsHeld'],
    ['longStay', longStay, 'money', byCard],
  ]);
}
