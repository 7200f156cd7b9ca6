import { describe, expect, it } from 'vitest';
import { freightCard } from '../cards/schema.ts';
import { confidenceOf, OWN_INPUTS, ownInputs, staleInputs } from '../lane/confidence.ts';
import { LINES } from '../lane/costLines.ts';
import { evaluate, restate } from '../lane/evaluate.ts';
import { priceFor } from '../lane/solve.ts';
import { laneDocument } from '../lane/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { marketplaceCardOf, plainLane } from '../testing/documents.ts';
import { randomLane } from '../testing/lanes.ts';
import {
  asVariation,
  readVariations,
  variation,
  variationCells,
  weighVariations,
} from '../workspace/variations.ts';
import { differences } from './differences.ts';
import { lightOf } from './light.ts';
import { byMeasure, isWhole, measured } from './measures.ts';
import { pack, unpack } from './pack.ts';
import { priceByHabit, priceForMargin, sharedPrice, spreadOf } from './prices.ts';
import { alongRoute, crossings, landedAt, onQuote } from './quotes.ts';
import { AS_IS, asked, perHundred } from './whatIf.ts';
import { cases, enough } from '../testing/seed.ts';

const quoted = (over: object): NonNullable<Exclude<LaneDocument['goods'], 'none'>> =>
  laneDocument.shape.goods.parse([
    { source: { kind: 'quote', currency: 'EUR', priceBreaks: [{ minQty: 0, unitPrice: 5 }], ...over } },
  ]) as NonNullable<Exclude<LaneDocument['goods'], 'none'>>;

describe('why one lane keeps more than another', () => {
  it('lines that differ, largest first, add up to the difference, over random lanes', () => {
    let told = 0;
    for (let seed = 1; seed <= cases(600) || (told <= enough(100) && seed <= 600); seed++) {
      const [a, b] = [evaluate(randomLane(seed)), evaluate(randomLane(seed + 5000))];
      const diff = differences(a, { ...b, currency: a.currency });
      for (let i = 1; i < diff.lines.length; i++)
        expect(Math.abs(diff.lines[i - 1]?.effect as number)).toBeGreaterThanOrEqual(
          Math.abs(diff.lines[i]?.effect as number),
        );
      if (diff.total === null) continue;
      told++;
      const sum = diff.lines.reduce((s, l) => s + l.effect, 0);
      expect(Math.abs(sum - diff.total)).toBeLessThan(1e-6 * Math.max(1, Math.abs(diff.total)));
    }
    expect(told).toBeGreaterThan(enough(100));
  });
  it('says what each line is on either side', () => {
    const a = evaluate(plainLane({ price: 30, goods: quoted({}) }));
    const b = evaluate(
      plainLane({ price: 28, goods: quoted({ priceBreaks: [{ minQty: 0, unitPrice: 6 }] }) }),
    );
    expect(differences(a, b)).toEqual({
      total: -3,
      lines: [
        { line: 'gross', a: 30, b: 28, effect: -2 },
        { line: 'goods', a: 5, b: 6, effect: -1 },
      ],
    });
    expect(differences(a, evaluate(plainLane({ price: null }))).total).toBeNull();
  });
});

describe('light rows', () => {
  it('say what the whole result says, in the home currency', () => {
    for (let seed = 1; seed <= cases(400); seed++) {
      const doc = randomLane(seed);
      const light = lightOf(doc);
      const home = restate(evaluate(doc), doc.homeCurrency, doc.rates.exchange);
      const result = evaluate(doc);
      if (home === null) expect(light.figures.unitProfit).toBeNull();
      else
        for (const f of [
          'unitProfit',
          'margin',
          'roi',
          'gross',
          'landedCost',
          'profitPerMonth',
          'cashCycleDays',
        ] as const) {
          const [x, y] = [light.figures[f], home.figures[f]];
          if (x === null || y === null) expect(x).toBe(y);
          else expect(Math.abs(x - y)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(y)));
        }
      expect(light.whole).toBe((result.incomplete.unitProfit?.length ?? 0) === 0);
    }
  });
});

describe('measures', () => {
  it('best first; whole before incomplete; unknown last; less cash is better', () => {
    const rows = [
      { v: 3, w: true },
      { v: 9, w: false },
      { v: null, w: true },
      { v: 5, w: true },
    ];
    expect(
      [...rows]
        .sort(
          byMeasure(
            'margin',
            (x) => x.v,
            (x) => x.w,
          ),
        )
        .map((x) => x.v),
    ).toEqual([5, 3, 9, null]);
    expect(
      [...rows]
        .sort(
          byMeasure(
            'launchCash',
            (x) => x.v,
            (x) => x.w,
          ),
        )
        .map((x) => x.v),
    ).toEqual([3, 5, 9, null]);
    const r = evaluate(plainLane({ returns: null }));
    expect([isWhole('unitProfit', r), isWhole('launchCash', r)]).toEqual([false, true]);
    expect([
      measured('launchCash', r, 12),
      measured('unitProfit', r, 12),
      measured('roi', null, null),
    ]).toEqual([12, r.figures.unitProfit, null]);
  });
});

