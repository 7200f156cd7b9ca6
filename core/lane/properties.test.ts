import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { randomLane } from '../testing/lanes.ts';
import { Draw } from '../testing/draw.ts';
import { marketplaceCardOf, plainLane, taxCardOf } from '../testing/documents.ts';
import { minorDigits } from '../money/money.ts';
import { FAMILIES, FAMILY_LINES, LINES } from './costLines.ts';
import { FIGURES } from './figures.ts';
import type { Figure } from './figures.ts';
import { evaluate, restate } from './evaluate.ts';
import { isMoney } from './figures.ts';
import { laneDocument } from './schema.ts';
import type { LaneDocument } from './schema.ts';
import { highestPurchaseCost, priceFor, priceLadder } from './solve.ts';
import type { Target } from './solve.ts';
import { workings } from './workings.ts';
import { cases, enough } from '../testing/seed.ts';

const seed = fc.integer({ min: 0, max: 2 ** 31 - 1 });
// Properties are over seeds, so that a counterexample is a number one can run again.
const lane = (s: number): LaneDocument => randomLane(s);
const whole = (s: number): LaneDocument => randomLane(s, 0);
const runs = (all: number) => ({ numRuns: cases(all) });
const close = (a: number, b: number): boolean =>
  Math.abs(a - b) <= 1e-9 * Math.max(1, Math.abs(a), Math.abs(b));
const figure = (doc: LaneDocument, f: Figure): number | null => evaluate(doc).figures[f];
const paidAt = (doc: LaneDocument, price: number): LaneDocument => ({ ...doc, price });

/** The lane with its demand typed as reckoned now: "all else equal" of the break-evens holds units a month. */
function held(doc: LaneDocument): LaneDocument {
  const units = figure(doc, 'expectedMonthlyUnits');
  return units === null ? doc : { ...doc, demand: { kind: 'typed', units } };
}

const reclaims = (doc: LaneDocument): boolean =>
  doc.standing?.kind === 'registered' ||
  (doc.standing?.kind === 'marketplaceRemits' && doc.standing.recoverable);

