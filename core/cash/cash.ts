/**
 * The cash of a launch (planning, section 1): the money it really needs and on which day, when it is back, what is
 * short, month by month, in three cases of demand. Amounts in the home currency of the lane.
 */
import type { LaneDocument } from '../lane/schema.ts';
import { calendarOf, dayText } from './calendar.ts';
import type { CashPerUnit } from './perUnit.ts';
import { prepareCash } from './prepare.ts';
import type { PreparedCash, Unready } from './prepare.ts';
import { calendarDays, demandUpTo, onSaleOf, runCash } from './run.ts';
import type { Run, RunInput } from './run.ts';
import { CASH_CASES } from './schema.ts';
import type { CashCase, CashPlan } from './schema.ts';

/** What a case comes to. Days are counted from day 0; money in the home currency. */
export type CaseCash = {
  readonly units: number;
  readonly moneyNeeded: number;
  /** Null: none is needed. */
  readonly neededOn: number | null;
  readonly lowestBalance: number | null;
  /** First day from which the money stays back up to the horizon; null: it does not. */
  readonly payback: number | null;
  /** The same two for the first order alone. */
  readonly firstOrder: { readonly moneyNeeded: number; readonly payback: number | null };
  readonly daysShort: number;
  readonly unitsLost: number;
  readonly profitLost: number;
  readonly unitsSold: number;
  /** What is left of the goods at the horizon, and what it cost to land. */
  readonly left: Readonly<Record<'stock' | 'returning' | 'onOrder', { units: number; landedCost: number }>>;
  readonly end: number;
  readonly run: Run;
};
/** A run of months that sell well above the mean: by when its goods have to be ordered. */
export type PeakOrder = {
  readonly from: string;
  readonly to: string;
  /** Last day to order; before day 0 it is too late. */
  readonly orderBy: string;
  readonly tooLate: boolean;
  readonly units: number;
  /** What is missed by goods that come two weeks late: the units of those days, and what they would keep. */
  readonly late: { readonly units: number; readonly profit: number };
};
export type CashRuns = {
  readonly start: string;
  readonly horizon: number;
  readonly currency: string;
  readonly onSale: number;
  readonly perUnit: CashPerUnit;
  readonly contingency: number;
  /** The money needed and the contingency beside it. */
  readonly toKeepReady: number;
  /** What the money needed is over the cash less the reserve; null: no cash is said. */
  readonly over: number | null;
  readonly cases: Readonly<Record<CashCase, CaseCash>>;
  readonly peaks: readonly PeakOrder[];
};
export type CashSaid = ({ readonly known: true } & CashRuns) | Unready;

const PEAK = 1.2;
const LATE_DAYS = 14;

/** The launch of a lane over time, or what it lacks. */
export function cashOf(doc: LaneDocument, plan: CashPlan): CashSaid {
  const prepared = prepareCash(doc, plan);
  if (!prepared.known) return prepared;
  const runs = runsOf(prepared, doc, plan);
  // A reorder of another size may meet a price break, a weight or a band that is not known.
  const unknown = CASH_CASES.some((c) => Number.isNaN(runs.cases[c].end));
  return unknown ? { known: false, lacks: [], problems: ['reorderUnknown'] } : { known: true, ...runs };
}

/** The expected case alone; null where the launch cannot be run. */
export function expectedCash(doc: LaneDocument, plan: CashPlan): CaseCash | null {
  const prepared = prepareCash(doc, plan);
  if (!prepared.known) return null;
  const said = caseOf(inputsOf(prepared, doc, plan)('expected'));
  return Number.isNaN(said.end) ? null : said;
}

/** What each case is run with, on one calendar. */
function inputsOf({ units, days, inputAt }: PreparedCash, doc: LaneDocument, plan: CashPlan) {
  const { horizon } = plan;
  const calendar = calendarOf(plan.start ?? doc.date, calendarDays(horizon, days, plan), plan.vat.period);
  return (c: CashCase): RunInput => ({ ...inputAt(units * plan.cases[c]), calendar, horizon });
}

