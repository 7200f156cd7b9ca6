import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub, useLocation } from 'react-router';
import { describe, expect, it } from 'vitest';
import { marketplaceCard } from '../../../core/cards/rates.ts';
import { proof } from '../../../core/proofs/schema.ts';
import { marketplaceCardOf } from '../../../core/testing/documents.ts';
import { ReadTablePage } from './ReadTable.tsx';
import type { Kept } from './ProofsPane.tsx';
import type { ReadData } from './useReadTable.ts';

const BASE = marketplaceCard.parse(marketplaceCardOf([{ upTo: null, pct: 0.15 }]));
type Sent = {
  intent: string;
  cells: Record<string, unknown[][]>;
  choices: Record<string, number>;
  proofs: unknown[];
};
type Over = Partial<ReadData> & { proofs?: readonly Kept[]; canEdit?: boolean };

function page({ proofs = [], canEdit = true, ...over }: Over = {}) {
  const sent: Sent[] = [];
  let address = '';
  const data: ReadData = {
    base: null,
    marketplaces: [{ id: 'm', name: 'Testmarket DE' }],
    choices: {},
    tax: null,
    by: { homeCurrency: 'EUR', standings: {}, today: '2026-11-28' },
    home: { country: 'DE', currency: 'EUR' },
    currencies: { DE: 'EUR', JP: 'JPY', ZW: 'USD' },
    taxed: { DE: 0.19 },
    known: { rates: { JP: 0.1 }, from: 'a package' },
    today: '2026-11-28',
    ...over,
  };
  const Page = () => {
    address = useLocation().search;
    return <ReadTablePage {...data} proofs={proofs} root="/w/shop" canEdit={canEdit} />;
  };
  const action = async ({ request }: { request: Request }) => {
    sent.push(await request.json());
    return {};
  };
  const Stub = createRoutesStub([{ path: '/read', Component: Page, action }]);
  render(<Stub initialEntries={['/read']} />);
  return { sent, address: () => address };
}
const give = (text: string): void =>
  void fireEvent.change(screen.getByLabelText('What you gave'), {
    target: { value: text.replaceAll('→', '\t') },
  });
const type = (label: string | RegExp, value: string): void => {
  const field = screen.getByLabelText(label);
  fireEvent.focus(field);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};
const button = (name: string | RegExp) => screen.getByRole<HTMLButtonElement>('button', { name });
const press = (name: string | RegExp): void => void fireEvent.click(button(name));
const sentence = (): string => screen.getByTestId('read-sentence').textContent ?? '';
const FEES = 'Tier→Weight→Fee\nSmall→up to 1 lb→2.50\nSmall→up to 2 lb→2.90';
const prove = (line: string): void => {
  type('Add one: size, weight, what it cost', line);
  press('Add');
};

