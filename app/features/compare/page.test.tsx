import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub, useLocation } from 'react-router';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import { pack } from '../../../core/compare/pack.ts';
import {
  PLAIN_CARDS,
  PLAIN_PRODUCT,
  PLAIN_SETTINGS,
  plainQuote,
  plainStored,
} from '../../../core/testing/plainParts.ts';
import { freightCard } from '../../../core/cards/schema.ts';
import type { Proposal } from '../../../core/workspace/proposals.ts';
import { AddLanesPage } from './AddLanes.tsx';
import type { Props as AddProps } from './AddLanes.tsx';
import { ComparePage } from './Compare.tsx';
import type { Payload } from './Compare.tsx';

/** Germany keeps 16 at 40; France 25 at 50; Italy loses at 20. */
const LANES: Record<string, object> = {
  de: {},
  fr: { country: 'FR', price: 50 },
  it: { country: 'IT', price: 20, method: 'supplierShips', supplierDelivery: 'none' },
};
const TAX = Object.fromEntries(['FR', 'IT'].map((c) => [c, { kind: 'registered' }]));
type Over = { lanes?: Record<string, object>; canEdit?: boolean; at?: string; payload?: Partial<Payload> };
type Posted = Record<string, string>;

/** The page of a comparison; what is posted is noted, and answered. */
function comparison({ lanes = LANES, canEdit = true, at = '', payload: over = {} }: Over = {}) {
  const posted: Posted[] = [];
  const payload: Payload = {
    candidate: PLAIN_PRODUCT,
    candidateId: 'c',
    quotes: [
      { id: 'q', data: plainQuote(20, 'Holzbau Nord') },
      { id: 'p', data: plainQuote(18, 'Pentlow') },
    ],
    cards: PLAIN_CARDS,
    settings: { ...PLAIN_SETTINGS, standings: { ...PLAIN_SETTINGS.standings, ...TAX } as never },
    today: '2026-11-28',
    cardHeads: [
      { id: 'm', kind: 'marketplace', key: 'T/DE', name: 'Testmarket DE', inForceFrom: '2026-01-01' },
    ],
    newest: {},
    freight: [],
    markets: {},
    ids: Object.keys(lanes),
    lanes: pack(Object.values(lanes).map((l) => plainStored(l))),
    ...over,
  };
  let address = '';
  const Page = () => {
    address = useLocation().search;
    return (
      <ComparePage
        payload={JSON.stringify(payload)}
        root="/w/shop"
        canEdit={canEdit}
        print={address.includes('print=1')}
      />
    );
  };
  const action = async ({ request }: { request: Request }) => {
    const body = Object.fromEntries(await request.formData()) as Posted;
    posted.push(body);
    return body.intent === 'drop' ? { dropped: body.ids?.split(',').length, undo: '["rows"]' } : {};
  };
  const Stub = createRoutesStub([{ path: '/w/:workspace/compare', Component: Page, action }]);
  render(<Stub initialEntries={[`/w/shop/compare${at}`]} />);
  return { posted, address: () => new URLSearchParams(address) };
}
const answer = (): string => screen.getByTestId('compare-answer').textContent ?? '';
const table = (): HTMLElement => screen.getByRole('table', { name: 'Lanes side by side' });
const places = (): string[] =>
  within(table())
    .getAllByRole('link')
    .map((x) => x.textContent ?? '');
const row = (country: string): HTMLElement => {
  const found = within(table())
    .getAllByRole('row')
    .find((x) => x.textContent?.includes(country));
  if (found === undefined) throw new Error(`No lane of ${country}`);
  return found;
};
const choose = (label: string, value: string): void =>
  void fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string | RegExp): void => void fireEvent.click(screen.getByRole('button', { name }));

