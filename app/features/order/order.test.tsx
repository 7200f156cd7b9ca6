import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { ToOrder } from '../../../between/orders.ts';
import { orderLine, orderProgress, orderTerms } from '../../../core/orders/schema.ts';
import type { Order, OrderLine, OrderTerms } from '../../../core/orders/schema.ts';
import { NewOrders } from './NewOrders.tsx';
import { OrderPage } from './OrderPage.tsx';
import type { OrderShown } from './orderPage.ts';
import { OrdersPage } from './OrdersPage.tsx';
import { shown } from './testing/shown.tsx';

/** A file as a browser gives it; the one of this test's DOM cannot be read as text. */
const fileOf = (text: string): File =>
  Object.assign(new File([text], 'rows.csv', { type: 'text/csv' }), { text: async () => text });

const TODAY = '2026-11-24';
const EXCHANGE = { date: '2026-11-20', base: 'EUR', rates: { USD: 1.25 } };
const line = (over: object = {}): OrderLine =>
  orderLine.parse({
    id: 'a',
    name: 'Lantern',
    units: 120,
    priceBreaks: [
      { minQty: 0, unitPrice: 5 },
      { minQty: 200, unitPrice: 4 },
    ],
    carton: 24,
    minimumOrder: 100,
    ...over,
  });
const terms = (over: Partial<OrderTerms> = {}): OrderTerms => ({
  ...orderTerms.parse({ supplier: 'Brackwater', currency: 'USD', delivery: 50 }),
  lines: [line()],
  ...over,
});
const order = (over: Partial<Order> = {}): OrderShown => ({
  id: 'o1',
  number: 7,
  state: 'draft',
  terms: terms(),
  progress: orderProgress.parse({ steps: [{ state: 'draft', at: '2026-11-24T08:00:00Z', by: 'me' }] }),
  edition: 3,
  ...over,
});
const page = (over: Partial<Order> = {}, props: object = {}) =>
  shown(
    <OrderPage
      shown={order(over)}
      suppliers={[{ id: 's', name: 'Ember', mail: 'info@ember.example' }]}
      names={{ me: 'Nora' }}
      mails={[]}
      canMail
      mailbox={null}
      from="Fernhollow"
      left={1000}
      home="EUR"
      exchange={EXCHANGE}
      today={TODAY}
      base="/w/shop"
      canEdit
      {...props}
    />,
  );
const answer = (): string => screen.getByTestId('order-answer').textContent ?? '';
const press = (name: string | RegExp) => fireEvent.click(screen.getByRole('button', { name }));