function runsOf(prepared: PreparedCash, doc: LaneDocument, plan: CashPlan): CashRuns {
  const start = plan.start ?? doc.date;
  const { horizon } = plan;
  const inputOf = inputsOf(prepared, doc, plan);
  const expected = inputOf('expected');
  const cases = Object.fromEntries(
    CASH_CASES.map((c) => [c, caseOf(c === 'expected' ? expected : inputOf(c))]),
  ) as Record<CashCase, CaseCash>;
  const { moneyNeeded } = cases.expected;
  const { launch } = plan;
  const contingency = launch.contingency * moneyNeeded;
  return {
    start,
    horizon,
    currency: doc.homeCurrency,
    onSale: onSaleOf(expected),
    perUnit: { order: expected.order, sale: expected.sale },
    contingency,
    toKeepReady: moneyNeeded + contingency,
    over: launch.cash === null ? null : Math.max(0, moneyNeeded - (launch.cash - launch.reserve)),
    cases,
    peaks: peaksOf(expected, start),
  };
}

/** The lowest cumulated flow and the day on which it is first reached, and the day from which the money is back. */
export function standing(cumulated: Float64Array): { low: number; on: number; payback: number | null } {
  let low = Number.POSITIVE_INFINITY;
  let on = 0;
  let payback = 0;
  for (let t = 0; t < cumulated.length; t++) {
    const x = cumulated[t] as number;
    if (x < low - 1e-9) [low, on] = [x, t];
    if (x < -1e-9) payback = t + 1;
  }
  return { low, on, payback: payback >= cumulated.length ? null : payback };
}
function sumOf(values: Float64Array): number {
  let sum = 0;
  for (const x of values) sum += x;
  return sum;
}

function caseOf(input: RunInput): CaseCash {
  const run = runCash(input);
  const all = standing(run.cumulated);
  const alone =
    run.orders.length <= 1
      ? all
      : standing(runCash({ ...input, plan: { ...input.plan, reorder: { kind: 'none' } } }).cumulated);
  const needed = (low: number): number => Math.max(0, -low);
  const H = input.horizon;
  const worth = (units: number) => ({ units, landedCost: units * input.order.landedCost });
  const lost = sumOf(run.lost);
  let daysShort = 0;
  for (let t = run.onSale; t <= H; t++) if ((run.lost[t] as number) > 1e-9) daysShort++;
  const end = run.cumulated[H] as number;
  return {
    units: input.units,
    moneyNeeded: needed(all.low),
    neededOn: all.low < 0 ? all.on : null,
    lowestBalance: input.plan.launch.cash === null ? null : input.cash + all.low,
    payback: all.payback,
    firstOrder: { moneyNeeded: needed(alone.low), payback: alone.payback },
    daysShort,
    unitsLost: lost,
    profitLost: lost * input.sale.unitProfit,
    unitsSold: sumOf(run.sold),
    left: {
      stock: worth(run.stock[H] as number),
      returning: worth(run.returning[H] as number),
      onOrder: worth(run.onOrder[H] as number),
    },
    end,
    run,
  };
}

/** Runs of calendar months well above the mean that start after day 0 within the horizon. */
function peaksOf(input: RunInput, start: string): PeakOrder[] {
  const { season, calendar, horizon, plan } = input;
  if (season === null) return [];
  const isPeak = (t: number): boolean => (season[calendar.month[t] as number] as number) >= PEAK - 1e-9;
  const L = onSaleOf(input);
  const last = calendar.month.length - 1;
  const wanted = demandUpTo(input, last);
  const peaks: PeakOrder[] = [];
  for (let t = 1; t <= horizon; t++) {
    if (!isPeak(t) || isPeak(t - 1)) continue;
    let end = t;
    while (end < last && isPeak(end + 1)) end++;
    const orderBy = t - plan.safetyDays - L;
    const upTo = (d: number): number => (d < L ? 0 : (wanted[d] as number));
    const before = upTo(t - 1);
    const late = upTo(Math.min(end, t + LATE_DAYS - 1)) - before;
    peaks.push({
      from: dayText(start, t),
      to: dayText(start, end),
      orderBy: dayText(start, orderBy),
      tooLate: orderBy < 0,
      units: upTo(end) - before,
      late: { units: late, profit: late * input.sale.unitProfit },
    });
  }
  return peaks;
}
