import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import {
  PLAIN_CARDS,
  PLAIN_PRODUCT,
  PLAIN_SETTINGS,
  plainQuote,
  plainStored,
} from '../../../core/testing/plainParts.ts';
import type { Patch } from '../../../core/workspace/patch.ts';
import { stubServer } from '../../ui/testing/server.ts';
import { Sheet } from './Sheet.tsx';

const PROOF = { date: null, sides: null, kg: null, category: '', price: 40, note: '' };
const CHARGED = { itemFee: null, payment: null, fulfilment: null };
/** What is charged at a price of 40: 4 by the card. */
let charged: number[] = [];
const server = stubServer(({ url }) =>
  url.includes('/rates/proofs')
    ? Response.json({
        proofs: charged.map((referral, i) => ({
          id: String(i),
          proof: { ...PROOF, charged: { ...CHARGED, referral } },
        })),
      })
    : Response.json(url.includes('/market/data') ? { markets: [] } : { ok: true, results: {} }),
);
/** Each test has a candidate of its own: what one leaves in the tab or sends late is not another's. */
let id = 'c0';
let count = 0;
type Over = { lane?: object; canEdit?: boolean; scenario?: boolean; dropped?: string };

async function sheet({ lane = {}, canEdit = true, scenario = false, dropped }: Over = {}) {
  id = `c${++count}`;
  const data = plainStored(lane);
  const other = { id: 's', position: 1, scenarioOf: 'l', data: { ...data, name: 'Dearer', price: 50 } };
  const Page = () => (
    <Sheet
      state={{
        candidate: { id, data: PLAIN_PRODUCT },
        quotes: [{ id: 'q', data: plainQuote() }],
        lanes: [{ id: 'l', position: 0, scenarioOf: null, data }, ...(scenario ? [other] : [])],
      }}
      frame={{ settings: PLAIN_SETTINGS, cards: PLAIN_CARDS, today: '2026-11-28' }}
      cardHeads={[]}
      usedHeads={[]}
      canEdit={canEdit}
      base="/w/shop/weigh"
      dropped={dropped ?? null}
    />
  );
  const Stub = createRoutesStub([
    { path: '/w/:workspace/weigh/:candidate', Component: Page },
    { path: `/w/shop/weigh/${id}/edition`, loader: () => ({}) },
  ]);
  render(<Stub initialEntries={[`/w/shop/weigh/${id}${scenario ? '?lane=s' : ''}`]} />);
  await screen.findByTestId('unit-profit');
}
const keeps = (): string => screen.getByTestId('unit-profit').textContent ?? '';
const open = (family: string): void => {
  const heads = [...document.querySelectorAll('button[aria-expanded]')];
  const head = heads.find((x) => x.textContent?.startsWith(family));
  if (head === undefined) throw new Error(`No family ${family}`);
  fireEvent.click(head);
};
const type = (label: string | RegExp, value: string, index = 0): void => {
  const field = screen.getAllByLabelText(label)[index] as HTMLElement;
  fireEvent.focus(field);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};
const choose = (label: string, value: string, index = 0): void => {
  fireEvent.change(screen.getAllByLabelText(label)[index] as HTMLElement, { target: { value } });
};
/** The state of a cost line, chosen among: so much, none, not known yet. */
const state = (line: string, to: RegExp): void => {
  fireEvent.click(within(screen.getByRole('group', { name: line })).getByRole('button', { name: to }));
};
const sent = (): Patch[] =>
  server.sent
    .filter((x) => x.url.includes(`/${id}/`))
    .flatMap((x) => (x.body as { patches?: Patch[] } | null)?.patches ?? []);

describe('how well proven the fees of a lane are', () => {
  it.each([
    [[], 'No proof yet of what is charged here.'],
    [[4, 4.5], 'It meets 1 of your 2 proofs.'],
  ])('%j charged: %s', async (fees, said) => {
    charged = fees;
    await sheet();
    open('Marketplace');
    expect(await screen.findByText(said, { exact: false })).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Proofs of this card' }).getAttribute('href')).toBe(
      '/w/shop/rates?kind=marketplace&key=Testmarket%2FDE',
    );
  });
});

describe('the answer of a sheet', () => {
  it('is a sentence: what a unit keeps, where it breaks even, what one may pay', async () => {
    await sheet();
    const text = document.body.textContent;
    expect(keeps()).toBe('16.00');
    expect(text).toContain('In Germany on Testmarket at €40.00, one unit keeps €16.00, 40.0% of net sales.');
    expect(text).toContain('It breaks even at €22.22.');
    expect(text).toContain('Pay the supplier at most €36.00; you entered €20.00.');
  });
  it('follows what is typed, and is saved a moment later', async () => {
    await sheet();
    type('Price, EUR', '50');
    expect(keeps()).toBe('25.00');
    await waitFor(() => expect(sent().map((p) => p.path[0])).toContain('price'));
    expect(sent().find((p) => p.path[0] === 'price')).toMatchObject({ id: 'l', from: 40, to: 50 });
  });
  it('what is no number is said, and the last good value stays in the sums', async () => {
    await sheet();
    type('Price, EUR', 'twelve');
    expect(screen.getByText(/Not a number/)).toBeTruthy();
    expect(keeps()).toBe('16.00');
  });
  it('without a price asks for one', async () => {
    await sheet({ lane: { price: null } });
    expect(document.body.textContent).toContain('Enter a price');
    expect(keeps()).toBe('–');
  });
  it('goes back and forth by keys', async () => {
    await sheet();
    type('Price, EUR', '50');
    fireEvent.keyDown(document.body, { key: 'z', code: 'KeyZ', ctrlKey: true });
    await waitFor(() => expect(keeps()).toBe('16.00'));
    fireEvent.keyDown(document.body, { key: 'y', code: 'KeyY', ctrlKey: true });
    await waitFor(() => expect(keeps()).toBe('25.00'));
  });
  it('whoever only looks reads it, and has nothing to type in', async () => {
    await sheet({ canEdit: false });
    expect(keeps()).toBe('16.00');
    type('Price, EUR', '50');
    await new Promise((done) => setTimeout(done, 0));
    expect(sent()).toEqual([]);
  });
  it('a candidate that was dropped says why', async () => {
    await sheet({ dropped: 'too heavy' });
    expect(document.body.textContent).toContain('too heavy');
  });
  it('a scenario says that it is one, and leads back', async () => {
    await sheet({ scenario: true });
    expect(keeps()).toBe('25.00');
    expect(document.body.textContent).toContain('Dearer');
    fireEvent.click(screen.getByRole('button', { name: /Back to the lane/ }));
    await waitFor(() => expect(keeps()).toBe('16.00'));
  });
});

