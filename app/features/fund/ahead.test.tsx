import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { cashOf } from '../../../core/cash/cash.ts';
import { monthsOf } from '../../../core/cash/months.ts';
import { cashPlan, cashTerms } from '../../../core/cash/schema.ts';
import type { KeptMarket } from '../../../core/evidence/observed.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import { launch } from '../../../core/launch/launch.ts';
import { admissibleOrders } from '../../../core/launch/orders.ts';
import { launchPlan } from '../../../core/launch/schema.ts';
import { riskOf } from '../../../core/risk/risk.ts';
import { sureTerms } from '../../../core/risk/schema.ts';
import type { SureTerms } from '../../../core/risk/schema.ts';
import { plainLane, taxCardOf } from '../../../core/testing/documents.ts';
import { CHEAPER_FROM_300, lantern } from '../../../core/testing/lantern.ts';
import { PLAIN_PRODUCT, PLAIN_SETTINGS } from '../../../core/testing/plainParts.ts';
import { launchOf } from '../../../core/workspace/fundPlan.ts';
import type { FundPlan } from '../../../core/workspace/fundPlan.ts';
import { stubServer } from '../../ui/testing/server.ts';
import type { AheadPart } from './fundParts.tsx';
import OverTimeView from './OverTimeView.tsx';
import QuantitiesView from './QuantitiesView.tsx';
import SureView from './SureView.tsx';
import type { RiskAsked } from './useRisk.ts';
import './words.ts';

// Draws are made where they are asked for: a test has no worker.
vi.mock('./useRisk.ts', () => ({
  useRisk: (asked: RiskAsked) => ({
    said: Object.fromEntries(
      Object.entries(asked).map(([name, { doc, ranges }]) => [name, riskOf(doc, { ...ranges, draws: 400 })]),
    ),
    state: 'done',
  }),
}));
const server = stubServer(() => Response.json({ ok: true, results: {} }));
beforeEach(() => server.sent.splice(0));

// Machines that test are busy.
const TODAY = '2026-12-01';
/** Bought at 10 (8 from 300 on), sold at 25, 60 a month, on sale after 30 days, paid every two weeks. */
const LANE = lantern(
  {
    demand: { kind: 'typed', units: 60 },
    rates: { tax: taxCardOf('exclusive', 0), benchmark: { rate: 0.02, date: TODAY } },
  },
  { priceBreaks: CHEAPER_FROM_300, depositShare: 0.3 },
);
type Doc = typeof LANE;

type View = (part: AheadPart) => React.ReactNode;
type Given = {
  doc?: Doc;
  plan?: Partial<FundPlan>;
  canEdit?: boolean;
  others?: readonly Doc[];
  markets?: readonly KeptMarket[];
};

/** A view on a plan that follows what is set; `plans` has every plan it came to. */
function shown(View: View, { doc = LANE, plan = {}, canEdit = true, others = [], markets = [] }: Given = {}) {
  const plans: FundPlan[] = [];
  function Holder() {
    const [whole, setWhole] = useState<FundPlan>({
      ...launchPlan.parse({ cash: 3000, reserve: 500, quantities: [100, 300] }),
      ...cashTerms.parse({ start: TODAY, reorder: { kind: 'none' }, horizon: 200 }),
      sure: {},
      ...plan,
    });
    plans.push(whole);
    const viewOf = (d: Doc, id: string) => ({
      id,
      state: {
        id,
        position: 0,
        data: { price: d.price, orderQuantity: d.orderQuantity },
        scenarioOf: null,
      } as never,
      doc: d,
      result: evaluate(d),
      home: evaluate(d),
    });
    const view = viewOf(doc, 'lane');
    const part: AheadPart = {
      plan: launchOf(whole),
      whole,
      set: (more) => setWhole((w) => ({ ...w, ...more })),
      result: launch(doc, launchOf(whole)),
      view,
      views: [view, ...others.map((d, i) => viewOf(d, `other${i}`))],
      orders: admissibleOrders(doc),
      quantities: whole.quantities,
      candidate: { ...PLAIN_PRODUCT, name: 'Lantern' },
      home: 'EUR',
      settings: PLAIN_SETTINGS,
      today: TODAY,
      canEdit,
      save: '/w/x/weigh/c/save',
      cards: {},
      markets,
      learned: {},
      base: '/w/x',
      ordered: { orders: [], lane: { id: 'lane', data: { components: [] } } },
    };
    return <View {...part} />;
  }
  const router = createMemoryRouter([{ path: '/', element: <Holder />, loader: () => null }]);
  render(<RouterProvider router={router} />);
  return { plans };
}
const type = (label: string | RegExp, text: string): void => {
  const field = screen.getByLabelText(label);
  fireEvent.focus(field);
  fireEvent.change(field, { target: { value: text } });
  fireEvent.blur(field);
};
const answer = async (id: string): Promise<string> => (await screen.findByTestId(id)).textContent ?? '';