describe('a draft', () => {
  it('says what it comes to, in both currencies with the day of the rate, and what it leaves', () => {
    page();
    // 120 x 5 + 50 = 650 USD, 520 EUR.
    expect(answer()).toBe(
      '1 line comes to $650.00 with VAT (€520.00 at the rate of 20 Nov 2026). That leaves €480.00 to order with.',
    );
  });
  it('more than there is stands as that, and what is not known makes it a bound', () => {
    page({ terms: terms({ delivery: null }) }, { left: 100 });
    expect(answer()).toContain('at least $600.00');
    expect(answer()).toContain('That is €380.00 more than there is to order with.');
    expect(screen.getByText(/Not known: delivery/)).toBeTruthy();
  });
  it('a quantity that does not fit says what would, and a press takes it', async () => {
    const { saved } = page({ terms: terms({ lines: [line({ units: 90 })] }) });
    expect(screen.getByText(/10 short of what the supplier takes/)).toBeTruthy();
    expect(screen.getByText(/Breaks a carton of 24/)).toBeTruthy();
    press('Take 120 of Lantern');
    expect((screen.getByLabelText('Units, Lantern') as HTMLInputElement).value).toBe('120');
    await waitFor(() => expect(saved.at(-1)).toMatchObject({ lines: { a: { units: 120 } }, terms: {} }), {
      timeout: 3000,
    });
  });
  it('the next price break says what it costs or saves', () => {
    page({ terms: terms({ lines: [line({ units: 192 })] }) });
    // 216 at 4 = 864 against 192 at 5 = 960.
    expect(screen.getByText(/24 more make it \$4.00 each, and the whole \$96.00 cheaper/)).toBeTruthy();
  });
  it('a price that the quantity does not reach says from where it holds', () => {
    page({ terms: terms({ lines: [line({ units: 90, priceBreaks: [{ minQty: 100, unitPrice: 5 }] })] }) });
    expect(Number((screen.getByLabelText(/^Unit price, Lantern/) as HTMLInputElement).value)).toBe(5);
    expect(screen.getByText('from 100 on')).toBeTruthy();
    expect(screen.getByText(/Not known: a price/)).toBeTruthy();
    press('Take 120 of Lantern');
    expect(screen.queryByText('from 100 on')).toBeNull();
  });
  it('every change is undone and done again, lines taken out too', () => {
    page();
    press('Remove Lantern');
    expect(screen.queryByLabelText('Units, Lantern')).toBeNull();
    expect(answer()).toContain('Nothing is on this order');
    press('Undo');
    expect(screen.getByLabelText('Units, Lantern')).toBeTruthy();
    press('Redo');
    expect(screen.queryByLabelText('Units, Lantern')).toBeNull();
    press('Undo');
    press('Add a line');
    expect(screen.getByLabelText('Units, New goods')).toBeTruthy();
    press('Undo');
    expect(screen.queryByLabelText('Units, New goods')).toBeNull();
    expect(screen.getByRole('button', { name: 'Undo' })).toHaveProperty('disabled', true);
  });
  it('a supplier that is known brings its address', () => {
    page({ terms: terms({ supplier: '' }) });
    press('Ember');
    expect((screen.getByLabelText('Mail address') as HTMLInputElement).value).toBe('info@ember.example');
  });
  it('is sent by a mail that one looks over first', async () => {
    const { acts } = page({ terms: terms({ mail: 'sales@brackwater.example' }) });
    press('Send by mail');
    const dialog = within(screen.getByRole('dialog'));
    expect((dialog.getByLabelText('Subject') as HTMLInputElement).value).toBe('Purchase order PO-0007');
    expect((dialog.getByLabelText('Text') as HTMLInputElement).value).toContain('Dear Brackwater');
    fireEvent.click(dialog.getByRole('button', { name: 'Send' }));
    await waitFor(() =>
      expect(acts).toMatchObject([{ intent: 'send', edition: 3, to: 'sales@brackwater.example' }]),
    );
  });
  it('without a mail server it is noted as sent; who only looks changes nothing', async () => {
    const { acts } = page({}, { canMail: false });
    expect(screen.queryByRole('button', { name: 'Send by mail' })).toBeNull();
    expect(screen.getByText(/No mail server is set here/)).toBeTruthy();
    press('Sent another way');
    await waitFor(() => expect(acts).toMatchObject([{ intent: 'move', to: 'sent' }]));
  });
  it('who only looks reads it', () => {
    page({}, { canEdit: false });
    expect(screen.queryByLabelText('Units, Lantern')).toBeNull();
    expect(screen.queryByRole('button', { name: /Send|Cancel/ })).toBeNull();
    expect(screen.getByRole('row', { name: /Lantern.*120/ })).toBeTruthy();
  });
});

