/**
 * A product, its quote, its cards and a lane as a workspace keeps them, as bare as they come: sold for 40 at a
 * referral fee of a tenth, bought for 20 in orders of 100, all else none: a unit keeps 16.
 */
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import { candidateData, quoteSource, storedLane } from '../workspace/records.ts';
import { settings } from '../workspace/settings.ts';
import { marketplaceCardOf, taxCardOf } from './documents.ts';

export const PLAIN_CARDS = {
  m: marketplaceCard.parse(marketplaceCardOf([{ upTo: null, pct: 0.1 }])),
  t: taxCard.parse(taxCardOf('exclusive', 0)),
};
export const PLAIN_PRODUCT = candidateData.parse({
  name: 'Bird bath',
  way: 'wholesale',
  product: { category: 'any' },
});
export const PLAIN_SETTINGS = settings.parse({ standings: { DE: { kind: 'registered' } } });
export const plainQuote = (unitPrice = 20, supplier = '') =>
  quoteSource.parse({ kind: 'quote', supplier, currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice }] });
export const plainStored = (over: object = {}) =>
  storedLane.parse({
    country: 'DE',
    currency: 'EUR',
    marketplace: 'Testmarket',
    price: 40,
    components: [{ quoteId: 'q' }],
    orderQuantity: 100,
    marketplaceCardId: 'm',
    taxCardId: 't',
    imported: false,
    route: 'none',
    prep: 'none',
    storage: 'none',
    method: 'ownDispatch',
    dispatch: 'none',
    returns: 'none',
    adverts: 'none',
    ...over,
  });
