// @vitest-environment jsdom
import '../../ui/testing/dom.ts';
import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import type { ReactElement } from 'react';
import { describe, expect, it } from 'vitest';
import { settlementMap } from '../../../core/actuals/schema.ts';
import { actualOf } from '../../../core/actuals/actual.ts';
import { compare, standsAt } from '../../../core/actuals/compare.ts';
import type { Compared } from '../../../core/actuals/compare.ts';
import type { KindSums } from '../../../core/actuals/sums.ts';
import { plainLane } from '../../../core/testing/documents.ts';
import { LaunchedPage } from './LaunchedPage.tsx';
import { barOf } from './parts.tsx';
import { ReportPage } from './ReportPage.tsx';
import { SellingPage } from './SellingPage.tsx';

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
function shown(element: ReactElement, answer: object = {}) {
  const acts: unknown[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/selling',
      Component: () => element,
      action: async ({ request }) => {
        acts.push(await request.json());
        return answer;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/selling']} />);
  return acts;
}
const lineOf = (name: string, whole: Compared | null) => ({
  laneId: name,
  name,
  place: 'Alderway/DE',
  codes: ['A'],
  since: '2026-10-01',
  until: null,
  stands: whole === null ? ({ standing: 'open', because: null, amount: null } as const) : standsAt(whole),
  whole,
});
const selling = (over: Partial<Parameters<typeof SellingPage>[0]> = {}) => (
  <SellingPage
    lanes={[]}
    mix={null}
    unknown={[]}
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

describe('a lane on sale', () => {
  it('shows its lines, its parts and its months; what was paid for losses lowers other costs', async () => {
    const whole = compared(12, 25, 60);
    const page = {
      ...lineOf('Bird bath', whole),
      candidateId: 'c1',
      months: [{ month: '2026-10', compared: whole }],
      whole: { ...whole, stands: standsAt(whole) },
    };
    shown(<LaunchedPage page={page} base="/w/shop" canEdit />);
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
    expect(barOf(refunded, 'actual').families.other).toBe(-9);
    expect(barOf(refunded, 'planned').families.other).toBe(0);
    expect(refunded.parts?.volume).toBeNull();
  });
});

describe('a report', () => {
  const map = settlementMap.parse({
    columns: { day: 'Date', kind: 'What' },
    amounts: [{ column: 'Sum' }],
    kinds: { sold: 'sale' },
  });
  const report = (over: Partial<Parameters<typeof ReportPage>[0]> = {}) => (
    <ReportPage
      id="r1"
      name="october"
      sheet={null}
      sheets={['']}
      header={['Date', 'What', 'Sum', 'Fee']}
      rows={[['2026-10-01', 'Sold', '30', '-3']]}
      map={map}
      guessed={map}
      earlier={{}}
      place={null}
      places={[{ marketplace: 'Alderway', country: 'DE', currency: 'EUR' }]}
      said={null}
      sameAs={null}
      base="/w/shop"
      canEdit
      {...over}
    />
  );
  it('is read once it is said where it is from, with the columns as they were chosen', async () => {
    const acts = shown(report());
    const read = await screen.findByRole('button', { name: 'Read the report' });
    expect(read.hasAttribute('disabled')).toBe(true);
    fireEvent.change(screen.getByLabelText('Marketplace and country'), { target: { value: 'Alderway/DE' } });
    fireEvent.change(screen.getByLabelText('Tax'), { target: { value: 'Fee' } });
    fireEvent.change(screen.getByLabelText('Amounts'), { target: { value: 'beside' } });
    fireEvent.change(screen.getByLabelText('Decimals'), { target: { value: 'comma' } });
    fireEvent.change(screen.getByLabelText('Days'), { target: { value: 'monthFirst' } });
    fireEvent.change(screen.getByLabelText('Signs'), { target: { value: 'bare' } });
    fireEvent.click(screen.getByRole('button', { name: 'Another column of amounts' }));
    fireEvent.change(screen.getAllByLabelText('is')[1] as HTMLElement, { target: { value: 'referral' } });
    fireEvent.change(screen.getAllByLabelText('Amount')[1] as HTMLElement, { target: { value: 'Fee' } });
    fireEvent.change(screen.getByLabelText('Tax'), { target: { value: '' } });
    fireEvent.click(read);
    await waitFor(() => expect(acts).toHaveLength(1));
    expect(acts[0]).toMatchObject({
      intent: 'read',
      place: { marketplace: 'Alderway', country: 'DE', currency: 'EUR' },
      map: {
        columns: { day: 'Date', kind: 'What' },
        amounts: [
          { column: 'Sum', kind: null },
          { column: 'Fee', kind: 'referral' },
        ],
        decimal: 'comma',
        days: 'monthFirst',
        signs: 'bare',
        tax: 'beside',
      },
    });
  });
  it('takes up what was said of the place that is chosen, and of no other', async () => {
    const earlier = { 'Alderway/DE': { ...map, kinds: { fee: 'referral' as const } } };
    const acts = shown(
      report({
        map: null,
        earlier,
        places: [
          { marketplace: 'Alderway', country: 'DE', currency: 'EUR' },
          { marketplace: 'Nordkai', country: 'DE', currency: 'EUR' },
        ],
      }),
    );
    const read = await screen.findByRole('button', { name: 'Read the report' });
    const choose = (value: string) =>
      fireEvent.change(screen.getByLabelText('Marketplace and country'), { target: { value } });
    choose('Alderway/DE');
    fireEvent.click(read);
    await waitFor(() => expect(acts).toHaveLength(1));
    choose('Nordkai/DE');
    await waitFor(() => expect(read.hasAttribute('disabled')).toBe(false));
    fireEvent.click(read);
    await waitFor(() => expect(acts).toHaveLength(2));
    expect(acts.map((a) => (a as { map: { kinds: object } }).map.kinds)).toEqual([
      { fee: 'referral' },
      map.kinds,
    ]);
  });
  it('says what waits and what was refused; a kind that is said goes with the next reading', async () => {
    const said = {
      rows: 3,
      lines: 1,
      amount: 300_000,
      waiting: [{ kind: 'levy', lines: 1, amount: -50_000 }],
      refusedRows: 1,
      refusedAmount: 10_000,
      refused: [{ row: 4, message: '"x" is no day.' }],
    };
    const place = { marketplace: 'Alderway', country: 'DE', currency: 'EUR' };
    const acts = shown(report({ said, place, sameAs: 'september' }));
    expect((await screen.findByTestId('report-said')).textContent).toBe(
      'Lines that count: 1, which come to €30.00. Rows read: 3. 1 row is refused; its amounts come to €1.00.',
    );
    expect(screen.getByText(/very same file as “september”/)).toBeTruthy();
    expect(screen.getByText('"x" is no day.')).toBeTruthy();
    fireEvent.change(screen.getByLabelText(/^levy/), { target: { value: 'other' } });
    expect(screen.getByText('Read it again for what was changed here to count.')).toBeTruthy();
    fireEvent.change(screen.getByLabelText('sold'), { target: { value: '' } });
    fireEvent.click(screen.getByRole('button', { name: 'Read again' }));
    await waitFor(() => expect(acts).toHaveLength(1));
    expect((acts[0] as { map: { kinds: object } }).map.kinds).toEqual({ levy: 'other' });
    fireEvent.click(screen.getByRole('button', { name: 'Take the report back' }));
    await waitFor(() => expect(acts[1]).toEqual({ intent: 'takeBack' }));
  });
});
