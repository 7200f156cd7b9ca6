import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { packDays } from '../../../core/evidence/series.ts';
import { dayRow } from '../../../core/evidence/schema.ts';
import { stretchesOf } from './monthsInWords.ts';
import { ALL, dayAgo, marketServer, seen, shown, TODAY } from './testing/shown.tsx';

// Parts that load when they are shown take their time on a machine at work.
const { server, answers, bodies } = marketServer();
beforeEach(() => answers.clear());

const rivalRows = (value: unknown): object[] => (value as { rows: object[] }).rows;
const sentence = (): string => screen.getByTestId('market-sentence').textContent ?? '';
/** What was sent to be saved in the lane. */
function savedPatches(): { patches: { path: unknown[]; to: unknown }[] } {
  const [save] = bodies('/save');
  if (save === undefined) throw new Error('nothing was saved');
  return save as ReturnType<typeof savedPatches>;
}
const acts = () => bodies('/act');

describe('months in a row', () => {
  it.each([
    [[3, 4, 5], [[3, 5]]],
    [[11, 12, 1], [[11, 1]]],
    [[1, 12], [[12, 1]]],
    [[6], [[6, 6]]],
    [[], []],
    [
      [1, 3],
      [
        [1, 1],
        [3, 3],
      ],
    ],
    [Array.from({ length: 12 }, (_, i) => i + 1), [[1, 12]]],
  ])('%j', (months, stretches) => expect(stretchesOf(months)).toEqual(stretches));
});

