import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Column } from '../../../core/cards/cells.ts';
import { blockEdits, copied, ledTo, linesIn, pasted, rangeOf } from './gridCells.ts';

const columns: readonly Column[] = ['a', 'b', 'c'].map((key) => ({ key, kind: 'text' }));
const rows = [
  ['a0', 'b0', 'c0'],
  ['a1', 'b1', 'c1'],
  ['a2', 'b2', 'c2'],
];
const text = (row: number, column: number): string => rows[row]?.[column] ?? '';
const all = (): boolean => true;
const cell = (row: number, column: number) => rangeOf({ row, column }, null);
const put = (
  lines: string[][],
  range: ReturnType<typeof rangeOf>,
  canAddRows = false,
  editable: (row: number, column: number) => boolean = all,
) => pasted(lines, range, { rows, columns, canAddRows }, editable);

describe('what is selected', () => {
  it('is one cell, or all between two, whichever was first', () => {
    expect(cell(1, 2)).toEqual({ r0: 1, r1: 1, c0: 2, c1: 2 });
    const wanted = { r0: 0, r1: 2, c0: 1, c1: 2 };
    expect(rangeOf({ row: 0, column: 2 }, { row: 2, column: 1 })).toEqual(wanted);
    expect(rangeOf({ row: 2, column: 1 }, { row: 0, column: 2 })).toEqual(wanted);
  });
  it('is edited cell by cell, but for those that may not be', () => {
    const edits = blockEdits(
      { r0: 0, r1: 1, c0: 0, c1: 1 },
      (_, column) => column !== 0,
      (r, c) => `${r}${c}`,
    );
    expect(edits).toEqual([
      { row: 0, column: 1, text: '01' },
      { row: 1, column: 1, text: '11' },
    ]);
  });
  it('is copied with tabs between cells and a line for each row, and reads back as it was', () => {
    expect(copied({ r0: 0, r1: 1, c0: 1, c1: 2 }, text)).toBe('b0\tc0\nb1\tc1');
    expect(linesIn('b0\tc0\r\nb1\tc1\r\n')).toEqual([
      ['b0', 'c0'],
      ['b1', 'c1'],
    ]);
    const block = fc.tuple(fc.integer({ min: 1, max: 4 }), fc.integer({ min: 1, max: 4 }));
    fc.assert(
      fc.property(block, ([h, w]) => {
        const of = (r: number, c: number): string => `${r}x${c}`;
        expect(linesIn(copied({ r0: 0, r1: h - 1, c0: 0, c1: w - 1 }, of))).toEqual(
          Array.from({ length: h }, (_, r) => Array.from({ length: w }, (__, c) => of(r, c))),
        );
      }),
    );
  });
});

describe('where a key leads', () => {
  const from = { row: 1, column: 1 };
  it.each([
    ['ArrowUp', false, { row: 0, column: 1 }],
    ['ArrowDown', false, { row: 2, column: 1 }],
    ['ArrowLeft', false, { row: 1, column: 0 }],
    ['ArrowRight', false, { row: 1, column: 2 }],
    ['ArrowUp', true, { row: 0, column: 1 }],
    ['ArrowDown', true, { row: 39, column: 1 }],
    ['ArrowLeft', true, { row: 1, column: 0 }],
    ['ArrowRight', true, { row: 1, column: 2 }],
    ['PageDown', false, { row: 16, column: 1 }],
    ['Home', false, { row: 1, column: 0 }],
    ['End', false, { row: 1, column: 2 }],
    ['Home', true, { row: 0, column: 0 }],
    ['End', true, { row: 39, column: 2 }],
    ['x', false, null],
    ['Enter', true, null],
  ] as const)('%s (far: %s)', (key, far, to) => {
    expect(ledTo(key, far, from, 40, 3)).toEqual(to);
  });
});

describe('what is pasted', () => {
  it('goes over the cells from the first of the selection on, which is then what was pasted', () => {
    expect(
      put(
        [
          ['x', 'y'],
          ['z', 'w'],
        ],
        cell(0, 1),
      ),
    ).toEqual({
      anchor: { row: 0, column: 1 },
      at: { row: 1, column: 2 },
      edits: [
        { row: 0, column: 1, text: 'x' },
        { row: 0, column: 2, text: 'y' },
        { row: 1, column: 1, text: 'z' },
        { row: 1, column: 2, text: 'w' },
      ],
    });
  });
  it('what does not fit is left out where rows cannot be added, and columns never can', () => {
    const got = put([['x', 'y', 'z'], ['u'], ['v']], cell(1, 1));
    expect(got).toMatchObject({ at: { row: 2, column: 2 } });
    expect('edits' in got ? got.edits.map((e) => e.text) : null).toEqual(['x', 'y', 'u']);
  });
  it('cells that may not be edited stay', () => {
    const got = put([['x', 'y']], cell(0, 0), false, (_, column) => column > 0);
    expect('edits' in got ? got.edits : null).toEqual([{ row: 0, column: 1, text: 'y' }]);
  });
  it('lines that are shorter than others leave what they do not reach', () => {
    const got = put([['x', 'y'], ['z']], cell(0, 0));
    expect('edits' in got ? got.edits.map((e) => [e.row, e.column]) : null).toEqual([
      [0, 0],
      [0, 1],
      [1, 0],
    ]);
  });
  it('one cell fills the whole selection, which stays selected', () => {
    const range = { r0: 0, r1: 1, c0: 0, c1: 1 };
    const got = put([['9']], range);
    expect(got).toMatchObject({ anchor: { row: 0, column: 0 }, at: { row: 1, column: 1 } });
    expect('edits' in got ? got.edits.map((e) => e.text) : null).toEqual(['9', '9', '9', '9']);
  });
  it('makes the sheet longer where rows may be added, and keeps what it does not cover', () => {
    const got = put([['x'], ['y'], ['z']], cell(2, 1), true);
    expect('rows' in got ? got.rows : null).toEqual([
      ['a0', 'b0', 'c0'],
      ['a1', 'b1', 'c1'],
      ['a2', 'x', 'c2'],
      ['', 'y', ''],
      ['', 'z', ''],
    ]);
    expect(got.at).toEqual({ row: 4, column: 1 });
  });
  it('an empty cell empties, in edits and in rows that grew', () => {
    expect('edits' in put([['', 'y']], cell(0, 0))).toBe(true);
    const got = put([[''], ['y']], cell(2, 0), true);
    expect('rows' in got ? got.rows[2] : null).toEqual(['', 'b2', 'c2']);
  });
});
