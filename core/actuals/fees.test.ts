/** Fees held against the card, order by order. */
import { describe, expect, it } from 'vitest';
import type { LaneDocument } from '../lane/schema.ts';
import { BASE } from '../testing/settled.ts';
import { Claims, feeDue, overchargesOf } from './fees.ts';
import type { OrderLines } from './fees.ts';
import { STEPS } from './schema.ts';
import type { SettledKind } from './schema.ts';

const line = (kind: SettledKind, amount: number, over: Partial<OrderLines> = {}): OrderLines => ({
  order: 'O1',
  code: 'A',
  kind,
  day: '2026-10-05',
  amount: Math.round(amount * STEPS),
  above: Math.max(0, Math.round(amount * STEPS)),
  tax: null,
  units: kind === 'sale' ? 1 : 0,
  lines: 1,
  ...over,
});
const sale = line('sale', 24);
const over = (lines: readonly OrderLines[], doc: LaneDocument = BASE) => overchargesOf(lines, () => doc);

describe('fees by the card', () => {
  it('what is charged as the card says, to the rounding of a line, is no overcharge', () => {
    expect(over([sale, line('referral', -3.6), line('fulfilment', -3.1)])).toEqual([]);
    expect(over([sale, line('referral', -3.61)])).toEqual([]);
    expect(over([sale, line('referral', -3.4)])).toEqual([]);
  });
  it('a fee taken twice, and one above the card, are told apart', () => {
    const found = over([sale, line('fulfilment', -6.2, { lines: 2 }), line('referral', -4.1)]);
    expect(found.map((o) => [o.kind, o.why])).toEqual([
      ['fulfilment', 'twice'],
      ['referral', 'aboveCard'],
    ]);
    expect(found[0]?.due).toBeCloseTo(3.1, 9);
    expect(found[1]?.charged).toBeCloseTo(4.1, 9);
  });
  it('a dear fee in one line is not one that was taken twice', () => {
    expect(over([sale, line('fulfilment', -6.2)])[0]?.why).toBe('aboveCard');
  });
  it('goes by the price that the order really had, and by its units', () => {
    const two = line('sale', 40, { units: 2 });
    expect(over([two, line('referral', -6)])).toEqual([]);
    expect(over([two, line('referral', -7.2)])[0]?.due).toBeCloseTo(6, 9);
    expect(over([two, line('discount', -4), line('referral', -6)])[0]?.due).toBeCloseTo(5.4, 9);
  });
  it('leaves the VAT that fees bear out, and takes that of sales in', () => {
    expect(over([sale, line('referral', -4.32, { tax: -0.72 * STEPS })])).toEqual([]);
    expect(over([line('sale', 20), line('vat', 4), line('referral', -3.6)])).toEqual([]);
    const exclusive = {
      ...BASE,
      rates: { ...BASE.rates, tax: { ...BASE.rates.tax, regime: 'exclusive' } },
    } as LaneDocument;
    const taxed = line('sale', 26, { tax: 2 * STEPS });
    expect(over([taxed, line('referral', -3.6)], exclusive)).toEqual([]);
  });
  it('no VAT on fees is claimed where the card charges some and no line says how much', () => {
    const market = BASE.rates.marketplace as NonNullable<LaneDocument['rates']['marketplace']>;
    const feeVat = { treatment: 'charged' as const, rate: 0.2, bears: ['referral' as const] };
    const doc = { ...BASE, rates: { ...BASE.rates, marketplace: { ...market, feeVat } } };
    expect(over([sale, line('referral', -4.32)], doc)).toEqual([]);
    expect(over([sale, line('referral', -4.4)], doc)[0]?.due).toBeCloseTo(4.32, 9);
    expect(over([sale, line('referral', -4.32, { tax: 0 })], doc)[0]?.due).toBeCloseTo(3.6, 9);
    expect(over([sale, line('fulfilment', -3.72)], doc)[0]?.due).toBeCloseTo(3.1, 9);
  });
  it('what a refund turned round is no part of what was paid', () => {
    const vat = line('vat', 0, { above: 4 * STEPS, lines: 2 });
    const discount = line('discount', 0, { above: 2 * STEPS, lines: 2 });
    const lines = [line('sale', 20), vat, discount];
    // 20 and its VAT of 4, less the discount of 2 that was given back with it.
    expect(over([...lines, line('referral', -3.3)])).toEqual([]);
    expect(over([...lines, line('referral', -3.5)])[0]?.due).toBeCloseTo(3.3, 9);
  });
  it('without sale or order, where one sends oneself and where the card is silent, nothing is judged', () => {
    expect(over([line('referral', -9)])).toEqual([]);
    expect(over([{ ...sale, units: 0 }, line('referral', -9)])).toEqual([]);
    expect(over([{ ...sale, order: '' }, line('referral', -9)])).toEqual([]);
    expect(over([sale, line('fulfilment', -9)], { ...BASE, method: 'ownDispatch' })).toEqual([]);
    expect(
      over([sale, line('referral', -9)], { ...BASE, rates: { ...BASE.rates, marketplace: null } }),
    ).toEqual([]);
  });
  it('a fee that came back with a refund, and what is no fee of an order, are none', () => {
    expect(over([sale, line('referral', 0, { lines: 2 }), line('adverts', -9)])).toEqual([]);
  });
  it('is held against the card that was in force on the day of the sale', () => {
    const market = BASE.rates.marketplace as NonNullable<LaneDocument['rates']['marketplace']>;
    const newer = {
      ...BASE,
      rates: { ...BASE.rates, marketplace: { ...market, inForceFrom: '2026-10-01' } },
      typed: { ...BASE.typed, referralPct: 0.2 },
    } as LaneDocument;
    const docOn = (day: string) => (day < '2026-10-01' ? BASE : newer);
    const of = (day: string) => overchargesOf([{ ...sale, day }, line('referral', -4.8)], docOn).length;
    expect([of('2026-09-30'), of('2026-10-02')]).toEqual([1, 0]);
    expect(feeDue(BASE, 'referral', 24)).toBeCloseTo(3.6, 9);
    expect(feeDue(newer, 'referral', 24)).toBeCloseTo(4.8, 9);
  });
});

