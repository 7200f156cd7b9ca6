import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it, vi } from 'vitest';
import type { LaneDocumentInput } from '../../../core/lane/schema.ts';
import type { Hurdle } from '../../../core/lane/hurdleSchema.ts';
import { plainLane } from '../../../core/testing/documents.ts';
import { plainQuote } from '../../../core/testing/plainParts.ts';
import type { ListRow } from '../../../between/ask.ts';
import { away, stubServer } from '../../ui/testing/server.ts';
import { RowPane } from './RowPane.tsx';
import type { OpenRow } from './useOpened.ts';
import './words.ts';

const ROW = {
  line: 7,
  key: 107,
  code: '9520000000014',
  title: 'Nesting box',
  brand: 'Larkmoor',
  category: 'garden',
  figures: { cost: 20, pack: 0 },
  listings: 0,
  listingPack: 0,
} as unknown as ListRow;
const MARK = {
  state: null,
  reason: '',
  note: '',
  tags: [],
  candidateId: null,
  soldPack: null,
  boughtPack: null,
};
const LEAST: Hurdle = { figure: 'unitProfit', bound: 'atLeast', level: 2, near: 0.15 };

/** Bought for 20 and sold for 30, all else none: a unit keeps 10. */
const opened = (over: Partial<OpenRow> = {}, lane: Partial<LaneDocumentInput> = {}): OpenRow => ({
  row: ROW,
  doc: plainLane({
    goods: [{ source: plainQuote(20) }],
    orderQuantity: 10,
    demand: { kind: 'typed', units: 50 },
    ...lane,
  }),
  mark: null,
  more: {},
  listings: [],
  listingByHand: false,
  ...over,
});
const server = stubServer(() => Response.json(opened()));

type Props = Parameters<typeof RowPane>[0];
async function pane(row: OpenRow = opened(), canEdit = true) {
  server.answer = () => Response.json(row);
  const p = {
    url: '/w/shop/lists/l',
    line: 7,
    edition: 0,
    tried: null,
    hurdles: [LEAST],
    root: '/w/shop',
    onClose: vi.fn<() => void>(),
    onMark: vi.fn<Props['onMark']>(),
    onKeep: vi.fn<Props['onKeep']>(),
    canEdit,
  };
  const Stub = createRoutesStub([{ path: '/', Component: () => <RowPane {...p} /> }]);
  render(<Stub initialEntries={['/']} />);
  await screen.findByRole('region', { name: row.row.title || row.row.code });
  return p;
}
const text = (): string => screen.getByRole('region').textContent ?? '';
const press = (name: string | RegExp): void => void fireEvent.click(screen.getByRole('button', { name }));

describe('an opened row', () => {
  it('is asked for by its line, and says what a unit keeps, line by line', async () => {
    await pane();
    expect(server.sent[0]?.url).toBe('/w/shop/lists/l/row/7');
    expect(text()).toContain('€10.00');
    expect(text()).toContain('row 7 of the file');
    const lines = [...document.querySelectorAll('table tr')].map((r) => r.textContent);
    expect(lines).toEqual(['Shelf price€30.00', 'Goods−€20.00', 'Keeps a unit€10.00']);
  });
  it('that lacks a cost keeps under what stands, everywhere it is said', async () => {
    await pane(opened({}, { prep: null }));
    expect(text()).toContain('under €10.00');
    expect(text()).toContain('preparation');
    expect(text()).toContain('above €20.00');
    expect([...document.querySelectorAll('table tr')].at(-1)?.textContent).toBe('Keeps a unitunder €10.00');
  });
  it('of which the profit is not known says why', async () => {
    await pane(opened({}, { price: null }));
    expect([...document.querySelectorAll('table tr')].at(-1)?.textContent).toBe('Keeps a unit–');
    expect(text()).toContain('price');
  });
  it('that loses says so, misses the hurdle, and what it would pay at', async () => {
    await pane(opened({}, { price: 18 }));
    expect(text()).toContain('Loses €2.00 of a price of €18.00');
    expect(text()).toContain('pays at €16.00 instead of €20.00');
    expect(text()).toContain('or sold at €22.00');
  });
  it('no purchase price alone clears a hurdle that is above the price', async () => {
    await pane(opened({}, { price: 1.5 }));
    expect(text()).toContain('no purchase price alone clears it');
  });
  it('that cannot be read says why', async () => {
    server.answer = away;
    const Stub = createRoutesStub([
      {
        path: '/',
        Component: () => (
          <RowPane
            url="/x"
            line={7}
            edition={0}
            tried={null}
            hurdles={[]}
            root="/w"
            canEdit
            onClose={vi.fn()}
            onMark={vi.fn()}
            onKeep={vi.fn()}
          />
        ),
      },
    ]);
    render(<Stub initialEntries={['/']} />);
    expect(screen.getByRole('status').textContent).toBe('Opening the row …');
    await waitFor(() => expect(screen.getByRole('status').textContent).not.toBe('Opening the row …'));
  });
  it('has what else its file says; only an address of the web becomes a link', async () => {
    await pane(
      opened({
        more: {
          link: 'https://shop.test/a',
          Finish: 'oiled',
          picture: 'http://shop.test/p.jpg',
          notes: 'javascript:1',
        },
      }),
    );
    const links = screen.getAllByRole('link').map((a) => a.getAttribute('href'));
    expect(links).toEqual(['https://shop.test/a', 'http://shop.test/p.jpg']);
    expect(text()).toContain('Finishoiled');
    expect(text()).toContain('javascript:1');
  });
  it('a link that is none is not offered', async () => {
    await pane(opened({ more: { link: 'javascript:alert(1)' } }));
    expect(screen.queryByRole('link')).toBeNull();
  });
  it('is closed', async () => {
    const p = await pane();
    press('Close');
    expect(p.onClose).toHaveBeenCalledOnce();
  });
});

