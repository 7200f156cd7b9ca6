import { fireEvent, render, screen, within } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { describe, expect, it } from 'vitest';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneDocumentInput } from '../../../core/lane/schema.ts';
import { launch } from '../../../core/launch/launch.ts';
import { admissibleOrders } from '../../../core/launch/orders.ts';
import { launchPlan } from '../../../core/launch/schema.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import { plainLane } from '../../../core/testing/documents.ts';
import { FundBudget } from './FundBudget.tsx';
import { FundCompare } from './FundCompare.tsx';
import type { FundPart } from './fundParts.tsx';

const ADVERTS = { kind: 'daily' as const, perDay: 10, days: 20 };
/** A launch of 100 at 8.00, sold at 30.00, and what the screen changed of its plan. */
function part(over: Partial<LaneDocumentInput> = {}, plan: Partial<LaunchPlan> = {}) {
  const doc = plainLane({
    goods: [
      {
        source: {
          kind: 'quote',
          currency: 'EUR',
          priceBreaks: [
            { minQty: 0, unitPrice: 8 },
            { minQty: 200, unitPrice: 7 },
          ],
          minimumOrder: 0,
          carton: { units: 10, kg: null, volumeM3: null },
        },
      },
    ],
    orderQuantity: 100,
    demand: { kind: 'typed', units: 50 },
    ...over,
  });
  const whole = launchPlan.parse({ cash: 2000, advertising: ADVERTS, quantities: [100, 200, 205], ...plan });
  const changes: Partial<LaunchPlan>[] = [];
  const result = evaluate(doc);
  const of: FundPart = {
    plan: whole,
    set: (change) => changes.push(change),
    result: launch(doc, whole),
    view: { id: 'l', state: {} as never, doc, result, home: result },
    orders: admissibleOrders(doc),
    quantities: [100, 200, 205],
    candidate: { name: 'Nest box', product: {} } as never,
    home: 'EUR',
  };
  return { of, changes };
}
const compared = (...asked: Parameters<typeof part>) => {
  const { of, changes } = part(...asked);
  render(
    <MemoryRouter>
      <FundCompare {...of} />
    </MemoryRouter>,
  );
  const line = (name: string): (string | null)[] =>
    within(screen.getByRole('row', { name: new RegExp(`^${name}`) }))
      .getAllByRole('cell')
      .map((c) => c.textContent);
  return { line, changes };
};

describe('quantities beside each other', () => {
  it('what each takes, leaves and keeps, at the price of the break it reaches', () => {
    const { line } = compared();
    expect(line('Cash a unit')).toEqual(['8.00', '7.00', '7.00']);
    expect(line('Goods')).toEqual(['800.00', '1,400.00', '1,435.00']);
    expect(line('Launch takes')).toEqual(['1,000.00', '1,600.00', '1,635.00']);
    expect(line('Left of the cash')).toEqual(['1,000.00', '400.00', '365.00']);
    expect(line('Unit profit')).toEqual(['22.00', '23.00', '23.00']);
  });
  it('an order that breaks a carton is one the supplier does not take', () => {
    expect(compared().line('Supplier takes it')).toEqual(['yes', 'yes', 'no']);
  });
  it('cash that does not reach is a loss in the colour of one', () => {
    compared({}, { cash: 1200 });
    const row = screen.getByRole('row', { name: /^Left of the cash/ });
    const [first, second] = within(row).getAllByRole('cell') as [HTMLElement, HTMLElement];
    expect([first.textContent, second.textContent]).toEqual(['200.00', '−400.00']);
    expect(second.className).not.toBe(first.className);
  });
  it('a lane whose way in is not known: over what it takes, under what it leaves and keeps', () => {
    const { line } = compared({ route: null });
    expect(line('Cash a unit')).toEqual(['over8.00', 'over7.00', 'over7.00']);
    expect(line('Launch takes')[0]).toBe('over1,000.00');
    expect(line('Left of the cash')[0]).toBe('under1,000.00');
    expect(line('Unit profit')[0]).toBe('under22.00');
  });
  it('a quantity is changed in its place', () => {
    const { changes } = compared();
    const field = screen.getByLabelText(/No. 2/);
    fireEvent.focus(field);
    fireEvent.change(field, { target: { value: '300' } });
    fireEvent.blur(field);
    expect(changes.at(-1)).toEqual({ quantities: [100, 300, 205] });
  });
});

describe('the budget of a launch', () => {
  const shown = (...asked: Parameters<typeof part>): string => {
    const { of } = part(...asked);
    return (
      render(
        <MemoryRouter>
          <FundBudget {...of} />
        </MemoryRouter>,
      ).container.textContent ?? ''
    );
  };
  it('names each line, and adds up', () => {
    const text = shown({}, { oneOffs: [{ name: 'Photographs', amount: 120 }] });
    for (const said of ['Photographs', '120.00', '800.00', '200.00', '€1,120.00'])
      expect(text).toContain(said);
    expect(text).not.toContain('over');
  });
  it('goods whose way in is not known are a bound, and so is the sum', () => {
    const text = shown({ route: null });
    expect(text).toContain('over 800.00');
    expect(text).toMatch(/over €1,000\.00/);
  });
  it('without an order quantity there is no budget, and that is said', () => {
    const text = shown({ orderQuantity: null });
    expect(text).toContain('Enter an order quantity');
    expect(text).not.toContain('Launch takes');
  });
});