describe('lanes side by side', () => {
  it('are told apart by what they keep, the best first, and the best is said', () => {
    comparison();
    expect(answer()).toBe(
      'France · Testmarket, own dispatch is best by unit profit: €25.00. 2 of 3 lanes keep something.',
    );
    expect(places()).toEqual(['France', 'Germany', 'Italy']);
    expect(row('Italy').textContent).toContain('−2.00loses');
    expect(row('France').textContent).toContain('50.0%');
  });
  it('that lack a cost keep under what stands, and the answer says so', () => {
    comparison({ lanes: { de: { prep: null }, fr: LANES.fr as object } });
    expect(row('Germany').textContent).toContain('under16.00');
    expect(row('Germany').textContent).toContain('not known: prep');
    expect(answer()).toContain('before costs that are not known');
  });
  it('of which none keeps anything, or none is known, are not praised', () => {
    comparison({ lanes: { it: LANES.it as object } });
    expect(answer()).toBe('None of the 1 lanes keeps anything.');
  });
  it('without a price say that nothing is known', () => {
    comparison({ lanes: { de: { price: null } } });
    expect(answer()).toBe('What these lanes keep is not known yet.');
  });
  it('of which there are none lead to adding some', () => {
    comparison({ lanes: {} });
    expect(document.body.textContent).toContain('There is no lane to compare yet');
    expect(screen.getByRole('link', { name: 'Add lanes' }).getAttribute('href')).toBe(
      '/w/shop/weigh/c/add-lanes',
    );
  });
  it('are sorted by another figure, which gets a column, and turned about', () => {
    const { address } = comparison();
    choose('Sorted by', 'gross');
    expect(address().get('sort')).toBe('gross');
    expect(within(table()).getByRole('columnheader', { name: 'price' })).toBeTruthy();
    press('Turn the order');
    expect(places()).toEqual(['Italy', 'Germany', 'France']);
  });
  it.each([
    ['country', 'Germany 1'],
    ['marketplace', 'Testmarket 3'],
    ['method', 'Own dispatch 2'],
    ['supplier', 'Holzbau Nord 3'],
    ['route', 'does not apply 3'],
  ])('are grouped by %s under a heading with how many', (group, heading) => {
    comparison({ at: `?group=${group}` });
    const heads = [...document.querySelectorAll('.compared-group')].map((x) => x.textContent ?? '');
    expect(heads).toContain(heading);
  });
  it('have bars of money, or of each hundred', () => {
    const { address } = comparison();
    choose('Bars', 'hundred');
    expect(address().get('per')).toBe('hundred');
    expect(within(table()).getByRole('columnheader', { name: 'Keeps, /100' })).toBeTruthy();
    expect(row('Germany').textContent).toContain('40.00');
  });
  it('in the money of the country, or at home', () => {
    const { address } = comparison();
    choose('Figures in', 'local');
    expect(address().get('currency')).toBe('local');
    expect(row('Germany').textContent).toContain('€16.00');
  });
});

describe('a pinned lane', () => {
  it('has the others compared with it, line by line, to the last cent', () => {
    const { address } = comparison();
    press('Compare the others with Germany · Testmarket');
    expect(address().get('pin')).toBe('de');
    expect(row('France').textContent).toContain('+9.00');
    expect(screen.getByTestId('differences').textContent).toContain('choose another');
    press('Why France · Testmarket differs');
    const why = screen.getByTestId('differences').textContent ?? '';
    expect(why).toContain('€9.00 more');
    expect(why).toContain('Price40.00 → 50.00+10.00');
    expect(why).toContain('4.00 → 5.00');
    expect(screen.getByTestId('difference-total').textContent).toBe('+9.00');
    press('Compare with none');
    expect(screen.queryByTestId('differences')).toBeNull();
  });
  it('beside one that keeps as much, and one that is not known', () => {
    comparison({
      lanes: { de: {}, fr: { country: 'FR' }, it: { country: 'IT', price: null } },
      at: '?pin=de&lane=fr',
    });
    expect(screen.getByTestId('differences').textContent).toContain('keeps as much as');
    press('Why Italy · Testmarket differs');
    expect(screen.getByTestId('differences').textContent).toBe('What one of the two keeps is not known.');
  });
});

