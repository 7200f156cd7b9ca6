/** What selling a row brings and costs: revenue and VAT, fulfilment, fees, storage, charges of the card. */
import { BIT } from '../lane/blanks.ts';
import type { FeeBase } from '../cards/rates.ts';
import { paymentFee, referralBeforeBounds, referralFee, surcharge } from '../rules/fees.ts';
import { isUnknown, roundMinor } from '../rules/numbers.ts';
import { priceBandOf } from '../rules/parcel.ts';
import type { PriceBands } from '../rules/parcel.ts';
import { containedVat, flatRateVat, netRevenue, withCheckoutTax, withoutVat } from '../rules/revenue.ts';
import { coverMonths, longStayRate, storage } from '../rules/storage.ts';
import { volumeM3 } from '../rules/wayIn.ts';
import { BENDS, NO_STEP, fillRows } from './block.ts';
import type { Block, FeeColumn, Slice } from './block.ts';
import { CODE } from './terms.ts';
import type { Category, Surcharge } from './terms.ts';

/** A fee that follows the price: rounded once, unless the solver asks for the unrounded function. */
export const charged = (fee: number, power: number, bends: Float64Array | null): number =>
  bends === null ? roundMinor(fee, power) : fee;

/** Revenue and output VAT (economics, section 2); without discount or charged delivery gross is the shelf price. */
export function reckonRevenues({ columns, terms, out, prices, from, at, count }: Slice): void {
  const { taxClass } = columns;
  const { gross, netRevenue: net, blanks, trouble } = out;
  const { classRates, owesVat, isInclusive, isStandingMissing, flatRate, lacksTaxCard } = terms;
  const canLackClass = isInclusive && !lacksTaxCard;
  const lacksVat = isInclusive && isStandingMissing;
  for (let j = 0; j < count; j++) {
    const shelf = prices[at + j] as number;
    const rate = classRates[taxClass[from + j] as number] as number;
    const vat = owesVat
      ? flatRate === null
        ? containedVat(shelf, rate)
        : flatRateVat(shelf, flatRate)
      : lacksVat
        ? Number.NaN
        : 0;
    gross[at + j] = shelf;
    net[at + j] = netRevenue(shelf, vat);
    if (isUnknown(shelf)) blanks[at + j] = (blanks[at + j] as number) | BIT.price;
    if (canLackClass && isUnknown(rate)) trouble[at + j] = CODE.noTaxClass;
  }
}

/** The amounts fees may be charged on beside the price itself (section 2), where the card charges any on them. */
export function reckonFeeBases({ columns, block, terms, out, from, at, count }: Slice): void {
  const { taxClass } = columns;
  const { gross } = out;
  const { netBase, buyerPays } = block;
  const { classRates, owesVat, isInclusive, isStandingMissing, checkoutTax } = terms;
  if (!terms.hasOtherBases) return;
  const lacksVat = isInclusive && isStandingMissing;
  for (let j = 0; j < count; j++) {
    const shelf = gross[at + j] as number;
    const rate = classRates[taxClass[from + j] as number] as number;
    netBase[j] = owesVat ? withoutVat(shelf, rate) : lacksVat ? Number.NaN : shelf;
    buyerPays[j] = withCheckoutTax(shelf, checkoutTax);
  }
}

/** Fulfilment (section 5): by the marketplace's warehouse, or one's own dispatch. */
export function reckonFulfilments(slice: Slice): void {
  if (slice.terms.isWarehouse) warehouseFees(slice);
  else postages(slice);
}

