/** Advertising (economics, section 7), sales currency. */
import { ratio } from './result.ts';

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

/** A conversion rate at or below this brings no sale. */
const NO_SALES = 1e-9;

/**
 * Advertising cost of sale before VAT on adverts: `cpc / conversionRate / gross`.
 *
 * @example acos(0.5, 0.1, 20) // 0.25
 * @example acos(0.5, 0, 20) // NaN
 */
export const acos = (cpc: number, conversionRate: number, gross: number): number =>
  conversionRate < NO_SALES ? Number.NaN : ratio(cpc / conversionRate, gross);

/**
 * The advertising cost of sale at which a sale brought by an advert leaves nothing: `contribution / (gross *
 * V)`; unknown where nothing is left to spend.
 *
 * @example breakEvenAcos(5, 20, 1) // 0.25
 * @example breakEvenAcos(-1, 20, 1) // NaN
 */
export const breakEvenAcos = (contribution: number, gross: number, vatFactor: number): number =>
  contribution > 0 ? ratio(contribution, gross * vatFactor) : Number.NaN;

/**
 * Most that a click may cost to leave `target` of a sale brought by an advert: `(contribution - target) *
 * conversionRate / V`.
 *
 * @example highestCpc(6, 1, 0.1, 1) // 0.5
 * @example highestCpc(1, 1, 0.1, 1) // NaN
 */
export const highestCpc = (
  contribution: number,
  target: number,
  conversionRate: number,
  vatFactor: number,
): number =>
  contribution - target > 0 ? ((contribution - target) * conversionRate) / vatFactor : Number.NaN;

/**
 * Least conversion rate at which adverts pay: `cpc * V / contribution`.
 *
 * @example lowestConversion(0.5, 1, 5) // 0.1
 */
export const lowestConversion = (cpc: number, vatFactor: number, contribution: number): number =>
  contribution > 0 ? ratio(cpc * vatFactor, contribution) : Number.NaN;