describe('a question asked of many lanes', () => {
  const route = laneDocument.shape.route.parse({
    legs: [
      { stage: 'main', basis: 'perUnit', rate: 2, currency: 'EUR' },
      { stage: 'inbound', basis: 'perUnit', rate: 1, currency: 'EUR' },
    ],
  });
  it('nothing asked is the very lane; freight falls on main legs alone', () => {
    const doc = plainLane({ route, goods: quoted({}) });
    expect(asked(doc, AS_IS)).toBe(doc);
    const shock = evaluate(asked(doc, { ...AS_IS, mainFreight: 3 }));
    expect([evaluate(doc).lines.freight, shock.lines.freight]).toEqual([3, 7]);
    expect(asked(doc, { orderQuantity: 40, mainFreight: 1, price: 1.1 })).toMatchObject({
      orderQuantity: 40,
      price: expect.closeTo(33, 9),
    });
    expect(asked(plainLane({ price: null }), { ...AS_IS, price: 2 }).price).toBeNull();
  });
  it('per 100 of price: money in proportion, ratios as they were', () => {
    const r = evaluate(plainLane({ price: 25, goods: quoted({}) }));
    expect(perHundred(r)).toMatchObject({
      figures: { gross: 100, unitProfit: 80, margin: 0.8 },
      lines: { goods: 20 },
    });
    expect(perHundred(evaluate(plainLane({ price: 0 })))).toBeNull();
  });
});

describe('prices across lanes', () => {
  it('end as prices end there', () => {
    expect([
      priceByHabit(12.4, 'EUR', '99'),
      priceByHabit(12.6, 'EUR', '99'),
      priceByHabit(12.4, 'GBP', '95'),
      priceByHabit(12.5, 'PLN', 'whole'),
      priceByHabit(12.345, 'EUR', 'none'),
    ]).toEqual([11.99, 12.99, 11.95, 13, 12.35]);
    expect([
      priceByHabit(2950, 'JPY', '99'),
      priceByHabit(2950, 'JPY', 'whole'),
      priceByHabit(12.4, 'KWD', '99'),
      priceByHabit(0.1, 'EUR', '99'),
      priceByHabit(0.1, 'EUR', 'whole'),
    ]).toEqual([2980, 3000, 11.99, 0.99, 1]);
    for (const x of [0.5, 9.99, 10, 57.123])
      for (const h of ['99', '95', 'whole', 'none'] as const)
        expect(priceByHabit(x, 'EUR', h, true)).toBeGreaterThanOrEqual(x - 1e-9);
  });
  it('one shelf price is converted by the lane, not reached without a rate', () => {
    const doc = plainLane({
      currency: 'PLN',
      rates: { exchange: { date: '2026-11-20', base: 'EUR', rates: { PLN: 4.3 } } },
    });
    expect(sharedPrice(doc, 30, 'EUR', '99')).toBe(128.99);
    expect(sharedPrice(plainLane({ currency: 'PLN', rates: {} }), 30, 'EUR', '99')).toBeNull();
  });
  it('an equal margin is kept at the price of the habit, past tiers that bite', () => {
    const doc = plainLane({
      goods: quoted({}),
      referralApplies: true,
      product: { category: 'any' },
      rates: {
        ...plainLane().rates,
        marketplace: marketplaceCardOf([
          { upTo: 10, pct: 0.08 },
          { upTo: null, pct: 0.15 },
        ]),
      },
    });
    for (const margin of [0.2, 0.3, 0.42, 0.5]) {
      const price = priceForMargin(doc, margin, '99') as number;
      expect(price.toFixed(2)).toMatch(/\.99$/);
      expect(evaluate({ ...doc, price }).figures.margin as number).toBeGreaterThanOrEqual(margin - 1e-9);
      expect(price).toBeGreaterThanOrEqual(
        priceFor(doc, { figure: 'margin', value: margin }).price as number,
      );
    }
    expect(priceForMargin(plainLane({ goods: null }), 0.3, '99')).toBeNull();
  });
  it('how far they lie apart', () => {
    expect(spreadOf([20, null, 30, 25])).toEqual({ low: 20, high: 30, median: 25, gap: 0.5 });
    expect(spreadOf([20, 30])?.median).toBe(25);
    expect(spreadOf([null, 0])).toBeNull();
  });
});

