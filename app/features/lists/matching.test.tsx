import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { MatchedRow } from '../../../between/matching.ts';
import { Matching } from './Matching.tsx';

const listing = (n: number) => ({
  key: `0952000001${n}010`,
  code: `LT00000${n}`,
  title: `Listing ${n}`,
  brand: 'Quoin',
  price: 20 + n,
  units: null,
});
const row = (n: number, over: Partial<MatchedRow> = {}): MatchedRow => ({
  line: n,
  said: `goods ${n}`,
  brand: 'Quoin',
  title: `Goods ${n}`,
  cost: '4.00',
  barcode: 'n/a',
  shopCode: `HA10000${n}`,
  picture: '',
  confidence: 'likely',
  reason: 'titleNear',
  alike: 0.7,
  packs: { sold: 1, bought: 1 },
  listing: listing(1),
  others: [listing(2), listing(3)],
  ...over,
});
const COUNTS = { certain: 2, likely: 1, byEye: 1, none: 0, decided: 0 };
function shown(props: object = {}, answer: object = {}) {
  const acts: Record<string, unknown>[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/lists/l/match',
      Component: () => (
        <Matching
          list={{ id: 'l', name: 'Autumn', hasReference: true, from: null }}
          work={null}
          counts={COUNTS}
          rows={[row(5), row(6)]}
          decisions={[]}
          noise={['new', 'sale']}
          shown="open"
          root="/w/shop"
          canEdit
          {...props}
        />
      ),
      action: async ({ request }) => {
        acts.push(await request.json());
        return answer;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/lists/l/match']} />);
  return acts;
}
const key = (k: string) => fireEvent.keyDown(document, { key: k, code: /\d/.test(k) ? `Digit${k}` : k });
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name }));

