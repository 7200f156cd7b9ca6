import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import loadHighs from 'highs';
import { useMemo } from 'react';
import { createMemoryRouter, RouterProvider } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { solverOf } from '../../../between/solver.ts';
import { cashTerms } from '../../../core/cash/schema.ts';
import { purseOf } from '../../../core/purse/purse.ts';
import type { PurseDocument } from '../../../core/purse/schema.ts';
import type { PurseSource } from '../../../core/workspace/purse.ts';
import { stubServer } from '../../ui/testing/server.ts';
import { untilTimersHaveRun } from '../../ui/testing/timers.ts';
import { candidate, FOUR, lane, sourceOf, TODAY } from './testing/purseSource.ts';
import { AllMonths } from './AllMonths.tsx';
import { PursePage } from './PursePage.tsx';

const solver = solverOf(await loadHighs());
// Solved where it is asked for: a test has no worker.
vi.mock('./usePurse.ts', () => ({
  usePurse: (document: PurseDocument | null) => {
    const said = useMemo(() => (document === null ? null : purseOf(document, solver)), [document]);
    const step = said === null ? null : { said, stage: 'done', done: 1, all: 1, seconds: 0.4 };
    return { step, state: 'idle', stop: () => undefined };
  },
}));
const server = stubServer(() => Response.json({ refused: [] }));
beforeEach(() => {
  server.sent.splice(0);
  // What one test typed and nobody kept is not the next one's.
  sessionStorage.clear();
});

// Machines that test are busy.
function shown(source: PurseSource, canEdit = true): void {
  const router = createMemoryRouter([
    { path: '/', element: <PursePage source={source} canEdit={canEdit} base="/w/x" />, loader: () => null },
  ]);
  render(<RouterProvider router={router} />);
}
const answer = async (): Promise<string> => (await screen.findByTestId('purse-answer')).textContent ?? '';
const paneOf = (title: string): string => screen.getByText(title).closest('section')?.textContent ?? '';

