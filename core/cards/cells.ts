/** One cell of a card's table: what may stand in it, how it is written, how it is read. */

import { MAX_AMOUNT } from '../money/money.ts';
import { fault } from '../fault.ts';
import type { Fault } from '../fault.ts';

export type Cell = string | number | boolean | null;
export type ColumnKind =
  | 'text'
  | 'number'
  | 'share'
  | 'rate'
  | 'days'
  | 'month'
  | 'digits'
  | 'choice'
  | 'choices'
  | 'yesNo'
  | 'currency'
  | 'country'
  | 'countries'
  | 'day';
export type Column = {
  readonly key: string;
  readonly kind: ColumnKind;
  /** A blank cell is an error. */
  readonly required?: boolean;
  readonly choices?: readonly string[];
  /** 0 is an error: a rate that divides or converts. */
  readonly aboveZero?: boolean;
};
/** How the numbers of a file are written. */
export type Style = { readonly decimalComma: boolean };
export type CellValue = string | number | boolean | readonly string[] | null;

const POINT = /^[+-]?\d+(\.\d+)?([eE][+-]?\d+)?$/;
const COMMA = /^[+-]?\d+,\d+$/;
const ONE_COMMA = /^[+-]?\d+,\d+\s*%?$/;

let currencies: ReadonlySet<string> | null = null;
/** Whether ISO 4217 has the currency. */
export function isCurrency(code: string): boolean {
  currencies ??= new Set(Intl.supportedValuesOf('currency'));
  return currencies.has(code);
}

const regions = new Intl.DisplayNames(['en'], { type: 'region', fallback: 'none' });
/** Whether ISO 3166-1 has the country. */
export function isCountry(code: string): boolean {
  return /^[A-Z]{2}$/.test(code) && regions.of(code) !== undefined;
}

/**
 * A fraction as a percentage, exactly: 0.0875 is "8.75%". Where no percentage reads back as the same number,
 * the fraction.
 */
export function percentText(x: number): string {
  const text = String(Number(`${x}e2`));
  return Number(`${text}e-2`) === x && !text.includes('e') ? `${text}%` : String(x);
}

/** Reads a number; percentages where `percent`. Text is returned as a fault. */
function numberOf(cell: Cell, style: Style, percent: boolean): number | Fault {
  if (typeof cell === 'number') return Number.isFinite(cell) ? cell : fault('noNumber');
  let text = String(cell).trim();
  const shown = text;
  const isPercent = percent && text.endsWith('%');
  if (isPercent) text = text.slice(0, -1).trim();
  if (style.decimalComma && COMMA.test(text)) text = text.replace(',', '.');
  if (POINT.test(text))
    return isPercent ? Number(/[eE]/.test(text) ? Number(text) / 100 : `${text}e-2`) : Number(text);
  if (ONE_COMMA.test(shown)) return fault('commaForPoint', { better: shown.replace(',', '.'), text: shown });
  return fault('notNumber', { text: shown });
}

/** Reads a cell as its column wants it; null is blank. */
export function readCell(column: Column, cell: Cell, style: Style): CellValue | Fault {
  if (cell === null || (typeof cell === 'string' && cell.trim() === '')) return readBlank(column);
  const text = String(cell).trim();
  switch (column.kind) {
    case 'number':
    case 'share':
    case 'rate':
    case 'days':
    case 'month':
      return readNumber(column, cell, style);
    case 'text':
      return text.slice(0, 200);
    case 'digits': {
      const digits = text.replace(/[.\s]/g, '');
      return /^\d{0,10}$/.test(digits) ? digits : fault('notHeading', { text: digits });
    }
    case 'choice': {
      const found = column.choices?.find((c) => c.toLowerCase() === text.toLowerCase());
      return found ?? fault('notChoice', { text, choices: column.choices });
    }
    case 'choices':
    case 'countries':
      return readParts(column, text);
    case 'yesNo':
      return readYesNo(text);
    case 'currency':
      return isCurrency(text.toUpperCase()) ? text.toUpperCase() : fault('notCurrency', { text: cell });
    case 'country':
      return isCountry(text.toUpperCase()) ? text.toUpperCase() : fault('notCountry', { text: cell });
    case 'day':
      return isDay(text) ? text : fault('notDay', { text });
  }
}

function readBlank(column: Column): CellValue | Fault {
  if (column.required) return missing(column);
  if (column.kind === 'text') return '';
  return column.kind === 'choices' || column.kind === 'countries' ? [] : null;
}

function readNumber(column: Column, cell: Cell, style: Style): CellValue | Fault {
  const x = numberOf(cell, style, column.kind === 'share' || column.kind === 'rate');
  if (typeof x !== 'number') return x;
  if (x < 0) return fault('belowZero', { value: x });
  if (x > MAX_AMOUNT) return fault('beyondMeasure', { most: MAX_AMOUNT, value: x });
  if (column.kind === 'share' && x > 1)
    return fault('shareOver', { percent: percentText(x / 100), fraction: x / 100, value: x });
  if (column.kind === 'rate' && x > 100)
    return fault('rateOver', { percent: percentText(x / 100), fraction: x / 100, value: x });
  if (column.kind === 'month' && !(Number.isInteger(x) && x >= 1 && x <= 12))
    return fault('notMonth', { value: x });
  return column.aboveZero && x === 0 ? fault('rateZero') : x;
}

function readParts(column: Column, text: string): CellValue | Fault {
  const parts = text.split(/[\s,;]+/).filter(Boolean);
  for (const p of parts) {
    if (column.kind === 'choices' && !column.choices?.includes(p))
      return fault('notChoices', { choices: column.choices?.join(' '), text: p });
    if (column.kind === 'countries' && !isCountry(p)) return fault('notCountries', { text: p });
  }
  return parts;
}

function readYesNo(text: string): boolean | Fault {
  const said = text.toLowerCase();
  if (said === 'yes' || said === 'true') return true;
  return said === 'no' || said === 'false' ? false : fault('notYesNo', { text });
}

function isDay(text: string): boolean {
  const at = new Date(`${text}T00:00:00Z`);
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(at.getTime()) && at.toISOString().startsWith(text);
}

const missing = (column: Column): Fault =>
  column.choices === undefined
    ? fault('missing', { wants: column.kind })
    : fault('missingChoice', { choices: column.choices });

/** A value as the text of a cell; percentages with their sign, exactly. Blank is empty. */
export function cellText(column: Column, value: CellValue): string {
  if (value === null || value === undefined) return '';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number')
    return column.kind === 'share' || column.kind === 'rate' ? percentText(value) : String(value);
  return typeof value === 'string' ? value : value.join(' ');
}

/** A value as a spreadsheet keeps it: numbers as numbers, percentages as fractions. */
export function cellOut(value: CellValue): Cell {
  return Array.isArray(value)
    ? value.join(' ')
    : typeof value === 'boolean'
      ? value
        ? 'yes'
        : 'no'
      : (value as Cell);
}
