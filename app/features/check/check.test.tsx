import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { beforeEach, describe, expect, it } from 'vitest';
import type { CheckKit } from '../../../between/checkKit.ts';
import { shelfListing } from '../../../core/check/schema.ts';
import type { ShelfListing } from '../../../core/check/schema.ts';
import { PLAIN_CARDS, PLAIN_SETTINGS } from '../../../core/testing/plainParts.ts';
import { settings } from '../../../core/workspace/settings.ts';
import { away, stubServer } from '../../ui/testing/server.ts';
import { untilTimersHaveRun } from '../../ui/testing/timers.ts';
import { CheckPage } from './CheckPage.tsx';

const GTIN = '9521000000001';
const LISTING = shelfListing.parse({
  code: 'L1',
  title: 'Cork mat',
  prices: { now: 50, mean30: 42, mean90: 40 },
  units: 60,
  mine: 10,
  rank: 8400,
  ownShop: 0.04,
  permission: 'open',
  kg: 0.4,
  category: 'any',
  asOf: '2026-11-24',
  source: 'feed',
});
const KIT: CheckKit = {
  settings: settings.parse({
    ...PLAIN_SETTINGS,
    defaults: { ...PLAIN_SETTINGS.defaults, prep: 0, returnRate: 0, returnHandling: 0, postagePerParcel: 0 },
  }),
  cards: PLAIN_CARDS,
  today: '2026-11-30',
  markets: [
    {
      key: 'Testmarket/DE',
      name: 'Testmarket DE',
      currency: 'EUR',
      cards: { marketplace: 'm', tax: 't', exchange: null },
    },
  ],
  market: 'Testmarket/DE',
  at: new Date().toISOString(),
};
const said = (listings: readonly ShelfListing[], more: object = {}) =>
  Response.json({
    listings,
    candidate: null,
    mark: null,
    wrong: [],
    hasFeed: true,
    at: new Date().toISOString(),
    ...more,
  });
const server = stubServer(({ url, body }) =>
  url.includes('/check/keep')
    ? Response.json({ taken: (body as { checks: { id: string }[] }).checks.map((c) => c.id), refused: [] })
    : said([LISTING]),
);
beforeEach(() => {
  localStorage.clear();
  cleanup();
});

function shown(kit: CheckKit = KIT, canEdit = true): void {
  const element = <CheckPage kit={kit} person="p1" root="/w/shop" canEdit={canEdit} />;
  render(<RouterProvider router={createMemoryRouter([{ path: '/', element }])} />);
}
const goods = () => screen.getByLabelText('Barcode, listing code or name');
const shelf = () => screen.getByLabelText('On the shelf, EUR');
const type = (field: HTMLElement, value: string) => fireEvent.change(field, { target: { value } });
const verdict = () => screen.getByTestId('verdict').textContent ?? '';

