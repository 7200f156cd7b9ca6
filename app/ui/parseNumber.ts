/** Understanding numbers as people type and paste them. */
import { LEAST_MEASURE, MAX_AMOUNT } from '../../core/money/money.ts';

export type Understood =
  | { readonly kind: 'blank' }
  | {
      readonly kind: 'number';
      readonly value: number;
      /** True where the text could be read in two ways. */
      readonly doubtful: boolean;
    }
  | { readonly kind: 'wrongCurrency'; readonly found: string }
  | { readonly kind: 'notANumber' };

const SIGNS: Readonly<Record<string, readonly string[]>> = {
  '€': ['EUR'],
  $: ['USD', 'CAD', 'AUD', 'SGD', 'HKD', 'MXN', 'NZD'],
  '£': ['GBP'],
  '¥': ['JPY', 'CNY'],
  zł: ['PLN'],
  'د.إ': ['AED'],
};

/**
 * Reads 12.90, 12,90, 1.234,56, 1 234.56, €12,90 and 12.90 EUR. A single comma or point before exactly three
 * digits may group or divide: the reader's locale decides, and the answer says that it was doubtful.
 * `currency` is that of the field; another one in the text is refused rather than read over.
 */
export function parseNumber(text: string, locale: string, currency?: string): Understood {
  let s = text
    .trim()
    .replace(/[\u00a0\u202f\s'’]/g, '')
    .replace(/[−–]/g, '-');
  if (s === '') return { kind: 'blank' };
  for (const [sign, codes] of Object.entries(SIGNS)) {
    if (!s.includes(sign)) continue;
    if (currency !== undefined && !codes.includes(currency))
      return { kind: 'wrongCurrency', found: codes[0] as string };
    s = s.replace(sign, '');
  }
  const code = s.match(/[A-Za-z]{3}$|^[A-Za-z]{3}/)?.[0]?.toUpperCase();
  if (code !== undefined) {
    if (currency !== undefined && code !== currency)
      return /^[A-Z]{3}$/.test(code) && Intl.supportedValuesOf('currency').includes(code)
        ? { kind: 'wrongCurrency', found: code }
        : { kind: 'notANumber' };
    if (currency === undefined) return { kind: 'notANumber' };
    s = s.replace(/[A-Za-z]{3}$|^[A-Za-z]{3}/, '');
  }
  s = s.replace(/%$/, '');
  if (!/^-?[\d.,]*\d[\d.,]*$/.test(s)) return { kind: 'notANumber' };
  const negative = s.startsWith('-');
  if (negative) s = s.slice(1);

  const commas = s.split(',').length - 1;
  const points = s.split('.').length - 1;
  let decimal = '';
  let doubtful = false;
  if (commas > 0 && points > 0) decimal = s.lastIndexOf(',') > s.lastIndexOf('.') ? ',' : '.';
  else if (commas + points === 1) {
    const mark = commas === 1 ? ',' : '.';
    const [before = '', after = ''] = s.split(mark);
    if (after.length === 3 && /^[1-9]\d{0,2}$/.test(before)) {
      doubtful = true;
      const local =
        new Intl.NumberFormat(locale).formatToParts(1.5).find((p) => p.type === 'decimal')?.value ?? '.';
      decimal = mark === local ? mark : '';
    } else decimal = mark;
  } else if (commas > 1 || points > 1) decimal = '';
  const group = decimal === ',' ? '.' : decimal === '.' ? ',' : null;
  // Groups must be of three digits, or the text is a slip rather than a number.
  const [whole = '', fraction = ''] =
    decimal === '' ? [s, ''] : [s.slice(0, s.lastIndexOf(decimal)), s.slice(s.lastIndexOf(decimal) + 1)];
  const mark = group ?? (commas > 0 ? ',' : '.');
  if (whole.includes(decimal === '' ? '\u0000' : decimal) || fraction.includes(mark))
    return { kind: 'notANumber' };
  if (whole.includes(mark) && !new RegExp(`^\\d{1,3}(\\${mark}\\d{3})+$`).test(whole))
    return { kind: 'notANumber' };
  const value = Number(
    `${negative ? '-' : ''}${whole.replaceAll(mark, '') || '0'}${fraction === '' ? '' : `.${fraction}`}`,
  );
  return Number.isFinite(value) ? { kind: 'number', value, doubtful } : { kind: 'notANumber' };
}

/** Factors into the core's units for what people type after a length or weight. */
const UNITS: Readonly<Record<'length' | 'weight', Readonly<Record<string, number>>>> = {
  length: { cm: 1, mm: 0.1, m: 100, in: 2.54, inch: 2.54, inches: 2.54, '"': 2.54, '″': 2.54 },
  weight: { kg: 1, g: 0.001, lb: 0.45359237, lbs: 0.45359237, oz: 0.028349523125 },
};

/** Reads a length (to cm) or weight (to kg) with or without a unit; `unit` is the one typed or the usual one. */
export function parseMeasure(
  text: string,
  kind: 'length' | 'weight',
  locale: string,
): { value: number; unit: string } | null | 'blank' {
  const trimmed = text.trim();
  if (trimmed === '') return 'blank';
  const m = trimmed.match(/^([\d.,\s']+)\s*([a-z"″]*)$/i);
  if (m === null) return null;
  const unit = (m[2] || (kind === 'length' ? 'cm' : 'kg')).toLowerCase();
  const factor = UNITS[kind][unit];
  const n = parseNumber(m[1] as string, locale);
  if (factor === undefined || n.kind !== 'number') return null;
  return { value: Number((n.value * factor).toPrecision(12)), unit };
}

/** Three sides such as "20 x 15 x 8 cm", "12×8×4 in": to cm. */
export function parseSides(text: string, locale: string): [number, number, number] | null | 'blank' {
  if (text.trim() === '') return 'blank';
  const m = text.trim().match(/^(.*?)\s*(cm|mm|m|in|inch|inches|"|″)?$/i);
  const parts = (m?.[1] ?? '').split(/\s*[x×*/]\s*/i);
  if (parts.length !== 3) return null;
  const values = parts.map((p) =>
    parseMeasure(/[a-z"″]$/i.test(p) || m?.[2] === undefined ? p : `${p}${m[2]}`, 'length', locale),
  );
  return values.every((v) => v !== null && v !== 'blank' && v.value >= LEAST_MEASURE && v.value <= MAX_AMOUNT)
    ? (values.map((v) => (v as { value: number }).value) as [number, number, number])
    : null;
}
