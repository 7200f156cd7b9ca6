import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import { feedRow } from '../../../between/feed.ts';
import { sellerSaid } from '../../../core/evidence/seller.ts';
import { PLAIN_CARDS, PLAIN_SETTINGS } from '../../../core/testing/plainParts.ts';
import { SellerPage } from './SellerPage.tsx';
import type { SellerPageProps, ShopShown } from './SellerPage.tsx';

const goods = Array.from({ length: 45 }, (_, i) =>
  feedRow.parse({
    listing: `L${i}`,
    title: `Bird bath ${i}`,
    brand: i % 2 === 0 ? 'Fenlow' : '',
    seller: 'Moss & Mill',
    category: 'any',
    price: 20 + i,
    units: 45 - i,
    rank: i + 1,
    reviews: 3,
    rating: 4,
    daysListed: i < 2 ? 10 : 400,
    offers: 2,
    kg: 1,
    gtin: null,
    paid: false,
  }),
);
const SHOP: ShopShown = {
  seen: { asOf: '2026-11-27', currency: 'EUR', goods, whole: true },
  said: sellerSaid(goods, 180),
  others: [{ seller: 'Reed Depot', shared: 2 }],
  ours: [],
  watch: null,
  fault: null,
};
function shown(over: Partial<SellerPageProps> = {}) {
  const sent: unknown[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/find/seller',
      Component: () => (
        <SellerPage
          settings={{ ...PLAIN_SETTINGS, ways: ['wholesale'] }}
          today="2026-11-28"
          market="Testmarket/DE"
          cards={PLAIN_CARDS}
          laneCards={{ marketplace: 'm', tax: 't' }}
          marks={[]}
          root="/w/shop"
          canEdit
          seller="Moss & Mill"
          shop={SHOP}
          watched={[]}
          {...over}
        />
      ),
      action: async ({ request }) => {
        sent.push(await request.json());
        return { ok: true };
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/find/seller']} />);
  return sent;
}

describe('another seller’s shop', () => {
  it('says how much it sells at which prices, of which brands, and who else does', async () => {
    shown();
    const sentence = await screen.findByText(/listings sell about/);
    expect(sentence.textContent).toContain('45 listings sell about 1,035 a month');
    expect(sentence.textContent).toContain('half of them between €31.00 and €53.00');
    expect(screen.getByText(/Its best fifth sells/).textContent).toContain('2 listings are new');
    expect(screen.getByText(/^Fenlow: 23/)).toBeDefined();
    const other = screen.getByRole('link', { name: 'Reed Depot' });
    expect(other.getAttribute('href')).toBe('/w/shop/find/seller?market=Testmarket%2FDE&seller=Reed+Depot');
    expect(screen.getByText('None of its goods stands in your lists.')).toBeDefined();
  });

  it('shows forty goods, and the others on a press', async () => {
    shown();
    expect(await screen.findByText('Bird bath 39')).toBeDefined();
    expect(screen.queryByText('Bird bath 40')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Show 5 more' }));
    expect(await screen.findByText('Bird bath 44')).toBeDefined();
  });

  it('goods of one’s own lists stand as those weigh them; of another market only what they cost', async () => {
    const of = { cost: 7.5, currency: 'EUR', list: 'Autumn', listId: 'l1' };
    const row = { figures: { unitProfit: -1.25, mostToPay: 6.4 }, blanks: 0, verdict: 'fail' } as never;
    const [a, b] = goods as [(typeof goods)[number], (typeof goods)[number]];
    shown({
      shop: {
        ...SHOP,
        ours: [
          { ...of, goods: a, row },
          { ...of, goods: b, row: null },
        ],
      },
    });
    expect(await screen.findByText(/2 of its goods stand in your lists/)).toBeDefined();
    expect(screen.getByText('€6.40')).toBeDefined();
    expect(screen.getByText('−€1.25').className).toContain('loss');
    expect(screen.getByText('does not')).toBeDefined();
    expect(screen.getByText('weighed for another market')).toBeDefined();
  });

  it('is followed, says what changed, and stops being followed', async () => {
    const sent = shown();
    fireEvent.click(await screen.findByRole('button', { name: 'Follow' }));
    await waitFor(() =>
      expect(sent).toEqual([{ what: 'watch', market: 'Testmarket/DE', seller: 'Moss & Mill' }]),
    );
  });
  it('what changed since somebody looked', async () => {
    const changes = { fresh: ['a', 'b'], gone: [], cheaper: ['c'], dearer: [] };
    const watch = { since: '2026-11-01', seenAsOf: '2026-11-20', changes };
    const sent = shown({ shop: { ...SHOP, watch } });
    expect((await screen.findByText(/Followed since/)).textContent).toContain('2 new listings, 1 cheaper.');
    fireEvent.click(screen.getByRole('button', { name: 'Seen: hold it against today' }));
    fireEvent.click(screen.getByRole('button', { name: 'No longer follow' }));
    await waitFor(() => expect(sent.length).toBeGreaterThan(0));
  });

  it('a feed that does not answer, a shop of nothing, those that are followed', async () => {
    const nothing = { seen: null, said: null, others: [], ours: [], watch: null };
    shown({ shop: { ...nothing, fault: 'The market feed does not answer.' } });
    expect((await screen.findByRole('alert')).textContent).toContain('does not answer');
    shown({ shop: { ...nothing, fault: null } });
    expect(await screen.findByText('Nothing is known of this shop.')).toBeDefined();
    shown({
      shop: null,
      seller: '',
      watched: [{ market: 'Testmarket/DE', seller: 'Reed Depot', asOf: '2026-11-20', goods: 31 }],
    });
    expect(await screen.findByText(/31 goods as of/)).toBeDefined();
    shown({ shop: null, seller: '' });
    expect(await screen.findByText(/You follow no seller yet/)).toBeDefined();
  });
});
