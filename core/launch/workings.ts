import type { Working, WorkingTerm } from '../lane/workings.ts';
import type { TermUnit } from '../lane/reckoning.ts';
import type { LaunchPlan, LaunchResult } from './schema.ts';

const RECKONED = { source: 'reckoned', date: null, note: '' };
const TYPED = { source: 'typed', date: null, note: '' };

/** How the figures of a launch came about, in the home currency (units: pieces). Keys are those of the result. */
export function launchWorkings(
  r: LaunchResult,
  plan: LaunchPlan,
): Readonly<Record<string, readonly Working[]>> {
  const term = (
    name: string,
    value: number | null,
    unit: TermUnit = 'money',
    typed = false,
  ): WorkingTerm => ({ name, value, unit, path: '', origin: typed ? TYPED : RECKONED });
  const step = (
    amount: number | null,
    formula: string,
    terms: WorkingTerm[],
    unit: TermUnit = 'money',
  ): Working[] => [{ amount, unit, formula, terms, rates: [] }];
  const b = r.budget;
  const lines = b?.lines;
  const sums = [
    term('goodsLanded', lines?.goods ?? null),
    term('oneOffs', lines?.oneOffs ?? null),
    term('launchAdverts', lines?.advertising ?? null),
    term('launchDiscounts', lines?.discounts ?? null),
  ];
  return {
    total: step(b?.total ?? null, 'goodsLanded + oneOffs + launchAdverts + launchDiscounts + contingency', [
      ...sums,
      term('contingency', lines?.contingency ?? null),
    ]),
    goods: step(lines?.goods ?? null, 'orderQuantity * landedCash', [
      term('orderQuantity', b?.quantity ?? null, 'pieces', true),
      term('landedCash', b?.unitLandedCash ?? null),
    ]),
    contingency: step(
      lines?.contingency ?? null,
      'contingencyShare * (goodsLanded + oneOffs + launchAdverts + launchDiscounts)',
      [term('contingencyShare', plan.contingency, 'share', true), ...sums],
    ),
    productBudget: step(
      r.productBudget,
      '(cash - reserve) / (1 + contingencyShare) - oneOffs - launchAdverts - launchDiscounts',
      [
        term('cash', plan.cash, 'money', true),
        term('reserve', plan.reserve, 'money', true),
        term('contingencyShare', plan.contingency, 'share', true),
        ...sums.slice(1),
      ],
    ),
    mostUnits: step(
      r.mostUnits,
      'largestOrderWithin',
      [term('productBudget', r.productBudget), term('smallestOrder', r.smallestOrder, 'pieces')],
      'pieces',
    ),
    mostPerUnit: step(r.mostPerUnit, 'productBudget / orderQuantity', [
      term('productBudget', r.productBudget),
      term('orderQuantity', b?.quantity ?? null, 'pieces', true),
    ]),
    mostPerUnitSmallest: step(r.mostPerUnitSmallest, 'productBudget / smallestOrder', [
      term('productBudget', r.productBudget),
      term('smallestOrder', r.smallestOrder, 'pieces'),
    ]),
    unitsADay: step(
      r.unitsADay,
      '(profitGoal + monthlyFixedCosts) / unitProfit / 30.4375',
      [
        term(
          'profitGoal',
          plan.monthlyProfitGoal ?? (plan.dailyProfitGoal === null ? null : plan.dailyProfitGoal * 30.4375),
          'money',
          true,
        ),
        term('monthlyFixedCosts', plan.monthlyFixedCosts, 'money', true),
        term('unitProfit', b?.unitProfit ?? null),
      ],
      'number',
    ),
  };
}
