import { describe, expect, it } from 'vitest';
import { BIT } from '../lane/lines.ts';
import type { Blank } from '../lane/lines.ts';
import { evaluate } from '../lane/result.ts';
import { randomLane } from '../testing/lanes.ts';
import { Draw } from '../testing/draw.ts';
import { assumptions, laneOfRow, paidAt, quantityOf } from './assumptions.ts';
import type { Assumptions, ListRates, RowInputs } from './assumptions.ts';
import { makeColumns, makeResults, TROUBLES } from './columns.ts';
import type { ListColumns } from './columns.ts';
import { ListEvaluator } from './evaluate.ts';
import { judgeRows, VERDICTS } from './verdicts.ts';
import { HURDLE_FIGURES, judgeHurdles } from '../lane/hurdles.ts';

const TAX_CLASSES = ['standard', 'reduced', 'nowhere'];
const money = (d: Draw, from: number, to: number) => d.typed(from, to);

function randomAssumptions(d: Draw, rates: ListRates): Assumptions {
  const line = () => ({
    amount: money(d, 0, 3),
    currency: d.pick(['EUR', rates.currency]),
    vat: d.pick(['none', 'included', 'added'] as const),
    vatRate: d.pick([0, 0.19]),
    recoverable: d.pick([null, true, false]),
  });
  return assumptions.parse({
    homeCurrency: 'EUR',
    date: '2026-11-24',
    standing: d.maybe(0.95, () =>
      d.pick([
        { kind: 'registered' as const },
        { kind: 'notRegistered' as const },
        { kind: 'flatRate' as const, rate: 0.05 },
        { kind: 'marketplaceRemits' as const, recoverable: d.chance(0.5) },
      ]),
    ),
    method: d.pick(['warehouse', 'warehouse', 'ownDispatch'] as const),
    purchase: {
      currency: d.pick(['EUR', 'USD', rates.currency]),
      vat: d.pick(['asTyped', 'included', 'added'] as const),
      vatRate: d.pick([0, 0.19, 0.2]),
      recoverable: d.pick([null, null, true, false]),
      discount: d.chance(0.3) ? d.typed(0.05, 0.5) : 0,
      salesTax: d.chance(0.2) ? 0.08 : 0,
      cashback: d.chance(0.2) ? 0.03 : 0,
    },
    orderQuantity: d.int(1, 60),
    inbound: { perUnit: d.chance(0.5) ? money(d, 0.1, 1) : 0, perKg: d.chance(0.5) ? money(d, 0.1, 1) : 0 },
    prep: d.maybe(0.9, () => money(d, 0, 1)),
    dispatch: d.maybe(0.9, () => ({
      zones: [
        {
          name: 'near',
          share: 0.75,
          postage: {
            currency: d.pick(['EUR', rates.currency]),
            steps: [
              { upToKg: 1, fee: 3.5 },
              { upToKg: 5, fee: 5 },
            ],
            stepKg: d.pick([null, 1]),
            stepFee: 0.7,
          },
        },
        { name: 'far', share: 0.25, postage: { currency: 'EUR', steps: [{ upToKg: 30, fee: 9 }] } },
      ],
      packagingKg: 0.1,
      packaging: d.maybe(0.5, line),
      pickAndPack: d.maybe(0.5, line),
      vat: d.pick(['none', 'added'] as const),
      vatRate: 0.19,
    })),
    returns: d.chance(0.2)
      ? d.pick(['none' as const, null])
      : {
          rate: d.typed(0, 0.2),
          resaleShare: d.pick([0, 0.5]),
          handling: d.maybe(0.5, line),
          disposal: d.maybe(0.5, line),
        },
    breakage: d.pick([0, 0.02]),
    advertPerSale: d.maybe(0.9, () => d.pick([0, 1.25])),
    monthsHeld: d.maybe(0.4, () => d.typed(0, 9)),
    saleMonth: d.maybe(0.4, () => d.int(1, 12)),
    unitsShare: d.pick([1, 0.3]),
    conversionSpread: d.pick([0, 0.02]),
    otherPerUnit: d.pick([0, 0.2]),
    category: d.maybe(0.5, () => rates.marketplace?.categories[0]?.key ?? 'nothing'),
  });
}

