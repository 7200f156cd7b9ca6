import { render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { BudgetAt } from '../../../core/launch/schema.ts';
import { QuantityChart } from './QuantityChart.tsx';
import './words.ts';

const at = (quantity: number, lines: Partial<BudgetAt['lines']>): BudgetAt =>
  ({
    quantity,
    lines: { oneOffs: 0, goods: 0, advertising: 0, discounts: 0, contingency: 0, ...lines },
  }) as BudgetAt;
/** Width of every part of every bar, in the order of the chart. */
function shown(compared: readonly BudgetAt[], cash: number | null): number[][] {
  const { container } = render(<QuantityChart compared={compared} cash={cash} currency="EUR" />);
  return [...container.querySelectorAll('g')].map((g) =>
    [...g.querySelectorAll('rect')].map((r) => Number(r.getAttribute('width'))),
  );
}
const sum = (xs: readonly number[] = []): number => xs.reduce((a, b) => a + b, 0);

describe('launch cash at each quantity', () => {
  it('is a bar a quantity, its parts as long as their amounts, discounts with the adverts', () => {
    const [one, two] = shown(
      [at(100, { goods: 300, oneOffs: 100, advertising: 60, discounts: 40 }), at(200, { goods: 1000 })],
      800,
    );
    const [goods = 0, oneOffs = 0, adverts = 0, contingency = 0] = one ?? [];
    expect(goods / oneOffs).toBeCloseTo(3, 6);
    expect(adverts).toBeCloseTo(oneOffs, 6);
    expect(contingency).toBe(0);
    expect(sum(two) / sum(one)).toBeCloseTo(2, 6);
    expect(screen.getByText('100 units')).toBeTruthy();
    expect(screen.getByRole('img').getAttribute('aria-label')).toBeTruthy();
  });
  it('the cash is a line at its place, and within the picture where it is more than all bars', () => {
    const { container } = render(
      <QuantityChart compared={[at(100, { goods: 500 })]} cash={1000} currency="EUR" />,
    );
    const bar = container.querySelector('rect');
    const line = container.querySelector('line');
    const from = Number(bar?.getAttribute('x'));
    expect(Number(line?.getAttribute('x1')) - from).toBeCloseTo(2 * Number(bar?.getAttribute('width')), 6);
    expect(screen.getByText(/€1,000\.00/)).toBeTruthy();
  });
  it('cash that is not known, or under nothing, has no line', () => {
    for (const cash of [null, -50]) {
      const { container, unmount } = render(
        <QuantityChart compared={[at(100, { goods: 500 })]} cash={cash} currency="EUR" />,
      );
      expect(container.querySelector('line')).toBeNull();
      unmount();
    }
  });
  it('nothing known draws nothing, and no figure is without a number', () => {
    const { container } = render(
      <QuantityChart compared={[at(100, { goods: null })]} cash={null} currency="EUR" />,
    );
    expect(container.innerHTML).not.toContain('NaN');
    expect(container.querySelectorAll('rect')).toHaveLength(4);
  });
});
