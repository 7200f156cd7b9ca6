import { fireEvent, render, screen, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { listQuery } from '../../../core/lists/query.ts';
import type { ListFilter, ListQuery } from '../../../core/lists/query.ts';
import type { Answer } from '../../../between/ask.ts';
import { Limits } from './Limits.tsx';
import './words.ts';

const answer = {
  rows: 6000,
  funnel: [
    { alone: 1200, left: 4800, warning: null },
    { alone: 900, left: 4100, warning: 'cluster' },
  ],
} as unknown as Answer;
const sums = {
  stats: [],
  funnel: answer.funnel,
  facets: {
    brand: [
      ['Pentlow', 700],
      ['Larkmoor', 20],
      ['', 3],
    ],
    category: [['Garden', 5]],
  },
} as unknown as Parameters<typeof Limits>[0]['sums'];

/** The limits as they stand on the page; returns the query as it is now. */
function shown(first: Partial<ListQuery> = {}): () => ListQuery {
  let now = listQuery.parse(first);
  function Page() {
    const [query, setQuery] = useState(now);
    now = query;
    return (
      <Limits
        query={query}
        onQuery={setQuery}
        answer={answer}
        sums={sums}
        listCurrency="USD"
        salesCurrency="EUR"
        figures={['price', 'cost', 'roi']}
      />
    );
  }
  render(<Page />);
  return () => now;
}
const add = (what: string): void => {
  fireEvent.change(screen.getByLabelText('Add a limit'), { target: { value: what } });
};
const filters = (of: () => ListQuery): readonly ListFilter[] => of().filters;

describe('the limits of a list', () => {
  it('begin blank and take nothing away until something is typed or ticked', () => {
    const of = shown();
    for (const what of ['roi', 'wordsIn', 'brand']) add(what);
    expect(filters(of)).toEqual([
      { kind: 'range', figure: 'roi', min: null, max: null, keepUnknown: false },
      { kind: 'words', mode: 'in', words: [] },
      { kind: 'oneOf', of: 'brand', values: [], not: false },
    ]);
    for (const box of within(screen.getByRole('group', { name: 'Brand' })).getAllByRole('checkbox'))
      expect((box as HTMLInputElement).checked).toBe(false);
  });
  it('a figure that is limited already is not offered once more', () => {
    shown({ filters: [{ kind: 'range', figure: 'roi', min: 0.2, max: null, keepUnknown: false }] });
    const offered = within(screen.getByLabelText('Add a limit'))
      .getAllByRole('option')
      .map((o) => (o as HTMLOptionElement).value);
    expect(offered).toContain('price');
    expect(offered).not.toContain('roi');
  });
  it('words are read between commas, and a field that is emptied limits no more', () => {
    const of = shown({ filters: [{ kind: 'words', mode: 'out', words: ['set'] }] });
    const field = screen.getByLabelText('words, commas between');
    fireEvent.change(field, { target: { value: ' used, ,  broken ' } });
    expect(filters(of)).toEqual([{ kind: 'words', mode: 'out', words: ['used', 'broken'] }]);
    fireEvent.change(field, { target: { value: '' } });
    expect(filters(of)).toEqual([{ kind: 'words', mode: 'out', words: [] }]);
  });
  it('brands are ticked on and off, with how many rows each has', () => {
    const of = shown();
    add('brand');
    const group = screen.getByRole('group', { name: 'Brand' });
    expect(group.textContent).toContain('Pentlow700');
    fireEvent.click(within(group).getByLabelText(/Pentlow/));
    fireEvent.click(within(group).getByLabelText(/Larkmoor/));
    expect(filters(of)[0]).toMatchObject({ values: ['Pentlow', 'Larkmoor'] });
    fireEvent.click(within(group).getByLabelText(/Pentlow/));
    fireEvent.click(within(group).getByLabelText(/Larkmoor/));
    expect(filters(of)[0]).toMatchObject({ values: [] });
  });
  it('of verdicts one always stays', () => {
    const of = shown({ filters: [{ kind: 'verdict', only: ['pass'] }] });
    fireEvent.click(screen.getByLabelText('pays'));
    expect(filters(of)).toEqual([{ kind: 'verdict', only: ['pass'] }]);
    fireEvent.click(screen.getByLabelText('near'));
    fireEvent.click(screen.getByLabelText('pays'));
    expect(filters(of)).toEqual([{ kind: 'verdict', only: ['near'] }]);
  });
  it('each says what it takes and leaves; what is searched counts as the first', () => {
    shown({ text: 'lamp', filters: [{ kind: 'flag', flag: 'multipack', is: true }] });
    const text = screen.getByRole('region', { name: 'Limits' }).textContent ?? '';
    expect(text).toMatch(/lamp.*takes 1,200.*leaves 4,800.*takes 900.*leaves 4,100/s);
    expect(screen.getByRole('note')).not.toBeNull();
  });
  it('one is taken away by itself, or all with what is searched', () => {
    const of = shown({
      text: 'lamp',
      filters: [
        { kind: 'flag', flag: 'multipack', is: true },
        { kind: 'words', mode: 'in', words: ['oak'] },
      ],
    });
    fireEvent.click(screen.getByRole('button', { name: 'Take away the limit on pack of several' }));
    expect(filters(of)).toEqual([{ kind: 'words', mode: 'in', words: ['oak'] }]);
    fireEvent.click(screen.getByRole('button', { name: 'Clear all' }));
    expect([of().text, of().filters]).toEqual(['', []]);
    expect(screen.queryByRole('button', { name: 'Clear all' })).toBeNull();
  });
});