describe('quotes and routes', () => {
  const doc = plainLane({ price: 40, orderQuantity: 100 });
  const cheapFixed = quoted({
    priceBreaks: [{ minQty: 0, unitPrice: 4 }],
    perOrder: [{ name: 'Mould', amount: 300 }],
  })[0]?.source;
  const dearFlat = quoted({ priceBreaks: [{ minQty: 0, unitPrice: 6 }] })[0]?.source;
  it('from which quantity which is cheapest, by landed cost', () => {
    // 4 + 300/Q < 6 from Q = 151 on; at 150 both cost 6 and the first named stands.
    const docs = [onQuote(doc, dearFlat as never), onQuote(doc, cheapFixed as never)];
    expect(crossings(docs, 1000)).toEqual([
      { from: 1, best: 0 },
      { from: 151, best: 1 },
    ]);
    for (const s of crossings(docs, 1000))
      for (const q of [s.from, s.from + 7])
        expect(landedAt(docs[s.best] as LaneDocument, q) as number).toBeLessThanOrEqual(
          (landedAt(docs[1 - s.best] as LaneDocument, q) as number) + 1e-9,
        );
  });
  it('price breaks and minimums are points of their own; where none takes the order it says so', () => {
    const stepped = quoted({
      minimumOrder: 50,
      priceBreaks: [
        { minQty: 50, unitPrice: 5 },
        { minQty: 333, unitPrice: 2 },
      ],
    })[0]?.source;
    expect(crossings([onQuote(doc, dearFlat as never), onQuote(doc, stepped as never)], 600)).toEqual([
      { from: 1, best: 0 },
      { from: 50, best: 1 },
    ]);
    expect(crossings([onQuote(doc, stepped as never)], 600)).toEqual([
      { from: 1, best: -1 },
      { from: 50, best: 0 },
    ]);
    expect(landedAt(onQuote(doc, stepped as never), 10)).toBeNull();
  });
  it('another quote keeps name and packs of the component', () => {
    const packs = plainLane({
      goods: [{ name: 'Tub', unitsInSoldPack: 3, unitsInBoughtPack: 1, source: dearFlat as never }],
    });
    expect(onQuote(packs, cheapFixed as never).goods).toMatchObject([
      { name: 'Tub', unitsInSoldPack: 3, source: { priceBreaks: [{ unitPrice: 4 }] } },
    ]);
  });
  it('a route card takes the place of the route', () => {
    const card = freightCard.parse({
      name: 'By sea',
      inForceFrom: '2026-10-01',
      mode: 'sea',
      route: { legs: [{ stage: 'main', basis: 'perUnit', rate: 1.5, currency: 'EUR' }], transitDays: 30 },
    });
    expect(evaluate(alongRoute(plainLane({ goods: quoted({}) }), card)).lines.freight).toBe(1.5);
  });
});

describe('packing', () => {
  it('comes back as it was, equal values as one object', () => {
    const rows = [
      { a: { x: 1 }, b: null, c: 'k' },
      { a: { x: 1 }, b: 2, d: [1] },
    ];
    const back = unpack<(typeof rows)[number]>(pack(rows));
    expect(back).toEqual(rows);
    expect(back[0]?.a).toBe(back[1]?.a);
    expect(pack(rows).pool.filter((t) => t === '{"x":1}')).toHaveLength(1);
  });
});

describe('how sure a result is', () => {
  it('shares by source add up to all costs', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const doc = randomLane(seed);
      const result = evaluate(doc);
      const sure = confidenceOf(doc, result);
      const all = LINES.reduce((s, l) => s + Math.abs(result.lines[l] ?? 0), 0);
      if (all > 0) expect(sure.shares.reduce((s, x) => s + x.share, 0)).toBeCloseTo(1, 9);
      expect(Object.values(sure.bySource).reduce((s, x) => s + x, 0)).toBeCloseTo(all, 6);
    }
  });
  it('guesses and defaults are unsure, quotes and cards are not', () => {
    const doc = plainLane({
      goods: quoted({ supplier: 'Ember' }),
      prep: { standard: 5, currency: 'EUR' },
      provenance: { prep: { source: 'guess' } },
    });
    expect(confidenceOf(doc, evaluate(doc))).toMatchObject({ bySource: { quote: 5, guess: 5 }, unsure: 0.5 });
    // A cost that was only entered is nobody's quote.
    expect(
      confidenceOf(plainLane({ goods: quoted({}) }), evaluate(plainLane({ goods: quoted({}) }))).bySource,
    ).toEqual({ typed: 5 });
  });
  it('a card’s fee that is proven stands apart, one that is not what was charged is unsure', () => {
    const doc = plainLane({
      goods: quoted({}),
      price: 20,
      referralApplies: true,
      product: { category: 'any' },
      rates: { marketplace: marketplaceCardOf([{ upTo: null, pct: 0.15 }]) },
    });
    const result = evaluate(doc);
    expect(confidenceOf(doc, result).bySource).toEqual({ typed: 5, card: 3 });
    expect(confidenceOf(doc, result, { referral: 'proven' })).toMatchObject({
      bySource: { typed: 5, proven: 3 },
      unsure: 0,
    });
    expect(confidenceOf(doc, result, { referral: 'disputed', goods: 'proven' })).toMatchObject({
      bySource: { typed: 5, disputed: 3 },
      unsure: 3 / 8,
    });
  });
  it('old quotes and rates are named with their age', () => {
    const doc = plainLane({
      goods: quoted({ supplier: 'Ember', date: '2026-05-01', currency: 'USD' }),
      rates: { ...plainLane().rates, exchange: { date: '2026-10-01', base: 'EUR', rates: { USD: 1.1 } } },
    });
    expect(staleInputs(doc)).toEqual([
      { what: 'quote', name: 'Ember', date: '2026-05-01', days: 207 },
      { what: 'exchange', name: '', date: '2026-10-01', days: 54 },
    ]);
    expect(staleInputs(plainLane())).toEqual([]);
  });
});

