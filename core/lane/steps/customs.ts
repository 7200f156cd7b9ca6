import { isUnknown } from '../../rules/numbers.ts';
import { packRatio } from '../../rules/goods.ts';
import { cifValue, duty, fobValue, importCharge, importVat, isDutyFree } from '../../rules/wayIn.ts';
/** Customs: the value that duty is taken of, duty, import charges, import VAT (economics, section 4). */
import type { TaxCard } from '../../cards/rates.ts';
import { WHEN_PAID } from '../reckoning.ts';
import type { Reckoning } from '../reckoning.ts';
import type { LaneDocument } from '../schema.ts';
import { incotermOf, FREIGHT_INSIDE } from './wayIn.ts';
import type { DutyRow } from './wayIn.ts';

/**
 * Duty, import charges and import VAT (economics, section 4), per unit sold, sales currency. All three are
 * none under DDP and where no customs border is crossed. Delivery by a supplier who ships is part of the
 * international freight: where it is blank, what is worked out from it says so.
 */
export function reckonImport(r: Reckoning): void {
  const doc = r.doc;
  r.duty = r.importCharges = r.importVat = 0;
  const intl = r.originLegs + r.mainLegs + (doc.imported ? r.supplierDeliveryNet : 0);
  r.cifValue = cifValue(r.goods, intl, r.insurance);
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
  if (tax.customsBasis === 'FOB') r.customsValue = fobValue(r.goods, r.originLegs, insidePrice(r));
  if (customsFollowCif && deliveryIsBlank(doc)) r.blank('deliveryInCost');
  reckonDuty(r, tax);
  reckonImportCharges(r, tax);
  reckonImportVat(r, tax);
}

/** Whether a supplier ships and what delivery costs is not known. */
const deliveryIsBlank = (doc: LaneDocument): boolean =>
  doc.method === 'supplierShips' &&
  (doc.supplierDelivery === null ||
    (doc.supplierDelivery !== 'none' && doc.supplierDelivery.amount === null)) &&
  doc.typed.fulfilmentFee === null;

/**
 * `duty = dutyRate * customsValue + perUnit + perKg * unit kg`; 0 where `customsValue * Q` is not above the
 * duty-free limit. Decision: amounts of the tax card are converted only where there is one, so a card of
 * percentages alone needs no rate.
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
    tax.dutyFreeLimit === null
      ? Number.NEGATIVE_INFINITY
      : r.inSales(tax.dutyFreeLimit, tax.currency, 'duty');
  const free = isDutyFree(r.customsValue, r.quantity, limit);
  if (isUnknown(limit)) r.duty = Number.NaN;
  else if (free) r.duty = 0 * r.customsValue;
  else if (perKg !== 0 && product.kg === null) {
    r.blank('duty');
    return;
  } else
    r.duty = duty(
      pct,
      r.customsValue,
      r.inSales(perUnit, tax.currency, 'duty'),
      r.inSales(perKg, tax.currency, 'duty'),
      product.kg ?? 0,
    );
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
  if (isUnknown(Q)) {
    r.blank('duty');
    return;
  }
  for (let i = 0; i < tax.importCharges.length; i++) {
    const c = tax.importCharges[i] as (typeof tax.importCharges)[number];
    const min = c.min === null ? null : r.inSales(c.min, tax.currency, 'duty');
    const max = c.max === null ? null : r.inSales(c.max, tax.currency, 'duty');
    r.importCharges += importCharge(
      c.pct,
      r.customsValue,
      Q,
      min,
      max,
      r.inSales(c.flat, tax.currency, 'duty'),
    );
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
 * `importVat = rImport * (base + duty)`; rImport is the tax card's import rate of the product's class or,
 * where it has none of its own, its VAT rate. A rate that is not known is blank: a cost where VAT is one,
 * cash where it is paid and recovered.
 */
function reckonImportVat(r: Reckoning, tax: TaxCard): void {
  const { product, typed, importVatPostponed, standing } = r.doc;
  const rate =
    typed.importVatRate ?? tax.importVatRates?.[product.taxClass] ?? tax.vatRates[product.taxClass] ?? null;
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
  const base =
    tax.importVatBase === 'cif' ? r.cifValue + r.importCharges + r.destinationLegs : r.customsValue;
  r.importVat = importVat(rate, base, r.duty);
  if (r.vatIsCost === 0 || r.vatIsCost === 1) {
    // What is postponed and recovered is declared and reclaimed at once: it is neither cash nor cost.
    if (r.vatIsCost === 1 || !importVatPostponed) r.landVatAmount(r.importVat, r.vatIsCost, WHEN_PAID.way);
  } else {
    r.irrecoverableVat = Number.NaN;
    r.recoverableVat = Number.NaN;
  }
  r.trace?.line('importVat', r.importVat, 'importVatRate * (base + duty)', [
    [
      'importVatRate',
      rate,
      'share',
      typed.importVatRate !== null ? 'typed.importVatRate' : 'rates.tax.vatRates',
    ],
    ['base', base, 'money', ''],
    ['duty', r.duty, 'money', ''],
    ['standing', standing?.kind ?? null, 'text', 'standing'],
  ]);
}

/**
 * Freight and insurance inside the unit price, net of VAT, per unit sold, sales currency: what leaves an FOB
 * customs value. It counts under the C and D rules alone. Decision: in a bundle each quote goes by its own
 * rule, since its own price holds it.
 */
function insidePrice(r: Reckoning): number {
  const goods = r.doc.goods;
  if (goods === null || goods === 'none') return 0;
  let sum = 0;
  for (let i = 0; i < goods.length; i++) {
    const { source, unitsInSoldPack, unitsInBoughtPack } = goods[i] as (typeof goods)[number];
    if (source.kind === 'quote' && FREIGHT_INSIDE.has(source.incoterm))
      sum +=
        r.inSales(source.freightInPrice, source.currency, 'duty') *
        packRatio(unitsInSoldPack, unitsInBoughtPack);
  }
  return sum;
}

function dutyApplies(d: DutyRow, hsCode: string, origin: string): boolean {
  return hsCode.startsWith(d.heading) && (d.origins === null || d.origins.includes(origin));
}

/**
 * The base duty: the longest heading that begins the code; among equals a row for the origin beats one for
 * all. -1: none.
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
