/**
 * Returns, breakage, payout and its conversion (economics, sections 6 and 8), per unit shipped, sales currency.
 */
import { withVat } from './revenue.ts';

/**
 * The part of a fee that comes back on a return, with the VAT it bears: `back * fee * (1 + vatRate)`.
 *
 * @example feeBack(1, 3, 0.2) // 3.6
 * @example feeBack(0, Number.NaN, 0.2) // 0
 */
export const feeBack = (back: number, fee: number, vatRate: number): number =>
  back === 0 ? 0 : withVat(back * fee, vatRate);

/**
 * Refund administration fee before its maximum: `adminPct * referral given back`; nothing where none is.
 *
 * @example refundFeeBeforeMax(0.2, 1, 3.6) // 0.72
 * @example refundFeeBeforeMax(0.2, 0, Number.NaN) // 0
 */
export const refundFeeBeforeMax = (adminPct: number, back: number, referral: number): number =>
  back === 0 ? 0 : adminPct * back * referral;

/**
 * `min(adminMax, fee)`; a blank maximum does not bind, and an unknown fee stays unknown.
 *
 * @example refundFee(6, 5) // 5
 */
export const refundFee = (beforeMax: number, max: number | null): number =>
  max !== null && beforeMax > max ? max : beforeMax;

/**
 * `q * (netRevenue - w(feesBack) + w(refundFee) + handling + (1 - s) * disposal - s * landedCost)`; it may be
 * negative. Where nothing goes back on sale the landed cost has no part in it.
 *
 * @example returnsAllowance(0.05, 20, 3, 0.6, 1, 0.5, 0, 5.07843125) // 0.80303921875
 */
export function returnsAllowance(
  rate: number,
  netRevenue: number,
  feesBack: number,
  adminFee: number,
  handling: number,
  resaleShare: number,
  disposal: number,
  landedCost: number,
): number {
  return (
    rate *
    (netRevenue -
      feesBack +
      adminFee +
      handling +
      (1 - resaleShare) * disposal -
      (resaleShare === 0 ? 0 : resaleShare * landedCost))
  );
}

/**
 * Units bought that never become saleable: `landedCost * b / (1 - b)`; nothing where `b` is 0.
 *
 * @example breakage(4.9, 0.02) // 0.1
 * @example breakage(Number.NaN, 0) // 0
 */
export const breakage = (landedCost: number, share: number): number =>
  share === 0 ? 0 : (landedCost * share) / (1 - share);

/**
 * `(1 - q) * (gross - VAT withheld) - fees charged + q * (feesBack - refundFee)`.
 *
 * @example payout(0.1, 24, 4, 5, 3, 0.5) // 13.25
 */
export const payout = (
  returnRate: number,
  gross: number,
  withheld: number,
  fees: number,
  feesBack: number,
  adminFee: number,
): number => (1 - returnRate) * (gross - withheld) - fees + returnRate * (feesBack - adminFee);

/**
 * `spread * max(0, payout)`, where the payout leaves the sales currency.
 *
 * @example currencyConversion(0.01, 13) // 0.13
 * @example currencyConversion(0.01, -2) // 0
 */
export const currencyConversion = (spread: number, paidOut: number): number => spread * Math.max(0, paidOut);
