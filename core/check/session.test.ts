import { describe, expect, it } from 'vitest';
import type { CheckGist } from './check.ts';
import { ended, isPaused, minutesOf, paused, walked } from './session.ts';
import type { CheckSession } from './schema.ts';

const at = (minute: number): string => new Date(Date.UTC(2026, 10, 30, 9, minute)).toISOString();
const open: CheckSession = {
  id: 'a',
  name: '',
  stretches: [{ from: at(0), to: null }],
  ended: false,
  changedAt: at(0),
};

describe('minutes of a walk', () => {
  it('pauses are left out, an open stretch runs until now', () => {
    const s = paused(paused(open, true, at(10)), false, at(25));
    expect(minutesOf(s.stretches, at(41))).toBe(26);
    expect(isPaused(s)).toBe(false);
    expect(isPaused(paused(s, true, at(41)))).toBe(true);
  });
  it('paused twice is paused once, and what has ended does not go on', () => {
    const once = paused(open, true, at(5));
    expect(paused(once, true, at(9))).toBe(once);
    const over = ended(open, at(7));
    expect([over.ended, isPaused(over), minutesOf(over.stretches, at(60))]).toEqual([true, true, 7]);
    expect(paused(over, false, at(9))).toBe(over);
  });
  it('a clock that was set back counts nothing', () =>
    expect(minutesOf([{ from: at(30), to: at(10) }], at(40))).toBe(0));
});

describe('what a walk adds up to', () => {
  const gist = (perMonthHome: number | null, lacks: CheckGist['lacks'] = []): CheckGist => ({
    verdict: 'buy',
    currency: 'EUR',
    price: 40,
    unitProfit: 16,
    roi: 0.8,
    mostShelf: 30,
    perMonthHome,
    lacks,
    missed: null,
  });
  it('only what was kept counts; what is not known is counted apart, and what is left out is named', () => {
    const kept = { state: 'kept' } as const;
    expect(
      walked([
        { data: kept, said: gist(100) },
        { data: kept, said: gist(14, ['prep']) },
        { data: kept, said: gist(null) },
        { data: { state: 'left' }, said: gist(500) },
      ]),
    ).toEqual({ checked: 4, kept: 3, left: 1, perMonthHome: 114, unknown: 1, lacks: ['prep'] });
  });
  it('a walk without checks', () =>
    expect(walked([])).toEqual({ checked: 0, kept: 0, left: 0, perMonthHome: 0, unknown: 0, lacks: [] }));
});