function warehouseFees({ columns, block, terms, out, prepared, width, from, at, count }: Slice): void {
  const { a, b, c, kg } = columns;
  const { fulfilment } = block;
  const { gross, blanks, trouble } = out;
  const { bandFees, tiers } = prepared;
  const { card, cardFits, bandsOf } = terms;
  if (card === null || card.warehouse === null || !cardFits) {
    fillRows(fulfilment, Number.NaN, 0, count);
    if (card !== null && card.warehouse === null) trouble.fill(CODE.noWarehouse, at, at + count);
    return;
  }
  for (let j = 0; j < count; j++) {
    const i = from + j;
    const isSized = !isUnknown((a[i] as number) + (b[i] as number) + (c[i] as number) + (kg[i] as number));
    const tier = tiers[i] as number;
    fulfilment[j] = isSized ? Number.NaN : 0;
    if (!isSized) blanks[at + j] = (blanks[at + j] as number) | BIT.fulfilment;
    else if (tier < 0) trouble[at + j] = CODE.noSizeTier;
    else {
      const bands = bandsOf[tier] as PriceBands;
      const price = gross[at + j] as number;
      if (bands.length > 1 && isUnknown(price)) continue;
      const fee = bandFees[i * width + (bands.length > 1 ? priceBandOf(bands, price) : 0)] as number;
      fulfilment[j] = fee;
      if (isUnknown(fee)) trouble[at + j] = CODE.noSizeTier;
    }
  }
}

function postages({ columns, block, terms, out, prepared, width, from, at, count }: Slice): void {
  const { kg } = columns;
  const { fulfilment } = block;
  const { blanks, trouble } = out;
  const { bandFees, tiers } = prepared;
  for (let j = 0; j < count; j++) {
    const i = from + j;
    fulfilment[j] = 0;
    if (terms.dispatch === null || isUnknown(kg[i] as number)) {
      blanks[at + j] = (blanks[at + j] as number) | BIT.fulfilment;
      continue;
    }
    const fee = bandFees[i * width] as number;
    fulfilment[j] = fee;
    if (!isUnknown(fee)) continue;
    if (tiers[i] === NO_STEP) trouble[at + j] = CODE.noPostageStep;
    else if (trouble[at + j] === 0) trouble[at + j] = CODE.noExchangeRate;
  }
}

/** The amount a fee is charged on. */
const baseOf = (base: FeeBase, gross: number, net: number, buyerPays: number): number =>
  base === 'net' ? net : base === 'buyerPays' ? buyerPays : gross;

/** Referral, item and payment fee (section 5), each rounded once. */
export function reckonSaleFees(slice: Slice): void {
  const { block, terms, out, at, count } = slice;
  const { card, cardFits } = terms;
  if (card !== null && cardFits) {
    referrals(slice);
    payments(slice);
    return;
  }
  out.trouble.fill(card === null ? CODE.noMarketplaceCard : CODE.cardCurrency, at, at + count);
  fillRows(block.referral, Number.NaN, 0, count);
  fillRows(block.itemFee, card === null ? 0 : Number.NaN, 0, count);
  fillRows(block.payment, card === null ? 0 : Number.NaN, 0, count);
}

function referrals({ columns, block, terms, out, bends, from, at, count }: Slice): void {
  const { category } = columns;
  const { netBase, buyerPays, referral, itemFee } = block;
  const { gross, blanks, trouble } = out;
  const { categories, cardItemFee, power } = terms;
  for (let j = 0; j < count; j++) {
    const place = category[from + j] as number;
    if (place < 0) {
      itemFee[j] = cardItemFee;
      referral[j] = place === -1 ? 0 : Number.NaN;
      if (place === -1) blanks[at + j] = (blanks[at + j] as number) | BIT.referral;
      else trouble[at + j] = CODE.categoryNotOnCard;
      continue;
    }
    const own = categories[place] as Category;
    const { min, max } = own.rule;
    const base = baseOf(own.base, gross[at + j] as number, netBase[j] as number, buyerPays[j] as number);
    const raw = referralBeforeBounds(own.rule, base);
    itemFee[j] = own.itemFee;
    referral[j] = charged(referralFee(raw, min, max), power, bends);
    if (bends !== null) {
      bends[BENDS.referralMin] = min === null ? 0 : raw - min;
      bends[BENDS.referralMax] = max === null ? 0 : raw - max;
    }
  }
}

