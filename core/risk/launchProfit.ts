/** What a launch comes to over months on sale, season and ramp left out (planning, section 3). */

export type Launched = {
  /** Home currency, of a unit. */
  readonly unitProfit: number;
  readonly landedCost: number;
  /** Units ordered, units a month, months on sale. */
  readonly quantity: number;
  readonly units: number;
  readonly months: number;
  readonly breakage: number;
  /** Returned, and of that the share that is sold again. */
  readonly returned: number;
  readonly resold: number;
  readonly salvage: number;
  /** One-offs and launch adverts, and a discount on the first so many units sold. */
  readonly once: number;
  readonly discounts: { readonly units: number; readonly discount: number };
  readonly ships: boolean;
};

/**
 * `sold * (unitProfit + landedCost/(1-b) - q*s*landedCost) - Q*landedCost + salvage * what is left - one-offs - adverts
 * - discounts`, home currency; NaN where an input is. Where every unit comes back and is sold again, the goods last.
 *
 * @example
 * launchProfit({ unitProfit: 5, landedCost: 10, quantity: 100, units: 20, months: 3, breakage: 0, returned: 0,
 *   resold: 0, salvage: 0.5, once: 50, discounts: { units: 10, discount: 1 }, ships: false }) // 40
 */
export function launchProfit(l: Launched): number {
  const wanted = l.units * l.months;
  const again = l.returned * l.resold;
  const arrived = l.quantity * (1 - l.breakage);
  const sold = l.ships || 1 - again < 1e-12 ? wanted : Math.min(arrived / (1 - again), wanted);
  const beside = l.once + Math.min(l.discounts.units, sold) * l.discounts.discount;
  if (l.ships) return sold * l.unitProfit - beside;
  const brings = l.unitProfit + l.landedCost / (1 - l.breakage) - again * l.landedCost;
  const left = arrived - sold * (1 - again);
  return sold * brings - l.quantity * l.landedCost + l.salvage * left * l.landedCost - beside;
}
