/**
 * Fees of the marketplace (economics, section 5), per unit sold, sales currency, net of VAT. Those that follow
 * the price come unrounded: the lane rounds each once, the solver looks at the straight lines between.
 */
import { clamp, within } from './numbers.ts';

export type ReferralTiers = {
  readonly mode: 'whole' | 'sliced';
  readonly tiers: readonly { readonly upTo: number | null; readonly pct: number }[];
};

/**
 * Referral fee before its bounds: `whole` applies the first tier that holds the base to all of it, `sliced` each
 * to its slice.
 *
 * @example referralBeforeBounds({ mode: 'whole', tiers: [{ upTo: 9, pct: 0.1 }, { upTo: null, pct: 0.2 }] }, 19) // 3.8
 * @example referralBeforeBounds({ mode: 'sliced', tiers: [{ upTo: 9, pct: .1 }, { upTo: null, pct: .2 }] }, 19) // 2.9
 */
export function referralBeforeBounds({ mode, tiers }: ReferralTiers, base: number): number {
  if (mode === 'whole') {
    for (let i = 0; i < tiers.length; i++) {
      const tier = tiers[i] as ReferralTiers['tiers'][number];
      if (tier.upTo === null || within(base, tier.upTo)) return tier.pct * base;
    }
  }
  let fee = 0;
  let from = 0;
  for (let i = 0; i < tiers.length; i++) {
    const tier = tiers[i] as ReferralTiers['tiers'][number];
    if (tier.upTo === null || base <= tier.upTo) return fee + tier.pct * (base - from);
    fee += tier.pct * (tier.upTo - from);
    from = tier.upTo;
  }
  return fee;
}

/**
 * Referral fee within its bounds: `clamp(fee, min, max)`.
 *
 * @example referralFee(0.12, 0.3, null) // 0.3
 */
export const referralFee = (beforeBounds: number, min: number | null, max: number | null): number =>
  clamp(beforeBounds, min, max);

/**
 * A fee in proportion to its base: `pct * base`.
 *
 * @example percentFee(0.15, 20) // 3
 */
export const percentFee = (pct: number, base: number): number => pct * base;

/**
 * `pct * base + fixed`.
 *
 * @example paymentFee(0.02, 30, 0.25) // 0.85
 */
export const paymentFee = (pct: number, base: number, fixed: number): number => pct * base + fixed;

/**
 * `pct` of the fees it is charged on, as charged.
 *
 * @example surcharge(0.03, 5) // 0.15
 */
export const surcharge = (pct: number, fees: number): number => pct * fees;

/**
 * `monthly / units a month`.
 *
 * @example subscription(39, 130) // 0.3
 */
export const subscription = (monthly: number, unitsAMonth: number): number => monthly / unitsAMonth;

/**
 * Share that VAT adds to fees as a cost: `feeVatRate * vatIsCost`, with `vatIsCost` 1 or 0.
 *
 * @example feeVatCostRate(0.2, 1) // 0.2
 */
export const feeVatCostRate = (rate: number, vatIsCost: number): number => rate * vatIsCost;

/**
 * VAT on fees that is a cost: `fees that bear VAT * rate`; none on nothing, whatever the rate.
 *
 * @example feeVat(5, 0.2) // 1
 * @example feeVat(0, Number.NaN) // 0
 */
export const feeVat = (bearing: number, costRate: number): number => (bearing === 0 ? 0 : bearing * costRate);
