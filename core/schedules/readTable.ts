/** One table of a fee schedule, read: its cells, and the parts of a card that its rows make. */
import { fault } from '../fault.ts';
import { CellReader } from './readCells.ts';
import type { Choices } from './readCells.ts';
import type { TableShape } from './tableShape.ts';
import { RowTaker } from './takeRows.ts';
import type { Found } from './takeRows.ts';
import { TOTAL } from './vocabulary.ts';
import type { CellRead, CellState, RowRead, TableRead } from './understood.ts';

/**
 * Reads a table; what its rows come to is added to `found`. `name`: of its fees, where no column names them.
 * `volume`: m3 of what storage is said to be for, null unsaid.
 */
export function readTable(
  shape: TableShape,
  name: string,
  choices: Choices,
  volume: number | null,
  found: Found,
): TableRead {
  const cells = new CellReader(shape, choices);
  const taker = new RowTaker(shape, name, volume, found);
  const heads = new Set(shape.heads);
  const rows = shape.block.rows.map((line): RowRead => {
    const as = (state: CellState) => ({
      line: line.line,
      cells: line.cells.map((c, i) => cells.cell(c, i, state, line)),
    });
    if (heads.has(line)) return as('heading');
    if (TOTAL.test(line.cells[0] ?? '')) return as('leftOut');
    const [section, ...rest] = line.cells;
    if (section !== undefined && rest.every((c) => c === '') && isSection(section, shape)) {
      taker.begin(section);
      return as('heading');
    }
    const read = cells.row(line);
    const used = taker.take(read, line);
    return {
      line: line.line,
      cells:
        used === null
          ? read
          : read.map((c, i) => (used.has(i) ? c : unused(c, shape.columns[i]?.heading ?? ''))),
    };
  });
  return { kind: shape.kind, title: shape.block.title, rows };
}
/** A figure that was read and became part of nothing is not passed over. */
const unused = (c: CellRead, heading: string): CellRead =>
  c.state === 'sure' || c.state === 'doubtful'
    ? { ...c, state: 'notUnderstood', or: [], why: fault('scheduleUnused', { text: heading || c.text }) }
    : c;
/** A lone name over rows that have a figure where it stands: what they are for. */
const isSection = (text: string, { columns }: TableShape): boolean =>
  /\p{L}/u.test(text) && !/\d/.test(text) && !['tier', 'category', 'unread'].includes(columns[0]?.role ?? '');
