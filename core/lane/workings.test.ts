import { describe, expect, it } from 'vitest';
import { marketplaceCardOf, plainLane, taxCardOf } from '../testing/documents.ts';
import { costProof, headroomProof, priceProof } from './figureWorkings.ts';
import { evaluate } from './evaluate.ts';
import { highestPurchaseCost, priceFor } from './solve.ts';
import { originOf, proofSteps, withoutNothing, workings } from './workings.ts';

const doc = plainLane({
  price: 24,
  standing: { kind: 'registered' },
  referralApplies: true,
  product: { category: 'any' },
  goods: [
    {
      source: {
        kind: 'quote',
        supplier: 'Haiyu',
        date: '2026-11-12',
        currency: 'USD',
        priceBreaks: [{ minQty: 0, unitPrice: 5 }],
      },
    },
  ],
  provenance: {
    returns: { source: 'default', date: '2026-11-24', note: '' },
    price: { source: 'typed', date: '2026-11-20', note: '' },
  },
  returns: { rate: 0.05 },
  rates: {
    tax: taxCardOf('inclusive', 0.2),
    marketplace: marketplaceCardOf([
      { upTo: 10, pct: 0.08 },
      { upTo: null, pct: 0.15 },
    ]),
    exchange: { date: '2026-11-20', base: 'EUR', rates: { USD: 1.25 }, source: 'by hand' },
  },
});

describe('a working for reading', () => {
  const term = (name: string, value: number | string | null) => ({
    name,
    value,
    unit: 'money' as const,
    path: '',
    origin: { source: 'reckoned' as const, date: null, note: '' },
  });
  const step = (formula: string, ...terms: ReturnType<typeof term>[]) =>
    withoutNothing({ amount: 1, unit: 'money', formula, terms, rates: [] });
  it('leaves out what is added and is 0, and what has no value', () => {
    const s = step(
      'round(stepFee + addOns + peakSurcharge)',
      term('stepFee', 3.3),
      term('addOns', 0),
      term('peakSurcharge', 0),
      term('min', null),
    );
    expect(s.formula).toBe('round(stepFee)');
    expect(s.terms.map((t) => t.name)).toEqual(['stepFee']);
  });
  it('a product that is added goes with its other factor; a factor that is 0 stays, as it decides the amount', () => {
    expect(
      step(
        'dutyRate * customsValue + perUnit + perKg * unitKg',
        term('dutyRate', 0),
        term('perUnit', 0.2),
        term('perKg', 0),
      ).formula,
    ).toBe('dutyRate * customsValue + perUnit');
    expect(step('pct * base', term('pct', 0)).terms).toHaveLength(1);
  });
});

describe('workings', () => {
  const w = workings(doc);
  it('give the formula with the numbers in it', () => {
    expect(w.outputVat?.[0]?.formula).toBe('gross * vatRate / (1 + vatRate)');
    expect(w.outputVat?.[0]?.amount).toBeCloseTo(4, 12);
    expect(w.goods?.[0]?.terms.map((t) => [t.name, t.value])).toEqual(
      expect.arrayContaining([
        ['unitPrice', 5],
        ['packRatio', 1],
        ['exchangeRate', 0.8],
      ]),
    );
    expect(w.referral?.[0]).toMatchObject({ amount: 3.6, formula: 'round(clamp(pct * base, min, max))' });
    expect(w.margin?.[0]).toMatchObject({ unit: 'share', formula: 'unitProfit / netRevenue' });
  });
  it('say where each number came from, and how old it is', () => {
    const of = (line: string, term: string) => w[line]?.[0]?.terms.find((t) => t.name === term)?.origin;
    expect(of('goods', 'unitPrice')).toEqual({ source: 'quote', date: '2026-11-12', note: 'Haiyu' });
    expect(of('goods', 'exchangeRate')).toEqual({ source: 'card', date: '2026-11-20', note: 'by hand' });
    expect(of('referral', 'tiers')).toEqual({ source: 'card', date: '2026-01-01', note: 'Test card' });
    expect(of('outputVat', 'vatRate')).toEqual({ source: 'card', date: '2026-01-01', note: 'Test tax' });
    expect(of('returns', 'returnRate')?.source).toBe('default');
    expect(of('gross', 'price')).toEqual({ source: 'typed', date: '2026-11-20', note: '' });
    expect(of('margin', 'unitProfit')?.source).toBe('reckoned');
    expect(originOf(doc, 'averageDiscount').source).toBe('typed');
  });
  it('of a break-even put it back through the model: it pays, and a cent less does not', () => {
    const [step] = proofSteps(doc, priceProof(doc, priceFor(doc)));
    const [at, cheaper] = (step?.terms ?? []).map((t) => t.value as number);
    expect(step?.amount).toBe(priceFor(doc).price);
    expect(at).toBeGreaterThanOrEqual(0);
    expect(cheaper).toBeLessThan(0);
    const [room] = proofSteps(doc, headroomProof(doc, priceFor(doc).price));
    expect(room?.amount).toBeCloseTo((24 - (priceFor(doc).price as number)) / 24, 12);
    const [most] = proofSteps(doc, costProof(doc, highestPurchaseCost(doc)));
    expect(most?.terms[0]?.value).toBeCloseTo(0, 9);
  });
  it('have no number that is not one', () => {
    const blank = plainLane({ price: null, goods: null });
    for (const steps of Object.values(workings(blank)))
      for (const s of steps)
        for (const t of s.terms) if (typeof t.value === 'number') expect(Number.isFinite(t.value)).toBe(true);
    expect(workings(blank).unitProfit?.[0]?.amount).toBeNull();
    expect(evaluate(blank).figures.unitProfit).toBeNull();
    expect(priceProof(blank, priceFor(blank))).toMatchObject({ amount: null, terms: [] });
  });
});
