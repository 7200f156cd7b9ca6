import { describe, expect, it } from 'vitest';
import { outlineOf, stretchesOf } from './dayShapes.ts';

const x = (i: number): number => i * 10;
const same = <T>(v: T): T => v;

describe('stretches', () => {
  it('are days in a row, first and last', () => {
    expect(stretchesOf([true, true, false, true])).toEqual([
      [0, 1],
      [3, 3],
    ]);
    expect(stretchesOf([false, false])).toEqual([]);
    expect(stretchesOf([])).toEqual([]);
  });
});

describe('an outline', () => {
  it('goes in steps: a day’s value stands for the whole day', () => {
    expect(outlineOf([1, 2], same, null, x, same)).toBe('M0.0 1.0H10.0V2.0H20.0');
    expect(outlineOf([3, 3, 3], same, null, x, same)).toBe('M0.0 3.0H30.0');
  });
  it('breaks where nothing is known, and never sees a gap as 0', () => {
    expect(outlineOf([1, null, 2], same, null, x, same)).toBe('M0.0 1.0H10.0M20.0 2.0H30.0');
    expect(outlineOf([null, null], same, null, x, same)).toBe('');
  });
  it('is closed down to a base, each stretch by itself', () => {
    expect(outlineOf([4, 5, null, 6], same, 2, x, same)).toBe(
      'M0.0 2.0V4.0H10.0V5.0H20.0V2.0ZM30.0 2.0V6.0H40.0V2.0Z',
    );
  });
});
