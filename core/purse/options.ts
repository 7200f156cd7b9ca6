/**
 * What may be launched from a purse (planning, section 2): each option a lane, an order quantity and a start week, with
 * what it takes of the account week by week and what it is worth. Home currency.
 */
import { calendarOf, dayText } from '../cash/calendar.ts';
import { prepareCash } from '../cash/prepare.ts';
import type { Timeless } from '../cash/prepare.ts';
import { calendarDays, runCash } from '../cash/run.ts';
import type { Run } from '../cash/run.ts';
import type { CashPlan } from '../cash/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { admissibleOrders } from '../launch/orders.ts';
import type { PurseDocument, PurseLane } from './schema.ts';

export type Option = {
  /** Index of its lane in the document. */
  readonly lane: number;
  readonly quantity: number;
  readonly week: number;
  /** Lowest cumulated flow on any day of each week. */
  readonly lowest: Float64Array;
  /** What it brings by the last day, unsold goods at what they fetch; and that less what caution takes off. */
  readonly value: number;
  readonly worth: number;
  readonly moneyNeeded: number;
  readonly unitsSold: number;
  readonly left: number;
  /** Days of the purse on which it is on sale and from which its money stays back; null: not by the last day. */
  readonly onSale: number;
  readonly payback: number | null;
};
/** A lane that cannot be chosen, and why. */
export type Aside = {
  readonly key: string;
  readonly why: 'incomplete' | 'loses' | 'quantityNotTaken';
  readonly lacks: readonly string[];
  readonly problems: readonly string[];
  /** The most it would bring; null where that is not known. */
  readonly best: number | null;
};
export type Options = { readonly options: readonly Option[]; readonly aside: readonly Aside[] };

const DAYS_A_WEEK = 7;
/** The last day of the purse, the same for all. */
export const lastDay = (p: Pick<PurseDocument, 'weeks'>): number => DAYS_A_WEEK * (p.weeks + 1) - 1;

/** The plan of an option: its own costs, without reorders, self-funding and fixed costs. */
const alone = (plan: CashPlan): CashPlan => ({
  ...plan,
  reorder: { kind: 'none' },
  selfFunding: false,
  launch: { ...plan.launch, monthlyFixedCosts: 0, cash: 0, reserve: 0 },
});

const weeksOf = (p: PurseDocument, lane: PurseLane): number[] => {
  const last = Math.min(lane.lastStart ?? p.lastStart, p.weeks);
  return Array.from({ length: Math.floor(last / 2) + 1 }, (_, k) => 2 * k);
};
/** Quantities that the supplier takes; of the others nothing can be ordered. */
function quantitiesOf({ lane, quantities }: PurseLane): number[] {
  const { step, first } = admissibleOrders(lane);
  const asked = quantities.length > 0 ? quantities : lane.orderQuantity === null ? [] : [lane.orderQuantity];
  const isTaken = (q: number): boolean =>
    q >= first - 1e-9 && Math.abs(q / step - Math.round(q / step)) < 1e-9;
  return [...new Set(asked)].filter((q) => lane.method === 'supplierShips' || isTaken(q));
}

/**
 * All options of a purse and the lanes that stand aside. A lane that loses with every option stands aside unless it
 * must be launched.
 *
 * @param onLane called after each lane; answering false stops, and the lanes after it are left out
 */
export function optionsOf(p: PurseDocument, onLane?: (done: number) => boolean): Options {
  const options: Option[] = [];
  const aside: Aside[] = [];
  for (const [index, lane] of p.lanes.entries()) {
    const own = optionsOfLane(p, lane, index);
    if ('why' in own) aside.push(own);
    else options.push(...own);
    if (onLane?.(index + 1) === false) break;
  }
  return { options, aside };
}

