import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Observation } from '../../../core/evidence/observed.ts';
import { packDays } from '../../../core/evidence/series.ts';
import { dayRow } from '../../../core/evidence/schema.ts';
import { dayAgo, LOOK, marketServer, seen, shown, term } from './testing/shown.tsx';

const { answers, bodies } = marketServer();
beforeEach(() => answers.clear());

const region = (name: string): Promise<HTMLElement> => screen.findByRole('region', { name });
/** The texts of a table's rows, without its head. */
const rowsOf = (of: HTMLElement): string[] =>
  within(of)
    .getAllByRole('row')
    .slice(1)
    .map((r) => r.textContent ?? '');
const cellsOf = (of: HTMLElement, row: number): string[] =>
  [...(within(of).getAllByRole('row')[row]?.querySelectorAll('td') ?? [])].map((c) => c.textContent ?? '');
const decisions = () => bodies('/act').filter((b) => b.intent === 'decide');
/** The lane lacks what its duty is: what it keeps is no more than what stands. */
const LACKS = { imported: true };
const field = (label: string | RegExp, value: string): void => {
  const input = screen.getByLabelText(label);
  fireEvent.focus(input);
  fireEvent.change(input, { target: { value } });
  fireEvent.blur(input);
};

describe('where the lane lacks a cost', () => {
  it('whatever a unit keeps is said as the bound it is: sentence, offers, variations, days', async () => {
    await shown({ lane: LACKS });
    const sentence = screen.getByTestId('market-sentence').textContent ?? '';
    expect(sentence).toMatch(/keeps under/);
    expect(sentence).toMatch(/or more of/);
    const offers = await region('Offers');
    expect(cellsOf(offers, 1)[1]).toMatch(/^under /);
    const variations = await region('Variations');
    expect(cellsOf(variations, 1).at(-1)).toMatch(/^under /);
    fireEvent.click(await screen.findByRole('button', { name: 'As a table' }));
    expect(cellsOf(await region('The margin over time'), 1)[1]).toMatch(/^under /);
  });
  it('a lane that lacks nothing says plain figures', async () => {
    await shown();
    expect(screen.getByTestId('market-sentence').textContent).not.toMatch(/under|or more/);
    expect(cellsOf(await region('Offers'), 1)[1]).not.toMatch(/under/);
  });
});

describe('variations', () => {
  it('each has its share, its units and what it keeps; how many pay is said', async () => {
    await shown();
    const table = await region('Variations');
    expect(cellsOf(table, 1).slice(0, 3)).toEqual(['75%', '75', '42.00']);
    expect(cellsOf(table, 2).slice(0, 3)).toEqual(['25%', '25', '2.00']);
    expect(screen.getByText(/one pays/)).toBeTruthy();
  });
  it('own cost and stock are kept with the other figure of the same variation', async () => {
    await shown({ watch: { variations: { v1: { cost: 4, stock: null } } } });
    await region('Variations');
    field('To be had of small at the source', '60');
    await waitFor(() =>
      expect(decisions().at(-1)?.change).toEqual({ variations: { v1: { cost: 4, stock: 60 } } }),
    );
    field('My cost of large', '1.5');
    await waitFor(() =>
      expect(decisions().at(-1)?.change).toEqual({ variations: { v2: { cost: 1.5, stock: null } } }),
    );
  });
  it('a cheaper source keeps what it saves, at once', async () => {
    await shown();
    const table = await region('Variations');
    const before = Number(cellsOf(table, 1).at(-1));
    // The lane buys at 20.
    field('My cost of small', '12');
    await waitFor(() => expect(Number(cellsOf(table, 1).at(-1))).toBeCloseTo(before + 8, 2));
  });
  it('a lane without a quote has no currency for a cost, and whoever only looks types nothing', async () => {
    await shown({ lane: { components: [] } });
    await region('Variations');
    expect(screen.queryByLabelText('My cost of small')).toBeNull();
    expect(screen.getByLabelText('To be had of small at the source')).toBeTruthy();
  });
  it('are read only by a viewer', async () => {
    await shown({ canEdit: false, watch: { variations: { v1: { cost: 4, stock: 60 } } } });
    const table = await region('Variations');
    expect(screen.queryByLabelText(/at the source/)).toBeNull();
    expect(cellsOf(table, 1).slice(3, 5)).toEqual(['4', '60']);
  });
});

