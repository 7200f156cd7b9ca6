/** Storage (economics, section 5): cover in months, stays past an age, cost a unit in the sales currency. */

/** A stay past an age in months, and what a m3 of it costs. */
export type LongStay = {
  readonly fromMonths: number;
  readonly toMonths: number | null;
  readonly rate: number;
};

/**
 * Months an order lasts: `C = Q / units a month`; unknown where nothing sells.
 *
 * @example coverMonths(500, 250) // 2
 * @example coverMonths(500, 0) // NaN
 */
export const coverMonths = (quantity: number, unitsAMonth: number): number =>
  unitsAMonth > 1e-9 ? quantity / unitsAMonth : Number.NaN;

/**
 * Months an order lasts where the months held are typed: goods that sell off evenly lie half of it on average.
 *
 * @example coverOfMonthsHeld(1.5) // 3
 */
export const coverOfMonthsHeld = (monthsHeld: number): number => 2 * monthsHeld;

/**
 * Average months a unit spends past the age of x months while a cover of C months sells off evenly: `max(0, C -
 * x)^2 / (2 C)`.
 *
 * @example agedShare(12, 6) // 1.5
 */
export function agedShare(cover: number, fromMonths: number): number {
  if (cover <= 0) return 0;
  const over = Math.max(0, cover - fromMonths);
  return (over * over) / (2 * cover);
}

/**
 * What long stays add for a m3: `sum(bandRate * (F(from) - F(to)))`, 0 for an open end.
 *
 * @example longStayRate(12, [{ fromMonths: 6, toMonths: null, rate: 10 }]) // 15
 */
export function longStayRate(cover: number, bands: readonly LongStay[]): number {
  let aged = 0;
  for (let i = 0; i < bands.length; i++) {
    const band = bands[i] as LongStay;
    aged +=
      band.rate *
      (agedShare(cover, band.fromMonths) - (band.toMonths === null ? 0 : agedShare(cover, band.toMonths)));
  }
  return aged;
}

/**
 * `m3 * (rate * C / 2 + longStay)`.
 *
 * @example storage(0.002, 20, 2, 0) // 0.04
 */
export const storage = (m3: number, rate: number, cover: number, longStay: number): number =>
  m3 * ((rate * cover) / 2 + longStay);