describe('what if', () => {
  it('asks all lanes at once, says that it is not saved, and goes back', async () => {
    const { address } = comparison();
    const price = screen.getByLabelText(/^Prices/);
    fireEvent.focus(price);
    fireEvent.change(price, { target: { value: '10' } });
    fireEvent.blur(price);
    await waitFor(() => expect(row('Germany').textContent).toContain('19.60'));
    expect(document.body.textContent).toContain('Tried, not saved.');
    await waitFor(() => expect(address().get('price')).toBe('1.1'));
    press('As it is');
    await waitFor(() => expect(row('Germany').textContent).toContain('16.00'));
  });
  it('an order quantity can be set on every lane', async () => {
    const { posted } = comparison({ at: '?quantity=250' });
    press('Order 250 on every lane');
    await waitFor(() => expect(posted).toEqual([{ intent: 'quantity', quantity: '250' }]));
  });
  it('whoever only looks may ask, not save', () => {
    comparison({ at: '?quantity=250', canEdit: false });
    expect(screen.queryByRole('button', { name: /on every lane/ })).toBeNull();
    expect(screen.queryByRole('button', { name: /^Drop/ })).toBeNull();
    expect(screen.queryByRole('link', { name: 'Add lanes' })).toBeNull();
  });
});

describe('lanes that are dropped', () => {
  it('one by its mark, and back again', async () => {
    const { posted } = comparison();
    press('Drop Italy · Testmarket');
    await screen.findByText('1 lane dropped.');
    press('Undo');
    await waitFor(() => expect(posted).toHaveLength(2));
    expect(posted).toEqual([
      { intent: 'drop', ids: 'it' },
      { intent: 'putLanes', rows: '["rows"]' },
    ]);
  });
  it('several that are ticked, or looked at alone', async () => {
    const { posted } = comparison();
    fireEvent.click(screen.getByLabelText('Tick Italy · Testmarket'));
    fireEvent.click(screen.getByLabelText('Tick Germany · Testmarket'));
    press('Show only these');
    expect(places()).toEqual(['Germany', 'Italy']);
    expect(document.body.textContent).toContain('2 of 3 lanes shown.');
    press('Show all');
    fireEvent.click(screen.getByLabelText('Tick all lanes shown'));
    expect(screen.getByRole('toolbar', { name: '3 lanes ticked' })).toBeTruthy();
    press('Drop these lanes');
    await waitFor(() => expect(posted).toEqual([{ intent: 'drop', ids: 'fr,de,it' }]));
  });
});

describe('other looks', () => {
  it('what is best by is remembered for the workspace', async () => {
    const { posted, address } = comparison();
    choose('Best is', 'roi');
    await waitFor(() => expect(posted).toEqual([{ intent: 'measure', measure: 'roi' }]));
    expect(address().get('measure')).toBe('roi');
    expect(answer()).toContain('is best by ROI');
  });
  it('a cell of the grid leads to its lane', () => {
    const { address } = comparison({ at: '?view=grid' });
    fireEvent.click(screen.getByRole('button', { name: /25\.00/ }));
    expect([address().get('view'), address().get('lane')]).toEqual([null, 'fr']);
  });
  it('a route is taken for the lane that leads', async () => {
    const card = freightCard.parse({
      name: 'By rail',
      inForceFrom: '2026-01-01',
      from: null,
      to: 'DE',
      mode: 'rail',
      route: { legs: [{ stage: 'main', basis: 'perUnit', rate: 2, currency: 'EUR' }], transitDays: 12 },
    });
    const { posted } = comparison({ at: '?view=routes&lane=de', payload: { freight: [{ id: 'f', card }] } });
    press('Use it');
    await waitFor(() => expect(posted).toEqual([{ intent: 'route', lane: 'de', card: 'f' }]));
  });
  it('a quote is taken for it, or another asked for', async () => {
    const { posted } = comparison({ at: '?view=suppliers&lane=de' });
    expect(screen.getByRole('row', { name: /Pentlow/ }).textContent).toContain('€18.00');
    press('Use it on this lane');
    await waitFor(() => expect(posted).toEqual([{ intent: 'quote', lane: 'de', quote: 'p' }]));
  });
  it('newer rates lead to what they would touch', () => {
    comparison({ payload: { newest: { m: 'm2' } } });
    expect(screen.getByRole('link', { name: 'Testmarket DE' }).getAttribute('href')).toBe(
      '/w/shop/rates/touch?card=m2',
    );
  });
  it('on paper all lanes stand under each other, without what can be pressed', () => {
    const print = vi.spyOn(window, 'print').mockReturnValue();
    comparison({ at: '?print=1' });
    expect(document.body.textContent).toContain('Bird bath, 3 lanes, 28 Nov 2026');
    expect(screen.queryByLabelText('Best is')).toBeNull();
    expect(places()).toHaveLength(3);
    press('Print');
    expect(print).toHaveBeenCalledOnce();
  });
  it('is taken along as it is asked', () => {
    comparison({ at: '?sort=roi' });
    press('Export');
    expect(screen.getByRole('menuitem', { name: 'Table as CSV' }).getAttribute('href')).toBe(
      '/w/shop/weigh/c/compare/file?as=csv&sort=roi',
    );
  });
});

