import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { CloserLook } from '../../../core/evidence/closer.ts';
import type { ListRow } from '../../../between/ask.ts';
import { CloserPage } from './Closer.tsx';
import type { LookedShown } from './Closer.tsx';

const look = (over: Partial<CloserLook> = {}): CloserLook => ({
  lacks: [],
  bound: null,
  currency: 'EUR',
  price: 30,
  means: { '30': 29, '90': 28, '180': null },
  days: 400,
  standing: 'usual',
  keeps: 6,
  keepsAtMean: 4.5,
  lossShare: 0.4,
  ownShop: { days: 12, known: 90, share: 12 / 90 },
  offers: 3,
  lowest: 29.5,
  permission: 'open',
  warnings: [],
  ...over,
});
const listRow = (title: string): ListRow => ({
  figures: { unitProfit: 6.25, profitPerMonth: 60 },
  gross: 30,
  families: [],
  verdict: 'pass',
  trouble: '',
  blanks: 0,
  line: 2,
  key: 9520000010010,
  code: '9520000010010',
  title,
  brand: '',
  category: '',
  mark: '',
  notes: 0,
  listings: 1,
  listingPack: 1,
  removedBy: [],
  remedies: [],
});
const looked = (n: number, over: Partial<LookedShown> = {}): LookedShown => ({
  key: 9520000010000 + n,
  line: n,
  code: '9520000010010',
  title: `Goods ${n}`,
  listing: `LT${n}`,
  listingTitle: `Listing ${n}`,
  state: 'looked',
  fault: null,
  row: listRow(`Goods ${n}`),
  look: look(),
  ...over,
});
function shown(rows: LookedShown[], props: object = {}) {
  const acts: unknown[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/lists/l/closer',
      Component: () => (
        <CloserPage
          list={{ id: 'l', name: 'Autumn' }}
          home="EUR"
          work={null}
          rows={rows}
          root="/w/shop"
          canEdit
          {...props}
        />
      ),
      action: async ({ request }) => {
        acts.push(await request.json());
        return null;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/lists/l/closer']} />);
  return acts;
}
const rowOf = (name: string) => screen.getByRole('row', { name: new RegExp(name) });
afterEach(() => void vi.unstubAllGlobals());

describe('the second look', () => {
  it('shows the market’s history beside the fast figures, and how many nothing speaks against', async () => {
    shown([looked(1), looked(2, { look: look({ warnings: ['lossAtMean', 'lossOften'], keepsAtMean: -1 }) })]);
    expect((await screen.findByText(/of 2 has nothing that speaks against it/)).textContent).toMatch(
      /^1 of 2/,
    );
    const first = rowOf('Goods 1');
    for (const text of [
      '€6.25',
      '€30.00',
      '€29.00',
      '€28.00',
      'not known',
      '€4.50',
      '12 of 90 days',
      '3, from €29.50',
      'yes',
      'nothing',
    ])
      expect(within(first).getByText(text)).toBeDefined();
    const second = rowOf('Goods 2');
    expect(within(second).getByText('at the mean of 90 days it loses')).toBeDefined();
    expect(within(second).getByText('it lost on 40% of the days')).toBeDefined();
  });

  it('a lane that lacks costs keeps under so much', async () => {
    shown([looked(1, { look: look({ lacks: ['prep'], bound: 'atMost' }) })]);
    expect(await screen.findByText('under €4.50')).toBeDefined();
  });

  it('says why there is nothing to see: waiting, no listing, a feed that is away, a row that is gone', async () => {
    const none = { look: null };
    shown([
      looked(1, { ...none, state: 'waiting' }),
      looked(2, { ...none, state: 'noListing', listing: '' }),
      looked(3, { ...none, state: 'failed', fault: 'The market feed does not answer.' }),
      looked(4, { ...none, row: null }),
    ]);
    for (const text of [
      'waits for the feed',
      'no listing has this barcode',
      'not looked at: The market feed does not answer.',
      'no longer a row of the list',
    ])
      expect(await screen.findByText(text)).toBeDefined();
    expect(screen.getByRole('checkbox', { name: 'Tick Goods 4' })).toHaveProperty('disabled', true);
  });

  it('ticked goods are decided about as on the list', async () => {
    const sent: unknown[] = [];
    vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
      sent.push(JSON.parse(String(init.body)));
      return new Response(JSON.stringify({ ok: true }), { headers: { 'content-type': 'application/json' } });
    });
    shown([looked(1), looked(2)]);
    fireEvent.click(await screen.findByRole('checkbox', { name: 'Tick Goods 2' }));
    fireEvent.click(screen.getByRole('button', { name: 'Shortlist' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      what: 'mark',
      change: { state: 'shortlisted', rows: [{ key: 9520000010002, name: 'Goods 2', profitPerMonth: 60 }] },
    });
  });

  it('asks for all anew, takes all off, and says how far it is', async () => {
    const acts = shown([looked(1)]);
    fireEvent.click(await screen.findByRole('button', { name: 'Look at all again' }));
    await waitFor(() => expect(acts).toHaveLength(1));
    expect(acts[0]).toEqual({
      what: 'look',
      rows: [{ key: 9520000010001, line: 1, code: '9520000010010', title: 'Goods 1' }],
    });
    fireEvent.click(screen.getByRole('button', { name: 'Take all off' }));
    await waitFor(() => expect(acts[1]).toEqual({ what: 'clear' }));
  });

  it('of nothing yet, and while the feed is asked', async () => {
    shown([], { work: { done: 2, total: 5 } });
    expect(await screen.findByText('Asking the market feed: 2 of 5')).toBeDefined();
    shown([]);
    expect(await screen.findByText(/Nothing has been looked at closer yet/)).toBeDefined();
  });
});
