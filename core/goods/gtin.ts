/**
 * Barcodes of goods: GTIN-8, -12, -13 and -14 with the check digit of the GS1 General Specifications (section
 * 7.9).
 */

/** Check digit over the digits before it: weights 3 and 1 from the right, up to the next ten. */
export function checkDigit(digits: string): number {
  let sum = 0;
  for (let i = 0; i < digits.length; i++)
    sum += (digits.charCodeAt(digits.length - 1 - i) - 48) * (i % 2 === 0 ? 3 : 1);
  return (10 - (sum % 10)) % 10;
}

/** Whether 8, 12, 13 or 14 digits end in their check digit. */
export function isGtin(digits: string): boolean {
  return (
    /^(\d{8}|\d{12,14})$/.test(digits) &&
    checkDigit(digits.slice(0, -1)) === digits.charCodeAt(digits.length - 1) - 48
  );
}

export const GTIN_TROUBLES = [
  'missing',
  'notDigits',
  'wrongLength',
  'wrongCheckDigit',
  'digitsLost',
] as const;
export type GtinTrouble = (typeof GTIN_TROUBLES)[number];
export type GtinRead =
  /**
   * `key`: the code in 14 digits, the same for one product however it is written. `repaired`: what a
   * spreadsheet took away was put back.
   */
  | {
      readonly ok: true;
      readonly code: string;
      readonly key: string;
      readonly repaired: 'leadingZeros' | 'exponent' | null;
    }
  | { readonly ok: false; readonly trouble: GtinTrouble };

const LENGTHS = [8, 12, 13, 14] as const;
const fail = (trouble: GtinTrouble): GtinRead => ({ ok: false, trouble });
const good = (code: string, repaired: 'leadingZeros' | 'exponent' | null): GtinRead => ({
  ok: true,
  code,
  key: code.padStart(14, '0'),
  repaired,
});

/** Whether a text is 8, 12, 13 or 14 digits, not all zero, that end in their check digit. */
function isPlain(text: string): boolean {
  const n = text.length;
  if (n !== 13 && n !== 12 && n !== 14 && n !== 8) return false;
  let sum = 0;
  let all = 0;
  for (let i = 0; i < n; i++) {
    const d = text.charCodeAt(n - 1 - i) - 48;
    if (d < 0 || d > 9) return false;
    all |= d;
    sum += i % 2 === 1 ? 3 * d : d;
  }
  return all !== 0 && sum % 10 === 0;
}

/**
 * The code with the zeros that a spreadsheet took off its front, where exactly one length proves itself by
 * its check digit.
 */
function withZeros(digits: string): string | null {
  const proven = LENGTHS.filter(
    (n) => n > digits.length && n - digits.length <= 4 && isGtin(digits.padStart(n, '0')),
  ).map((n) => digits.padStart(n, '0'));
  // Zeros in front of a code do not change its check digit: the shortest standing length is the code itself.
  return proven[0] ?? null;
}

/**
 * Reads a barcode as files hold it: digits with spaces or hyphens, a number with `.0`, or what a spreadsheet
 * has made of it. `4.00638E+12` has lost digits and is repaired only where the digits it still has are all of
 * them and the check digit proves it; a code without its leading zeros is repaired where a standing length
 * proves it. Nothing is guessed.
 */
export function readGtin(text: string): GtinRead {
  // Most codes are plain digits that prove themselves: a million of them are read without a pattern.
  if (isPlain(text)) return good(text, null);
  let s = text.trim();
  if (s.startsWith("'") || s.startsWith('=')) s = s.replace(/^[='"]+|["]+$/g, '');
  s = s.replace(/[\s\u00a0-]/g, '');
  if (s === '') return fail('missing');
  const exponent = /^(\d)[.,]?(\d*)[eE]\+?(\d{1,2})$/.exec(s);
  if (exponent !== null) {
    const [, lead = '', rest = '', power = ''] = exponent;
    const zeros = Number(power) - rest.length;
    if (zeros < 0 || zeros > 13) return fail('notDigits');
    const digits = lead + rest + '0'.repeat(zeros);
    // Five or fewer digits before the zeros: a spreadsheet shows no more, so what stood in place of the zeros
    // is gone.
    if (rest.length <= 5 && zeros > 1) return fail('digitsLost');
    if (isGtin(digits)) return good(digits, 'exponent');
    const longer = withZeros(digits);
    return longer === null ? fail('digitsLost') : good(longer, 'exponent');
  }
  s = s.replace(/[.,]0+$/, '');
  if (!/^\d+$/.test(s)) return fail('notDigits');
  if (/^0+$/.test(s)) return fail('missing');
  if (isGtin(s)) return good(s, null);
  if (s.length < 14) {
    const longer = withZeros(s);
    if (longer !== null && !(LENGTHS as readonly number[]).includes(s.length))
      return good(longer, 'leadingZeros');
  }
  return fail((LENGTHS as readonly number[]).includes(s.length) ? 'wrongCheckDigit' : 'wrongLength');
}
