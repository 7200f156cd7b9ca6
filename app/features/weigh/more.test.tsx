import { act, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import { evaluate } from '../../../core/lane/evaluate.ts';
import type { LaneDocumentInput } from '../../../core/lane/schema.ts';
import { plainLane } from '../../../core/testing/documents.ts';
import { candidateData, quoteSource, storedLane } from '../../../core/workspace/records.ts';
import { stubServer } from '../../ui/testing/server.ts';
import More from './More.tsx';
import type { MoreTab } from './More.tsx';
import { SheetContext, SheetStore } from './store.ts';
import type { LaneView } from './useFigures.ts';
import '../compare/words.ts';

stubServer(() => Response.json({ ok: true, results: {} }));
const QUOTE = quoteSource.parse({
  kind: 'quote',
  currency: 'EUR',
  priceBreaks: [{ minQty: 0, unitPrice: 20 }],
  minimumOrder: 0,
});
const LANE = storedLane.parse({ country: 'DE', currency: 'EUR', price: 30, components: [{ quoteId: 'q' }] });
/** Bought for 20, sold for 30, 50 a month: a unit keeps 10 unless something of it is not known. */
const viewOf = (
  id: string,
  over: Partial<LaneDocumentInput> = {},
  scenarioOf: string | null = null,
): LaneView => {
  const doc = plainLane({ goods: [{ source: QUOTE }], demand: { kind: 'typed', units: 50 }, ...over });
  const result = evaluate(doc);
  return { id, doc, result, home: result, state: { id, position: 0, data: LANE, scenarioOf } };
};

function shown(
  tab: MoreTab,
  views: LaneView[],
  { canEdit = true, earlier = [] as object[], chosen = 0 } = {},
) {
  const posted: Record<string, string>[] = [];
  const gone: string[] = [];
  const store = new SheetStore(
    {
      candidate: { id: 'c', data: candidateData.parse({ name: 'Bird bath', way: 'wholesale' }) },
      quotes: [{ id: 'q', data: QUOTE }],
      lanes: views.map((v) => v.state),
    },
    '/w/shop/weigh/c/save',
    canEdit,
    '2026-11-28',
  );
  const Page = () => (
    <SheetContext value={store}>
      <More
        tab={tab}
        view={views[chosen] as LaneView}
        views={views}
        onChoose={(id) => gone.push(id)}
        base="/w/shop/weigh"
        candidateId="c"
      />
    </SheetContext>
  );
  const Stub = createRoutesStub([
    { path: '/w/:workspace/sheet', Component: Page },
    { path: '/w/shop/weigh/c/history', loader: () => ({ earlier }) },
    {
      path: '/w/shop/weigh/c',
      action: async ({ request }) => {
        posted.push(Object.fromEntries(await request.formData()) as Record<string, string>);
        return null;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/sheet']} />);
  return { store, posted, gone };
}
const row = (name: RegExp): string[] =>
  within(screen.getByRole('row', { name }))
    .getAllByRole('cell')
    .map((x) => x.textContent ?? '');

describe('scenarios of a lane', () => {
  const lane = viewOf('l');
  const dear = viewOf('s', { price: 35, name: 'Dearer' }, 'l');
  it('stand beside it with what they keep, and what that is more', async () => {
    shown('scenarios', [lane, dear]);
    await screen.findByText('The lane itself');
    expect(row(/The lane itself/).slice(0, 7)).toEqual([
      '€30.00',
      '100',
      '20.00',
      '€10.00',
      '33.3%',
      '50%',
      '',
    ]);
    expect(row(/Dearer/)[3]).toBe('€15.00');
    expect(row(/Dearer/)[6]).toBe('+5.00');
  });
  it('of a lane that lacks a cost are bounds', async () => {
    shown('scenarios', [viewOf('l', { prep: null })]);
    await screen.findByText('The lane itself');
    expect(row(/The lane itself/).slice(2, 6)).toEqual([
      'over 20.00',
      'under €10.00',
      'under 33.3%',
      'under 50%',
    ]);
  });
  it('are opened, kept under a name, and taken away', async () => {
    const page = shown('scenarios', [lane, dear]);
    fireEvent.click(await screen.findByRole('button', { name: /^Open/ }));
    expect(page.gone).toEqual(['s']);
    fireEvent.change(screen.getByLabelText('Name of a scenario'), { target: { value: 'Cheaper freight' } });
    fireEvent.click(screen.getByRole('button', { name: /Keep this lane/ }));
    await waitFor(() => expect(page.posted).toHaveLength(1));
    expect(page.posted[0]?.intent).toBe('putLane');
    expect(JSON.parse(page.posted[0]?.row ?? '')).toMatchObject({
      scenarioOf: 'l',
      data: { name: 'Cheaper freight', price: 30 },
    });
    fireEvent.click(screen.getByRole('button', { name: /Dearer/ }));
    await waitFor(() => expect(page.posted[1]).toEqual({ intent: 'removeLane', id: 's' }));
    expect(page.gone.at(-1)).toBe('l');
  });
  it('are only looked at by who may not edit', async () => {
    shown('scenarios', [lane, dear], { canEdit: false });
    await screen.findByText('The lane itself');
    expect(screen.queryByLabelText('Name of a scenario')).toBeNull();
    expect(screen.queryByRole('button', { name: '×' })).toBeNull();
  });
});

describe('the price ladder', () => {
  it('has the price one asks and the one that breaks even, with what each keeps', async () => {
    shown('ladder', [viewOf('l')]);
    await screen.findByText(/Price cushion/);
    expect(screen.getByText(/Price cushion/).textContent).toMatch(/€10\.00 \(33\.3%\)/);
    expect(row(/€30\.00 now/)).toEqual(['10.00', '33.3%', '50', '500']);
    expect(row(/€20\.00 breaks even/).slice(0, 2)).toEqual(['0.00', '0.0%']);
  });
  it('rivals stand among the rungs once their prices are typed', async () => {
    const page = shown('ladder', [viewOf('l')]);
    const field = await screen.findByLabelText(/Rivals/);
    fireEvent.change(field, { target: { value: '25; 18.5 25 nonsense -3' } });
    fireEvent.blur(field);
    await waitFor(() => expect(screen.getAllByRole('row')).toHaveLength(5));
    expect(page.store.get().state.lanes[0]?.data.rivalPrices).toEqual([25, 18.5]);
    expect(row(/€25\.00/)[0]).toBe('5.00');
    expect(row(/€18\.50/)[0]).toBe('−1.50 loses');
  });
  it('of a lane that lacks a cost breaks even above, and a rival may undercut it by under what stands', async () => {
    shown('ladder', [viewOf('l', { prep: null })]);
    await screen.findByText(/Price cushion/);
    expect(screen.getByText(/Price cushion/).textContent).toContain('under €10.00');
    expect(row(/above €20\.00/)[0]).toBe('under 0.00');
    expect(row(/€30\.00 now/)).toEqual(['under 10.00', 'under 33.3%', '50', 'under 500']);
  });
  it('below what delivery alone costs the buyer there is no price', async () => {
    const page = shown('ladder', [viewOf('l', { shippingCharged: 6 })]);
    const field = await screen.findByLabelText(/Rivals/);
    fireEvent.change(field, { target: { value: '4' } });
    fireEvent.blur(field);
    await waitFor(() => expect(page.store.get().state.lanes[0]?.data.rivalPrices).toEqual([4]));
    expect(row(/€4\.00/)).toEqual(['–', '–', '–', '–']);
  });
});

describe('variations', () => {
  const list = (over: object[]) =>
    over.map((v) => ({
      name: '',
      price: null,
      cost: null,
      delivery: null,
      kg: null,
      shareOfSales: null,
      stock: null,
      ...v,
    }));
  async function variations(rows: object[], over: Partial<LaneDocumentInput> = {}) {
    const view = viewOf('l', over);
    const page = shown('variations', [view]);
    await screen.findByRole('grid');
    return { ...page, rows: list(rows) };
  }
  it('are typed like a sheet; without any there is nothing to say', async () => {
    const page = await variations([]);
    expect(screen.queryByTestId('variations-answer')).toBeNull();
    act(() =>
      page.store.edit([
        { entity: 'candidate', id: 'c', path: ['variations'], to: list([{ name: 'Small', price: 25 }]) },
      ]),
    );
    expect(page.store.get().state.candidate.data.variations).toHaveLength(1);
  });
});

describe('how sure the figures are', () => {
  it('says where amounts come from, and takes what one says of one’s own', async () => {
    const page = shown('sure', [viewOf('l')]);
    await screen.findByTestId('sure-answer');
    const [source] = screen.getAllByRole('combobox');
    expect(source).toBeDefined();
    fireEvent.change(source as HTMLElement, { target: { value: 'estimate' } });
    const kept = Object.values(page.store.get().state.lanes[0]?.data.provenance ?? {});
    expect(kept).toEqual([{ source: 'estimate', date: '2026-11-24', note: '' }]);
  });
});

describe('what changed', () => {
  const now = viewOf('l');
  const earlier = (unitProfit: number | null, currency = 'EUR') => ({
    at: '2026-11-20T08:00:00Z',
    cause: 'edit',
    result: { currency, lines: { ...now.result.lines, goods: 22 }, figures: { unitProfit, gross: 30 } },
  });
  it('is nothing before something has', async () => {
    shown('history', [now]);
    expect(await screen.findByText('This lane keeps what it kept from the start.')).toBeTruthy();
  });
  it('is what it kept before, and which lines made the difference', async () => {
    shown('history', [now], { earlier: [earlier(8)] });
    const said = (await screen.findByText(/20 Nov 2026/)).closest('div')?.textContent ?? '';
    expect(said).toContain('€8.00');
    expect(said).toMatch(/\+2\.00/);
    expect(screen.getByText(/€10\.00/)).toBeTruthy();
  });
  it('in another currency amounts are not held against each other', async () => {
    shown('history', [now], { earlier: [earlier(8, 'GBP')] });
    const said = (await screen.findByText(/20 Nov 2026/)).closest('div')?.textContent ?? '';
    expect(said).toContain('£8.00');
    expect(said).not.toMatch(/\+2\.00/);
  });
});