describe('a launch over time', () => {
  const said = cashOf(
    LANE,
    cashPlan.parse({
      start: TODAY,
      reorder: { kind: 'none' },
      horizon: 200,
      launch: { cash: 3000, reserve: 500 },
    }),
  );
  if (!said.known) throw new Error('the lane of this test is complete');
  const { run, moneyNeeded } = said.cases.expected;

  it('says the money it takes, on which day, back by when, and that it is sold out', async () => {
    shown(OverTimeView);
    const text = await answer('time-answer');
    expect(moneyNeeded).toBe(1000);
    expect(text).toContain('really takes €1,000.00, on 31 Dec 2026');
    expect(text).toMatch(/back for good by \d+ \w+ 2027/);
    expect(text).toMatch(/sold out for \d+ days/);
    expect(text).toContain('has gained €1,500.00');
  });
  it('the months add up to the change of the account, to the cent', async () => {
    shown(OverTimeView);
    const table = within(await screen.findByRole('region', { name: 'Month by month' }));
    const rowOf = (name: string): number[] =>
      within(table.getByRole('row', { name: new RegExp(`^${name}`) }))
        .getAllByRole('cell')
        .map((c) => Number((c.textContent ?? '').replace('–', '0').replace('−', '-').replaceAll(',', '')));
    const ends = rowOf('Account, end');
    const lines = ['Payouts', 'Goods'].map(rowOf);
    ends.forEach((end, i) => {
      const before = i === 0 ? 3000 : (ends[i - 1] as number);
      expect(lines.reduce((sum, l) => sum + (l[i] as number), before)).toBeCloseTo(end, 6);
    });
    const months = monthsOf(run, TODAY, 3000);
    expect(ends).toHaveLength(months.length + 1);
    expect(ends[0]).toBeCloseTo(months[0]?.end as number, 2);
  });
  it('a cell opens its days', async () => {
    shown(OverTimeView);
    fireEvent.click((await screen.findAllByRole('button', { name: /^Goods Dec/ }))[0] as HTMLElement);
    const dialog = within(await screen.findByRole('dialog'));
    await waitFor(() =>
      expect(dialog.getAllByRole('row').map((r) => r.textContent)).toEqual(['1 Dec−300.00', '31 Dec−700.00']),
    );
  });
  it('another quantity and price are tried without touching the lane, and go into it by one press', async () => {
    shown(OverTimeView);
    await screen.findByTestId('time-answer');
    type('Order quantity', '300');
    expect(await answer('time-answer')).toContain('really takes €2,400.00');
    type('Price, EUR', '20');
    expect(screen.getByText(/Tried, not in the lane/)).toBeTruthy();
    expect(server.sent).toEqual([]);
    fireEvent.click(screen.getByRole('button', { name: 'Take into the lane' }));
    await waitFor(() => expect(server.sent).toHaveLength(1));
    expect(server.sent[0]?.body).toEqual({
      patches: [
        { entity: 'lane', id: 'lane', path: ['orderQuantity'], from: 100, to: 300 },
        { entity: 'lane', id: 'lane', path: ['price'], from: 25, to: 20 },
      ],
    });
    await waitFor(() => expect(screen.queryByText(/Tried, not in the lane/)).toBeNull());
  });
  it('what is tried is given back, and a viewer takes nothing over', async () => {
    shown(OverTimeView, { canEdit: false });
    await screen.findByTestId('time-answer');
    type('Order quantity', '300');
    expect(screen.queryByRole('button', { name: 'Take into the lane' })).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'As the lane says' }));
    expect(await answer('time-answer')).toContain('really takes €1,000.00');
  });
  it('start, ramp and reorder are of the plan', async () => {
    const { plans } = shown(OverTimeView);
    await screen.findByTestId('time-answer');
    fireEvent.change(screen.getByLabelText('First order', { selector: 'input[type=date]' }), {
      target: { value: '2027-02-01' },
    });
    type('Month 1 sells, %', '50');
    fireEvent.click(screen.getByRole('button', { name: 'One more month' }));
    fireEvent.change(screen.getByLabelText('Reorder'), { target: { value: 'cover' } });
    expect(plans.at(-1)).toMatchObject({
      start: '2027-02-01',
      ramp: [0.5, 0.5],
      reorder: { kind: 'cover', days: 60 },
    });
    expect(await answer('time-answer')).toContain('2027');
  });
  it('a change is run whole, and tried by one press', async () => {
    const { plans } = shown(OverTimeView, { plan: cashTerms.parse({ start: TODAY }) });
    fireEvent.click(await screen.findByRole('button', { name: 'Try: no reorder' }));
    expect(plans.at(-1)?.reorder).toEqual({ kind: 'none' });
    fireEvent.click(screen.getByRole('button', { name: 'Try: order 300' }));
    expect(screen.getByText(/Tried, not in the lane/)).toBeTruthy();
  });
  it('a day is shown by key, and by a mark', async () => {
    shown(OverTimeView);
    const day = await screen.findByLabelText('Day shown');
    fireEvent.change(day, { target: { value: '0' } });
    expect(screen.getByTestId('day-shown').textContent).toContain('1 Dec 2026: account €2,700.00');
    fireEvent.click(screen.getByRole('button', { name: /^on sale/ }));
    expect(screen.getByTestId('day-shown').textContent).toContain('31 Dec 2026');
  });
  it('money in the bank stands beside it', async () => {
    shown(OverTimeView);
    expect(await screen.findByText(/Left in the bank at 2.00%/)).toBeTruthy();
  });
  it('more than the cash over the reserve is said', async () => {
    shown(OverTimeView, { plan: { cash: 1200 } });
    expect(await answer('time-answer')).toContain('€300.00 more than the cash over the reserve');
  });
  it.each([
    ['no units', { demand: null }, 'units a month'],
    [
      'no lead time',
      {
        goods: [
          {
            ...(LANE.goods as readonly object[])[0],
            source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 10 }] },
          },
        ],
      },
      'lead time of the quote',
    ],
    ['no payout terms', { payoutEveryDays: null }, 'days between payouts'],
    ['no order quantity', { orderQuantity: null }, 'order quantity'],
  ])('%s: named, and no clean figure', async (_, more, what) => {
    shown(OverTimeView, { doc: plainLane({ ...LANE, ...more } as never) });
    const text = await answer('time-answer');
    expect(text).toContain(what);
    expect(text).not.toContain('€');
    expect(screen.queryByRole('region', { name: 'Month by month' })).toBeNull();
  });
});

