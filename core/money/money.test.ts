import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { conversionsOf, exchangeFactor, minorDigits, powerOfTen } from './money.ts';
import { atLeast, clamp, roundMinor, up, within } from '../rules/numbers.ts';

describe('rounding as marketplaces charge', () => {
  it('half away from zero, forgiving what floats lose', () => {
    expect([1.005, 2.675, -1.005, 0.285, 0, 1.0049].map((x) => roundMinor(x, 100))).toEqual([
      1.01, 2.68, -1.01, 0.29, 0, 1,
    ]);
    expect([roundMinor(1234.5, 1), roundMinor(0.0005, 1000)]).toEqual([1235, 0.001]);
  });
  it('a rounded amount stays as it is, and is never a minor unit away', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.constantFrom(1, 100, 1000),
        (x, power) => {
          const y = roundMinor(x, power);
          expect(roundMinor(y, power)).toBeCloseTo(y, 12);
          expect(Math.abs(x - y)).toBeLessThanOrEqual(0.5 / power + 1e-6);
        },
      ),
    );
  });
  it('minor units of currencies', () => {
    expect(['EUR', 'JPY', 'KWD', 'PLN'].map(minorDigits)).toEqual([2, 0, 3, 2]);
    expect([0, 2, 3, 4].map(powerOfTen)).toEqual([1, 100, 1000, 10_000]);
  });
});

describe('bounds', () => {
  it('"not above" and "at least" forgive float noise, and nothing more', () => {
    expect([
      within(0.1 + 0.2, 0.3),
      within(0.300001, 0.3),
      atLeast(0.3, 0.1 + 0.2),
      atLeast(0.299999, 0.3),
    ]).toEqual([true, false, true, false]);
    expect([up(2.0000000001), up(2.001), up(3)]).toEqual([2, 3, 3]);
  });
  it('a blank bound does not bind, and the upper one wins over a lower one above it', () => {
    expect([clamp(5, null, null), clamp(5, 6, null), clamp(5, null, 4), clamp(5, 8, 3)]).toEqual([
      5, 6, 4, 3,
    ]);
  });
});

describe('exchange', () => {
  const table = { date: '2026-11-20', base: 'EUR', rates: { USD: 1.25, PLN: 4 } };
  it('crosses by the base, both ways, and is unknown without a rate', () => {
    expect([
      exchangeFactor(table, 'EUR', 'USD'),
      exchangeFactor(table, 'USD', 'EUR'),
      exchangeFactor(table, 'USD', 'PLN'),
      exchangeFactor(null, 'PLN', 'PLN'),
    ]).toEqual([1.25, 0.8, 3.2, 1]);
    expect(
      [
        exchangeFactor(table, 'GBP', 'EUR'),
        exchangeFactor(table, 'EUR', 'GBP'),
        exchangeFactor(null, 'EUR', 'USD'),
      ].every(Number.isNaN),
    ).toBe(true);
  });
  it('there and back is where one was', () => {
    fc.assert(
      fc.property(fc.constantFrom('EUR', 'USD', 'PLN'), fc.constantFrom('EUR', 'USD', 'PLN'), (a, b) => {
        expect(exchangeFactor(table, a, b) * exchangeFactor(table, b, a)).toBeCloseTo(1, 12);
      }),
    );
  });
  it('of many lanes each rate used is named once, with its age', () => {
    const lane = (currency: string, date = '2026-11-24', exchange: typeof table | null = table) => ({
      currency,
      date,
      rates: { exchange },
    });
    expect(
      conversionsOf(
        [lane('EUR'), lane('USD'), lane('USD'), lane('PLN'), lane('GBP'), lane('USD', '2026-11-24', null)],
        'EUR',
      ),
    ).toEqual([
      { from: 'USD', to: 'EUR', factor: 0.8, date: '2026-11-20', days: 4 },
      { from: 'PLN', to: 'EUR', factor: 0.25, date: '2026-11-20', days: 4 },
    ]);
    expect(
      conversionsOf(
        [
          lane('USD'),
          lane('USD', '2026-11-30', { ...table, date: '2026-11-30', rates: { USD: 1.3, PLN: 4 } }),
        ],
        'EUR',
      ).map((c) => [c.date, c.days]),
    ).toEqual([
      ['2026-11-20', 4],
      ['2026-11-30', 0],
    ]);
  });
});
