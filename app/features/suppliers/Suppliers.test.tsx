import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import { quoteSource } from '../../../core/workspace/records.ts';
import { SuppliersPage } from './Suppliers.tsx';

type Supplier = Parameters<typeof SuppliersPage>[0]['suppliers'][number];
const quoted = (over: object, bestProfit: number | null = 3): Supplier['quotes'][number] => ({
  id: 'q',
  candidateId: 'c',
  candidate: 'Nest box',
  data: quoteSource.parse({
    kind: 'quote',
    currency: 'USD',
    incoterm: 'FOB',
    priceBreaks: [
      { minQty: 0, unitPrice: 8 },
      { minQty: 500, unitPrice: 7.5 },
    ],
    date: '2026-10-01',
    validUntil: '2026-12-31',
    ...over,
  }),
  lanes: 2,
  bestProfit,
});
const supplier = (over: Partial<Supplier> = {}): Supplier => ({
  id: 's1',
  name: 'Brackwater',
  country: 'PL',
  currency: 'PLN',
  contact: '',
  mail: '',
  language: 'en',
  notes: '',
  quotes: [],
  ...over,
});

function shown(suppliers: Supplier[], canEdit = true, at = '/w/shop/suppliers') {
  const sent: Record<string, FormDataEntryValue>[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/suppliers',
      Component: () => (
        <SuppliersPage
          suppliers={suppliers}
          homeCurrency="EUR"
          today="2026-11-28"
          root="/w/shop"
          canEdit={canEdit}
        />
      ),
      action: async ({ request }) => {
        sent.push(Object.fromEntries(await request.formData()));
        return null;
      },
    },
  ]);
  render(<Stub initialEntries={[at]} />);
  return sent;
}
const type = (label: string, value: string) =>
  fireEvent.input(screen.getByLabelText(label), { target: { value } });

describe('a supplier', () => {
  it('everything quoted stands with its breaks, rule, validity and the best lane', () => {
    shown([supplier({ quotes: [quoted({ minimumOrder: 100 })] })]);
    const row = screen.getByRole('row', { name: /Nest box/ }).textContent ?? '';
    for (const said of ['$8.00', '$7.50', '500', 'FOB', '100', '€3.00']) expect(row).toContain(said);
    expect(row).not.toContain('expired');
  });
  it('a quote that ran out says so, and a lane that loses in words as well as in colour', () => {
    shown([supplier({ quotes: [quoted({ validUntil: '2026-11-27' }, -1.5)] })]);
    const row = screen.getByRole('row', { name: /Nest box/ }).textContent ?? '';
    expect(row).toMatch(/expired|ran out|over/i);
    expect(row).toContain('−€1.50');
    expect(row).toMatch(/loses/);
  });
  it('is saved as it was typed, and only once it has a name and a country that exists', async () => {
    const sent = shown([supplier()]);
    type('Name', '');
    type('Country', 'QX');
    fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('The supplier has no name. Give the supplier a name.')).toBeTruthy();
    expect(screen.getByLabelText('Country').getAttribute('aria-invalid')).toBe('true');
    expect(sent).toEqual([]);
    type('Name', 'Larkmoor');
    type('Country', 'se');
    fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(sent).toMatchObject([{ id: 's1', name: 'Larkmoor', country: 'se' }]));
  });
  it('who only looks can read and not change', () => {
    shown([supplier()], false);
    expect(screen.queryByRole('button', { name: 'Save' })).toBeNull();
    expect((screen.getByLabelText('Name') as HTMLInputElement).readOnly).toBe(true);
  });
  it('a new one begins blank', () => {
    shown([supplier()], true, '/w/shop/suppliers?new=1');
    expect((screen.getByLabelText('Name') as HTMLInputElement).value).toBe('');
  });
  it('without any the page says so', () => {
    shown([]);
    expect(screen.queryByRole('navigation')).toBeNull();
    expect(screen.queryByLabelText('Name')).toBeNull();
  });
});