describe('larger orders of a row', () => {
  const source = {
    ...plainQuote(20),
    priceBreaks: [
      { minQty: 0, unitPrice: 20 },
      { minQty: 100, unitPrice: 17 },
    ],
  };
  it('say what the order costs and keeps; one chosen shows the row at it, and is kept so', async () => {
    const p = await pane(opened({}, { goods: [{ source }] }));
    expect(text()).toContain('100 ordered: landed €17.00 a unit, keeps €13.00');
    fireEvent.click(screen.getByRole('radio', { name: /^100 ordered/ }));
    expect([...document.querySelectorAll('table tr')].at(-1)?.textContent).toBe('Keeps a unit€13.00');
    press('Keep as candidate');
    expect(p.onKeep).toHaveBeenCalledWith(ROW, 100);
  });
  it('while a cost is missing are the bounds they are', async () => {
    await pane(opened({}, { goods: [{ source }], prep: null }));
    expect(text()).toContain('100 ordered: landed over €17.00 a unit, keeps under €13.00');
  });
});

describe('what is decided about a row', () => {
  it('it is shortlisted, kept, dropped for a reason', async () => {
    const p = await pane();
    press('Shortlist');
    press('Keep as candidate');
    press('Drop');
    press('too large');
    expect(screen.getByLabelText<HTMLInputElement>('Why it is dropped').value).toBe('too large');
    fireEvent.click(screen.getAllByRole('button', { name: 'Drop' }).at(-1) as HTMLElement);
    expect(p.onMark.mock.calls.map((c) => c[1])).toEqual([
      { state: 'shortlisted', reason: '' },
      { state: 'dropped', reason: 'too large' },
    ]);
    expect(p.onKeep).toHaveBeenCalledWith(ROW, null);
  });
  it('one that was kept is ordered, undecided, or opened where it is weighed', async () => {
    const p = await pane(opened({ mark: { ...MARK, state: 'kept', candidateId: 'c' } }));
    expect(screen.getByRole('link', { name: 'Open it in Weigh' }).getAttribute('href')).toBe(
      '/w/shop/weigh/c',
    );
    expect(screen.queryByRole('button', { name: 'Shortlist' })).toBeNull();
    press('Ordered');
    press('Undecide');
    expect(p.onMark.mock.calls.map((c) => c[1])).toEqual([{ state: 'ordered' }, { state: null, reason: '' }]);
  });
  it('one that was dropped says why', async () => {
    await pane(opened({ mark: { ...MARK, state: 'dropped', reason: 'too dear' } }));
    expect(text()).toContain('too dear');
    expect(screen.queryByRole('button', { name: 'Drop' })).toBeNull();
  });
  it('tags and a note are saved when they are left, where they changed', async () => {
    const p = await pane(opened({ mark: { ...MARK, tags: ['spring'], note: 'ask' } }));
    const [tags, note] = ['Tags, commas between', 'Note'].map((l) => screen.getByLabelText(l)) as [
      HTMLElement,
      HTMLElement,
    ];
    fireEvent.blur(note);
    expect(p.onMark).not.toHaveBeenCalled();
    fireEvent.change(tags, { target: { value: 'spring, gift , ' } });
    fireEvent.blur(tags);
    expect(p.onMark).toHaveBeenLastCalledWith(ROW, { note: 'ask', tags: ['spring', 'gift'] });
  });
  it('nothing of it by who only looks', async () => {
    await pane(opened(), false);
    expect(screen.queryByRole('button', { name: 'Shortlist' })).toBeNull();
    expect(screen.queryByLabelText('Note')).toBeNull();
  });
});

describe('packs and listings of a row', () => {
  const packed = { ...ROW, figures: { ...ROW.figures, pack: 6 }, listingPack: 2 } as ListRow;
  it('what the words name is said, changed and confirmed, or left to the list again', async () => {
    const p = await pane(opened({ row: packed, mark: { ...MARK, soldPack: 2, boughtPack: 6 } }));
    expect(text()).toContain('Its words name a pack of 6, the listing one of 2.');
    const sold = screen.getByLabelText('Sold in packs of');
    fireEvent.focus(sold);
    fireEvent.change(sold, { target: { value: '3' } });
    fireEvent.blur(sold);
    press('Confirm the pack');
    press('As the list takes it');
    expect(p.onMark.mock.calls.map((c) => c[1])).toEqual([{ pack: { sold: 3, bought: 6 } }, { pack: null }]);
  });
  it('several listings of the barcode: one counts, another is chosen by hand', async () => {
    const listing = (line: number, counts: boolean, title = '') =>
      ({ line, title, price: 29, units: 40, counts }) as OpenRow['listings'][number];
    const p = await pane(
      opened({ listings: [listing(3, true, 'Box of oak'), listing(9, false)], listingByHand: true }),
    );
    const group = screen.getByRole('group', { name: /Listings of this barcode/ });
    expect(within(group).getByRole<HTMLInputElement>('radio', { name: 'Take row 3' }).checked).toBe(true);
    fireEvent.click(within(group).getByRole('radio', { name: 'Take row 9' }));
    press('By the rule of the list');
    expect(p.onMark.mock.calls.map((c) => c[1])).toEqual([{ listing: 9 }, { listing: null }]);
  });
  it('one listing alone is only counted', async () => {
    await pane(opened({ row: { ...ROW, listings: 1 } as ListRow }));
    expect(text()).toContain('1 listing in your market figures');
  });
});
