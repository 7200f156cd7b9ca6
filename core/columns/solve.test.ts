import { describe, expect, it } from 'vitest';
import { highestPurchaseCost, priceFor } from '../lane/solve.ts';
import { columnsOf, randomRow, randomScreening } from '../testing/rows.ts';
import { laneOfRow } from './assumptions.ts';
import { makeColumns, makeSolved, pickRows } from './columns.ts';
import type { ListColumns } from './columns.ts';
import { ListEvaluator } from './evaluate.ts';
import { makePrepared } from './prepare.ts';
import { solveColumns } from './solve.ts';
import { cases } from '../testing/seed.ts';

function solved(e: ListEvaluator, columns: ListColumns) {
  const prepared = makePrepared(columns.length, e.width);
  e.prepare(columns, prepared);
  const into = makeSolved(columns.length);
  solveColumns(e, columns, prepared, into);
  return into;
}

describe('break-even price and most to pay of rows', () => {
  it('are those of the lane that the row is, on random cards, assumptions and rows', () => {
    const seen = { prices: 0, costs: 0, never: 0, notEvenFree: 0, unknown: 0 };
    // On until each kind of answer has been met.
    const isUnmet = (): boolean => Object.values(seen).some((n) => n === 0);
    for (let seed = 1; seed <= cases(400) || (isUnmet() && seed <= 4000); seed++) {
      const { d, rates, set } = randomScreening(seed);
      const e = new ListEvaluator(set, rates);
      const rows = Array.from({ length: 6 }, () => randomRow(d, rates));
      const { breakEvenPrice, mostToPay } = solved(e, columnsOf(rows, e));
      rows.forEach((row, i) => {
        const lane = laneOfRow(set, rates, row);
        const price = priceFor(lane);
        const cost = highestPurchaseCost(lane);
        const at = `seed ${seed} row ${i}`;
        if (price.price === null) expect(breakEvenPrice[i], at).toBeNaN();
        else expect(breakEvenPrice[i], at).toBeCloseTo(price.price, 9);
        if (cost.unitPrice === null) expect(mostToPay[i], at).toBeNaN();
        else {
          const error = Math.abs((mostToPay[i] as number) - cost.unitPrice);
          expect(error / Math.max(1, cost.unitPrice), at).toBeLessThan(1e-9);
        }
        if (price.price !== null) seen.prices++;
        if (cost.unitPrice !== null) seen.costs++;
        if (price.reason === 'neverReached') seen.never++;
        if (cost.reason === 'losesEvenFree') seen.notEvenFree++;
        if (cost.reason === 'unknown') seen.unknown++;
      });
    }
    for (const [what, n] of Object.entries(seen)) expect(n, what).toBeGreaterThan(0);
  });

  it('a price alone says what may be paid, a cost alone what must be asked', () => {
    const answered = { paid: 0, asked: 0 };
    // On until each has been answered often, whatever the draw.
    const isUnmet = (): boolean => Object.values(answered).some((n) => n < 5);
    for (let seed = 1; seed <= 40 || (isUnmet() && seed <= 2000); seed++) {
      const { set, rates } = randomScreening(seed);
      // Nothing else of the row may be wanting: own dispatch asks for no size and no weight.
      const own = { ...set, method: 'ownDispatch' as const, inbound: { perUnit: 0, perKg: 0 } };
      const e = new ListEvaluator(own, rates);
      const columns = makeColumns(2);
      columns.price[0] = 90;
      columns.cost[1] = 4;
      columns.category.fill(e.categoryAt(null));
      const { breakEvenPrice, mostToPay } = solved(e, columns);
      expect(breakEvenPrice[0], `seed ${seed}`).toBeNaN();
      expect(mostToPay[1], `seed ${seed}`).toBeNaN();
      if (Number.isFinite(mostToPay[0])) answered.paid++;
      if (Number.isFinite(breakEvenPrice[1])) answered.asked++;
    }
    for (const [what, n] of Object.entries(answered)) expect(n, what).toBeGreaterThanOrEqual(5);
  });

  it('rows picked from columns answer as they do among the others', () => {
    let answers = 0;
    for (let seed = 1; seed <= 12; seed++) {
      const { d, rates, set } = randomScreening(seed);
      const e = new ListEvaluator(set, rates);
      const columns = columnsOf(
        Array.from({ length: 30 }, () => randomRow(d, rates)),
        e,
      );
      const all = solved(e, columns);
      const some = solved(e, pickRows(columns, [29, 3, 17]));
      expect([...some.breakEvenPrice]).toEqual([29, 3, 17].map((i) => all.breakEvenPrice[i]));
      expect([...some.mostToPay]).toEqual([29, 3, 17].map((i) => all.mostToPay[i]));
      answers += [...all.mostToPay].filter(Number.isFinite).length;
    }
    expect(answers).toBeGreaterThan(10);
  });
});
