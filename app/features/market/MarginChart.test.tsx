import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { HistorySaid } from '../../../core/evidence/keeps.ts';
import { addWords } from '../../i18n.ts';
import { marketWords } from '../../locales/en.market.ts';
import type { ShownDay } from './daysShown.ts';
import { MarginChart } from './MarginChart.tsx';
import type { Keeps } from './useKeeps.ts';

addWords(marketWords);
// A page that has a size.
beforeAll(() =>
  Object.defineProperty(HTMLElement.prototype, 'clientWidth', { configurable: true, get: () => 760 }),
);
afterAll(() => Reflect.deleteProperty(HTMLElement.prototype, 'clientWidth'));
const keeps: Keeps = {
  money: (x) => (x === null ? '–' : `€${x}`),
  plain: (x) => String(x),
  even: (x) => String(x),
  lost: (x) => x,
  bounded: false,
};
const dayOf = (i: number): string => new Date(Date.UTC(2026, 0, 1 + i)).toISOString().slice(0, 10);
const day = (i: number, price: number | null, more: Partial<ShownDay> = {}): ShownDay => ({
  day: dayOf(i),
  price,
  unitProfit: price === null ? null : price - 20,
  keeps: null,
  loses: null,
  rank: null,
  offers: null,
  ownShop: null,
  promotion: false,
  observed: true,
  ...more,
});
type Over = { days?: readonly ShownDay[]; history?: object; mine?: number | null };
function shown({ days = DAYS, history = {}, mine = 30 }: Over = {}): HTMLElement {
  const said = { currency: 'EUR', breakEven: 20, band: null, gaps: [], ...history } as unknown as HistorySaid;
  return render(<MarginChart days={days} history={said} keeps={keeps} mine={mine} />).container;
}
const DAYS = [25, 26, 18, 24].map((price, i) => day(i, price));
const said = (): string => screen.getByTestId('market-day').textContent ?? '';
const pathsOf = (c: HTMLElement): string[] =>
  [...c.querySelectorAll('svg path')].map((p) => p.getAttribute('d') ?? '');

describe('the margin over time', () => {
  it('is filled from the break-even line: what keeps in one piece each, what loses hatched', () => {
    const c = shown();
    const [kept = '', lost = '', line = ''] = pathsOf(c).filter((d) => d !== '');
    // Two days that keep, one that loses, one that keeps again.
    expect(kept.match(/Z/g)).toHaveLength(2);
    expect(lost.match(/Z/g)).toHaveLength(1);
    expect(line.match(/M/g)).toHaveLength(1);
    expect(screen.getByText('breaks even 20')).toBeTruthy();
    expect(screen.getByText('my price 30.00')).toBeTruthy();
  });
  it('breaks where nobody offered, and says so where there is room', () => {
    const long = Array.from({ length: 90 }, (_, i) => day(i, i >= 30 && i < 60 ? null : 25));
    const c = shown({ days: long, history: { gaps: [{ from: dayOf(30), to: dayOf(59) }] } });
    expect(pathsOf(c).find((d) => d.match(/M/g)?.length === 2)).toBeTruthy();
    expect(screen.getByText('nobody offered')).toBeTruthy();
  });
  it('a gap that ends before the first day that is shown is not drawn', () => {
    shown({ history: { gaps: [{ from: '2025-01-01', to: '2025-02-01' }] } });
    expect(screen.queryByText('nobody offered')).toBeNull();
  });
  it('without a break-even price there is the price alone, and no line of one', () => {
    const c = shown({ history: { breakEven: null }, mine: null });
    expect(pathsOf(c).filter((d) => d !== '')).toHaveLength(1);
    expect(screen.queryByText(/breaks even|my price/)).toBeNull();
  });
  it('one price all the time, and a single day, are drawn', () => {
    for (const days of [[day(0, 20)], [day(0, 20), day(1, 20)]]) {
      const c = shown({ days, mine: 20 });
      expect(c.innerHTML).not.toContain('NaN');
      cleanup();
    }
  });
  it('a day is read by key and by pointer; the last one stands first', () => {
    const c = shown({ days: [...DAYS, day(4, null), day(5, null, { observed: false })] });
    expect(said()).toBe('6 Jan 2026 · not observed');
    const slider = screen.getByRole('slider');
    fireEvent.change(slider, { target: { value: '4' } });
    expect(said()).toBe('5 Jan 2026 · nobody');
    expect(slider.getAttribute('aria-valuetext')).toBe('5 Jan 2026');
    fireEvent.change(slider, { target: { value: '2' } });
    expect(said()).toBe('3 Jan 2026 · €18.00: one unit keeps €-2');
    const svg = c.querySelector('svg') as SVGElement;
    const point = (clientX: number) =>
      fireEvent(svg, new MouseEvent('pointermove', { bubbles: true, clientX }));
    point(60);
    expect(said()).toContain('1 Jan 2026');
    point(5);
    expect(said()).toContain('6 Jan 2026');
  });
});
