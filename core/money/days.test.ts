import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dayAfter, dayNumber, daysBetween, firstOfNextMonth } from './days.ts';

const day = fc
  .date({ min: new Date('1990-01-01'), max: new Date('2090-12-31'), noInvalidDate: true })
  .map((d) => d.toISOString().slice(0, 10));

describe('days', () => {
  it('are counted across months, leap days and the turn of a year', () => {
    expect([
      daysBetween('2026-02-27', '2026-03-01'),
      daysBetween('2028-02-27', '2028-03-01'),
      daysBetween('2026-12-31', '2027-01-01'),
      daysBetween('2026-11-28', '2026-11-28'),
      daysBetween('2026-11-28', '2026-11-20'),
    ]).toEqual([2, 3, 1, 0, -8]);
  });
  it('as numbers are as far apart as they are, over leap years and centuries', () => {
    const far = fc
      .date({ min: new Date('1600-01-01'), max: new Date('2500-12-31'), noInvalidDate: true })
      .map((d) => d.toISOString().slice(0, 10));
    fc.assert(fc.property(far, far, (a, b) => dayNumber(b) - dayNumber(a) === daysBetween(a, b)));
    expect(dayNumber('2000-03-01') - dayNumber('2000-02-28')).toBe(2);
    expect(dayNumber('1900-03-01') - dayNumber('1900-02-28')).toBe(1);
  });
  it('the day after is one day later, whatever the day', () => {
    fc.assert(fc.property(day, (d) => daysBetween(d, dayAfter(d)) === 1 && dayAfter(d) > d));
  });
  it('the first of next month is the first of a month, within 31 days, and nothing lies between', () => {
    fc.assert(
      fc.property(day, (d) => {
        const next = firstOfNextMonth(d);
        expect(next.slice(8)).toBe('01');
        expect(next > d && daysBetween(d, next) <= 31).toBe(true);
        expect(next.slice(0, 7) > d.slice(0, 7)).toBe(true);
      }),
    );
    expect(['2026-01-31', '2026-12-31', '2028-02-29'].map(firstOfNextMonth)).toEqual([
      '2026-02-01',
      '2027-01-01',
      '2028-03-01',
    ]);
  });
});
