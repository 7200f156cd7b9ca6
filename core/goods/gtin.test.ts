import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkDigit, isGtin, readGtin } from './gtin.ts';

const body = (n: number) =>
  fc.array(fc.integer({ min: 0, max: 9 }), { minLength: n, maxLength: n }).map((d) => d.join(''));
const whole = (digits: string): string => digits + checkDigit(digits);

describe('barcodes', () => {
  it('check digits as the standard works them out, on its demonstration prefix', () => {
    // 952000000000 weighted 1 3 1 3 …: 9 + 15 + 2 = 26, up to thirty takes 4
    expect(checkDigit('952000000000')).toBe(4);
    expect([isGtin('9520000000004'), isGtin('9520000000005'), isGtin('952000000000'), isGtin('')]).toEqual([
      true,
      false,
      false,
      false,
    ]);
  });
  it('any single wrong digit is found, and so are most turned neighbours', () => {
    fc.assert(
      fc.property(body(12), fc.nat(12), fc.integer({ min: 1, max: 9 }), (b, at, by) => {
        const code = whole(b);
        const wrong = code.slice(0, at) + ((Number(code[at]) + by) % 10) + code.slice(at + 1);
        expect(isGtin(code)).toBe(true);
        expect(isGtin(wrong)).toBe(false);
      }),
    );
  });
  it('spaces, hyphens, apostrophes and a trailing .0 are read over', () => {
    for (const text of [
      ' 9520000000004 ',
      '952-0000-00000-4',
      "'9520000000004",
      '="9520000000004"',
      '9520000000004.0',
      '9 520000 000004',
    ])
      expect(readGtin(text), text).toEqual({
        ok: true,
        code: '9520000000004',
        key: '09520000000004',
        repaired: null,
      });
  });
  it('one product has one key however long its code is written', () => {
    const code = whole('01234567890');
    expect([readGtin(code), readGtin(`0${code}`)].map((r) => r.ok && r.key)).toEqual([
      `00${code}`,
      `00${code}`,
    ]);
  });
  it('zeros that a spreadsheet took off are put back where a length proves it', () => {
    const code = whole('00952000012');
    expect(readGtin(code.replace(/^0+/, ''))).toEqual({
      ok: true,
      code,
      key: code.padStart(14, '0'),
      repaired: 'leadingZeros',
    });
    fc.assert(
      fc.property(body(10), (b) => {
        const full = whole(`0${b}`);
        const cut = full.replace(/^0+/, '');
        const read = readGtin(cut);
        if (cut.length >= 8 && read.ok) expect(read.key).toBe(full.padStart(14, '0'));
      }),
    );
  });
  it('a code in exponent form is repaired only where no digit is gone', () => {
    expect(readGtin('4.00638E+12')).toEqual({ ok: false, trouble: 'digitsLost' });
    expect(readGtin('9.520000000004E+12')).toMatchObject({
      ok: true,
      code: '9520000000004',
      repaired: 'exponent',
    });
    expect(readGtin('9,520000000004E+12')).toMatchObject({ ok: true, repaired: 'exponent' });
    expect(readGtin('9.520000000005E+12')).toEqual({ ok: false, trouble: 'digitsLost' });
  });
  it('what is no code says why', () => {
    expect(
      ['', '  ', '0', 'B00ABC', '12345', '9520000000005', '123456789012345'].map(
        (t) => (readGtin(t) as { trouble: string }).trouble,
      ),
    ).toEqual([
      'missing',
      'missing',
      'missing',
      'notDigits',
      'wrongLength',
      'wrongCheckDigit',
      'wrongLength',
    ]);
  });
});