describe('goods beside the listings they could be', () => {
  it('say what waits, how sure it is and why', () => {
    shown();
    expect(screen.getByTestId('matching-answer').textContent).toBe(
      '2 rows wait for your eye. 2 are certain.',
    );
    expect(screen.getByTestId('match-reason').textContent).toBe('likely: brand and title are near');
    expect(screen.getByText(/in place of a barcode: "n\/a"/)).toBeTruthy();
    expect(screen.getByText(/sells for 21 · barcode/)).toBeTruthy();
  });
  it('are decided by keys, however fast: this one, none, another; and taken back', async () => {
    const acts = shown({ rows: [row(5), row(6), row(7)] });
    for (const k of ['Enter', 'n', '2', 'u']) key(k);
    await waitFor(() => expect(acts).toHaveLength(4));
    expect(acts).toEqual([
      { intent: 'decide', said: 'goods 5', key: listing(1).key, packs: null },
      { intent: 'decide', said: 'goods 6', key: null, packs: null },
      { intent: 'decide', said: 'goods 7', key: listing(3).key, packs: null },
      { intent: 'undecide', said: 'goods 7' },
    ]);
  });
  it('Enter on a button is the button’s', async () => {
    const acts = shown();
    const next = screen.getByRole('button', { name: 'Next' });
    fireEvent.keyDown(next, { key: 'Enter', code: 'Enter' });
    key('n');
    await waitFor(() => expect(acts).toHaveLength(1));
    expect(acts).toMatchObject([{ intent: 'decide', said: 'goods 5', key: null }]);
  });
  it('what could not be kept stands there again, and says why', async () => {
    const acts = shown({}, { error: 'The list is gone.' });
    key('Enter');
    expect(screen.getByRole('heading', { name: 'In the list, row 6' })).toBeTruthy();
    expect(await screen.findByText('The list is gone.')).toBeTruthy();
    expect(await screen.findByRole('heading', { name: 'In the list, row 5' })).toBeTruthy();
    expect(acts).toHaveLength(1);
  });
  it('arrows go from row to row, and stay within them', () => {
    shown();
    const at = () => screen.getByRole('heading', { level: 2, name: /In the list/ }).textContent;
    key('ArrowDown');
    expect(at()).toBe('In the list, row 6');
    key('ArrowDown');
    expect(at()).toBe('In the list, row 6');
    key('ArrowUp');
    expect(at()).toBe('In the list, row 5');
  });
  it('a pack that is typed goes with the decision', async () => {
    const acts = shown();
    fireEvent.change(screen.getByLabelText('Sold'), { target: { value: '6' } });
    press('It is this one');
    await waitFor(() => expect(acts[0]).toMatchObject({ packs: { sold: 6, bought: 1 } }));
  });
  it('all certain ones are taken by a press; rows without a listing can only be refused', async () => {
    const acts = shown({ rows: [row(5, { listing: null, others: [], confidence: 'none' })] });
    expect(screen.queryByRole('button', { name: 'It is this one' })).toBeNull();
    press('Take all 2 certain ones');
    await waitFor(() => expect(acts).toEqual([{ intent: 'takeCertain' }]));
  });
  it('what is decided says as what, and is taken back', async () => {
    const acts = shown({ decisions: [{ said: 'goods 5', key: '09520000010010', by: 'hand' }] });
    expect(screen.getByText(/Decided: 9520000010010/)).toBeTruthy();
    press('Take back');
    await waitFor(() => expect(acts).toEqual([{ intent: 'undecide', said: 'goods 5' }]));
  });
  it('words that say nothing are edited; matching shows how far it is, and why it stopped', async () => {
    const acts = shown({ work: { state: 'running', done: 400, total: 1000, error: null } });
    expect(screen.getByRole('status').textContent).toContain('400 of 1,000');
    fireEvent.change(screen.getByLabelText('Words that say nothing of goods'), {
      target: { value: 'new  top' },
    });
    fireEvent.click(screen.getByRole('button', { name: 'Save the words', hidden: true }));
    await waitFor(() => expect(acts).toEqual([{ intent: 'noise', words: ['new', 'top'] }]));
  });
  it('without market figures it says what to do; who only looks decides nothing', () => {
    const none = { certain: 0, likely: 0, byEye: 0, none: 0, decided: 0 };
    shown({ list: { id: 'l', name: 'Autumn', hasReference: false }, counts: none, rows: [], canEdit: false });
    expect(screen.getByText(/no market figures to match with/)).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});

describe('pictures', () => {
  const list = {
    id: 'l',
    name: 'Autumn',
    hasReference: true,
    from: { shop: 'haldern', market: 'Alderway/DE' },
  };
  const sources = () => screen.getAllByRole('img').map((x) => x.getAttribute('src'));
  it('of the goods and of each listing stand side by side, asked of the shop and the market', () => {
    shown({ list });
    const ofListing = (n: number) => `/w/shop/picture?market=Alderway%2FDE&code=LT00000${n}`;
    expect(sources()).toEqual([
      '/w/shop/picture?shop=haldern&code=HA100005',
      ofListing(1),
      ofListing(2),
      ofListing(3),
    ]);
    expect(screen.getByRole('img', { name: 'Picture of Goods 5' })).toBeTruthy();
  });
  it('one that does not come is said to be none', () => {
    shown({ list });
    fireEvent.error(screen.getByRole('img', { name: 'Picture of Goods 5' }));
    expect(screen.queryByRole('img', { name: 'Picture of Goods 5' })).toBeNull();
    expect(screen.getAllByText('No picture')).toHaveLength(1);
  });
  it('that a file names is a link; nothing is asked for a list of no shop, nor for another address', () => {
    shown({ rows: [row(5, { picture: 'https://shop.example/p.jpg' })] });
    expect(screen.queryAllByRole('img')).toEqual([]);
    const link = screen.getByRole('link', { name: 'Open the supplier’s picture' });
    expect(link.getAttribute('href')).toBe('https://shop.example/p.jpg');
    shown({ rows: [row(6, { picture: 'javascript:alert(1)' })] });
    expect(screen.getAllByRole('link', { name: 'Open the supplier’s picture' })).toHaveLength(1);
  });
  it('a shop whose goods no market completes has pictures of its goods alone', () => {
    shown({ list: { ...list, from: { shop: 'haldern', market: null } } });
    expect(sources()).toEqual(['/w/shop/picture?shop=haldern&code=HA100005']);
  });
});
