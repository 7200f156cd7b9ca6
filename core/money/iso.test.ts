import { describe, expect, it } from 'vitest';
import { COUNTRY_CURRENCY } from '../tax/countries.ts';
import { COUNTRIES, CURRENCIES, CURRENCY_OF } from './iso.ts';
import { country, currency } from './schema.ts';

describe('codes to choose from', () => {
  it('stand once each, in order, and have a name in English', () => {
    const nameOf = {
      currency: new Intl.DisplayNames('en', { type: 'currency' }),
      country: new Intl.DisplayNames('en', { type: 'region' }),
    };
    for (const c of CURRENCIES) {
      expect(currency.safeParse(c).success, c).toBe(true);
      expect(nameOf.currency.of(c), c).toBeTruthy();
    }
    for (const c of COUNTRIES) {
      expect(country.safeParse(c).success, c).toBe(true);
      expect(nameOf.country.of(c), c).not.toBe(c);
    }
    expect([...new Set(CURRENCIES)].sort()).toEqual(CURRENCIES);
    expect([...new Set(COUNTRIES)].sort()).toEqual(COUNTRIES);
    for (const c of COUNTRIES) expect(CURRENCIES, c).toContain(CURRENCY_OF[c]);
    expect(CURRENCIES.length).toBeGreaterThan(150);
    expect(COUNTRIES.length).toBeGreaterThan(240);
  });
  it('hold those that the starter cards use', () => {
    for (const [c, money] of Object.entries(COUNTRY_CURRENCY)) {
      expect(CURRENCY_OF[c]).toBe(money);
    }
  });
});
