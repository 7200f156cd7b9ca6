import { describe, expect, it } from 'vitest';
import { launchProfit } from './launchProfit.ts';

describe('a launch over its months', () => {
  const base = {
    unitProfit: 5,
    landedCost: 10,
    quantity: 100,
    units: 20,
    months: 3,
    breakage: 0,
    returned: 0,
    resold: 0,
    salvage: 0,
    once: 0,
    discounts: { units: 0, discount: 0 },
    ships: false,
  };
  it('what is not sold is lost, but for what it fetches', () => {
    expect(launchProfit(base)).toBe(60 * 15 - 1000);
    expect(launchProfit({ ...base, salvage: 0.25 })).toBe(60 * 15 - 1000 + 100);
    expect(launchProfit({ ...base, months: 12 })).toBe(500);
  });
  it('broken units cost and are not sold; returned ones are sold again in part', () => {
    expect(launchProfit({ ...base, months: 12, breakage: 0.2 })).toBeCloseTo(80 * (5 + 12.5) - 1000, 9);
    const sold = 100 / (1 - 0.2 * 0.5);
    expect(launchProfit({ ...base, months: 12, returned: 0.2, resold: 0.5 })).toBeCloseTo(
      sold * (15 - 1) - 1000,
      9,
    );
  });
  it('where all come back and are sold again the goods last', () => {
    expect(launchProfit({ ...base, returned: 1, resold: 1 })).toBe(60 * 5 - 1000);
  });
  it('one-offs come off once, discounts on the units that are sold', () => {
    expect(launchProfit({ ...base, once: 70 })).toBe(-170);
    expect(launchProfit({ ...base, discounts: { units: 80, discount: 2 } })).toBe(-100 - 120);
  });
  it('a supplier who ships leaves nothing over', () => {
    expect(launchProfit({ ...base, ships: true, once: 50 })).toBe(250);
    expect(launchProfit({ ...base, ships: true, units: Number.NaN })).toBeNaN();
  });
});
