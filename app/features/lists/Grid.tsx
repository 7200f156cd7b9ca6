import { Box } from '@mui/material';
import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { DragEvent, KeyboardEvent, ReactNode } from 'react';
import { useTranslation } from 'react-i18next';
import { classes } from '../../ui/classes.ts';
import type { ListColumn, ListLook, ListSort } from '../../../core/lists/query.ts';
import type { ListRow } from '../../../between/ask.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { Edge } from './ColumnEdge.tsx';

export const ROW = 34;
const TICK = 30;
/**
 * No element is drawn taller than this: browsers cap an element's height, so beyond it the scroll position is
 * scaled.
 */
const TALLEST = 8_000_000;
const isClient = typeof document !== 'undefined';
const useBefore = isClient ? useLayoutEffect : useEffect;

export type Column = ListLook['columns'][number] & { readonly title: string; readonly right: boolean };
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
  const { t } = useTranslation();
  const box = useRef<HTMLDivElement>(null);
  const [tall, setTall] = useState(560);
  /** First row in view, with its fraction. */
  const [top, setTop] = useState(0);
  const [active, setActive] = useState(0);
  const ours = useRef(-1);
  const [dragged, setDragged] = useState<ListColumn | null>(null);
  const [over, setOver] = useState<ListColumn | null>(null);
  const visible = Math.max(1, tall / ROW);
  const full = count * ROW;
  const drawn = Math.min(full, TALLEST);
  const last = Math.max(0, count - visible);
  /** Rows for a pixel of the scroll bar. */
  const scaled = full > TALLEST;
  const ratio = drawn <= tall ? 0 : last / (drawn - tall);

  useBefore(() => {
    const el = box.current;
    if (el === null) return;
    const measure = (): void => setTall(Math.max(ROW, el.clientHeight - HEAD - (foot === null ? 0 : FOOT)));
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(el);
    return () => watch.disconnect();
  }, [foot === null]);

  const moveTo = (row: number): void => {
    const next = Math.max(0, Math.min(last, row));
    setTop(next);
    const el = box.current;
    if (el === null) return;
    const at = ratio === 0 ? 0 : next / ratio;
    ours.current = Math.round(at);
    el.scrollTop = at;
  };
  const move = useLatest(moveTo);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another question begins at its top
  useEffect(() => {
    setActive(0);
    move(0);
  }, [question]);
  const from = Math.min(Math.floor(top), Math.max(0, count - 1));
  const to = Math.min(count - 1, Math.ceil(top + visible));
  useEffect(() => {
    if (count > 0) inView(Math.max(0, from - 10), Math.min(count - 1, to + 20));
  }, [from, to, count, inView]);

  // The wheel moves by rows where the bar is scaled; a listener of our own, since React's may not hold the
  // page still.
  const wheel = useLatest((e: WheelEvent): void => {
    if (!scaled || Math.abs(e.deltaX) > Math.abs(e.deltaY)) return;
    e.preventDefault();
    moveTo(top + (e.deltaMode === 1 ? e.deltaY : e.deltaY / ROW));
  });
  useEffect(() => {
    const el = box.current;
    el?.addEventListener('wheel', wheel, { passive: false });
    return () => el?.removeEventListener('wheel', wheel);
  }, [wheel]);

  const keys = (e: KeyboardEvent<HTMLDivElement>): void => {
    if (e.target !== e.currentTarget) return;
    const page = Math.max(1, Math.floor(visible) - 1);
    const next =
      e.key === 'ArrowDown'
        ? active + 1
        : e.key === 'ArrowUp'
          ? active - 1
          : e.key === 'PageDown'
            ? active + page
            : e.key === 'PageUp'
              ? active - page
              : e.key === 'Home'
                ? 0
                : e.key === 'End'
                  ? count - 1
                  : null;
    const row = rowAt(active);
    if (next !== null) {
      e.preventDefault();
      const at = Math.max(0, Math.min(count - 1, next));
      setActive(at);
      if (at < top) moveTo(at);
      else if (at > top + visible - 1) moveTo(at - visible + 1);
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
  const place = (c: Column, i: number) =>
    c.pinned ? { position: 'sticky' as const, left: places[i] as number, zIndex: 1 } : {};

  /** The head of a column is dragged to another's place, or moved with Alt and the arrow keys. */
  const grip = (c: Column, i: number) => ({
    draggable: true,
    onDragStart: (e: DragEvent) => {
      e.dataTransfer.effectAllowed = 'move';
      e.dataTransfer.setData('text/plain', c.title);
      setDragged(c.id);
    },
    onDragEnd: () => setDragged(null),
    onKeyDown: (e: KeyboardEvent) => {
      if (!e.altKey || (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight')) return;
      e.preventDefault();
      const to = columns[i + (e.key === 'ArrowRight' ? 1 : -1)];
      if (to !== undefined) onMove(c.id, to.id);
    },
  });

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
      onScroll={(e) => {
        const at = e.currentTarget.scrollTop;
        if (Math.abs(at - ours.current) <= 1) return;
        ours.current = -1;
        setTop(Math.max(0, Math.min(last, at * ratio)));
      }}
      sx={{
        height,
        overflow: 'auto',
        position: 'relative',
        minWidth: 0,
        borderBottom: '1px solid',
        borderColor: 'text.primary',
      }}>
      <div
        style={{ height: Math.max(drawn, 0) + HEAD + (foot === null ? 0 : FOOT), width, minWidth: '100%' }}>
        <div
          style={{
            position: 'sticky',
            top: 0,
            height: Math.min(tall, Math.max(full, ROW)) + HEAD + (foot === null ? 0 : FOOT),
            overflow: 'clip',
            width,
          }}>
          <div
            role="row"
            aria-rowindex={1}
            className="list-head"
            style={{ gridTemplateColumns: template, width }}>
            <div role="columnheader" className="fixed" style={{ position: 'sticky', left: 0, zIndex: 2 }}>
              <input
                type="checkbox"
                checked={allTicked}
                disabled={count === 0}
                ref={(el) => {
                  if (el !== null) el.indeterminate = ticked.size > 0 && !allTicked;
                }}
                onChange={onTickAll}
                aria-label={t('list.tickAll')}
              />
            </div>
            {columns.map((c, i) => {
              const at = sort.findIndex((k) => k.by === c.id);
              const key = sort[at];
              return (
                <div
                  key={c.id}
                  role="columnheader"
                  aria-sort={key === undefined ? 'none' : key.down ? 'descending' : 'ascending'}
                  className={classes(
                    c.right && 'num',
                    c.pinned && 'fixed',
                    over === c.id && dragged !== null && dragged !== c.id && 'list-target',
                  )}
                  style={place(c, i)}
                  onDragOver={(e) => {
                    if (dragged === null) return;
                    e.preventDefault();
                    setOver(c.id);
                  }}
                  onDrop={(e) => {
                    e.preventDefault();
                    if (dragged !== null && dragged !== c.id) onMove(dragged, c.id);
                    setDragged(null);
                  }}>
                  {c.id === 'bar' || c.id.startsWith('extra:') ? (
                    <span {...grip(c, i)}>{c.title}</span>
                  ) : (
                    <button
                      type="button"
                      {...grip(c, i)}
                      title={t('list.sortBy', { name: c.title })}
                      onClick={(e) => onSort(c.id, e.shiftKey)}>
                      {c.title}
                      {key === undefined ? '' : ` ${key.down ? '↓' : '↑'}${sort.length > 1 ? at + 1 : ''}`}
                    </button>
                  )}
                  <Edge
                    width={c.width}
                    onWidth={(w) => onWidth(c.id, w)}
                    label={t('list.width', { name: c.title })}
                  />
                </div>
              );
            })}
          </div>
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
                  style={place(c, i)}>
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
const HEAD = 40;
const FOOT = 46;

/** Where each column begins if it is pinned, in pixels from the left. */
function placesOf(columns: readonly Column[]): number[] {
  let pinnedAt = TICK;
  return columns.map((c) => {
    const left = pinnedAt;
    if (c.pinned) pinnedAt += c.width;
    return left;
  });
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
  const { t } = useTranslation();
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
          style={c.pinned ? { position: 'sticky', left: places[i] as number, zIndex: 1 } : undefined}>
          {row === undefined ? <i className="list-wait" /> : cell(row, c.id)}
        </div>
      ))}
    </div>
  );
});