describe('quantities beside each other', () => {
  const rowOf = (name: string): (string | null)[] =>
    within(screen.getByRole('row', { name: new RegExp(`^${name}`) }))
      .getAllByRole('cell')
      .map((c) => c.textContent);
  it('each by its own run; chances need a range', async () => {
    shown(QuantitiesView);
    await screen.findByRole('region', { name: 'Quantities beside each other' });
    expect(rowOf('Landed cost a unit')).toEqual(['10.00', '8.00']);
    expect(rowOf('Money needed')).toEqual(['1,000.00', '2,400.00']);
    expect(rowOf('Chance of running out')).toEqual(['needs a range of units', 'needs a range of units']);
    expect(rowOf('Chance of a loss')).toEqual(['needs a range of units', 'needs a range of units']);
  });
  it('with a range of units: how likely it runs out, and loses', async () => {
    const sure = { lane: sureTerms.parse({ ranges: { units: { low: 1, likely: 10, high: 100 } } }) };
    shown(QuantitiesView, { plan: { sure } });
    await screen.findByRole('region', { name: 'Quantities beside each other' });
    const chances = rowOf('Chance of running out').map((x) => Number(x?.replace('%', '')));
    expect(chances[0]).toBeGreaterThan(chances[1] as number);
    expect(chances[0]).toBeGreaterThan(10);
    expect(rowOf('Chance of a loss').every((x) => /^\d+%$/.test(x ?? ''))).toBe(true);
  });
  it('the best follows the measure; quantities are changed, added and taken out', async () => {
    const { plans } = shown(QuantitiesView);
    await screen.findByRole('region', { name: 'Quantities beside each other' });
    const bestAt = (): number =>
      screen
        .getAllByRole('columnheader')
        .slice(1)
        .findIndex((h) => h.textContent?.includes('best'));
    fireEvent.change(screen.getByLabelText('Best by'), { target: { value: 'moneyNeeded' } });
    expect(bestAt()).toBe(0);
    fireEvent.change(screen.getByLabelText('Best by'), { target: { value: 'end' } });
    expect(bestAt()).toBe(1);
    type('Order quantity 1', '150');
    fireEvent.click(screen.getByRole('button', { name: 'Add a quantity' }));
    expect(plans.at(-1)?.quantities).toEqual([150, 300, 310]);
    fireEvent.click(screen.getByRole('button', { name: 'Take out 300' }));
    expect(plans.at(-1)?.quantities).toEqual([150, 310]);
  });
  it('says what the next price break gains', async () => {
    shown(QuantitiesView);
    expect((await screen.findByText(/The next price break, 300, gains €/)).textContent).toContain(
      'more than 100',
    );
  });
  it('a lane that lacks something says so', async () => {
    shown(QuantitiesView, { doc: { ...LANE, demand: null } });
    expect(await screen.findByText(/not known yet: .*units a month/)).toBeTruthy();
  });
});

