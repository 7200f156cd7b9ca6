import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { actualOf } from '../../../core/actuals/actual.ts';
import { compare, standsAt } from '../../../core/actuals/compare.ts';
import type { Compared } from '../../../core/actuals/compare.ts';
import { gistOf } from '../../../core/actuals/gist.ts';
import type { KindSums } from '../../../core/actuals/sums.ts';
import { plainLane } from '../../../core/testing/documents.ts';
import { LaunchedPage } from './LaunchedPage.tsx';
import { SellingPage } from './SellingPage.tsx';
import { shown } from './testing/shown.tsx';

const sum = (amount: number, units = 0) => ({ amount: amount * 10_000, back: 0, tax: null, units, lines: 1 });
const settledAs = (own: KindSums, units: number | null): Compared =>
  compare(
    plainLane(),
    actualOf(plainLane(), { own, shared: {}, kinds: new Set(['sale', 'adverts']) }),
    units,
  );
/** A lane that keeps 30 a unit, of which so many were sold at a price, with so much for adverts. */
const compared = (units: number, price: number, adverts: number): Compared => {
  const own: KindSums = { sale: sum(units * price, units), adverts: sum(-adverts) };
  return settledAs(own, 10);
};
const lineOf = (name: string, whole: Compared | null) => ({
  laneId: name,
  name,
  place: 'Alderway/DE',
  codes: ['A'],
  since: '2026-10-01',
  until: null,
  stands: whole === null ? ({ standing: 'open', because: null, amount: null } as const) : standsAt(whole),
  stopped: null,
  lately: null,
  gist: whole === null ? null : gistOf(whole),
  stock: { units: null, from: null, value: null },
  decisions: [],
});
const countsOf = (lanes: Parameters<typeof SellingPage>[0]['lanes']) => {
  const going = lanes.filter((l) => l.stopped === null);
  return {
    all: lanes.length,
    settled: going.filter((l) => l.gist !== null).length,
    less: going.filter((l) => ['loses', 'paysLess'].includes((l.lately ?? l).stands.standing)).length,
    asks: going.filter((l) => l.decisions.length > 0).length,
  };
};
const selling = (over: Partial<Parameters<typeof SellingPage>[0]> = {}) => (
  <SellingPage
    lanes={[]}
    counts={countsOf(over.lanes ?? [])}
    mix={null}
    unknown={[]}
    months={[]}
    homeCurrency="EUR"
    stock={{ value: 0, lacks: 0 }}
    places={[]}
    estimates={[]}
    choices={[{ id: 'l1', name: 'Bird bath', lane: 'Alderway, DE' }]}
    reports={[]}
    largest={1024 * 1024}
    today="2026-11-30"
    base="/w/shop"
    canEdit
    {...over}
  />
);

