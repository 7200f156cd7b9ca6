/** Everything a feed says of one listing: itself, its offers, permission, terms, others of its barcode, neighbours. */
import type { FeedAnswer, FeedRow, Question } from '../../between/feed.ts';
import type { ListingSaid } from '../../between/listingSaid.ts';
import { askFeed } from '../outside/feed.ts';
import type { Fault } from '../../core/fault.ts';

const NEIGHBOURS = 12;
const TERMS = 20;

type Ask = <Q extends Question>(
  question: Q,
  params: Record<string, string | number>,
) => Promise<FeedAnswer<Q> | null>;

/** What goes wrong leaves its part unknown and is among the faults; without the listing itself there is nothing. */
export async function listingSaid(
  feed: Parameters<typeof askFeed>[0],
  market: string,
  code: string,
  signal: AbortSignal,
): Promise<{ said: ListingSaid | null; faults: Fault[] }> {
  const faults: Fault[] = [];
  const ask: Ask = async (question, params) => {
    const answer = await askFeed(feed, question, { market, ...params }, signal);
    if (answer.ok) return answer.value;
    faults.push(answer.fault);
    return null;
  };
  const listing = await ask('listing', { code });
  if (listing === null) return { said: null, faults };
  const { category, gtin } = listing;
  const [offers, permission, barcode, terms, page] = await Promise.all([
    ask('offers', { code }),
    ask('permission', { code }),
    gtin === null ? null : ask('barcode', { gtin }),
    ask('listing-terms', { code }),
    ask('search', { category, sort: 'units', limit: NEIGHBOURS + 1, ...near(listing) }),
  ]);
  const said = {
    listing,
    row: rowOf(listing),
    offers,
    permission,
    siblings: barcode?.listings ?? null,
    neighbours: (page?.listings ?? []).filter((l) => l.listing !== code).slice(0, NEIGHBOURS),
    terms: (terms?.terms ?? [])
      .slice(0, TERMS)
      .map(({ volumes, ...own }) => ({ ...own, volume: volumes.at(-1)?.value ?? null })),
  };
  return { said, faults };
}

/** Neighbours stand within half and twice its rank; where that is not known, within a fifth of its price. */
function near({ rank, price }: FeedAnswer<'listing'>): Record<string, number> {
  if (rank !== null) return { rankFrom: Math.ceil(rank / 2), rankTo: 2 * rank };
  return price === null ? {} : { priceFrom: 0.8 * price, priceTo: 1.2 * price };
}

const rowOf = (l: FeedAnswer<'listing'>): FeedRow => ({
  listing: l.listing,
  title: l.title,
  brand: l.brand,
  seller: l.seller,
  category: l.category,
  price: l.price,
  units: l.units?.units ?? null,
  rank: l.rank,
  reviews: l.reviews,
  rating: l.rating,
  daysListed: l.daysListed,
  offers: l.offers,
  kg: l.kg,
  gtin: l.gtin,
  paid: false,
});
