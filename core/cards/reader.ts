import { readCell } from './cells.ts';
import { isFault } from '../fault.ts';
import type { Fault } from '../fault.ts';
import type { Cell, CellValue, Column, Style } from './cells.ts';
import { fault } from '../fault.ts';

export type Grid = readonly (readonly Cell[])[];
/**
 * A card as sheets of cells, columns in the order of the form. The sheet `card` has a field and its value in
 * each row.
 */
export type Tables = Readonly<Record<string, Grid>>;
export type Sheet = {
  readonly key: string;
  readonly columns: readonly Column[];
  /** How many of the first columns say which row it is, for comparing two versions. */
  readonly identity: number;
};
/** What is wrong in a file or a draft: sheet, line as a spreadsheet counts (the header is line 1), column. */
export type CellError = Fault & {
  readonly sheet: string;
  readonly row: number | null;
  readonly column: string | null;
};
export type Row = { readonly line: number; readonly [column: string]: CellValue | number };

export const CARD_SHEET = 'card';
const MOST_ERRORS = 500;

/** Reads the sheets of a card, noting what is wrong and, when asked, which cell each part of the card came from. */
export class Reader {
  readonly errors: CellError[] = [];
  private readonly places = new Map<string, { sheet: string; row: number; column: string | null }>();
  private readonly fields: Record<string, CellValue> = {};
  private readonly fieldLine: Record<string, number> = {};

  constructor(
    fields: readonly Column[],
    private readonly sheets: readonly Sheet[],
    private readonly tables: Tables,
    private readonly style: Style,
    private readonly marking: boolean,
  ) {
    const known = new Map(fields.map((f) => [f.key, f]));
    (tables[CARD_SHEET] ?? []).forEach((row, i) => {
      const key = String(row[0] ?? '').trim();
      if (key === '') return;
      const column = known.get(key);
      if (column === undefined) {
        this.fail(
          CARD_SHEET,
          i + 2,
          'field',
          fault('noField', { field: key, fields: fields.map((f) => f.key) }),
        );
        return;
      }
      if (key in this.fieldLine) {
        this.fail(CARD_SHEET, i + 2, 'field', fault('fieldTwice', { field: key, row: this.fieldLine[key] }));
        return;
      }
      this.fieldLine[key] = i + 2;
      const value = readCell(column, row[1] ?? null, style);
      if (isFault(value)) this.fail(CARD_SHEET, i + 2, key, value);
      else this.fields[key] = value;
      if (marking) this.places.set(key, { sheet: CARD_SHEET, row: i + 2, column: key });
    });
    for (const f of fields) {
      if (f.key in this.fieldLine) continue;
      const value = readCell(f, null, style);
      if (isFault(value)) this.fail(CARD_SHEET, null, f.key, value);
      else this.fields[f.key] = value;
    }
  }

  /** Value of a field; null where it is blank or wrong. */
  field<T extends CellValue>(key: string): T {
    return (this.fields[key] ?? null) as T;
  }

