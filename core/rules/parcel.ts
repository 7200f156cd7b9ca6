/**
 * Fulfilment by a marketplace's warehouse and postage by weight (economics, section 5). Sides in cm, weights
 * in kg, fees in the currency of the table.
 */
import { roundMinor, up, within } from './numbers.ts';

/** Parcel sides sorted, longest first, cm, and weight, kg. */
export type Parcel = { L: number; W: number; H: number; kg: number };

/** What a tier takes; blank limits do not bind. */
export type TierLimits = {
  readonly maxL: number | null;
  readonly maxW: number | null;
  readonly maxH: number | null;
  readonly maxKg: number | null;
  readonly maxLengthGirth: number | null;
  /** cm3 that count as a kg; null: volume does not count. */
  readonly divisor: number | null;
};
/** Limits that bind nothing. */
export const NO_LIMITS: TierLimits = {
  maxL: null,
  maxW: null,
  maxH: null,
  maxKg: null,
  maxLengthGirth: null,
  divisor: null,
};
export type WeightSteps = {
  readonly steps: readonly { readonly upToKg: number; readonly fee: number | null }[];
  readonly stepKg: number | null;
  readonly stepFee: number;
};

/**
 * Sorts three sides into a parcel. Writes into `out` and returns it, so that nothing is allocated.
 *
 * @example parcelOf(10, 30, 20, 1, { L: 0, W: 0, H: 0, kg: 0 }) // { L: 30, W: 20, H: 10, kg: 1 }
 */
export function parcelOf(a: number, b: number, c: number, kg: number, out: Parcel): Parcel {
  out.L = Math.max(a, b, c);
  out.H = Math.min(a, b, c);
  out.W = a + b + c - out.L - out.H;
  // Sums of three sides may lose the last bit; the middle side is one of the three.
  out.W = Math.abs(out.W - a) < 1e-9 * a ? a : Math.abs(out.W - b) < 1e-9 * b ? b : c;
  out.kg = kg;
  return out;
}

/**
 * Weight of a parcel's volume: `L * W * H / divisor`.
 *
 * @example volumetricKg({ L: 50, W: 40, H: 30, kg: 2 }, 5000) // 12
 */
export const volumetricKg = (p: Parcel, divisor: number): number => (p.L * p.W * p.H) / divisor;

/**
 * Weight a tier counts: the scale's, or the volumetric weight where the tier has a divisor and that is more.
 *
 * @example countedKg({ divisor: 5000 }, { L: 50, W: 40, H: 30, kg: 2 }) // 12
 * @example countedKg({ divisor: null }, { L: 50, W: 40, H: 30, kg: 2 }) // 2
 */
export const countedKg = (tier: Pick<TierLimits, 'divisor'>, p: Parcel): number =>
  tier.divisor === null ? p.kg : Math.max(p.kg, volumetricKg(p, tier.divisor));

/**
 * Whether the parcel is within the limits of a tier, `L + 2 (W + H)` among them.
 *
 * @example fitsTier({ ...NO_LIMITS, maxL: 40, maxLengthGirth: 120 }, { L: 40, W: 30, H: 10, kg: 3 }) // true
 * @example fitsTier({ ...NO_LIMITS, maxKg: 2.9 }, { L: 40, W: 30, H: 10, kg: 3 }) // false
 */
export function fitsTier(tier: TierLimits, p: Parcel): boolean {
  return (
    (tier.maxL === null || within(p.L, tier.maxL)) &&
    (tier.maxW === null || within(p.W, tier.maxW)) &&
    (tier.maxH === null || within(p.H, tier.maxH)) &&
    (tier.maxKg === null || within(countedKg(tier, p), tier.maxKg)) &&
    (tier.maxLengthGirth === null || within(p.L + 2 * (p.W + p.H), tier.maxLengthGirth))
  );
}

/**
 * Index of the first tier, in the card's order, that takes the parcel; -1 where none does.
 *
 * @example sizeTierOf([], { L: 1, W: 1, H: 1, kg: 1 }) // -1
 */
export function sizeTierOf(tiers: readonly TierLimits[], p: Parcel): number {
  for (let i = 0; i < tiers.length; i++) if (fitsTier(tiers[i] as TierLimits, p)) return i;
  return -1;
}

/** Fees that go by the price: one table up to each limit. */
export type PriceBands = readonly { readonly upToPrice: number | null }[];

/**
 * Index of the price band that holds `itemPrice`: its upper limit is inside, the last is open.
 *
 * @example priceBandOf([{ upToPrice: 10 }, { upToPrice: null }], 10) // 0
 * @example priceBandOf([{ upToPrice: 10 }, { upToPrice: null }], 10.01) // 1
 */
export function priceBandOf(bands: PriceBands, price: number): number {
  for (let i = 0; i < bands.length - 1; i++) {
    const limit = (bands[i] as PriceBands[number]).upToPrice;
    if (limit === null || within(price, limit)) return i;
  }
  return bands.length - 1;
}

/**
 * Fee of a weight: the first step that holds it; past the last, `lastFee + up((kg - lastUpTo) / stepKg) *
 * stepFee`. NaN where the table ends (no stepKg), or the step that holds it has no fee yet.
 *
 * @example stepFee({ steps: [{ upToKg: 1, fee: 3 }], stepKg: 0.5, stepFee: 0.25 }, 1.6) // 3.5
 */
export function stepFee(table: WeightSteps, kg: number): number {
  const { steps } = table;
  for (let i = 0; i < steps.length; i++) {
    const step = steps[i] as WeightSteps['steps'][number];
    if (within(kg, step.upToKg)) return step.fee ?? Number.NaN;
  }
  const last = steps[steps.length - 1] as WeightSteps['steps'][number];
  return table.stepKg === null
    ? Number.NaN
    : (last.fee ?? Number.NaN) + up((kg - last.upToKg) / table.stepKg) * table.stepFee;
}

/**
 * Fee of the marketplace's warehouse: `round(stepFee + addOns + peakSurcharge)`.
 *
 * @example warehouseFee(3.104, 0.5, 0.2, 100) // 3.8
 */
export const warehouseFee = (step: number, addOns: number, peak: number, power: number): number =>
  roundMinor(step + addOns + peak, power);
