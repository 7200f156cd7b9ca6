import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { createRoutesStub } from 'react-router';
import { describe, expect, it } from 'vitest';
import { marketplaceCard } from '../../../core/cards/rates.ts';
import { proof } from '../../../core/proofs/schema.ts';
import type { Proof } from '../../../core/proofs/schema.ts';
import { marketplaceCardOf } from '../../../core/testing/documents.ts';
import { ProofsOfCard } from './ProofsPane.tsx';

const CARD = marketplaceCard.parse({
  ...marketplaceCardOf([{ upTo: null, pct: 0.15 }]),
  inForceFrom: '2026-10-01',
});
const BY = { homeCurrency: 'EUR', standings: {}, today: '2026-11-28' };
const referral = (price: number, fee: number): Proof => proof.parse({ price, charged: { referral: fee } });

function pane(proofs: readonly Proof[], over: { canEdit?: boolean; today?: string } = {}) {
  const sent: Record<string, unknown>[] = [];
  const action = async ({ request }: { request: Request }) => {
    sent.push((await request.json()) as Record<string, unknown>);
    return {};
  };
  const Page = () => (
    <ProofsOfCard
      cardId="v1"
      cardKey="Testmarket/DE"
      card={CARD}
      tax={null}
      by={{ ...BY, today: over.today ?? BY.today }}
      proofs={proofs.map((p, i) => ({ id: `p${i}`, proof: p }))}
      canEdit={over.canEdit ?? true}
      readUrl="/read"
    />
  );
  const Stub = createRoutesStub([
    { path: '/', Component: Page },
    { path: '/read', action },
  ]);
  render(<Stub initialEntries={['/']} />);
  return sent;
}
const said = (): string => screen.getByRole('status').textContent ?? '';

describe('how many proofs a card meets', () => {
  it.each([
    ['one that is met', [referral(20, 3)], 'It meets your one proof.'],
    ['one that is not', [referral(20, 4)], 'It does not meet your one proof.'],
    [
      'one that cannot be told',
      [proof.parse({ charged: { fulfilment: 2 } })],
      'Whether it meets your one proof cannot be told.',
    ],
    ['several', [referral(20, 3), referral(20, 4)], 'It meets 1 of your 2 proofs.'],
    [
      'several of which one cannot be told',
      [referral(20, 3), proof.parse({ charged: { fulfilment: 2 } })],
      'It meets 1 of your 2 proofs. One cannot be told.',
    ],
  ])('%s', (_, proofs, text) => {
    pane(proofs);
    expect(said()).toBe(text);
  });
});

describe('what would meet them', () => {
  it('goes into a draft of the card by a press, in force from the first day it may be', async () => {
    const sent = pane([referral(20, 3.6), referral(50, 9)]);
    fireEvent.click(await screen.findByRole('button', { name: 'Write it into a draft' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({ intent: 'draft', kind: 'marketplace', basedOn: 'v1' });
    const cells = sent[0]?.cells as Record<string, unknown[][]>;
    expect(cells.referralTiers).toEqual([['any', '', '18%']]);
    expect(cells.card).toContainEqual(['inForceFrom', '2026-11-29']);
  });
  it('after a version that is in force later it is from the day behind that', async () => {
    const sent = pane([referral(20, 3.6)], { today: '2026-09-01' });
    fireEvent.click(await screen.findByRole('button', { name: 'Write it into a draft' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    const cells = sent[0]?.cells as Record<string, unknown[][]>;
    expect(cells.card).toContainEqual(['inForceFrom', '2026-10-02']);
  });
  it('is only said to one who may not edit', () => {
    pane([referral(20, 3.6)], { canEdit: false });
    expect(screen.getByText('What would meet them')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Write it into a draft' })).toBeNull();
  });
});
