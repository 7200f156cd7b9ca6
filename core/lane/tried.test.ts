import { describe, expect, it } from 'vitest';
import { randomLane } from '../testing/lanes.ts';
import { reckon } from './reckon.ts';
import { FIGURE_VALUES, FIGURES } from './figures.ts';
import { Reckoning } from './reckoning.ts';
import type { LaneDocument } from './schema.ts';
import type { Tried } from './tried.ts';
import { cases, enough } from '../testing/seed.ts';

type Try = (t: Tried, doc: LaneDocument) => void;
/** What is tried, and the same written into the document; null where a lane has no such input. */
const TRIES: Record<string, [Try, (doc: LaneDocument) => LaneDocument | null]> = {
  price: [
    (t) => {
      t.price = 17.5;
    },
    (doc) => ({ ...doc, price: 17.5 }),
  ],
  unitPrice: [
    (t) => {
      t.component = 0;
      t.unitPrice = 3.25;
    },
    (doc) => withSource(doc, (s) => (s.kind === 'retail' ? { ...s, shelfPrice: 3.25 } : repriced(s, 3.25))),
  ],
  bids: [
    (t) => {
      t.bids = 1.3;
    },
    (doc) =>
      withKeywords(doc, (k) => ({
        ...k,
        low: k.low === null ? null : k.low * 1.3,
        high: k.high === null ? null : k.high * 1.3,
      })),
  ],
  conversion: [
    (t) => {
      t.conversion = 0.8;
    },
    (doc) =>
      withKeywords(doc, (k) => ({
        ...k,
        conversionRate: k.conversionRate === null ? null : k.conversionRate * 0.8,
      })),
  ],
  freight: [
    (t) => {
      t.freight = 1.5;
    },
    (doc) =>
      doc.route === null || doc.route === 'none'
        ? null
        : {
            ...doc,
            route: {
              ...doc.route,
              legs: doc.route.legs.map((leg) => ({
                ...leg,
                rate: leg.rate === null ? null : leg.rate * 1.5,
                minCharge: leg.minCharge * 1.5,
                bands: leg.bands.map((b) => ({ ...b, rate: b.rate * 1.5 })),
              })),
            },
          },
  ],
  units: [(t) => t.holdUnits(37), (doc) => ({ ...doc, demand: { kind: 'typed', units: 37 } })],
  returnRate: [
    (t) => {
      t.returnRate = 0.11;
    },
    (doc) =>
      doc.returns === null || doc.returns === 'none' || (doc.returns.rate ?? 0) === 0
        ? null
        : { ...doc, returns: { ...doc.returns, rate: 0.11 } },
  ],
  exchange: [
    (t) => {
      t.exchange = 1.2;
    },
    dearerCurrency,
  ],
};

type Source = Extract<LaneDocument['goods'], readonly unknown[]>[number]['source'];
function withSource(doc: LaneDocument, change: (s: Source) => Source | null): LaneDocument | null {
  if (!Array.isArray(doc.goods)) return null;
  const [first, ...rest] = doc.goods;
  const source = first === undefined ? null : change(first.source);
  return source === null || first === undefined ? null : { ...doc, goods: [{ ...first, source }, ...rest] };
}
// A price that is tried needs no break: only where every quantity has one are the two the same.
const repriced = (s: Extract<Source, { kind: 'quote' }>, unitPrice: number): Source | null =>
  (s.priceBreaks[0]?.minQty ?? 1) > 0
    ? null
    : { ...s, priceBreaks: s.priceBreaks.map((b) => ({ ...b, unitPrice })) };
type Keyword = Extract<LaneDocument['adverts'], { keywords: unknown }>['keywords'][number];
function withKeywords(doc: LaneDocument, change: (k: Keyword) => Keyword): LaneDocument | null {
  const { adverts } = doc;
  return adverts === null || adverts === 'none'
    ? null
    : { ...doc, adverts: { ...adverts, keywords: adverts.keywords.map(change) } };
}
/** The currency of the first source is worth a fifth more; null where the lane converts nothing from it. */
function dearerCurrency(doc: LaneDocument): LaneDocument | null {
  const { exchange } = doc.rates;
  const from = Array.isArray(doc.goods) ? doc.goods[0]?.source.currency : undefined;
  if (exchange === null || from === undefined || from === doc.currency) return null;
  const rates = { ...exchange.rates };
  if (from === exchange.base) for (const c of Object.keys(rates)) rates[c] = (rates[c] as number) * 1.2;
  else if (rates[from] !== undefined) rates[from] = rates[from] / 1.2;
  return { ...doc, rates: { ...doc.rates, exchange: { ...exchange, rates } } };
}

const seeds = (n: number): number[] => Array.from({ length: n }, (_, i) => i + 1);
const figuresOf = (doc: LaneDocument, attempt: Try | null): number[] => {
  const r = new Reckoning();
  attempt?.(r.tried, doc);
  reckon(doc, r);
  return FIGURE_VALUES.map((value) => value(r));
};

describe('what is tried in place of what a lane says', () => {
  it.each(Object.keys(TRIES))('%s: as if the document said so', (name) => {
    const [attempt, written] = TRIES[name] as (typeof TRIES)[string];
    let compared = 0;
    for (let seed = 1; seed <= cases(1500) || (compared <= enough(100) && seed <= 1500); seed++) {
      const doc = randomLane(seed);
      const other = written(doc);
      if (other === null) continue;
      compared++;
      const [a, b] = [figuresOf(doc, attempt), figuresOf(other, null)];
      for (const [i, x] of a.entries()) {
        const y = b[i] as number;
        const same = Object.is(x, y) || Math.abs(x - y) <= 1e-7 * Math.max(1, Math.abs(x));
        if (!same)
          expect({ seed, figure: FIGURES[i], tried: x }).toEqual({ seed, figure: FIGURES[i], tried: y });
      }
    }
    expect(compared).toBeGreaterThan(enough(100));
  });
  it('taken back, the lane says what it said', () => {
    const r = new Reckoning();
    for (const seed of seeds(cases(200))) {
      const doc = randomLane(seed);
      const before = figuresOf(doc, null);
      for (const [attempt] of Object.values(TRIES)) attempt(r.tried, doc);
      reckon(doc, r);
      r.tried.release();
      reckon(doc, r);
      expect(FIGURE_VALUES.map((value) => value(r))).toEqual(before);
    }
  });
});
