/** The headings of a grid: they sort, are dragged to other places and made wider, and tick all rows. */
import { useState } from 'react';
import type { DragEvent, KeyboardEvent } from 'react';
import type { ListColumn, ListSort } from '../../../core/lists/query.ts';
import { classes } from '../../ui/classes.ts';
import { Edge } from './ColumnEdge.tsx';
import { pinnedAt } from './gridLayout.ts';
import type { Column } from './gridLayout.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  columns: readonly Column[];
  places: readonly number[];
  template: string;
  width: number;
  sort: readonly ListSort[];
  allTicked: boolean;
  someTicked: boolean;
  empty: boolean;
  onTickAll: () => void;
  onSort: (by: ListColumn, add: boolean) => void;
  onWidth: (id: ListColumn, width: number) => void;
  onMove: (id: ListColumn, to: ListColumn) => void;
};

export function Head({
  columns,
  places,
  template,
  width,
  sort,
  allTicked,
  someTicked,
  empty,
  onTickAll,
  onSort,
  onWidth,
  onMove,
}: Props) {
  const { t } = useWords();
  const [dragged, setDragged] = useState<ListColumn | null>(null);
  const [over, setOver] = useState<ListColumn | null>(null);
  // The head of a column is dragged to another's place, or moved with Alt and the arrow keys.
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
    <div role="row" aria-rowindex={1} className="list-head" style={{ gridTemplateColumns: template, width }}>
      <div role="columnheader" className="fixed" style={{ position: 'sticky', left: 0, zIndex: 2 }}>
        <input
          type="checkbox"
          checked={allTicked}
          disabled={empty}
          ref={(el) => {
            if (el !== null) el.indeterminate = someTicked;
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
            style={pinnedAt(c, places[i])}
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
  );
}
