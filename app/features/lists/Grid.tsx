import { Box } from '@mui/material';
import { memo, useEffect, useMemo, useState } from 'react';
import type { KeyboardEvent, ReactNode } from 'react';
import { classes } from '../../ui/classes.ts';
import type { ListColumn, ListSort } from '../../../core/lists/query.ts';
import type { ListRow } from '../../../between/ask.ts';
import { useLatest } from '../../ui/useLatest.ts';
import type { Column } from './gridLayout.ts';
import { FOOT, HEAD, pinnedAt, placesOf, ROW, TICK } from './gridLayout.ts';
import { Head } from './GridHead.tsx';
import { rowAfter, useScroll } from './useScroll.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  columns: readonly Column[];
  count: number;
  rowAt: (i: number) => ListRow | undefined;
  inView: (from: number, to: number) => void;
  cell: (row: ListRow, column: ListColumn) => ReactNode;
  foot: ((column: Column) => ReactNode) | null;
  sort: readonly ListSort[];
  onSort: (by: ListColumn, add: boolean) => void;
  onWidth: (id: ListColumn, width: number) => void;
  /** Puts a column at the place of another. */
  onMove: (id: ListColumn, to: ListColumn) => void;
  ticked: ReadonlySet<number>;
  /** Whether every row that can be is ticked. */
  allTicked: boolean;
  onTick: (row: ListRow, index: number, range: boolean) => void;
  onTickAll: () => void;
  opened: number | null;
  onOpen: (row: ListRow, index: number) => void;
  /** Changes with the question; the grid goes back to its top. */
  question: string;
  label: string;
  height: string;
};

/**
 * Rows of a list, a million deep: only those in view are drawn, and the scroll bar stands for a height that
 * no browser could draw. The wheel and the keys move by rows; dragging the bar moves by its share of the
 * whole.
 */
export function Grid({
  columns,
  count,
  rowAt,
  inView,
  cell,
  foot,
  sort,
  onSort,
  onWidth,
  onMove,
  ticked,
  allTicked,
  onTick,
  onTickAll,
  opened,
  onOpen,
  question,
  label,
  height,
}: Props) {
  const [active, setActive] = useState(0);
  const view = useScroll({ count, hasFoot: foot !== null, question, inView });
  const { box, top, visible, from, to } = view;
  // biome-ignore lint/correctness/useExhaustiveDependencies: another question begins at its top
  useEffect(() => setActive(0), [question]);

  const keys = (e: KeyboardEvent<HTMLDivElement>): void => {
    if (e.target !== e.currentTarget) return;
    const next = rowAfter(e.key, active, Math.max(1, Math.floor(visible) - 1), count);
    const row = rowAt(active);
    if (next !== null) {
      e.preventDefault();
      setActive(next);
      view.show(next);
    } else if (e.key === 'Enter' && row !== undefined) onOpen(row, active);
    else if (e.key === ' ' && row !== undefined) {
      e.preventDefault();
      onTick(row, active, e.shiftKey);
    }
  };
  const places = useMemo(() => placesOf(columns), [columns]);
  const template = `${TICK}px ${columns.map((c) => `${c.width}px`).join(' ')}`;
  const openAt = useLatest((row: ListRow, index: number): void => {
    setActive(index);
    onOpen(row, index);
  });
  const width = TICK + columns.reduce((s, c) => s + c.width, 0);
  return (
    <Box
      ref={box}
      role="grid"
      aria-label={label}
      aria-rowcount={count + 1}
      aria-colcount={columns.length + 1}
      aria-activedescendant={count === 0 ? undefined : `row-${active}`}
      tabIndex={0}
      onKeyDown={keys}
      className="list-grid"
      onScroll={view.onScroll}
      sx={{
        height,
        overflow: 'auto',
        position: 'relative',
        minWidth: 0,
        borderBottom: '1px solid',
        borderColor: 'text.primary',
      }}>
      <div style={{ height: view.drawn + HEAD + (foot === null ? 0 : FOOT), width, minWidth: '100%' }}>
        <div
          style={{
            position: 'sticky',
            top: 0,
            height: view.pane + HEAD + (foot === null ? 0 : FOOT),
            overflow: 'clip',
            width,
          }}>
          <Head
            columns={columns}
            places={places}
            template={template}
            width={width}
            sort={sort}
            allTicked={allTicked}
            someTicked={ticked.size > 0 && !allTicked}
            empty={count === 0}
            onTickAll={onTickAll}
            onSort={onSort}
            onWidth={onWidth}
            onMove={onMove}
          />
          {Array.from({ length: Math.max(0, to - from + 1) }, (_, k) => {
            const i = from + k;
            const row = rowAt(i);
            return (
              <Line
                key={i}
                index={i}
                row={row}
                y={HEAD + (i - top) * ROW}
                template={template}
                width={width}
                columns={columns}
                places={places}
                cell={cell}
                active={i === active}
                ticked={row !== undefined && ticked.has(row.key)}
                opened={row !== undefined && row.line === opened}
                onTick={onTick}
                onOpen={openAt}
              />
            );
          })}
          {foot !== null && (
            <div
              className="list-foot"
              style={{ gridTemplateColumns: template, width, position: 'absolute', bottom: 0, left: 0 }}>
              <div className="fixed" style={{ position: 'sticky', left: 0, zIndex: 2 }} />
              {columns.map((c, i) => (
                <div
                  key={c.id}
                  className={`${c.right ? 'num' : ''}${c.pinned ? ' fixed' : ''}`}
                  style={pinnedAt(c, places[i])}>
                  {foot(c)}
                </div>
              ))}
            </div>
          )}
        </div>
      </div>
    </Box>
  );
}

type LineProps = {
  index: number;
  row: ListRow | undefined;
  y: number;
  template: string;
  width: number;
  columns: readonly Column[];
  places: readonly number[];
  cell: Props['cell'];
  active: boolean;
  ticked: boolean;
  opened: boolean;
  onTick: Props['onTick'];
  onOpen: (row: ListRow, index: number) => void;
};
/** A row is drawn again only where something of its own has changed. */
const Line = memo(function Line({
  index,
  row,
  y,
  template,
  width,
  columns,
  places,
  cell,
  active,
  ticked,
  opened,
  onTick,
  onOpen,
}: LineProps) {
  const { t } = useWords();
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the grid has the keyboard; a click is the pointer's way to the same
    <div
      role="row"
      id={`row-${index}`}
      aria-rowindex={index + 2}
      aria-selected={ticked}
      className={classes('list-row', active && 'active', opened && 'opened', row?.mark ?? false)}
      style={{ gridTemplateColumns: template, transform: `translateY(${y}px)`, width }}
      onClick={() => row !== undefined && onOpen(row, index)}>
      <div role="gridcell" className="fixed" style={{ position: 'sticky', left: 0, zIndex: 1 }}>
        {row !== undefined && (
          <input
            type="checkbox"
            checked={ticked}
            aria-label={t('list.tick', { row: row.line })}
            onChange={() => undefined}
            onClick={(e) => {
              e.stopPropagation();
              onTick(row, index, e.shiftKey);
            }}
          />
        )}
      </div>
      {columns.map((c, i) => (
        <div
          key={c.id}
          role="gridcell"
          className={`${c.right ? 'num' : ''}${c.pinned ? ' fixed' : ''}`}
          style={pinnedAt(c, places[i])}>
          {row === undefined ? <i className="list-wait" /> : cell(row, c.id)}
        </div>
      ))}
    </div>
  );
});