describe('a result', () => {
  it('adds up: net revenue less every line is the unit profit, families are the sums of their lines', () => {
    fc.assert(
      fc.property(seed, (s) => {
        const doc = lane(s);
        const r = evaluate(doc);
        const all = LINES.filter((l) => l !== 'outputVat').reduce((s, l) => s + (r.lines[l] ?? 0), 0);
        if (r.figures.unitProfit !== null)
          expect(close(r.figures.unitProfit, (r.figures.netRevenue as number) - all)).toBe(true);
        for (const f of FAMILIES) {
          const known = FAMILY_LINES[f].map((l) => r.lines[l]).filter((x) => x !== null);
          if (known.length === 0) expect(r.families[f]).toBeNull();
          else
            expect(
              close(
                r.families[f] as number,
                known.reduce((a, b) => a + b, 0),
              ),
            ).toBe(true);
        }
        if (r.figures.unitProfit !== null && r.figures.gross !== null)
          expect(
            close(
              r.figures.gross,
              FAMILIES.reduce((s, f) => s + (r.families[f] ?? 0), 0) + r.figures.unitProfit,
            ),
          ).toBe(true);
      }),
      runs(2000),
    );
  });

  it('never shows an unknown as zero: a blank line is null and every figure it belongs in says so', () => {
    fc.assert(
      fc.property(seed, (s) => {
        const doc = lane(s);
        const r = evaluate(doc);
        // Freight may show the legs that are known, duty itself where import charges are not, other costs
        // those that are; none is ever shown as nothing.
        for (const b of r.blanks)
          if (b in r.lines)
            expect(
              b === 'freight' || b === 'duty' || b === 'other'
                ? r.lines[b] !== 0
                : r.lines[b as keyof typeof r.lines] === null,
            ).toBe(true);
        if (r.blanks.includes('goods') || r.blanks.includes('price')) expect(r.figures.unitProfit).toBeNull();
        // Demand is no cost; import VAT that is recovered is none either.
        const costs = r.blanks.filter((b) => b !== 'demand' && !(b === 'importVat' && reclaims(doc)));
        expect(r.incomplete.unitProfit ?? []).toEqual(expect.arrayContaining(costs));
        for (const f of FIGURES)
          if (r.figures[f] === null) expect(r.reasons[f]).toMatch(/^(blank|problem|none|not above zero)/);
      }),
      runs(2000),
    );
  });

  it('has the same ratios, days and units in every currency, and money times the rate', () => {
    fc.assert(
      fc.property(seed, fc.constantFrom('EUR', 'USD', 'JPY', 'GBP'), (s, to) => {
        const doc = whole(s);
        const r = evaluate(doc);
        const other = restate(r, to, doc.rates.exchange);
        if (other === null) return;
        const table = doc.rates.exchange;
        const rate = (c: string): number => (c === 'EUR' ? 1 : (table?.rates[c] as number));
        for (const f of FIGURES) {
          if (r.figures[f] === null) expect(other.figures[f]).toBeNull();
          else if (isMoney(f))
            expect(
              close(other.figures[f] as number, (r.figures[f] as number) * (rate(to) / rate(doc.currency))),
            ).toBe(true);
          else expect(other.figures[f]).toBe(r.figures[f]);
        }
      }),
      runs(500),
    );
  });

  it('is no better for dearer goods', () => {
    fc.assert(
      fc.property(seed, fc.double({ min: 1, max: 3, noNaN: true }), (s, factor) => {
        const doc = whole(s);
        if (!Array.isArray(doc.goods)) return;
        const dearer: LaneDocument = {
          ...doc,
          goods: doc.goods.map((c) =>
            c.source.kind === 'retail'
              ? {
                  ...c,
                  source: {
                    ...c.source,
                    shelfPrice: c.source.shelfPrice === null ? null : c.source.shelfPrice * factor,
                  },
                }
              : {
                  ...c,
                  source: {
                    ...c.source,
                    priceBreaks: c.source.priceBreaks.map((b) => ({
                      ...b,
                      unitPrice: b.unitPrice === null ? null : b.unitPrice * factor,
                    })),
                  },
                },
          ),
        };
        const a = figure(doc, 'unitProfit');
        const b = figure(dearer, 'unitProfit');
        if (a !== null && b !== null) expect(b).toBeLessThanOrEqual(a + 1e-9 * Math.max(1, Math.abs(a)));
      }),
      runs(1000),
    );
  });

  it('is the same whether or not its workings are written down, and they end in the same amounts', () => {
    fc.assert(
      fc.property(seed, (s) => {
        const doc = lane(s);
        const before = JSON.stringify(doc);
        const r = evaluate(doc);
        const w = workings(doc);
        expect(evaluate(doc)).toEqual(r);
        expect(JSON.stringify(doc)).toBe(before);
        for (const key of ['referral', 'storage', 'insurance', 'payment'] as const) {
          const steps = w[key];
          if (steps !== undefined && r.lines[key] !== null)
            expect(
              close(
                steps.reduce((s, x) => s + (x.amount ?? 0), 0),
                r.lines[key],
              ),
            ).toBe(true);
        }
        for (const key of ['landedCost', 'proceeds', 'contribution', 'unitProfit', 'margin', 'roi'] as const)
          expect(w[key]?.[0]?.amount ?? null).toBe(r.figures[key]);
      }),
      runs(500),
    );
  });
});

