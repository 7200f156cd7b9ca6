import { act, renderHook } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { DEFAULT_LOOK, SHORT_LIST } from '../../../core/lists/query.ts';
import type { ListColumn, ListQuery } from '../../../core/lists/query.ts';
import { pinnedAt, placesOf, TICK } from './gridLayout.ts';
import type { ListData } from './listData.ts';
import { explainsVerdicts, moved, sortedBy, useColumns } from './useColumns.ts';
import { rowAfter } from './useScroll.ts';
import './words.ts';

const ids = (...list: ListColumn[]) => list.map((id) => ({ id, width: 90, pinned: false }));
const ALL: ListQuery = { text: '', filters: [], sort: [] };

describe('the sort after a press on a heading', () => {
  it('is by that column alone: figures fall at first, words rise, a second press turns it round', () => {
    expect(sortedBy([], 'margin', false)).toEqual([{ by: 'margin', down: true }]);
    expect(sortedBy([], 'title', false)).toEqual([{ by: 'title', down: false }]);
    expect(sortedBy([{ by: 'margin', down: true }], 'margin', false)).toEqual([
      { by: 'margin', down: false },
    ]);
  });
  it('added goes behind the others, of which the last four stay', () => {
    const four = (['margin', 'roi', 'cost', 'price'] as const).map((by) => ({ by, down: true }));
    expect(sortedBy(four.slice(0, 1), 'roi', true)).toEqual(four.slice(0, 2));
    expect(sortedBy(four, 'units', true)?.map((k) => k.by)).toEqual(['roi', 'cost', 'price', 'units']);
    expect(sortedBy(four, 'margin', true)?.map((k) => k.by)).toEqual(['roi', 'cost', 'price', 'margin']);
  });
  it('of the bar and of what is kept as it is there is none', () => {
    expect(sortedBy([], 'bar', false)).toBeNull();
    expect(sortedBy([], 'extra:Finish', false)).toBeNull();
  });
});

describe('a column moved to the place of another', () => {
  const order = (id: ListColumn, to: ListColumn) =>
    moved(ids('title', 'margin', 'roi', 'cost'), id, to).map((c) => c.id);
  it('stands before it on the way left, behind it on the way right', () => {
    expect(order('cost', 'margin')).toEqual(['title', 'cost', 'margin', 'roi']);
    expect(order('title', 'roi')).toEqual(['margin', 'roi', 'title', 'cost']);
    expect(order('margin', 'roi')).toEqual(['title', 'roi', 'margin', 'cost']);
  });
});

describe('columns of a list', () => {
  const data = (over: object = {}) =>
    ({
      list: { extras: ['Finish'], has: ['cost', 'price', 'units'], hasPrevious: false },
      look: { columns: ids('title', 'verdict', 'margin', 'extra:Finish', 'extra:Gone'), query: ALL },
      ...over,
    }) as unknown as ListData;
  const columns = (query: ListQuery = ALL) =>
    renderHook(() => {
      const [now, setQuery] = useState(query);
      return { ...useColumns(data(), now, setQuery), query: now };
    }).result;
  it('are those that this list has, under their headings, figures on the right', () => {
    const { grid } = columns().current;
    expect(grid.map((c) => [c.id, c.title, c.right])).toEqual([
      ['title', 'Title', false],
      ['verdict', 'Hurdles', false],
      ['margin', 'Margin', true],
      ['extra:Finish', 'Finish', false],
    ]);
  });
  it('of near misses have room for why', () => {
    const near: ListQuery = { ...ALL, filters: [{ kind: 'verdict', only: ['near'] }] };
    expect([explainsVerdicts(near), explainsVerdicts(SHORT_LIST), explainsVerdicts(ALL)]).toEqual([
      true,
      false,
      false,
    ]);
    expect(columns(near).current.grid[1]?.width).toBe(210);
    expect(columns().current.grid[1]?.width).toBe(90);
  });
  it('are widened, moved and sorted by; limits ask for their figures too', () => {
    const c = columns({
      ...ALL,
      filters: [{ kind: 'range', figure: 'roi', min: 0.2, max: null, keepUnknown: false }],
    });
    expect(c.current.figures).toEqual(['margin', 'roi']);
    act(() => c.current.widen('margin', 140));
    expect(c.current.shown.find((x) => x.id === 'margin')?.width).toBe(140);
    act(() => c.current.moveTo('margin', 'title'));
    expect(c.current.shown.map((x) => x.id).slice(0, 2)).toEqual(['margin', 'title']);
    act(() => c.current.sortBy('margin', false));
    expect(c.current.query.sort).toEqual([{ by: 'margin', down: true }]);
    act(() => c.current.sortBy('bar', false));
    expect(c.current.query.sort).toEqual([{ by: 'margin', down: true }]);
    expect(DEFAULT_LOOK.columns.length).toBeGreaterThan(4);
  });
});

describe('where things stand in the grid', () => {
  it('pinned columns follow the ticks, one beside the other', () => {
    const columns = (['title', 'margin', 'roi'] as const).map((id, i) => ({
      id,
      width: 100 + i,
      pinned: id !== 'margin',
      title: id,
      right: false,
    }));
    expect(placesOf(columns)).toEqual([TICK, TICK + 100, TICK + 100]);
    expect(pinnedAt(columns[0] as (typeof columns)[0], 30)).toEqual({
      position: 'sticky',
      left: 30,
      zIndex: 1,
    });
    expect(pinnedAt(columns[1] as (typeof columns)[0], 30)).toBeUndefined();
  });
  it('keys lead to rows that there are', () => {
    const keys = ['ArrowDown', 'ArrowUp', 'PageDown', 'PageUp', 'Home', 'End', 'a'];
    expect(keys.map((k) => rowAfter(k, 5, 10, 40))).toEqual([6, 4, 15, 0, 0, 39, null]);
    expect(keys.map((k) => rowAfter(k, 0, 10, 1))).toEqual([0, 0, 0, 0, 0, 0, null]);
  });
});
