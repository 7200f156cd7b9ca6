import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import { listMap } from '../../../core/lists/map.ts';
import { listSettings } from '../../../core/lists/settings.ts';
import type { ListSetup } from '../../../core/lists/setup.ts';
import { demoRow, demoScreen, TIDY_HEADER, TIDY_MAP, tidyLine } from '../../../demo/lists.ts';
import { ListSetupPage } from './Setup.tsx';
import type { Check, SetupData } from './useSetup.ts';

const MAP = listMap.parse(TIDY_MAP);
const { homeCurrency: _h, date: _d, standing: _s, ...assumptions } = demoScreen().assumptions;
const OWN = listSettings.parse({ country: 'DE', marketplaceCardId: 'm', assumptions });
const ROWS = [TIDY_HEADER, ...[0, 1, 2].map((n) => tidyLine(demoRow(n)).split(','))] as string[][];
const market = (id: string, country: string, currency: string, hasWarehouse = true) => ({
  id,
  key: `T/${country}`,
  name: `Testmarket ${country}`,
  country,
  currency,
  hasWarehouse,
  categories: [{ key: 'garden', name: 'Garden' }],
});
const CHECK: Check = {
  id: 't',
  state: 'done',
  done: 3,
  total: 3,
  error: null,
  valid: 2,
  invalid: 1,
  repaired: 1,
  completed: 2,
  troubles: { barcode: 1 },
};

/** The set-up page of a list; what is sent is noted. */
function setup(over: Partial<SetupData> = {}, list: Partial<SetupData['list']> = {}) {
  const sent: { setup: ListSetup; then: string }[] = [];
  const data: SetupData = {
    sheets: [{ name: '', rows: ROWS }],
    referenceSheets: null,
    map: MAP,
    own: OWN,
    suppliers: [],
    markets: [market('m', 'DE', 'EUR'), market('u', 'GB', 'GBP', false)],
    earlier: [],
    supplierName: '',
    home: 'EUR',
    check: null,
    refused: false,
    root: '/w/shop',
    canEdit: true,
    error: null,
    ...over,
    list: {
      id: 'l',
      name: 'Spring',
      file: { name: 'spring.csv', bytes: 12_400, kind: 'csv' },
      sheet: null,
      previousId: null,
      hasRun: false,
      mapped: false,
      reference: null,
      ...list,
    },
  };
  const action = async ({ request }: { request: Request }) => {
    sent.push(await request.json());
    return null;
  };
  const Stub = createRoutesStub([{ path: '/setup', Component: () => <ListSetupPage {...data} />, action }]);
  render(<Stub initialEntries={['/setup']} />);
  return sent;
}
const choose = (label: string | RegExp, value: string): void =>
  void fireEvent.change(screen.getByRole('combobox', { name: label }), { target: { value } });
const press = (name: string): void => void fireEvent.click(screen.getByRole('button', { name }));
const button = (name: string) => screen.getByRole<HTMLButtonElement>('button', { name });
const page = (): string => document.body.textContent ?? '';

describe('the columns of a list', () => {
  it('are said, with the first rows as they will be read, and sent with the terms', async () => {
    const sent = setup();
    expect(page()).toContain('spring.csv, 12 kB');
    expect(page()).toContain(demoRow(0).title);
    press('Read the list');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      setup: { name: 'Spring', supplier: '', previousId: null, reference: null, map: MAP },
    });
    expect(sent[0]?.then).toBe('run');
  });
  it('that are needed and missing keep the list from being read', () => {
    setup({ map: { ...MAP, columns: {} } });
    expect(page()).toContain('Choose a column for:');
    expect(button('Read the list').disabled).toBe(true);
    choose(/^Barcode/, 'Barcode');
    choose(/^Purchase price/, 'Net price');
    expect(page()).not.toContain('Choose a column for:');
    expect(button('Read the list').disabled).toBe(false);
  });
  it('that say nothing the program knows travel along where they are ticked', async () => {
    const sent = setup({ map: { ...MAP, columns: { identifier: 'Barcode', cost: 'Net price' } } });
    fireEvent.click(screen.getByRole('checkbox', { name: 'Stock' }));
    fireEvent.click(screen.getByRole('checkbox', { name: 'Brand' }));
    fireEvent.click(screen.getByRole('checkbox', { name: 'Brand' }));
    press('Check the rows');
    await waitFor(() => expect(sent[0]?.setup.map.extras).toEqual(['Stock']));
    expect(sent[0]?.then).toBe('check');
  });
  it('seldom met are offered on demand', () => {
    setup();
    const before = screen.getAllByRole('combobox').length;
    press('More columns a file may have');
    expect(screen.getAllByRole('combobox').length).toBeGreaterThan(before + 5);
  });
  it('of another sheet are guessed anew', () => {
    setup({
      sheets: [
        { name: 'Spring', rows: ROWS },
        {
          name: 'Notes',
          rows: [
            ['EAN', 'EK netto'],
            ['9520000000014', '3,20'],
          ],
        },
      ],
    });
    choose('Sheet', 'Notes');
    expect(screen.getByLabelText<HTMLSelectElement>(/^Barcode/).value).toBe('EAN');
  });
  it('are written in the units and with the decimals one says', async () => {
    const sent = setup();
    choose('Decimals', 'comma');
    choose('Sides in', 'mm');
    choose('Weight in', 'g');
    press('Read the list');
    await waitFor(() =>
      expect(sent[0]?.setup.map).toMatchObject({ decimal: 'comma', lengthUnit: 'mm', weightUnit: 'g' }),
    );
  });
});

