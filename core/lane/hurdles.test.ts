import { describe, expect, it } from 'vitest';
import { plainLane, taxCardOf } from '../testing/documents.ts';
import { randomLane } from '../testing/lanes.ts';
import { judgeHurdles, remedyFor } from './hurdles.ts';
import { hurdle } from './hurdleSchema.ts';
import type { Hurdle } from './hurdleSchema.ts';
import { evaluate } from './evaluate.ts';
import type { LaneDocument, LaneDocumentInput } from './schema.ts';
import { cases, enough } from '../testing/seed.ts';

const of = (h: Partial<Hurdle> & Pick<Hurdle, 'figure' | 'level'>): Hurdle =>
  hurdle.parse({ bound: 'atLeast', ...h });
const goods = (unitPrice: number | null): LaneDocumentInput['goods'] => [
  { source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice }] } },
];
/** Price 20, goods 14, adverts 2: keeps 4, margin 20 %, ROI 28.6 %. */
const lane = (over: Partial<LaneDocumentInput> = {}): LaneDocument =>
  plainLane({
    price: 20,
    goods: goods(14),
    adverts: { keywords: [{ low: 0.5, high: 0.5, conversionRate: 0.1 }], adShare: 0.4 },
    ...over,
  });
const verdict = (doc: LaneDocument, h: Partial<Hurdle> & Pick<Hurdle, 'figure' | 'level'>) =>
  judgeHurdles(doc, [of(h)])[0];

describe('hurdles', () => {
  it('pass, near within a share of the level, fail, and by how much', () => {
    expect(verdict(lane(), { figure: 'unitProfit', level: 4 })).toMatchObject({
      verdict: 'pass',
      short: 0,
      value: 4,
    });
    expect(verdict(lane(), { figure: 'unitProfit', level: 4.4, near: 0.1 })).toMatchObject({
      verdict: 'near',
    });
    expect(verdict(lane(), { figure: 'unitProfit', level: 4.5, near: 0.1 })?.short).toBeCloseTo(0.5, 12);
    expect(verdict(lane(), { figure: 'unitProfit', level: 4.5, near: 0.1 })?.verdict).toBe('fail');
    expect(verdict(lane(), { figure: 'gross', bound: 'atMost', level: 19, near: 0.1 })?.verdict).toBe('near');
    expect(verdict(lane(), { figure: 'gross', bound: 'atMost', level: 20 })?.verdict).toBe('pass');
  });
  it('a money level is in the home currency and is held against the figure in its own', () => {
    const doc = lane({
      homeCurrency: 'USD',
      rates: {
        tax: taxCardOf('exclusive', 0),
        exchange: { date: '2026-11-20', base: 'EUR', rates: { USD: 1.25 } },
      },
    });
    expect(verdict(doc, { figure: 'unitProfit', level: 5 })).toMatchObject({ verdict: 'pass', level: 4 });
    expect(verdict(doc, { figure: 'unitProfit', level: 5.01, near: 0 })?.verdict).toBe('fail');
  });
  it('an incomplete figure passes none, and fails where it fails already', () => {
    const blank = lane({ adverts: null });
    expect(verdict(blank, { figure: 'unitProfit', level: 4 })?.verdict).toBe('unknown');
    expect(verdict(blank, { figure: 'unitProfit', level: 40 })?.verdict).toBe('fail');
    expect(verdict(lane({ goods: null }), { figure: 'unitProfit', level: 4 })).toMatchObject({
      verdict: 'unknown',
      value: null,
    });
    expect(verdict(lane(), { figure: 'expectedMonthlyUnits', level: 10 })?.verdict).toBe('unknown');
  });
  it('each remedy alone clears the hurdle: 21 in price, 13 in cost, 0.25 a click for a unit profit of 5', () => {
    const h = of({ figure: 'unitProfit', level: 5 });
    const remedy = remedyFor(lane(), h);
    expect(remedy).toMatchObject({ price: 21, unitPriceCurrency: 'EUR' });
    expect(remedy.unitPrice).toBeCloseTo(13, 9);
    expect(remedy.costPerClick).toBeCloseTo(0.25, 12);
    for (const fixed of [
      lane({ price: remedy.price }),
      lane({ goods: goods(remedy.unitPrice) }),
      lane({
        adverts: {
          keywords: [{ low: remedy.costPerClick ?? 9, high: remedy.costPerClick ?? 9, conversionRate: 0.1 }],
          adShare: 0.4,
        },
      }),
    ])
      expect(judgeHurdles(fixed, [h])[0]?.verdict).toBe('pass');
  });
  it('says none where nothing of the kind bears on the figure', () => {
    expect(remedyFor(lane(), of({ figure: 'expectedMonthlyUnits', level: 500 }))).toMatchObject({
      price: null,
      unitPrice: null,
      costPerClick: null,
    });
  });
  it('on random lanes a remedy of price or cost clears what it is for', () => {
    let cleared = 0;
    for (let seed = 0; seed < cases(300) || (cleared <= enough(50) && seed < 300); seed++) {
      const doc = { ...randomLane(seed, 0), demand: { kind: 'typed' as const, units: 50 } };
      for (const h of [of({ figure: 'margin', level: 0.3 }), of({ figure: 'roi', level: 0.8 })]) {
        const now = judgeHurdles(doc, [h])[0];
        if (
          (now?.verdict !== 'fail' && now?.verdict !== 'near') ||
          evaluate(doc).incomplete[h.figure] !== undefined
        )
          continue;
        const { price } = remedyFor(doc, h);
        if (price === null || evaluate({ ...doc, price }).figures.unitProfit === null) continue;
        expect(`${seed} ${judgeHurdles({ ...doc, price }, [h])[0]?.verdict}`).toBe(`${seed} pass`);
        cleared++;
      }
    }
    expect(cleared).toBeGreaterThan(enough(50));
  });
});
