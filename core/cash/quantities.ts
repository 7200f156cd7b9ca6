/** Order quantities beside each other, each by its whole cash run. */
import type { LaneDocument } from '../lane/schema.ts';
import { breakQuantities } from '../launch/orders.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning } from '../lane/reckoning.ts';
import { calendarOf } from './calendar.ts';
import { cashOf, expectedCash } from './cash.ts';
import type { CaseCash, CashSaid } from './cash.ts';
import { prepareCash } from './prepare.ts';
import { calendarDays, runCash } from './run.ts';
import type { CashPlan } from './schema.ts';

export type QuantityRun = {
  readonly quantity: number;
  readonly said: CashSaid;
  /** Cost of a unit landed, home currency, and months the order lasts; null: not known. */
  readonly unitCost: number | null;
  readonly coverMonths: number | null;
  /** Units a month above which it is sold out some day within the horizon; null: never, or not known. */
  readonly runsOutAbove: number | null;
};

/** Each quantity by its own run; the lane's other figures are reckoned at it. */
export function quantityRuns(
  doc: LaneDocument,
  plan: CashPlan,
  quantities: readonly number[],
): QuantityRun[] {
  return quantities.map((quantity) => {
    const at = { ...doc, orderQuantity: quantity };
    const said = cashOf(at, plan);
    const cover = reckon(at, new Reckoning()).cover;
    return {
      quantity,
      said,
      unitCost: said.known ? said.perUnit.order.landedCost : null,
      coverMonths: Number.isFinite(cover) ? cover : null,
      runsOutAbove: runsOutAbove(at, plan),
    };
  });
}

/** How many times the expected units are tried at most. */
const MOST = 50;
const HALVINGS = 24;

/**
 * Units a month above which a day is short, found by halving: selling more empties the shelf no later. Null where even
 * many times the expected units leave no day short, or where the lane cannot run.
 */
export function runsOutAbove(doc: LaneDocument, plan: CashPlan): number | null {
  const prepared = prepareCash(doc, plan);
  if (!prepared.known || !(prepared.units > 0)) return null;
  const { horizon } = plan;
  const calendar = calendarOf(
    plan.start ?? doc.date,
    calendarDays(horizon, prepared.days, plan),
    plan.vat.period,
  );
  const isShort = (units: number): boolean =>
    runCash({ ...prepared.inputAt(units), calendar, horizon }).lost.some((x) => x > 1e-9);
  let [low, high] = [0, prepared.units * MOST];
  if (!isShort(high)) return null;
  for (let n = 0; n < HALVINGS; n++) {
    const middle = (low + high) / 2;
    if (isShort(middle)) high = middle;
    else low = middle;
  }
  return (low + high) / 2;
}

export const QUANTITY_MEASURES = ['end', 'moneyNeeded', 'payback', 'loss'] as const;
export type QuantityMeasure = (typeof QUANTITY_MEASURES)[number];

/** What ordering up to the next price break gains by the horizon; null where there is none or it is not known. */
export function nextBreakGain(
  doc: LaneDocument,
  plan: CashPlan,
): { readonly from: number; readonly next: number; readonly gain: number } | null {
  const [from, next] = breakQuantities(doc);
  if (from === undefined || next === undefined) return null;
  const [a, b] = [from, next].map((q) => expectedCash({ ...doc, orderQuantity: q }, plan));
  return a == null || b == null ? null : { from, next, gain: b.end - a.end };
}

/** The expected case of a run; null where it is not known. */
export const expectedOf = (run: QuantityRun): CaseCash | null =>
  run.said.known ? run.said.cases.expected : null;

/**
 * Which of the quantities is best by a measure; null where none is known. What never comes back is later than any day.
 *
 * @param loss chance of a loss of each, null: not known
 */
export function bestQuantity(
  runs: readonly QuantityRun[],
  by: QuantityMeasure,
  loss: readonly (number | null)[],
): number | null {
  const score = (run: QuantityRun, i: number): number | null => {
    const c = expectedOf(run);
    if (c === null) return null;
    if (by === 'end') return c.end;
    if (by === 'moneyNeeded') return -c.moneyNeeded;
    if (by === 'payback') return c.payback === null ? Number.NEGATIVE_INFINITY : -c.payback;
    const chance = loss[i] ?? null;
    return chance === null ? null : -chance;
  };
  let best: { i: number; score: number } | null = null;
  runs.forEach((run, i) => {
    const own = score(run, i);
    if (own !== null && (best === null || own > best.score)) best = { i, score: own };
  });
  return (best as { i: number } | null)?.i ?? null;
}
