import { Box, Button } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { ReactNode } from 'react';
import type { Column } from '../../../core/cards/cells.ts';
import type { CellError, Grid } from '../../../core/cards/reader.ts';
import { inWords } from '../../../words/index.ts';
import { classes } from '../../ui/classes.ts';
import { useFormat } from '../../ui/locale.ts';
import { align, CellInput } from './CellInput.tsx';
import { choiceWord, namedChoices, shownCell } from './choiceWords.ts';
import type { CellEdit, Place } from './gridCells.ts';
import { typedCell } from './typedCell.ts';
import { useGridCells } from './useGridCells.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  label: string;
  columns: readonly Column[];
  rows: Grid;
  /** What a cell may hold; null: it cannot be edited. */
  columnOf: (row: number, column: number) => Column | null;
  /** Text shown in place of a cell that cannot be edited. */
  fixed?: (row: number) => string;
  errors: readonly CellError[];
  readOnly: boolean;
  canAddRows: boolean;
  focus: { row: number; column: number; at: number } | null;
  /** Title of a column; a card's columns have names of their own. */
  title?: (column: Column) => string;
  onEdit: (edits: readonly CellEdit[]) => void;
  onRows: (rows: Grid) => void;
};

const ROW = 29;
const cellId = (row: number, column: number): string => `cell-${row}-${column}`;

/**
 * Cells edited in place as in a spreadsheet: arrow keys, Enter and F2 to edit, Escape to leave as it was,
 * Shift to select, paste of any block, Delete, Ctrl+D to fill down. Only the rows in view are drawn.
 */
export function DraftGrid(p: Props) {
  const { columns, rows, columnOf, fixed, readOnly, canAddRows, focus, onEdit, onRows } = p;
  const { t } = useWords();
  const f = useFormat();
  const [hasFocus, setHasFocus] = useState(false);
  const wrong = useWrong(p.errors, columns, fixed !== undefined);
  const box = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
    initialRect: { width: 900, height: 460 },
  });
  /** A cell in the reader's words. */
  const shown = (row: number, column: number): string => {
    const own = columnOf(row, column) ?? columns[column];
    const said = String(rows[row]?.[column] ?? '');
    return own === undefined ? said : shownCell(t, own, said);
  };
  const cells = useGridCells({
    box,
    columns,
    rows,
    columnOf,
    first: fixed ? 1 : 0,
    readOnly,
    canAddRows,
    onEdit,
    onRows,
    shown,
    onSeen: (row) => virtual.scrollToIndex(row),
  });
  const { at, range, editing, text } = cells;
  const template = ['44px', ...columns.map((c, i) => widthOf(c, i, fixed !== undefined))].join(' ');

  // biome-ignore lint/correctness/useExhaustiveDependencies: each wish to look somewhere is followed once
  useEffect(() => {
    if (focus === null) return;
    cells.jump({ row: focus.row, column: Math.max(0, focus.column) });
    virtual.scrollToIndex(focus.row, { align: 'center' });
    box.current?.focus();
  }, [focus]);

  const commit = (value: string, then: Place): void => {
    const own = columnOf(at.row, at.column);
    const kept = own === null ? value : typedCell(own, namedChoices(t, own, value), f.locale);
    if (kept !== text(at.row, at.column)) onEdit([{ ...at, text: kept }]);
    cells.leave();
    cells.go(then);
  };
  const contentOf = (row: number, column: number, own: Column): ReactNode => {
    if (editing !== null && row === at.row && column === at.column)
      return (
        <CellInput
          column={own}
          initial={editing}
          onCommit={(v, dr, dc) => commit(v, { row: at.row + dr, column: at.column + dc })}
          onCancel={cells.leave}
        />
      );
    return fixed && column === 0 ? fixed(row) : shown(row, column);
  };
  const cellOf = (row: number, c: Column, column: number): ReactNode => {
    const own = columnOf(row, column);
    const problem = wrong.get(`${row}/${column}`);
    const selected = row >= range.r0 && row <= range.r1 && column >= range.c0 && column <= range.c1;
    const active = row === at.row && column === at.column;
    return (
      <Box
        key={c.key}
        id={cellId(row, column)}
        role="gridcell"
        aria-selected={selected}
        aria-readonly={own === null || readOnly}
        {...(problem === undefined
          ? {}
          : {
              'aria-invalid': true,
              'aria-label': `${fixed && column === 0 ? fixed(row) : text(row, column)}: ${problem}`,
              title: problem,
            })}
        onMouseDown={(e) => {
          if (editing !== null) return;
          e.preventDefault();
          box.current?.focus();
          cells.go({ row, column }, e.shiftKey);
        }}
        onDoubleClick={() => own !== null && !readOnly && cells.edit(shown(row, column))}
        className={classes(
          'cell',
          selected && 'selected',
          active && hasFocus && 'active',
          problem !== undefined && 'wrong',
          own === null && 'fixed',
        )}
        style={{ textAlign: fixed ? 'left' : align(own ?? c) }}>
        {contentOf(row, column, own ?? c)}
      </Box>
    );
  };
  return (
    <Box>
      <Box
        ref={box}
        role="grid"
        aria-label={p.label}
        aria-rowcount={rows.length + 1}
        aria-colcount={columns.length}
        tabIndex={0}
        aria-activedescendant={rows.length > 0 ? cellId(at.row, at.column) : undefined}
        aria-readonly={readOnly}
        {...cells.keys}
        onFocus={() => setHasFocus(true)}
        onBlur={() => setHasFocus(false)}
        sx={{
          height: Math.min(460, (rows.length + 1) * ROW + 14),
          overflow: 'auto',
          border: '1px solid',
          borderColor: 'hairline',
          bgcolor: 'background.paper',
          fontSize: '0.86rem',
          borderRadius: 1,
          position: 'relative',
        }}>
        <Head {...p} template={template} />
        <Box
          sx={{
            height: virtual.getTotalSize(),
            position: 'relative',
            minWidth: 'max-content',
            width: '100%',
          }}>
          {virtual.getVirtualItems().map((item) => (
            <Line key={item.key} line={item.index + 2} top={item.start} template={template}>
              {columns.map((c, column) => cellOf(item.index, c, column))}
            </Line>
          ))}
        </Box>
      </Box>
      <Foot {...p} cells={cells} says={wrong.get(`${at.row}/${at.column}`) ?? null} />
    </Box>
  );
}

