import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub, useLocation } from 'react-router';
import { describe, expect, it } from 'vitest';
import { feedRow } from '../../../between/feed.ts';
import type { FeedRow } from '../../../between/feed.ts';
import { PLAIN_CARDS, PLAIN_SETTINGS } from '../../../core/testing/plainParts.ts';
import { FindMarketPage } from './FindMarket.tsx';
import type { FindMarketProps } from './FindMarket.tsx';
import { ListingPage } from './ListingPage.tsx';
import type { ListingPageProps } from './ListingPage.tsx';
import type { FoundFrame, MarkOf } from './useFound.ts';

const row = (listing: string, over: Partial<FeedRow> = {}): FeedRow =>
  feedRow.parse({
    listing,
    title: `Bird bath ${listing}`,
    brand: 'Fenlow',
    seller: 'Moss & Mill',
    category: 'any',
    price: 40,
    units: 120,
    rank: 7,
    reviews: 31,
    rating: 4.5,
    daysListed: 300,
    offers: 3,
    kg: 1.5,
    gtin: null,
    paid: false,
    ...over,
  });
const FRAME: FoundFrame = {
  settings: { ...PLAIN_SETTINGS, ways: ['wholesale'] },
  today: '2026-11-28',
  market: 'Testmarket/DE',
  cards: PLAIN_CARDS,
  laneCards: { marketplace: 'm', tax: 't' },
  marks: [],
  root: '/w/shop',
  canEdit: true,
};
const FOUND = {
  asOf: '2026-11-27',
  currency: 'EUR',
  total: 81,
  next: '40',
  listings: [row('A'), row('B', { brand: '', paid: true }), row('C', { price: null })],
};
const marked = (listing: string, state: MarkOf['state'], over: Partial<MarkOf> = {}): MarkOf => ({
  listing,
  state,
  reason: '',
  candidateId: null,
  ...over,
});

/** The page at an address; what is sent to the server is noted, and answered. */
function shown(over: Partial<FindMarketProps> = {}, at = '?words=bath', answer: unknown = { ok: true }) {
  const sent: { what: string; [key: string]: unknown }[] = [];
  const settings: unknown[] = [];
  let address = '';
  const Page = () => {
    address = useLocation().search;
    return (
      <FindMarketPage
        {...FRAME}
        hasFeed
        markets={[
          { key: 'Testmarket/DE', name: 'Testmarket DE' },
          { key: 'Testmarket/FR', name: 'Testmarket FR' },
        ]}
        found={FOUND}
        wrong={null}
        {...over}
      />
    );
  };
  const Stub = createRoutesStub([
    {
      path: '/w/shop/find/market',
      Component: Page,
      action: async ({ request }) => {
        sent.push(await request.json());
        return answer;
      },
    },
    {
      path: '/w/shop/settings',
      Component: () => null,
      action: async ({ request }) => {
        settings.push(await request.json());
        return null;
      },
    },
    { path: '/w/shop/find/listing', Component: () => <p>the listing</p> },
    { path: '/w/shop/weigh/:candidate/market', Component: () => <p>its market</p> },
  ]);
  render(<Stub initialEntries={[`/w/shop/find/market${at}`]} />);
  return { sent, settings, address: () => new URLSearchParams(address) };
}
const text = (): string => document.body.textContent ?? '';
const press = (name: string | RegExp): void => void fireEvent.click(screen.getByRole('button', { name }));
const tick = (title: string): void =>
  void fireEvent.click(screen.getByRole('checkbox', { name: `Choose ${title}` }));

