/** The result (economics, section 8), per unit sold, sales currency. */

/** A denominator at or below this has no ratio. */
const NOTHING = 1e-12;

/**
 * A ratio; unknown where its denominator is not above 0.
 *
 * @example ratio(3, 12) // 0.25
 * @example ratio(3, 0) // NaN
 */
export const ratio = (numerator: number, denominator: number): number =>
  denominator > NOTHING ? numerator / denominator : Number.NaN;

/**
 * `netRevenue / landedCost - 1`.
 *
 * @example markup(20, 8) // 1.5
 */
export const markup = (netRevenue: number, landedCost: number): number => ratio(netRevenue, landedCost) - 1;

/**
 * `unitProfit * units a month - monthly fixed costs`.
 *
 * @example profitPerMonth(4, 50, 120) // 80
 */
export const profitPerMonth = (unitProfit: number, unitsAMonth: number, fixedCosts: number): number =>
  unitProfit * unitsAMonth - fixedCosts;

/**
 * Days from paying the supplier to having the payout: `deposit * lead + transit + inbound - (1 - deposit) *
 * credit + 30.4375 * C / 2 + P / 2 + D`, with cover C in months, payouts every P days, each D days late.
 *
 * @example cashCycleDays(0.3, 40, 30, 5, 20, 2, 14, 3) // 73.4375
 */
export function cashCycleDays(
  deposit: number,
  leadDays: number,
  transitDays: number,
  inboundDays: number,
  creditDays: number,
  cover: number,
  payoutEvery: number,
  payoutDelay: number,
): number {
  return (
    deposit * leadDays +
    transitDays +
    inboundDays -
    (1 - deposit) * creditDays +
    (DAYS_A_MONTH * cover) / 2 +
    payoutEvery / 2 +
    payoutDelay
  );
}

/** Mean days in a month, as the rules count them. */
export const DAYS_A_MONTH = 30.4375;

/**
 * Days that so many units last: `units / units a month * 30.4375`.
 *
 * @example daysLasting(20, 60) // 10.145833333333334
 */
export const daysLasting = (units: number, unitsAMonth: number): number =>
  ratio(units, unitsAMonth) * DAYS_A_MONTH;

/**
 * `units a month / 30.4375`.
 *
 * @example unitsADay(60.875) // 2
 */
export const unitsADay = (unitsAMonth: number): number => unitsAMonth / DAYS_A_MONTH;

/**
 * Turns a year: `min(12 / C, 365 / cycle)`; `12 / C` where the cycle is not above 0.
 *
 * @example turnsAYear(2, 73) // 5
 * @example turnsAYear(3, -10) // 4
 */
export function turnsAYear(cover: number, cycleDays: number): number {
  if (cycleDays > 0) return Math.min(12 / cover, 365 / cycleDays);
  return cycleDays <= 0 ? 12 / cover : Number.NaN;
}

/**
 * `unitProfit / landedCash * turns`: the yearly return on the cash in a unit.
 *
 * @example yearlyReturn(2, 10, 4) // 0.8
 */
export const yearlyReturn = (unitProfit: number, landedCash: number, turns: number): number =>
  ratio(unitProfit, landedCash) * turns;

/**
 * What the cash in a unit would have brought elsewhere: `landedCash * benchmark * max(0, cycle) / 365`.
 *
 * @example costOfHolding(10, 0.05, 73) // 0.1
 */
export const costOfHolding = (landedCash: number, benchmark: number, cycleDays: number): number =>
  (landedCash * benchmark * Math.max(0, cycleDays)) / 365;

/**
 * What a sale leaves after fees: `netRevenue - fees`, the lines taken from a sale: referral, item, payment,
 * surcharges, subscription, VAT on fees, fulfilment, storage, conversion.
 *
 * @example proceeds(20, 8) // 12
 */
export const proceeds = (netRevenue: number, fees: number): number => netRevenue - fees;

/**
 * What is left after cost: `proceeds - landedCost - losses`, the lines that fall on a unit once it is sold:
 * returns, breakage, other costs, less what a free extra brings.
 *
 * @example contribution(12, 5, 1) // 6
 */
export const contribution = (afterFees: number, landedCost: number, losses: number): number =>
  afterFees - landedCost - losses;

/**
 * What a unit keeps after adverts: `contribution - adCostPerUnit`.
 *
 * @example unitProfit(6, 2) // 4
 */
export const unitProfit = (afterCost: number, adverts: number): number => afterCost - adverts;