/** What is wrong with a cell, in words, by its place; the first of several. */
function useWrong(
  errors: readonly CellError[],
  columns: readonly Column[],
  isFixed: boolean,
): ReadonlyMap<string, string> {
  return useMemo(() => {
    const map = new Map<string, string>();
    for (const e of errors) {
      if (e.row === null) continue;
      const column = isFixed ? 1 : columns.findIndex((c) => c.key === e.column);
      const key = `${e.row - 2}/${column}`;
      if (!map.has(key)) map.set(key, inWords(e));
    }
    return map;
  }, [errors, columns, isFixed]);
}

const WIDE: readonly Column['kind'][] = ['text', 'choices', 'countries'];
function widthOf(c: Column, i: number, isFixed: boolean): string {
  if (isFixed) return i === 0 ? '220px' : 'minmax(260px, 1fr)';
  return WIDE.includes(c.kind) ? 'minmax(130px, 1.4fr)' : 'minmax(96px, 1fr)';
}

function Head({ columns, fixed, title, template }: Props & { template: string }) {
  const { t } = useWords();
  return (
    <Box
      role="row"
      aria-rowindex={1}
      sx={{
        display: 'grid',
        gridTemplateColumns: template,
        position: 'sticky',
        top: 0,
        zIndex: 2,
        bgcolor: 'paperTint',
        minWidth: 'max-content',
        width: '100%',
      }}>
      <Box role="columnheader" aria-label={t('change.row')} sx={{ height: ROW }} />
      {columns.map((c) => (
        <Box
          key={c.key}
          role="columnheader"
          sx={{
            px: 0.75,
            lineHeight: `${ROW}px`,
            fontSize: '0.76rem',
            color: 'text.secondary',
            whiteSpace: 'nowrap',
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            textAlign: fixed ? 'left' : align(c),
          }}>
          {title?.(c) ?? t(`cards.column.${c.key}`)}
        </Box>
      ))}
    </Box>
  );
}

/** A row at its place, led by its line as a spreadsheet counts. */
function Line({
  line,
  top,
  template,
  children,
}: {
  line: number;
  top: number;
  template: string;
  children: ReactNode;
}) {
  return (
    <Box
      role="row"
      aria-rowindex={line}
      sx={{
        display: 'grid',
        gridTemplateColumns: template,
        position: 'absolute',
        top: 0,
        left: 0,
        right: 0,
        height: ROW,
        borderBottom: '1px solid',
        borderColor: 'hairline',
      }}
      style={{ transform: `translateY(${top}px)` }}>
      <Box
        role="rowheader"
        sx={{
          color: 'text.secondary',
          fontSize: '0.72rem',
          lineHeight: `${ROW}px`,
          textAlign: 'right',
          pr: 1,
          bgcolor: 'paperTint',
        }}>
        {line}
      </Box>
      {children}
    </Box>
  );
}

/** What can be done with rows, and what the cell one is in may hold or what is wrong with it. */
function Foot({
  rows,
  columns,
  columnOf,
  readOnly,
  canAddRows,
  onRows,
  cells,
  says,
}: Props & { cells: ReturnType<typeof useGridCells>; says: string | null }) {
  const { t } = useWords();
  const { at, range } = cells;
  const here = columnOf(at.row, at.column);
  const lines = range.r0 === range.r1 ? range.r0 + 2 : `${range.r0 + 2}–${range.r1 + 2}`;
  return (
    <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1.5, mt: 0.75, minHeight: 30 }}>
      {!readOnly && canAddRows && (
        <Button
          size="small"
          onClick={() => {
            onRows([...rows, columns.map(() => '')]);
            cells.jump({ row: rows.length, column: 0 });
          }}>
          {t('draft.addRow')}
        </Button>
      )}
      {!readOnly && canAddRows && rows.length > 0 && (
        <Button
          size="small"
          onClick={() => {
            onRows(rows.filter((_, i) => i < range.r0 || i > range.r1));
            cells.go({ row: range.r0, column: at.column });
          }}>
          {t('draft.removeRows')} {lines}
        </Button>
      )}
      {!readOnly && rows.length > 0 && (
        <Button size="small" onClick={cells.fillDown}>
          {t('draft.fillDown')}
        </Button>
      )}
      <Box
        role="status"
        sx={{
          fontSize: '0.82rem',
          color: says === null ? 'text.secondary' : 'error.main',
          flex: 1,
          lineHeight: 1.35,
          pt: 0.4,
        }}>
        {says ?? here?.choices?.map((c) => choiceWord(t, here, c)).join(' · ') ?? ''}
      </Box>
    </Box>
  );
}
