/** The defaults as plain values are those of the schemas, field by field. */
import { describe, expect, it } from 'vitest';
import { leg, ownDispatch, route } from '../cards/carriage.ts';
import { purchasedLine } from '../money/schema.ts';
import {
  NEW_KEYWORD,
  NEW_PRODUCT,
  NEW_RETURNS,
  NO_TYPED_RATES,
  newDispatch,
  newLeg,
  newQuote,
  newRetail,
  newRoute,
  newTerms,
  purchased,
} from './defaults.ts';
import { keyword, laneTerms, product, quote, retailPurchase, returnsTerms, typedRates } from './schema.ts';

const leastLeg = { name: 'Sea', stage: 'main', basis: 'perKg', rate: 2, currency: 'EUR' } as const;

describe('what a part of a lane is before anybody says anything', () => {
  it.each([
    ['typed rates', NO_TYPED_RATES, typedRates.parse({})],
    ['a product', NEW_PRODUCT, product.parse({})],
    ['a purchase', purchased(3, 'EUR'), purchasedLine.parse({ amount: 3, currency: 'EUR' })],
    [
      'a quote',
      newQuote('PLN'),
      quote.parse({ kind: 'quote', currency: 'PLN', priceBreaks: [{ minQty: 0, unitPrice: null }] }),
    ],
    ['a shelf', newRetail('EUR'), retailPurchase.parse({ kind: 'retail', currency: 'EUR' })],
    ['a leg', newLeg(leastLeg), leg.parse(leastLeg)],
    ['a route', newRoute([newLeg(leastLeg)]), route.parse({ legs: [leastLeg] })],
    [
      'a parcel',
      newDispatch(30, 4.2, 'EUR'),
      ownDispatch.parse({
        zones: [{ share: 1, postage: { currency: 'EUR', steps: [{ upToKg: 30, fee: 4.2 }] } }],
      }),
    ],
    ['a keyword', NEW_KEYWORD, keyword.parse({})],
    ['returns', NEW_RETURNS, returnsTerms.parse({})],
    ['the terms', newTerms('DE', 'EUR'), laneTerms.parse({ country: 'DE', currency: 'EUR' })],
  ])('%s', (_, plain, bySchema) => {
    expect(plain).toEqual(bySchema);
    expect(Object.keys(plain).sort()).toEqual(Object.keys(bySchema).sort());
  });
});
