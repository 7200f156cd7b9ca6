/** All planned launches of a workspace, month by month: units, revenue apart from profit, the account; as a range. */
import { calendarOf, dayText } from '../cash/calendar.ts';
import { cashOf } from '../cash/cash.ts';
import type { CashRuns } from '../cash/cash.ts';
import { CASH_CASES } from '../cash/schema.ts';
import type { CashCase } from '../cash/schema.ts';
import { evaluate } from '../lane/evaluate.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { daysBetween, monthText } from '../money/days.ts';
import { exchangeFactor } from '../money/money.ts';
import { withAgreedOf } from '../orders/inPlan.ts';
import { cashPlanOf, fundPlanOf } from './fundPlan.ts';
import { purseLaneDocument } from './purse.ts';
import type { PurseCandidate, PurseSource } from './purse.ts';

type InCases = Readonly<Record<CashCase, number>>;
export type MonthOfAll = {
  readonly month: string;
  readonly units: InCases;
  /** Gross sales, home currency. */
  readonly revenue: InCases;
  /** What the units sold keep, less launch costs and fixed costs. */
  readonly profit: InCases;
  /** The account at the end of the month. */
  readonly account: InCases;
};
export type PlannedLaunch = {
  readonly candidate: string;
  readonly name: string;
  readonly start: string;
  readonly quantity: number | null;
};
export type AllMonthsSaid = {
  readonly from: string;
  readonly to: string;
  readonly launches: readonly PlannedLaunch[];
  /** Planned and not to be reckoned, with what each lacks. */
  readonly unknown: readonly {
    readonly name: string;
    readonly lacks: readonly string[];
    readonly problems: readonly string[];
  }[];
  readonly months: readonly MonthOfAll[];
  readonly total: Readonly<Record<'units' | 'revenue' | 'profit', InCases>>;
};
const DAYS = 365;

/** The lane a candidate is to be launched with: the one decided on, else its first where it has a first day. */
function plannedLane(c: PurseCandidate): PurseCandidate['lanes'][number] | null {
  const decided = c.lanes.find((l) => l.id === c.data.launchLane);
  if (decided !== undefined) return decided;
  return c.data.overTime?.start != null ? (c.lanes[0] ?? null) : null;
}

/**
 * A year from today of all candidates that have a planned launch. One-offs count on the first day of a launch, its
 * adverts and discounts on the first day on sale; fixed costs are the workspace's, once, on the last day of a month.
 */
export function allMonthsOf(s: PurseSource): AllMonthsSaid {
  const { launch } = s.settings;
  const to = dayText(s.today, DAYS);
  const calendar = calendarOf(s.today, DAYS + 1, 'month');
  const count = (calendar.ordinal[DAYS] as number) + 1;
  const zeros = (): number[] => new Array<number>(count).fill(0);
  const sums = Object.fromEntries(
    CASH_CASES.map((c) => [c, { units: zeros(), revenue: zeros(), profit: zeros(), flow: zeros() }]),
  ) as Record<CashCase, Record<'units' | 'revenue' | 'profit' | 'flow', number[]>>;
  const launches: PlannedLaunch[] = [];
  const unknown: { name: string; lacks: readonly string[]; problems: readonly string[] }[] = [];
  for (const c of s.candidates) {
    const lane = plannedLane(c);
    if (lane === null) continue;
    const plan = fundPlanOf(c.data, launch);
    const first = withAgreedOf(
      s.orders ?? [],
      lane,
      purseLaneDocument(s, c, lane.data),
      cashPlanOf(plan, s.today),
    );
    const { doc } = first;
    const start = first.plan.start ?? s.today;
    const offset = daysBetween(s.today, start);
    if (offset >= DAYS) continue;
    // Cash, reserve and fixed costs are those of all launches together.
    const own = { ...plan, horizon: DAYS - offset, monthlyFixedCosts: 0, cash: 0, reserve: 0 };
    const said = cashOf(doc, { ...cashPlanOf(own, s.today), start });
    if (!said.known) {
      unknown.push({ name: c.data.name, lacks: said.lacks, problems: said.problems });
      continue;
    }
    launches.push({ candidate: c.id, name: c.data.name, start, quantity: doc.orderQuantity });
    addLaunch(sums, said, doc, { offset, monthOf: (t) => calendar.ordinal[t] as number });
  }
  for (let t = 0; t <= DAYS; t++) {
    if (calendar.monthEnd[t] !== t) continue;
    for (const c of CASH_CASES) {
      const month = calendar.ordinal[t] as number;
      sums[c].profit[month] = (sums[c].profit[month] as number) - launch.monthlyFixedCosts;
      sums[c].flow[month] = (sums[c].flow[month] as number) - launch.monthlyFixedCosts;
    }
  }
  const inCases = (of: (c: CashCase) => number): InCases => ({
    low: of('low'),
    expected: of('expected'),
    high: of('high'),
  });
  const upTo = (values: readonly number[], month: number): number =>
    values.slice(0, month + 1).reduce((a, b) => a + b, 0);
  const all = (key: 'units' | 'revenue' | 'profit'): InCases => inCases((c) => upTo(sums[c][key], count));
  return {
    from: s.today,
    to,
    launches,
    unknown,
    months: Array.from({ length: count }, (_, m) => ({
      month: monthText(s.today, m),
      units: inCases((c) => sums[c].units[m] as number),
      revenue: inCases((c) => sums[c].revenue[m] as number),
      profit: inCases((c) => sums[c].profit[m] as number),
      account: inCases((c) => (launch.cash ?? 0) + upTo(sums[c].flow, m)),
    })),
    total: { units: all('units'), revenue: all('revenue'), profit: all('profit') },
  };
}

type Sums = Record<CashCase, Record<'units' | 'revenue' | 'profit' | 'flow', number[]>>;
type Placed = { readonly offset: number; readonly monthOf: (t: number) => number };

/** Adds a launch to the months it falls into; what was before today is left out. */
function addLaunch(sums: Sums, said: CashRuns, doc: LaneDocument, { offset, monthOf }: Placed): void {
  const toHome = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  const gross = (evaluate(doc).figures.gross ?? 0) * toHome;
  for (const c of CASH_CASES) {
    const { run } = said.cases[c];
    const own = sums[c];
    const add = (key: keyof typeof own, t: number, amount: number): void => {
      if (t < 0) return;
      const month = monthOf(t);
      own[key][month] = (own[key][month] as number) + amount;
    };
    for (let d = 0; d <= said.horizon; d++) {
      const t = d + offset;
      const sold = run.sold[d] as number;
      add('units', t, sold);
      add('revenue', t, sold * gross);
      add('profit', t, sold * said.perUnit.sale.unitProfit);
      add('flow', t, (run.cumulated[d] as number) - (d === 0 ? 0 : (run.cumulated[d - 1] as number)));
    }
    add('profit', offset, -run.oneOffs);
    if (run.onSale <= said.horizon) add('profit', offset + run.onSale, -(run.adverts + run.discounts));
  }
}
