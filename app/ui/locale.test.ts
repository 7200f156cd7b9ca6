import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { floorTo, formatFor, localeOf } from './locale.ts';
import { roundToTotal } from '../../core/money/money.ts';
import { hurdleAmount } from './figures.ts';

describe('figures in the reader’s own way', () => {
  it('money with its sign and decimals, a real minus, a dash for what is not known', () => {
    const [gb, de] = [formatFor('en-GB'), formatFor('de-DE')];
    expect([
      gb.money(12.9, 'EUR'),
      gb.money(-4, 'GBP'),
      gb.money(1234.5, 'JPY'),
      gb.money(null, 'EUR'),
    ]).toEqual(['€12.90', '−£4.00', '¥1,235', '–']);
    expect([
      de.money(12.9, 'EUR').replace(/\s/g, ' '),
      de.plain(1234.5, 'EUR'),
      de.percent(0.125).replace(/\s/g, ' '),
    ]).toEqual(['12,90 €', '1.234,50', '12,5 %']);
    expect([
      gb.plain(1.5, 'KWD'),
      gb.percent(-0.05, 0),
      gb.number(1234.567),
      gb.number(null),
      gb.day('2026-11-24'),
      gb.dayShort('2026-11-24'),
    ]).toEqual(['1.500', '−5%', '1,234.57', '–', '24 Nov 2026', '24 Nov']);
  });
  it('the first language of the browser that numbers can be written in', () => {
    expect([
      localeOf('de-AT,de;q=0.9'),
      localeOf('xx-invalid-$$, fr;q=0.8'),
      localeOf('*'),
      localeOf(null),
      localeOf('en-us'),
    ]).toEqual(['de-AT', 'fr', 'en-GB', 'en-GB', 'en-US']);
  });
  it('a hurdle in the unit of its figure', () => {
    const f = formatFor('en-GB');
    expect([
      hurdleAmount(0.25, 'margin', 'EUR', f),
      hurdleAmount(4, 'unitProfit', 'EUR', f),
      hurdleAmount(60, 'expectedMonthlyUnits', 'EUR', f),
    ]).toEqual(['25.0%', '€4.00', '60']);
  });
});

describe('shown lines and their total', () => {
  it('always add up, and none is a minor unit from its own rounding', () => {
    fc.assert(
      fc.property(
        fc.array(fc.option(fc.double({ min: -500, max: 500, noNaN: true })), { minLength: 1, maxLength: 12 }),
        fc.constantFrom(0, 2, 3),
        (values, digits) => {
          const power = 10 ** digits;
          const shown = roundToTotal(values, digits);
          const total = Math.round(values.reduce<number>((s, v) => s + (v ?? 0), 0) * power);
          expect(
            Math.abs(
              Math.round(shown.reduce<number>((s, v) => s + (v ?? 0), 0) * power) -
                (values.every((v) => v === null) ? 0 : total),
            ),
          ).toBe(0);
          values.forEach((v, i) => {
            if (v === null) expect(shown[i]).toBeNull();
            else expect(Math.abs((shown[i] as number) - v)).toBeLessThan(1 / power + 1e-6);
          });
        },
      ),
    );
  });
  it('take a total that is shown elsewhere', () => {
    expect(roundToTotal([1.005, 1.005], 2, 2.02)).toEqual([1.01, 1.01]);
    expect(roundToTotal([0.333, 0.333, 0.334], 2)).toEqual([0.33, 0.33, 0.34]);
  });
  it('the most to pay is rounded down, never up', () =>
    expect([floorTo(4.359, 2), floorTo(4.35, 2), floorTo(0.1 + 0.2, 1)]).toEqual([4.35, 4.35, 0.3]));
});