describe('a check on screen', () => {
  it('says what each keeps, the most to pay, and every hurdle', async () => {
    shown();
    type(goods(), GTIN);
    await screen.findByText('Cork mat');
    expect(screen.getByText(/rank 8,400 · 60 a month, about 10 yours · own shop 4% of days/)).toBeTruthy();
    expect(screen.getByText('Permission: open.')).toBeTruthy();
    type(shelf(), '25');
    type(screen.getByLabelText('Off, %'), '20');
    expect(verdict()).toMatch(/Buy\. *Each keeps €16\.00 of €40\.00\. Pay at most €27\.69: it costs €20\.00/);
    expect(verdict()).toContain('ROI 80.0%, you want 30.0%');
    expect(
      screen.getByText(/Reckoned at €40\.00, 90-day mean\. Now it sells for €50\.00, 25% over that/),
    ).toBeTruthy();
    type(shelf(), '60');
    expect(verdict()).toMatch(/It loses\. *Each loses €12\.00 at €40\.00/);
  });
  it('a price that could be two is read aloud as it was understood', async () => {
    shown();
    type(goods(), GTIN);
    await screen.findByText('Cork mat');
    type(shelf(), '1.299');
    expect(screen.getByText('Read as €1.30')).toBeTruthy();
    expect(verdict()).toContain('Buy.');
    type(shelf(), 'cheap');
    expect(screen.getByRole('alert').textContent).not.toBe('');
  });
  it('a slip of one digit is said, and nothing is asked', async () => {
    shown();
    await untilTimersHaveRun(() => type(goods(), '9521000000002'));
    expect(screen.getByText(/its last digit does not fit/)).toBeTruthy();
    expect(server.sent.filter((s) => s.url.includes('/ask'))).toEqual([]);
  });
  it('what is not known is said; one’s own price and size take its place', async () => {
    server.answer = () => said([]);
    shown();
    type(goods(), GTIN);
    await screen.findByText('The market knows no listing of it. Type what it sells for.');
    type(shelf(), '20');
    expect(verdict()).toContain('What one keeps is not known yet.');
    type(screen.getAllByLabelText('Sells for, EUR')[0] as HTMLElement, '40');
    expect(verdict()).toContain('Not decided.');
    fireEvent.change(screen.getByLabelText('Category'), { target: { value: 'any' } });
    type(screen.getByLabelText('Packaged weight, kg'), '0.4');
    expect(verdict()).toContain('Buy.');
  });
  it('several listings: the fastest first, one tap to another', async () => {
    const other = { ...LISTING, code: 'L2', title: 'Cork mat, two', pack: 2, permission: 'closed' as const };
    server.answer = () => said([LISTING, other]);
    shown();
    type(goods(), GTIN);
    await screen.findByText(/fastest of 2 listings/);
    fireEvent.click(screen.getByRole('button', { name: 'Next listing' }));
    expect(screen.getByText('Sold by 2, on the shelf by 1: each sold takes 2 from the shelf.')).toBeTruthy();
    type(shelf(), '3');
    expect(verdict()).toContain('Not yours to sell.');
  });
  it('kept without a network it waits on the device, and can be taken along', async () => {
    shown();
    type(goods(), GTIN);
    await screen.findByText('Cork mat');
    type(shelf(), '20');
    server.answer = away;
    fireEvent.click(screen.getByRole('button', { name: 'Keep 1, next' }));
    await screen.findByText(/1 check waits on this device/);
    expect(screen.getByTestId('tally').textContent).toContain('1 kept, 0 left');
    expect(screen.getByRole('button', { name: 'Take along as a file' })).toBeTruthy();
    expect((goods() as HTMLInputElement).value).toBe('');
  });
  it('what is typed while the last is still being written down stays', async () => {
    shown();
    type(goods(), GTIN);
    await screen.findByText('Cork mat');
    type(shelf(), '20');
    fireEvent.click(screen.getByRole('button', { name: 'Keep 1, next' }));
    type(goods(), 'slate bath');
    await screen.findByText(/Cork mat kept/);
    expect((goods() as HTMLInputElement).value).toBe('slate bath');
    // Both are on one walk, however fast the hand.
    fireEvent.click(screen.getByRole('button', { name: 'Leave' }));
    await waitFor(() => expect(screen.getByTestId('tally').textContent).toContain('1 kept, 1 left'));
  });
  it('what was left may say why, and be taken back', async () => {
    shown();
    type(goods(), GTIN);
    await screen.findByText('Cork mat');
    type(shelf(), '60');
    fireEvent.click(screen.getByRole('button', { name: 'Leave' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Too bulky' }));
    const reasons = () =>
      server.sent
        .filter((s) => s.url.includes('/keep'))
        .flatMap((s) => (s.body as { checks: { reason: string }[] }).checks.map((c) => c.reason));
    await waitFor(() => expect(reasons()).toContain('Too bulky'));
    fireEvent.click(screen.getByRole('button', { name: 'Take back: Cork mat' }));
    expect((shelf() as HTMLInputElement).value).toBe('60.00');
  });
  it('terms of the till come back, what belongs to the goods does not', async () => {
    shown();
    type(screen.getByLabelText('Off, %'), '15');
    type(shelf(), '9');
    cleanup();
    shown();
    await waitFor(() => expect((screen.getByLabelText('Off, %') as HTMLInputElement).value).toBe('15'));
    expect((shelf() as HTMLInputElement).value).toBe('');
  });
  it('whoever only looks checks, and keeps nothing', () => {
    shown(KIT, false);
    expect(screen.queryByRole('button', { name: /Keep/ })).toBeNull();
    expect(screen.getByText(/keeping is for editors/)).toBeTruthy();
  });
  it('without a market there is nothing to check for', () => {
    shown({ ...KIT, markets: [], market: null });
    expect(screen.getByText(/No marketplace is set/)).toBeTruthy();
  });
});
