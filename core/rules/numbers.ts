/**
 * How the rules count (economics, section 1): unknown amounts, rounding as marketplaces round, comparisons
 * that forgive float noise. Inside the core an unknown number is NaN, which spreads through sums by itself.
 */

/**
 * Whether a number is not known.
 *
 * @example isUnknown(0) // false
 */
export const isUnknown: (x: number) => boolean = Number.isNaN;

/**
 * Whether a number is known.
 *
 * @example isKnown(0) // true
 */
export const isKnown = (x: number): boolean => !Number.isNaN(x);

/**
 * Rounds half away from zero to whole minor units, as marketplaces charge fees: `sign(x) * floor(|x| * 10^d +
 * 0.5 + 1e-7) / 10^d`; the 1e-7 forgives float noise just under a half. Money in major units; `power` is 10^d.
 *
 * @example roundMinor(1.005, 100) // 1.01
 * @example roundMinor(-0.125, 100) // -0.13
 * @example roundMinor(149.5, 1) // 150
 */
export function roundMinor(x: number, power: number): number {
  return x < 0 ? -Math.floor(-x * power + 0.5 + 1e-7) / power : Math.floor(x * power + 0.5 + 1e-7) / power;
}

/**
 * Smallest whole number not under x, forgiving float noise just above a whole number: `ceil(x - 1e-9)`.
 *
 * @example up(2.1) // 3
 * @example up(2.0000000001) // 2
 */
export const up = (x: number): number => Math.ceil(x - 1e-9);

/**
 * "Not above", "within": `x <= limit + 1e-9`.
 *
 * @example within(10.0000000001, 10) // true
 */
export const within = (x: number, limit: number): boolean => x <= limit + 1e-9;

/**
 * "At least": `x >= limit - 1e-9`.
 *
 * @example atLeast(9.9999999999, 10) // true
 */
export const atLeast = (x: number, limit: number): boolean => x >= limit - 1e-9;

/**
 * `min(max(x, least), most)`; a blank (null) bound does not bind.
 *
 * @example clamp(3, 5, null) // 5
 * @example clamp(9, 5, 7) // 7
 */
export function clamp(x: number, least: number | null, most: number | null): number {
  let held = x;
  if (least !== null && held < least) held = least;
  if (most !== null && held > most) held = most;
  return held;
}

/**
 * Mean of twelve monthly amounts (economics, section 5).
 *
 * @example meanOfYear([1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 1, 13]) // 2
 */
export function meanOfYear(months: readonly number[]): number {
  let sum = 0;
  for (let month = 0; month < 12; month++) sum += months[month] as number;
  return sum / 12;
}

/**
 * Mean of twelve monthly amounts weighted by what sells in each month (economics, section 5): `sum(season[m] *
 * amount[m]) / sum(season)`.
 *
 * @example meanOfSales([12, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0], [3, 1, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]) // 9
 */
export function meanOfSales(months: readonly number[], season: readonly number[]): number {
  let sold = 0;
  let sum = 0;
  for (let month = 0; month < 12; month++) {
    sold += season[month] as number;
    sum += (season[month] as number) * (months[month] as number);
  }
  return sum / sold;
}
