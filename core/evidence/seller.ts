/** Another seller's shop: what sells there, how often and at which price, and what changed since one looked last. */
import { percentileOfSorted, rising } from './statistics.ts';

/** Goods of a seller as a market shows them. Prices in its currency, units a month. */
export type SellerGoods = {
  readonly listing: string;
  readonly title: string;
  readonly brand: string;
  readonly category: string;
  readonly price: number | null;
  readonly units: number | null;
  readonly daysListed: number | null;
};
/** A brand or a category of a shop; `share` of the units that are known. */
export type ShopPart = { readonly name: string; readonly listings: number; readonly share: number | null };
export type SellerSaid = {
  readonly listings: number;
  /** Units and revenue a month, of the listings whose units (and price) are known. */
  readonly units: number | null;
  readonly unitsOf: number;
  readonly revenue: number | null;
  readonly revenueOf: number;
  /** Lower quarter, middle and upper quarter of its prices; null without any. */
  readonly prices: { readonly low: number; readonly middle: number; readonly high: number } | null;
  /** Share of the units that its best fifth of the listings sells; null where no units are known. */
  readonly bestFifth: number | null;
  /** Listings that are no older than `newcomerDays`. */
  readonly fresh: number;
  readonly brands: readonly ShopPart[];
  readonly categories: readonly ShopPart[];
};

const sum = (of: readonly number[]): number => of.reduce((a, b) => a + b, 0);
const known = (of: readonly (number | null)[]): number[] => of.filter((x) => x !== null);

/** Parts of a shop by a name, most units first; goods without one are left out. */
function partsBy(
  goods: readonly SellerGoods[],
  nameOf: (g: SellerGoods) => string,
  units: number,
): ShopPart[] {
  const parts = new Map<string, SellerGoods[]>();
  for (const g of goods) {
    const name = nameOf(g);
    if (name !== '') parts.set(name, [...(parts.get(name) ?? []), g]);
  }
  return [...parts]
    .map(([name, of]) => ({
      name,
      listings: of.length,
      share: units > 0 ? sum(known(of.map((g) => g.units))) / units : null,
    }))
    .sort(
      (a, b) => (b.share ?? 0) - (a.share ?? 0) || b.listings - a.listings || a.name.localeCompare(b.name),
    );
}

/** What is said of a shop by its goods. Unknown is never 0: sums are of what is known, and say of how many. */
export function sellerSaid(goods: readonly SellerGoods[], newcomerDays: number): SellerSaid {
  const sold = known(goods.map((g) => g.units));
  const units = sum(sold);
  const priced = goods.filter((g) => g.units !== null && g.price !== null);
  const prices = rising(known(goods.map((g) => g.price)));
  const best = [...sold].sort((a, b) => b - a).slice(0, Math.ceil(sold.length / 5));
  return {
    listings: goods.length,
    units: sold.length === 0 ? null : units,
    unitsOf: sold.length,
    revenue: priced.length === 0 ? null : sum(priced.map((g) => (g.units as number) * (g.price as number))),
    revenueOf: priced.length,
    prices:
      prices.length === 0
        ? null
        : {
            low: percentileOfSorted(prices, 0.25) as number,
            middle: percentileOfSorted(prices, 0.5) as number,
            high: percentileOfSorted(prices, 0.75) as number,
          },
    bestFifth: units > 0 ? sum(best) / units : null,
    fresh: goods.filter((g) => g.daysListed !== null && g.daysListed <= newcomerDays).length,
    brands: partsBy(goods, (g) => g.brand, units),
    categories: partsBy(goods, (g) => g.category, units),
  };
}

/** Change of a price from which it counts as one. */
const MOVED = 0.05;
export type SellerChanges = {
  readonly fresh: readonly string[];
  readonly gone: readonly string[];
  readonly cheaper: readonly string[];
  readonly dearer: readonly string[];
};
type Kept = Pick<SellerGoods, 'listing' | 'price'>;
/**
 * Listings that came, went, or moved in price by a twentieth or more since one looked last. `whole`: whether all goods
 * of the shop were seen both times; where not, none is said to have gone.
 */
export function sellerChanges(before: readonly Kept[], now: readonly Kept[], whole: boolean): SellerChanges {
  const was = new Map(before.map((g) => [g.listing, g]));
  const is = new Set(now.map((g) => g.listing));
  const moved = (down: boolean): string[] =>
    now.flatMap(({ listing, price }) => {
      const old = was.get(listing)?.price ?? null;
      if (old === null || price === null || old <= 0) return [];
      const by = price / old - 1;
      return (down ? by <= -MOVED + 1e-9 : by >= MOVED - 1e-9) ? [listing] : [];
    });
  return {
    fresh: whole ? now.flatMap((g) => (was.has(g.listing) ? [] : [g.listing])) : [],
    gone: whole ? before.flatMap((g) => (is.has(g.listing) ? [] : [g.listing])) : [],
    cheaper: moved(true),
    dearer: moved(false),
  };
}