  /**
   * Rows of a sheet with every cell read; rows that are blank throughout are skipped, rows with a wrong cell
   * left out.
   */
  rows(sheet: string): Row[] {
    const columns = this.sheets.find((s) => s.key === sheet)?.columns ?? [];
    const out: Row[] = [];
    const grid = this.tables[sheet] ?? [];
    // Every row starts as a copy of one blank row: made so, all have one shape from the start.
    const blank: { line: number; [column: string]: CellValue | number } = { line: 0 };
    for (const c of columns) blank[c.key] = null;
    // Most cells of a long table say what others in their column said: each text is read once.
    const known = columns.map(() => new Map<Cell, CellValue | Fault>());
    for (let i = 0; i < grid.length; i++) {
      const cells = grid[i] as readonly Cell[];
      const [first] = cells;
      let any = typeof first === 'string' && first !== '' && first !== ' ';
      for (let j = 0; j < cells.length && !any; j++) {
        const c = cells[j] as Cell;
        any = c !== null && c !== '' && !(typeof c === 'string' && c.trim() === '');
      }
      if (!any) continue;
      const row = { ...blank };
      row.line = i + 2;
      let wrong = false;
      for (let j = 0; j < columns.length; j++) {
        const column = columns[j] as Column;
        const cell = cells[j] ?? null;
        const seen = known[j] as Map<Cell, CellValue | Fault>;
        // A column with many different texts is read as it comes.
        const few = seen.size < 400;
        let value = few ? seen.get(cell) : undefined;
        if (value === undefined) {
          value = readCell(column, cell, this.style);
          if (few) seen.set(cell, value);
        }
        if (typeof value === 'object' && isFault(value)) {
          this.fail(sheet, i + 2, column.key, value);
          wrong = true;
        } else row[column.key] = value;
      }
      for (let j = columns.length; j < cells.length; j++) {
        if (cells[j] === null || cells[j] === '') continue;
        this.fail(sheet, i + 2, null, fault('tooManyCells', { columns: columns.length }));
        break;
      }
      if (!wrong) out.push(row);
    }
    return out;
  }

  /** Whether a row of a sheet, right or wrong, says this text in a column. */
  names(sheet: string, column: string, text: string): boolean {
    const at = this.sheets.find((s) => s.key === sheet)?.columns.findIndex((c) => c.key === column) ?? -1;
    return (this.tables[sheet] ?? []).some((row) => at >= 0 && String(row[at] ?? '').trim() === text);
  }

  fail(sheet: string, row: number | null, column: string | null, wrong: Fault): void {
    if (this.errors.length < MOST_ERRORS) this.errors.push({ sheet, row, column, ...wrong });
  }

  /** Says that each row's key stands once; `what` names it. */
  unique(sheet: string, rows: readonly Row[], columns: readonly string[]): void {
    // Most rows differ in their first column already: only those that share it are held against each other.
    const seen = new Map<CellValue | number | undefined, Row | Row[]>();
    const [first = '', ...rest] = columns;
    const text = (v: CellValue | number | undefined): string => String(v ?? '');
    for (const r of rows) {
      const there = seen.get(r[first]);
      if (there === undefined) {
        seen.set(r[first], r);
        continue;
      }
      const others = Array.isArray(there) ? there : [there];
      const twin = others.find((o) => rest.every((c) => text(o[c]) === text(r[c])));
      if (twin !== undefined)
        this.fail(
          sheet,
          r.line,
          columns[columns.length - 1] as string,
          fault('rowTwice', { text: columns.map((c) => text(r[c])).join(' / '), row: twin.line }),
        );
      else if (Array.isArray(there)) there.push(r);
      else seen.set(r[first], [there, r]);
    }
  }

  /** Notes which cell a part of the card came from, for messages about the assembled card. */
  mark(path: string, sheet: string, row: number, column: string | null = null): void {
    if (this.marking) this.places.set(path, { sheet, row, column });
  }

  /** Notes the rows of a sheet that the card holds under the same name, one after the other. */
  markRows(sheet: string, rows: readonly Row[]): void {
    if (this.marking)
      for (const [i, r] of rows.entries())
        this.places.set(`${sheet}.${i}`, { sheet, row: r.line, column: null });
  }

  /** The cell a path of the card came from, or the nearest part around it. */
  placeOf(path: readonly PropertyKey[]): { sheet: string; row: number | null; column: string | null } {
    for (let n = path.length; n > 0; n--) {
      const place = this.places.get(path.slice(0, n).join('.'));
      if (place !== undefined)
        return {
          ...place,
          column: n < path.length ? (place.column ?? String(path[path.length - 1])) : place.column,
        };
    }
    return {
      sheet: CARD_SHEET,
      row: this.fieldLine[String(path[0])] ?? null,
      column: String(path[0] ?? '') || null,
    };
  }
}

/** Rows of one group in the order of the sheet. */
export function grouped(rows: readonly Row[], by: (r: Row) => string): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const r of rows) {
    const key = by(r);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [r]);
    else group.push(r);
  }
  return groups;
}
