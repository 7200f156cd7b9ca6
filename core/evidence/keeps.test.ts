import { describe, expect, it } from 'vitest';
import { evaluate } from '../lane/evaluate.ts';
import { priceFor } from '../lane/solve.ts';
import { plainLane } from '../testing/documents.ts';
import {
  atCost,
  breakEvenOf,
  historySection,
  lackingOf,
  myPriceOf,
  offersSection,
  variationsSection,
} from './keeps.ts';
import { evidenceDocument } from './schema.ts';
import type { EvidenceDocument } from './schema.ts';

const NOW = '2026-11-29';
const documentOf = (more: object): EvidenceDocument =>
  evidenceDocument.parse({ format: 'bold-margin/evidence', version: 1, now: NOW, ...more });
const day = (back: number, price: number | null) => ({
  day: new Date(Date.parse(NOW) - back * 86_400_000).toISOString().slice(0, 10),
  price,
});
const daysAt = (price: number, count = 100) =>
  Array.from({ length: count }, (_, k) => day(count - 1 - k, price));
const LANE = plainLane();
const keepsAt = (price: number, lane = LANE): number =>
  evaluate({ ...lane, price }).figures.unitProfit as number;

describe('what a lane lacks', () => {
  it('nothing where it is complete, nothing without a lane', () => {
    expect(lackingOf(LANE)).toEqual({ lacks: [], bound: null });
    expect(lackingOf(null)).toEqual({ lacks: [], bound: null });
  });
  it('a missing price is no missing cost: the market has prices', () => {
    expect(lackingOf({ ...LANE, price: null })).toEqual({ lacks: [], bound: null });
  });
  it('a missing cost makes what it keeps at most so much', () => {
    const said = lackingOf({ ...LANE, prep: null });
    expect(said.bound).toBe('atMost');
    expect(said.lacks.length).toBeGreaterThan(0);
  });
});

describe('own price and break-even', () => {
  it('the price is the lane’s with its delivery, less its usual discount; else the document’s', () => {
    const doc = documentOf({ mine: { price: 31 } });
    expect(myPriceOf(doc, null)).toBe(31);
    expect(myPriceOf(doc, { ...LANE, price: null })).toBe(31);
    expect(myPriceOf(doc, { ...LANE, price: 40, averageDiscount: 0, shippingCharged: 3 })).toBe(43);
    expect(myPriceOf(doc, { ...LANE, price: 40, averageDiscount: 0.1, shippingCharged: 3 })).toBeCloseTo(
      39,
      12,
    );
  });
  it('at the break-even price a unit keeps nothing, and without a lane there is none', () => {
    const { price } = priceFor(LANE);
    expect(breakEvenOf(LANE)).toBeCloseTo(price as number, 9);
    expect(Math.abs(keepsAt(breakEvenOf(LANE) as number))).toBeLessThan(0.02);
    expect(breakEvenOf(null)).toBeNull();
    expect(breakEvenOf({ ...LANE, goods: null })).toBeNull();
  });
});

describe('history', () => {
  const doc = documentOf({ prices: { currency: LANE.currency, days: daysAt(36) } });
  it('no prices: no section', () => expect(historySection(documentOf({}), LANE)).toBeNull());
  it('a price that stood is every basis there is, and each keeps what the lane keeps at it', () => {
    const said = historySection(doc, LANE);
    const known = Object.entries(said?.bases ?? {}).filter(([, b]) => b.known);
    expect(known.length).toBeGreaterThan(2);
    for (const [of, basis] of known) {
      expect(basis, of).toMatchObject({ price: 36 });
      expect(said?.atBases[of as keyof typeof said.atBases], of).toBeCloseTo(keepsAt(36), 9);
    }
    expect(said?.margin).not.toBeNull();
    expect(said).toMatchObject({ lacks: [], bound: null });
  });
  it('without a lane the prices stand and nothing is kept of them', () => {
    const said = historySection(doc, null);
    expect(said).toMatchObject({ margin: null, breakEven: null, lacks: [], bound: null });
    expect(Object.values(said?.atBases ?? {}).every((x) => x === null)).toBe(true);
  });
  it('a lane in another currency is no lane for these prices', () => {
    const other = LANE.currency === 'EUR' ? 'GBP' : 'EUR';
    const elsewhere = documentOf({ prices: { currency: other, days: daysAt(36) } });
    expect(historySection(elsewhere, LANE)).toMatchObject({ margin: null, breakEven: null });
  });
  it('a lane that lacks a cost says so beside every figure', () => {
    const said = historySection(doc, { ...LANE, prep: null });
    expect(said?.bound).toBe('atMost');
    expect(said?.atBases.now).toBeGreaterThan(0);
  });
});

