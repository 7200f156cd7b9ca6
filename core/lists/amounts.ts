/** Figures as suppliers' files write them. Written for millions of cells: nothing is allocated for a plain number. */

/** Given for a text that is no number; NaN is given for a blank one. */
export const UNREADABLE = Number.NEGATIVE_INFINITY;

/**
 * A number with a decimal point, or with a decimal comma: 1234.50, 1,234.50, 1 234,50, €12.90, 12,90 EUR, 19
 * %. NaN for a blank cell, `UNREADABLE` for a text, for groups that are not of three digits, and for what is
 * beyond the numbers.
 */
export function amountOf(text: string, comma: boolean): number {
  const n = text.length;
  if (n === 0) return Number.NaN;
  // The plain case by hand: digits and one decimal mark.
  let value = 0;
  let scale = 0;
  let i = 0;
  const mark = comma ? 44 : 46;
  const negative = text.charCodeAt(0) === 45;
  if (negative) i = 1;
  let digits = 0;
  for (; i < n; i++) {
    const c = text.charCodeAt(i);
    if (c >= 48 && c <= 57) {
      value = value * 10 + (c - 48);
      digits++;
      if (scale > 0) scale *= 10;
    } else if (c === mark && scale === 0) scale = 1;
    else break;
  }
  if (i === n && digits > 0 && digits < 16) {
    const x = scale > 1 ? value / scale : value;
    return negative ? -x : x;
  }
  return slowly(text, comma);
}

const DROPPED = /[\s\u00a0\u202f'’€$£¥%]|zł|kr\.?|Fr\.?|^[A-Z]{3}(?=[\d\s-])|(?<=[\d\s])[A-Z]{3}$/g;
function slowly(text: string, comma: boolean): number {
  let s = text.trim();
  if (s === '' || s === '-' || s === '–') return Number.NaN;
  s = s.replace(DROPPED, '').replace(/^[−–]/, '-');
  const group = comma ? '.' : ',';
  const decimal = comma ? ',' : '.';
  const [whole = '', ...rest] = s.split(decimal);
  if (rest.length > 1) return UNREADABLE;
  const plainWhole = whole.includes(group)
    ? new RegExp(`^-?\\d{1,3}(\\${group}\\d{3})+$`).test(whole)
      ? whole.replaceAll(group, '')
      : 'x'
    : whole;
  const joined = rest.length === 0 ? plainWhole : `${plainWhole}.${rest[0]}`;
  if (!/^-?(\d+\.?\d*|\.\d+)([eE][+-]?\d{1,3})?$/.test(joined)) return UNREADABLE;
  const x = Number(joined);
  return Number.isFinite(x) ? x : UNREADABLE;
}

/** Whether figures in these rows are written with a decimal comma: by how the last mark of each is followed. */
export function decimalOf(rows: readonly (readonly string[])[]): 'point' | 'comma' {
  let comma = 0;
  let point = 0;
  for (const r of rows)
    for (const cell of r) {
      const s = cell.trim().replace(/^[€$£]\s*|\s*(€|EUR|%)$/g, '');
      if (/^-?\d{1,3}(\.\d{3})*,\d{1,2}$|^-?\d+,(\d{1,2}|\d{4,})$/.test(s)) comma++;
      else if (/^-?\d{1,3}(,\d{3})*\.\d{1,2}$|^-?\d+\.(\d{1,2}|\d{4,})$/.test(s)) point++;
    }
  return comma > point ? 'comma' : 'point';
}