describe('a fee table read into a new card', () => {
  it('asks where one sells, then says cell by cell what was understood, in our units', () => {
    page();
    expect(sentence()).toBe('Where do you sell, and what is charged there?');
    give(FEES);
    expect(sentence().trim()).toBe('Read: 6 of 6 cells.');
    const cells = screen.getAllByRole('cell').map((c) => c.textContent);
    expect(cells.slice(0, 3)).toEqual(['Small', 'up to 1 lbup to 0.454 kg', '2.50']);
    expect(screen.getAllByRole('columnheader').map((c) => c.textContent)).toEqual(['Tier', 'Weight', 'Fee']);
  });
  it('lacks what is said: a name and what it takes of a sale; with them it can be in force', async () => {
    const { sent } = page();
    give(FEES);
    expect(document.body.textContent).toContain('what it takes of a sale');
    expect(button(/^Put in force/).disabled).toBe(true);
    type('Marketplace', 'Ostrelle');
    type(/^Takes of a sale/, '15');
    expect(document.body.textContent).toContain('one commission for everything');
    press(/^Put in force from 28 Nov 2026/);
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ intent: 'force', basedOn: null, kind: 'marketplace', standing: null });
    expect(sent[0]?.cells.weightSteps).toEqual([
      ['Small', '', '0.45359237', '', '2.5'],
      ['Small', '', '0.90718474', '', '2.9'],
    ]);
    expect(sent[0]?.cells.referralTiers).toEqual([['all', '', '15%']]);
  });
  it('asks who sends, and says what is rough by it', () => {
    page();
    type('Marketplace', 'Ostrelle');
    expect(document.body.textContent).toContain('who sends the goods: say so');
    expect(document.body.textContent).toContain('no fulfilment fees');
    const sender = screen.getByLabelText('Who sends the goods');
    fireEvent.change(sender, { target: { value: 'self' } });
    expect(document.body.textContent).toContain('what a parcel costs you: paste your carrier’s table');
    expect(document.body.textContent).not.toContain('no fulfilment fees');
    fireEvent.change(sender, { target: { value: 'marketplace' } });
    expect(document.body.textContent).toContain('no fulfilment fees');
    expect(document.body.textContent).not.toContain('who sends the goods: say so');
  });
  it('says the VAT of a country and where it is from; one’s own goes before it', async () => {
    const { sent } = page({ home: { country: 'JP', currency: 'JPY' } });
    const vat = () => screen.getByLabelText<HTMLInputElement>(/^VAT or GST there/);
    expect(vat().value).toBe('10');
    expect(document.body.textContent).toContain('by a package: check before you rely on it');
    type(/^VAT or GST there/, '8');
    expect(document.body.textContent).not.toContain('by a package');
    press('Make a draft');
    await waitFor(() => expect(sent[0]).toMatchObject({ vat: 0.08 }));
  });
  it('a country with a card of its own says its rate, one that nobody knows is asked about', () => {
    page();
    expect(document.body.textContent).toContain('VAT there: 19.0% by your card');
    cleanup();
    page({ home: { country: 'AQ', currency: 'USD' } });
    expect(document.body.textContent).toContain('not known to us: type it');
    expect(document.body.textContent).toContain('VAT of this country: type its standard rate');
    type(/^VAT or GST there/, '0');
    expect(document.body.textContent).not.toContain('type its standard rate');
  });
  it('the same thing wrong in several cells is said once, with its lines', () => {
    page();
    give('Removal fees→→\nTier→Weight→Fee\nSmall→up to 1 kg→2.50\nLarge→up to 2 kg→2.90');
    const said = document.body.textContent ?? '';
    expect(said.split('has no place for').length - 1).toBe(1);
    expect(said).toContain('lines 3 to 4');
  });
  it('a doubtful cell is a question: nothing is in force before the answer, which is remembered', async () => {
    const { sent } = page();
    type('Marketplace', 'Ostrelle');
    type(/^Takes of a sale/, '15');
    give('Weight→Fee\nup to 500 g→3\nup to 1.500 g→5');
    expect(sentence()).toContain('One can be read two ways.');
    expect(document.body.textContent).toContain('One cell is open');
    expect(button(/^Put in force/).disabled).toBe(true);
    press('It is up to 1.5 kg');
    expect(sentence().trim()).toBe('Read: 4 of 4 cells.');
    press(/^Put in force/);
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(Object.values(sent[0]?.choices ?? {})).toEqual([0]);
  });
  it('a choice made before is taken again', () => {
    page({ choices: { 'up to 1.500 g|Weight|up to 1.500 g': 1 } });
    give('Weight→Fee\nup to 500 g→3\nup to 1.500 g→5');
    expect(screen.getByText('up to 0.002 kg')).toBeTruthy();
  });
  it('what is not understood is marked with line and remedy, and becomes part of nothing', async () => {
    const { sent } = page();
    give('Tier→Weight→Fee\nSmall→up to 1 kg→$2.50\nSmall→up to 2 kg→€2.90');
    expect(sentence()).toContain('One is not understood.');
    expect(document.body.textContent).toContain('line 2 "$2.50" is not in EUR');
    expect(document.body.textContent).toContain(
      'One cell is not understood: what it says is missing on the card.',
    );
    press('Make a draft');
    await waitFor(() => expect(sent[0]?.cells.weightSteps).toEqual([['Small', '', '2', '', '2.9']]));
  });
  it('what stands between rows is named, and sentences say whether they were used', () => {
    page();
    give(
      'Tier→Weight→Fee\nSmall→0 to 1 kg→2.50\nSmall→2 to 3 kg→2.90\n\n' +
        'Small: 30 x 20 x 10 cm\nAsk us about pianos.',
    );
    expect(document.body.textContent).toContain('Between 1 and 2 kg Small has no fee');
    expect(document.body.textContent).toContain('Small: 30 x 20 x 10 cm (read)');
    expect(document.body.textContent).toContain('Ask us about pianos. (not used)');
  });
  it('of a forwarder becomes a freight card, leg by leg; a stage that is not said is a question', async () => {
    const { sent } = page();
    fireEvent.change(screen.getByLabelText('Read into'), { target: { value: 'freight' } });
    type('Name of the card', 'Sea from Ningbo');
    give('Item→Price\nSea freight→95.00 per cbm\nDocuments→35.00 per shipment');
    expect(sentence()).toContain('One can be read two ways.');
    expect(screen.getAllByRole('cell').map((c) => c.textContent)).toContain('95.00 per cbm95.00 a m³');
    press('It is paid at the destination');
    expect(sentence().trim()).toBe('Read: 4 of 4 cells.');
    press(/^Put in force/);
    await waitFor(() => expect(sent[0]).toMatchObject({ intent: 'force', kind: 'freight' }));
    expect(sent[0]?.cells.legs?.map((l) => l.slice(1, 6))).toEqual([
      ['Sea freight', 'main', 'perCbm', '95', 'EUR'],
      ['Documents', 'destination', 'perShipment', '35', 'EUR'],
    ]);
    expect(sent[0]?.cells.card).toContainEqual(['to', 'DE']);
  });
  it('for a carrier becomes a postage card, whose shares are asked for', async () => {
    const { sent } = page();
    fireEvent.change(screen.getByLabelText('Read into'), { target: { value: 'postage' } });
    type('Name of the card', 'Fleetpost');
    give('Weight→Home→Islands\nup to 1 kg→3.20→6.40\nup to 2 kg→3.80→7.10');
    expect(document.body.textContent).toContain('how many of your orders go to each zone');
    // The zones are there: only their shares are missing.
    expect(document.body.textContent).toContain('This is missing');
    expect(document.body.textContent).not.toContain('There is no zone');
    press('Make a draft');
    await waitFor(() => expect(sent[0]).toMatchObject({ kind: 'postage' }));
    expect(sent[0]?.cells.zones).toEqual([
      ['Home', '', 'EUR'],
      ['Islands', '', 'EUR'],
    ]);
  });
  it('is looked at by who may not edit, and kept by nobody', () => {
    page({ canEdit: false });
    give(FEES);
    expect(screen.queryByRole('button', { name: 'Make a draft' })).toBeNull();
  });
});