describe('one purse', () => {
  it('says which to launch, when, what they bring, how low the account falls', async () => {
    shown(sourceOf(FOUR, 2000));
    const text = await answer();
    expect(text).toMatch(/^Launch (one|2)/);
    expect(text).toMatch(/Together €[\d,.]+ by \d+ \w+ 2027; the account never falls under €/);
    expect(text).toContain('there is no better plan.');
    expect(paneOf('Launches over the account they share')).toContain('Product good');
  });
  it('the launches stand in figures, and leave as a file with all of them', async () => {
    shown(sourceOf(FOUR, 8000));
    await answer();
    const table = screen.getByRole('region', { name: 'The launches in figures' });
    const rows = within(table).getAllByRole('row').slice(1);
    expect(rows.length).toBeGreaterThan(0);
    for (const row of rows) {
      expect(row.textContent).toMatch(/^Product (good|fair)/);
      expect(within(row).getAllByRole('cell')).toHaveLength(8);
    }
    expect(paneOf('The launches in figures')).toMatch(/Money needed, EUR/);
  });
  it('each lane says which quantities were tried, one that is left out says none', async () => {
    shown(sourceOf(FOUR, 2000, { out: ['poor/de'] }));
    await answer();
    const row = (name: string): string =>
      screen.getByRole('checkbox', { name: new RegExp(`^In: Product ${name}`) }).closest('tr')?.textContent ??
      '';
    expect(row('good')).toMatch(/\d+ · \d+/);
    expect(row('poor')).toContain('–');
  });
  it('what loses and what is not complete stand aside with the reason', async () => {
    shown(sourceOf(FOUR, 2000));
    await answer();
    const aside = paneOf('Stands aside');
    expect(aside).toMatch(/Product poor.*loses/);
    expect(aside).toMatch(/Product open.*open: preparation/);
  });
  it('what is left out says what it would cost', async () => {
    shown(sourceOf([candidate('good', lane(45)), candidate('fair', lane(38))], 1100, { lastStart: 0 }));
    await answer();
    expect(paneOf('Left out, and what it would cost')).toMatch(/Product fair.*−€[\d,.]+/);
  });
  it('must, never together and ticks are kept, and solved anew', async () => {
    shown(sourceOf(FOUR, 8000));
    await answer();
    fireEvent.click(screen.getByRole('checkbox', { name: /^Must: Product poor/ }));
    await waitFor(() => expect(paneOf('Launches over the account they share')).toContain('Product poor'));
    fireEvent.click(screen.getByRole('checkbox', { name: /^In: Product good/ }));
    await waitFor(() => expect(paneOf('Launches over the account they share')).not.toContain('Product good'));
    for (const name of ['fair', 'poor'])
      fireEvent.click(
        screen.getByRole('checkbox', { name: new RegExp(`^The ticked never together: Product ${name}`) }),
      );
    fireEvent.click(screen.getByRole('button', { name: 'The ticked never together' }));
    await waitFor(() => expect(paneOf('Launches over the account they share')).not.toContain('Product fair'));
    await waitFor(() => expect(server.sent.length).toBeGreaterThan(0), { timeout: 3000 });
    expect(server.sent.at(-1)?.body).toMatchObject({
      act: 'keep',
      changed: { must: { 'poor/de': true }, out: ['good/de'], neverTogether: [['fair/de', 'poor/de']] },
    });
    fireEvent.click(screen.getByRole('button', { name: /^Take back: must: Product poor/ }));
    await waitFor(() => expect(paneOf('Launches over the account they share')).toContain('Product fair'));
  });
  it('another start week, by key, pins the launch there', async () => {
    shown(sourceOf([candidate('good', lane(45))], 8000));
    await answer();
    fireEvent.change(screen.getByLabelText(/^Product good.*start week/), { target: { value: '5' } });
    await waitFor(() => expect(paneOf('Rules')).toMatch(/pinned: Product good.*5 Jan/));
    expect(paneOf('Launches over the account they share')).toContain('ordered 5 Jan · pinned');
  });
  it('must-haves that do not fit are named with the cash that would let them', async () => {
    shown(sourceOf([candidate('good', lane(45))], 300, { must: { 'good/de': true } }));
    const text = await answer();
    expect(text).toMatch(/does not fit: Product good.*It would take €1,000\.00 of cash/);
  });
  it('a must-have that is not complete is named, and its reason stands beside', async () => {
    shown(sourceOf(FOUR, 9000, { must: { 'open/de': true } }));
    expect(await answer()).toMatch(/What must be launched cannot be: Product open/);
    expect(paneOf('Stands aside')).toMatch(/Product open.*open: preparation/);
  });
  it('must-haves that exclude each other say so', async () => {
    const rules = { must: { 'good/de': true, 'fair/de': true }, neverTogether: [['good/de', 'fair/de']] };
    shown(sourceOf(FOUR, 9000, rules));
    expect(await answer()).toContain('excludes each other');
  });
  it('without cash, without lanes, and with too much kept back there is no plan, and why is said', async () => {
    shown(sourceOf(FOUR, null));
    expect(await answer()).toContain('Enter the cash you have');
    screen.getByLabelText('Kept back, EUR');
    const field = screen.getByLabelText('Cash at hand, EUR');
    fireEvent.focus(field);
    fireEvent.change(field, { target: { value: '500' } });
    fireEvent.blur(field);
    const back = screen.getByLabelText('Kept back, EUR');
    fireEvent.focus(back);
    fireEvent.change(back, { target: { value: '900' } });
    fireEvent.blur(back);
    // At the field, and where the plan would stand.
    expect(await screen.findAllByText('More is kept back than there is')).toHaveLength(2);
    expect(await answer()).toBe('More is kept back than there is');
  });
  it('no candidate: what to do first', async () => {
    shown(sourceOf([], 900));
    expect(await answer()).toContain('No lane is complete enough');
  });
  it('nothing that pays is no launch', async () => {
    shown(sourceOf([candidate('poor', lane(20))], 9000));
    expect(await answer()).toContain('No launch pays with this cash');
  });
  it('the plan becomes that of the candidates', async () => {
    shown(sourceOf([candidate('good', lane(45))], 8000));
    await answer();
    fireEvent.click(screen.getByRole('button', { name: 'Make this the plan' }));
    await screen.findByText(/launch plans of 1 candidates start/);
    const adopt = server.sent.find((s) => (s.body as { act: string }).act === 'adopt');
    expect(adopt?.body).toMatchObject({
      launches: [
        {
          candidate: 'good',
          lane: 'de',
          quantity: expect.any(Number),
          start: expect.stringMatching(/^202[67]-/),
        },
      ],
    });
  });
  it('a viewer tries rules and keeps none', async () => {
    shown(sourceOf(FOUR, 8000), false);
    await answer();
    expect(screen.queryByRole('button', { name: 'Make this the plan' })).toBeNull();
    await untilTimersHaveRun(() =>
      fireEvent.click(screen.getByRole('checkbox', { name: /^In: Product good/ })),
    );
    await waitFor(() => expect(paneOf('Launches over the account they share')).not.toContain('Product good'));
    expect(server.sent).toEqual([]);
  });
});

describe('all launches', () => {
  const months = (source: PurseSource): void => {
    const router = createMemoryRouter([
      { path: '/', element: <AllMonths source={source} base="/w/x" />, loader: () => null },
    ]);
    render(<RouterProvider router={router} />);
  };
  it('none yet leads to the purse', async () => {
    months(sourceOf(FOUR, 2000));
    expect((await screen.findByTestId('months-answer')).textContent).toContain(
      'No candidate has a launch plan',
    );
    expect(screen.getAllByRole('link', { name: 'One purse' }).length).toBeGreaterThan(0);
  });
  it('names period, launches and assumptions, with a range', async () => {
    const planned = {
      overTime: cashTerms.parse({ start: TODAY, reorder: { kind: 'none' } }),
      launchLane: 'de',
    };
    months(
      sourceOf(
        [candidate('good', lane(45), planned), candidate('open', lane(40, { prep: null }), planned)],
        2000,
      ),
    );
    const text = (await screen.findByTestId('months-answer')).textContent ?? '';
    expect(text).toContain(
      'From 1 Dec 2026 to 1 Dec 2027, one launch as planned: between €2,050.00 and €2,050.00',
    );
    expect(text).toContain('€4,500.00 of gross sales');
    expect(screen.getByText(/Each by its own plan: Product good, 100 on 1 Dec/)).toBeTruthy();
    expect(screen.getByText(/Product open: .*preparation/)).toBeTruthy();
    const table = within(screen.getByRole('region', { name: 'All launches, month by month' }));
    expect(table.getAllByRole('row')).toHaveLength(1 + 13 + 1);
  });
});