describe('offers', () => {
  const listed = (prices: number[]) =>
    documentOf({
      offers: {
        currency: LANE.currency,
        list: prices.map((price) => ({ price, delivery: 0, warehouse: true })),
      },
    });
  it('none known: no section', () => expect(offersSection(documentOf({}), LANE)).toBeNull());
  it('each case keeps what the lane keeps at its price', () => {
    const said = offersSection(listed([30, 33, 38, 44]), LANE);
    const priced = (said?.cases ?? []).filter((c) => c.price !== null);
    expect(priced.length).toBeGreaterThan(1);
    for (const c of priced) expect(c.unitProfit).toBeCloseTo(keepsAt(c.price as number), 9);
  });
  it('where the last offer leaves nothing is known of the price, nor of what is kept', () => {
    const said = offersSection(listed([30]), LANE);
    const open = (said?.cases ?? []).filter((c) => c.price === null);
    for (const c of open) expect(c.unitProfit).toBeNull();
    expect(said?.cases.length).toBeGreaterThan(0);
  });
  it('without a lane, and with one in another currency, nothing is kept', () => {
    const doc = listed([30, 33]);
    for (const lane of [null, { ...LANE, currency: 'JPY' as const }])
      expect(offersSection(doc, lane)?.cases.every((c) => c.unitProfit === null)).toBe(true);
  });
});

describe('variations', () => {
  const variations = [
    { code: 'A', name: 'Small', price: 30, ratings: 60, cost: null, stock: null },
    { code: 'B', name: 'Large', price: 45, ratings: 40, cost: 9, stock: 12 },
    { code: 'C', name: 'Odd', price: null, ratings: 0, cost: null, stock: null },
  ];
  const units = { statedListing: 200, hasVariations: true, ratingsVariation: 60, ratingsListing: 100 };
  const said = variationsSection(documentOf({ variations, units }), LANE);

  it('shares go by ratings and split the units of the listing', () => {
    expect(said.map((v) => (v.share.known ? v.share.expected : null))).toEqual([0.6, 0.4, 0]);
    expect(said.map((v) => v.units)).toEqual([120, 80, 0]);
  });
  it('keeps what the lane keeps at its price; at its own cost where that is known; nothing without a price', () => {
    expect(said[0]?.unitProfit).toBeCloseTo(keepsAt(30), 9);
    expect(said[1]?.unitProfit).toBeCloseTo(keepsAt(45, atCost(LANE, 9) ?? undefined), 9);
    expect(said[2]?.unitProfit).toBeNull();
    expect(said[1]).toMatchObject({ cost: 9, stock: 12 });
  });
  it('ratings that one of them lacks say no share, and so no units', () => {
    const gap = variations.map((v, i) => (i === 1 ? { ...v, ratings: null } : v));
    for (const v of variationsSection(documentOf({ variations: gap, units }), LANE)) {
      expect(v.share.known).toBe(false);
      expect(v.units).toBeNull();
    }
  });
  it('units that are not known leave shares standing', () => {
    const open = variationsSection(documentOf({ variations }), null);
    expect(open.map((v) => v.units)).toEqual([null, null, null]);
    expect(open[0]?.share.known).toBe(true);
    expect(open.every((v) => v.unitProfit === null)).toBe(true);
  });
});
