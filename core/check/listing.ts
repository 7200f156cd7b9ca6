/** What the evidence of a listing says at a shelf: the same figures as on the page of its market. */
import { unitsSection } from '../evidence/market.ts';
import { historySection } from '../evidence/keeps.ts';
import type { EvidenceDocument } from '../evidence/schema.ts';
import { shelfListing } from './schema.ts';
import type { ShelfListing } from './schema.ts';

/** What a search or a file says of a listing by itself. */
export type ListingFacts = Pick<
  ShelfListing,
  'code' | 'title' | 'brand' | 'rank' | 'offers' | 'pack' | 'kg' | 'category' | 'asOf' | 'source'
> & { readonly price: number | null; readonly units: number | null };

/**
 * A listing at the shelf. Without evidence it is what the facts say: the price of today, the units of the whole
 * listing, and nothing of one's own.
 */
export function shelfListingOf(facts: ListingFacts, doc: EvidenceDocument | null): ShelfListing {
  const { price, units, ...own } = facts;
  const history = doc === null ? null : historySection(doc, null);
  const of = (basis: 'now' | 'mean30' | 'mean90'): number | null => {
    const known = history?.bases[basis];
    return known?.known === true ? known.price : null;
  };
  const now = of('now') ?? price;
  // One would sell beside the offers of today, so at the price of today.
  const sold = doc === null ? null : unitsSection({ ...doc, mine: { ...doc.mine, price: now } }, null);
  return shelfListing.parse({
    ...own,
    code: own.code.slice(0, 200),
    title: own.title.slice(0, 400),
    brand: own.brand.slice(0, 200),
    category: own.category?.slice(0, 200) ?? null,
    prices: { now, mean30: of('mean30'), mean90: of('mean90') },
    units: sold?.units.known === true ? sold.units.expected : units,
    mine: sold?.mine.known === true ? sold.mine.expected : null,
    ownShop: history?.ownShop['90'].share ?? null,
    permission: doc?.permission?.state ?? null,
    sides: doc?.about?.sides ?? null,
    kg: doc?.about?.kg ?? own.kg,
  });
}

/** The fastest seller first; of which nothing is known comes last. */
export const fastestFirst = <L extends { readonly units: number | null }>(listings: readonly L[]): L[] =>
  [...listings].sort((a, b) => (b.units ?? -1) - (a.units ?? -1));
