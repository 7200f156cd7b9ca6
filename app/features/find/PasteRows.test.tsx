import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import i18next from 'i18next';
import { settings } from '../../../core/workspace/settings.ts';
import { OpenDocument, PasteRows, readRows } from './PasteRows.tsx';

const read = (text: string, locale = 'en-GB') =>
  readRows(text, { locale }, i18next.t, { price: 'EUR', cost: 'EUR' });

describe('rows pasted from a spreadsheet', () => {
  it('are name, price, cost, sides and weight, with tabs, semicolons or commas between', () => {
    const whole = {
      line: 1,
      name: 'Bird bath',
      price: 29.9,
      cost: 6.4,
      sides: [30, 20, 10],
      kg: 0.9,
      gtin: null,
      problem: null,
    };
    expect(read('Bird bath\t29.90\t6.40\t30 x 20 x 10\t0.9 kg')).toEqual([whole]);
    expect(read('Bird bath;29.90;6.40;30 x 20 x 10;900 g')).toEqual([whole]);
    expect(read('Bird bath,29.90,6.40,30 x 20 x 10,0.9')).toEqual([whole]);
    expect(read('Bird bath;29,90;6,40;30 x 20 x 10;0,9', 'de-DE')).toEqual([whole]);
  });
  it('a first row without a number is a heading; empty lines are nothing', () => {
    expect(read('Name;Price;Cost\n\nPot;12;3\n\n').map((r) => [r.line, r.name])).toEqual([[2, 'Pot']]);
    // A single row is taken at its word.
    expect(read('Name;Price;Cost')).toHaveLength(1);
  });
  it('what is not there is blank, and no 0', () => {
    expect(read('Pot')).toEqual([
      { line: 1, name: 'Pot', price: null, cost: null, sides: null, kg: null, gtin: null, problem: null },
    ]);
    expect(read('Pot;;3')[0]).toMatchObject({ price: null, cost: 3, problem: null });
  });
  it.each([
    [';12;3', /no name/],
    ['Pot;twelve;3', /"twelve" is not a number/],
    ['Pot;12;-3', /below 0/],
    ['Pot;$12;3', /USD.*EUR/],
    ['Pot;12;3;20 x 15', /"20 x 15" is not three sides/],
    ['Pot;12;3;;heavy', /"heavy" is not a weight/],
  ])('%s is not taken, and says why', (text, why) => {
    expect(read(`Head;1;1\n${text}`)[1]?.problem).toMatch(why);
  });
  it('a barcode is one wherever it stands, and no price', () => {
    for (const row of ['9521000000001;Pot;12;3', 'Pot;9521000000001;12;3', 'Pot;12;3;;;9 521000 000001'])
      expect(read(row)[0]).toMatchObject({
        name: 'Pot',
        price: 12,
        cost: 3,
        gtin: '9521000000001',
        problem: null,
      });
  });
  it('a name longer than a candidate may have is cut', () => {
    expect(read('x'.repeat(300))[0]?.name).toHaveLength(200);
  });
});

function shown(element: React.ReactElement) {
  const sent: unknown[] = [];
  const Stub = createRoutesStub([
    {
      path: '/w/shop/find',
      Component: () => element,
      action: async ({ request }) => {
        sent.push(await request.json());
        return null;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/find']} />);
  return sent;
}

describe('the place where rows are pasted', () => {
  const place = (canEdit = true) =>
    shown(
      <PasteRows
        settings={settings.parse({})}
        today="2026-11-28"
        markets={[]}
        chosen="m"
        country="DE"
        cards={{}}
        laneCards={{}}
        canEdit={canEdit}
        error={null}
        way="wholesale"
        currency="EUR"
        from=""
      />,
    );
  const type = (text: string) => fireEvent.change(screen.getByRole('textbox'), { target: { value: text } });
  it('shows how each row was read, and sends those that are right', async () => {
    const sent = place();
    expect(screen.queryByRole('table')).toBeNull();
    type('Pot;12;3;20 x 15 x 8;0.4\nJug;dear;2\nMug;9');
    const cells = [...document.querySelectorAll('tbody tr')].map((r) =>
      [...r.querySelectorAll('td')].map((c) => c.textContent),
    );
    expect(cells[0]).toEqual(['1', 'Pot', '12', '3', '20 × 15 × 8', '0.4 kg', 'ready']);
    expect(cells[1]?.[6]).toMatch(/"dear" is not a number/);
    fireEvent.click(screen.getByRole('button', { name: /2.*3/ }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toEqual([
      expect.objectContaining({ name: 'Pot', way: 'wholesale', price: 12, cost: 3, country: 'DE' }),
      expect.objectContaining({ name: 'Mug', price: 9, cost: null, kg: null }),
    ]);
  });
  it('is closed to whoever only looks, and where no row is right', () => {
    place();
    type('Jug;dear');
    expect(screen.getByRole<HTMLButtonElement>('button').disabled).toBe(true);
    type('Pot;12');
    expect(screen.getByRole<HTMLButtonElement>('button').disabled).toBe(false);
  });
});

describe('a lane document from elsewhere', () => {
  const choose = (text: string) => {
    const field = document.querySelector('input[type=file]') as HTMLInputElement;
    fireEvent.change(field, {
      target: { files: [Object.assign(new File([text], 'lane.json'), { text: async () => text })] },
    });
  };
  it('is sent as it is', async () => {
    const sent = shown(<OpenDocument />);
    choose('{"format":"bold-margin/lane"}');
    await waitFor(() => expect(sent).toEqual([{ document: '{"format":"bold-margin/lane"}' }]));
  });
});
