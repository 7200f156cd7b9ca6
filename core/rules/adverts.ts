/** Advertising (economics, section 7), sales currency. */

/**
 * Expected cost of a click between two bids: `low + w * (high - low)`.
 *
 * @example costPerClick(0.4, 0.6, 0.5) // 0.5
 */
export const costPerClick = (low: number, high: number, weight: number): number =>
  low + weight * (high - low);

/**
 * What VAT adds to adverts as a factor: `1 + advert VAT rate * vatIsCost`.
 *
 * @example advertVatFactor(0.2, 1) // 1.2
 */
export const advertVatFactor = (rate: number, vatIsCost: number): number => 1 + rate * vatIsCost;

/**
 * `cpc * V / conversionRate`: what adverts cost for a sale that they bring.
 *
 * @example adCostPerAdSale(0.5, 1, 0.1) // 5
 */
export const adCostPerAdSale = (cpc: number, vatFactor: number, conversionRate: number): number =>
  (cpc * vatFactor) / conversionRate;

/**
 * `adShare * adCostPerAdSale`, over all units; 0 where adverts bring none.
 *
 * @example adCostPerUnit(0.4, 5) // 2
 * @example adCostPerUnit(0, Number.NaN) // 0
 */
export const adCostPerUnit = (adShare: number, perAdSale: number): number =>
  adShare === 0 ? 0 : adShare * perAdSale;
