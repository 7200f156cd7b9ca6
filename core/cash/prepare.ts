/** A lane made ready for cash runs: what it lacks for one, and the plain numbers a run works with. */
import { blanksIn } from '../lane/blanks.ts';
import { FIGURE_BLANKS } from '../lane/figures.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning } from '../lane/reckoning.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { seasonIndex } from '../lane/steps/demand.ts';
import { quotedOneOffs } from '../launch/launch.ts';
import { admissibleOrders } from '../launch/orders.ts';
import { exchangeFactor } from '../money/money.ts';
import { clicksAreUnknown, launchAdverts, launchIsOpen } from './launchAdverts.ts';
import { cashPerUnit, orderCash } from './perUnit.ts';
import type { RunInput } from './run.ts';
import type { CashPlan } from './schema.ts';
import { daysOf } from './terms.ts';
import type { Days } from './terms.ts';

/** What keeps a lane from running: blanks of the lane and of the plan, and what else is wrong with them. */
export type Unready = {
  readonly known: false;
  readonly lacks: readonly string[];
  readonly problems: readonly string[];
};
/** What a run works with, but for its days. */
export type Timeless = Omit<RunInput, 'calendar' | 'horizon'>;
export type PreparedCash = {
  readonly known: true;
  /** Units a month, as the lane expects them. */
  readonly units: number;
  readonly days: Days;
  /** A run at so many units a month, whenever it starts and however long it is looked at. */
  readonly inputAt: (units: number) => Timeless;
};

export function prepareCash(doc: LaneDocument, plan: CashPlan): PreparedCash | Unready {
  const r = reckon(doc, new Reckoning());
  const { days, lacks: daysLack } = daysOf(doc);
  const lacks = [...blanksIn(r.blanks & (FIGURE_BLANKS.unitProfit | FIGURE_BLANKS.landedCash)), ...daysLack];
  if (Number.isNaN(r.quantity)) lacks.push('orderQuantity');
  if (Number.isNaN(r.units)) lacks.push('demand');
  const problems = r.problems.map((p) => p.code as string);
  const ships = doc.method === 'supplierShips';
  const resold = doc.returns === null || doc.returns === 'none' ? 0 : doc.returns.resaleShare;
  if (ships && (doc.breakage > 0 || (resold > 0 && r.returnRate > 0))) problems.push('shipsWithoutStock');
  if (launchIsOpen(plan.launch)) lacks.push('launch');
  if (clicksAreUnknown(plan.launch, r)) lacks.push('adverts');
  if (Number.isNaN(exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency)))
    problems.push('noExchangeRate');
  const amounts = [r.unitProfit, r.landedCash, r.payout];
  if (lacks.length === 0 && problems.length === 0 && amounts.some(Number.isNaN)) problems.push('unknown');
  if (lacks.length > 0 || problems.length > 0) return { known: false, lacks: [...new Set(lacks)], problems };
  return { known: true, units: r.units, days, inputAt: (u) => inputOf(doc, plan, r, days, u) };
}

function inputOf(doc: LaneDocument, plan: CashPlan, r: Reckoning, days: Days, units: number): Timeless {
  const { launch } = plan;
  const toHome = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  const { order, sale } = cashPerUnit(doc, units);
  const orders = admissibleOrders(doc);
  const bought = new Map<number, RunInput['order']>();
  const quoted = quotedOneOffs(doc, doc.homeCurrency);
  const oneOffs = [...launch.oneOffs, ...quoted].reduce((sum, o) => sum + (o.amount ?? 0), 0);
  return {
    days,
    ships: doc.method === 'supplierShips',
    sale,
    order,
    quantity: r.quantity,
    orderOf: (n) => {
      const own = bought.get(n) ?? orderCash(doc, n, units);
      bought.set(n, own);
      return own;
    },
    atLeast: (saleable) => {
      const n = Math.ceil(saleable / (1 - doc.breakage) / orders.step - 1e-9) * orders.step;
      return Math.max(orders.first, n);
    },
    breakage: doc.breakage,
    units,
    season: doc.season === null ? null : seasonIndex(doc.season),
    plan,
    oneOffs,
    launch: launchAdverts(launch, r, toHome),
    discounts: launch.discounts,
    fixedMonthly: launch.monthlyFixedCosts + doc.monthlyFixedCosts * toHome,
    cash: launch.cash ?? 0,
    reserve: launch.reserve,
  };
}