function payments({ block, terms, out, bends, at, count }: Slice): void {
  const { netBase, buyerPays, payment } = block;
  const { gross } = out;
  const { cardPayment, power } = terms;
  if (cardPayment === null) {
    fillRows(payment, 0, 0, count);
    return;
  }
  const { pct, fixed, base } = cardPayment;
  for (let j = 0; j < count; j++) {
    const on = baseOf(base, gross[at + j] as number, netBase[j] as number, buyerPays[j] as number);
    payment[j] = charged(paymentFee(pct, on, fixed), power, bends);
  }
}

/** Storage with the marketplace while the order sells off (section 5). */
export function reckonStorages({ columns, block, terms, out, from, at, count }: Slice): void {
  const { a, b, c } = columns;
  const { sells, storage: stored } = block;
  const { quantity, blanks, trouble } = out;
  const { card, cardFits, isMonthsHeld, fixedCover, storageRate, longStay } = terms;
  fillRows(stored, 0, 0, count);
  if (!terms.isWarehouse) return;
  for (let j = 0; j < count; j++) {
    const i = from + j;
    const m3 = volumeM3(a[i] as number, b[i] as number, c[i] as number);
    const cover = isMonthsHeld ? fixedCover : coverMonths(quantity[at + j] as number, sells[j] as number);
    if (isUnknown(m3)) blanks[at + j] = (blanks[at + j] as number) | BIT.storage;
    else if (!isMonthsHeld && (sells[j] as number) <= 1e-9) {
      stored[j] = Number.NaN;
      trouble[at + j] = CODE.zeroUnits;
    } else if (isUnknown(cover)) blanks[at + j] = (blanks[at + j] as number) | BIT.storage;
    else if (card === null || card.storage === null || !cardFits) {
      stored[j] = Number.NaN;
      if ((card === null || card.storage === null) && trouble[at + j] === 0)
        trouble[at + j] = CODE.noStorageRates;
    } else stored[j] = storage(m3, storageRate, cover, longStayRate(cover, longStay));
  }
}

/** Surcharges, and the fees that bear VAT (section 5). */
export function reckonCharges({ block, terms, bends, count }: Slice): void {
  fillRows(block.surcharges, 0, 0, count);
  const { surchargeTerms } = terms;
  for (let k = 0; k < surchargeTerms.length; k++) {
    const { pct, on } = surchargeTerms[k] as Surcharge;
    sumFees(block, on, block.feeSum, count);
    addSurcharge(block, pct, terms.power, bends, count);
  }
  sumFees(block, terms.bearing, block.feesWithVat, count);
}

function addSurcharge(
  { feeSum, surcharges }: Block,
  pct: number,
  power: number,
  bends: Float64Array | null,
  count: number,
): void {
  for (let j = 0; j < count; j++)
    surcharges[j] = (surcharges[j] as number) + charged(surcharge(pct, feeSum[j] as number), power, bends);
}

/** The named fees of each row, added up. */
function sumFees(block: Block, fees: readonly FeeColumn[], into: Float64Array, count: number): void {
  fillRows(into, 0, 0, count);
  for (let k = 0; k < fees.length; k++) {
    const fee = feesIn(block, fees[k] as FeeColumn);
    for (let j = 0; j < count; j++) into[j] = (into[j] as number) + (fee[j] as number);
  }
}

/** The column of a fee, by a name that is looked up once a block. */
export function feesIn(block: Block, fee: FeeColumn): Float64Array {
  switch (fee) {
    case 'referral':
      return block.referral;
    case 'itemFee':
      return block.itemFee;
    case 'payment':
      return block.payment;
    case 'surcharges':
      return block.surcharges;
    case 'fulfilment':
      return block.fulfilment;
    case 'storage':
      return block.storage;
  }
}