describe('a table read into a card there is', () => {
  const base = { id: 'm', key: 'Testmarket/DE', name: 'Testmarket DE', data: BASE };
  it('says how many rows would change, or that none does', () => {
    page({ base });
    give('Category→Referral fee\nAnything→15%');
    expect(document.body.textContent).toMatch(/\d+ rows? changes?/);
  });
  it('another card is chosen by its name', () => {
    const { address } = page({ base });
    fireEvent.change(screen.getByLabelText('Read into'), { target: { value: '' } });
    expect(address()).toBe('');
  });
});

describe('proofs beside the table', () => {
  const whole = (): void => {
    type('Marketplace', 'Ostrelle');
    type(/^Takes of a sale/, '15');
    give(`${FEES}\n\nSmall: 30 x 20 x 10 cm`);
  };
  const pane = (): string => screen.getByRole('region', { name: 'Proofs' }).textContent ?? '';
  it('are met, or fail by so much at the row that decided, with what would meet them', async () => {
    const { sent } = page();
    whole();
    prove('20 x 10 x 5 cm, 1.5 lb, 2.90');
    prove('20 x 10 x 5 cm, 0.3 kg, 2.20');
    expect(pane()).toContain('It meets 1 of your 2 proofs.');
    expect(pane()).toContain('0.30 too much. Small, counted as 0.3 kg');
    expect(pane()).toContain('Small up to 0.454 kg: 2.20 instead of 2.50: meets one more, breaks none');
    press(/^Put in force/);
    await waitFor(() => expect(sent[0]?.proofs).toHaveLength(2));
  });
  it('a line that is none says why, and is kept in the field', () => {
    page();
    whole();
    prove('a heavy one, 2.90');
    expect(pane()).toContain('"a heavy one" is neither a size, a weight, a category nor an amount');
    expect(screen.getByLabelText<HTMLInputElement>(/^Add one/).value).toBe('a heavy one, 2.90');
  });
  it('rows are pasted under their headings, all or none', () => {
    page();
    whole();
    const paste = (text: string): void =>
      void fireEvent.paste(screen.getByLabelText(/^Add one/), { clipboardData: { getData: () => text } });
    paste('weight\tsides\tfulfilment\n0.3 kg\t20 x 10 x 5 cm\t2.50\nheavy\t20 x 10 x 5 cm\t2.90');
    expect(pane()).toContain('Row 3: "heavy" is not a weight');
    expect(pane()).not.toContain('of your');
    paste('weight\tsides\tfulfilment\n0.3 kg\t20 x 10 x 5 cm\t2.50\n0.8 kg\t20 x 10 x 5 cm\t2.90');
    expect(pane()).toContain('It meets 2 of your 2 proofs.');
  });
  it('one is taken away again', () => {
    page();
    whole();
    prove('20 x 10 x 5 cm, 1.5 lb, 2.90');
    press('Take this proof away');
    expect(pane()).toContain('An invoice or a settlement line says whether a card is right.');
  });
  it('of a card there is are kept as they come', async () => {
    const kept = { id: 'p', proof: proof.parse({ price: 20, charged: { referral: 3 } }) };
    const { sent } = page({
      base: { id: 'm', key: 'Testmarket/DE', name: 'Testmarket DE', data: BASE },
      proofs: [kept],
    });
    expect(pane()).toContain('referral 3.00 meets');
    prove('price 40, referral 6.00');
    await waitFor(() => expect(sent[0]).toMatchObject({ intent: 'addProofs', key: 'Testmarket/DE' }));
    press('Take this proof away');
    await waitFor(() => expect(sent[1]).toEqual({ intent: 'dropProofs', ids: ['p'] }));
  });
});
