/**
 * What somebody typed into a cell of a draft, as the card keeps it: numbers with the reader's own decimal
 * mark, bare numbers in a column of percentages as per cent, countries and currencies by name or code.
 */
import type { Column } from '../../../core/cards/cells.ts';
import { COUNTRIES, CURRENCIES } from '../../../core/money/iso.ts';
import { countryName, currencyName } from '../../ui/names.ts';
import { parseNumber } from '../../ui/parseNumber.ts';

const NUMBERS: ReadonlySet<Column['kind']> = new Set(['number', 'share', 'rate', 'days', 'month']);

/** The code that a text names, in the reader's language or in English; the text itself where it names none. */
function codeNamed(
  text: string,
  codes: readonly string[],
  nameOf: (code: string, language: string) => string,
  language: string,
): string {
  const wanted = text.trim().toLowerCase();
  return (
    codes.find((c) => c.toLowerCase() === wanted) ??
    codes.find((c) => [language, 'en'].some((l) => nameOf(c, l).toLowerCase() === wanted)) ??
    text
  );
}

/** The cell to keep for a typed text; what cannot be read stays as it was typed, so that its fault can be said. */
export function typedCell(column: Column, text: string, locale: string): string {
  if (NUMBERS.has(column.kind)) {
    const read = parseNumber(text, locale);
    if (read.kind !== 'number') return text;
    return column.kind === 'share' || column.kind === 'rate' ? `${read.value}%` : String(read.value);
  }
  switch (column.kind) {
    case 'currency':
      return codeNamed(text, CURRENCIES, currencyName, locale);
    case 'country':
      return codeNamed(text, COUNTRIES, countryName, locale);
    case 'countries':
      return text
        .split(/[,;]/)
        .map((part) => codeNamed(part, COUNTRIES, countryName, locale).trim())
        .join(' ');
    default:
      return text;
  }
}