function randomRow(d: Draw, rates: ListRates): RowInputs {
  const keys = rates.marketplace?.categories.map((c) => c.key) ?? [];
  return {
    cost: d.maybe(0.95, () => money(d, 0, 60)),
    price: d.maybe(0.9, () => money(d, 0, 120)),
    units: d.maybe(0.8, () => d.pick([0, 1, 12, 300])),
    unitsInSoldPack: d.pick([1, 1, 1, 3, 4]),
    unitsInBoughtPack: d.pick([1, 1, 1, 6]),
    sides: d.maybe(0.85, () => [d.typed(1, 70, 1), d.typed(1, 50, 1), d.typed(1, 40, 1)] as const),
    kg: d.maybe(0.9, () => d.typed(0.05, 25, 3)),
    category: d.maybe(0.7, () => d.pick([...keys, 'unknown to the card'])),
    taxClass: d.pick(TAX_CLASSES),
    vatRate: d.maybe(0.3, () => d.pick([0, 0.07, 0.19])),
    minimumOrder: d.maybe(0.3, () => d.int(1, 200)),
    carton: d.maybe(0.3, () => d.pick([1, 2, 6, 10, 24])),
    breaks: d.chance(0.4)
      ? d.list(0, 2, () => ({ from: d.pick([5, 10, 12, 48, 100]), cost: money(d, 0, 55) }))
      : [],
  };
}

/** Puts rows into columns, as a list does when it is brought in. */
function columnsOf(rows: readonly RowInputs[], e: ListEvaluator): ListColumns {
  const c = makeColumns(rows.length, TAX_CLASSES);
  rows.forEach((r, i) => {
    const put = (
      name:
        | 'cost'
        | 'price'
        | 'units'
        | 'kg'
        | 'vatRate'
        | 'minimumOrder'
        | 'carton'
        | 'breakFrom'
        | 'breakCost'
        | 'breakFrom2'
        | 'breakCost2',
      x: number | null,
    ): void => {
      if (x !== null) c[name][i] = x;
    };
    put('cost', r.cost);
    put('price', r.price);
    put('units', r.units);
    put('kg', r.kg);
    put('vatRate', r.vatRate);
    put('minimumOrder', r.minimumOrder);
    put('carton', r.carton);
    for (const [k, b] of r.breaks.entries()) {
      put(k === 0 ? 'breakFrom' : 'breakFrom2', b.from);
      put(k === 0 ? 'breakCost' : 'breakCost2', b.cost);
    }
    c.soldPack[i] = r.unitsInSoldPack;
    c.boughtPack[i] = r.unitsInBoughtPack;
    if (r.sides !== null) [c.a[i], c.b[i], c.c[i]] = r.sides;
    c.category[i] = e.categoryAt(r.category);
    c.taxClass[i] = TAX_CLASSES.indexOf(r.taxClass);
  });
  return c;
}

const near = (x: number, y: number | null | undefined, what: string): void => {
  if (y === null || y === undefined) expect(x, what).toBeNaN();
  else if (Math.abs(x - y) > 1e-9 * Math.max(1, Math.abs(y)) || Number.isNaN(x)) expect(x, what).toBe(y);
};

