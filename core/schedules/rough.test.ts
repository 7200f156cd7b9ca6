import { describe, expect, it } from 'vitest';
import { givenOfText } from './given.ts';
import { roughCard } from './rough.ts';
import { emptyCard, marketplaceDraft, withOneReferral } from './toCard.ts';
import { understand } from './understand.ts';

const ABOUT = { name: 'A', marketplace: 'A', country: 'PT', currency: 'EUR', inForceFrom: '2026-11-01' };
const codes = (text: string, pct: number | null = null): string[] => {
  const { parts } = understand(givenOfText(text.replaceAll('→', '\t')), 'EUR');
  return roughCard(withOneReferral(marketplaceDraft(parts, ABOUT), pct)).map((r) => r.code);
};

describe('what is rough of a card', () => {
  it('made from nothing is everything, also what is taken as none', () => {
    expect(roughCard(emptyCard(ABOUT)).map((r) => r.code)).toEqual([
      'noReferral',
      'noWarehouse',
      'noStorage',
      'noCharges',
      'noFeeVat',
    ]);
    expect(codes('', 0.12)).toContain('oneReferral');
  });
  it('goes with each table: commissions, fees with sizes, storage, charges', () => {
    const text = `Category→Commission
Garden→15 %
Books→12 %

Tier→Dimensions→Weight→Fee
Small→35 x 25 x 8 cm→up to 1 kg→3.10
Large→60 x 40 x 40 cm→up to 2 kg→5.40

Storage per m³
Month→Fee
January to December→24.00

Subscription: 39.00
Payment: 1.5 % + 0.25`;
    expect(codes(text)).toEqual(['noFeeVat']);
  });
  it('sizes without limits are named', () => {
    const { parts } = understand(givenOfText('Tier\tWeight\tFee\nS\tup to 1 kg\t2\nL\tup to 2 kg\t3'), 'EUR');
    expect(roughCard(marketplaceDraft(parts, ABOUT))).toContainEqual({ code: 'noSides', tiers: 'S, L' });
  });
});
