import { renderHook } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import './words.ts';
import { useTally } from './useTally.ts';

const NONE = {
  kept: 0,
  shortlisted: 0,
  dropped: 0,
  ordered: 0,
  profitPerMonth: 0,
  lacks: [],
  unknownProfit: 0,
};
const said = (over: Partial<Parameters<typeof useTally>[0]>) =>
  renderHook(() => useTally({ ...NONE, ...over }, 'EUR')).result.current;

describe('what the goods kept add up to', () => {
  it('is nothing that could be said before one is kept', () => {
    expect(said({ shortlisted: 4, dropped: 2 })).toEqual({ amount: null, unknown: '' });
  });
  it('is a sum of those kept and ordered, under what stands where costs are missing', () => {
    expect(said({ kept: 2, ordered: 1, profitPerMonth: 1234.5 }).amount).toBe('€1,234.50');
    expect(said({ kept: 2, profitPerMonth: 50, lacks: ['freight', 'duty'] }).amount).toBe('under €50.00');
    expect(said({ kept: 2, profitPerMonth: 50, lacks: ['returns'] }).amount).toBe('€50.00 before returns');
  });
  it('says of how many the profit is not known, and is no 0 where that is all of them', () => {
    expect(said({ kept: 3, profitPerMonth: 50, unknownProfit: 2 })).toEqual({
      amount: '€50.00',
      unknown: ', 2 of them not known',
    });
    expect(said({ kept: 2, unknownProfit: 2 })).toEqual({ amount: null, unknown: '' });
  });
});