describe('a list in columns', () => {
  it('is what each row is by itself, to 1e-9, on random cards, assumptions and rows', () => {
    const seen = { answers: 0, troubles: new Set<string>(), blanks: new Set<string>() };
    for (let seed = 1; seed <= 500; seed++) {
      const d = new Draw(seed * 7919);
      const doc = randomLane(seed);
      const rates: ListRates = {
        marketplace: doc.rates.marketplace,
        tax: doc.rates.tax,
        exchange: doc.rates.exchange,
        country: doc.country,
        currency: doc.currency,
      };
      const set = randomAssumptions(d, rates);
      const e = new ListEvaluator(set, rates);
      const rows = Array.from({ length: 12 }, () => randomRow(d, rates));
      const columns = columnsOf(rows, e);
      const out = makeResults(rows.length);
      e.run(columns, out);
      rows.forEach((row, i) => {
        const one = evaluate(laneOfRow(set, rates, row));
        const at = `seed ${seed} row ${i}: `;
        for (const f of [
          'gross',
          'netRevenue',
          'landedCost',
          'landedCash',
          'proceeds',
          'contribution',
          'unitProfit',
          'margin',
          'roi',
          'profitPerMonth',
        ] as const)
          near(out[f][i] as number, one.figures[f], at + f);
        if (!one.blanks.includes('goods')) near(out.goods[i] as number, one.lines.goods, `${at}goods`);
        if (!one.blanks.includes('fulfilment'))
          near(out.fulfilment[i] as number, one.lines.fulfilment, `${at}fulfilment`);
        const blanks = Object.keys(BIT).filter((b) => ((out.blanks[i] as number) & BIT[b as Blank]) !== 0);
        if (one.problems.length === 0) expect(blanks.sort(), `${at}blanks`).toEqual([...one.blanks].sort());
        // A row without an answer says why: a blank price or cost, or the trouble that the lane names too.
        const trouble = TROUBLES[out.trouble[i] as number] as string;
        if (one.problems.length > 0)
          expect(
            one.problems.map((p) => p.code),
            `${at}${trouble}`,
          ).toContain(trouble);
        else expect(trouble, at).toBe('');
        if (one.figures.unitProfit !== null) seen.answers++;
        seen.troubles.add(trouble);
        for (const b of blanks) seen.blanks.add(b);
      });
    }
    expect(seen.answers).toBeGreaterThan(500);
    expect([...seen.troubles].sort()).toEqual([...TROUBLES].sort());
    expect([...seen.blanks].sort()).toEqual([
      'adverts',
      'demand',
      'freight',
      'fulfilment',
      'goods',
      'prep',
      'price',
      'referral',
      'returns',
      'storage',
    ]);
  });

  it('holds rows against hurdles as a lane is held', () => {
    const seen = new Set<string>();
    const figures = HURDLE_FIGURES.filter((f) => f !== 'yearlyReturnOnCash' && f !== 'coverMonths');
    for (let seed = 1; seed <= 200; seed++) {
      const d = new Draw(seed * 104729);
      const doc = randomLane(seed);
      const rates: ListRates = {
        marketplace: doc.rates.marketplace,
        tax: doc.rates.tax,
        exchange: doc.rates.exchange,
        country: doc.country,
        currency: doc.currency,
      };
      const hurdles = d.list(0, 3, () => ({
        figure: d.pick(figures),
        bound: d.pick(['atLeast', 'atLeast', 'atMost'] as const),
        level: d.typed(-5, 30),
        near: d.typed(0, 0.9),
      }));
      const set = { ...randomAssumptions(d, rates), hurdles };
      const e = new ListEvaluator(set, rates);
      const rows = Array.from({ length: 8 }, () => randomRow(d, rates));
      const columns = columnsOf(rows, e);
      const out = makeResults(rows.length);
      e.run(columns, out);
      const verdicts = new Uint8Array(rows.length);
      judgeRows(set, rates, columns, out, verdicts);
      rows.forEach((row, i) => {
        const lane = laneOfRow(set, rates, row);
        const judged = judgeHurdles(lane, hurdles).map((h) => h.verdict);
        const worst = judged.includes('fail')
          ? 'fail'
          : judged.includes('unknown') || evaluate(lane).figures.unitProfit === null
            ? 'unknown'
            : judged.includes('near')
              ? 'near'
              : 'pass';
        expect(VERDICTS[verdicts[i] as number], `seed ${seed} row ${i}`).toBe(worst);
        seen.add(worst);
      });
    }
    expect([...seen].sort()).toEqual([...VERDICTS].sort());
  });

  it('a row is ordered in as many as its minimum takes, in sold units', () => {
    const set = assumptions.parse({
      homeCurrency: 'EUR',
      date: '2026-11-24',
      purchase: { currency: 'EUR' },
      orderQuantity: 10,
    });
    const singly = Number.NaN;
    expect([
      quantityOf(set, 1, 1, Number.NaN, singly),
      quantityOf(set, 1, 1, 8, singly),
      quantityOf(set, 1, 1, 25, singly),
      quantityOf(set, 4, 1, 50, singly),
      quantityOf(set, 1, 2, 6, singly),
    ]).toEqual([10, 10, 25, 13, 12]);
    // Cartons of 12: a whole one. Of 10, three pieces in what is sold: as many as fill whole cartons. Of 24,
    // four pieces, at least 50: 18 sold are three cartons.
    expect([
      quantityOf(set, 1, 1, Number.NaN, 12),
      quantityOf(set, 3, 1, Number.NaN, 10),
      quantityOf(set, 4, 1, 50, 24),
    ]).toEqual([12, 10, 18]);
  });

  it('the price is that of the highest break the order reaches', () => {
    const none = Number.NaN;
    expect([9, 10, 23, 24, 100].map((bought) => paidAt(5, 10, 4.6, 24, 4.1, bought))).toEqual([
      5, 4.6, 4.6, 4.1, 4.1,
    ]);
    expect(paidAt(5, 24, 4.1, 10, 4.6, 30)).toBe(4.1);
    expect([paidAt(5, none, none, 24, 4.1, 12), paidAt(none, 10, 4.6, none, none, 12)]).toEqual([5, 4.6]);
    expect(paidAt(none, 10, 4.6, none, none, 9)).toBeNaN();
  });

  it('changed assumptions on the same columns are answered anew', () => {
    const rates: ListRates = { marketplace: null, tax: null, exchange: null, country: 'DE', currency: 'EUR' };
    const set = assumptions.parse({ homeCurrency: 'EUR', date: '2026-11-24', purchase: { currency: 'EUR' } });
    const columns = makeColumns(2);
    columns.cost.set([4, 8]);
    const out = makeResults(2);
    new ListEvaluator(set, rates).run(columns, out);
    expect([...out.goods]).toEqual([4, 8]);
    new ListEvaluator({ ...set, purchase: { ...set.purchase, discount: 0.25 } }, rates).run(columns, out, 1);
    expect([...out.goods]).toEqual([4, 6]);
  });
});