describe('an order that was sent', () => {
  const sent = {
    state: 'sent' as const,
    terms: terms({ depositShare: 0.5, placedOn: TODAY, leadDays: 20 }),
    progress: orderProgress.parse({
      steps: [
        { state: 'draft', at: '2026-11-24T08:00:00Z', by: 'me' },
        { state: 'sent', at: '2026-11-24T09:00:00Z', by: 'gone', note: 'a@b.example' },
      ],
      receipts: [{ id: 'r', day: TODAY, lines: [{ line: 'a', units: 60, damaged: 4 }] }],
      payments: [{ id: 'p', day: TODAY, amount: 325, home: 260 }],
    }),
  };
  it('says what happened, what came in and what is still to pay', () => {
    page(sent);
    expect(answer()).toContain('$325.00 on 24 Nov 2026, $325.00 on 14 Dec 2026');
    expect(screen.getByText('sent on 24 Nov 2026 by somebody: a@b.example')).toBeTruthy();
    const came = within(screen.getByRole('region', { name: 'What came in' })).getByRole('row', {
      name: /Lantern/,
    });
    expect(came.textContent).toContain('60');
    expect(came.textContent).toContain('56');
    expect(screen.getByText('Still to pay: $325.00.')).toBeTruthy();
    expect(screen.getByText(/\$325.00, €260.00 from the account/)).toBeTruthy();
  });
  it('the supplier confirms other figures: these are sent', async () => {
    const { acts } = page(sent);
    press('The supplier confirmed');
    const dialog = within(screen.getByRole('dialog'));
    fireEvent.change(dialog.getByLabelText('Units, Lantern'), { target: { value: '96' } });
    fireEvent.click(dialog.getByRole('button', { name: 'Confirmed so' }));
    await waitFor(() =>
      expect(acts).toMatchObject([
        { intent: 'move', to: 'confirmed', confirmed: [{ id: 'a', units: 96, unitPrice: 5 }] },
      ]),
    );
  });
  it('an invoice’s file fills the lines in, to be looked over, and says what it does not fit', async () => {
    const { acts } = page(sent);
    press('The supplier confirmed');
    const dialog = within(screen.getByRole('dialog'));
    const text = 'Description;Qty;Unit price\nLantern;96;4,80\nPallet;1;12\nLantern;some;4';
    const file = fileOf(text);
    fireEvent.change(dialog.getByLabelText('Fill in from the invoice’s file'), { target: { files: [file] } });
    const said = await dialog.findByRole('status');
    expect(said.textContent).toContain('In the file: 1 of 1 lines.');
    expect(said.textContent).toContain('Not in the order: Pallet. Not readable, rows 4');
    expect(acts).toEqual([]);
    fireEvent.click(dialog.getByRole('button', { name: 'Confirmed so' }));
    await waitFor(() =>
      expect(acts).toMatchObject([{ confirmed: [{ id: 'a', units: 96, unitPrice: 4.8 }] }]),
    );
  });
  it('bills of a file are sent as they stand in it', async () => {
    const { acts } = page(sent);
    const text = 'Day,What for,Amount\n2026-11-02,Duty,12.50';
    const file = fileOf(text);
    fireEvent.change(screen.getByLabelText('Bills from a file'), { target: { files: [file] } });
    await waitFor(() => expect(acts).toEqual([{ intent: 'bills', edition: 3, text }]));
  });
  it('goods come in as typed, and no more than was typed', async () => {
    const { acts } = page(sent);
    press('Goods came in');
    const dialog = within(screen.getByRole('dialog'));
    expect(dialog.getByRole('button', { name: 'Note it' })).toHaveProperty('disabled', true);
    fireEvent.change(dialog.getByLabelText('Good, Lantern'), { target: { value: '56' } });
    fireEvent.click(dialog.getByRole('button', { name: 'Note it' }));
    await waitFor(() =>
      expect(acts).toMatchObject([
        { intent: 'receive', day: TODAY, lines: [{ line: 'a', units: 56, damaged: 0 }] },
      ]),
    );
  });
  it('a payment in another currency says what it took from the account', async () => {
    const { acts } = page(sent);
    press('A payment was made');
    const dialog = within(screen.getByRole('dialog'));
    fireEvent.change(dialog.getByLabelText(/^Amount, USD/), { target: { value: '325' } });
    expect(dialog.getByRole('button', { name: 'Note it' })).toHaveProperty('disabled', true);
    fireEvent.change(dialog.getByLabelText(/^Took from the account/), { target: { value: '262.5' } });
    fireEvent.click(dialog.getByRole('button', { name: 'Note it' }));
    await waitFor(() => expect(acts).toMatchObject([{ intent: 'pay', amount: 325, home: 262.5 }]));
  });
  it('what became of its mail stands there; one that failed can be sent again', () => {
    const mails = [
      { id: 'm', to: 'a@b.example', state: 'failed', error: 'No such address.', at: '2026-11-24T09:00:00Z' },
    ];
    page(sent, { mails, mailbox: 'http://127.0.0.1/mail' });
    expect(screen.getByText(/could not be sent. No such address/)).toBeTruthy();
    expect(screen.getByRole('link', { name: /mailbox/ }).getAttribute('href')).toBe('http://127.0.0.1/mail');
    press('Mail it again');
    expect(screen.getByRole('dialog')).toBeTruthy();
  });
  it('a cancelled order is taken up again by a press', async () => {
    const { acts } = page({ ...sent, state: 'cancelled' });
    press('Take it up again');
    await waitFor(() => expect(acts).toEqual([{ intent: 'back', edition: 3 }]));
  });
});

