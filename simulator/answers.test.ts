import { describe, expect, it } from 'vitest';
import { freightQuote, MODES, ratesOn } from './answers.ts';

describe('exchange rates of the stand-in', () => {
  it('the same question has the same answer; another seed or day has another', () => {
    expect(ratesOn(1, '2026-11-24', 'EUR')).toEqual(ratesOn(1, '2026-11-24', 'EUR'));
    expect(ratesOn(2, '2026-11-24', 'EUR')).not.toEqual(ratesOn(1, '2026-11-24', 'EUR'));
    expect(ratesOn(1, '2026-11-25', 'EUR')?.rates).not.toEqual(ratesOn(1, '2026-11-24', 'EUR')?.rates);
  });
  it('move slowly: under two in a hundred from one day to the next over a year', () => {
    let before = ratesOn(7, '2026-01-01', 'EUR')?.rates as Record<string, number>;
    for (let day = 1; day < 365; day++) {
      const now = ratesOn(7, new Date(Date.UTC(2026, 0, 1 + day)).toISOString().slice(0, 10), 'EUR')
        ?.rates as Record<string, number>;
      for (const [currency, rate] of Object.entries(now))
        expect(Math.abs(rate / (before[currency] as number) - 1), currency).toBeLessThan(0.02);
      before = now;
    }
  });
  it('cross by any base it knows; one it does not know has none', () => {
    const [eur, usd] = [ratesOn(1, '2026-11-24', 'EUR'), ratesOn(1, '2026-11-24', 'USD')];
    expect((usd?.rates.EUR as number) * (eur?.rates.USD as number)).toBeCloseTo(1, 4);
    expect((usd?.rates.PLN as number) * (eur?.rates.USD as number)).toBeCloseTo(eur?.rates.PLN as number, 3);
    expect(usd?.rates.USD).toBeUndefined();
    expect(ratesOn(1, '2026-11-24', 'XXX')).toBeNull();
  });
});

describe('freight quotes of the stand-in', () => {
  it('are the same within a month, differ by way and mode, and hold for thirty days', () => {
    const quote = freightQuote(1, 'CN', 'DE', 'sea', '2026-11-24');
    expect(freightQuote(1, 'CN', 'DE', 'sea', '2026-11-02').rate).toBe(quote.rate);
    expect(quote.validUntil).toBe('2026-12-24');
    expect(
      new Set(['DE', 'FR', 'GB', 'US', 'JP'].map((to) => freightQuote(1, 'CN', to, 'sea', '2026-11-24').rate))
        .size,
    ).toBeGreaterThan(2);
  });
  it.each(MODES)('%s: by volume or by weight, dear or slow as it is', (mode) => {
    for (const to of ['DE', 'GB', 'US']) {
      const q = freightQuote(3, 'CN', to, mode, '2026-11-24');
      expect(q.basis).toBe(mode === 'air' || mode === 'parcel' ? 'perKg' : 'perCbm');
      expect(q.fuelSurcharge > 0).toBe(mode === 'air' || mode === 'parcel');
      expect(q.rate).toBeGreaterThan(0);
      expect(Number.isInteger(q.transitDays) && q.transitDays >= 2).toBe(true);
    }
    expect(freightQuote(3, 'CN', 'DE', 'air', '2026-11-24').transitDays).toBeLessThan(
      freightQuote(3, 'CN', 'DE', 'sea', '2026-11-24').transitDays,
    );
  });
});
