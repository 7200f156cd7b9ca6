import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { settlementMap } from '../../../core/actuals/schema.ts';
import { ReportPage } from './ReportPage.tsx';
import { shown } from './testing/shown.tsx';

describe('a report', () => {
  const map = settlementMap.parse({
    columns: { day: 'Date', kind: 'What' },
    amounts: [{ column: 'Sum' }],
    kinds: { sold: 'sale' },
  });
  const report = (over: Partial<Parameters<typeof ReportPage>[0]> = {}) => (
    <ReportPage
      id="r1"
      name="october"
      sheet={null}
      sheets={['']}
      header={['Date', 'What', 'Sum', 'Fee']}
      rows={[['2026-10-01', 'Sold', '30', '-3']]}
      map={map}
      guessed={map}
      earlier={{}}
      place={null}
      places={[{ marketplace: 'Alderway', country: 'DE', currency: 'EUR' }]}
      said={null}
      sameAs={null}
      reading={null}
      base="/w/shop"
      canEdit
      {...over}
    />
  );
  it('is read once it is said where it is from, with the columns as they were chosen', async () => {
    const acts = shown(report());
    const read = await screen.findByRole('button', { name: 'Read the report' });
    expect(read.hasAttribute('disabled')).toBe(true);
    fireEvent.change(screen.getByLabelText('Marketplace and country'), { target: { value: 'Alderway/DE' } });
    fireEvent.change(screen.getByLabelText('Tax'), { target: { value: 'Fee' } });
    fireEvent.change(screen.getByLabelText('Amounts'), { target: { value: 'beside' } });
    fireEvent.change(screen.getByLabelText('Decimals'), { target: { value: 'comma' } });
    fireEvent.change(screen.getByLabelText('Days'), { target: { value: 'monthFirst' } });
    fireEvent.change(screen.getByLabelText('Signs'), { target: { value: 'bare' } });
    fireEvent.click(screen.getByRole('button', { name: 'Another column of amounts' }));
    fireEvent.change(screen.getAllByLabelText('is')[1] as HTMLElement, { target: { value: 'referral' } });
    fireEvent.change(screen.getAllByLabelText('Amount')[1] as HTMLElement, { target: { value: 'Fee' } });
    fireEvent.change(screen.getByLabelText('Tax'), { target: { value: '' } });
    fireEvent.click(read);
    await waitFor(() => expect(acts).toHaveLength(1));
    expect(acts[0]).toMatchObject({
      intent: 'read',
      place: { marketplace: 'Alderway', country: 'DE', currency: 'EUR' },
      map: {
        columns: { day: 'Date', kind: 'What' },
        amounts: [
          { column: 'Sum', kind: null },
          { column: 'Fee', kind: 'referral' },
        ],
        decimal: 'comma',
        days: 'monthFirst',
        signs: 'bare',
        tax: 'beside',
      },
    });
  });
  it('takes up what was said of the place that is chosen, and of no other', async () => {
    const earlier = { 'Alderway/DE': { ...map, kinds: { fee: 'referral' as const } } };
    const acts = shown(
      report({
        map: null,
        earlier,
        places: [
          { marketplace: 'Alderway', country: 'DE', currency: 'EUR' },
          { marketplace: 'Nordkai', country: 'DE', currency: 'EUR' },
        ],
      }),
    );
    const read = await screen.findByRole('button', { name: 'Read the report' });
    const choose = (value: string) =>
      fireEvent.change(screen.getByLabelText('Marketplace and country'), { target: { value } });
    choose('Alderway/DE');
    fireEvent.click(read);
    await waitFor(() => expect(acts).toHaveLength(1));
    choose('Nordkai/DE');
    await waitFor(() => expect(read.hasAttribute('disabled')).toBe(false));
    fireEvent.click(read);
    await waitFor(() => expect(acts).toHaveLength(2));
    expect(acts.map((a) => (a as { map: { kinds: object } }).map.kinds)).toEqual([
      { fee: 'referral' },
      map.kinds,
    ]);
  });
  it('says what waits and what was refused; a kind that is said goes with the next reading', async () => {
    const said = {
      rows: 3,
      lines: 1,
      amount: 300_000,
      waiting: [{ kind: 'levy', lines: 1, amount: -50_000 }],
      refusedRows: 1,
      refusedAmount: 10_000,
      refused: [{ row: 4, message: '"x" is no day.' }],
    };
    const place = { marketplace: 'Alderway', country: 'DE', currency: 'EUR' };
    const acts = shown(report({ said, place, sameAs: 'september' }));
    expect((await screen.findByTestId('report-said')).textContent).toBe(
      'Lines that count: 1, which come to €30.00. Rows read: 3. 1 row is refused; its amounts come to €1.00.',
    );
    expect(screen.getByText(/very same file as “september”/)).toBeTruthy();
    expect(screen.getByText('"x" is no day.')).toBeTruthy();
    fireEvent.change(screen.getByLabelText(/^levy/), { target: { value: 'other' } });
    expect(screen.getByText('Read it again for what was changed here to count.')).toBeTruthy();
    fireEvent.change(screen.getByLabelText('sold'), { target: { value: '' } });
    fireEvent.click(screen.getByRole('button', { name: 'Read again' }));
    await waitFor(() => expect(acts).toHaveLength(1));
    expect((acts[0] as { map: { kinds: object } }).map.kinds).toEqual({ levy: 'other' });
    fireEvent.click(screen.getByRole('button', { name: 'Take the report back' }));
    await waitFor(() => expect(acts[1]).toEqual({ intent: 'takeBack' }));
  });
});