describe('what a search of a market found', () => {
  it('each row is weighed by the defaults, and one without a price is not weighed at all', () => {
    shown();
    expect(text()).toContain('81 listings. As of 27 Nov 2026');
    const [, first, , third] = screen.getAllByRole('row');
    // 40 less a tenth for the marketplace; sending, preparing and returns as the workspace's defaults have them.
    expect(first?.textContent).toContain('€30.70');
    expect(first?.textContent).toContain('120');
    // A row without a price is not weighed, and nothing is made up for it.
    expect(within(third as HTMLElement).getAllByRole('cell')[2]?.textContent).toBe('–');
    expect(text()).toContain('paid place');
  });
  it('ticked rows are shortlisted with what was said of them', async () => {
    const { sent } = shown();
    tick('Bird bath A');
    tick('Bird bath B');
    expect(text()).toContain('2 ticked');
    press('Shortlist');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      what: 'mark',
      marks: {
        market: 'Testmarket/DE',
        currency: 'EUR',
        asOf: '2026-11-27',
        state: 'shortlisted',
        reason: '',
      },
    });
    const { rows } = (sent[0] as unknown as { marks: { rows: FeedRow[] } }).marks;
    expect(rows.map((r) => r.listing)).toEqual(['A', 'B']);
    expect(text()).not.toContain('2 ticked');
  });
  it('one is dropped for a reason; a tick that is taken back drops nothing', async () => {
    const { sent } = shown();
    tick('Bird bath A');
    tick('Bird bath B');
    tick('Bird bath B');
    press('Drop');
    fireEvent.change(screen.getByLabelText(/Reason|Why/), { target: { value: 'too heavy' } });
    fireEvent.submit(screen.getByLabelText(/Reason|Why/).closest('form') as HTMLElement);
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      marks: { state: 'dropped', reason: 'too heavy', rows: [{ listing: 'A' }] },
    });
  });
  it('what was dropped is out of the way, and said; it comes back by a press, and can be taken back', async () => {
    const { sent, address } = shown({
      marks: [marked('A', 'dropped', { reason: 'brand' }), marked('B', 'shortlisted')],
    });
    expect(screen.queryByRole('link', { name: 'Bird bath A' })).toBeNull();
    expect(screen.getByRole('link', { name: 'Bird bath B' })).toBeTruthy();
    press(/One that was dropped is not shown/);
    await waitFor(() => expect(address().get('dropped')).toBe('1'));
    expect(text()).toContain('Dropped: brand');
    press('Take back what was decided about Bird bath A');
    await waitFor(() => expect(sent[0]).toMatchObject({ marks: { state: null, rows: [{ listing: 'A' }] } }));
    expect(screen.getByRole('button', { name: 'Shortlisted (1)' })).toBeTruthy();
    press('Dropped (1)');
    await waitFor(() => expect(address().get('list')).toBe('dropped'));
  });
  it('one is weighed: the candidate has its price, weight and category, and follows the listing', async () => {
    const { sent } = shown();
    press('Weigh Bird bath A');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      what: 'keep',
      kept: {
        search: 'bath',
        market: 'Testmarket/DE',
        row: { listing: 'A' },
        candidate: { name: 'Bird bath A', price: 40, kg: 1.5, category: 'any', cost: null, country: 'DE' },
      },
    });
  });
  it('one that is weighed already leads to its market; a fault is said', async () => {
    shown({ marks: [marked('A', 'kept', { candidateId: 'c1' })] }, '', { error: 'It cannot be kept.' });
    expect(screen.getByRole('link', { name: 'Its market' }).getAttribute('href')).toBe(
      '/w/shop/weigh/c1/market',
    );
    press('Weigh Bird bath B');
    expect(await screen.findByText('It cannot be kept.')).toBeTruthy();
  });
  it('brand and seller lead on, the title leads to the listing', async () => {
    shown();
    const brand = screen.getAllByRole('link', { name: 'Fenlow' })[0];
    expect(brand?.getAttribute('href')).toContain('brand=Fenlow');
    expect(screen.getAllByRole('link', { name: 'Moss & Mill' })[0]?.getAttribute('href')).toContain(
      'seller=Moss+%26+Mill',
    );
    fireEvent.click(screen.getByRole('link', { name: 'Bird bath A' }));
    expect(await screen.findByText('the listing')).toBeTruthy();
  });
  it('pages go on and back to the first', async () => {
    const { address } = shown({}, '?words=bath&cursor=40');
    press('First page');
    await waitFor(() => expect(address().has('cursor')).toBe(false));
    press('Next page');
    await waitFor(() => expect(address().get('cursor')).toBe('40'));
  });
  it('whoever only looks decides nothing', () => {
    shown({ canEdit: false, marks: [marked('A', 'shortlisted')] });
    expect(screen.queryAllByRole('checkbox')).toEqual([]);
    expect(screen.queryByRole('button', { name: /Weigh|Take back/ })).toBeNull();
    expect(text()).toContain('Shortlisted');
  });
});

