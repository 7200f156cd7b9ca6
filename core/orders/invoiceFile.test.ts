/** A supplier's invoice read into the lines of an order. */
import { describe, expect, it } from 'vitest';
import { readInvoice } from './invoiceFile.ts';

const LINES = [
  { id: 'a', name: 'Bird bath, stoneware', code: 'BB-1', gtin: '9521234567892' },
  { id: 'b', name: 'Moss pole', code: '', gtin: null },
];
const HEADER = ['Barcode', 'Item number', 'Description', 'Qty', 'Unit price'];

describe('an invoice', () => {
  it('names goods by barcode, by the supplier’s number, else by name', () => {
    const by = (...row: string[]) => readInvoice([HEADER, row], LINES).found[0]?.id;
    expect(by('9521234567892', '', '', '5', '6')).toBe('a');
    expect(by('', 'bb-1', 'something', '5', '6')).toBe('a');
    expect(by('', 'X9', ' moss  POLE', '5', '6')).toBe('b');
    expect(by('', '', 'Moss', '5', '6')).toBeUndefined();
  });
  it('says units and price in the decimals of its country; what it leaves out is not known', () => {
    const german = ['Bezeichnung', 'Menge', 'Einzelpreis'];
    expect(readInvoice([german, ['Moss pole', '1.200', '1,62']], LINES)).toEqual({
      found: [{ id: 'b', units: 1200, unitPrice: 1.62 }],
      strange: [],
      wrong: [],
    });
    expect(
      readInvoice(
        [
          ['Name', 'Price'],
          ['Moss pole', ''],
        ],
        LINES,
      ).found,
    ).toEqual([{ id: 'b', units: null, unitPrice: null }]);
  });
  it('names what the order does not hold, and rows that cannot be read', () => {
    const rows = [
      ['', '', 'Pallet', '1', '12'],
      ['', 'BB-1', '', 'many', '6'],
      ['', 'BB-1', '', '-4', '6'],
      ['', '', '', '3', '3'],
      ['', '', 'Moss pole', '3', '3'],
      ['', '', 'Moss pole', '4', '3.50'],
    ];
    expect(readInvoice([HEADER, ...rows], LINES)).toEqual({
      found: [{ id: 'b', units: 4, unitPrice: 3.5 }],
      strange: ['Pallet'],
      wrong: [3, 4],
    });
    expect(readInvoice([], LINES)).toEqual({ found: [], strange: [], wrong: [] });
  });
});
