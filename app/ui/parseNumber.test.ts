import { describe, expect, it } from 'vitest';
import { formatFor, localeOf } from './locale.ts';
import { roundToTotal } from '../../core/money/money.ts';
import { rulerStep } from './MarginBar.tsx';
import { parseMeasure, parseNumber, parseSides } from './parseNumber.ts';

const number = (value: number, doubtful = false) => ({ kind: 'number', value, doubtful });

describe('numbers as people type them', () => {
  it.each([
    ['12.90', number(12.9)],
    ['12,90', number(12.9)],
    ['0,5', number(0.5)],
    ['.5', number(0.5)],
    ['1.234,56', number(1234.56)],
    ['1,234.56', number(1234.56)],
    ['1 234,56', number(1234.56)],
    ['1\u202f234.5', number(1234.5)],
    ["1'234.50", number(1234.5)],
    ['1.234.567', number(1234567)],
    ['-3,5', number(-3.5)],
    ['−3.5', number(-3.5)],
    ['15 %', number(15)],
    ['0.125', number(0.125)],
    ['0,125', number(0.125)],
    ['12345.678', number(12345.678)],
  ])('%s', (text, want) => expect(parseNumber(text, 'en-GB')).toEqual(want));
  it('1,234 groups for one reader and divides for another, and says that it was doubtful', () => {
    expect(parseNumber('1,234', 'en-GB')).toEqual(number(1234, true));
    expect(parseNumber('1,234', 'de-DE')).toEqual(number(1.234, true));
    expect(parseNumber('1.234', 'de-DE')).toEqual(number(1234, true));
  });
  it("takes the field's own currency, by sign or code, and refuses another", () => {
    for (const text of ['€12,90', '12.90 EUR', 'EUR 12.90', '12,90 €', '\u00a0€ 12.90 '])
      expect(parseNumber(text, 'de-DE', 'EUR')).toEqual(number(12.9));
    expect(parseNumber('$12.90', 'en-GB', 'EUR')).toEqual({ kind: 'wrongCurrency', found: 'USD' });
    expect(parseNumber('12.90 GBP', 'en-GB', 'EUR')).toEqual({ kind: 'wrongCurrency', found: 'GBP' });
    expect(parseNumber('£5', 'en-GB', 'GBP')).toEqual(number(5));
  });
  it.each(['twelve', '12..5', '1,23,4', '12-5', '--3', '1e5', '<script>', '12.34.5'])(
    '%s is no number',
    (text) => expect(parseNumber(text, 'en-GB', 'EUR').kind).toBe('notANumber'),
  );
  it('nothing is blank, not zero', () =>
    expect([parseNumber('  ', 'en-GB').kind, parseNumber('0', 'en-GB')]).toEqual(['blank', number(0)]));
});

describe('sizes and weights', () => {
  it('in any unit, to cm and kg', () => {
    expect(
      [
        parseMeasure('500 g', 'weight', 'en-GB'),
        parseMeasure('18 oz', 'weight', 'en-GB'),
        parseMeasure('2 lb', 'weight', 'en-GB'),
        parseMeasure('0,85', 'weight', 'de-DE'),
      ].map((m) => (m as { value: number }).value),
    ).toEqual([0.5, 0.51029141625, 0.90718474, 0.85]);
    expect(parseMeasure('8 in', 'length', 'en-GB')).toEqual({ value: 20.32, unit: 'in' });
    expect(parseMeasure('5 stone', 'weight', 'en-GB')).toBeNull();
    expect([
      parseSides('20 x 15 x 8', 'en-GB'),
      parseSides('12×8×4 in', 'en-GB'),
      parseSides('200*150*80 mm', 'en-GB'),
      parseSides('20,5 x 15 x 8', 'de-DE'),
    ]).toEqual([
      [20, 15, 8],
      [30.48, 20.32, 10.16],
      [20, 15, 8],
      [20.5, 15, 8],
    ]);
    expect([
      parseSides('20 x 15', 'en-GB'),
      parseSides('0 x 1 x 2', 'en-GB'),
      parseSides('', 'en-GB'),
      // What no document can hold is not taken.
      parseSides('99999999999999 x 1 x 1', 'en-GB'),
      parseSides('1 x 1 x 0.0000000001', 'en-GB'),
    ]).toEqual([null, null, 'blank', null, null]);
  });
});

describe('numbers as they are shown', () => {
  it("in the reader's locale, with a real minus sign, a dash for unknown", () => {
    expect(formatFor('de-DE').money(-1234.5, 'EUR')).toBe('−1.234,50\u00a0€');
    expect(formatFor('en-GB').money(1234.5, 'EUR')).toBe('€1,234.50');
    expect(formatFor('en-GB').money(1234.5, 'JPY')).toMatch(/1,235$/);
    expect([
      formatFor('en-GB').money(null, 'EUR'),
      formatFor('en-GB').percent(null),
      formatFor('en-GB').percent(0.1234),
    ]).toEqual(['–', '–', '12.3%']);
    expect([localeOf('de-CH,de;q=0.9'), localeOf('not a language'), localeOf(null)]).toEqual([
      'de-CH',
      'en-GB',
      'en-GB',
    ]);
  });
  it('shown lines add up to the shown total, money given back too', () => {
    expect(roundToTotal([1.004, 1.004, 1.004], 2)).toEqual([1.01, 1, 1]);
    expect(roundToTotal([0.335, 0.335, 0.33], 2).reduce<number>((a, b) => a + (b ?? 0), 0)).toBeCloseTo(
      1,
      12,
    );
    for (const list of [
      [5.5736, 5.7543, 1.7949, 4.5372, 3.82, 0.9063, 0, 2.1818, 10.3319],
      [12.345, -0.335, 4.4449],
      [1200.4, 33.3, 99.3],
    ]) {
      const sum = (roundToTotal(list, 2) as number[]).reduce((a, b) => a + b, 0);
      expect(sum).toBeCloseTo(Math.round(list.reduce((a, b) => a + b, 0) * 100) / 100, 9);
    }
    expect(roundToTotal([1.5, null, 1.4], 0)).toEqual([2, null, 1]);
    // a total that was rounded with its neighbours
    expect(roundToTotal([0.425, 0.425], 2, 0.84)).toEqual([0.42, 0.42]);
    expect(roundToTotal([0.42, 0.43], 2, 0.84)?.reduce<number>((a, b) => a + (b ?? 0), 0)).toBeCloseTo(
      0.84,
      12,
    );
  });
  it('the ruler has four to eight round marks', () => {
    for (const full of [0.37, 3, 9.99, 34.9, 129, 4980, 123456]) {
      const step = rulerStep(full);
      expect(full / step).toBeGreaterThan(2.9);
      expect(full / step).toBeLessThan(8.1);
      expect(String(step)).toMatch(/^(0\.0*)?(1|2|2\.?5|5)0*$/);
    }
  });
});
