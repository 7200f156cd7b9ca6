import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { NumField } from './Field.tsx';
import type { NumFieldProps } from './Field.tsx';
import { LocaleContext } from './locale.ts';

/** A field as a form holds it: what it says is what it gets back. */
function Held({ value: first, onChange, ...p }: Partial<NumFieldProps> & { locale?: string }) {
  const [value, setValue] = useState(first ?? null);
  return (
    <LocaleContext value={p.locale ?? 'en-GB'}>
      <NumField
        label="Price"
        kind="money"
        currency="EUR"
        {...p}
        value={value}
        onChange={(x) => {
          setValue(x);
          onChange?.(x);
        }}
      />
    </LocaleContext>
  );
}
const field = (): HTMLInputElement => screen.getByLabelText(/Price/);
const type = (text: string): void => {
  fireEvent.change(field(), { target: { value: text } });
};

describe('a field for a number', () => {
  it('shows money with the digits of its currency, in the locale of the reader', () => {
    render(<Held value={1234.5} />);
    expect(field().value).toBe('1234.50');
  });
  it('shows no decimals where a currency has none, and a comma where the reader writes one', () => {
    render(<Held value={1200} currency="JPY" locale="ja-JP" />);
    expect(field().value).toBe('1200');
  });
  it('keeps the text as it is typed, and says the number it stands for', () => {
    const onChange = vi.fn();
    render(<Held onChange={onChange} locale="de-DE" />);
    type('12,5');
    expect(field().value).toBe('12,5');
    expect(onChange).toHaveBeenLastCalledWith(12.5);
  });
  it('percentages are fractions inside', () => {
    const onChange = vi.fn();
    render(<Held kind="percent" max={1} onChange={onChange} value={0.15} />);
    expect(field().value).toBe('15');
    type('7.25');
    expect(onChange).toHaveBeenLastCalledWith(0.0725);
  });
  it('an emptied field is unknown, not zero', () => {
    const onChange = vi.fn();
    render(<Held value={3} onChange={onChange} />);
    type('');
    expect(onChange).toHaveBeenLastCalledWith(null);
  });
  it('one that must be filled says so and keeps what it had', () => {
    const onChange = vi.fn();
    render(<Held value={3} required onChange={onChange} />);
    type('');
    expect(onChange).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).not.toBe('');
  });
  it.each([
    ['-1', {}],
    ['101', { kind: 'percent', max: 1 }],
    ['2.5', { kind: 'number', whole: true }],
    ['about three', {}],
    ['$3', {}],
  ] as const)('%s is refused with a reason, and nothing is passed on', (text, over) => {
    const onChange = vi.fn();
    render(<Held {...over} onChange={onChange} />);
    type(text);
    expect(onChange).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).not.toBe('');
    expect(field().getAttribute('aria-invalid')).toBe('true');
    // Typed right, the complaint goes.
    type('1');
    expect(screen.queryByRole('alert')).toBeNull();
    expect(onChange).toHaveBeenCalledTimes(1);
  });
  it('arrow keys step, ten times as far with Shift, and stop at the bounds', () => {
    const onChange = vi.fn();
    render(<Held value={0.2} onChange={onChange} />);
    const press = (key: string, shiftKey = false): void => {
      fireEvent.keyDown(field(), { key, shiftKey });
    };
    press('ArrowUp');
    expect(onChange).toHaveBeenLastCalledWith(0.3);
    press('ArrowUp', true);
    expect(onChange).toHaveBeenLastCalledWith(1.3);
    press('ArrowDown', true);
    press('ArrowDown', true);
    expect(onChange).toHaveBeenLastCalledWith(0.3);
  });
  it('a value that comes from elsewhere replaces the text', () => {
    const own = { label: 'Price', kind: 'number', onChange: () => undefined } as const;
    const { rerender } = render(<NumField {...own} value={1} />);
    type('12 apples');
    expect(field().value).toBe('12 apples');
    rerender(<NumField {...own} value={7} />);
    expect(field().value).toBe('7');
    expect(screen.queryByRole('alert')).toBeNull();
  });
});