describe('the limits of a search', () => {
  it('are folded away until one of them is set, and stand in the address', () => {
    shown({}, '?words=bath&priceTo=30');
    expect(screen.getByRole('button', { name: 'Limits' }).getAttribute('aria-expanded')).toBe('true');
    expect((screen.getAllByLabelText('to')[0] as HTMLInputElement).value).toBe('30');
    press('Limits');
    expect(screen.getByRole('button', { name: 'Limits' }).getAttribute('aria-expanded')).toBe('false');
    expect(screen.getByRole('link', { name: 'Clear all' }).getAttribute('href')).toBe('/w/shop/find/market');
  });
  it('a search is kept under a name, replaces one of that name, and is forgotten', async () => {
    const before = [{ name: 'Baths', query: 'words=old' }];
    const { settings } = shown({ settings: { ...FRAME.settings, savedSearches: before } });
    expect(screen.getByRole('link', { name: 'Baths' }).getAttribute('href')).toBe(
      '/w/shop/find/market?words=old',
    );
    fireEvent.change(screen.getByLabelText('Keep this search as'), { target: { value: ' Baths ' } });
    press('Keep it');
    await waitFor(() => expect(settings).toHaveLength(1));
    expect(settings[0]).toEqual({ path: ['savedSearches'], to: [{ name: 'Baths', query: 'words=bath' }] });
    press('Forget the search Baths');
    await waitFor(() => expect(settings[1]).toEqual({ path: ['savedSearches'], to: [] }));
  });
  it('a list of the feed takes the place of the words', async () => {
    const { address } = shown({ found: { ...FOUND, total: null, next: null } });
    expect(text()).toContain('3 listings.');
    press('Rising');
    await waitFor(() => expect(address().get('list')).toBe('rising'));
    expect(address().has('words')).toBe(false);
  });
  it('without a feed it says what is needed; what the feed does wrong is said', () => {
    shown({ hasFeed: false, found: null, wrong: 'The feed does not answer.' });
    expect(screen.getByRole('link', { name: 'Set one' }).getAttribute('href')).toBe('/w/shop/settings#feed');
    expect(text()).toContain('The feed does not answer.');
    expect(screen.queryByRole('button', { name: 'Search' })).toBeNull();
  });
});

const LISTING: NonNullable<ListingPageProps['said']> = {
  row: row('A', { gtin: '9520000000019' }),
  listing: {
    ...row('A', { gtin: '9520000000019' }),
    asOf: '2026-11-27',
    coverage: 1,
    currency: 'EUR',
    sides: [30, 20, 10],
    units: { units: 120, stated: false, low: 70, high: 190 },
    unitsByMonth: [],
    curve: [],
    returnRate: 0.04,
    variations: [
      { code: 'S', name: 'Small', price: 30, ratings: 30 },
      { code: 'L', name: '', price: null, ratings: 90 },
    ],
  },
  offers: {
    asOf: '2026-11-27',
    coverage: 1,
    listing: 'A',
    currency: 'EUR',
    offers: [
      { seller: 'Reed', price: 38, delivery: null, warehouse: false, ownShop: false, isDefault: true },
      { seller: 'Market', price: 41, delivery: 0, warehouse: null, ownShop: true, isDefault: false },
    ],
  },
  permission: {
    asOf: '2026-11-27',
    coverage: 1,
    listing: 'A',
    state: 'approval',
    by: 'documents',
    units: null,
    price: null,
  },
  siblings: [
    { ...row('A'), pack: 1 },
    { ...row('A2'), pack: 3 },
  ],
  neighbours: [row('N')],
  terms: [{ term: 'bird bath', language: 'en', sales: 4, freePlace: 3, paidPlace: null, volume: 900 }],
};
function listing(over: Partial<ListingPageProps> = {}) {
  const Stub = createRoutesStub([
    {
      path: '/w/shop/find/listing',
      Component: () => <ListingPage {...FRAME} said={LISTING} wrong={[]} {...over} />,
    },
  ]);
  render(<Stub initialEntries={['/w/shop/find/listing?code=A']} />);
}
const fact = (name: string): string =>
  screen.getByText(name, { selector: 'dt' }).nextElementSibling?.textContent ?? '';