describe('how sure', () => {
  const ranged = (more: Partial<SureTerms['ranges']> = {}): FundPlan['sure'] => ({
    lane: sureTerms.parse({ draws: 400, ranges: { price: { low: 5, likely: 25, high: 30 }, ...more } }),
  });
  it('nothing is uncertain until an input has a range; those that are offered are taken at once', async () => {
    const { plans } = shown(SureView);
    expect(await answer('sure-answer')).toContain('Nothing is uncertain yet');
    fireEvent.click(screen.getByRole('button', { name: 'Take all that are offered' }));
    const { ranges } = plans.at(-1)?.sure.lane ?? sureTerms.parse({});
    expect(ranges.price).toEqual({ low: 21.25, likely: 25, high: 28.75 });
    expect(ranges.unitCost).toEqual({ low: 9.5, likely: 10, high: 10.5 });
    expect(ranges.freight).toBeNull();
    expect(await answer('sure-answer')).toContain('A unit loses in no draw');
  });
  it('a chance is said in words, beside half and one in twenty', async () => {
    shown(SureView, { plan: { sure: ranged() } });
    const text = await answer('sure-answer');
    expect(text).toMatch(/A unit loses in about 1 in \d+, the launch in about 1 in \d+/);
    expect(text).toMatch(/Half of all launches bring over €[\d,.]+, one in twenty under [−€\d,.]+/);
  });
  it('a range is typed, kept once it is whole and in order, and taken back', async () => {
    const { plans } = shown(SureView);
    await screen.findByTestId('sure-answer');
    type('Price: Low', '20');
    type('Price: Most likely', '25');
    expect(plans.at(-1)?.sure.lane).toBeUndefined();
    type('Price: High', '18');
    expect(screen.getByRole('alert').textContent).toContain('Low is at most the most likely');
    expect(plans.at(-1)?.sure.lane).toBeUndefined();
    type('Price: High', '31');
    expect(plans.at(-1)?.sure.lane?.ranges.price).toEqual({ low: 20, likely: 25, high: 31 });
    fireEvent.click(screen.getByRole('button', { name: 'Price: No range' }));
    expect(plans.at(-1)?.sure.lane?.ranges.price).toBeNull();
  });
  it('what matters most stands first, and two inputs make a grid that says where it loses', async () => {
    shown(SureView, { plan: { sure: ranged({ unitCost: { low: 9, likely: 10, high: 12 } }) } });
    const matters = within(await screen.findByRole('region', { name: 'What matters most' }));
    const names = matters.getAllByRole('rowheader').map((h) => h.textContent);
    expect(names).toEqual(['Price', 'Unit cost as quoted']);
    const grid = within(screen.getByRole('region', { name: 'Two inputs at once' }));
    expect(grid.getAllByRole('cell')).toHaveLength(121);
    expect(grid.getAllByRole('cell')[0]?.textContent).toBe('−4.00');
    fireEvent.change(screen.getByLabelText('Across'), { target: { value: 'unitCost' } });
    expect(grid.getAllByRole('columnheader').at(-1)?.textContent).toBe('€12.00');
  });
  it('seed, shape and months are kept with the ranges', async () => {
    const { plans } = shown(SureView, { plan: { sure: ranged() } });
    await screen.findByTestId('sure-answer');
    type('Seed', '77');
    fireEvent.change(screen.getByLabelText('Shape'), { target: { value: 'pert' } });
    type('Months on sale', '6');
    expect(plans.at(-1)?.sure.lane).toMatchObject({ seed: 77, shape: 'pert', months: 6 });
  });
  it('all lanes on the same luck: those without ranges say so, and take them at once', async () => {
    const { plans } = shown(SureView, {
      plan: { sure: ranged() },
      others: [
        { ...LANE, country: 'FR', price: 30 },
        { ...LANE, prep: null },
      ],
    });
    const lanes = within(await screen.findByRole('region', { name: 'All lanes on the same luck' }));
    const rows = lanes
      .getAllByRole('row')
      .slice(1)
      .map((r) => r.textContent ?? '');
    expect(rows[0]).toMatch(/Germany.*€/);
    expect(rows[1]).toContain('no range yet');
    expect(rows[2]).toContain('preparation');
    fireEvent.click(screen.getByRole('button', { name: 'Take what is offered for every lane' }));
    expect(Object.keys(plans.at(-1)?.sure ?? {})).toEqual(['lane', 'other0', 'other1']);
    expect(plans.at(-1)?.sure.other0?.ranges.price?.likely).toBe(30);
  });
  it('a lane that cannot be drawn says what it lacks', async () => {
    shown(SureView, { doc: { ...LANE, prep: null }, plan: { sure: ranged() } });
    expect(await answer('sure-answer')).toMatch(/Cannot be drawn: .*preparation/);
  });
});
