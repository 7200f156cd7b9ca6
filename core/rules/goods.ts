/**
 * What the goods cost (economics, section 3). Per bought unit in the supplier's currency until a rule says per
 * unit sold; net of VAT unless it says otherwise.
 */
import { atLeast } from './numbers.ts';

/**
 * Bought units per sold unit: `k = unitsInSoldPack / unitsInBoughtPack`.
 *
 * @example packRatio(2, 6) // 0.3333333333
 */
export const packRatio = (unitsInSoldPack: number, unitsInBoughtPack: number): number =>
  unitsInSoldPack / unitsInBoughtPack;

/**
 * Whether an order of so many bought units reaches a price break.
 *
 * @example reachesBreak(500, 500) // true
 * @example reachesBreak(499, 500) // false
 */
export const reachesBreak = (bought: number, minQty: number): boolean => atLeast(bought, minQty);

/**
 * Index of the price break that rates an order of `bought` units: the highest minQty not above it; -1 where
 * none is. Breaks in order of their quantities.
 *
 * @example priceBreakAt([{ minQty: 1 }, { minQty: 100 }], 250) // 1
 * @example priceBreakAt([{ minQty: 500 }], 250) // -1
 */
export function priceBreakAt(breaks: readonly { readonly minQty: number }[], bought: number): number {
  let at = -1;
  for (let i = 0; i < breaks.length; i++) {
    if (!reachesBreak(bought, (breaks[i] as { minQty: number }).minQty)) break;
    at = i;
  }
  return at;
}

/**
 * What quoted goods cost per unit sold, in the sales currency: `unitPrice * k * exchangeRate`, the unit price
 * with its extras and net of VAT.
 *
 * @example quotedGoods(4.5, 2, 1.1) // 9.9
 */
export const quotedGoods = (netUnitPrice: number, ratio: number, exchangeRate: number): number =>
  netUnitPrice * ratio * exchangeRate;

/**
 * A shop's price after a percentage off: `p * (1 - d)`.
 *
 * @example percentOff(20, 0.25) // 15
 */
export const percentOff = (price: number, share: number): number => price * (1 - share);

/**
 * A shop's price after a coupon that covers several units: `max(0, p - coupon / units)`.
 *
 * @example couponOff(15, 6, 2) // 12
 * @example couponOff(2, 6, 2) // 0
 */
export const couponOff = (price: number, coupon: number, covers: number): number =>
  Math.max(0, price - coupon / covers);

/**
 * Sales tax of a shop on the net price, never recovered: `t * net`.
 *
 * @example salesTax(12, 0.08) // 0.96
 */
export const salesTax = (net: number, rate: number): number => rate * net;

/**
 * What gift cards bought at a discount save: `g * y * p2`, for the part `y` of the bill they pay.
 *
 * @example giftCardSaving(12.96, 0.05, 1) // 0.648
 */
export const giftCardSaving = (atTill: number, discount: number, part: number): number =>
  discount * part * atTill;

/**
 * Cashback on a purchase: `c * base`, times `1 - y` where the part `y` paid by gift cards does not count. It
 * comes later: it lowers the cost, not the cash needed now.
 *
 * @example cashback(12, 0.04, 0) // 0.48
 */
export const cashback = (base: number, share: number, partNotCounted: number): number =>
  share * base * (1 - partNotCounted);

/**
 * What goods from a shop cost per unit sold, in the sales currency: `((net + salesTax - giftCardSaving -
 * cashback) * exchangeRate + delivery) * k`, delivery per bought unit in the sales currency already.
 *
 * @example retailGoods(12, 0.96, 0.648, 0.48, 1, 0, 1) // 11.832
 */
export function retailGoods(
  net: number,
  tax: number,
  saving: number,
  cashbackToCome: number,
  exchangeRate: number,
  delivery: number,
  ratio: number,
): number {
  return ((net + tax - saving - cashbackToCome) * exchangeRate + delivery) * ratio;
}

/**
 * Charges per order over its units, and the bank's cut on foreign payments: `chargesPerOrder / Q + paySpread *
 * goods`. Nothing is nothing, whatever the quantity or the goods.
 *
 * @example buyingCosts(50, 200, 0.01, 4) // 0.29
 * @example buyingCosts(0, Number.NaN, 0, Number.NaN) // 0
 */
export const buyingCosts = (perOrder: number, quantity: number, spread: number, goods: number): number =>
  (perOrder === 0 ? 0 : perOrder / quantity) + (spread === 0 ? 0 : spread * goods);