describe('what sells', () => {
  it('says how to begin where nothing is on sale', async () => {
    shown(selling());
    expect(await screen.findByText(/Put a lane on sale and bring in a settlement report/)).toBeTruthy();
    expect(screen.getByText('None yet.')).toBeTruthy();
  });
  it('stands in a sentence each: as planned, less and why, loses and what to do, not settled', async () => {
    shown(
      selling({
        lanes: [
          lineOf('Loser', compared(10, 30, 400)),
          lineOf('Cheaper', compared(10, 20, 0)),
          lineOf('Steady', compared(10, 30, 0)),
          lineOf('New', null),
        ],
        mix: { currency: 'EUR', volume: -10, mix: 4 },
      }),
    );
    const text = async (name: string) => (await screen.findByRole('article', { name })).textContent ?? '';
    expect(await text('Loser')).toContain('Loses, most of all by Adverts: −€400.00. Cut adverts');
    expect(await text('Cheaper')).toContain('Pays less than planned, most of all by its price: −€100.00.');
    expect(await text('Cheaper')).toContain('€30.00 → €20.00');
    expect(await text('Steady')).toContain('Pays as planned.');
    expect(await text('New')).toContain('Nothing of it has been settled yet.');
    expect(screen.getByTestId('selling-answer').textContent).toContain(
      '2 of 3 lanes that were settled pay less',
    );
    expect(screen.getByTestId('selling-answer').textContent).toContain('+€4.00 by which of them did');
  });
  it('a lane is put on sale with its codes; what is wrong with it is said', async () => {
    const acts = shown(selling(), { error: 'No lane is chosen. Choose the lane that went on sale.' });
    fireEvent.click(await screen.findByRole('button', { name: 'Put a lane on sale' }));
    fireEvent.change(screen.getByLabelText(/^Listing code/), { target: { value: ' A-1, A-2 ,A-1,' } });
    fireEvent.click(screen.getByRole('button', { name: 'Put on sale' }));
    expect(await screen.findByText(/No lane is chosen/)).toBeTruthy();
    expect(acts).toEqual([{ laneId: '', codes: ['A-1', 'A-2'], since: '2026-11-30' }]);
  });
  it('codes that nobody has lead to the form; who may only look has no buttons', async () => {
    const unknown = [{ place: 'Alderway/DE', code: 'ZZ', currency: 'EUR', units: 2, amount: 12 }];
    shown(selling({ unknown }));
    fireEvent.click(await screen.findByRole('button', { name: 'Say whose ZZ is' }));
    expect((screen.getByLabelText(/^Listing code/) as HTMLInputElement).value).toBe('ZZ');
    document.body.innerHTML = '';
    shown(selling({ unknown, canEdit: false }));
    await screen.findByText('ZZ');
    expect(screen.queryByRole('button', { name: /Say whose|Bring in|on sale/ })).toBeNull();
  });
});

const launched = (over: Partial<Parameters<typeof LaunchedPage>[0]['page']>, canEdit = true) => (
  <LaunchedPage
    page={{
      ...lineOf('Bird bath', null),
      candidateId: 'c1',
      whole: null,
      late: null,
      months: [],
      hurdles: [],
      counts: [],
      coming: [],
      next: null,
      claims: [],
      offers: [],
      ways: [],
      cash: null,
      homeCurrency: 'EUR',
      ...over,
    }}
    base="/w/shop"
    today="2026-11-30"
    canEdit={canEdit}
  />
);

describe('a lane on sale', () => {
  it('shows its lines, its parts and its months; what was paid for losses lowers other costs', async () => {
    const whole = compared(12, 25, 60);
    shown(
      launched({ ...lineOf('Bird bath', whole), whole, months: [{ month: '2026-10', compared: whole }] }),
    );
    const lines = within(await screen.findByRole('region', { name: 'A unit sold' }));
    expect(lines.getByRole('row', { name: /^Adverts/ }).textContent).toBe(
      'Adverts€0.00€5.00+€5.00−€60.00the reports',
    );
    expect(lines.getByRole('row', { name: /^Profit/ }).textContent).toContain('€30.00€20.00−€10.00');
    expect(screen.getByRole('heading', { name: 'Why the profit is −€60.00 beside the plan' })).toBeTruthy();
    expect(screen.getByText('units: 12 sold, 10 planned')).toBeTruthy();
    const months = within(screen.getByRole('region', { name: 'By month' }));
    expect(months.getByRole('row', { name: /^Oct 2026/ }).textContent).toBe(
      'Oct 202610120€20.00€240.00−€60.00',
    );
    const refunded = settledAs({ sale: sum(30, 1), reimbursement: sum(9, 1) }, null);
    expect(gistOf(refunded).actual.families.other).toBe(-9);
    expect(gistOf(refunded).planned.families.other).toBe(0);
    expect(refunded.parts?.volume).toBeNull();
  });
});

