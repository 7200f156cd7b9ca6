/** One table of a fee schedule, read: its cells, and the parts of a card that its rows make. */
import type { Around } from './forms.ts';
import type { Block } from './given.ts';
import { CellReader } from './readCells.ts';
import type { Choices } from './readCells.ts';
import { TableShape } from './tableShape.ts';
import { RowTaker } from './takeRows.ts';
import type { Found } from './takeRows.ts';
import { TOTAL } from './vocabulary.ts';
import type { CellState, RowRead, TableRead } from './understood.ts';

/**
 * Reads a table; what its rows come to is added to `found`. `volume`: m3 of what storage is said to be for,
 * null unsaid.
 */
export function readTable(
  block: Block,
  around: Around,
  choices: Choices,
  volume: number | null,
  found: Found,
): TableRead {
  const shape = new TableShape(block, around);
  const cells = new CellReader(shape, choices);
  const taker = new RowTaker(shape, volume, found);
  const heads = new Set(shape.heads);
  const rows = block.rows.map((line): RowRead => {
    const as = (state: CellState) => ({
      line: line.line,
      cells: line.cells.map((c, i) => cells.cell(c, i, state, line)),
    });
    if (heads.has(line)) return as('heading');
    if (TOTAL.test(line.cells[0] ?? '')) return as('leftOut');
    const read = cells.row(line);
    taker.take(read, line);
    return { line: line.line, cells: read };
  });
  return { kind: shape.kind, title: block.title, rows };
}
