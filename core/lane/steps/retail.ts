/** What a purchase at a shop costs, step by step (economics, section 3): discounts, tax, gift cards, cashback. */
import { cashback, couponOff, giftCardSaving, percentOff, salesTax } from '../../rules/goods.ts';
import { netOf } from '../../money/net.ts';
import type { RetailPurchase } from '../schema.ts';

/** A retail price on its way from the shelf to what it costs, in the shop's currency, per unit bought. */
export type RetailSteps = {
  afterDiscounts: number;
  net: number;
  vat: number;
  salesTax: number;
  atTill: number;
  giftCardSaving: number;
  cashback: number;
};
export const noRetailSteps = (): RetailSteps => ({
  afterDiscounts: 0,
  net: 0,
  vat: 0,
  salesTax: 0,
  atTill: 0,
  giftCardSaving: 0,
  cashback: 0,
});

/**
 * The steps of section 3 from a shelf price: discounts, tax, gift cards, cashback. `into` is filled and
 * returned, so that a hot path allocates nothing.
 */
export function retailSteps(
  s: RetailPurchase,
  shelfPrice: number,
  into: RetailSteps = noRetailSteps(),
): RetailSteps {
  into.afterDiscounts = afterDiscounts(s, shelfPrice);
  into.net = netOf(into.afterDiscounts, s);
  into.vat = s.vat === 'none' ? 0 : into.net * s.vatRate;
  into.salesTax = s.exempt ? 0 : salesTax(into.net, s.salesTax);
  into.atTill = into.net + into.vat + into.salesTax;
  const part = s.giftCard === null ? 0 : s.giftCard.part;
  into.giftCardSaving =
    s.giftCard === null ? 0 : giftCardSaving(into.atTill, s.giftCard.discount ?? Number.NaN, part);
  const cb = s.cashback;
  into.cashback =
    cb === null
      ? 0
      : cashback(cb.taxCounts ? into.atTill : into.net, cb.share ?? Number.NaN, cb.giftCardsCount ? 0 : part);
  return into;
}

/** VAT and sales tax paid at the till, in the shop's currency, per unit bought. */
export const taxAtTill = (steps: RetailSteps): number => steps.vat + steps.salesTax;

/**
 * Delivery of the shop over a number of units bought, in its own currency; null where there is none or it is
 * blank.
 */
export const deliveryPerUnit = (s: RetailPurchase, quantity: number): number | null =>
  s.delivery === null || s.delivery.amount === null ? null : s.delivery.amount / quantity;

/** The discounts of a retail purchase in the order they are taken, each with the price it leaves. */
export function discountSteps(
  s: RetailPurchase,
  shelfPrice: number,
): { discount: RetailPurchase['discounts'][number]; price: number }[] {
  const order = s.discounts.map((_, i) => i);
  const kind = (i: number): string => (s.discounts[i] as { kind: string }).kind;
  const sorted = s.reordered
    ? order
    : [...order.filter((i) => kind(i) === 'percent'), ...order.filter((i) => kind(i) === 'coupon')];
  let p = shelfPrice;
  return sorted.map((i) => {
    p = discounted(s, i, p);
    return { discount: s.discounts[i] as RetailPurchase['discounts'][number], price: p };
  });
}

/** The shelf price taken through its discounts: percentages first, unless reordered. Same currency and VAT basis. */
export function afterDiscounts(s: RetailPurchase, shelfPrice: number): number {
  let p = shelfPrice;
  if (s.reordered) {
    for (let i = 0; i < s.discounts.length; i++) p = discounted(s, i, p);
    return p;
  }
  for (let i = 0; i < s.discounts.length; i++)
    if (s.discounts[i]?.kind === 'percent') p = discounted(s, i, p);
  for (let i = 0; i < s.discounts.length; i++) if (s.discounts[i]?.kind === 'coupon') p = discounted(s, i, p);
  return p;
}

function discounted(s: RetailPurchase, i: number, p: number): number {
  const d = s.discounts[i] as RetailPurchase['discounts'][number];
  return d.kind === 'percent'
    ? percentOff(p, d.share ?? Number.NaN)
    : couponOff(p, d.amount ?? Number.NaN, d.covers);
}

/**
 * Whether a term of a retail purchase was opened and not filled in yet: a discount, a gift card, a cashback,
 * a delivery.
 */
export function lacksTerms(s: RetailPurchase): boolean {
  for (let i = 0; i < s.discounts.length; i++) {
    const d = s.discounts[i] as RetailPurchase['discounts'][number];
    if ((d.kind === 'percent' ? d.share : d.amount) === null) return true;
  }
  return s.giftCard?.discount === null || s.cashback?.share === null || s.delivery?.amount === null;
}