describe('break-evens and targets', () => {
  it('the break-even price pays, one minor unit less does not, nor does any cheaper price tried; dips lose', () => {
    let answered = 0;
    fc.assert(
      fc.property(seed, (s) => {
        const doc = held(whole(s));
        const draw = new Draw(s);
        const power = 10 ** minorDigits(doc.currency);
        const found = priceFor(doc);
        if (found.price === null) return;
        answered++;
        // A price at which no fee table answers is no price that pays.
        const profit = (minor: number): number =>
          figure(paidAt(doc, minor / power), 'unitProfit') ?? Number.NEGATIVE_INFINITY;
        const m = Math.round(found.price * power);
        expect(profit(m)).toBeGreaterThanOrEqual(-1e-9);
        if (m > 1) expect(profit(m - 1)).toBeLessThan(-1e-9 + 1e-12);
        for (let i = 0; i < 25 && m > 2; i++)
          expect(profit(1 + Math.floor(draw.next() * (m - 2)))).toBeLessThan(-1e-9 + 1e-12);
        for (const dip of found.dips) {
          expect(profit(Math.round(dip.from * power))).toBeLessThan(0);
          expect(profit(Math.round(dip.from * power) - 1)).toBeGreaterThanOrEqual(-1e-9);
          if (dip.to !== null) {
            expect(profit(Math.round(dip.to * power))).toBeLessThan(0);
            expect(profit(Math.round(dip.to * power) + 1)).toBeGreaterThanOrEqual(-1e-9);
          }
        }
      }),
      runs(600),
    );
    expect(answered).toBeGreaterThan(enough(200));
  });

  it('finds exactly what trying every price finds', () => {
    // Cheap lanes in euro: every grid price up to 60.00 can be tried.
    let compared = 0;
    for (let s = 0; s < cases(400) || (compared <= enough(25) && s < 400); s++) {
      const doc0 = randomLane(70_000 + s, 0);
      if (minorDigits(doc0.currency) !== 2) continue;
      const doc = held(doc0);
      const found = priceFor(doc);
      if (found.price === null || found.price > 60) continue;
      let cheapest = 0;
      for (let m = 1; m <= 6000 && cheapest === 0; m++)
        if ((figure(paidAt(doc, m / 100), 'unitProfit') ?? -1) >= -1e-9) cheapest = m;
      expect({ seed: 70_000 + s, price: Math.round(found.price * 100) }).toEqual({
        seed: 70_000 + s,
        price: cheapest,
      });
      compared++;
    }
    expect(compared).toBeGreaterThan(enough(25));
  });

  it('costs at most 40 evaluations plus 4 for each tier or band limit', () => {
    const over: string[] = [];
    let most = 0;
    for (let s = 0; s < cases(3000); s++) {
      const doc = randomLane(s, 0);
      const card = doc.rates.marketplace;
      const limits = new Set<number>();
      for (const c of card?.categories ?? [])
        if (c.key === doc.product.category)
          for (const t of c.referral.tiers) if (t.upTo !== null) limits.add(t.upTo);
      for (const t of card?.warehouse?.tiers ?? [])
        for (const b of t.bands) if (b.upToPrice !== null) limits.add(b.upToPrice);
      const { evaluations } = priceFor(doc);
      most = Math.max(most, evaluations - 4 * limits.size);
      if (evaluations > 40 + 4 * limits.size)
        over.push(`seed ${s}: ${evaluations} for ${limits.size} limits`);
    }
    process.stderr.write(`Break-even price: at most ${most} evaluations beside 4 for each limit\n`);
    expect(over).toEqual([]);
  });

  it('targets are hit when put back, by price and by purchase cost', () => {
    const targets: Target[] = [
      { figure: 'unitProfit', value: 2 },
      { figure: 'margin', value: 0.2 },
      { figure: 'roi', value: 0.5 },
      { figure: 'marginOnShelfPrice', value: 0.15 },
    ];
    let prices = 0;
    let costs = 0;
    fc.assert(
      fc.property(seed, fc.constantFrom(...targets), (s, target) => {
        const doc = held(whole(s));
        const level = (d: LaneDocument): number => {
          const r = evaluate(d).figures;
          const over =
            target.figure === 'margin' ? r.netRevenue : target.figure === 'roi' ? r.landedCost : r.gross;
          return target.figure === 'unitProfit'
            ? (r.unitProfit as number) - target.value
            : (r.unitProfit as number) - target.value * (over as number);
        };
        const price = priceFor(doc, target).price;
        if (price !== null) {
          prices++;
          const power = 10 ** minorDigits(doc.currency);
          expect(level(paidAt(doc, price))).toBeGreaterThanOrEqual(-1e-9);
          const cheaper = paidAt(doc, (Math.round(price * power) - 1) / power);
          if (price * power > 1.5 && figure(cheaper, 'unitProfit') !== null)
            expect(level(cheaper)).toBeLessThan(0);
        }
        if (!Array.isArray(doc.goods)) return;
        for (const [i, c] of doc.goods.entries()) {
          const cost = highestPurchaseCost(doc, target, i);
          if (cost.unitPrice === null) continue;
          costs++;
          const put = (unitPrice: number): LaneDocument => ({
            ...doc,
            goods: (doc.goods as typeof doc.goods & object[]).map((x, j) =>
              j !== i
                ? x
                : x.source.kind === 'retail'
                  ? { ...x, source: { ...x.source, shelfPrice: unitPrice } }
                  : { ...x, source: { ...x.source, priceBreaks: [{ minQty: 0, unitPrice }] } },
            ),
          });
          expect(level(put(cost.unitPrice))).toBeGreaterThanOrEqual(-1e-9);
          expect(level(put(cost.unitPrice + Math.max(1e-6, cost.unitPrice * 1e-9)))).toBeLessThan(0);
          expect(cost.currency).toBe(c.source.currency);
        }
      }),
      runs(600),
    );
    expect(prices).toBeGreaterThan(enough(150));
    expect(costs).toBeGreaterThan(enough(150));
  });

  it('works with goods blank: the most to pay is there before any quote is', () => {
    const doc = plainLane({
      price: 20,
      goods: null,
      orderQuantity: 50,
      rates: {
        tax: taxCardOf('inclusive', 0.25),
        marketplace: marketplaceCardOf([{ upTo: null, pct: 0.1 }]),
      },
      referralApplies: true,
      product: { category: 'any' },
    });
    expect(evaluate(doc).figures.unitProfit).toBeNull();
    // 20 / 1.25 = 16 net, 2 referral: 14 left for the goods
    expect(highestPurchaseCost(doc).unitPrice).toBeCloseTo(14, 9);
    expect(highestPurchaseCost(doc, { figure: 'roi', value: 0.4 }).unitPrice).toBeCloseTo(10, 9);
  });

  it('says why there is no answer', () => {
    const loses = plainLane({
      price: 10,
      typed: { fulfilmentFee: 50 },
      goods: [{ source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 5 }] } }],
    });
    expect(highestPurchaseCost(loses)).toMatchObject({ unitPrice: null, reason: 'losesEvenFree' });
    // Free it is known, at a price it is not: there is no rate for the supplier's currency.
    const noRate = plainLane({
      price: 10,
      goods: [{ source: { kind: 'quote', currency: 'JPY', priceBreaks: [{ minQty: 0, unitPrice: 5 }] } }],
    });
    expect(highestPurchaseCost(noRate)).toMatchObject({ unitPrice: null, reason: 'unknown' });
    const never = plainLane({
      price: 10,
      referralApplies: true,
      product: { category: 'any' },
      goods: [{ source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 5 }] } }],
      rates: { tax: taxCardOf('exclusive', 0), marketplace: marketplaceCardOf([{ upTo: null, pct: 1 }]) },
    });
    expect(priceFor(never)).toMatchObject({ price: null, reason: 'neverReached' });
    expect(priceFor(plainLane({ price: 10, goods: null }))).toMatchObject({ price: null, reason: 'unknown' });
  });

  it('the price ladder takes each price with delivery as gross', () => {
    const doc = plainLane({
      price: 20,
      shippingCharged: 4,
      goods: [{ source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 5 }] } }],
    });
    expect(priceLadder(doc, [24, 14, 3])).toEqual([
      { gross: 24, unitProfit: 19 },
      { gross: 14, unitProfit: 9 },
      { gross: 3, unitProfit: null },
    ]);
  });
});