describe('a listing of a market', () => {
  it('says what is known of it, stated or estimated, with its day', () => {
    listing();
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Bird bath A');
    expect(text()).toContain('As of 27 Nov 2026');
    expect(fact('Units a month')).toBe('120 (70 to 190, estimated)');
    expect([fact('Weight'), fact('Size'), fact('Return rate of the category')]).toEqual([
      '1.5 kg',
      '30 × 20 × 10 cm',
      '4.0%',
    ]);
    expect(fact('Permission')).toContain('pproval');
  });
  it('leads to the others of its barcode with their packs, to neighbours, and to what it is found by', () => {
    listing();
    const lists = screen.getAllByRole('region', { name: 'What was found' });
    expect(lists.map((l) => within(l).getAllByRole('row').length - 1)).toEqual([1, 1, 1]);
    expect(lists[1]?.textContent).toContain('Bird bath A2 (pack of 3)');
    expect(lists[2]?.textContent).toContain('Bird bath N');
    const terms = screen.getByRole('region', { name: 'What it is found by' });
    expect(
      within(terms)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    ).toEqual(['900', '3', '–']);
  });
  it('its variations have their share of the ratings where all are known, its offers what is not known', () => {
    listing();
    const variations = screen.getByRole('region', { name: 'Variations' });
    expect(
      within(variations)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    ).toEqual(['30.00', '30', '25%', '–', '90', '75%']);
    const offers = screen.getByRole('region', { name: 'Offers' });
    expect(offers.textContent).toContain('Reed, offered first');
    expect(within(offers).getAllByRole('cell')[1]?.textContent).toBe('–');
    expect(offers.textContent).toContain("Market (the marketplace's own shop)");
  });
  it('a barcode with thirty listings shows them all, itself left out', () => {
    const siblings = Array.from({ length: 30 }, (_, i) => ({ ...row(i === 7 ? 'A' : `S${i}`), pack: 1 }));
    listing({ said: { ...LISTING, siblings } });
    const [, others] = screen.getAllByRole('region', { name: 'What was found' });
    expect(within(others as HTMLElement).getAllByRole('row')).toHaveLength(1 + 29);
  });
  it('says what is not known: no barcode, no offers, no neighbours, no share', () => {
    const bare = { ...LISTING.listing, gtin: null, rank: null, kg: null, sides: null, units: null };
    const variations = [{ code: 'S', name: 'Small', price: null, ratings: null }];
    listing({
      said: {
        ...LISTING,
        listing: { ...bare, variations },
        offers: null,
        permission: null,
        siblings: null,
        neighbours: [],
        terms: [],
      },
    });
    expect(text()).toContain('No barcode is known of it.');
    expect(text()).toContain('Nobody offers it now.');
    expect(text()).toContain('within a fifth of its price');
    expect(text()).toContain('None are known.');
    expect([fact('Units a month'), fact('Weight'), fact('Size')]).toEqual(['–', '–', '–']);
    expect(screen.queryByRole('region', { name: 'What it is found by' })).toBeNull();
  });
  it('one the feed does not know says so, and what went wrong', () => {
    listing({ said: null, wrong: ['The feed took too long.'] });
    expect(text()).toContain('The feed does not know this listing.');
    expect(text()).toContain('The feed took too long.');
  });
});
