import { useState } from 'react';
import type { ClipboardEvent, KeyboardEvent, RefObject } from 'react';
import type { Column } from '../../../core/cards/cells.ts';
import type { Grid } from '../../../core/cards/reader.ts';
import { blockEdits, copied, ledTo, linesIn, pasted, rangeOf } from './gridCells.ts';
import type { CellEdit, Place } from './gridCells.ts';

type Asked = {
  /** The element that holds the focus. */
  readonly box: RefObject<HTMLDivElement | null>;
  readonly columns: readonly Column[];
  readonly rows: Grid;
  readonly columnOf: (row: number, column: number) => Column | null;
  /** The first column that one may be in. */
  readonly first: number;
  readonly readOnly: boolean;
  readonly canAddRows: boolean;
  readonly onEdit: (edits: readonly CellEdit[]) => void;
  readonly onRows: (rows: Grid) => void;
  /** A cell in the reader's words, from which editing begins. */
  readonly shown: (row: number, column: number) => string;
  readonly onSeen: (row: number) => void;
};

/**
 * Where one is in a sheet of cells, what is selected and what is being edited; and what keys, copying and pasting
 * do to it.
 */
export function useGridCells(a: Asked) {
  const [at, setAt] = useState<Place>({ row: 0, column: a.first });
  const [anchor, setAnchor] = useState<Place | null>(null);
  const [editing, setEditing] = useState<string | null>(null);
  const range = rangeOf(at, anchor);
  const width = a.columns.length;
  const text = (row: number, column: number): string => String(a.rows[row]?.[column] ?? '');
  const editable = (row: number, column: number): boolean => !a.readOnly && a.columnOf(row, column) !== null;

  const go = (place: Place, extend = false): void => {
    const next = {
      row: Math.max(0, Math.min(a.rows.length - 1, place.row)),
      column: Math.max(a.first, Math.min(width - 1, place.column)),
    };
    setAnchor(extend ? (anchor ?? at) : null);
    setAt(next);
    a.onSeen(next.row);
  };
  const leave = (): void => {
    setEditing(null);
    a.box.current?.focus();
  };
  const fillDown = (): void => {
    const from = range.r0 === range.r1 ? range.r0 - 1 : range.r0;
    if (from >= 0) a.onEdit(blockEdits(range, editable, (_, column) => text(from, column)));
  };
  const select = (from: Place, to: Place): void => {
    setAnchor(from);
    setAt(to);
  };

  const onKeyDown = (e: KeyboardEvent): void => {
    if (editing !== null) return;
    const mod = e.ctrlKey || e.metaKey;
    const letter = mod ? e.key.toLowerCase() : null;
    const to = ledTo(e.key, mod, at, a.rows.length, width);
    const types = !mod && !e.altKey && e.key.length === 1 && editable(at.row, at.column);
    if (to !== null) go(to, e.shiftKey);
    else if (e.key === 'Enter' || e.key === 'F2') {
      if (editable(at.row, at.column)) setEditing(a.shown(at.row, at.column));
    } else if (e.key === 'Delete' || e.key === 'Backspace') a.onEdit(blockEdits(range, editable, () => ''));
    else if (letter === 'd') fillDown();
    else if (letter === 'a')
      select({ row: 0, column: a.first }, { row: a.rows.length - 1, column: width - 1 });
    else if (types) setEditing(e.key);
    else return;
    e.preventDefault();
  };
  const onPaste = (e: ClipboardEvent): void => {
    if (editing !== null || a.readOnly) return;
    e.preventDefault();
    const done = pasted(linesIn(e.clipboardData.getData('text/plain')), range, a, editable);
    if ('rows' in done) a.onRows(done.rows);
    else a.onEdit(done.edits);
    select(done.anchor, done.at);
  };
  const onCopy = (e: ClipboardEvent): void => {
    if (editing !== null) return;
    e.preventDefault();
    e.clipboardData.setData('text/plain', copied(range, text));
  };

  return {
    at,
    range,
    editing,
    text,
    go,
    leave,
    fillDown,
    edit: setEditing,
    jump: (place: Place): void => {
      setAt(place);
      setAnchor(null);
    },
    keys: { onKeyDown, onPaste, onCopy },
  };
}
