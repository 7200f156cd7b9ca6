import { describe, expect, it } from 'vitest';
import { aboveRivals, rivalPrices } from './rivals.ts';

const split = (rivals: (number | null)[]) => ({
  kind: 'offerSplit' as const,
  listingUnits: 100,
  variationShare: 1,
  retailArmShare: 0,
  band: 0,
  rivals,
});

describe('rivals that are typed', () => {
  it('come from ladder and offer split, each once, rising; blank ones are none', () => {
    expect(rivalPrices(split([31, null, 28]), [40, 28])).toEqual([28, 31, 40]);
    expect(rivalPrices(null, [5])).toEqual([5]);
    expect(rivalPrices({ kind: 'typed', units: 3 })).toEqual([]);
  });
  it('a price is held against all of them', () => {
    expect(aboveRivals(30, [28, 31, 40])).toEqual({ above: 1, of: 3, dearest: 40 });
    expect(aboveRivals(41, [28, 31, 40])).toEqual({ above: 3, of: 3, dearest: 40 });
    expect(aboveRivals(28, [28, 31])).toBeNull();
    expect(aboveRivals(null, [28])).toBeNull();
    expect(aboveRivals(30, [])).toBeNull();
  });
});
