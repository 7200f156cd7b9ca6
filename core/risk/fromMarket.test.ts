import { describe, expect, it } from 'vitest';
import { evidenceDocument } from '../evidence/schema.ts';
import { plainLane } from '../testing/documents.ts';
import { marketRanges } from './fromMarket.ts';
import { offeredRanges, rangeWidths } from './offered.ts';

const NOW = '2026-11-29';
const documentOf = (more: object) =>
  evidenceDocument.parse({ format: 'bold-margin/evidence', version: 1, now: NOW, ...more });
const days = Array.from({ length: 180 }, (_, k) => ({
  day: new Date(Date.parse(NOW) - (179 - k) * 86_400_000).toISOString().slice(0, 10),
  price: 30 + (k % 11),
}));
const LANE = plainLane({ price: 34, demand: { kind: 'typed', units: 100 } });

describe('ranges as the market has them', () => {
  it('the band of prices, and the units that may be mine', () => {
    const doc = documentOf({
      prices: { currency: 'EUR', days },
      units: { estimatedListing: { units: 100, low: 60, high: 150 } },
      offers: { currency: 'EUR', list: [] },
      mine: { price: 34 },
    });
    const { price, units } = marketRanges(doc, LANE);
    expect(price?.low).toBeGreaterThanOrEqual(30);
    expect(price?.high).toBeLessThanOrEqual(40);
    expect(price?.likely).toBe(34);
    expect(units).toEqual({ low: 60, likely: 100, high: 150 });
    const offered = offeredRanges(LANE, rangeWidths.parse({}), {
      ...(price && { price }),
      ...(units && { units }),
    });
    expect([offered.price?.source, offered.units?.source]).toEqual(['evidence', 'evidence']);
    expect(offered.units?.range).toEqual({ low: 60, likely: 100, high: 150 });
  });
  it('delivery that the lane charges is taken off the prices that are seen', () => {
    const doc = documentOf({ prices: { currency: 'EUR', days } });
    const bare = marketRanges(doc, LANE).price;
    const charged = marketRanges(doc, { ...LANE, shippingCharged: 4 }).price;
    expect(charged?.low).toBeCloseTo((bare?.low ?? 0) - 4, 9);
  });
  it('nothing known, prices in another currency, units without a reason: no range', () => {
    expect(marketRanges(documentOf({}), LANE)).toEqual({});
    expect(marketRanges(documentOf({ prices: { currency: 'GBP', days } }), LANE).price).toBeUndefined();
    expect(marketRanges(documentOf({ units: { statedListing: 50 } }), LANE).units).toBeUndefined();
  });
});
