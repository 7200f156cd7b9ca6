import { render } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { Bounded } from './Bounded.tsx';
import { useBounds } from './bounds.ts';
import type { BoundWords } from './bounds.ts';

function words(): BoundWords {
  let found: BoundWords | null = null;
  function Take() {
    found = useBounds();
    return null;
  }
  render(<Take />);
  return found as unknown as BoundWords;
}

describe('a figure that lacks costs, in words', () => {
  it('stands as it is where nothing is missing, or only what is no cost', () => {
    const b = words();
    for (const blanks of [undefined, [], ['demand'], ['price', 'demand']])
      expect(b.of('€4.00', blanks)).toBe('€4.00');
    expect([b.lacks(undefined), b.lacks(['demand']), b.lacks(['duty'])]).toEqual([false, false, true]);
  });
  it.each([
    ['atMost', 'under €4.00'],
    ['lessThan', 'less than €4.00'],
    ['atLeast', 'over €4.00'],
    ['above', 'above €4.00'],
  ] as const)('%s: %s', (way, says) => {
    expect(words().of('€4.00', ['duty'], way)).toBe(says);
  });
  it('returns alone bound nothing: what stands is before them', () => {
    const b = words();
    expect(b.of('€4.00', ['returns'])).toBe('€4.00 before returns');
    expect(b.of('€4.00', ['returns', 'freight'])).toBe('under €4.00 before returns');
  });
  it('what is kept is led by the word that goes with it', () => {
    const b = words();
    expect([b.keeps([]), b.keeps(['returns']), b.keeps(['returns', 'prep']), b.keeps(['duty'])]).toEqual([
      'keepsWord',
      'keepsBefore',
      'keepsUnder',
      'keepsUnder',
    ]);
  });
  it('the lines that are missing are listed by their names', () => {
    expect(words().list(['duty', 'freight'])).toMatch(/ and /);
    expect(words().list(['something new'])).toBe('something new');
  });
});

describe('a bound in a narrow column', () => {
  const shown = (amount: string, said: string): HTMLElement =>
    render(<Bounded amount={amount} words={said} />).container;
  it('has its words over the amount, and both in its title', () => {
    const cell = shown('4.00', 'under 4.00 before returns');
    expect(cell.querySelector('small')?.textContent).toBe('under, before returns');
    expect(cell.querySelector('.bounded')?.getAttribute('title')).toBe('under 4.00 before returns');
    expect(cell.textContent).toBe('under, before returns4.00');
  });
  it('a whole amount is the amount alone', () => {
    expect(shown('4.00', '4.00').innerHTML).toBe('4.00');
  });
});
