/** What selling a row brings and costs: revenue and VAT, fulfilment, fees, storage, charges of the card. */
import { BIT } from '../lane/lines.ts';
import type { FeeBase } from '../lane/rates.ts';
import { paymentFee, referralBeforeBounds, referralFee, surcharge } from '../rules/fees.ts';
import { isUnknown, roundMinor } from '../rules/numbers.ts';
import { priceBandOf } from '../rules/parcel.ts';
import type { PriceBands } from '../rules/parcel.ts';
import { containedVat, flatRateVat, netRevenue, withCheckoutTax, withoutVat } from '../rules/revenue.ts';
import { coverMonths, longStayRate, storage } from '../rules/storage.ts';
import { volumeM3 } from '../rules/wayIn.ts';
import { BENDS, NO_STEP } from './block.ts';
import type { Block, Slice } from './block.ts';
import { CODE } from './terms.ts';
import type { Category, Surcharge, Terms } from './terms.ts';

/** A fee that follows the price: rounded once, unless the solver asks for the unrounded function. */
export const charged = (fee: number, power: number, bends: Float64Array | null): number =>
  bends === null ? roundMinor(fee, power) : fee;

/** Revenue and output VAT (economics, section 2); without discount or charged delivery gross is the shelf price. */
export function reckonRevenues({ columns, block, terms, prices, shift, from, count }: Slice): void {
  const { taxClass } = columns;
  const { gross, netBase, buyerPays, withheldVat, netRevenue: net, blanks, troubles } = block;
  const { classRates, owesVat, isInclusive, isStandingMissing, isWithheld, flatRate, checkoutTax } = terms;
  const lacksVat = isInclusive && isStandingMissing;
  for (let j = 0; j < count; j++) {
    const i = from + j;
    const shelf = prices[i - shift] as number;
    const rate = classRates[taxClass[i] as number] as number;
    const vat = owesVat
      ? flatRate === null
        ? containedVat(shelf, rate)
        : flatRateVat(shelf, flatRate)
      : lacksVat
        ? Number.NaN
        : 0;
    gross[j] = shelf;
    netBase[j] = owesVat ? withoutVat(shelf, rate) : lacksVat ? Number.NaN : shelf;
    buyerPays[j] = withCheckoutTax(shelf, checkoutTax);
    withheldVat[j] = isWithheld && owesVat ? vat : 0;
    net[j] = netRevenue(shelf, vat);
    blanks[j] = isUnknown(shelf) ? terms.blanks | BIT.price : terms.blanks;
    troubles[j] =
      isInclusive && isUnknown(rate) && terms.trouble !== CODE.noTaxCard ? CODE.noTaxClass : terms.trouble;
  }
}

/** Fulfilment (section 5): by the marketplace's warehouse, or one's own dispatch. */
export function reckonFulfilments(slice: Slice): void {
  if (slice.terms.isWarehouse) warehouseFees(slice);
  else postages(slice);
}

function warehouseFees({ columns, block, terms, prepared, width, from, count }: Slice): void {
  const { a, b, c, kg } = columns;
  const { gross, fulfilment, blanks, troubles } = block;
  const { bandFees, tiers } = prepared;
  const { card, cardFits, bandsOf } = terms;
  if (card === null || card.warehouse === null || !cardFits) {
    fulfilment.fill(Number.NaN, 0, count);
    if (card !== null && card.warehouse === null) troubles.fill(CODE.noWarehouse, 0, count);
    return;
  }
  for (let j = 0; j < count; j++) {
    const i = from + j;
    const isSized = !isUnknown((a[i] as number) + (b[i] as number) + (c[i] as number) + (kg[i] as number));
    const tier = tiers[i] as number;
    fulfilment[j] = isSized ? Number.NaN : 0;
    if (!isSized) blanks[j] = (blanks[j] as number) | BIT.fulfilment;
    else if (tier < 0) troubles[j] = CODE.noSizeTier;
    else {
      const bands = bandsOf[tier] as PriceBands;
      const price = gross[j] as number;
      if (bands.length > 1 && isUnknown(price)) continue;
      const fee = bandFees[i * width + (bands.length > 1 ? priceBandOf(bands, price) : 0)] as number;
      fulfilment[j] = fee;
      if (isUnknown(fee)) troubles[j] = CODE.noSizeTier;
    }
  }
}

function postages({ columns, block, terms, prepared, width, from, count }: Slice): void {
  const { kg } = columns;
  const { fulfilment, blanks, troubles } = block;
  const { bandFees, tiers } = prepared;
  for (let j = 0; j < count; j++) {
    const i = from + j;
    fulfilment[j] = 0;
    if (terms.dispatch === null || isUnknown(kg[i] as number)) {
      blanks[j] = (blanks[j] as number) | BIT.fulfilment;
      continue;
    }
    const fee = bandFees[i * width] as number;
    fulfilment[j] = fee;
    if (!isUnknown(fee)) continue;
    if (tiers[i] === NO_STEP) troubles[j] = CODE.noPostageStep;
    else if (troubles[j] === 0) troubles[j] = CODE.noExchangeRate;
  }
}

/** The amount a fee is charged on. */
const baseOf = (base: FeeBase, gross: number, net: number, buyerPays: number): number =>
  base === 'net' ? net : base === 'buyerPays' ? buyerPays : gross;

