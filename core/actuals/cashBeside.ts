/**
 * The cash of a lane on sale beside its plan: as it was planned at the launch, as it went, and as it goes on from
 * today by the pace it sells at. Home currency, VAT as the plan settles it.
 */
import { calendarOf, dayText } from '../cash/calendar.ts';
import type { Calendar } from '../cash/calendar.ts';
import { expectedCash, standing } from '../cash/cash.ts';
import { goingOn } from '../cash/nextOrder.ts';
import type { OnShelf } from '../cash/nextOrder.ts';
import type { SaleCash } from '../cash/perUnit.ts';
import { prepareCash } from '../cash/prepare.ts';
import type { Timeless } from '../cash/prepare.ts';
import { onSaleOf, runCash } from '../cash/run.ts';
import type { Run } from '../cash/run.ts';
import type { CashPlan } from '../cash/schema.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { dayAfter, daysBefore, daysBetween, firstOfNextMonth, monthText } from '../money/days.ts';
import { exchangeFactor } from '../money/money.ts';
import { unitAt } from './actual.ts';
import type { MonthSold } from './onSale.ts';
import type { LanePaid, Paid } from './paid.ts';

/** What no report and no order tells: it went as planned. */
export type ToldByPlan = 'goods' | 'adverts' | 'ownCosts' | 'fixed';
export type CashMonth = {
  readonly month: string;
  /** Money at the end of the month beside what there was before the launch; null: after the plan's horizon. */
  readonly planned: number | null;
  /** The same as it went, in the month that runs as it stands today; null: after today. */
  readonly actual: number | null;
  /** As it goes on, from the end of the month that runs; null: before, or not known. */
  readonly ahead: number | null;
};
export type CashBeside = {
  readonly currency: string;
  readonly months: readonly CashMonth[];
  /** Where it stands today. */
  readonly today: { readonly planned: number | null; readonly actual: number };
  /** Day from which the money stays back; null: not up to the horizon. */
  readonly plannedPayback: string | null;
  /** `known` false: what is on the shelf, or how fast it sells, is not known. */
  readonly payback: { readonly known: boolean; readonly day: string | null };
  readonly byPlan: readonly ToldByPlan[];
  /** Orders whose payments are left out, for it is not known what of them is this lane's. */
  readonly ordersUnknown: number;
};

/** What of the launch is known. `last`: the last day that reports speak of; `shelf` null: not known. */
export type SoFar = {
  readonly since: string;
  readonly today: string;
  readonly months: readonly MonthSold[];
  readonly last: string | null;
  readonly paid: LanePaid;
  readonly shelf: Omit<OnShelf, 'day'> | null;
};

/** Days of payments and the VAT they owe, from a first day on; what falls after the end is left out. */
class Ledger {
  readonly flows: Float64Array;
  private readonly owed = new Map<number, number>();
  private readonly calendar: Calendar;
  constructor(
    private readonly start: string,
    private readonly end: number,
    private readonly vat: CashPlan['vat'],
  ) {
    this.flows = new Float64Array(end + 1);
    this.calendar = calendarOf(start, end + 1, vat.period);
  }
  /** What comes in is above 0, and so is VAT that is owed. */
  add(day: string, amount: number, vat = 0): void {
    const at = Math.max(0, daysBetween(this.start, day));
    this.on(at, amount);
    if (at > this.end || vat === 0) return;
    const period = this.calendar.periodEnd[at] as number;
    this.owed.set(period, (this.owed.get(period) ?? 0) + vat);
  }
  private on(at: number, amount: number): void {
    if (at <= this.end) this.flows[at] = (this.flows[at] as number) + amount;
  }
  /** Sums of all days up to each, VAT settled. */
  cumulated(): Float64Array {
    for (const [end, vat] of this.owed)
      this.on(end + (vat > 0 ? this.vat.settledAfter : this.vat.reclaimedAfter), -vat);
    this.owed.clear();
    let sum = 0;
    return this.flows.map((x) => (sum += x));
  }
}

const lastOf = (month: string): string => daysBefore(firstOfNextMonth(`${month}-01`), 1);