describe('variations', () => {
  const doc = plainLane({ price: 30, goods: quoted({}), demand: { kind: 'typed', units: 100 } });
  const v = (over: object) => variation.parse({ name: 'x', ...over });
  it('take over what differs, and the rest of the product', () => {
    expect(asVariation(doc, v({}))).toEqual(doc);
    const dear = evaluate(asVariation(doc, v({ price: 25, cost: 8, delivery: 1, shareOfSales: 0.2 })));
    expect([dear.lines.goods, dear.figures.unitProfit, dear.figures.expectedMonthlyUnits]).toEqual([
      9, 16, 20,
    ]);
  });
  it('which pay, and what they keep together', () => {
    const sum = weighVariations(doc, [
      v({ name: 's', shareOfSales: 0.5 }),
      v({ name: 'l', cost: 40, shareOfSales: 0.25 }),
    ]);
    expect([sum.paying, sum.blended]).toEqual([1, (0.5 * 25 + 0.25 * -10) / 0.75]);
    expect(weighVariations(doc, [v({})]).blended).toBeNull();
  });
  it('cells come back as they were; wrong ones are said with row and column', () => {
    const list = [
      v({ name: 'S, red', price: 12.5, shareOfSales: 0.335, stock: 40 }),
      v({ name: 'L', kg: 0.4, cost: 3.1, delivery: 0.5 }),
    ];
    expect(readVariations(variationCells(list))).toEqual({ list, errors: [] });
    expect(
      readVariations([
        ['S', 'ten'],
        ['S', '10'],
        ['', '9'],
        ['M', '1', '', '', '0'],
        ['L', '', '', '', '', '90%'],
        ['K', '', '', '', '', '0.3'],
      ]).errors,
    ).toMatchObject([
      { row: 2, column: 'price' },
      { row: 3, column: 'name', code: 'rowTwice', detail: { text: 'S', row: 2 } },
      { row: 4, column: 'name' },
      { row: 5, column: 'kg', code: 'rateZero' },
      { column: 'shareOfSales', code: 'salesShares', detail: { percent: 120 } },
    ]);
  });
});

describe('inputs a person answers for', () => {
  it('what is noted of one beats the quote; what says nothing is left out', () => {
    const doc = plainLane({
      goods: quoted({ supplier: 'Birch', date: '2026-11-01' }),
      provenance: {
        price: { source: 'estimate', date: '2026-11-20', note: 'the middle of six' },
        'adverts.keywords.0.low': { source: 'guess', date: null, note: '' },
      },
    });
    expect(ownInputs(doc)).toEqual([
      { input: 'price', source: 'estimate', date: '2026-11-20', note: 'the middle of six' },
      { input: 'orderQuantity', source: 'typed', date: null, note: '' },
      { input: 'goods', source: 'quote', date: '2026-11-01', note: 'Birch' },
    ]);
    expect(
      ownInputs({ ...doc, provenance: { goods: { source: 'actual', date: null, note: 'invoice' } } }).find(
        (x) => x.input === 'goods',
      )?.source,
    ).toBe('actual');
  });
  it('saying that goods are a guess moves the share of what is unsure', () => {
    const doc = plainLane({ goods: quoted({}) });
    const guessed = { ...doc, provenance: { goods: { source: 'guess' as const, date: null, note: '' } } };
    expect([
      confidenceOf(doc, evaluate(doc)).unsure,
      confidenceOf(guessed, evaluate(guessed)).unsure,
    ]).toEqual([0, 1]);
    for (let seed = 1; seed <= 100; seed++)
      for (const x of ownInputs(randomLane(seed))) expect(OWN_INPUTS).toContain(x.input);
  });
});
