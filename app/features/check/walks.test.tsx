import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { CheckGist } from '../../../core/check/check.ts';
import { shelfCheck } from '../../../core/check/schema.ts';
import type { CheckSession } from '../../../core/check/schema.ts';
import { WalkPage } from './WalkPage.tsx';
import { Walks } from './Walks.tsx';

const SESSION: CheckSession = {
  id: crypto.randomUUID(),
  name: '',
  stretches: [{ from: '2026-11-30T09:00:00.000Z', to: '2026-11-30T09:26:00.000Z' }],
  ended: true,
  changedAt: '2026-11-30T09:26:00.000Z',
};
const NOW = '2026-11-30T12:00:00.000Z';
const GIST: CheckGist = {
  verdict: 'buy',
  currency: 'EUR',
  price: 40,
  unitProfit: 16,
  roi: 0.8,
  mostShelf: 34.6154,
  perMonthHome: 160,
  lacks: [],
  missed: null,
};
const check = (
  name: string,
  over: object = {},
  said: Partial<CheckGist> = {},
  candidateId: string | null = null,
) => {
  const data = shelfCheck.parse({
    id: crypto.randomUUID(),
    session: SESSION.id,
    at: NOW,
    changedAt: NOW,
    name,
    market: 'Alderway/DE',
    cards: { marketplace: 'm', tax: null, exchange: null },
    shelf: 25,
    till: { currency: 'EUR' },
    state: 'kept',
    ...over,
  });
  return { id: data.id, data, said: { ...GIST, ...said }, candidateId };
};

function shown(element: React.ReactElement) {
  const sent: unknown[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/checks',
      Component: () => element,
      action: async ({ request }) => {
        sent.push(await request.json());
        return {};
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/checks']} />);
  return sent;
}
const page = (checks: readonly ReturnType<typeof check>[], canEdit = true) =>
  shown(
    <WalkPage
      found={{ session: SESSION, checks, homeCurrency: 'EUR' }}
      now={NOW}
      root="/w/shop"
      canEdit={canEdit}
    />,
  );
const row = (name: string): string =>
  screen.getByRole('rowheader', { name }).closest('tr')?.textContent ?? '';

describe('a walk summed up', () => {
  it('says what was kept, in how long, and what it would bring; each check with its figures', () => {
    page([check('Cork mat'), check('Bell', { state: 'left', reason: 'Damaged' }, { perMonthHome: 900 })]);
    expect(screen.getByTestId('walk-said').textContent).toBe(
      '1 of 2 kept in 26 minutes. They would bring €160.00 a month.',
    );
    // What may be paid is rounded down.
    expect(row('Cork mat')).toMatch(/€25\.00€40\.00€16\.0080\.0%€34\.611€160\.00kept/);
    expect(row('Bell')).toContain('left: Damaged');
  });
  it('what lacks costs is a bound in every figure, what is not known in none', () => {
    page([
      check('Cork mat', {}, { lacks: ['prep'] }),
      check(
        'Bell',
        {},
        { unitProfit: null, roi: null, mostShelf: null, perMonthHome: null, lacks: ['prep'] },
      ),
    ]);
    expect(row('Cork mat')).toMatch(/under €16\.00under 80\.0%less than €34\.611under €160\.00/);
    expect(row('Bell')).not.toMatch(/under|less/);
    expect(screen.getByTestId('walk-said').textContent).toContain('1 of them not known');
  });
  it('why it was left is the hurdle it missed, where nobody said why', () => {
    page([check('Bell', { state: 'left' }, { missed: 'roi' })]);
    expect(row('Bell')).toContain('left: ROI');
    // Nothing was kept: there is nothing to make candidates of.
    expect(screen.queryByRole('button', { name: 'Weigh the kept' })).toBeNull();
  });
  it('what was kept is weighed or made a list of; a decision is changed', async () => {
    const [kept, left] = [check('Cork mat'), check('Bell', { state: 'left' })];
    const sent = page([kept, left]);
    fireEvent.click(screen.getByRole('button', { name: 'Weigh the kept' }));
    await waitFor(() =>
      expect(sent).toEqual([
        { intent: 'weigh', ids: [kept.id], notes: 'Checked at a shelf on 30 Nov 2026.' },
      ]),
    );
    fireEvent.click(screen.getByRole('button', { name: 'Make a list of the kept' }));
    await waitFor(() => expect(sent[1]).toEqual({ intent: 'list', name: 'Finds of 30 Nov 2026' }));
    fireEvent.click(screen.getByRole('button', { name: 'Keep after all: Bell' }));
    await waitFor(() => expect(sent[2]).toEqual({ intent: 'decide', ids: [left.id], state: 'kept' }));
  });
  it('what is a candidate already leads there; whoever only looks changes nothing', () => {
    page([check('Cork mat', {}, {}, 'c9'), check('Bell')], false);
    const link = within(screen.getByRole('rowheader', { name: 'Cork mat' }).closest('tr') as HTMLElement);
    expect(link.getByRole('link', { name: 'Weighed' }).getAttribute('href')).toBe('/w/shop/weigh/c9');
    expect(screen.queryAllByRole('button', { name: /after all|Weigh|list/ })).toEqual([]);
  });
  it('one that this device has not sent yet says so', () => {
    shown(<WalkPage found={null} now={NOW} root="/w/shop" canEdit />);
    expect(screen.getByText(/Nothing was checked on this walk/)).toBeTruthy();
  });
});

describe('all walks', () => {
  const all = (canEdit = true) =>
    shown(
      <Walks
        lines={[{ session: SESSION, checked: 12, kept: 5 }]}
        now={NOW}
        told={null}
        root="/w/shop"
        canEdit={canEdit}
      />,
    );
  const choose = (text: string) => {
    const file = Object.assign(new File([text], 'checks.json'), { text: async () => text });
    fireEvent.change(screen.getByLabelText('Take in a file of checks'), { target: { files: [file] } });
  };
  it('stand with their day, minutes and finds', () => {
    all(false);
    expect(screen.getByRole('link', { name: '30 Nov 2026, 26 minutes' })).toBeTruthy();
    expect(screen.getByRole('listitem').textContent).toMatch(/12 checked5 kept$/);
    expect(screen.queryByLabelText('Take in a file of checks')).toBeNull();
  });
  it('a file of checks is taken in; one that is none is said', async () => {
    const sent = all();
    choose('no JSON');
    await screen.findByText('This is no file of checks.');
    choose('{"format":"bold-margin/checks"}');
    await waitFor(() => expect(sent).toEqual([{ format: 'bold-margin/checks' }]));
  });
});
