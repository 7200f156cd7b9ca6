import { createEvent, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { Column } from '../../../core/cards/cells.ts';
import { fault } from '../../../core/fault.ts';
import type { CellError, Grid } from '../../../core/cards/reader.ts';
import { addWords } from '../../i18n.ts';
import { cardWords } from '../../locales/en.cards.ts';
import { DraftGrid } from './DraftGrid.tsx';

addWords(cardWords);
const columns: Column[] = [
  { key: 'name', kind: 'text' },
  { key: 'pct', kind: 'share' },
  { key: 'base', kind: 'choice', choices: ['item', 'gross', 'net', 'buyerPays'] },
];
let rows: Grid = [];

function Held({
  first,
  errors = [],
  readOnly = false,
}: {
  first: Grid;
  errors?: CellError[];
  readOnly?: boolean;
}) {
  const [held, setHeld] = useState(first);
  rows = held;
  return (
    <DraftGrid
      label="Fees"
      columns={columns}
      rows={held}
      columnOf={(_, column) => columns[column] ?? null}
      errors={errors}
      readOnly={readOnly}
      canAddRows
      focus={null}
      onRows={setHeld}
      onEdit={(edits) =>
        setHeld((now) =>
          now.map((row, i) =>
            row.map((cell, j) => edits.find((e) => e.row === i && e.column === j)?.text ?? cell),
          ),
        )
      }
    />
  );
}
const grid = (): HTMLElement => screen.getByRole('grid', { name: 'Fees' });
const press = (key: string, more: object = {}): void => {
  fireEvent.keyDown(document.querySelector('input') ?? grid(), { key, ...more });
};
const paste = (text: string): void => {
  const event = createEvent.paste(grid());
  Object.defineProperty(event, 'clipboardData', { value: { getData: () => text } });
  fireEvent(grid(), event);
};
const start: Grid = [
  ['Garden', '15%', 'gross'],
  ['Kitchen', '12%', 'net'],
  ['Toys', '8%', ''],
];

describe('a draft as a sheet of cells', () => {
  it('a key begins a cell anew, Enter keeps it and goes down', () => {
    render(<Held first={start} />);
    press('T');
    fireEvent.change(document.querySelector('input') as HTMLInputElement, { target: { value: 'Terrace' } });
    press('Enter');
    expect(rows[0]?.[0]).toBe('Terrace');
    press('Delete');
    expect(rows.map((r) => r[0])).toEqual(['Terrace', '', 'Toys']);
  });
  it('Escape leaves the cell as it was', () => {
    render(<Held first={start} />);
    press('F2');
    fireEvent.change(document.querySelector('input') as HTMLInputElement, { target: { value: 'Other' } });
    press('Escape');
    expect(rows[0]?.[0]).toBe('Garden');
  });
  it('choices are shown and typed in words, and kept by the names of the format', () => {
    render(<Held first={start} />);
    expect(screen.getByRole('gridcell', { name: 'item and delivery' })).toBeTruthy();
    press('ArrowRight');
    press('ArrowRight');
    press('F2');
    const input = document.querySelector('input') as HTMLInputElement;
    expect(input.value).toBe('item and delivery');
    fireEvent.change(input, { target: { value: 'All the buyer pays' } });
    press('Enter');
    expect(rows[0]?.[2]).toBe('buyerPays');
  });
  it('a bare number in a column of percentages is per cent', () => {
    render(<Held first={start} />);
    press('ArrowRight');
    press('7');
    fireEvent.change(document.querySelector('input') as HTMLInputElement, { target: { value: '7.5' } });
    press('Tab');
    expect(rows[0]?.[1]).toBe('7.5%');
  });
  it('a pasted block fills from the cell on, and grows the sheet', () => {
    render(<Held first={start} />);
    press('ArrowDown');
    press('ArrowDown');
    paste('A\t1%\r\nB\t2%\r\nC\t3%\r\n');
    expect(rows.map((r) => r[0])).toEqual(['Garden', 'Kitchen', 'A', 'B', 'C']);
    expect(rows[4]).toEqual(['C', '3%', '']);
  });
  it('one copied cell fills what is selected; Ctrl+D fills down from the first row of it', () => {
    render(<Held first={start} />);
    press('ArrowDown', { shiftKey: true });
    press('ArrowDown', { shiftKey: true });
    paste('Same');
    expect(rows.map((r) => r[0])).toEqual(['Same', 'Same', 'Same']);
    press('ArrowRight');
    press('ArrowUp');
    press('ArrowUp');
    press('ArrowDown', { shiftKey: true });
    press('d', { ctrlKey: true });
    expect(rows.map((r) => r[1])).toEqual(['15%', '15%', '8%']);
  });
  it('a wrong cell says what is wrong, where it stands and under the sheet', () => {
    const error: CellError = { sheet: 'fees', row: 3, column: 'pct', ...fault('belowZero', { value: -3 }) };
    render(<Held first={start} errors={[error]} />);
    const wrong = screen.getByRole('gridcell', { name: /-3 is below 0/ });
    expect(wrong.getAttribute('aria-invalid')).toBe('true');
    press('ArrowDown');
    press('ArrowRight');
    expect(screen.getByRole('status').textContent).toBe('-3 is below 0. Write 0 or more.');
  });
  it('a version that is in force can be read and not changed', () => {
    render(<Held first={start} readOnly />);
    press('X');
    press('Delete');
    paste('A\tB');
    expect(rows).toEqual(start);
    expect(screen.queryByRole('button')).toBeNull();
  });
});
