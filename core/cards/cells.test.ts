import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cellOut, cellText, isCountry, isCurrency, percentText, readCell } from './cells.ts';
import { isFault } from '../fault.ts';
import { sayFault } from '../../words/index.ts';
import { fault } from '../fault.ts';
import type { Cell, Column } from './cells.ts';

const POINT = { decimalComma: false };
const COMMA = { decimalComma: true };
const column = (kind: Column['kind'], over: Partial<Column> = {}): Column => ({ key: 'x', kind, ...over });
const read = (kind: Column['kind'], cell: Cell, over: Partial<Column> = {}, style = POINT) =>
  readCell(column(kind, over), cell, style);
const problem = (kind: Column['kind'], cell: Cell, over: Partial<Column> = {}, style = POINT): string => {
  const got = read(kind, cell, over, style);
  if (!isFault(got)) throw new Error(`${String(cell)} was taken as ${String(got)}`);
  const said = sayFault(got);
  expect(said.remedy.length).toBeGreaterThan(5);
  return said.problem;
};

describe('a cell of figures', () => {
  it('takes numbers and texts of numbers, with point, or with comma where the file is so', () => {
    expect([
      read('number', 12.5),
      read('number', '12.5'),
      read('number', ' 1e3 '),
      read('number', '12,5', {}, COMMA),
      read('number', '12.5', {}, COMMA),
    ]).toEqual([12.5, 12.5, 1000, 12.5, 12.5]);
  });
  it('a comma in a file with points is named, and so is the way out', () => {
    expect(problem('number', '12,5')).toBe('"12,5" has a comma where the decimal point belongs');
    expect(problem('share', '12,5%')).toContain('has a comma');
    expect(problem('number', '1.234,5')).toContain('is not a number');
    expect(problem('number', 'twelve')).toBe('"twelve" is not a number');
  });
  it('shares and rates read percentages exactly; over their bounds is an error that says how to write it', () => {
    expect([
      read('share', '8.75%'),
      read('share', 0.0875),
      read('share', '0.0875'),
      read('rate', '250%'),
      read('share', '12,5 %', {}, COMMA),
    ]).toEqual([0.0875, 0.0875, 0.0875, 2.5, 0.125]);
    expect(problem('share', '15')).toBe('15 is over 1, that is over 100 %');
    expect(read('share', '15')).toEqual(fault('shareOver', { value: 15, percent: '15%', fraction: 0.15 }));
    expect(problem('rate', 101)).toContain('over 10,000 %');
    expect(problem('share', -0.1)).toBe('-0.1 is below 0');
  });
  it('months, days and what must be above 0', () => {
    expect([read('month', 12), read('days', '14')]).toEqual([12, 14]);
    expect([problem('month', 13), problem('month', 1.5), problem('month', 0)]).toEqual([
      '13 is not a month',
      '1.5 is not a month',
      '0 is not a month',
    ]);
    expect(problem('number', 0, { aboveZero: true })).toBe('A rate of 0 cannot be used');
    expect(read('number', 0)).toBe(0);
    expect(problem('number', Number.POSITIVE_INFINITY)).toBe('This is not a number');
    expect(problem('number', 1e300)).toContain('beyond all measure');
  });
  it('percentages are written so that they read back as the same number', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1_000_000 }), (n) => {
        const x = n / 1_000_000;
        expect(read('share', percentText(x))).toBe(x);
      }),
    );
    fc.assert(
      fc.property(fc.double({ min: 1e-12, max: 1, noNaN: true }), (x) => {
        expect(read('share', percentText(x))).toBe(x);
      }),
    );
  });
});

describe('a cell of words', () => {
  it('blank is blank, not 0; where something must stand it is an error', () => {
    for (const blank of [null, '', '   '] as const) {
      expect([
        read('number', blank),
        read('text', blank),
        read('choices', blank),
        read('day', blank),
      ]).toEqual([null, '', [], null]);
      expect(problem('country', blank, { required: true })).toBe('This is missing');
    }
  });
  it('choices are found whatever their case; others are named with what may stand', () => {
    const choices = ['gross', 'net'];
    expect([read('choice', 'GROSS', { choices }), read('choices', 'gross; net', { choices })]).toEqual([
      'gross',
      ['gross', 'net'],
    ]);
    expect(read('choice', 'all', { choices })).toEqual(fault('notChoice', { text: 'all', choices }));
    expect(problem('choices', 'gross all', { choices })).toBe('"all" is not known here');
  });
  it('yes and no, also as a spreadsheet keeps them', () => {
    expect(['yes', 'No', true, 'FALSE'].map((c) => read('yesNo', c))).toEqual([true, false, true, false]);
    expect(problem('yesNo', 'maybe')).toBe('"maybe" is neither yes nor no');
  });
  it('countries and currencies are those of the standards', () => {
    expect([read('country', 'de'), read('currency', 'eur'), read('countries', 'CN, TR')]).toEqual([
      'DE',
      'EUR',
      ['CN', 'TR'],
    ]);
    expect([
      problem('country', 'Germany'),
      problem('currency', 'EURO'),
      problem('countries', 'CN XX'),
    ]).toEqual(['"Germany" is not a country', '"EURO" is not a currency', '"XX" is not a country']);
    expect([isCountry('GB'), isCountry('ZZ1'), isCurrency('PLN'), isCurrency('XYZ')]).toEqual([
      true,
      false,
      true,
      false,
    ]);
  });
  it('days are real ones, and HS headings digits', () => {
    expect([read('day', '2026-12-01'), read('digits', '4421.99'), read('digits', 4421)]).toEqual([
      '2026-12-01',
      '442199',
      '4421',
    ]);
    expect([problem('day', '2026-02-30'), problem('day', '1.12.2026'), problem('digits', 'wood')]).toEqual([
      '"2026-02-30" is not a day',
      '"1.12.2026" is not a day',
      '"wood" is not an HS heading',
    ]);
  });
});

it('what is written into a cell reads back: as text, and as a spreadsheet keeps it', () => {
  const cases: [Column, Parameters<typeof cellText>[1]][] = [
    [column('number'), 12.5],
    [column('share'), 0.0875],
    [column('yesNo'), true],
    [column('yesNo'), false],
    [column('countries'), ['CN', 'TR']],
    [column('text'), 'Any word'],
    [column('day'), '2026-12-01'],
    [column('number'), null],
  ];
  for (const [c, value] of cases) {
    expect(readCell(c, cellText(c, value), POINT)).toEqual(value);
    expect(readCell(c, cellOut(value), POINT)).toEqual(value);
  }
});