describe('lanes to add', () => {
  const proposal = (country: string, over: Partial<Proposal> = {}): Proposal => ({
    marketplaceCardId: `m${country}`,
    country,
    marketplace: 'Testmarket',
    method: 'warehouse',
    quoteId: 'q',
    freightCardId: null,
    postageCardId: null,
    exists: false,
    possible: true,
    missing: [],
    ...over,
  });
  const add = (over: Partial<AddProps> = {}, answered: object = {}) => {
    const posted: (Posted & { at: string })[] = [];
    let address = '';
    const Page = () => {
      address = useLocation().search;
      return (
        <AddLanesPage
          name="Bird bath"
          way="wholesale"
          candidateId="c"
          proposals={[
            proposal('DE'),
            proposal('FR', { missing: ['size', 'standing'] }),
            proposal('IT', { possible: false, missing: ['warehouse'] }),
            proposal('ES', { exists: true }),
          ]}
          quotes={[
            { id: 'q', supplier: 'Holzbau Nord' },
            { id: 'p', supplier: '' },
          ]}
          lanes={[{ id: 'l', country: 'DE', marketplace: 'Testmarket', method: 'ownDispatch' }]}
          markets={['DE', 'FR'].map((c) => ({ id: c, key: `T/${c}`, marketplace: 'Testmarket', country: c }))}
          routes={[{ id: 'r', key: 'rail', name: 'By rail' }]}
          root="/w/shop"
          canEdit
          {...over}
        />
      );
    };
    const action = async ({ request }: { request: Request }) => {
      const form = Object.fromEntries(await request.formData()) as Posted;
      posted.push({ ...form, at: new URL(request.url).search });
      return answered;
    };
    const Stub = createRoutesStub([{ path: '/add', Component: Page, action }]);
    render(<Stub initialEntries={['/add']} />);
    return { posted, address: () => new URLSearchParams(address) };
  };
  const ticks = (name: string | RegExp): HTMLInputElement => screen.getByRole('checkbox', { name });

  it('say what each would lack, which cannot be, and which there is', () => {
    add();
    const text = screen.getByRole('region', { name: 'Proposed lanes' }).textContent ?? '';
    expect(text).toContain('nothing missing');
    expect(text).toContain('lacks size or weight of the product, your VAT standing');
    expect(text).toContain('cannot be: the marketplace has no warehouse there');
    expect(text).toContain('there already');
    expect(ticks(/^Keep Italy/).disabled).toBe(true);
    expect(ticks(/^Keep Spain/).disabled).toBe(true);
  });
  it('are made in one go, without those that are unticked, like a lane there is', async () => {
    const { posted } = add();
    expect(screen.getByRole('button', { name: 'Make 2 lanes' })).toBeTruthy();
    fireEvent.click(ticks(/^Keep France/));
    choose('Prices end', '95');
    press('Make 1 lane');
    await waitFor(() => expect(posted).toHaveLength(1));
    expect(posted[0]).toMatchObject({ without: '1', like: 'l', habit: '95' });
    fireEvent.click(ticks(/^Keep France/));
    expect(screen.getByRole('button', { name: 'Make 2 lanes' })).toBeTruthy();
  });
  it('a marketplace ticked brings the quote there is and a way of fulfilment along', () => {
    const { address } = add();
    press('Testmarket');
    expect(address().getAll('m')).toEqual(['T/DE', 'T/FR']);
    expect([address().get('q'), address().get('f')]).toEqual(['q', 'warehouse']);
    press('Testmarket');
    expect(address().getAll('m')).toEqual([]);
  });
  it('where nothing is ticked yet say what to choose', () => {
    add({ proposals: [] });
    expect(document.body.textContent).toContain('Choose at least one marketplace and a way of fulfilment.');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Make 0 lanes' }).disabled).toBe(true);
  });
  it('of which there are too many say how many, and none is made', async () => {
    add({}, { tooMany: 2400 });
    press('Make 2 lanes');
    await screen.findByText(/this would make 2400/);
  });
  it('are only looked at by who may not edit', () => {
    add({ canEdit: false });
    expect(screen.queryByRole('button', { name: /^Make/ })).toBeNull();
  });
});