describe('the terms of a list', () => {
  it('a supplier who is known brings columns and currency', async () => {
    const map = { ...MAP, decimal: 'comma' as const };
    const sent = setup({ suppliers: [{ id: 's', name: 'Pentlow Wholesale', currency: 'GBP', map }] });
    press('Pentlow Wholesale');
    expect(page()).toContain('The columns are those of the last list of Pentlow Wholesale.');
    press('Read the list');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.setup).toMatchObject({ supplier: 'Pentlow Wholesale', map: { decimal: 'comma' } });
    expect(sent[0]?.setup.settings.assumptions.purchase.currency).toBe('GBP');
  });
  it('where a marketplace has no warehouse, goods are dispatched by oneself', async () => {
    const sent = setup();
    choose('Sold on', 'u');
    expect([...screen.getByLabelText<HTMLSelectElement>('Fulfilled by').options].map((o) => o.value)).toEqual(
      ['ownDispatch'],
    );
    press('Read the list');
    await waitFor(() =>
      expect(sent[0]?.setup.settings).toMatchObject({ country: 'GB', marketplaceCardId: 'u' }),
    );
  });
  it('prices hold VAT, or it comes on top; a rate that is cleared takes none out', async () => {
    const sent = setup();
    choose('The prices', 'asTyped');
    expect(page()).toContain('No VAT is taken out of them or added');
    const rate = screen.getByRole('textbox', { name: /^VAT rate/ });
    fireEvent.focus(rate);
    fireEvent.change(rate, { target: { value: '7' } });
    fireEvent.blur(rate);
    press('Read the list');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.setup.settings.assumptions.purchase).toMatchObject({ vat: 'added', vatRate: 0.07 });
  });
  it('another edition it follows, a category, packs as they are bought', async () => {
    const sent = setup({ earlier: [{ id: 'e', name: 'Winter' }] });
    choose('Its edition before', 'e');
    choose(/^Category where/, '');
    choose('Prices are for', 'bought');
    press('Read the list');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.setup).toMatchObject({ previousId: 'e', settings: { packs: 'bought' } });
    expect(sent[0]?.setup.settings.assumptions.category).toBeNull();
  });
  it('a list without a name is not read', () => {
    setup();
    fireEvent.change(screen.getByLabelText('Name of the list'), { target: { value: ' ' } });
    expect(button('Read the list').disabled).toBe(true);
  });
  it('are only looked at by who may not edit', () => {
    setup({ canEdit: false });
    expect(screen.queryByRole('button', { name: 'Read the list' })).toBeNull();
  });
});

describe('a check of the rows', () => {
  it('says how many are good, what is wrong with the others, and where they are mended', () => {
    setup({ check: CHECK, refused: true });
    const found = screen.getByRole('status');
    expect(found.textContent).toContain('3 rows: 2 good, 1 to mend.');
    expect(found.textContent).toContain('1 barcode');
    expect(found.textContent).toContain('1 damaged barcode was repaired');
    expect(found.textContent).toContain('2 rows were completed');
    expect(within(found).getByRole('link').getAttribute('href')).toBe('/w/shop/lists/l/file?what=refused');
  });
  it('under way says how far it is, and is not begun twice', () => {
    setup({ check: { ...CHECK, state: 'running', done: 1, total: 0 } });
    expect(screen.getByRole('status').textContent).toContain('Checking: 1 of about 1');
    expect(button('Check the rows').disabled).toBe(true);
  });
  it('that stopped says why', () => {
    setup({ check: { ...CHECK, state: 'failed', error: 'The file is gone.' } });
    expect(screen.getByRole('status').textContent).toContain('The check stopped: The file is gone.');
  });
});

describe('market figures of a list', () => {
  const reference = {
    file: { name: 'market.csv' },
    sheet: null,
    map: listMap.parse({ columns: { identifier: 'EAN', price: 'Preis' } }),
    choice: 'sellsFastest' as const,
  };
  it('say which column is what, and which listing counts', async () => {
    const sent = setup({}, { reference });
    expect(page()).toContain('Preis');
    choose('Where a barcode has several listings', 'cheapest');
    press('Read the list');
    await waitFor(() => expect(sent[0]?.setup.reference).toMatchObject({ choice: 'cheapest' }));
  });
  it('are done without', async () => {
    const sent = setup({}, { reference });
    press('Do without');
    expect(page()).toContain('Add market figures');
    press('Read the list');
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.setup.reference).toBeNull();
  });
});
