/** Units a month one may expect to sell (economics, section 10). */

/**
 * `market units * share`.
 *
 * @example shareOfMarket(300, 0.2) // 60
 */
export const shareOfMarket = (marketUnits: number, share: number): number => marketUnits * share;

/**
 * Highest price still in the running: `floor * (1 + band)`, floor the lowest price with delivery of rivals and
 * us; float noise forgiven.
 *
 * @example runningLimit(20, 0.05) // 21.000000001
 */
export const runningLimit = (floor: number, band: number): number => floor * (1 + band) + 1e-9;

/**
 * Units of an offer in the running: `listingUnits * variationShare * (1 - retailArmShare) / (rivals in the
 * running + 1)`.
 *
 * @example offerSplit(400, 0.5, 0.2, 3) // 40
 */
export const offerSplit = (
  listingUnits: number,
  variationShare: number,
  retailArmShare: number,
  rivalsInTheRunning: number,
): number => (listingUnits * variationShare * (1 - retailArmShare)) / (rivalsInTheRunning + 1);