describe('the markets of the lanes', () => {
  const facts = {
    searches: 4200,
    peaks: [3, 4, 5],
    rivals: 4,
    prices: { currency: 'EUR', list: [20, 30, 42, 45] },
    permission: 'approval' as const,
  };
  // It is loaded where it is looked at; the first time may take a moment.
  beforeAll(() => import('./MarketsView.tsx'));
  const cells = async (where: string): Promise<string[]> => {
    const table = await screen.findByRole('region', { name: 'Markets' });
    const row = within(table)
      .getAllByRole('row')
      .find((r) => r.textContent?.startsWith(where));
    return [...(row?.querySelectorAll('td') ?? [])].map((x) => x.textContent ?? '');
  };
  it('stand beside what a unit keeps: demand, season, rivals, own price among theirs, permission', async () => {
    comparison({ at: '?view=markets', payload: { markets: { 'Testmarket/DE': facts } } });
    const germany = await cells('Germany');
    expect(germany.slice(0, 2)).toEqual(['€16.00', '€16.00']);
    expect(germany[2]).toBe('4,200');
    expect(germany[3]).toContain('Mar');
    expect(germany.slice(4, 6)).toEqual(['4', '3 of 5']);
    expect(germany[6]).toBe('44.10');
    expect(germany[7]).toContain('pproval');
    // Nobody follows the market of the other country: nothing is said of it.
    expect((await cells('France')).slice(2, 7)).toEqual(['–', '–', '–', '–', '–']);
  });
  it('a price above the ceiling is marked, and prices in another currency place nothing', async () => {
    const low = { ...facts, peaks: [], prices: { currency: 'EUR', list: [20, 30] } };
    const other = { ...facts, peaks: null, permission: null, prices: { currency: 'JPY', list: [20] } };
    comparison({
      at: '?view=markets',
      payload: { markets: { 'Testmarket/DE': low, 'Testmarket/FR': other } },
    });
    expect((await cells('Germany'))[5]).toContain('above the ceiling');
    expect((await cells('Germany'))[3]).toBe('all year');
    expect((await cells('France')).slice(3, 7)).toEqual(['–', '4', '–', '–']);
  });
  it('where nobody follows one, it says how to begin', async () => {
    comparison({ at: '?view=markets' });
    expect(await screen.findByText(/Nothing is known of these markets yet/)).toBeTruthy();
  });
});