function optionsOfLane(p: PurseDocument, lane: PurseLane, index: number): Option[] | Aside {
  const { must } = lane;
  const pinned = typeof must === 'object' ? must : null;
  const quantities = pinned === null ? quantitiesOf(lane) : [pinned.quantity];
  const weeks = pinned === null ? weeksOf(p, lane) : [Math.min(pinned.week, p.weeks)];
  const said = { key: lane.key, lacks: [], problems: [], best: null };
  if (quantities.length === 0)
    return lane.quantities.length === 0 && lane.lane.orderQuantity === null
      ? { ...said, why: 'incomplete', lacks: ['orderQuantity'] }
      : { ...said, why: 'quantityNotTaken' };
  const options: Option[] = [];
  for (const quantity of quantities) {
    const doc = { ...lane.lane, orderQuantity: quantity };
    const plan = alone(lane.plan);
    const prepared = prepareCash(doc, plan);
    if (!prepared.known)
      return { ...said, why: 'incomplete', lacks: prepared.lacks, problems: prepared.problems };
    const factor = plan.cases;
    // What a run works with is the same in every week; only its days are others.
    const of = (f: number): Timeless => ({ ...prepared.inputAt(prepared.units * f), fixedMonthly: 0 });
    const [expected, low] = [of(factor.expected), p.caution > 0 ? of(factor.low) : null];
    for (const week of weeks) {
      const option = optionAt(p, doc, { expected, low, index, quantity, week });
      if (Number.isNaN(option.worth)) return { ...said, why: 'incomplete', problems: ['unknown'] };
      options.push(option);
    }
  }
  const best = Math.max(...options.map((o) => o.worth));
  return best <= 0 && must === false ? { ...said, why: 'loses', best } : options;
}

type At = {
  readonly expected: Timeless;
  readonly low: Timeless | null;
  readonly index: number;
  readonly quantity: number;
  readonly week: number;
};
function optionAt(p: PurseDocument, doc: LaneDocument, { expected, low, index, quantity, week }: At): Option {
  const from = DAYS_A_WEEK * week;
  const horizon = lastDay(p) - from;
  const { days, plan } = expected;
  const calendar = calendarOf(dayText(p.start, from), calendarDays(horizon, days, plan), plan.vat.period);
  const runOf = (input: Timeless): Run => runCash({ ...input, calendar, horizon });
  const run = runOf(expected);
  const value = worthBy(doc, p, run, expected);
  const lowValue = low === null ? value : worthBy(doc, p, runOf(low), low);
  const lowest = new Float64Array(p.weeks + 1);
  let least = 0;
  for (let w = week; w <= p.weeks; w++) {
    let low = Number.POSITIVE_INFINITY;
    for (let d = 0; d < DAYS_A_WEEK; d++)
      low = Math.min(low, run.cumulated[DAYS_A_WEEK * (w - week) + d] as number);
    lowest[w] = low;
    least = Math.min(least, low);
  }
  return {
    lane: index,
    quantity,
    week,
    lowest,
    value,
    worth: value - p.caution * Math.max(0, value - lowValue),
    moneyNeeded: -least,
    unitsSold: sumOf(run.sold),
    left: leftOf(run),
    onSale: from + run.onSale,
    payback: paidBack(run, from),
  };
}
/** The first day from which the cumulated flow is not under 0 any more. */
function paidBack({ cumulated }: Run, from: number): number | null {
  const last = cumulated.findLastIndex((x) => x < -1e-9);
  return last + 1 >= cumulated.length ? null : from + last + 1;
}
const sumOf = (values: Float64Array): number => values.reduce((a, b) => a + b, 0);
/** Units on the shelf, on order and returning on the last day. */
function leftOf(run: Run): number {
  const at = run.cumulated.length - 1;
  return (run.stock[at] as number) + (run.onOrder[at] as number) + (run.returning[at] as number);
}

/** `v(o)` of planning, section 2: what the units sold keep by the last day, unsold goods at what they fetch. */
function worthBy(doc: LaneDocument, { salvage }: PurseDocument, run: Run, input: Timeless): number {
  const { sale, order, ships } = input;
  const sold = sumOf(run.sold);
  const beside = input.oneOffs + run.adverts + run.discounts;
  if (ships) return sold * sale.unitProfit - beside;
  const { landedCost } = order;
  const brings = sale.unitProfit + landedCost / (1 - doc.breakage) - sale.returned * sale.resold * landedCost;
  const bought = run.orders.reduce((sum, o) => sum + o.quantity * o.landedCost, 0);
  return sold * brings - bought + salvage * leftOf(run) * landedCost - beside;
}
