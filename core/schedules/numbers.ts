/**
 * Numbers as people write them: decimal and thousands marks of any country, fractions; and which marks a table
 * uses.
 */

/** What stands for the decimal mark in a table; null where its numbers do not tell. */
export type DecimalMark = '.' | ',' | null;

const SPACES = '[   ]';
/** A number: groups of three behind blanks or apostrophes, or digits with points and commas; fractions of inches. */
export const NUMBER = [
  `(?:\\d{1,3}(?:(?:${SPACES}|['’])\\d{3})+(?!\\d)(?:[.,]\\d+)?`,
  '\\d+(?:[.,]\\d+)*(?:\\s+\\d\\/\\d+)?(?:[½¼¾⅓⅔])?',
  '[½¼¾⅓⅔]',
  '\\.\\d+)',
].join('|');
const FRACTIONS: Readonly<Record<string, number>> = {
  '½': 0.5,
  '¼': 0.25,
  '¾': 0.75,
  '⅓': 1 / 3,
  '⅔': 2 / 3,
};
const FULL_WIDTH = /[！-～]/g;

/**
 * Digits and marks as typed on a Latin keyboard, minus signs and dashes as they are, without what only directs
 * text.
 */
export const plain = (text: string): string =>
  text
    .replace(FULL_WIDTH, (c) => String.fromCharCode(c.charCodeAt(0) - 0xfee0))
    .replace(/[\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g, '')
    .replace(/[٠-٩]/g, (c) => String(c.charCodeAt(0) - 0x660))
    .replace(/٫/g, '.')
    .trim();

type Marked = { readonly value: number; readonly other: number | null };

/** A number's value; `other`: what it is where its only mark is read the other way. */
function valuesOf(digits: string, mark: DecimalMark): Marked | null {
  const points = digits.split('.').length - 1;
  const commas = digits.split(',').length - 1;
  if (points === 0 && commas === 0) return { value: Number(digits), other: null };
  if (points > 0 && commas > 0) return bothMarks(digits);
  const used = points > 0 ? '.' : ',';
  const parts = digits.split(used);
  const grouped = parts.slice(1).every((p) => p.length === 3) && (parts[0] ?? '').length <= 3;
  if (parts.length > 2) return grouped ? { value: Number(parts.join('')), other: null } : null;
  const [whole = '', rest = ''] = parts;
  const decimal = Number(`${whole === '' ? '0' : whole}.${rest}`);
  const joined = Number(whole + rest);
  if (rest.length !== 3 || whole === '' || whole === '0' || !grouped)
    return { value: decimal, other: mark !== null && mark !== used ? joined : null };
  if (mark === used) return { value: decimal, other: null };
  return { value: joined, other: mark === null ? decimal : null };
}

/** The mark that comes last is the decimal one, where it comes once and the other groups by three. */
function bothMarks(digits: string): Marked | null {
  const last = digits.lastIndexOf('.') > digits.lastIndexOf(',') ? '.' : ',';
  const first = last === '.' ? ',' : '.';
  const [whole = '', rest = '', ...more] = digits.split(last);
  const groups = whole.split(first);
  if (more.length > 0 || !groups.slice(1).every((g) => g.length === 3)) return null;
  return { value: Number(`${groups.join('')}.${rest}`), other: null };
}

/**
 * A number as written, by the decimal mark of its table; `other` is a second reading where its marks allow one.
 *
 * @example numberOf('1.234,50', null) // { value: 1234.5, other: null }
 * @example numberOf('5,26', '.') // { value: 5.26, other: 526 }
 * @example numberOf('1.500', null) // { value: 1500, other: 1.5 }
 * @example numberOf('6½', '.') // { value: 6.5, other: null }
 */
export function numberOf(text: string, mark: DecimalMark): Marked | null {
  const fraction = FRACTIONS[text.slice(-1)];
  if (fraction !== undefined) {
    const whole = text.slice(0, -1).trim();
    return { value: (whole === '' ? 0 : Number(whole)) + fraction, other: null };
  }
  const mixed = /^(\d+)\s+(\d)\/(\d+)$/.exec(text);
  if (mixed !== null) return { value: Number(mixed[1]) + Number(mixed[2]) / Number(mixed[3]), other: null };
  const found = valuesOf(text.replace(new RegExp(`(?:${SPACES}|['’])(?=\\d{3})`, 'g'), ''), mark);
  return found === null || !Number.isFinite(found.value) ? null : found;
}

/**
 * The decimal mark that a table's numbers prove: one with two digits behind it, or behind a mark of the other
 * kind. Null where none proves it, or as many prove the one as the other.
 */
export function decimalMarkOf(texts: Iterable<string>): DecimalMark {
  let points = 0;
  let commas = 0;
  for (const text of texts)
    for (const [digits] of plain(text).matchAll(/\d+(?:[.,]\d+)+/g)) {
      const last = digits.lastIndexOf('.') > digits.lastIndexOf(',') ? '.' : ',';
      const rest = digits.length - 1 - digits.lastIndexOf(last);
      const marks = digits.match(/[.,]/g) ?? [];
      const proves =
        new Set(marks).size === 2 || (marks.length === 1 && (rest !== 3 || /^0[.,]/.test(digits)));
      if (proves && last === '.') points++;
      else if (proves) commas++;
    }
  if (points === commas) return null;
  return points > commas ? '.' : ',';
}

/** Marks of footnotes behind a figure: they are read apart. "m³" has none. */
const FOOTNOTE = /(?:\s*(?:\*|†|‡|(?<!m|ft)[¹²³⁴⁵⁶⁷⁸⁹]|\[\w{1,2}\]|\(\d\)|\((?=[a-e]\))[a-e]\)))+$/u;
export const withoutFootnote = (text: string): string =>
  plain(text)
    .replace(FOOTNOTE, '')
    .replace(PART_OF_UNIT, (_, part: string) => `${/^q/iu.test(part) ? 0.25 : 0.5} `)
    .replace(FEET_AND_INCHES, (_, ft: string, inches: string) => `${12 * Number(ft) + Number(inches)} in`)
    .replace(POUNDS_AND_OUNCES, (_, lb: string, oz: string) => `${16 * Number(lb) + Number(oz)} oz`)
    .trim();
/** "Half-pound". */
const PART_OF_UNIT =
  /(?<!\p{L})(half|quarter|halbes|demi|medio|mezzo|pół)(?:[- ]?an?)?[- ]?(?=(?:lb|pound|kg|kilo|oz|ounce)s?)/giu;
/** "1 ft 6 in" is one length. */
const FEET_AND_INCHES = /(\d+)\s*(?:ft|feet|foot)\.?,?\s*(\d+(?:\.\d+)?)\s*(?:inches|inch|in)(?!\p{L})/giu;
/** "1 lb 9 oz" is one weight. */
const POUNDS_AND_OUNCES = /(\d+)\s*lbs?\.?,?\s*(\d+(?:\.\d+)?)\s*(?:oz|ounces)(?!\p{L})/giu;
