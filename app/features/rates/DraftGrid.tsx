import { Box, Button } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { ClipboardEvent, KeyboardEvent } from 'react';
import { useTranslation } from 'react-i18next';
import type { Column } from '../../../core/cards/cells.ts';
import { inWords } from '../../../words/index.ts';
import type { CellError, Grid } from '../../../core/cards/reader.ts';
import { CellInput } from './CellInput.tsx';
import { align } from './CellInput.tsx';
import { useFormat } from '../../ui/locale.ts';
import { classes } from '../../ui/classes.ts';
import { choiceWord, namedChoices, shownCell } from './choiceWords.ts';
import { typedCell } from './typedCell.ts';

export type CellEdit = { readonly row: number; readonly column: number; readonly text: string };
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
type Place = { row: number; column: number };

const ROW = 29;

/**
 * Cells edited in place as in a spreadsheet: arrow keys, Enter and F2 to edit, Escape to leave as it was,
 * Shift to select, paste of any block, Delete, Ctrl+D to fill down. Only the rows in view are drawn.
 */
export function DraftGrid({
  label,
  columns,
  rows,
  columnOf,
  fixed,
  errors,
  readOnly,
  canAddRows,
  focus,
  title,
  onEdit,
  onRows,
}: Props) {
  const { t } = useTranslation();
  const box = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState<Place>({ row: 0, column: fixed ? 1 : 0 });
  const [anchor, setAnchor] = useState<Place | null>(null);
  const [editing, setEditing] = useState<string | null>(null);
  const [hasFocus, setHasFocus] = useState(false);
  const wrong = useMemo(() => {
    const map = new Map<string, string>();
    for (const e of errors) {
      if (e.row === null) continue;
      const column = fixed ? 1 : columns.findIndex((c) => c.key === e.column);
      const key = `${e.row - 2}/${column}`;
      if (!map.has(key)) map.set(key, inWords(e));
    }
    return map;
  }, [errors, columns, fixed]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 12,
    initialRect: { width: 900, height: 460 },
  });
  const range = {
    r0: Math.min(at.row, anchor?.row ?? at.row),
    r1: Math.max(at.row, anchor?.row ?? at.row),
    c0: Math.min(at.column, anchor?.column ?? at.column),
    c1: Math.max(at.column, anchor?.column ?? at.column),
  };
  const f = useFormat();
  const text = (row: number, column: number): string => String(rows[row]?.[column] ?? '');
  /** A cell in the reader's words. */
  const shown = (row: number, column: number): string => {
    const own = columnOf(row, column) ?? columns[column];
    return own === undefined ? text(row, column) : shownCell(t, own, text(row, column));
  };
  const width = columns.length;
  const widthOf = (c: Column, i: number): string =>
    fixed
      ? i === 0
        ? '220px'
        : 'minmax(260px, 1fr)'
      : ['text', 'choices', 'countries'].includes(c.kind)
        ? 'minmax(130px, 1.4fr)'
        : 'minmax(96px, 1fr)';
  const template = ['44px', ...columns.map(widthOf)].join(' ');

  useEffect(() => {
    if (focus === null) return;
    setAt({ row: focus.row, column: Math.max(0, focus.column) });
    setAnchor(null);
    virtual.scrollToIndex(focus.row, { align: 'center' });
    box.current?.focus();
  }, [focus, virtual]);

  const go = (place: Place, extend = false): void => {
    const next = {
      row: Math.max(0, Math.min(rows.length - 1, place.row)),
      column: Math.max(fixed ? 1 : 0, Math.min(width - 1, place.column)),
    };
    setAnchor(extend ? (anchor ?? at) : null);
    setAt(next);
    virtual.scrollToIndex(next.row);
  };
  const commit = (value: string, then: Place): void => {
    setEditing(null);
    const own = columnOf(at.row, at.column);
    const kept = own === null ? value : typedCell(own, namedChoices(t, own, value), f.locale);
    if (kept !== text(at.row, at.column)) onEdit([{ ...at, text: kept }]);
    go(then);
    box.current?.focus();
  };
  const editable = (row: number, column: number): boolean => !readOnly && columnOf(row, column) !== null;
  const block = (of: (row: number, column: number) => string): CellEdit[] => {
    const out: CellEdit[] = [];
    for (let row = range.r0; row <= range.r1; row++)
      for (let column = range.c0; column <= range.c1; column++)
        if (editable(row, column)) out.push({ row, column, text: of(row, column) });
    return out;
  };
  const fillDown = (): void => {
    const from = range.r0 === range.r1 ? range.r0 - 1 : range.r0;
    if (from >= 0) onEdit(block((_, column) => text(from, column)));
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    if (editing !== null) return;
    const step: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-15, 0],
      PageDown: [15, 0],
    };
    const move = step[e.key];
    const mod = e.ctrlKey || e.metaKey;
    if (move !== undefined) {
      e.preventDefault();
      if (mod)
        go(
          {
            row: move[0] === 0 ? at.row : move[0] < 0 ? 0 : rows.length - 1,
            column: move[1] === 0 ? at.column : move[1] < 0 ? 0 : width - 1,
          },
          e.shiftKey,
        );
      else go({ row: at.row + move[0], column: at.column + move[1] }, e.shiftKey);
    } else if (e.key === 'Home' || e.key === 'End') {
      e.preventDefault();
      go(
        {
          row: mod ? (e.key === 'Home' ? 0 : rows.length - 1) : at.row,
          column: e.key === 'Home' ? 0 : width - 1,
        },
        e.shiftKey,
      );
    } else if (e.key === 'Enter' || e.key === 'F2') {
      e.preventDefault();
      if (editable(at.row, at.column)) setEditing(shown(at.row, at.column));
    } else if (e.key === 'Delete' || e.key === 'Backspace') {
      e.preventDefault();
      onEdit(block(() => ''));
    } else if (mod && e.key.toLowerCase() === 'd') {
      e.preventDefault();
      fillDown();
    } else if (mod && e.key.toLowerCase() === 'a') {
      e.preventDefault();
      setAnchor({ row: 0, column: fixed ? 1 : 0 });
      setAt({ row: rows.length - 1, column: width - 1 });
    } else if (!mod && !e.altKey && e.key.length === 1 && editable(at.row, at.column)) {
      e.preventDefault();
      setEditing(e.key);
    }
  };
  const onPaste = (e: ClipboardEvent): void => {
    if (editing !== null || readOnly) return;
    e.preventDefault();
    const lines = e.clipboardData
      .getData('text/plain')
      .replace(/\r/g, '')
      .replace(/\n$/, '')
      .split('\n')
      .map((l) => l.split('\t'));
    const needed = range.r0 + lines.length;
    const wide = Math.max(...lines.map((l) => l.length));
    // One copied cell fills the whole selection.
    if (lines.length === 1 && wide === 1 && (range.r1 > range.r0 || range.c1 > range.c0)) {
      onEdit(block(() => lines[0]?.[0] ?? ''));
      return;
    }
    if (canAddRows && needed > rows.length) {
      const grown: (readonly (string | number | boolean | null)[])[] = [...rows];
      while (grown.length < needed) grown.push(columns.map(() => ''));
      onRows(
        grown.map((row, i) =>
          i < range.r0 || i >= needed
            ? row
            : columns.map((_, j) =>
                j >= range.c0 && j < range.c0 + (lines[i - range.r0]?.length ?? 0)
                  ? (lines[i - range.r0]?.[j - range.c0] ?? '')
                  : (row[j] ?? ''),
              ),
        ),
      );
    } else
      onEdit(
        lines.flatMap((l, i) =>
          l.flatMap((value, j) =>
            range.r0 + i < rows.length && range.c0 + j < width && editable(range.r0 + i, range.c0 + j)
              ? [{ row: range.r0 + i, column: range.c0 + j, text: value }]
              : [],
          ),
        ),
      );
    setAnchor({ row: range.r0, column: range.c0 });
    setAt({
      row: Math.min(needed, canAddRows ? needed : rows.length) - 1,
      column: Math.min(width - 1, range.c0 + wide - 1),
    });
  };
  const onCopy = (e: ClipboardEvent): void => {
    if (editing !== null) return;
    e.preventDefault();
    const lines: string[] = [];
    for (let row = range.r0; row <= range.r1; row++)
      lines.push(
        Array.from({ length: range.c1 - range.c0 + 1 }, (_, i) => text(row, range.c0 + i)).join('\t'),
      );
    e.clipboardData.setData('text/plain', lines.join('\n'));
  };
  const here = columnOf(at.row, at.column);
  const says = wrong.get(`${at.row}/${at.column}`) ?? null;
  const cellId = (row: number, column: number): string => `cell-${row}-${column}`;

  return (
    <Box>
      <Box
        ref={box}
        role="grid"
        aria-label={label}
        aria-rowcount={rows.length + 1}
        aria-colcount={width}
        tabIndex={0}
        aria-activedescendant={rows.length > 0 ? cellId(at.row, at.column) : undefined}
        aria-readonly={readOnly}
        onKeyDown={onKeyDown}
        onPaste={onPaste}
        onCopy={onCopy}
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
        <Box
          sx={{
            height: virtual.getTotalSize(),
            position: 'relative',
            minWidth: 'max-content',
            width: '100%',
          }}>
          {virtual.getVirtualItems().map((item) => (
            <Box
              key={item.key}
              role="row"
              aria-rowindex={item.index + 2}
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
              style={{ transform: `translateY(${item.start}px)` }}>
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
                {item.index + 2}
              </Box>
              {columns.map((c, column) => {
                const row = item.index;
                const own = columnOf(row, column);
                const active = row === at.row && column === at.column;
                const selected =
                  row >= range.r0 && row <= range.r1 && column >= range.c0 && column <= range.c1;
                const problem = wrong.get(`${row}/${column}`);
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
                      if (active && editing !== null) return;
                      if (editing !== null) return;
                      e.preventDefault();
                      box.current?.focus();
                      go({ row, column }, e.shiftKey);
                    }}
                    onDoubleClick={() => own !== null && !readOnly && setEditing(shown(row, column))}
                    className={classes(
                      'cell',
                      selected && 'selected',
                      active && hasFocus && 'active',
                      problem !== undefined && 'wrong',
                      own === null && 'fixed',
                    )}
                    style={{ textAlign: fixed ? 'left' : align(own ?? c) }}>
                    {active && editing !== null ? (
                      <CellInput
                        column={own ?? c}
                        initial={editing}
                        onCommit={(v, dr, dc) => commit(v, { row: at.row + dr, column: at.column + dc })}
                        onCancel={() => {
                          setEditing(null);
                          box.current?.focus();
                        }}
                      />
                    ) : fixed && column === 0 ? (
                      fixed(row)
                    ) : (
                      shown(row, column)
                    )}
                  </Box>
                );
              })}
            </Box>
          ))}
        </Box>
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1.5, mt: 0.75, minHeight: 30 }}>
        {!readOnly && canAddRows && (
          <Button
            size="small"
            onClick={() => {
              onRows([...rows, columns.map(() => '')]);
              setAt({ row: rows.length, column: 0 });
              setAnchor(null);
            }}>
            {t('draft.addRow')}
          </Button>
        )}
        {!readOnly && canAddRows && rows.length > 0 && (
          <Button
            size="small"
            onClick={() => {
              onRows(rows.filter((_, i) => i < range.r0 || i > range.r1));
              go({ row: range.r0, column: at.column });
            }}>
            {t('draft.removeRows')} {range.r0 === range.r1 ? range.r0 + 2 : `${range.r0 + 2}–${range.r1 + 2}`}
          </Button>
        )}
        {!readOnly && rows.length > 0 && (
          <Button size="small" onClick={fillDown}>
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
    </Box>
  );
}