/** Referral, item and payment fee (section 5), each rounded once. */
export function reckonSaleFees(slice: Slice): void {
  const { block, terms, count } = slice;
  const { card, cardFits } = terms;
  if (card !== null && cardFits) {
    referrals(slice);
    payments(slice);
    return;
  }
  block.troubles.fill(card === null ? CODE.noMarketplaceCard : CODE.cardCurrency, 0, count);
  block.referral.fill(Number.NaN, 0, count);
  block.itemFee.fill(card === null ? 0 : Number.NaN, 0, count);
  block.payment.fill(card === null ? 0 : Number.NaN, 0, count);
}

function referrals({ columns, block, terms, bends, from, count }: Slice): void {
  const { category } = columns;
  const { gross, netBase, buyerPays, referral, itemFee, blanks, troubles } = block;
  const { categories, cardItemFee, power } = terms;
  for (let j = 0; j < count; j++) {
    const place = category[from + j] as number;
    if (place < 0) {
      itemFee[j] = cardItemFee;
      referral[j] = place === -1 ? 0 : Number.NaN;
      if (place === -1) blanks[j] = (blanks[j] as number) | BIT.referral;
      else troubles[j] = CODE.categoryNotOnCard;
      continue;
    }
    const own = categories[place] as Category;
    const { min, max } = own.rule;
    const base = baseOf(own.base, gross[j] as number, netBase[j] as number, buyerPays[j] as number);
    const raw = referralBeforeBounds(own.rule, base);
    itemFee[j] = own.itemFee;
    referral[j] = charged(referralFee(raw, min, max), power, bends);
    if (bends !== null) {
      bends[BENDS.referralMin] = min === null ? 0 : raw - min;
      bends[BENDS.referralMax] = max === null ? 0 : raw - max;
    }
  }
}

function payments({ block, terms, bends, count }: Slice): void {
  const { gross, netBase, buyerPays, payment } = block;
  const { cardPayment, power } = terms;
  if (cardPayment === null) {
    payment.fill(0, 0, count);
    return;
  }
  const { pct, fixed, base } = cardPayment;
  for (let j = 0; j < count; j++) {
    const on = baseOf(base, gross[j] as number, netBase[j] as number, buyerPays[j] as number);
    payment[j] = charged(paymentFee(pct, on, fixed), power, bends);
  }
}

/** Storage with the marketplace while the order sells off (section 5). */
export function reckonStorages({ columns, block, terms, from, count }: Slice): void {
  const { a, b, c } = columns;
  const { sells, quantity, storage: stored, blanks, troubles } = block;
  const { card, cardFits, isMonthsHeld, fixedCover, storageRate, longStay } = terms;
  stored.fill(0, 0, count);
  if (!terms.isWarehouse) return;
  for (let j = 0; j < count; j++) {
    const i = from + j;
    const m3 = volumeM3(a[i] as number, b[i] as number, c[i] as number);
    const cover = isMonthsHeld ? fixedCover : coverMonths(quantity[j] as number, sells[j] as number);
    if (isUnknown(m3)) blanks[j] = (blanks[j] as number) | BIT.storage;
    else if (!isMonthsHeld && (sells[j] as number) <= 1e-9) {
      stored[j] = Number.NaN;
      troubles[j] = CODE.zeroUnits;
    } else if (isUnknown(cover)) blanks[j] = (blanks[j] as number) | BIT.storage;
    else if (card === null || card.storage === null || !cardFits) {
      stored[j] = Number.NaN;
      if ((card === null || card.storage === null) && troubles[j] === 0) troubles[j] = CODE.noStorageRates;
    } else stored[j] = storage(m3, storageRate, cover, longStayRate(cover, longStay));
  }
}

/** Surcharges, and the fees that bear VAT (section 5). */
export function reckonCharges(slice: Slice): void {
  const { block, terms, count } = slice;
  block.surcharges.fill(0, 0, count);
  for (const s of terms.surchargeTerms) addSurcharge(slice, s);
  const { surcharges, feesWithVat } = block;
  feesWithVat.fill(0, 0, count);
  if (!terms.hasFeeVat) return;
  for (let j = 0; j < count; j++)
    feesWithVat[j] =
      sumOf(terms.bears, block, terms, j) + (terms.bears.surcharges ? (surcharges[j] as number) : 0);
}

function addSurcharge({ block, terms, bends, count }: Slice, { pct, on }: Surcharge): void {
  const { surcharges } = block;
  const { power } = terms;
  for (let j = 0; j < count; j++)
    surcharges[j] =
      (surcharges[j] as number) + charged(surcharge(pct, sumOf(on, block, terms, j)), power, bends);
}

/** The fees of a row that are named, other than surcharges; of fulfilment and storage the marketplace's own. */
function sumOf(on: Surcharge['on'], b: Block, { isWarehouse }: Terms, j: number): number {
  return (
    (on.referral ? (b.referral[j] as number) : 0) +
    (on.itemFee ? (b.itemFee[j] as number) : 0) +
    (on.payment ? (b.payment[j] as number) : 0) +
    (on.fulfilment && isWarehouse ? (b.fulfilment[j] as number) : 0) +
    (on.storage ? (b.storage[j] as number) : 0)
  );
}
