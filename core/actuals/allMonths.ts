/** A month of the whole workspace: what was sold, what it left, what is on the shelf, in the home currency. */
import type { LaneDocument } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';
import type { MonthSold } from './onSale.ts';
import { settledRule, STEPS } from './schema.ts';
import type { SettledKind } from './schema.ts';
import type { KindSums } from './sums.ts';

/** A month of one lane, home currency. `revenue` null: not known; `whole`: its profit leaves out no cost. */
export type LaneMonth = {
  readonly month: string;
  readonly units: number;
  readonly revenue: number | null;
  readonly profit: number | null;
  readonly whole: boolean;
};

/** The months of a lane by the rates of the day it went on sale. */
export function laneMonths(doc: LaneDocument, months: readonly MonthSold[]): LaneMonth[] {
  const home = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  return months.map(({ month, actual }) => {
    const known = actual.netRevenue !== null && actual.profit !== null && Number.isFinite(home);
    return {
      month,
      units: actual.shipped,
      revenue: known ? (actual.netRevenue as number) * home : null,
      profit: known ? (actual.profit as number) * home : null,
      whole: known && actual.lacks.length === 0,
    };
  });
}

/**
 * Revenue without VAT, and profit, apart. `lacks`: lanes of which a cost or the exchange rate is not known; revenue and
 * profit are those of the others, or leave that cost out. `settled`: what marketplaces settled, adverts and fees taken;
 * `paidOut`: what of it reached the bank.
 */
export type WorkspaceMonth = {
  readonly month: string;
  readonly units: number;
  readonly revenue: number;
  readonly profit: number;
  readonly lacks: number;
  readonly settled: number;
  readonly paidOut: number;
};

/** What a place's lines come to in its currency, and what of it was paid out. */
export function cashOfKinds(kinds: KindSums): { settled: number; paidOut: number } {
  let settled = 0;
  let paidOut = 0;
  for (const [kind, sum] of Object.entries(kinds) as [SettledKind, { amount: number }][])
    if (settledRule(kind).is === 'aside') paidOut -= sum.amount / STEPS;
    else if (settledRule(kind).is !== 'told') settled += sum.amount / STEPS;
  return { settled, paidOut };
}

type Adding = { -readonly [K in keyof WorkspaceMonth]: WorkspaceMonth[K] };

/**
 * Months of all lanes on sale, the latest first.
 *
 * @param cash what places settled, by month, home currency
 */
export function allMonthsOnSale(
  lanes: readonly (readonly LaneMonth[])[],
  cash: readonly { readonly month: string; readonly settled: number; readonly paidOut: number }[],
): WorkspaceMonth[] {
  const by = new Map<string, Adding>();
  const at = (month: string): Adding => {
    const known = by.get(month) ?? {
      ...{ month, units: 0, revenue: 0, profit: 0, lacks: 0, settled: 0, paidOut: 0 },
    };
    by.set(month, known);
    return known;
  };
  for (const { month, units, revenue, profit, whole } of lanes.flat()) {
    const m = at(month);
    m.units += units;
    m.revenue += revenue ?? 0;
    m.profit += profit ?? 0;
    if (!whole) m.lacks++;
  }
  for (const { month, settled, paidOut } of cash) {
    const m = at(month);
    m.settled += settled;
    m.paidOut += paidOut;
  }
  return [...by.values()].sort((a, b) => (a.month < b.month ? 1 : -1));
}