describe('cost families, opened', () => {
  it('goods: price, minimum order, another break', async () => {
    await sheet();
    open('Goods');
    type('Unit price, EUR', '12');
    expect(keeps()).toBe('24.00');
    type('Minimum order', '500');
    expect(document.body.textContent).toContain('The supplier takes no order under 500 pieces');
    expect(keeps()).toBe('–');
  });
  it('goods without a price are not 0: what is kept is not known', async () => {
    await sheet();
    open('Goods');
    type('Unit price, EUR', '');
    expect(keeps()).toBe('–');
    expect(document.body.textContent).toContain('Pay the supplier at most €36.00');
  });
  it('marketplace: a fee that is typed beats the card', async () => {
    await sheet();
    open('Marketplace');
    type('Referral, %', '15');
    expect(keeps()).toBe('14.00');
    type('Item fee, EUR', '0.5');
    expect(keeps()).toBe('13.50');
    type('Referral, %', '');
    expect(keeps()).toBe('15.50');
  });
  it('fulfilment: a fee that is typed; a method whose fee is not known makes it a bound', async () => {
    await sheet();
    open('Fulfilment');
    type('Fulfilment fee, EUR', '3.2');
    expect(keeps()).toBe('12.80');
    type('Fulfilment fee, EUR', '');
    choose('Fulfilled by', 'supplierShips');
    expect(document.body.textContent).toMatch(/keeps under/);
  });
  it('freight that is not known is no 0, and freight that is none is', async () => {
    await sheet();
    open('Way in');
    state('Freight', /not known/);
    expect(document.body.textContent).toMatch(/keeps under/);
    expect(document.body.textContent).toMatch(/Not known yet: freight/);
    state('Freight', /does not apply|none/);
    expect(document.body.textContent).not.toMatch(/keeps under/);
  });
  it('freight leg by leg', async () => {
    await sheet();
    open('Way in');
    state('Freight', /amount|known$|costs|typed/i);
    choose('Charged', 'perUnit');
    type(/^Rate, EUR/, '1.5');
    expect(keeps()).toBe('14.50');
    type('Fuel, %', '10');
    expect(keeps()).toBe('14.35');
  });
  it('other costs and what comes on top', async () => {
    await sheet();
    open('Other');
    type('Profit from a free extra, EUR', '2');
    expect(keeps()).toBe('18.00');
  });
  it('demand: units a month, and the profit that comes of them', async () => {
    await sheet();
    open('Demand');
    choose('How it is known', 'typed');
    type(/Units a month/, '50');
    expect(document.body.textContent).toContain('€800.00');
  });
  it('a family that is opened again closes', async () => {
    await sheet();
    open('Goods');
    expect(screen.queryByLabelText('Minimum order')).not.toBeNull();
    open('Goods');
    expect(screen.queryByLabelText('Minimum order')).toBeNull();
  });
});

describe('beside the breakdown', () => {
  it('what it takes to keep as much as one wants', async () => {
    await sheet();
    const said = () => screen.getByTestId('target-answer').textContent;
    expect(said()).toBe('Price that gives it: €33.33. Purchase price that gives it: €24.00.');
    fireEvent.click(screen.getByRole('button', { name: 'Unit profit' }));
    expect(said()).toBe('Price that gives it: €27.78. Purchase price that gives it: €31.00.');
    type('What if I want, EUR', '10');
    expect(said()).toBe('Price that gives it: €33.33. Purchase price that gives it: €26.00.');
  });
  it('worst and best by a spread', async () => {
    await sheet();
    const worst = () =>
      within(screen.getByRole('row', { name: /^Worst/ }))
        .getAllByRole('cell')
        .map((x) => x.textContent);
    expect(worst()).toEqual(['36.00', '+10%', '10.40', '28.9%']);
    type('Price and cost off by, %', '20');
    expect(worst()).toEqual(['32.00', '+20%', '4.80', '15.0%']);
  });
  it('gates that are ticked by hand, notes, stage and tags are kept', async () => {
    await sheet();
    choose('Demanded', 'yes');
    choose('Stage', 'sampling');
    type('What you found out', 'Ask for a sample');
    await waitFor(() => expect(sent().map((p) => p.path[0])).toEqual(expect.arrayContaining(['stage'])));
    const of = (key: string) => sent().find((p) => p.path[0] === key);
    expect(of('stage')).toMatchObject({ entity: 'candidate', to: 'sampling' });
    await waitFor(() => expect(of('notes')).toMatchObject({ to: 'Ask for a sample' }));
    expect(of('gates')).toMatchObject({ path: ['gates', 'demanded'], to: { passed: true, note: '' } });
  });
});
