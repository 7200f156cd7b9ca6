/**
 * A shop's catalogue as rows of a list: which goods are left out and why, what a row says, and how that is read.
 * Such rows are written once, by us, so the mapping that reads them back is known beforehand.
 */
import type { Standing } from '../lane/schema.ts';
import { listMap } from '../lists/map.ts';
import type { ListMap } from '../lists/map.ts';
import type { CatalogueFilters, ShopGoods } from './schema.ts';

/** Why goods of a catalogue are no row of the list. */
export const LEFT_OUT = [
  'noPrice',
  'tooCheap',
  'tooDear',
  'notInStock',
  'notPromoted',
  'fewReviews',
  'seenBefore',
] as const;
export type LeftOut = (typeof LEFT_OUT)[number];

/** The promotion of goods that holds on a day; null: none. */
export const promotionOn = (g: ShopGoods, day: string): ShopGoods['promotion'] =>
  g.promotion !== null && (g.promotion.until === null || g.promotion.until >= day) ? g.promotion : null;

/** What one of the goods costs at the shop on a day, in its currency and tax basis; null: not known. */
export const paidOn = (g: ShopGoods, day: string): number | null => promotionOn(g, day)?.price ?? g.price;

/**
 * Why goods are left out on a day; null: they are taken. What a shop does not say keeps goods in, but for the
 * price: unknown is not too little.
 */
export function leftOut(g: ShopGoods, f: CatalogueFilters, day: string): LeftOut | null {
  const paid = paidOn(g, day);
  if (paid === null) return 'noPrice';
  if (f.priceFrom !== null && paid < f.priceFrom) return 'tooCheap';
  if (f.priceTo !== null && paid > f.priceTo) return 'tooDear';
  if (f.inStock && g.stock === 0) return 'notInStock';
  if (f.promotedOnly && promotionOn(g, day) === null) return 'notPromoted';
  if (f.reviewsFrom !== null && g.reviews !== null && g.reviews < f.reviewsFrom) return 'fewReviews';
  return null;
}

/**
 * Whether VAT that a shop charges comes back. Null: where one sells in the shop's own country, as one's standing there
 * says. Elsewhere it is foreign VAT (economics, section 2): only who is registered in the shop's country has it back.
 */
export const shopVatBack = (
  shopCountry: string,
  soldIn: string,
  standings: Readonly<Partial<Record<string, Standing>>>,
): boolean | null => (shopCountry === soldIn ? null : standings[shopCountry]?.kind === 'registered');

type Cell = string | number | null;
/**
 * Columns of a catalogue that no role reads: kept beside the others under these names. A shop's category is one of
 * them: what a marketplace takes goes by the category of the listing, which fills in what a row leaves open.
 */
export const SHOP_CODE = 'shopCode';
export const CATALOGUE_EXTRAS = [
  SHOP_CODE,
  'shopCategory',
  'priceBefore',
  'promotionUntil',
  'shopReviews',
] as const;

const COLUMNS = {
  gtin: 'identifier',
  title: 'title',
  brand: 'brand',
  cost: 'cost',
  pieces: 'packSize',
  kg: 'weight',
  vatRate: 'vatRate',
  stock: 'stock',
} as const;
export const CATALOGUE_HEAD: readonly string[] = [...Object.keys(COLUMNS), ...CATALOGUE_EXTRAS];
export const CATALOGUE_MAP: ListMap = listMap.parse({
  columns: Object.fromEntries(Object.entries(COLUMNS).map(([heading, role]) => [role, heading])),
  extras: [...CATALOGUE_EXTRAS],
});

/** Goods as a row under `CATALOGUE_HEAD`; rates in per cent, weight in kg. */
export function rowOfGoods(g: ShopGoods, day: string): Cell[] {
  const promotion = promotionOn(g, day);
  return [
    g.gtin,
    g.title,
    g.brand,
    paidOn(g, day),
    g.pieces,
    g.kg,
    g.vatRate === null ? null : Number((g.vatRate * 100).toFixed(6)),
    g.stock,
    g.code,
    g.category,
    promotion === null ? null : g.price,
    promotion?.until ?? null,
    g.reviews,
  ];
}

/** A listing of a market as it completes goods of a catalogue. `sides` in cm. */
export type MarketListing = {
  readonly listing: string;
  readonly title: string;
  readonly brand: string;
  readonly category: string;
  readonly gtin: string | null;
  readonly price: number | null;
  readonly units: number | null;
  readonly rank: number | null;
  readonly offers: number | null;
  readonly sides: readonly number[] | null;
  readonly kg: number | null;
  readonly pack: number;
};
const MARKET_COLUMNS = {
  gtin: 'identifier',
  title: 'title',
  brand: 'brand',
  category: 'category',
  price: 'price',
  units: 'units',
  rank: 'rank',
  offers: 'offers',
  length: 'length',
  width: 'width',
  height: 'height',
  kg: 'weight',
  pack: 'packSize',
} as const;
/** Column of the code that a listing has on its market. */
export const LISTING_CODE = 'listing';
export const MARKET_HEAD: readonly string[] = [...Object.keys(MARKET_COLUMNS), LISTING_CODE];
export const MARKET_MAP: ListMap = listMap.parse({
  columns: Object.fromEntries(Object.entries(MARKET_COLUMNS).map(([heading, role]) => [role, heading])),
  extras: [LISTING_CODE],
});
export const rowOfListing = (l: MarketListing): Cell[] => [
  l.gtin,
  l.title,
  l.brand,
  l.category,
  l.price,
  l.units,
  l.rank,
  l.offers,
  ...(l.sides ?? [null, null, null]),
  l.kg,
  l.pack,
  l.listing,
];