describe('all countries', () => {
  const FRANCE: Observation[] = [
    seen('terms', { terms: [term('bain oiseaux pierre', 900), term('bain', 1000)] }),
    seen('bids', { bids: [{ term: 'bain oiseaux pierre', low: 0.3, high: 0.3, match: 'exact' }] }),
    seen('permission', { state: 'closed' }),
  ];
  it('stand in one table, the best first, each with what its market says', async () => {
    await shown({ search: '?all=1', other: FRANCE });
    const table = await region('All countries');
    const rows = rowsOf(table);
    expect(rows).toHaveLength(2);
    const [germany, france] = ['Germany', 'France'].map((c) => rows.find((r) => r.startsWith(c)));
    expect(germany).toContain('approval');
    expect(germany).toMatch(/2 of 3|3 of 3/);
    expect(france).toContain('closed');
    // Nobody has said anything of rivals or prices in France.
    expect(france).toContain('–');
  });
  it('the terms of every country are listed in their own words, with season and bids', async () => {
    await shown({ search: '?all=1', other: FRANCE });
    const table = await region('Terms in every country');
    const rows = rowsOf(table);
    expect(rows.some((r) => r.includes('bird bath stoneware') && r.includes('0.40–€0.90'))).toBe(true);
    const french = rows.find((r) => r.includes('bain oiseaux pierre'));
    expect(french).toContain('€0.30');
    expect(within(table).getAllByRole('rowheader')).toHaveLength(2);
  });
  it('a country leads to its market; one country alone has no table of several', async () => {
    await shown({ search: '?all=1', other: FRANCE });
    fireEvent.click(within(await region('All countries')).getByRole('button', { name: 'France' }));
    await waitFor(() => expect(screen.getByTestId('market-sentence').textContent).toContain('France'));
    expect(screen.queryByRole('region', { name: 'All countries' })).toBeNull();
  });
  it('where no terms are known in any of them there is no table of terms', async () => {
    await shown({ search: '?all=1', observations: [seen('permission', { state: 'open' })] });
    await region('All countries');
    expect(screen.queryByRole('region', { name: 'Terms in every country' })).toBeNull();
  });
});

describe('days, gaps and promotions', () => {
  const days = (own: (i: number) => object): Observation[] => [
    seen(
      'history',
      packDays(
        Array.from({ length: 40 }, (_, i) => dayRow.parse({ day: dayAgo(39 - i), price: 40, ...own(i) })),
        'EUR',
      ),
    ),
  ];
  it('promotions and the own shop are stripes that say how many days they are', async () => {
    await shown({ observations: days((i) => ({ promotion: i < 3, ownShop: i % 2 === 0, rank: 9 })) });
    expect(await screen.findByRole('group', { name: '3 days of promotions' })).toBeTruthy();
    expect(screen.getByRole('group', { name: /own shop offered on 20 of 40 days/ })).toBeTruthy();
    expect(screen.getByRole('group', { name: /^Rank over time/ })).toBeTruthy();
  });
  it('what is not known has no row: no promotion, no rank, no shop', async () => {
    await shown({ observations: days(() => ({})) });
    await screen.findByRole('img', { name: /^Price and margin of \d+ days/ });
    expect(screen.queryByRole('group', { name: /promotion|Rank over time|own shop/ })).toBeNull();
  });
  it('a day is read by keys: its price and what a unit would have kept, or that nobody offered', async () => {
    await shown({ observations: days((i) => ({ ...(i === 3 && { price: null }) })) });
    const slider = await screen.findByRole('slider', { name: 'Day of the chart' });
    const said = (): string => screen.getByTestId('market-day').textContent ?? '';
    expect(said()).toMatch(/\d{4} · €[\d.]+: one unit keeps/);
    fireEvent.change(slider, { target: { value: '3' } });
    expect(said()).toMatch(/nobody$/);
    fireEvent.change(slider, { target: { value: '4' } });
    expect(said()).toMatch(/one unit keeps/);
  });
  it('the same figures are a table one step away, a day nobody offered said as such', async () => {
    await shown({
      observations: days((i) => ({ price: i === 39 ? null : 41, offers: 2, promotion: i === 38 })),
    });
    fireEvent.click(await screen.findByRole('button', { name: 'As a table' }));
    const table = await region('The margin over time');
    expect(rowsOf(table)).toHaveLength(40);
    expect(cellsOf(table, 1)).toEqual(['nobody', '–', '–', '2', '–', 'no']);
    expect(cellsOf(table, 2)).toEqual(['€41.00', expect.stringMatching(/€/), '–', '2', '–', 'yes']);
  });
});

