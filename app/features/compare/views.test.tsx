import { fireEvent, render, screen, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it, vi } from 'vitest';
import type { ReactElement } from 'react';
import { freightCard } from '../../../core/cards/schema.ts';
import { AS_IS } from '../../../core/compare/whatIf.ts';
import type { LaneDocumentInput } from '../../../core/lane/schema.ts';
import { launchPlan } from '../../../core/launch/schema.ts';
import { plainLane } from '../../../core/testing/documents.ts';
import { quoteSource, storedLane } from '../../../core/workspace/records.ts';
import { GridView } from './GridView.tsx';
import { PricesView } from './PricesView.tsx';
import { QuotesView } from './QuotesView.tsx';
import { RoutesView } from './RoutesView.tsx';
import { evaluateAll } from './useCompared.ts';
import type { Around, Compared } from './useCompared.ts';
import './words.ts';

const quote = (supplier: string, unitPrice: number, minimumOrder = 0) =>
  quoteSource.parse({
    kind: 'quote',
    supplier,
    currency: 'EUR',
    priceBreaks: [{ minQty: 0, unitPrice }],
    minimumOrder,
  });
const QUOTES = [
  { id: 'a', data: quote('Holzbau Nord', 20) },
  { id: 'b', data: quote('Pentlow', 18, 500) },
];
/** A lane bought for 20 and sold for 30 that keeps 10, unless something of it is not known. */
const lane = (id: string, over: Partial<LaneDocumentInput> = {}): Compared => {
  const doc = plainLane({
    marketplace: 'Testmarket',
    goods: [{ source: quote('Holzbau Nord', 20) }],
    demand: { kind: 'typed', units: 50 },
    ...over,
  });
  const data = storedLane.parse({ country: doc.country, currency: 'EUR', components: [{ quoteId: 'a' }] });
  return evaluateAll([{ id, data, doc }], AS_IS)[0] as Compared;
};
const place = (c: Compared): string => `${c.doc.country} ${c.id}`;
const shown = (element: ReactElement) => {
  const Stub = createRoutesStub([{ path: '/w/:workspace/compare', Component: () => element }]);
  return render(<Stub initialEntries={['/w/shop/compare']} />).container;
};
const row = (name: RegExp): string[] =>
  within(screen.getByRole('row', { name }))
    .getAllByRole('cell')
    .map((x) => x.textContent ?? '');
const PLAN = launchPlan.parse({});

describe('countries by marketplaces', () => {
  const grid = (lanes: Compared[], measure: 'unitProfit' | 'launchCash' = 'unitProfit') =>
    shown(<GridView lanes={lanes} measure={measure} plan={PLAN} home="EUR" onChoose={vi.fn()} />);
  it('shows the best lane of each pair, and how many ways there are', () => {
    const text = grid([
      lane('x'),
      lane('y', { price: 35 }),
      lane('z', { country: 'FR', price: 15 }),
    ]).textContent;
    expect(text).toContain('€15.00');
    expect(text).not.toContain('€10.00');
    expect(text).toContain('2 lanes');
    expect(text).toContain('−€5.00 loses');
  });
  it('a lane that lacks a cost keeps under what stands, and its launch takes over it', () => {
    expect(grid([lane('x', { prep: null })]).textContent).toContain('under €10.00');
    expect(grid([lane('x', { prep: null })], 'launchCash').textContent).toMatch(/over €[\d,]+\.\d\d/);
  });
});

