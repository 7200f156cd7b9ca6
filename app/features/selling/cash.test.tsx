import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { CashBeside } from '../../../core/actuals/cashBeside.ts';
import { CashSoFar } from './CashSoFar.tsx';
import { shown } from './testing/shown.tsx';

const cash = (over: Partial<CashBeside> = {}): CashBeside => ({
  currency: 'EUR',
  months: [
    { month: '2026-10', planned: -500, actual: -700, ahead: null },
    { month: '2026-11', planned: -100, actual: -300, ahead: -250 },
    { month: '2026-12', planned: 200, actual: null, ahead: 90 },
  ],
  today: { planned: -120, actual: -300 },
  plannedPayback: '2026-12-10',
  payback: { known: true, day: '2026-12-20' },
  byPlan: [],
  ordersUnknown: 0,
  ...over,
});
const said = async (over: Partial<CashBeside> = {}): Promise<string> => {
  document.body.innerHTML = '';
  shown(<CashSoFar cash={cash(over)} name="Bird bath" />);
  return (await screen.findByRole('region', { name: 'Cash since the launch' })).textContent ?? '';
};

describe('cash since the launch', () => {
  it('says when the money is back, and how far that is from the plan', async () => {
    expect(await said()).toContain('Money back on 20 Dec 2026 as it goes now, 10 days later than planned');
    expect(await said({ payback: { known: true, day: '2026-12-09' } })).toContain(
      '1 day sooner than planned',
    );
    expect(await said({ payback: { known: true, day: '2026-12-10' } })).toContain('planned on 10 Dec 2026.');
    expect(await said({ payback: { known: true, day: null } })).toContain(
      'As it goes now the money is not back',
    );
    const never = { plannedPayback: null, payback: { known: true, day: null } };
    expect(await said(never)).toContain('neither by the plan nor as it goes now');
    const lucky = { plannedPayback: null, payback: { known: true, day: '2026-12-20' } };
    expect(await said(lucky)).toContain('planned not within the time looked at');
  });
  it('does not say what is not known: no stock, no plan for today, orders left out', async () => {
    const unknown = { known: false, day: null };
    expect(await said({ payback: unknown })).toContain('When it comes as it goes now is not known');
    expect(await said({ payback: unknown, plannedPayback: null })).toContain('Planned not to be back');
    expect(await said({ today: { planned: null, actual: -300 } })).toContain(
      'Today −€300.00 beside before the launch.',
    );
    const out = await said({ ordersUnknown: 2, byPlan: ['adverts', 'fixed'] });
    expect(out).toContain('Payments of 2 orders are left out');
    expect(out).toContain('fixed and one-off costs');
    document.body.innerHTML = '';
    shown(<CashSoFar cash={null} name="Bird bath" />);
    expect((await screen.findByRole('region')).textContent).toContain('Not known: the lane');
  });
  it('has its months in a table, what is to come fainter', async () => {
    await said();
    fireEvent.click(screen.getByText('By month'));
    const rows = screen.getAllByRole('row').map((r) => r.textContent);
    expect(rows.slice(1)).toEqual([
      'Oct 2026−€700.00−€500.00–',
      'Nov 2026−€300.00−€100.00−€250.00',
      'Dec 2026–€200.00€90.00',
    ]);
  });
});