describe('terms', () => {
  const placed = { ...term('bird bath stoneware', 3000), freePlace: 3, paidPlace: 1 };
  it('say their places, and hold or lack words', async () => {
    await shown({ observations: [seen('terms', { terms: [placed, term('bath', 1000)] })] });
    const table = await region('Terms');
    expect(rowsOf(table)[0]).toContain('free place 3, paid place 1');
    fireEvent.change(screen.getByLabelText('With the words'), { target: { value: 'stoneware' } });
    await waitFor(() => expect(rowsOf(table)).toHaveLength(1));
    fireEvent.change(screen.getByLabelText('Without'), { target: { value: 'bird' } });
    await waitFor(() => expect(within(table).queryAllByRole('row')).toHaveLength(1));
  });
  it('of one match type the bids are shown, and another may be chosen', async () => {
    await shown();
    fireEvent.change(await screen.findByLabelText('Bids of match'), { target: { value: 'broad' } });
    await waitFor(() => expect(decisions().at(-1)?.change).toEqual({ match: 'broad' }));
  });
});

describe('rivals', () => {
  it('a row leads to its listing, its brand and its seller', async () => {
    const rows = [{ listing: 'R1', title: 'Stone bath', brand: 'Fenlow & Co', seller: 'Reed', price: 25 }];
    await shown({ observations: [seen('rivals', { currency: 'EUR', rows })] });
    const href = (name: string) => screen.getByRole('link', { name }).getAttribute('href');
    expect(href('R1')).toBe('/w/shop/find/listing?market=Somewhere%2FDE&code=R1');
    expect(href('Fenlow & Co')).toBe(
      '/w/shop/find/market?market=Somewhere%2FDE&brand=Fenlow+%26+Co&sort=units',
    );
    expect(href('Reed')).toContain('seller=Reed');
  });
  it('the listing that is followed leads to its page where there is a feed', async () => {
    await shown({ hasFeed: true, watch: { listing: 'L9' } });
    expect(screen.getByRole('link', { name: 'Look at it' }).getAttribute('href')).toContain('code=L9');
  });
});

describe('bringing evidence in', () => {
  const open = async (): Promise<void> => {
    await shown();
    fireEvent.click(screen.getByRole('button', { name: 'Bring evidence in' }));
    await screen.findByLabelText('What it is');
  };
  const paste = (text: string): void =>
    void fireEvent.change(screen.getByLabelText(/Or paste or type rows/), { target: { value: text } });
  it('every kind has its help and an example to fill in', async () => {
    await open();
    const kinds = within(screen.getByLabelText('What it is')).getAllByRole('option');
    expect(kinds.map((k) => (k as HTMLOptionElement).value)).toEqual([
      'terms',
      'bids',
      'rivals',
      'history',
      'offers',
      'units',
      'complaints',
      'permission',
    ]);
    for (const kind of ['units', 'complaints']) {
      fireEvent.change(screen.getByLabelText('What it is'), { target: { value: kind } });
      const example = await screen.findByRole('link', { name: 'An example to fill in' });
      expect(example.getAttribute('href')).toBe(`/examples/${kind}.csv`);
    }
  });
  it('pasted rows are looked at, kept on demand, and what was kept is said', async () => {
    await open();
    answers.set('/market/file', () =>
      Response.json({
        ...LOOK,
        stops: [],
        faults: [],
        faultCount: 0,
        good: 2,
        map: { ...LOOK.map, columns: {} },
      }),
    );
    fireEvent.change(screen.getByLabelText('What it is'), { target: { value: 'units' } });
    paste('Month,Units\n2026-09,4\n2026-10,5');
    const keep = await screen.findByRole('button', { name: 'Keep 2 rows' });
    expect(bodies('/market/file').at(-1)).toMatchObject({
      kind: 'units',
      take: 'look',
      market: 'Somewhere/DE',
    });
    answers.set('/market/file', () =>
      Response.json({ ...LOOK, kept: true, stops: [], faults: [], faultCount: 0, good: 2 }),
    );
    fireEvent.click(keep);
    expect(await screen.findByText('Kept: 2 rows of units.')).toBeTruthy();
    expect(bodies('/market/file').at(-1)).toMatchObject({ take: 'keep' });
  });
  it('what the server refuses is said, and what was pasted stays', async () => {
    await open();
    answers.set('/market/file', () => Response.json({ error: 'Too many rows.' }, { status: 422 }));
    paste('Term\na');
    expect(await screen.findByText('Too many rows.')).toBeTruthy();
    expect((screen.getByLabelText(/Or paste or type rows/) as HTMLTextAreaElement).value).toBe('Term\na');
    expect(screen.queryByRole('button', { name: /^Keep \d/ })).toBeNull();
  });
});
