/** Cells of a sheet by their places: what is selected, where a key leads, what is copied, pasted and filled. */
import type { Column } from '../../../core/cards/cells.ts';
import type { Grid } from '../../../core/cards/reader.ts';

export type Place = { readonly row: number; readonly column: number };
/** Rows r0 to r1 and columns c0 to c1, both ends included. */
export type Range = { readonly r0: number; readonly r1: number; readonly c0: number; readonly c1: number };
export type CellEdit = Place & { readonly text: string };
type Editable = (row: number, column: number) => boolean;

/** What is selected from one place to another, whichever comes first; one cell where nothing was extended. */
export const rangeOf = (at: Place, anchor: Place | null): Range => {
  const other = anchor ?? at;
  return {
    r0: Math.min(at.row, other.row),
    r1: Math.max(at.row, other.row),
    c0: Math.min(at.column, other.column),
    c1: Math.max(at.column, other.column),
  };
};

/** Edits of every cell of a range that may be edited. */
export function blockEdits(
  { r0, r1, c0, c1 }: Range,
  editable: Editable,
  of: (row: number, column: number) => string,
): CellEdit[] {
  const out: CellEdit[] = [];
  for (let row = r0; row <= r1; row++)
    for (let column = c0; column <= c1; column++)
      if (editable(row, column)) out.push({ row, column, text: of(row, column) });
  return out;
}

const STEPS: Readonly<Record<string, readonly [down: number, right: number]>> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  PageUp: [-15, 0],
  PageDown: [15, 0],
};

/**
 * Where a key leads from a place; null where it leads nowhere. With Ctrl (`far`) to the end in that direction, or
 * to the first and last cell of all.
 */
export function ledTo(key: string, far: boolean, at: Place, rows: number, columns: number): Place | null {
  const end = (step: number, here: number, last: number): number => (step === 0 ? here : step < 0 ? 0 : last);
  const step = STEPS[key];
  if (step !== undefined)
    return far
      ? { row: end(step[0], at.row, rows - 1), column: end(step[1], at.column, columns - 1) }
      : { row: at.row + step[0], column: at.column + step[1] };
  if (key === 'Home') return { row: far ? 0 : at.row, column: 0 };
  if (key === 'End') return { row: far ? rows - 1 : at.row, column: columns - 1 };
  return null;
}

/** A range as text that spreadsheets take: tabs between cells, a line for each row. */
export const copied = ({ r0, r1, c0, c1 }: Range, text: (row: number, column: number) => string): string =>
  Array.from({ length: r1 - r0 + 1 }, (_, i) =>
    Array.from({ length: c1 - c0 + 1 }, (_, j) => text(r0 + i, c0 + j)).join('\t'),
  ).join('\n');

/** Text from a spreadsheet as lines of cells. */
export const linesIn = (text: string): string[][] =>
  text
    .replace(/\r/g, '')
    .replace(/\n$/, '')
    .split('\n')
    .map((l) => l.split('\t'));

/** What pasting does: edits of cells that are there, or rows that grew; and what is selected then. */
export type Pasted = { readonly anchor: Place; readonly at: Place } & (
  | { readonly edits: readonly CellEdit[] }
  | { readonly rows: Grid }
);

/**
 * Lines of cells put over a range from its first cell on. One copied cell fills the whole range. Where rows may be
 * added, what is longer than the sheet makes it longer; else what does not fit is left out.
 */
export function pasted(
  lines: readonly (readonly string[])[],
  range: Range,
  sheet: { readonly rows: Grid; readonly columns: readonly Column[]; readonly canAddRows: boolean },
  editable: Editable,
): Pasted {
  const { rows, columns, canAddRows } = sheet;
  const { r0, r1, c0, c1 } = range;
  const wide = Math.max(...lines.map((l) => l.length));
  const needed = r0 + lines.length;
  const whole = { anchor: { row: r0, column: c0 }, at: { row: r1, column: c1 } };
  if (lines.length === 1 && wide === 1 && (r1 > r0 || c1 > c0))
    return { ...whole, edits: blockEdits(range, editable, () => lines[0]?.[0] ?? '') };
  const over = {
    anchor: whole.anchor,
    at: {
      row: (canAddRows ? needed : Math.min(needed, rows.length)) - 1,
      column: Math.min(columns.length, c0 + wide) - 1,
    },
  };
  if (!canAddRows || needed <= rows.length) {
    const there = {
      r0,
      r1: Math.min(needed, rows.length) - 1,
      c0,
      c1: Math.min(columns.length, c0 + wide) - 1,
    };
    const given = (row: number, column: number): string | undefined => lines[row - r0]?.[column - c0];
    return {
      ...over,
      edits: blockEdits(
        there,
        (row, column) => given(row, column) !== undefined && editable(row, column),
        (row, column) => given(row, column) as string,
      ),
    };
  }
  const grown = Array.from({ length: needed }, (_, i) => rows[i] ?? columns.map(() => ''));
  return {
    ...over,
    rows: grown.map((row, i) =>
      i < r0 ? row : columns.map((_, j) => (j < c0 ? undefined : lines[i - r0]?.[j - c0]) ?? row[j] ?? ''),
    ),
  };
}