describe('one lane by every route', () => {
  const route = { legs: [{ stage: 'main' as const, basis: 'perUnit' as const, rate: 2, currency: 'EUR' }] };
  const card = (rate: number | null) =>
    freightCard.parse({
      name: 'By rail',
      inForceFrom: '2026-01-01',
      from: null,
      to: 'DE',
      mode: 'rail',
      route: { ...route, legs: [{ ...route.legs[0], rate }], transitDays: 12 },
    });
  const view = (rate: number | null, over: Partial<LaneDocumentInput> = {}) =>
    shown(
      <RoutesView
        lanes={[lane('x', { route, ...over })]}
        chosen={lane('x', { route, ...over })}
        freight={[{ id: 'r', card: card(rate) }]}
        place={place}
        onChoose={vi.fn()}
        canEdit
        use={use}
        root="/w/shop"
      />,
    );
  const use = vi.fn();
  it('says what each costs, takes and keeps; one is chosen by a press', () => {
    view(1);
    expect(row(/as the lane is/).slice(0, 2)).toEqual(['2.00', '€22.00']);
    expect(row(/By rail/).slice(0, 3)).toEqual(['1.00', '€21.00', '12']);
    expect(row(/By rail/)[5]).toBe('€9.00');
    fireEvent.click(screen.getByRole('button', { name: 'Use it' }));
    expect(use).toHaveBeenCalledWith('r');
  });
  it('one whose freight is not known costs over and keeps under what stands', () => {
    view(null);
    const [freight, landed, , , , keeps] = row(/By rail/);
    expect([freight, landed, keeps]).toEqual(['–', 'over €20.00', 'under €10.00']);
    expect(row(/as the lane is/)[0]).toBe('2.00');
  });
});

describe('one lane on every quote', () => {
  const around = { quotes: QUOTES, today: '2026-11-28' } as unknown as Around;
  const view = (over: Partial<LaneDocumentInput> = {}, canEdit = true) =>
    shown(
      <QuotesView
        lanes={[lane('x', over)]}
        chosen={lane('x', over)}
        around={around}
        place={place}
        onChoose={vi.fn()}
        canEdit={canEdit}
        use={vi.fn()}
        add={vi.fn()}
        sheet="/w/shop/weigh/c"
      />,
    );
  it('says what each keeps at the quantity, and from which one another is cheapest', () => {
    view();
    expect(row(/Holzbau Nord/).slice(2, 4)).toEqual(['€20.00', '€10.00']);
    // Below its minimum order a quote has no landed cost, and nothing is made up in its place.
    const [, , landed, keeps] = row(/Pentlow/);
    expect(landed).toMatch(/100/);
    expect(keeps).toBe('–');
    expect(screen.getByTestId('quotes-answer').textContent).toMatch(/Holzbau Nord/);
  });
  it('where a cost is missing landed cost is over, and what is kept under, what stands', () => {
    view({ prep: null });
    expect(row(/Holzbau Nord/).slice(2, 4)).toEqual(['over €20.00', 'under €10.00']);
  });
  it('whoever only looks is offered no change', () => {
    view({}, false);
    expect(screen.queryByRole('button', { name: /Use it|Add/ })).toBeNull();
  });
});

describe('one shelf price for all lanes', () => {
  const view = (lanes: Compared[], canEdit = true) =>
    shown(
      <PricesView
        lanes={lanes}
        place={place}
        home="EUR"
        canEdit={canEdit}
        saveUrl="/w/shop/weigh/c/save"
        today="2026-11-28"
      />,
    );
  it('says what each lane would cost and keep then', () => {
    view([lane('x'), lane('y', { price: 40 })]);
    const [now, , , then, keeps, margin] = row(/DE y/);
    expect(now).toBe('€40.00');
    expect(then).toMatch(/^€(29|30|31)\.\d\d$/);
    expect(keeps).toMatch(/^€\d+\.\d\d$/);
    expect(margin).toMatch(/^\d+\.\d%$/);
  });
  it('a lane that lacks a cost keeps under it, in margin as well', () => {
    view([lane('x', { prep: null }), lane('y')]);
    const [, , , , keeps, margin] = row(/DE x/);
    expect(keeps).toMatch(/^under €/);
    expect(margin).toMatch(/^under \d/);
  });
  it('whoever only looks takes none over', () => {
    view([lane('x'), lane('y', { price: 40 })], false);
    expect(screen.queryByRole('button', { name: /^Set|apply/i })).toBeNull();
  });
});
