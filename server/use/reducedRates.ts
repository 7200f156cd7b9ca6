/**
 * Reduced rates of VAT by country, the highest first: as the states publish them, put down by hand as of the day
 * below. Which goods a rate is for is the state's to say; a card that begins with these says to check them.
 */
export const REDUCED_AS_OF = '2026-01-01';

export const REDUCED_RATES: Readonly<Record<string, readonly number[]>> = {
  AT: [0.13, 0.1],
  BE: [0.12, 0.06],
  BG: [0.09],
  CH: [0.038, 0.026],
  CY: [0.09, 0.05, 0.03],
  CZ: [0.12],
  DE: [0.07],
  EE: [0.13, 0.09],
  ES: [0.1, 0.04],
  FI: [0.135, 0.1],
  FR: [0.1, 0.055, 0.021],
  GB: [0.05, 0],
  GR: [0.13, 0.06],
  HR: [0.13, 0.05],
  HU: [0.18, 0.05],
  IE: [0.135, 0.09, 0.048],
  IT: [0.1, 0.05, 0.04],
  JP: [0.08],
  LT: [0.12, 0.05],
  LU: [0.14, 0.08, 0.03],
  LV: [0.12, 0.05],
  MT: [0.12, 0.07, 0.05],
  NL: [0.09],
  NO: [0.15, 0.12],
  PL: [0.08, 0.05],
  PT: [0.13, 0.06],
  RO: [0.11],
  SE: [0.12, 0.06],
  SI: [0.095, 0.05],
  SK: [0.19, 0.05],
};
