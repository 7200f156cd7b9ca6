/**
 * Revenue and output VAT (economics, section 2), and VAT on what is bought. Money per unit sold in the sales
 * currency unless a rule says otherwise; rates as fractions.
 */

/**
 * What the buyer pays for the item after the average discount: `price * (1 - averageDiscount)`, VAT as in the
 * price.
 *
 * @example itemPrice(20, 0.1) // 18
 */
export const itemPrice = (price: number, averageDiscount: number): number => price * (1 - averageDiscount);

/**
 * `itemPrice + shippingCharged`, VAT as in the price.
 *
 * @example grossOf(18, 2.5) // 20.5
 */
export const grossOf = (item: number, shippingCharged: number): number => item + shippingCharged;

/**
 * The shelf price that a buyer pays `gross` at, the rules above turned round: `(gross - shippingCharged) /
 * (1 - averageDiscount)`; below 0 there is no such price.
 * @param averageDiscount share, below 1
 * @example priceOfGross(20.5, 2.5, 0.1) // 20
 */
export const priceOfGross = (gross: number, shippingCharged: number, averageDiscount: number): number =>
  (gross - shippingCharged) / (1 - averageDiscount);

/**
 * VAT that a price contains: `gross * r / (1 + r)`.
 *
 * @example containedVat(24, 0.2) // 4
 */
export const containedVat = (gross: number, rate: number): number => (gross * rate) / (1 + rate);

/**
 * VAT under a flat-rate scheme: `gross * f`.
 *
 * @example flatRateVat(24, 0.075) // 1.8
 */
export const flatRateVat = (gross: number, rate: number): number => gross * rate;

/**
 * An amount without the VAT it contains: `gross / (1 + r)`; the fee base `net`, and a purchase with VAT
 * included.
 *
 * @example withoutVat(24, 0.2) // 20
 */
export const withoutVat = (gross: number, rate: number): number => gross / (1 + rate);

/**
 * What a buyer pays where tax is added at checkout: `gross * (1 + checkoutTax)`; the fee base `buyerPays`.
 *
 * @example withCheckoutTax(50, 0.08) // 54
 */
export const withCheckoutTax = (gross: number, checkoutTax: number): number => gross * (1 + checkoutTax);

/**
 * `gross - outputVat`.
 *
 * @example netRevenue(24, 4) // 20
 */
export const netRevenue = (gross: number, outputVat: number): number => gross - outputVat;

/**
 * A purchase at cost: net of VAT plus the VAT that does not come back, `net + net * vatRate * vatIsCost`, with
 * `vatIsCost` 1 (a cost), 0 (recovered) or unknown. Where no VAT falls due nothing hangs on that. Any currency.
 *
 * @example atCost(10, 0.2, 1) // 12
 * @example atCost(10, 0.2, 0) // 10
 * @example atCost(10, 0, Number.NaN) // 10
 */
export function atCost(net: number, vatRate: number, vatIsCost: number): number {
  const vat = net * vatRate;
  return vat === 0 ? net : net + vat * vatIsCost;
}

/**
 * An amount with the VAT it bears: `amount * (1 + vatRate)`; 0 as the rate where it bears none. Nothing bears
 * none, whatever the rate.
 *
 * @example withVat(10, 0.2) // 12
 * @example withVat(0, Number.NaN) // 0
 */
export const withVat = (amount: number, vatRate: number): number =>
  amount === 0 ? 0 : amount * (1 + vatRate);

/**
 * The part of VAT paid that comes back: all of it where `vatIsCost` is 0, none where it is 1; unknown where
 * that is not known and VAT falls due.
 *
 * @example vatRecovered(2, 0) // 2
 * @example vatRecovered(2, 1) // 0
 * @example vatRecovered(2, Number.NaN) // NaN
 */
export const vatRecovered = (vat: number, vatIsCost: number): number =>
  vat === 0 || vatIsCost === 1 ? 0 : vatIsCost === 0 ? vat : Number.NaN;

/**
 * The part of VAT paid that is a cost: what `vatRecovered` leaves.
 *
 * @example vatLost(2, 0) // 0
 * @example vatLost(2, 1) // 2
 * @example vatLost(0, Number.NaN) // 0
 */
export const vatLost = (vat: number, vatIsCost: number): number =>
  vat === 0 || vatIsCost === 0 ? 0 : vatIsCost === 1 ? vat : Number.NaN;
