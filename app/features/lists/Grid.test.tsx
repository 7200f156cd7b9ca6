import { fireEvent, render, screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { ListColumn } from '../../../core/lists/query.ts';
import type { ListRow } from '../../../between/ask.ts';
import { Grid } from './Grid.tsx';
import type { Column } from './gridLayout.ts';
import './words.ts';

const column = (id: ListColumn, over: Partial<Column> = {}): Column => ({
  id,
  width: 100,
  pinned: false,
  title: id,
  right: false,
  ...over,
});
const columns = [
  column('title', { pinned: true }),
  column('cost', { right: true }),
  column('roi', { right: true }),
];
const row = (i: number): ListRow => ({ line: i + 2, key: 1000 + i, title: `Row ${i}`, mark: '' }) as ListRow;

function shown(over: Partial<Parameters<typeof Grid>[0]> = {}) {
  const cell = vi.fn((r: ListRow, c: ListColumn) => (c === 'title' ? r.title : '1'));
  const made = Array.from({ length: 100 }, (_, i) => row(i));
  const p = {
    columns,
    count: 100,
    rowAt: (i: number) => made[i],
    inView: vi.fn(),
    cell,
    foot: null,
    sort: [],
    onSort: vi.fn(),
    onWidth: vi.fn(),
    onMove: vi.fn(),
    ticked: new Set<number>(),
    allTicked: false,
    onTick: vi.fn(),
    onTickAll: vi.fn(),
    opened: null,
    onOpen: vi.fn(),
    question: 'one',
    label: 'Rows',
    height: '500px',
    ...over,
  };
  const view = render(<Grid {...p} />);
  return { ...p, cell, rerender: (more: Partial<typeof p>) => view.rerender(<Grid {...p} {...more} />) };
}
const grid = (): HTMLElement => screen.getByRole('grid', { name: 'Rows' });
const press = (key: string, more: object = {}): void => {
  fireEvent.keyDown(grid(), { key, ...more });
};
const active = (): string | null => grid().getAttribute('aria-activedescendant');

describe('the rows of a list', () => {
  it('only those in view are drawn, and the sheet says how many there are', () => {
    const { inView } = shown();
    expect(grid().getAttribute('aria-rowcount')).toBe('101');
    const drawn = within(grid()).getAllByRole('row').length;
    expect(drawn).toBeGreaterThan(8);
    expect(drawn).toBeLessThan(20);
    expect(inView).toHaveBeenLastCalledWith(0, expect.any(Number));
  });
  it('keys move through all of them, and the view follows', () => {
    shown();
    press('ArrowDown');
    press('ArrowDown');
    expect(active()).toBe('row-2');
    press('End');
    expect(active()).toBe('row-99');
    expect(screen.getByText('Row 99')).toBeTruthy();
    press('ArrowDown');
    expect(active()).toBe('row-99');
    press('PageUp');
    press('Home');
    press('ArrowUp');
    expect(active()).toBe('row-0');
    expect(screen.getByText('Row 0')).toBeTruthy();
  });
  it('Enter opens the row, the space bar ticks it, a click opens another', () => {
    const { onOpen, onTick } = shown();
    press('ArrowDown');
    press('Enter');
    expect(onOpen).toHaveBeenLastCalledWith(expect.objectContaining({ line: 3 }), 1);
    press(' ', { shiftKey: true });
    expect(onTick).toHaveBeenLastCalledWith(expect.objectContaining({ line: 3 }), 1, true);
    fireEvent.click(screen.getByText('Row 4'));
    expect(onOpen).toHaveBeenLastCalledWith(expect.objectContaining({ line: 6 }), 4);
    expect(active()).toBe('row-4');
  });
  it('heads order by their column; Shift adds; the order stands on them', () => {
    const { onSort } = shown({ sort: [{ by: 'cost', down: true }] });
    expect(screen.getByRole('columnheader', { name: /cost/ }).getAttribute('aria-sort')).toBe('descending');
    expect(screen.getByRole('columnheader', { name: /roi/ }).getAttribute('aria-sort')).toBe('none');
    fireEvent.click(screen.getByRole('button', { name: /roi/ }), { shiftKey: true });
    expect(onSort).toHaveBeenLastCalledWith('roi', true);
  });
  it('Alt and the arrow keys move a column and widen it by its edge', () => {
    const { onMove, onWidth } = shown();
    fireEvent.keyDown(screen.getByRole('button', { name: /cost/ }), { key: 'ArrowRight', altKey: true });
    expect(onMove).toHaveBeenLastCalledWith('cost', 'roi');
    fireEvent.keyDown(screen.getAllByRole('separator')[1] as HTMLElement, { key: 'ArrowLeft' });
    expect(onWidth).toHaveBeenLastCalledWith('cost', 90);
  });
  it('what changes beside the rows draws none of them again; a changed row is drawn', () => {
    const { cell, rerender, rowAt } = shown();
    const before = cell.mock.calls.length;
    rerender({ ticked: new Set(), onOpen: vi.fn(), allTicked: true });
    expect(cell.mock.calls.length).toBe(before);
    rerender({ rowAt: (i: number) => (i === 3 ? { ...(rowAt(3) as ListRow), title: 'Changed' } : rowAt(i)) });
    expect(screen.getByText('Changed')).toBeTruthy();
    expect(cell.mock.calls.length).toBe(before + columns.length);
  });
  it('another question begins at its top', () => {
    const { rerender } = shown();
    press('End');
    rerender({ question: 'two' });
    expect(active()).toBe('row-0');
  });
});
