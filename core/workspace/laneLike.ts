import { isKnown } from '../rules/numbers.ts';
import type { Provenance } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';
import { priceByHabit } from '../compare/prices.ts';
import type { Habit } from '../compare/prices.ts';
import type { NewLane } from './newLane.ts';
import { newLane } from './newLane.ts';
import { CARD_FIELDS } from './compose.ts';
import type { StoredLane } from './records.ts';

/** What belongs to a place, not to the product: never taken over from a lane sold elsewhere. */
const LOCAL = [
  'country',
  'currency',
  'marketplace',
  'imported',
  'price',
  'components',
  'route',
  'method',
  'dispatch',
  'storage',
  'supplierDelivery',
  'shippingCharged',
  'standing',
  'typed',
  'category',
  'name',
  ...Object.values(CARD_FIELDS),
  'benchmark',
  'provenance',
  'demand',
  'adverts',
  'importVatPostponed',
  'otherPerUnit',
] as const satisfies readonly (keyof StoredLane)[];
/** Paths whose origin the copy notes as borrowed. */
const BORROWED = [
  'orderQuantity',
  'averageDiscount',
  'prep',
  'returns',
  'breakage',
  'saleMonth',
  'season',
  'monthlyFixedCosts',
] as const;

/**
 * A lane for another place, made from one that is there: how much is ordered, preparation, returns, season
 * and breakage are taken over; the price net of VAT and the bids are converted at the lane's exchange rate,
 * the VAT of the new place put on and the price ended as prices end there; cards, tax, way in and fulfilment
 * are those of the new place. All that is taken over is marked as borrowed, with where from. `vat`: the rates
 * that shelf prices contain there and here; where either is not known, no price is made up.
 */
export function laneLike(
  base: StoredLane,
  n: NewLane,
  habit: Habit,
  vat: { readonly there: number | null; readonly here: number | null },
): StoredLane {
  const fresh = newLane(n);
  const factor =
    n.exchange === null
      ? base.currency === n.currency
        ? 1
        : Number.NaN
      : exchangeFactor(n.exchange, base.currency, n.currency);
  const known = isKnown(factor);
  const from = `${base.marketplace} ${base.country}`.trim();
  const borrowed = { source: 'borrowed' as const, date: n.today, note: from };
  const shared = Object.fromEntries(
    Object.entries(base).filter(([key]) => !(LOCAL as readonly string[]).includes(key)),
  );
  const provenance: Provenance = { ...fresh.provenance };
  for (const key of BORROWED)
    if (JSON.stringify(base[key]) !== JSON.stringify(fresh[key])) provenance[key] = borrowed;
  const cents = (x: number): number => Number((x * factor).toFixed(4));
  const price =
    base.price === null || !known || vat.there === null || vat.here === null
      ? null
      : (base.price / (1 + vat.there)) * factor * (1 + vat.here);
  if (price !== null) provenance.price = borrowed;
  const typedDemand = base.demand?.kind === 'typed';
  if (typedDemand) provenance.demand = borrowed;
  const bids = base.adverts !== null && base.adverts !== 'none' && known;
  if (bids || base.adverts === 'none') provenance.adverts = borrowed;
  return {
    ...fresh,
    ...shared,
    price: price === null ? fresh.price : priceByHabit(price, n.currency, habit),
    demand: typedDemand ? base.demand : fresh.demand,
    adverts:
      base.adverts === null || base.adverts === 'none'
        ? base.adverts
        : bids
          ? {
              ...base.adverts,
              keywords: base.adverts.keywords.map((k) => ({
                ...k,
                low: k.low === null ? null : cents(k.low),
                high: k.high === null ? null : cents(k.high),
              })),
            }
          : fresh.adverts,
    otherPerUnit: base.otherPerUnit,
    provenance,
  };
}
