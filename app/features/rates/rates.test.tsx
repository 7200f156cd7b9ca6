import { cleanup, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { ReactElement } from 'react';
import type { MarketplaceCard, TaxCard } from '../../../core/cards/rates.ts';
import { tablesOf } from '../../../core/cards/tables.ts';
import { allFees, triedOn } from '../../../core/compare/tryItem.ts';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { ExchangeTable } from '../../../core/money/money.ts';
import { starterCards } from '../../../demo/starterCards.ts';
import { stubServer } from '../../ui/testing/server.ts';
import { DraftPage } from './Draft.tsx';
import { RatesPage } from './Rates.tsx';
import type { Answer, Props, Version } from './Rates.tsx';
import { TouchPage } from './Touch.tsx';

const server = stubServer(() => Response.json({ edition: 2 }));
const ALL = starterCards();
const cardOf = (kind: string, key: string) => {
  const found = ALL.find((c) => c.kind === kind && c.key === key);
  if (found === undefined) throw new Error(`No card ${kind} ${key}`);
  return found;
};
const ALDERWAY = cardOf('marketplace', 'Alderway/DE');
const NORDKAI = cardOf('marketplace', 'Nordkai/DE');
const GERMANY = cardOf('tax', 'DE');
const EXCHANGE = cardOf('exchange', 'exchange');
const version = (c: typeof ALDERWAY, over: Partial<Version> = {}): Version => ({
  id: c.key,
  kind: c.kind,
  key: c.key,
  name: c.name,
  inForceFrom: c.inForceFrom,
  example: true,
  withdrawn: false,
  ...over,
});

/** A page under a workspace; what is posted is noted, and answered. */
function shown(element: ReactElement, answer: Answer | null = null) {
  const posted: Record<string, unknown>[] = [];
  const action = async ({ request }: { request: Request }) => {
    const json = request.headers.get('content-type')?.includes('json');
    posted.push(json ? await request.json() : Object.fromEntries(await request.formData()));
    return answer;
  };
  const Stub = createRoutesStub([{ path: '/w/:workspace/rates', Component: () => element, action }]);
  render(<Stub initialEntries={['/w/shop/rates']} />);
  return posted;
}
const rates = (over: Partial<Props> = {}, answer: Answer | null = null) =>
  shown(
    <RatesPage
      versions={[ALDERWAY, NORDKAI, GERMANY, EXCHANGE].map((c) => version(c))}
      drafts={[{ id: 'd', kind: 'marketplace', name: 'Alderway DE' }]}
      chosen={{ ...version(ALDERWAY), data: ALDERWAY.data }}
      against={null}
      changes={[]}
      hideExamples={false}
      tax={GERMANY.data}
      beside={null}
      exchange={EXCHANGE.data as ExchangeTable}
      homeCurrency="EUR"
      standings={{ DE: { kind: 'registered' } }}
      proofs={[]}
      today="2026-11-28"
      base="/w/shop"
      canEdit
      outside
      {...over}
    />,
    answer,
  );

describe('the cards of a workspace', () => {
  it('stand by kind, drafts first; one is found by its name', () => {
    rates();
    expect(screen.getByRole('link', { name: 'Nordkai DE' }).getAttribute('href')).toContain('card=Nordkai');
    fireEvent.change(screen.getByLabelText('Find a card'), { target: { value: 'nord' } });
    expect(screen.queryByRole('link', { name: 'Germany' })).toBeNull();
    expect(screen.getByRole('link', { name: 'Nordkai DE' })).toBeTruthy();
  });
  it('an item tried on one costs what the core says, fee by fee', () => {
    rates();
    const card = ALDERWAY.data as MarketplaceCard;
    const item = {
      sides: [28, 18, 11] as [number, number, number],
      kg: 0.85,
      category: card.categories[0]?.key ?? '',
      price: 29.9,
    };
    const by = { homeCurrency: 'EUR', standings: {}, today: '2026-11-28' };
    const expected = allFees(evaluate(triedOn({ card, tax: GERMANY.data as TaxCard }, item, by)));
    const box = screen.getByRole('region', { name: 'Try an item' });
    const price = within(box).getByLabelText('Price, EUR');
    fireEvent.focus(price);
    fireEvent.change(price, { target: { value: '29.9' } });
    fireEvent.blur(price);
    expect(within(box).getByRole('row', { name: /All fees/ }).textContent).toContain(expected?.toFixed(2));
  });
  it('beside a second card both stand in a column of their own', () => {
    rates({
      beside: {
        id: 'n',
        name: 'Nordkai DE',
        card: NORDKAI.data as MarketplaceCard,
        tax: GERMANY.data as TaxCard,
      },
    });
    const box = screen.getByRole('region', { name: 'Try an item' });
    const heads = within(box)
      .getAllByRole('columnheader')
      .map((x) => x.textContent);
    expect(heads.slice(1)).toEqual(['Alderway DE', 'Nordkai DE']);
    expect(
      within(box)
        .getByRole('row', { name: /All fees/ })
        .querySelectorAll('td'),
    ).toHaveLength(2);
  });
  it('invented examples can be kept out of sight, real taxes stay', async () => {
    const versions = [
      version(ALDERWAY),
      { ...version(NORDKAI), example: true },
      { ...version(GERMANY), example: true },
    ];
    const posted = rates({ versions });
    expect(screen.getByRole('link', { name: 'Nordkai DE' })).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Hide the invented ones' }));
    await waitFor(() => expect(posted).toEqual([{ intent: 'hideExamples' }]));
    cleanup();
    const again = rates({ versions, hideExamples: true });
    expect(screen.queryByRole('link', { name: 'Nordkai DE' })).toBeNull();
    expect(screen.getByRole('link', { name: 'Germany' })).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Show the invented ones' }));
    await waitFor(() => expect(again).toEqual([{ intent: 'showExamples' }]));
    cleanup();
    rates({ versions, canEdit: false });
    expect(screen.queryByRole('button', { name: /invented ones/ })).toBeNull();
  });
  it('one’s own says what is still rough of it; an example does not', () => {
    const bare = { ...(ALDERWAY.data as MarketplaceCard), warehouse: null, storage: null };
    rates({ chosen: { ...version(ALDERWAY), data: bare, example: false } });
    expect(document.body.textContent).toContain('Still rough');
    expect(document.body.textContent).toContain('no fulfilment fees: paste them, or dispatch yourself');
    expect(document.body.textContent).toContain('no proof yet');
    cleanup();
    rates({ chosen: { ...version(ALDERWAY), data: bare, example: true } });
    expect(document.body.textContent).not.toContain('Still rough');
  });
  it('where it came in a pack it says from whom and when', () => {
    const origin = { source: 'Tern', day: '2026-10-02' };
    rates({ chosen: { ...version(ALDERWAY), data: ALDERWAY.data, origin } });
    expect(document.body.textContent).toContain(
      'From a pack: Tern, 2 Oct 2026. Check before you rely on it.',
    );
  });
  it.each([
    ['tax', 'DE', /19/],
    ['exchange', 'exchange', /USD/],
  ] as const)('a card of %s is readable', (kind, key, says) => {
    const c = cardOf(kind, key);
    rates({ chosen: { ...version(c), data: c.data } });
    expect(document.body.textContent).toMatch(says);
    expect(screen.queryByRole('region', { name: 'Try an item' })).toBeNull();
  });
});

describe('what can be done with a card', () => {
  it('the next version is written from it; others are in its menu', async () => {
    const posted = rates();
    fireEvent.click(screen.getByRole('button', { name: 'Write the next version' }));
    await waitFor(() => expect(posted).toEqual([{ id: 'Alderway/DE', intent: 'next' }]));
    fireEvent.click(screen.getByRole('button', { name: 'More' }));
    fireEvent.click(await screen.findByRole('menuitem', { name: /Withdraw/ }));
    await waitFor(() => expect(posted[1]).toEqual({ id: 'Alderway/DE', intent: 'withdraw' }));
  });
  it('it is taken along whole, as JSON, or sheet by sheet', async () => {
    rates();
    fireEvent.click(screen.getByRole('button', { name: 'Export' }));
    const links = (await screen.findAllByRole('menuitem')).map((x) => x.getAttribute('href'));
    expect(links[0]).toBe('rates/file?card=Alderway/DE&as=xlsx');
    expect(links).toContain('rates/file?card=Alderway/DE&as=csv&sheet=categories');
  });
  it('earlier versions are chosen among; one withdrawn says so', () => {
    const old = version(ALDERWAY, { id: 'old', inForceFrom: '2025-01-01', withdrawn: true });
    rates({ versions: [version(ALDERWAY), old], chosen: { ...old, data: ALDERWAY.data } });
    const options = within(screen.getByLabelText('Version'))
      .getAllByRole('option')
      .map((x) => x.textContent);
    expect(options[1]).toMatch(/1 Jan 2025, withdrawn/);
    expect(screen.getByRole('alert').textContent).toMatch(/withdrawn/i);
  });
  it('exchange rates say how old they are, and are fetched by a press; what came of it is said', async () => {
    const chosen = { ...version(EXCHANGE, { inForceFrom: '2026-11-01' }), data: EXCHANGE.data };
    const posted = rates({ chosen }, { fetched: { at: '2026-11-28T09:30:00Z', stale: false, card: 'new' } });
    expect(document.body.textContent).toMatch(/27 days/);
    fireEvent.click(screen.getByRole('button', { name: /Fetch/ }));
    expect((await screen.findByRole('alert')).textContent).toContain('2026-11-28 09:30');
    expect(posted[0]).toMatchObject({ intent: 'fetchRates' });
  });
  it('rates that could not be fetched leave the old ones in force', async () => {
    rates({ chosen: { ...version(EXCHANGE), data: EXCHANGE.data } }, { fetched: null });
    fireEvent.click(screen.getByRole('button', { name: /Fetch/ }));
    expect((await screen.findByRole('alert')).textContent).toMatch(/not|old|stay/i);
  });
  it('a file is sent with the card it is for', async () => {
    const posted = rates();
    const field = screen.getByLabelText('Import a file');
    fireEvent.change(field, { target: { files: [new File(['a,b'], 'card.csv', { type: 'text/csv' })] } });
    await waitFor(() => expect(posted).toHaveLength(1));
    expect(posted[0]).toMatchObject({ intent: 'import', id: 'Alderway/DE' });
  });
  it('whoever only looks is offered none of it', () => {
    rates({ canEdit: false });
    expect(screen.queryByRole('button', { name: 'Write the next version' })).toBeNull();
    expect(screen.queryByLabelText('Import a file')).toBeNull();
    expect(screen.getByRole('button', { name: 'Export' })).toBeTruthy();
  });
});

describe('a draft of a card', () => {
  const cells = tablesOf('marketplace', ALDERWAY.data);
  const draft = (over: object = {}, canEdit = true) =>
    shown(
      <DraftPage
        draft={{
          id: 'd',
          kind: 'marketplace',
          name: 'Alderway DE',
          cells: { ...cells, ...over },
          edition: 1,
        }}
        base={{ id: 'b', name: 'Alderway DE', data: ALDERWAY.data, inForceFrom: ALDERWAY.inForceFrom }}
        proofs={[]}
        tax={null}
        by={{ homeCurrency: 'EUR', standings: {}, today: '2026-11-28' }}
        canEdit={canEdit}
        root="/w/shop"
      />,
    );
  const renamed = (cells.card ?? []).map((r) => (r[0] === 'name' ? ['name', 'Alderway DE, spring'] : r));
  it('without changes says so, and can go into force', () => {
    draft();
    expect(document.body.textContent).toContain('Every cell is in order.');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /Put in force/ }).disabled).toBe(false);
  });
  it('what differs from the version before is listed', () => {
    draft({ card: renamed });
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Alderway DE, spring');
    expect(screen.getByRole('region', { name: /1 change|changes/ }).textContent).toContain('spring');
  });
  it('what is wrong is counted on its table, keeps it from force, and leads to its cell', async () => {
    const [first, ...rest] = cells.categories ?? [];
    draft({ categories: [(first ?? []).map((c, i) => (i === 0 ? '' : c)), ...rest] });
    const tab = screen.getByRole('tab', { name: /Categories/ });
    expect(tab.textContent).toMatch(/1/);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: /Put in force/ }).disabled).toBe(true);
    fireEvent.click(screen.getByRole('button', { name: /Categories, row 2/ }));
    await waitFor(() => expect(tab.getAttribute('aria-selected')).toBe('true'));
  });
  it('is put in force, or thrown away', async () => {
    const posted = draft();
    fireEvent.click(screen.getByRole('button', { name: /Put in force/ }));
    await waitFor(() => expect(posted).toEqual([{ intent: 'putInForce' }]));
    fireEvent.click(screen.getByRole('button', { name: /Throw the draft away/ }));
    await waitFor(() => expect(posted[1]).toEqual({ intent: 'throwAway' }));
  });
  it('is only read by who may not edit', () => {
    draft({}, false);
    expect(screen.queryByRole('button', { name: /Put in force/ })).toBeNull();
    expect(server.sent).toEqual([]);
  });
});

