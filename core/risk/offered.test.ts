import { describe, expect, it } from 'vitest';
import { laneDocument } from '../lane/schema.ts';
import { plainLane } from '../testing/documents.ts';
import { randomLane } from '../testing/lanes.ts';
import { offeredRanges, rangeWidths, saidOf } from './offered.ts';
import { RISK_INPUTS } from './schema.ts';
import { pert, shareAbove, triangular } from './shapes.ts';

const WIDTHS = rangeWidths.parse({});
const LANE = plainLane({
  price: 40,
  orderQuantity: 250,
  demand: { kind: 'typed', units: 80 },
  goods: [
    {
      source: {
        kind: 'quote',
        currency: 'USD',
        priceBreaks: [
          { minQty: 0, unitPrice: 8 },
          { minQty: 200, unitPrice: 7 },
          { minQty: 900, unitPrice: 6 },
        ],
      },
    },
  ],
  returns: { rate: 0.05 },
  rates: { exchange: { base: 'EUR', date: '2026-11-24', rates: { USD: 1.25 } } },
} as never);

describe('ranges of what really came', () => {
  const of = (units: number | undefined, rate = 0.05) =>
    offeredRanges(
      laneDocument.parse({
        ...LANE,
        returns: { rate },
        provenance: {
          price: { source: 'actual', units },
          demand: { source: 'actual', units },
          'returns.rate': { source: 'actual', units },
        },
      }),
      WIDTHS,
    );
  const widthOf = (r: { range: { likely: number; high: number } } | undefined) =>
    r === undefined ? Number.NaN : r.range.high / r.range.likely - 1;
  it('narrow with the units behind a count, between the width of actual figures and that of estimates', () => {
    expect(widthOf(of(100).units)).toBeCloseTo(0.2, 2);
    expect(widthOf(of(400).units)).toBeCloseTo(0.1, 2);
    expect(widthOf(of(1e6).units)).toBeCloseTo(WIDTHS.actual, 2);
    expect(widthOf(of(10).units)).toBeCloseTo(WIDTHS.estimate, 2);
    // Twice the spread of a twentieth of 2,000 units.
    expect(widthOf(of(2000).returnRate)).toBeCloseTo(2 * Math.sqrt(0.95 / 100), 2);
    expect(of(2000, 0).returnRate?.range.high).toBe(0);
  });
  it('of a price, and where nobody says how many units, are those of actual figures', () => {
    expect(widthOf(of(20).price)).toBeCloseTo(WIDTHS.actual, 2);
    expect(widthOf(of(undefined).units)).toBeCloseTo(WIDTHS.actual, 2);
  });
});

describe('ranges that are offered', () => {
  it('are as wide as the figures are unsure, around what the lane says', () => {
    const doc = laneDocument.parse({
      ...LANE,
      provenance: {
        price: { source: 'guess' },
        demand: { source: 'estimate' },
        returns: { source: 'actual' },
      },
    });
    const offered = offeredRanges(doc, WIDTHS);
    expect(offered.price).toEqual({ range: { low: 24, likely: 40, high: 56 }, source: 'guess' });
    expect(offered.units).toEqual({ range: { low: 60, likely: 80, high: 100 }, source: 'estimate' });
    expect(offered.returnRate?.range.low).toBeCloseTo(0.0485, 6);
    // A quote is narrow, and the price is that of the break the order reaches.
    expect(offered.unitCost).toEqual({ range: { low: 6.65, likely: 7, high: 7.35 }, source: 'quote' });
    expect(offered.exchangeRate?.range).toEqual({ low: 0.94, likely: 1, high: 1.06 });
  });
  it('none for what the lane says nothing of, or has none of', () => {
    const bare = plainLane({ price: null, demand: null, adverts: 'none', route: 'none' });
    expect(offeredRanges(bare, WIDTHS)).toEqual({});
    expect(RISK_INPUTS.map((i) => saidOf(bare, i)).every((x) => x === null)).toBe(true);
  });
  it('what the market says goes before the widths, where today’s value lies in it', () => {
    const seen = { price: { low: 31, likely: 38, high: 44 }, units: { low: 90, likely: 100, high: 120 } };
    const offered = offeredRanges(LANE, WIDTHS, seen);
    expect(offered.price).toEqual({ range: { low: 31, likely: 40, high: 44 }, source: 'evidence' });
    expect(offered.units?.source).toBe('typed');
  });
  it('of any lane are in order and within what a range may be', () => {
    let ranges = 0;
    for (let seed = 1; seed <= 200; seed++)
      for (const [input, o] of Object.entries(offeredRanges(randomLane(seed), WIDTHS))) {
        ranges++;
        const { low, likely, high } = o.range;
        expect(low, `seed ${seed} ${input}`).toBeLessThanOrEqual(likely);
        expect(high, `seed ${seed} ${input}`).toBeGreaterThanOrEqual(likely);
        expect(low, `seed ${seed} ${input}`).toBeGreaterThanOrEqual(0);
        if (input === 'returnRate') expect(high).toBeLessThanOrEqual(0.99);
      }
    expect(ranges).toBeGreaterThan(300);
  });
});

describe('the share of draws above a value', () => {
  const range = { low: 10, likely: 20, high: 40 };
  it('is what is left of the distribution there', () => {
    expect(shareAbove(range, 'triangular', 20)).toBeCloseTo(2 / 3, 9);
    expect(shareAbove(range, 'triangular', 30)).toBeCloseTo(1 / 6, 9);
    expect(shareAbove({ low: 0, likely: 0.5, high: 1 }, 'pert', 0.5)).toBeCloseTo(0.5, 9);
    for (const [shape, inverse] of [
      ['triangular', triangular(range)],
      ['pert', pert(range)],
    ] as const)
      for (const u of [0.01, 0.3, 0.77, 0.999])
        expect(shareAbove(range, shape, inverse(u))).toBeCloseTo(1 - u, 9);
  });
  it('is all of it below the range and none above', () => {
    expect(shareAbove(range, 'triangular', 9)).toBe(1);
    expect(shareAbove(range, 'pert', 40)).toBe(0);
    expect(shareAbove({ low: 5, likely: 5, high: 5 }, 'triangular', 4)).toBe(1);
    expect(shareAbove({ low: 5, likely: 5, high: 5 }, 'triangular', 5)).toBe(0);
  });
});