/** Null: the lane cannot be run over time; what it lacks, its launch page says. */
export function cashBeside(doc: LaneDocument, plan: CashPlan, so: SoFar): CashBeside | null {
  const prepared = prepareCash(doc, plan);
  const toHome = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  if (!prepared.known || so.months.some((m) => m.account.vatOwed === null)) return null;
  const timeless = prepared.inputAt(prepared.units);
  const planned = plannedRun(doc, plan, timeless, so);
  if (planned === null) return null;
  const first = firstDay(planned.start, so);
  const end = daysBetween(first, so.today) + plan.horizon;
  const ledger = new Ledger(first, end, plan.vat);
  const byPlan = new Set<ToldByPlan>();
  for (const m of so.months) settle(ledger, m, so, timeless, toHome, byPlan);
  payOrders(doc, ledger, planned, timeless, so, byPlan);
  payFixed(ledger, planned.start, timeless, so.today, byPlan);
  const cumulated = ledger.cumulated();
  const now = daysBetween(first, so.today);
  const run = ahead(doc, plan, so);
  const whole = cumulated.map((x, t) => x + (run === null || t < now ? 0 : (run.cumulated[t - now] ?? 0)));
  const { payback } = standing(whole);
  return {
    currency: doc.homeCurrency,
    months: monthsOf(first, now, planned, { went: cumulated, whole, goesOn: run !== null }, payback),
    today: { planned: planned.on(so.today), actual: cumulated[now] as number },
    plannedPayback: planned.payback,
    payback: { known: run !== null, day: run === null || payback === null ? null : dayText(first, payback) },
    byPlan: [...byPlan],
    ordersUnknown: so.paid.unknown,
  };
}

/** Days before the plan begins in which payments are looked at; what was paid earlier stands on the first of them. */
const MOST_BEFORE = 730;
function firstDay(start: string, so: SoFar): string {
  const earliest = [start, so.today, ...so.paid.paid.flatMap((p) => p.day ?? [])].sort()[0] as string;
  const least = daysBefore(start < so.today ? start : so.today, MOST_BEFORE);
  return earliest < least ? least : earliest;
}

type Planned = {
  readonly start: string;
  readonly payback: string | null;
  readonly run: Run;
  /** Money at the end of a day; null: after the horizon. */
  readonly on: (day: string) => number | null;
};

/** The launch as it was planned: its first day on sale is the one it really went on sale. */
function plannedRun(doc: LaneDocument, plan: CashPlan, input: Timeless, so: SoFar): Planned | null {
  const start = daysBefore(so.since, onSaleOf(input));
  const said = expectedCash(doc, { ...plan, start });
  if (said === null) return null;
  const { cumulated } = said.run;
  return {
    start,
    payback: said.payback === null ? null : dayText(start, said.payback),
    run: said.run,
    on: (day) => (day < start ? 0 : (cumulated[daysBetween(start, day)] ?? null)),
  };
}

/** What a month brought by its reports, and what no report tells of it, as planned a unit. */
function settle(
  ledger: Ledger,
  { month, actual, account }: MonthSold,
  so: SoFar,
  input: Timeless,
  toHome: number,
  byPlan: Set<ToldByPlan>,
): void {
  const end = [lastOf(month), so.last ?? so.today, so.today].sort()[0] as string;
  const on = dayText(end, input.days.payoutDelay);
  ledger.add(on, account.settled * toHome);
  ledger.add(end, 0, (account.vatOwed ?? 0) * toHome);
  const { sale } = input;
  const told = account.tellsDispatch ? sale.dispatch : 0;
  const own = ownCosts(sale, actual) - actual.shipped * told;
  if (own !== 0) byPlan.add('ownCosts');
  ledger.add(end, -own - account.told * toHome, account.tellsDispatch ? 0 : -actual.shipped * sale.ownVat);
  if (actual.shipped > 0 && actual.lines.adverts.from === 'asPlanned' && sale.adverts !== 0) {
    byPlan.add('adverts');
    ledger.add(end, -actual.shipped * sale.adverts, actual.shipped * sale.advertsVat);
  }
  if (!input.ships) return;
  const { goods, way, ready, goodsVat, wayVat, readyVat } = input.order;
  byPlan.add('goods');
  const { shipped } = actual;
  ledger.add(end, -shipped * (goods + way + ready), -shipped * (goodsVat + wayVat + readyVat));
}

