import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub, useActionData } from 'react-router';
import { describe, expect, it } from 'vitest';
import { marketplaceCard, taxCard } from '../../../core/cards/rates.ts';
import { marketplaceCardOf, taxCardOf } from '../../../core/testing/documents.ts';
import { settings as settingsSchema } from '../../../core/workspace/settings.ts';
import { NewCandidateForm } from './NewCandidate.tsx';
import type { Props } from './NewCandidate.tsx';

const CARDS = {
  m: marketplaceCard.parse(marketplaceCardOf([{ upTo: null, pct: 0.1 }])),
  t: taxCard.parse(taxCardOf('inclusive', 0.19)),
};
/** A workspace whose defaults leave nothing open but the price and the goods. */
const SETTINGS = settingsSchema.parse({
  ways: ['wholesale', 'retail'],
  standings: { DE: { kind: 'registered' } },
  defaults: { prep: 0, inboundPerUnit: 0, returnRate: 0, monthlyUnits: 40, orderQuantity: 20 },
});

function shown(over: Partial<Props> = {}, answer: unknown = null) {
  const sent: unknown[] = [];
  function Page() {
    const said = useActionData() as Props['error'] | undefined;
    return (
      <NewCandidateForm
        settings={SETTINGS}
        today="2026-11-28"
        markets={[{ id: 'm', name: 'Test card', key: 'Testmarket/DE' }]}
        chosen="m"
        country="DE"
        cards={CARDS}
        laneCards={{ marketplace: 'm', tax: 't' }}
        canEdit
        error={said ?? null}
        {...over}
      />
    );
  }
  const Stub = createRoutesStub([
    {
      path: '/w/shop/find',
      Component: Page,
      action: async ({ request }) => {
        sent.push(await request.json());
        return answer;
      },
    },
  ]);
  render(<Stub initialEntries={['/w/shop/find']} />);
  return sent;
}
const number = (label: RegExp, value: string): void => {
  const field = screen.getAllByLabelText(label)[0] as HTMLElement;
  fireEvent.focus(field);
  fireEvent.change(field, { target: { value } });
  fireEvent.blur(field);
};
const name = (value: string) =>
  fireEvent.change(screen.getAllByLabelText('Product')[0] as HTMLElement, { target: { value } });
const send = () => fireEvent.submit(screen.getAllByRole('form')[0] as HTMLElement);
const said = (): string => document.body.textContent ?? '';

describe('a product from nothing to a first answer', () => {
  it('a price alone answers what one may pay, and a cost what a unit keeps', () => {
    shown();
    number(/^Price/, '29.90');
    // 29.90 less 4.77 VAT and 2.99 fee; fulfilment is not known, so less than what is left.
    expect(said()).toContain('Pay less than €22.13 for it');
    number(/^What a unit costs/, '10');
    expect(said()).toMatch(/under €12\.14/);
  });
  it('what the defaults have filled in is named, so that nothing passes for known', () => {
    shown();
    number(/^Price/, '29.90');
    expect(said()).toMatch(/default/i);
  });
  it('without a name nothing is sent, and the field says so', async () => {
    const sent = shown();
    send();
    expect(said()).toContain('Give the product a name');
    await act(async () => undefined);
    expect(sent).toEqual([]);
  });
  it('is sent as it was typed: what is blank is not known', async () => {
    const sent = shown();
    name('Nest box');
    number(/^Price/, '29.90');
    send();
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject([
      {
        name: 'Nest box',
        way: 'wholesale',
        price: 29.9,
        cost: null,
        sides: null,
        kg: null,
        marketplaceCardId: 'm',
        country: 'DE',
        hsCode: null,
      },
    ]);
  });
  it('what the server refuses is said with row and field, or as it is', async () => {
    shown(
      {},
      { row: 2, field: 'hsCode', message: 'This is no HS code. Give 4 to 10 digits of the HS code.' },
    );
    name('Nest box');
    send();
    expect((await screen.findByRole('alert')).textContent).toBe(
      'Row 2, hsCode: This is no HS code. Give 4 to 10 digits of the HS code. Nothing was added.',
    );
  });
  it('who only looks is told that nothing is kept', () => {
    shown({ canEdit: false });
    expect(screen.getByRole('alert').textContent).toMatch(/./);
  });
});
