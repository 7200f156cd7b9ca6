/**
 * Offers of a listing: what a unit keeps as they leave or undercut, and what faster delivery is worth (evidence,
 * section 7).
 */
import { minorDigits } from '../money/money.ts';
import { roundMinor } from '../rules/numbers.ts';
import { withDelivery } from './units.ts';
import type { Offer } from './schema.ts';

export type OfferCase = {
  /** `leaves`: the so many lowest have left; `undercuts`: one is a step under the lowest. */
  readonly of: { readonly leaves: 0 | 1 | 2 | 3 } | { readonly undercuts: true };
  readonly price: number;
};
export type OffersSaid = {
  readonly state: 'none' | 'noDefault' | 'default';
  readonly offers: number;
  readonly deliveryUnknown: number;
  readonly cases: readonly OfferCase[];
  /** Lowest price from the warehouse over the lowest of the others, less 1; null where either is not known. */
  readonly warehousePremium: number | null;
};

/**
 * What the offers of a listing say. Prices with delivery, in the currency of the offers; ours are excluded, and one
 * whose delivery is not known sets no price.
 */
export function offersSaid(offers: readonly Offer[], currency: string, undercutBy: number): OffersSaid {
  const others = offers.filter((o) => o.of !== 'ours');
  const prices = others.flatMap((o) => withDelivery(o) ?? []).sort((a, b) => a - b);
  const power = 10 ** minorDigits(currency);
  const lowest = prices[0];
  const leaving = ([0, 1, 2, 3] as const).flatMap((leaves): OfferCase[] => {
    const price = prices[leaves];
    return price === undefined ? [] : [{ of: { leaves }, price }];
  });
  const undercut = lowest === undefined ? 0 : roundMinor(lowest * (1 - undercutBy), power);
  const least = (warehouse: boolean): number | null => {
    const own = others.filter((o) => o.warehouse === warehouse).flatMap((o) => withDelivery(o) ?? []);
    return own.length === 0 ? null : Math.min(...own);
  };
  const [fast, slow] = [least(true), least(false)];
  return {
    state: offers.length === 0 ? 'none' : offers.some((o) => o.isDefault) ? 'default' : 'noDefault',
    offers: others.length,
    deliveryUnknown: others.filter((o) => o.delivery === null).length,
    cases:
      lowest === undefined ? leaving : [...leaving, { of: { undercuts: true as const }, price: undercut }],
    warehousePremium: fast === null || slow === null || slow <= 0 ? null : fast / slow - 1,
  };
}
