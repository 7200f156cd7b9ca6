/** In which quantities goods are ordered (economics, section 11). */

const divisor = (a: number, b: number): number => (b > 0 ? divisor(b, a % b) : a);

/** The least quantity that is a multiple of both. Whole numbers above 0. */
export const commonMultiple = (a: number, b: number): number => (a / divisor(a, b)) * b;

/**
 * The step of admissible orders in sold units: Q sold units, `soldPack` pieces in each and `boughtPack` in
 * what is bought, are whole lots of `lot` bought units. All are whole numbers above 0.
 */
export const orderStep = (soldPack: number, boughtPack: number, lot: number): number =>
  commonMultiple(boughtPack * lot, soldPack) / soldPack;