describe('what is decided of a lane on sale', () => {
  const late = compared(20, 30, 300);
  const period = { from: '2026-09-01', to: '2026-10-31' };
  const drift = { what: 'adverts' as const, planned: 0, actual: 15, each: -15, year: -1800 };
  const lately = { ...period, stands: standsAt(late), drifts: [drift], gist: gistOf(late) };
  it('it stands by its last two periods, says how it was before, and what is to decide with the sum', async () => {
    const line = {
      ...lineOf('Turned', compared(10, 30, 0)),
      lately,
      stock: { units: 40, from: 'orders' as const, value: 200 },
      decisions: [
        { what: 'cutAdverts' as const, planned: 0, actual: 15, year: -1800 },
        { what: 'claim' as const, amount: 12.4, count: 3 },
        { what: 'raisePrice' as const, from: 30, price: 45, gap: 15 },
        { what: 'letGo' as const, each: -2, year: -240 },
        { what: 'reorder' as const, day: '2026-12-05', quantity: 100, money: 600, soldOut: '2026-12-20' },
      ],
    };
    const gone = {
      ...lineOf('Gone', compared(10, 30, 0)),
      stopped: { day: '2026-11-01', reason: 'loses' as const, note: '', by: '' },
    };
    shown(
      selling({
        lanes: [line, gone],
        months: [
          { month: '2026-10', units: 30, revenue: 900, profit: 300, lacks: 1, settled: 700, paidOut: 650 },
        ],
        stock: { value: 200, lacks: 1 },
        places: [
          {
            place: 'Alderway/DE',
            until: '2026-10-31',
            gaps: [{ from: '2026-09-10', to: '2026-09-20' }],
            holds: 50,
            currency: 'EUR',
          },
        ],
        estimates: [
          { input: 'units', launches: 1, least: -0.5, middle: -0.5, most: -0.5, width: null },
          { input: 'price', launches: 3, least: -0.2, middle: -0.1, most: 0.1, width: 0.16 },
        ],
      }),
    );
    const said = (await screen.findByRole('article', { name: 'Turned' })).textContent ?? '';
    expect(said).toContain('Pays less than planned, most of all by Adverts: −€300.00.');
    expect(said).toContain('Since the launch it paid as planned.');
    for (const part of [
      'Cut adverts: they take €15.00 of a unit sold instead of €0.00, €1,800.00 more in a year',
      'Claim €12.40: 3 fees are above the card.',
      'Raise the price from €30.00 to €45.00',
      'Let it go: a unit loses €2.00 even at the planned price, €240.00 in a year',
      'Order 100 by 5 Dec 2026: it takes €600.00. What is there lasts until 20 Dec 2026.',
      'On the shelf40 · €200.00',
    ])
      expect(said).toContain(part);
    expect(screen.getByRole('article', { name: 'Gone' }).textContent).toContain(
      'Let go on 1 Nov 2026: it loses.',
    );
    expect(screen.getByTestId('selling-answer').textContent).toContain('1 asks for a decision.');
    const months = screen.getByRole('region', { name: 'All products by month' });
    expect(months.textContent).toContain('Oct 202630€900.00at most €300.00€700.00€650.00');
    expect(screen.getByText(/^On the shelf at cost: €200.00. Of one product/)).toBeTruthy();
    expect(screen.getByText(/Settled and not paid out: €50.00/).textContent).toContain(
      'No report speaks of 10 Sept 2026 to 20 Sept 2026',
    );
    const estimates = within(screen.getByRole('region', { name: 'How good the estimates were' }));
    expect(estimates.getByRole('row', { name: /^Units/ }).textContent).toBe(
      'Units1−50%−50%−50%from three launches on',
    );
    expect(estimates.getByRole('row', { name: /^Price/ }).textContent).toBe('Price3−10%−20%+10%16%');
  });
  it('its page shows the period or all since the launch, what drifts, and hurdles by what came', async () => {
    const whole = compared(30, 30, 300);
    const hurdle = { figure: 'unitProfit', bound: 'atLeast', level: 20, near: 0.1 } as const;
    shown(
      launched({
        ...lineOf('Turned', whole),
        lately,
        whole,
        late,
        hurdles: [{ hurdle, level: 20, value: 15, verdict: 'fail', short: 5 }],
      }),
    );
    const lines = () => within(screen.getByRole('region', { name: 'A unit sold' }));
    await screen.findByRole('region', { name: 'A unit sold' });
    expect(lines().getByRole('row', { name: /^Adverts/ }).textContent).toContain('€15.00');
    fireEvent.change(screen.getByLabelText('Days'), { target: { value: 'whole' } });
    expect(lines().getByRole('row', { name: /^Adverts/ }).textContent).toContain('€10.00');
    const drifts = within(screen.getByRole('region', { name: /^Left the plan/ }));
    expect(drifts.getByRole('row', { name: /^Adverts/ }).textContent).toBe(
      'Adverts€0.00€15.00−€15.00−€1,800.00',
    );
    expect(screen.getByTestId('hurdles-met').textContent).toContain('€15.00 of €20.00, missed');
  });
  it('says what it says of a part where a cost is not known, and marks its bounds', async () => {
    const doc = { ...plainLane(), goods: null };
    const own: KindSums = { sale: sum(300, 10), adverts: sum(0) };
    const whole = compare(doc, actualOf(doc, { own, shared: {}, kinds: new Set(['sale', 'adverts']) }), 10);
    shown(launched({ ...lineOf('Part', whole), whole }));
    expect(await screen.findByText('As planned in what is known of it.')).toBeTruthy();
    const lines = within(screen.getByRole('region', { name: 'A unit sold' }));
    expect(lines.getByRole('row', { name: /^Goods/ }).textContent).toContain('not known');
    expect(screen.getByText(/^Margin under /)).toBeTruthy();
  });
  it('stock is counted and taken back; what comes and the next order stand beside it', async () => {
    const acts = shown(
      launched({
        stock: { units: 30, from: 'counted', value: null },
        counts: [{ day: '2026-11-01', units: 44 }],
        coming: [
          { day: '2026-12-24', units: 50 },
          { day: null, units: 9 },
        ],
        next: { day: '2026-12-05', quantity: 100, money: 600, soldOut: null },
      }),
    );
    expect((await screen.findByTestId('shelf-said')).textContent).toBe(
      '30 units by the last count and what came and went since, – at cost. 50 more are expected on 24 Dec 2026. ' +
        '9 more are on their way. Next order: 100 units by 5 Dec 2026, which take €600.00.',
    );
    fireEvent.change(screen.getByLabelText('Units there'), { target: { value: '28' } });
    fireEvent.blur(screen.getByLabelText('Units there'));
    fireEvent.click(screen.getByRole('button', { name: 'Note the count' }));
    await waitFor(() => expect(acts).toEqual([{ intent: 'count', day: '2026-11-30', units: 28 }]));
    const back = screen.getByRole('button', { name: 'Take back the count of 1 Nov 2026' });
    await waitFor(() => expect(back.hasAttribute('disabled')).toBe(false));
    fireEvent.click(back);
    await waitFor(() => expect(acts[1]).toEqual({ intent: 'dropCount', day: '2026-11-01' }));
  });
  it('a claim shows its orders and how far it is', async () => {
    const claim = {
      place: 'Alderway/DE',
      code: 'A',
      kind: 'fulfilment' as const,
      month: '2026-10',
      why: 'twice' as const,
      found: {
        count: 3,
        of: 40,
        due: 9.3,
        charged: 18.6,
        orders: [{ order: 'O-7', day: '2026-10-05', units: 1, due: 3.1, charged: 6.2 }],
      },
      state: 'open' as const,
      claimed: null,
    };
    const acts = shown(
      launched({ claims: [claim, { ...claim, month: '2026-09', state: 'claimed', claimed: 5 }] }),
    );
    const fees = within(await screen.findByRole('region', { name: 'Fees above the card' }));
    const row = fees.getByRole('row', { name: /^Fulfilment, Oct 2026/ });
    expect(row.textContent).toContain('taken twice3 of 40€9.30€18.60€9.30');
    expect(fees.getByRole('row', { name: /^Fulfilment, Sept? 2026/ }).textContent).toContain(
      'asked for €5.00',
    );
    fireEvent.click(within(row).getByRole('button', { name: 'Orders' }));
    const orders = within(screen.getAllByRole('region', { name: 'Orders' })[0] as HTMLElement);
    expect(orders.getByRole('row', { name: /^O-7/ }).textContent).toBe('O-75 Oct 20261€3.10€6.20€3.10');
    expect(screen.getByText('and 2 more, which the total counts.')).toBeTruthy();
    fireEvent.change(within(row).getByLabelText('Claim of Fulfilment, Oct 2026'), {
      target: { value: 'claimed' },
    });
    await waitFor(() =>
      expect(acts).toEqual([
        {
          intent: 'claim',
          place: 'Alderway/DE',
          code: 'A',
          kind: 'fulfilment',
          month: '2026-10',
          why: 'twice',
          state: 'claimed',
        },
      ]),
    );
  });
  it('what came is taken over as chosen; a lane is let go with its reason, and goes on after all', async () => {
    const offers = [
      { what: 'price' as const, path: ['price'], now: 30, value: 27, figure: 27, was: 30, units: 40 },
      {
        what: 'returnRate' as const,
        path: ['returns', 'rate'],
        now: null,
        value: 0.1,
        figure: 0.1,
        was: null,
        units: 40,
      },
      { what: 'season' as const, path: ['season'], now: null, value: [], figure: null, was: null, units: 90 },
    ];
    const acts = shown(launched({ offers }));
    expect(await screen.findByLabelText('Price €27.00 instead of €30.00, of 40 units')).toBeTruthy();
    fireEvent.click(screen.getByLabelText('Returns 10.0% instead of nothing, of 40 units'));
    fireEvent.click(screen.getByRole('button', { name: 'Take over' }));
    await waitFor(() => expect(acts).toEqual([{ intent: 'takeOver', whats: ['price', 'season'] }]));
    fireEvent.change(screen.getByLabelText('Because'), { target: { value: 'season' } });
    fireEvent.click(screen.getByRole('button', { name: 'Let it go' }));
    await waitFor(() => expect(acts[1]).toEqual({ intent: 'letGo', reason: 'season', note: '' }));
    document.body.innerHTML = '';
    const stopped = { day: '2026-11-01', reason: 'other' as const, note: 'Too heavy.', by: 'Rowan' };
    const later = shown(launched({ stopped }));
    expect(
      await screen.findByText('Let go on 1 Nov 2026: another reason. Too heavy. Decided by Rowan.'),
    ).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Go on with it after all' }));
    await waitFor(() => expect(later).toEqual([{ intent: 'goOn' }]));
  });
  it('what is left is kept as a scenario at a price of one’s own', async () => {
    const ways = [
      { laneId: 'l1', lane: 'Alderway, DE', currency: 'EUR', price: 24, brings: 9, floor: 11.5 },
      { laneId: 'l2', lane: 'Alderway, FR', currency: 'EUR', price: null, brings: 6, floor: null },
    ];
    const acts = shown(launched({ ways }));
    const left = within(await screen.findByRole('region', { name: 'What is left of it' }));
    expect(left.getByRole('row', { name: /^Alderway, DE/ }).textContent).toContain('€24.00€9.00€11.50');
    const there = left.getByRole('button', { name: 'Keep as a scenario of Alderway, FR' });
    expect(there.hasAttribute('disabled')).toBe(true);
    const price = left.getByLabelText(/^Price by Alderway, DE/);
    fireEvent.change(price, { target: { value: '13' } });
    fireEvent.blur(price);
    fireEvent.click(left.getByRole('button', { name: 'Keep as a scenario of Alderway, DE' }));
    await waitFor(() =>
      expect(acts).toEqual([{ intent: 'leftOver', of: 'l1', price: 13, name: 'Sell off what is left' }]),
    );
  });
  it('who may only look has no buttons for any of it', async () => {
    shown(launched({ offers: [], counts: [{ day: '2026-11-01', units: 4 }] }, false));
    await screen.findByText(/^Counted on/);
    expect(screen.queryByRole('button', { name: /count|Take|go|off/i })).toBeNull();
  });
});
