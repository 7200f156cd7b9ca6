/** Bills of the way in from the rows of a file. */
import { describe, expect, it } from 'vitest';
import { isFault } from '../fault.ts';
import { readBills } from './billFile.ts';
import { BILL_KINDS, SHARED_BY } from './bills.ts';

const TODAY = '2026-10-31';
const HEADER = ['Day', 'What for', 'Amount', 'Shared out by', 'Note', 'Order'];
const read = (rows: readonly (readonly string[])[], header = HEADER) =>
  readBills([header, ...rows], 7, TODAY);
const bills = (rows: readonly (readonly string[])[], header = HEADER) => {
  const said = read(rows, header);
  if (isFault(said)) throw new Error(said.code);
  return said;
};
const faultOf = (rows: readonly (readonly string[])[], header = HEADER) => {
  const said = read(rows, header);
  return isFault(said) ? { code: said.code, ...said.detail } : null;
};

describe('a file of bills', () => {
  it('is read by its headings, each kind and way of sharing out by its words', () => {
    expect(
      bills([
        ['2026-09-03', 'Sea freight', '1,390.00', 'weight', 'F-17', ''],
        ['05.09.2026', 'Customs duty', '88.40', '', '', '7'],
        ['', '', '', '', '', ''],
      ]),
    ).toEqual([
      { day: '2026-09-03', kind: 'freight', amount: 1390, by: 'weight', note: 'F-17' },
      { day: '2026-09-05', kind: 'duty', amount: 88.4, by: 'value', note: '' },
    ]);
    const german = ['Datum', 'Art', 'Betrag', 'Verteilt nach'];
    expect(bills([['1.9.2026', 'Zoll', '1.088,40', 'Gewicht']], german)).toEqual([
      { day: '2026-09-01', kind: 'duty', amount: 1088.4, by: 'weight', note: '' },
    ]);
  });
  it('knows every kind and way by its own name', () => {
    const names = ['freight', 'insurance', 'duty', 'import charges', 'prep', 'buying costs'];
    const rows = names.flatMap((name) => SHARED_BY.map((by) => ['2026-09-01', name, '5', by, '', '']));
    const said = bills(rows);
    expect([...new Set(said.map((b) => b.kind))]).toEqual([...BILL_KINDS]);
    expect([...new Set(said.map((b) => b.by))]).toEqual([...SHARED_BY]);
  });
  it('leaves rows of other orders out, whatever they say', () => {
    const rows = [
      ['nonsense', '?', '?', '', '', '8'],
      ['2026-09-01', 'freight', '5', '', '', 'No. 7'],
    ];
    expect(bills(rows)).toHaveLength(1);
    expect(faultOf(rows.slice(0, 1))).toEqual({ code: 'billNone', order: 7 });
    expect(faultOf([])).toMatchObject({ code: 'billNone' });
  });
  it.each([
    ['billDay', ['31.02.2026', 'freight', '5', '', '', '']],
    ['billDay', ['2026-11-01', 'freight', '5', '', '', '']],
    ['billDay', ['', 'freight', '5', '', '', '']],
    ['billKind', ['2026-09-01', 'lunch', '5', '', '', '']],
    ['billKind', ['2026-09-01', '', '5', '', '', '']],
    ['billAmount', ['2026-09-01', 'freight', 'five', '', '', '']],
    ['billAmount', ['2026-09-01', 'freight', '', '', '', '']],
    ['billAmount', ['2026-09-01', 'freight', '-5', '', '', '']],
    ['billAmount', ['2026-09-01', 'freight', '0', '', '', '']],
    ['billAmount', ['2026-09-01', 'freight', '9'.repeat(30), '', '', '']],
    ['billBy', ['2026-09-01', 'freight', '5', 'moon', '', '']],
  ])('is none at all where a row is wrong: %s %o', (code, row) => {
    expect(faultOf([['2026-09-01', 'duty', '5', '', '', ''], row])).toMatchObject({ code, row: 3 });
  });
  it.each(['day', 'kind', 'amount'])('must say the %s', (column) => {
    const at = ['day', 'kind', 'amount'].indexOf(column);
    const header = ['Day', 'What for', 'Amount'].map((h, i) => (i === at ? 'x' : h));
    expect(faultOf([], header)).toEqual({ code: 'billColumn', column });
    expect(faultOf([], [])).toMatchObject({ code: 'billColumn' });
  });
});