describe('no validated lane throws or yields NaN or Infinity', () => {
  const BIG = 1e12;
  /** Every number of a document pushed to a bound or to 0, where the schema still takes it. */
  const pushed = (s: number): LaneDocument => {
    const draw = new Draw(s);
    const walk = (x: unknown): unknown => {
      if (typeof x === 'number') {
        const k = draw.int(0, 11);
        return k === 0 ? 0 : k === 1 ? BIG : k === 2 ? 1e-9 : k === 3 ? 1 : k === 4 ? -x : x;
      }
      if (Array.isArray(x)) return x.map(walk);
      return x !== null && typeof x === 'object'
        ? Object.fromEntries(Object.entries(x).map(([k, v]) => [k, walk(v)]))
        : x;
    };
    const doc = randomLane(s);
    // Pushing everything at once is rarely valid; push part by part and keep the parts that are.
    let kept: LaneDocument = doc;
    for (const key of [
      'price',
      'goods',
      'route',
      'dispatch',
      'returns',
      'adverts',
      'demand',
      'typed',
      'product',
      'rates',
      'orderQuantity',
      'season',
      'prep',
      'shippingCharged',
      'freeExtraProfit',
      'monthsHeld',
      'otherPerUnit',
      'supplierDelivery',
      'storage',
      'averageDiscount',
      'breakage',
    ] as const) {
      const tried = laneDocument.safeParse({ ...kept, [key]: walk(kept[key]) });
      if (tried.success) kept = tried.data;
    }
    return kept;
  };
  const finite = (x: unknown, path = ''): void => {
    if (typeof x === 'number' && !Number.isFinite(x)) throw new Error(`${path} is ${x}`);
    if (x !== null && typeof x === 'object')
      for (const [k, v] of Object.entries(x)) finite(v, `${path}.${k}`);
  };
  it('in evaluation, workings, break-evens and most to pay', () => {
    fc.assert(
      fc.property(seed, (s) => {
        const doc = pushed(s);
        finite(evaluate(doc));
        finite(workings(doc));
        finite(priceFor(doc));
        finite(highestPurchaseCost(doc));
      }),
      runs(1500),
    );
  });
});