describe('claims', () => {
  it('gather the overcharges of a month for one reason, of how many, the dearest named', () => {
    const claims = new Claims();
    for (let i = 0; i < 1000; i++) {
      const order = `O${i}`;
      const day = i % 2 === 0 ? '2026-10-05' : '2026-11-05';
      const fee = i % 10 < 2 ? 3.2 + i / 1000 : 3.1;
      const lines = [{ ...sale, order, day }, line('fulfilment', -fee, { order, day })];
      claims.add(
        lines,
        overchargesOf(lines, () => BASE),
      );
    }
    const all = claims.all();
    expect(all.map((c) => [c.month, c.count, c.of])).toEqual([
      ['2026-10', 100, 500],
      ['2026-11', 100, 500],
    ]);
    const [first] = all;
    expect(first?.charged).toBeCloseTo(
      Array.from({ length: 100 }, (_, i) => 3.2 + (i * 10) / 1000).reduce((a, b) => a + b, 0),
      6,
    );
    expect(first?.orders[0]).toMatchObject({ order: 'O990', units: 1 });
    expect(first?.orders).toHaveLength(100);
  });
  it('name the dearest two hundred and count all', () => {
    const claims = new Claims();
    for (let i = 0; i < 900; i++) {
      const lines = [{ ...sale, order: `O${i}` }, line('fulfilment', -(4 + i / 100), { order: `O${i}` })];
      claims.add(
        lines,
        overchargesOf(lines, () => BASE),
      );
    }
    const [claim, ...others] = claims.all();
    expect(others).toEqual([]);
    expect(claim).toMatchObject({ count: 900, of: 900, why: 'aboveCard' });
    expect(claim?.orders.map((o) => o.order)).toEqual(Array.from({ length: 200 }, (_, i) => `O${899 - i}`));
  });
});