describe('all orders', () => {
  const all = (
    orders: readonly Order[],
    money: { cash: number | null; reserve: number } = { cash: 2000, reserve: 500 },
  ) =>
    shown(
      <OrdersPage
        orders={orders}
        money={money}
        homeCurrency="EUR"
        exchange={EXCHANGE}
        today={TODAY}
        left={0}
        base="/w/shop"
        canEdit
      />,
    );
  const said = (): string => screen.getByTestId('orders-answer').textContent ?? '';
  it('what is promised, what is left, and what each comes to', () => {
    all([order(), order({ id: 'o2', number: 8, state: 'sent' })]);
    expect(said()).toContain('1 order is under way, €520.00 of it still to pay.');
    expect(said()).toContain('Of €1,500.00 at hand above what is kept back, €980.00 is left');
    expect(said()).toContain('1 draft waits.');
    const row = screen.getByRole('row', { name: /PO-0008/ }).textContent ?? '';
    for (const figure of ['sent', '$650.00', '€520.00']) expect(row).toContain(figure);
  });
  it('more than there is, cash that is not known, and orders that lack something are said', () => {
    all([order({ state: 'sent', terms: terms({ delivery: null }) })], { cash: 600, reserve: 500 });
    expect(said()).toContain('That is €380.00 more than the €100.00 at hand');
    expect(screen.getByText(/At most that: PO-0007 lack something/)).toBeTruthy();
  });
  it('no cash is no 0', () => {
    all([order({ state: 'sent' })], { cash: null, reserve: 0 });
    expect(screen.getByText(/What is left is not known/)).toBeTruthy();
    expect(said()).not.toContain('left to order with');
  });
  it('without any the page says what to do', () => {
    all([]);
    expect(screen.getByText(/Nothing has been ordered yet/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Make an order' }).getAttribute('href')).toBe(
      '/w/shop/order/new',
    );
  });
});

describe('what to order', () => {
  const candidate = (over: object): ToOrder['candidates'][number] => ({
    candidateId: 'c',
    laneId: 'l',
    name: 'Lantern',
    lane: 'Alderway',
    country: 'DE',
    suppliers: ['Brackwater'],
    units: 200,
    isPlanned: false,
    isFirst: true,
    isOrdered: false,
    ...over,
  });
  const toOrder: ToOrder = {
    candidates: [
      candidate({}),
      candidate({ laneId: 'l2', country: 'FR', isFirst: false }),
      candidate({ candidateId: 'd', laneId: 'm', name: 'Nest box', isPlanned: true, isOrdered: true }),
    ],
    goods: [{ key: 5, listId: 'x', name: 'Rain gauge', list: 'Autumn', supplier: 'Ember' }],
  };
  it('what was decided on stands apart, other lanes behind a press; what is ticked is made into drafts', async () => {
    const { acts } = shown(<NewOrders toOrder={toOrder} chosen={['m']} />);
    expect(screen.getByRole('checkbox', { name: /Nest box.*on an order already/ })).toHaveProperty(
      'checked',
      true,
    );
    expect(screen.queryByRole('checkbox', { name: /France/ })).toBeNull();
    press('1 other lane');
    fireEvent.click(screen.getByRole('checkbox', { name: /Lantern.*France/ }));
    fireEvent.click(screen.getByRole('checkbox', { name: /Rain gauge/ }));
    press('Make drafts of 3');
    await waitFor(() => expect(acts).toEqual([{ lanes: ['m', 'l2'], goods: [{ key: 5, listId: 'x' }] }]));
  });
  it('is searched by goods and supplier; an empty order needs no ticks', async () => {
    const { acts } = shown(<NewOrders toOrder={toOrder} chosen={[]} />);
    fireEvent.change(screen.getByLabelText('Search'), { target: { value: 'ember' } });
    expect(screen.getAllByRole('checkbox')).toHaveLength(1);
    press('Start an empty order');
    await waitFor(() => expect(acts).toEqual([{ byHand: true }]));
  });
});
