/** The columns of a screened list: which are shown, how wide, in which order, and what rows are sorted by. */
import { useCallback, useMemo, useState } from 'react';
import { figuresOf, isListFigure } from '../../../core/lists/figures.ts';
import type { ListFigure } from '../../../core/lists/figures.ts';
import { extraOf } from '../../../core/lists/query.ts';
import type { ListColumn, ListLook, ListQuery, ListSort } from '../../../core/lists/query.ts';
import { useLatest } from '../../ui/useLatest.ts';
import type { Column } from './gridLayout.ts';
import type { ListData } from './listData.ts';
import { useWords } from '../../ui/useWords.ts';

/** Columns as a look keeps them. */
type Look = ListLook['columns'];
export type Columns = {
  readonly shown: Look;
  readonly set: (columns: Look) => void;
  /** Figures that this list can show at all. */
  readonly can: readonly ListFigure[];
  /** Figures that are shown or limited: what the server is asked for. */
  readonly figures: readonly ListFigure[];
  /** The columns as the grid draws them. */
  readonly grid: readonly Column[];
  readonly titled: (id: ListColumn) => string;
  readonly sortBy: (by: ListColumn, add: boolean) => void;
  readonly widen: (id: ListColumn, width: number) => void;
  readonly moveTo: (id: ListColumn, to: ListColumn) => void;
};

export function useColumns(p: ListData, query: ListQuery, setQuery: (query: ListQuery) => void): Columns {
  const [shown, set] = useState(p.look.columns);
  const can = useMemo(() => figuresOf(p.list.has, p.list.hasPrevious), [p.list]);
  const figures = useMemo(
    () => [
      ...new Set([
        ...shown.map((c) => c.id).filter(isListFigure),
        ...query.filters.flatMap((x) => (x.kind === 'range' ? [x.figure] : [])),
      ]),
    ],
    [shown, query.filters],
  );
  const titled = useTitled();
  const explains = explainsVerdicts(query);
  const grid = useMemo(
    () =>
      shown
        .filter((c) => hasColumn(c.id, p.list.extras, can))
        .map(
          (c): Column => ({
            ...c,
            width: c.id === 'verdict' && explains ? Math.max(c.width, WIDTH_OF_WHY) : c.width,
            title: titled(c.id),
            right: isListFigure(c.id),
          }),
        ),
    [shown, p.list.extras, can, explains, titled],
  );
  const sortBy = useLatest((by: ListColumn, add: boolean): void => {
    const sort = sortedBy(query.sort, by, add);
    if (sort !== null) setQuery({ ...query, sort });
  });
  const widen = useLatest((id: ListColumn, width: number): void =>
    set(shown.map((c) => (c.id === id ? { ...c, width } : c))),
  );
  const moveTo = useLatest((id: ListColumn, to: ListColumn): void => set(moved(shown, id, to)));
  return { shown, set, can, figures, grid, titled, sortBy, widen, moveTo };
}

/** Near misses and unknown rows say why, which takes room. */
const WIDTH_OF_WHY = 210;
export const explainsVerdicts = (query: ListQuery): boolean =>
  query.filters.some(
    (x) =>
      x.kind === 'verdict' && (x.only.includes('near') || x.only.includes('unknown')) && x.only.length === 1,
  );

/** Most columns that rows are sorted by at once. */
const MOST_SORTS = 4;
/**
 * The sort after a press on a heading: by that column alone, or (`add`) by it after the others; pressed again it
 * turns round, figures fall at first. Null: no rows are sorted by such a column.
 */
export function sortedBy(sort: readonly ListSort[], by: ListColumn, add: boolean): ListSort[] | null {
  if (by === 'bar' || by.startsWith('extra:')) return null;
  const now = sort.find((k) => k.by === by);
  const next = { by, down: now === undefined ? isListFigure(by) : !now.down } as ListSort;
  return add ? [...sort.filter((k) => k.by !== by), next].slice(-MOST_SORTS) : [next];
}

/** The columns with one moved to the place of another: before it on the way left, behind it on the way right. */
export function moved<T extends { readonly id: ListColumn }>(
  columns: readonly T[],
  id: ListColumn,
  to: ListColumn,
): T[] {
  const next = columns.filter((c) => c.id !== id);
  const [from, at] = [columns.findIndex((c) => c.id === id), columns.findIndex((c) => c.id === to)];
  const place = next.findIndex((c) => c.id === to);
  next.splice(from < at ? place + 1 : place, 0, ...columns.filter((c) => c.id === id));
  return next;
}

/** Whether this list has a column: a look may come from another. */
function hasColumn(id: ListColumn, extras: readonly string[], can: readonly ListFigure[]): boolean {
  const extra = extraOf(id);
  return extra !== null ? extras.includes(extra) : !isListFigure(id) || can.includes(id);
}

/** The heading of a column. */
function useTitled(): (id: ListColumn) => string {
  const { t } = useWords();
  return useCallback(
    (id) => {
      const extra = extraOf(id);
      if (extra !== null && ['link', 'picture', 'notes'].includes(extra)) return t(`role.${extra}`);
      // Columns of shops have our names; those of files have their own.
      if (extra !== null) return t(`catalogue.extra.${extra}`, { defaultValue: extra });
      return t(isListFigure(id) ? `listFigure.${id}` : `listText.${id}`);
    },
    [t],
  );
}
