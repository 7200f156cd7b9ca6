/** What the forms of all kinds of cards share. */
import type { Column } from './cells.ts';
import type { CardData } from './schema.ts';
import type { Reader, Row, Sheet } from './reader.ts';
import type { Cell, CellValue, ColumnKind } from './cells.ts';
import { fault } from '../fault.ts';

export type Written = { fields: Record<string, CellValue>; sheets: Record<string, CellValue[][]> };

export const col = (key: string, kind: ColumnKind, more: Partial<Column> = {}): Column => ({
  key,
  kind,
  ...more,
});

export const must = { required: true } as const;

export const HEAD: readonly Column[] = [
  col('name', 'text', must),
  col('inForceFrom', 'day', must),
  col('note', 'text'),
];

export const TREATMENTS = ['charged', 'reverseCharge', 'none'];

export const num = (x: unknown): number | null => (typeof x === 'number' ? x : null);

export const or0 = (x: unknown): number => (typeof x === 'number' ? x : 0);

export type CardForm = {
  readonly fields: readonly Column[];
  readonly sheets: readonly Sheet[];
  write(data: CardData): Written;
  /** The card as the reader's cells give it, to be validated; marks where each part came from. */
  read(r: Reader): unknown;
  /** Rows that a card made from nothing begins with, by sheet. */
  readonly first?: Readonly<Record<string, readonly (readonly Cell[])[]>>;
  /**
   * A part of the card whose rows may be thousands and are checked wholly by their cells, so that the schema
   * need not again.
   */
  readonly many?: string;
};

export const VAT_ON: readonly Column[] = [
  col('vat', 'choice', { choices: ['none', 'included', 'added'], ...must }),
  col('vatRate', 'rate'),
  col('recoverable', 'yesNo'),
];

export const head = (r: Reader) => ({
  name: r.field('name'),
  inForceFrom: r.field('inForceFrom'),
  note: r.field('note') ?? '',
});

/**
 * Checks that limits rise from row to row and that only the last is open; says which row overlaps or leaves a
 * gap.
 */
export function rising(r: Reader, sheet: string, rows: readonly Row[], column: string, what: string): void {
  rows.forEach((row, i) => {
    const here = num(row[column]);
    const before = i === 0 ? null : num((rows[i - 1] as Row)[column]);
    if (i > 0 && before === null)
      r.fail(sheet, row.line, column, fault('afterOpen', { what, row: (rows[i - 1] as Row).line }));
    else if (here !== null && before !== null && here === before)
      r.fail(
        sheet,
        row.line,
        column,
        fault('sameLimit', { what, limit: here, row: (rows[i - 1] as Row).line }),
      );
    else if (here !== null && before !== null && here < before)
      r.fail(
        sheet,
        row.line,
        column,
        fault('outOfOrder', { what, limit: here, before, row: (rows[i - 1] as Row).line }),
      );
  });
  const last = rows[rows.length - 1];
  if (last !== undefined && num(last[column]) !== null)
    r.fail(sheet, last.line, column, fault('openEnd', { limit: last[column], what }));
}
