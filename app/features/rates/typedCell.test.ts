import { describe, expect, it } from 'vitest';
import type { ColumnKind } from '../../../core/cards/cells.ts';
import { readCell } from '../../../core/cards/cells.ts';
import { isFault } from '../../../core/fault.ts';
import { typedCell } from './typedCell.ts';

const typed = (kind: ColumnKind, text: string, locale = 'en-GB'): string =>
  typedCell({ key: 'x', kind }, text, locale);
const read = (kind: ColumnKind, text: string, locale = 'en-GB') =>
  readCell({ key: 'x', kind }, typed(kind, text, locale), { decimalComma: false });

describe('what is typed into a cell', () => {
  it('percentages come with or without their sign, with comma or point', () => {
    expect(['15', '15%', '15 %', '15,5', '15.5 %', '0.5'].map((x) => typed('share', x))).toEqual([
      '15%',
      '15%',
      '15%',
      '15.5%',
      '15.5%',
      '0.5%',
    ]);
    expect(read('share', '7,25', 'de-DE')).toBe(0.0725);
    expect(read('rate', '120')).toBe(1.2);
    expect(isFault(read('share', '150'))).toBe(true);
  });
  it('amounts take the decimal mark of the reader', () => {
    expect(read('number', '1.234,5', 'de-DE')).toBe(1234.5);
    expect(read('number', '1,234.5')).toBe(1234.5);
    expect(read('number', '0,35')).toBe(0.35);
    expect(typed('number', 'about three')).toBe('about three');
    expect(typed('number', '')).toBe('');
  });
  it('countries and currencies are found by code in any case, by name in English or the own language', () => {
    expect([typed('country', 'se'), typed('country', 'Sweden'), typed('country', 'Schweden', 'de')]).toEqual([
      'SE',
      'SE',
      'SE',
    ]);
    expect([typed('currency', 'sek'), typed('currency', 'swedish krona')]).toEqual(['SEK', 'SEK']);
    expect(read('countries', 'China, vietnam; IN')).toEqual(['CN', 'VN', 'IN']);
    expect(typed('countries', 'CN VN')).toBe('CN VN');
    expect(typed('country', 'Atlantis')).toBe('Atlantis');
  });
});
