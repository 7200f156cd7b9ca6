import { describe, expect, it } from 'vitest';
import { BIT } from '../lane/blanks.ts';
import type { Blank } from '../lane/blanks.ts';
import { evaluate } from '../lane/evaluate.ts';
import { columnsOf, randomRow, randomScreening } from '../testing/rows.ts';
import { assumptions, laneOfRow, paidAt, quantityOf } from './assumptions.ts';
import type { ListRates } from './assumptions.ts';
import { makeColumns, makeResults, TROUBLES } from './columns.ts';
import { ListEvaluator } from './evaluate.ts';
import { judgeRows, VERDICTS } from './verdicts.ts';
import { HURDLE_FIGURES, judgeHurdles } from '../lane/hurdles.ts';
import { cases, enough } from '../testing/seed.ts';

const near = (x: number, y: number | null | undefined, what: string): void => {
  if (y === null || y === undefined) expect(x, what).toBeNaN();
  else if (Math.abs(x - y) > 1e-9 * Math.max(1, Math.abs(y)) || Number.isNaN(x)) expect(x, what).toBe(y);
};

const ROW_BLANKS = [
  ...[
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
  ],
];

describe('a list in columns', () => {
  it('is what each row is by itself, to 1e-9, on random cards, assumptions and rows', () => {
    const seen = { answers: 0, troubles: new Set<string>(), blanks: new Set<string>() };
    // On until each trouble and each blank has been met, whatever the draw.
    const isUnmet = (): boolean =>
      seen.troubles.size < TROUBLES.length || seen.blanks.size < ROW_BLANKS.length;
    for (let seed = 1; seed <= cases(500) || (isUnmet() && seed <= 5000); seed++) {
      const { d, rates, set } = randomScreening(seed);
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
    expect(seen.answers).toBeGreaterThan(enough(500));
    expect([...seen.troubles].sort()).toEqual([...TROUBLES].sort());
    expect([...seen.blanks].sort()).toEqual(ROW_BLANKS);
  });

  it('holds rows against hurdles as a lane is held', () => {
    const seen = new Set<string>();
    const figures = HURDLE_FIGURES.filter((f) => f !== 'yearlyReturnOnCash' && f !== 'coverMonths');
    // On until each verdict has been met, whatever the draw.
    for (let seed = 1; seed <= cases(200) || (seen.size < VERDICTS.length && seed <= 5000); seed++) {
      const { d, rates, set: drawn } = randomScreening(seed);
      const hurdles = d.list(0, 3, () => ({
        figure: d.pick(figures),
        bound: d.pick(['atLeast', 'atLeast', 'atMost'] as const),
        level: d.typed(-5, 30),
        near: d.typed(0, 0.9),
      }));
      const set = { ...drawn, hurdles };
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