describe('the market of a candidate', () => {
  it('of which nothing is known says so part by part, and asks for nothing', async () => {
    await shown({ observations: [] });
    expect(sentence()).toContain('is not known yet');
    for (const text of [
      'No prices by day yet.',
      'No rivals yet.',
      'No terms yet.',
      'No offers yet.',
      'Not enough history',
    ])
      expect((await screen.findAllByText(new RegExp(text))).length).toBe(1);
    expect(server.sent).toEqual([]);
  });
  it('is a sentence first: when, at which price, how often it would have lost, may it be sold', async () => {
    await shown({
      watch: {
        terms: {
          'bird bath stoneware': {
            ticked: true,
            weight: 1,
            broad: false,
            confirmed: false,
            ofRival: false,
            note: '',
          },
        },
      },
    });
    expect(sentence()).toMatch(/look for it in Dec to Jan; now is (quiet|as usual)/);
    expect(sentence()).toContain('At €41.00, its price today, one unit keeps');
    expect(sentence()).toContain('lost on 10 of 115');
    expect(sentence()).toContain('once you are approved');
  });
  it.each([
    [44, 'At €44.00, its price on 15 Oct 2026, one unit keeps'],
    [null, 'On 15 Oct 2026, when it was seen last, nobody offered it.'],
  ])('calls no price today’s that was seen before (%s)', async (price, said) => {
    const older = packDays([dayRow.parse({ day: dayAgo(40), price })], 'EUR');
    await shown({ observations: [seen('history', older, dayAgo(40))] });
    expect(sentence()).toContain(said);
  });
  it('says which figures are old', async () => {
    await shown();
    expect(screen.getByText(/from the feed, 15 Nov 2026, stated: old/)).toBeTruthy();
  });
  it('a row that is struck out follows at once, and is kept', async () => {
    await shown();
    expect(screen.getByText(/2 of 3 count, 1 paid and 0 others struck out/)).toBeTruthy();
    fireEvent.click(screen.getByLabelText('Oak bath counts'));
    expect(screen.getByText(/1 of 3 count, 1 paid and 1 others struck out/)).toBeTruthy();
    fireEvent.click(screen.getByLabelText('Paid bath counts'));
    expect(screen.getByText(/2 of 3 count, 0 paid and 1 others struck out/)).toBeTruthy();
    await waitFor(() => expect(acts()).toHaveLength(2));
    expect(acts().map((a) => (a.change as { struck: object }).struck)).toEqual([
      { 'title:Oak bath': true },
      { 'title:Paid bath': false },
    ]);
  });
  it('what the server does not take is taken off again, and said', async () => {
    answers.set('/market/act', () => Response.json({ error: 'Not today.' }, { status: 422 }));
    await shown();
    fireEvent.click(screen.getByLabelText('Oak bath counts'));
    expect(await screen.findByText('Not kept: Not today.')).toBeTruthy();
    expect(screen.getByText(/2 of 3 count/)).toBeTruthy();
  });
  it('ticked terms make adverts; a broad one counts once somebody says so', async () => {
    await shown();
    expect(screen.getByText(/Tick the terms that belong to the product/)).toBeTruthy();
    fireEvent.click(screen.getByLabelText('bird bath stoneware belongs to the product'));
    expect(screen.getByText(/One ticked term costs €0\.40 to €0\.90 a click, all alike/)).toBeTruthy();
    const row = screen.getByRole('row', { name: /^bath / });
    fireEvent.click(within(row).getByRole('button', { name: 'such goods appear under it' }));
    await waitFor(() => expect(acts()).toHaveLength(2));
    expect(acts().at(-1)).toMatchObject({
      intent: 'decide',
      change: { terms: { bath: { confirmed: true, ticked: false } } },
    });
    fireEvent.change(screen.getByLabelText('Without'), { target: { value: 'stoneware' } });
    expect(screen.getByText('one term')).toBeTruthy();
  });
  it('a press writes evidence into the lane with its day and source, and saves it', async () => {
    await shown();
    const row = await screen.findByRole('row', { name: /mean of 30 days/ });
    fireEvent.click(within(row).getByRole('button', { name: 'Go by this price' }));
    expect(within(row).getByText('in the lane')).toBeTruthy();
    await waitFor(() => expect(server.sent.some((s) => s.url.endsWith('/save'))).toBe(true));
    const { patches } = savedPatches();
    expect(patches.map((p) => p.path)).toEqual([['price'], ['provenance', 'price']]);
    expect(patches[1]?.to).toEqual({ source: 'evidence', date: TODAY, note: 'mean30' });
  });
  it('newer evidence than the lane holds is told with what it would change', async () => {
    await shown({
      lane: { price: 20, provenance: { price: { source: 'evidence', date: '2026-09-01', note: 'now' } } },
    });
    expect(
      screen.getByText(/The price of this lane is of 1 Sept 2026; that of 24 Nov 2026 would make it keep/),
    ).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take it over' }));
    await waitFor(() => expect(screen.queryByText(/The price of this lane is of/)).toBe(null));
  });
  it('a comparable listing lends its size, weight and price; each is noted as borrowed', async () => {
    const about = { sides: [30, 20, 10], kg: 0.9, category: 'any' };
    const own = ALL.map((o) => (o.kind === 'units' ? { ...o, value: { ...(o.value as object), about } } : o));
    const third = { listing: 'R4', title: 'Slate bath', price: 50, units: 90, reviews: 5 };
    const four = own.map((o) =>
      o.kind === 'rivals'
        ? { ...o, value: { ...(o.value as object), rows: [...rivalRows(o.value), third] } }
        : o,
    );
    await shown({ observations: four });
    fireEvent.click(screen.getByRole('button', { name: 'Borrow its size and weight' }));
    await waitFor(() => expect(server.sent.some((s) => s.url.endsWith('/save'))).toBe(true));
    expect(savedPatches().patches.map((p) => [p.path, p.to])).toEqual([
      [['product', 'kg'], 0.9],
      [
        ['product', 'sides'],
        [30, 20, 10],
      ],
      [['provenance', 'product'], { source: 'borrowed', date: TODAY, note: 'Somewhere/DE' }],
    ]);
    server.sent = [];
    fireEvent.click(screen.getByRole('button', { name: 'Borrow its price' }));
    await waitFor(() => expect(server.sent.some((s) => s.url.endsWith('/save'))).toBe(true));
    expect(savedPatches().patches[1]?.to).toMatchObject({ source: 'borrowed', date: TODAY });
  });
  it('variations: their shares by ratings, and which pay', async () => {
    await shown();
    const table = screen.getByRole('region', { name: 'Variations' });
    expect(within(table).getByRole('row', { name: /small/ }).textContent).toMatch(/75%75/);
    expect(screen.getByText(/one pays/)).toBeTruthy();
  });
  it('an approval by purchase becomes a line of the launch budget, once', async () => {
    await shown();
    expect(screen.getByText(/first purchase of 30: €300\.00 of the launch/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Add it to the launch budget' }));
    expect(screen.queryByRole('button', { name: 'Add it to the launch budget' })).toBe(null);
    await waitFor(() =>
      expect(JSON.stringify(server.sent.find((s) => s.url.endsWith('/save'))?.body)).toContain(
        '"amount":300',
      ),
    );
  });
  it('permission is said by hand, cares are noted, complaints become scenarios', async () => {
    await shown();
    fireEvent.click(screen.getByRole('button', { name: 'Say what was answered' }));
    fireEvent.change(screen.getByLabelText('Permission'), { target: { value: 'closed' } });
    fireEvent.click(screen.getByRole('button', { name: 'Keep the answer' }));
    await waitFor(() =>
      expect(acts().at(-1)).toMatchObject({
        intent: 'observe',
        kind: 'permission',
        value: { state: 'closed', answered: expect.any(String) },
      }),
    );
    fireEvent.click(screen.getByRole('button', { name: 'Add the usual ones' }));
    expect(screen.getByLabelText('Patents')).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Patents'), { target: { value: 'fine' } });
    await waitFor(() =>
      expect(acts().at(-1)).toMatchObject({
        change: { care: [{ what: 'Patents', state: 'fine' }, {}, {}, {}, {}, {}] },
      }),
    );
    fireEvent.click(screen.getByRole('button', { name: 'what if it were mended' }));
    expect((screen.getByRole('button', { name: 'Make it a scenario' }) as HTMLButtonElement).disabled).toBe(
      true,
    );
    fireEvent.change(screen.getByLabelText(/Costs a unit/), { target: { value: '0.4' } });
    fireEvent.blur(screen.getByLabelText(/Costs a unit/));
    expect((screen.getByRole('button', { name: 'Make it a scenario' }) as HTMLButtonElement).disabled).toBe(
      false,
    );
  });
  it('where a figure comes from opens what was known before; one can be taken back', async () => {
    await shown();
    fireEvent.click(screen.getAllByRole('button', { name: /^from the feed/ })[0] as HTMLElement);
    expect(await screen.findByText('a.csv')).toBeTruthy();
    expect(screen.getByText('3 rows, €12.50')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Take back' }));
    await waitFor(() => expect(acts()).toEqual([{ intent: 'takeBack', id: 'o1', back: true }]));
  });
  it('what is wrong with pasted rows stands beside them, and nothing can be kept', async () => {
    await shown();
    fireEvent.click(screen.getByRole('button', { name: 'Bring evidence in' }));
    fireEvent.change(await screen.findByLabelText(/Or paste or type rows/), {
      target: { value: 'Day,Price\nx,1' },
    });
    expect(await screen.findByText('No column is chosen for price.')).toBeTruthy();
    expect(screen.getByText('Row 2, Day: "x" is no day.')).toBeTruthy();
    expect((screen.getByRole('button', { name: 'Keep 0 rows' }) as HTMLButtonElement).disabled).toBe(true);
  });
  it('whoever only looks changes nothing', async () => {
    await shown({ canEdit: false });
    expect(screen.queryByRole('button', { name: 'Bring evidence in' })).toBe(null);
    expect(screen.queryByRole('button', { name: 'Go by this price' })).toBe(null);
    expect((screen.getByLabelText('Oak bath counts') as HTMLInputElement).disabled).toBe(true);
  });
  it('all countries stand in one table, best first, each with what is known of it', async () => {
    await shown({ search: '?all=1' });
    const rows = within(screen.getByRole('region', { name: 'All countries' })).getAllByRole('row');
    expect(rows).toHaveLength(3);
    expect(rows.map((r) => r.textContent).join(' ')).toContain('needs approval');
    fireEvent.click(screen.getByRole('button', { name: 'France' }));
    expect(await screen.findByTestId('market-sentence')).toBeTruthy();
  });
});