describe('what a version touches', () => {
  const lane = (over: object) => ({
    laneId: 'l',
    candidateId: 'c',
    candidate: 'Bird bath',
    country: 'DE',
    marketplace: 'Alderway',
    method: 'warehouse',
    before: 5,
    after: 3,
    change: -2,
    why: [{ line: 'referral', effect: -2 }],
    dropped: ['roi'],
    lost: [],
    lacks: { before: [], after: [] },
    ...over,
  });
  const touch = (lanes: object[], over: Partial<Parameters<typeof TouchPage>[0]> = {}) =>
    shown(
      <TouchPage
        touched={lanes as never}
        all={lanes.length}
        candidates={lanes.length}
        falls={1}
        under={1}
        lists={[]}
        name="Alderway DE"
        day="2026-11-25"
        back="rates?card=a"
        draft={false}
        homeCurrency="EUR"
        task={null}
        today="2026-11-28"
        root="/w/shop"
        canEdit
        {...over}
      />,
    );
  const cells = (name: RegExp) =>
    within(screen.getByRole('row', { name }))
      .getAllByRole('cell')
      .map((x) => x.textContent);
  it('is each lane with what it keeps before and after, and why', () => {
    touch([lane({})]);
    expect(cells(/Bird bath/)).toEqual(['€5.00', '€3.00', '−2.00', 'Referral fee −2.00', 'ROI']);
    expect(screen.getByTestId('touch-answer').textContent).toMatch(/1 lane/);
  });
  it('a lane that lacks a cost is a bound on the side that lacks it', () => {
    touch([lane({ lacks: { before: [], after: ['freight'] }, lost: ['freight'] })]);
    expect(cells(/Bird bath/).slice(0, 2)).toEqual(['€5.00', 'under €3.00']);
  });
  it('one whose profit is not known after has no change in its place', () => {
    touch([lane({ after: null, change: null, why: [], lost: ['noTaxClass'] })]);
    expect(cells(/Bird bath/)[1]).toBe('–');
    expect(cells(/Bird bath/)[2]).not.toMatch(/\d/);
  });
  it('lanes are brought up to date by a press; a draft and a day to come wait', async () => {
    const posted = touch([lane({})]);
    fireEvent.click(screen.getByRole('button', { name: /Bring/ }));
    await waitFor(() => expect(posted).toHaveLength(1));
  });
  it.each([
    ['a draft', { draft: true }],
    ['a day to come', { day: '2027-01-01' }],
    ['who only looks', { canEdit: false }],
  ])('%s brings none', (_, over) => {
    touch([lane({})], over);
    expect(screen.queryByRole('button', { name: /Bring/ })).toBeNull();
  });
  it('work under way says how far it is; what it came to is said after', () => {
    const task = { id: 't', state: 'running', done: 40, total: 100, data: {} };
    touch([lane({})], { task });
    expect(screen.getByRole('status').textContent).toMatch(/40.*100/);
  });
  it.each([
    ['done', /3/],
    ['cancelled', /40/],
    ['failed', /error|stopped|not/i],
  ])('work that is %s says so', (state, says) => {
    touch([lane({})], { task: { id: 't', state, done: 40, total: 100, data: { changed: 3 } } });
    expect(screen.getByRole('alert').textContent).toMatch(says);
  });
  it('where nothing is touched that is said', () => {
    touch([], { falls: 0, under: 0 });
    expect(screen.queryByRole('table')).toBeNull();
  });
});