/** Dispatch, storage and other costs of one's own, and what returned units took. */
function ownCosts(sale: SaleCash, { shipped, returned }: MonthSold['actual']): number {
  const eachBack = sale.returned > 0 ? sale.returns / sale.returned : 0;
  return shipped * (sale.dispatch + sale.storage + sale.other - sale.freeExtra) + returned * eachBack;
}

/** What goods took: as orders were paid, or where no order is known as planned up to today. */
function payOrders(
  doc: LaneDocument,
  ledger: Ledger,
  { start, run }: Planned,
  { ships, order }: Timeless,
  so: SoFar,
  byPlan: Set<ToldByPlan>,
): void {
  const { paid, open, unknown } = so.paid;
  const back = 1 - unitAt(doc, null).vatIsCost;
  const pay = (day: string, p: Paid): void => ledger.add(day, -p.home, -p.vat * back);
  for (const p of paid) pay(p.day ?? so.today, p);
  // What is due and not paid is still to go.
  for (const p of open) pay(p.day === null || p.day <= so.today ? dayAfter(so.today) : p.day, p);
  if (ships || paid.length + open.length + unknown > 0) return;
  byPlan.add('goods');
  const { flows } = run;
  const kinds = [
    [flows.goods, order.goods, order.goodsVat],
    [flows.way, order.way, order.wayVat],
    [flows.ready, order.ready, order.readyVat],
  ] as const;
  for (let t = 0; t < flows.goods.length && dayText(start, t) <= so.today; t++)
    for (const [flow, each, vat] of kinds) {
      const out = flow[t] as number;
      if (out !== 0) ledger.add(dayText(start, t), out, each > 0 ? (out * vat) / each : 0);
    }
}

/** What the launch and its months cost whatever is sold, as planned. */
function payFixed(
  ledger: Ledger,
  start: string,
  { oneOffs, fixedMonthly }: Timeless,
  today: string,
  byPlan: Set<ToldByPlan>,
): void {
  if (oneOffs + fixedMonthly === 0) return;
  byPlan.add('fixed');
  ledger.add(start, -oneOffs);
  for (let end = lastOf(start.slice(0, 7)); end <= today; end = lastOf(dayAfter(end).slice(0, 7)))
    ledger.add(end, -fixedMonthly);
}

/** The lane as it goes on from today; null: its stock or its pace is not known. */
function ahead(doc: LaneDocument, plan: CashPlan, { shelf, today }: SoFar): Run | null {
  if (shelf === null) return null;
  const { input } = goingOn(doc, plan, { ...shelf, day: today });
  const run = input === null ? null : runCash(input);
  return run === null || Number.isNaN(run.cumulated.at(-1)) ? null : run;
}

/** Money by days from the first: as it went, and with what goes on from today. */
type Series = { readonly went: Float64Array; readonly whole: Float64Array; readonly goesOn: boolean };

/** Month ends, up to the plan's end, today's month, or the month in which the money is back, whichever comes last. */
function monthsOf(
  first: string,
  now: number,
  planned: Planned,
  { went, whole, goesOn }: Series,
  payback: number | null,
): CashMonth[] {
  const plannedEnd = daysBetween(first, dayText(planned.start, planned.run.cumulated.length - 1));
  const until = Math.min(whole.length - 1, Math.max(plannedEnd, now, (goesOn ? payback : null) ?? 0));
  const months: CashMonth[] = [];
  for (let n = 0; ; n++) {
    const month = monthText(first, n);
    const from = daysBetween(first, `${month}-01`);
    if (from > until) return months;
    const at = Math.min(daysBetween(first, lastOf(month)), whole.length - 1);
    months.push({
      month,
      planned: planned.on(dayText(first, Math.min(at, Math.max(plannedEnd, from)))),
      actual: from <= now ? (went[Math.min(at, now)] as number) : null,
      ahead: goesOn && at >= now ? (whole[at] as number) : null,
    });
  }
}
