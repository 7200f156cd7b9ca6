import { render } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { BIT } from '../../../core/lane/blanks.ts';
import type { ListColumn } from '../../../core/lists/query.ts';
import type { ListRow } from '../../../between/ask.ts';
import { useCell } from './Cell.tsx';
import './words.ts';

const row = (over: Partial<ListRow> = {}): ListRow => ({
  line: 2,
  key: 9521000000018,
  code: '9521000000018',
  title: 'Nest box',
  brand: 'Fernhollow',
  category: 'Garden',
  mark: '',
  notes: 0,
  listings: 1,
  listingPack: 0,
  removedBy: [],
  remedies: [],
  gross: 20,
  families: [3, 5, 1, 4, 2, 0, 1],
  verdict: 'pass',
  trouble: '',
  blanks: 0,
  ...over,
  figures: {
    cost: 5,
    price: 20,
    unitProfit: 4,
    margin: 0.2,
    roi: 0.6,
    breakEvenPrice: 14.5,
    mostToPay: 9,
    kg: 1.25,
    rank: 1200,
    ...over.figures,
  },
});
function Cells({ of, id }: { of: ListRow; id: ListColumn }) {
  const cell = useCell({ list: 'USD', sales: 'EUR', scale: 20 });
  return cell(of, id);
}
const shown = (id: ListColumn, over: Partial<ListRow> = {}): HTMLElement =>
  render(<Cells of={row(over)} id={id} />).container;
const text = (id: ListColumn, over: Partial<ListRow> = {}): string | null => shown(id, over).textContent;

describe('a figure of a row', () => {
  it('stands in its own unit, and a dash where it is not known', () => {
    expect(text('price')).toBe('20.00');
    expect(text('roi')).toBe('60.0%');
    expect(text('kg')).toBe('1.25');
    expect(text('rank')).toBe('1,200');
    for (const id of ['price', 'roi', 'unitProfit', 'rank'] as const)
      expect(text(id, { figures: { [id]: null } })).toBe('–');
  });
  it('that lacks costs says which way it errs, over the amount, and whole in its title', () => {
    const blanks = BIT.fulfilment;
    for (const [id, words, amount] of [
      ['unitProfit', 'under', '4.00'],
      ['margin', 'under', '20.0%'],
      ['breakEvenPrice', 'above', '14.50'],
      ['mostToPay', 'less than', '9.00'],
    ] as const) {
      const cell = shown(id, { blanks });
      expect(cell.querySelector('small')?.textContent).toBe(words);
      expect(cell.textContent).toBe(`${words}${amount}`);
      expect(cell.querySelector('.bounded')?.getAttribute('title')).toBe(`${words} ${amount}`);
    }
    // Where only returns are missing the amount stands before them; with more, both are said.
    expect(text('roi', { blanks: BIT.returns })).toBe('before returns60.0%');
    expect(text('roi', { blanks: BIT.returns | BIT.storage })).toBe('under, before returns60.0%');
  });
  it('of landed cost is no less than it says; the most to pay is rounded down', () => {
    const landed = { figures: { landedCost: 6.2 } };
    expect(text('landedCost', { ...landed, blanks: BIT.prep })).toBe('over6.20');
    expect(text('landedCost', { ...landed, blanks: BIT.storage })).toBe('6.20');
    expect(text('mostToPay', { figures: { mostToPay: 9.719 } })).toBe('9.71');
  });
  it('that demand alone is missing of is whole', () => {
    expect(text('unitProfit', { blanks: BIT.demand })).toBe('4.00');
    expect(text('price', { blanks: BIT.fulfilment })).toBe('20.00');
  });
  it('a loss is marked as one', () => {
    expect(shown('unitProfit', { figures: { unitProfit: -1 } }).querySelector('b')?.className).toBe('loses');
    expect(shown('unitProfit').querySelector('b')?.className).toBe('keeps');
  });
  it('says that there is no such price where the profit is known', () => {
    expect(text('breakEvenPrice', { figures: { breakEvenPrice: null } })).toMatch(/\w/);
    expect(text('breakEvenPrice', { figures: { breakEvenPrice: null, unitProfit: null } })).toBe('–');
  });
  it('a cost that moved since the edition before says what it was', () => {
    expect(text('cost', { figures: { before: 4.2 } })).toContain('4.20');
    expect(text('cost', { figures: { before: 5.001 } })).toBe('5.00');
  });
});

describe('the verdict of a row', () => {
  it('of a near miss says what would clear it, and what it costs now', () => {
    const remedies = [
      { figure: 'roi', unitPrice: 4.129, price: null },
      { figure: 'margin', unitPrice: 4.5, price: null },
    ];
    const cell = shown('verdict', { verdict: 'near', remedies });
    // Rounded down: a cent more would not clear it; and the dearer hurdle decides.
    expect(cell.textContent).toContain('$4.12');
    expect(cell.textContent).toContain('$5.00');
  });
  it('of an unknown row names what is missing, a trouble first', () => {
    const unknown = { verdict: 'unknown' as const, blanks: BIT.fulfilment | BIT.storage };
    expect(text('verdict', unknown)).toMatch(/fulfilment.*storage/);
    expect(text('verdict', { ...unknown, trouble: 'noSizeTier' })).toContain('fits no size tier');
    expect(text('verdict', { ...unknown, figures: { price: null } })).not.toMatch(/fulfilment/);
  });
});

describe('other cells', () => {
  it('the title says what was decided, and which limit took the row', () => {
    expect(text('title', { mark: 'shortlisted' })).toBe('Nest boxshortlisted');
    expect(text('title', { removedBy: [1, -1] })).toMatch(/2.*/);
    expect(text('title', { title: '' })).toBe('9521000000018');
  });
  it('a column kept as it is opens links alone', () => {
    const linked = shown('extra:link', { more: { link: 'https://example.test/a' } }).querySelector('a');
    expect(linked?.getAttribute('rel')).toContain('noopener');
    expect(shown('extra:link', { more: { link: 'javascript:alert(1)' } }).querySelector('a')).toBeNull();
    expect(text('extra:Regal', { more: { Regal: 'B 12' } })).toBe('B 12');
    expect(text('extra:Regal')).toBe('');
  });
  it('the bar is drawn where price and profit are known', () => {
    expect(shown('bar').querySelector('.bar')).not.toBeNull();
    expect(shown('bar', { gross: null }).querySelector('.bar')).toBeNull();
    expect(shown('bar', { figures: { unitProfit: null } }).querySelector('.bar')).toBeNull();
  });
});
