/**
 * A launch day by day until its horizon (planning, section 1): stock, sales, orders, and every flow of cash on its
 * day. Pure, over plain numbers in the home currency; what is known after the horizon is still to come.
 */
import type { Calendar } from './calendar.ts';
import type { OrderCash, SaleCash } from './perUnit.ts';
import type { CashPlan } from './schema.ts';
import type { Days } from './terms.ts';
import { DAYS_A_MONTH } from '../rules/result.ts';

/** Kinds of flows: the columns of the month table. What comes in is above 0. */
export const FLOWS = ['payouts', 'goods', 'way', 'ready', 'adverts', 'vat', 'fixed', 'other'] as const;
export type Flow = (typeof FLOWS)[number];
/** What is known at the horizon and not yet settled. */
export const TO_COME = ['payouts', 'reserves', 'vat', 'goods', 'way', 'ready', 'cashback'] as const;
export type ToCome = (typeof TO_COME)[number];

export type RunInput = {
  readonly horizon: number;
  readonly calendar: Calendar;
  readonly days: Days;
  readonly ships: boolean;
  readonly sale: SaleCash;
  /** Of the first order. */
  readonly order: OrderCash;
  readonly quantity: number;
  /** Cash of a unit of an order of another size. */
  readonly orderOf: (quantity: number) => OrderCash;
  /** The least order that the supplier takes and that brings so many saleable units. */
  readonly atLeast: (saleable: number) => number;
  readonly breakage: number;
  /** Units a month, and the season as an index with mean 1 by calendar month. */
  readonly units: number;
  readonly season: readonly number[] | null;
  readonly plan: CashPlan;
  readonly oneOffs: number;
  /** Launch adverts a day from the first day on sale, VAT included, and what they add to the VAT account. */
  readonly launch: { readonly perDay: number; readonly vat: number; readonly days: number };
  readonly discounts: { readonly units: number; readonly discount: number };
  readonly fixedMonthly: number;
  readonly cash: number;
  readonly reserve: number;
  /** A lane that is on sale already, by what is on the shelf and comes in when. Nothing is ordered at first. */
  readonly running?: {
    readonly stock: number;
    readonly onTheWay: readonly { readonly day: number; readonly units: number }[];
  };
};

export type PlacedOrder = { readonly day: number; readonly quantity: number; readonly landedCost: number };
export type Run = {
  /** First day on sale. */
  readonly onSale: number;
  readonly flows: Readonly<Record<Flow, Float64Array>>;
  readonly toCome: Readonly<Record<ToCome, number>>;
  /** Cumulated flow at the end of a day. */
  readonly cumulated: Float64Array;
  readonly stock: Float64Array;
  readonly sold: Float64Array;
  readonly lost: Float64Array;
  readonly onOrder: Float64Array;
  readonly returning: Float64Array;
  readonly orders: readonly PlacedOrder[];
  /** Spent by the horizon, for the identity: launch adverts at cost, discounts. */
  readonly adverts: number;
  readonly discounts: number;
  readonly fixed: number;
  readonly oneOffs: number;
};

/** Days after the horizon that demand is known for, as a reorder looks ahead. */
const lookAhead = ({ days, plan }: Pick<RunInput, 'days' | 'plan'>): number =>
  days.lead +
  days.transit +
  days.inbound +
  plan.safetyDays +
  (plan.reorder.kind === 'cover' ? plan.reorder.days : 0) +
  1;

/** Days from an order to the shelf. */
const daysToShelf = ({ lead, transit, inbound }: Days): number => lead + transit + inbound;

/** The first day on sale. */
export const onSaleOf = ({ ships, days, running }: Pick<RunInput, 'ships' | 'days' | 'running'>): number =>
  ships || running !== undefined ? 0 : daysToShelf(days);

/** All that is wanted up to each day, that day included: units a day by ramp and season. */
export function demandUpTo(input: RunInput, last: number): Float64Array {
  const { units, plan, season, calendar } = input;
  const all = new Float64Array(last + 1);
  const from = onSaleOf(input);
  const monthDays = DAYS_A_MONTH;
  const perDay = units / monthDays;
  const steps = plan.ramp.length - 1;
  let sum = 0;
  for (let t = from; t <= last; t++) {
    const month = Math.floor((t - from) / monthDays);
    const ramp = plan.ramp[month < steps ? month : steps] as number;
    sum += season === null ? perDay * ramp : perDay * ramp * (season[calendar.month[t] as number] as number);
    all[t] = sum;
  }
  return all;
}

export function runCash(input: RunInput): Run {
  return new Account(input).run();
}
/** Days of calendar that a run needs. */
export const calendarDays = (horizon: number, days: Days, plan: CashPlan): number =>
  horizon + 1 + lookAhead({ days, plan });

/** Series of so many days out of one block of memory: each block by itself would take longer than its sums. */
class Pages {
  private at = 0;
  private readonly block: Float64Array;
  constructor(
    private readonly days: number,
    count: number,
  ) {
    this.block = new Float64Array(days * count);
  }
  next(): Float64Array {
    this.at += this.days;
    return this.block.subarray(this.at - this.days, this.at);
  }
}
/** Eight flows and their sum, what arrives, six series of what there is. */
const SERIES = FLOWS.length + 8;

/** The books of a run while its days pass. */
class Account {
  private readonly pages: Pages;
  private readonly flows: Record<Flow, Float64Array>;
  private readonly toCome: Record<ToCome, number>;
  /** What is owed for each VAT period and not yet settled, by the day on which it ends. */
  private readonly vat: Float64Array;
  /** All flows of a day. */
  private readonly total: Float64Array;
  private readonly orders: PlacedOrder[] = [];
  private readonly arrivals: Float64Array;
  /** Demand of all days up to one, that day included. */
  private readonly demand: Float64Array;
  private readonly onSale: number;
  private readonly saleable: number;
  /** Days on which an order may be placed again: from, up to. */
  private readonly reorders: { readonly from: number; readonly to: number };
  /** Spent so far: launch adverts at cost, discounts, and on how many units. */
  private readonly spent = { adverts: 0, discounts: 0, discounted: 0 };

  constructor(private readonly in_: RunInput) {
    const { horizon: H } = in_;
    this.pages = new Pages(H + 1, SERIES);
    this.flows = {
      payouts: this.pages.next(),
      goods: this.pages.next(),
      way: this.pages.next(),
      ready: this.pages.next(),
      adverts: this.pages.next(),
      vat: this.pages.next(),
      fixed: this.pages.next(),
      other: this.pages.next(),
    };
    this.toCome = { payouts: 0, reserves: 0, vat: 0, goods: 0, way: 0, ready: 0, cashback: 0 };
    this.vat = new Float64Array(1 + (in_.calendar.periodEnd.at(-1) as number));
    this.onSale = onSaleOf(in_);
    this.saleable = 1 - in_.breakage;
    this.arrivals = this.pages.next();
    this.total = this.pages.next();
    this.demand = demandUpTo(in_, H + lookAhead(in_));
    const { reorder } = in_.plan;
    this.reorders =
      reorder.kind === 'none'
        ? { from: H + 1, to: H }
        : { from: reorder.notBefore ?? this.onSale, to: H - daysToShelf(in_.days) };
    for (const { day, units } of in_.running?.onTheWay ?? [])
      if (day <= H) this.arrivals[day] = (this.arrivals[day] as number) + units;
  }

  private demandOf(from: number, to: number): number {
    return this.wantedUpTo(to) - this.wantedUpTo(from - 1);
  }
  private wantedUpTo(t: number): number {
    return t < this.onSale ? 0 : (this.demand[t] as number);
  }

  /** A flow on a day of the run. */
  private flow(flows: Float64Array, day: number, amount: number): void {
    if (amount === 0) return;
    flows[day] = (flows[day] as number) + amount;
    this.total[day] = (this.total[day] as number) + amount;
  }
  /** A flow that falls due on a day; after the horizon it is still to come. */
  private due(flows: Float64Array, later: ToCome, day: number, amount: number): void {
    if (day < this.total.length) this.flow(flows, day, amount);
    else this.toCome[later] += amount;
  }
  /** VAT that a day adds to what is owed (below 0: to what is reclaimed); after the horizon it is still to come. */
  private owe(day: number, amount: number): void {
    if (amount === 0) return;
    const { periodEnd } = this.in_.calendar;
    if (day < periodEnd.length) {
      const end = periodEnd[day] as number;
      this.vat[end] = (this.vat[end] as number) + amount;
    } else this.toCome.vat -= amount;
  }

  private place(day: number, quantity: number, cash: OrderCash, first: boolean): void {
    const { days, plan } = this.in_;
    const { lead, transit, inbound, credit, deposit } = days;
    const ready = day + lead + transit + inbound;
    const pays = (kind: 'goods' | 'way' | 'ready', on: number, amount: number, vat: number): void => {
      this.due(this.flows[kind], kind, on, -quantity * amount);
      this.owe(on, -quantity * vat);
    };
    pays('goods', day, deposit * cash.goods, deposit * cash.goodsVat);
    const rest = 1 - deposit;
    pays('goods', day + lead + credit, rest * cash.goods, rest * cash.goodsVat);
    pays('way', day + lead + transit, cash.way, cash.wayVat);
    pays('ready', ready, cash.ready, cash.readyVat);
    if (cash.cashback !== 0)
      this.due(this.flows.goods, 'cashback', day + plan.cashbackAfter, quantity * cash.cashback);
    // A reorder that takes no time is on the shelf the next day.
    const shelf = ready === day && !first ? day + 1 : ready;
    if (shelf < this.arrivals.length)
      this.arrivals[shelf] = (this.arrivals[shelf] as number) + quantity * this.saleable;
    this.orders.push({ day, quantity, landedCost: cash.landedCost });
  }

  run(): Run {
    const { horizon: H, ships, quantity, order, plan, fixedMonthly, calendar } = this.in_;
    const launchDays = this.in_.launch.days;
    const series = {
      cumulated: this.pages.next(),
      stock: this.pages.next(),
      sold: this.pages.next(),
      lost: this.pages.next(),
      onOrder: this.pages.next(),
      returning: this.pages.next(),
    };
    this.flow(this.flows.fixed, 0, -this.in_.oneOffs);
    const { running } = this.in_;
    if (!ships && running === undefined) this.place(0, quantity, order, true);
    let stock = running?.stock ?? 0;
    let onOrder =
      running?.onTheWay.reduce((s, a) => s + a.units, 0) ?? (ships ? 0 : quantity * this.saleable);
    let returning = 0;
    let fixed = 0;
    const { from, to } = this.reorders;
    const pays = new Payouts(this.in_, this.onSale, (day, amount, kind) =>
      this.due(this.flows.payouts, kind, day, amount),
    );
    const share = this.in_.sale.returned * this.in_.sale.resold;
    for (let t = 0; t <= H; t++) {
      const arrived = this.arrivals[t] as number;
      const back = t >= plan.returnedAfter ? share * (series.sold[t - plan.returnedAfter] as number) : 0;
      stock += arrived + back;
      onOrder -= arrived;
      returning -= back;
      const wanted = this.demandOf(t, t);
      const sold = ships ? wanted : Math.min(wanted, stock);
      series.sold[t] = sold;
      series.lost[t] = wanted - sold;
      if (!ships) {
        stock -= sold;
        returning += share * sold;
        if (t >= from && t <= to) onOrder += this.reorder(t, stock, onOrder, series.cumulated);
      }
      if (sold !== 0) this.sell(t, sold);
      if (t >= this.onSale && t < this.onSale + launchDays) this.advertise(t);
      pays.day(t, sold);
      if (calendar.monthEnd[t] === t) {
        this.flow(this.flows.fixed, t, -fixedMonthly);
        fixed += fixedMonthly;
      }
      this.settle(t);
      series.cumulated[t] = (t === 0 ? 0 : (series.cumulated[t - 1] as number)) + (this.total[t] as number);
      series.stock[t] = stock;
      series.onOrder[t] = onOrder;
      series.returning[t] = returning;
    }
    pays.close();
    for (const amount of this.vat) if (amount !== 0) this.toCome.vat -= amount;
    return {
      onSale: this.onSale,
      flows: this.flows,
      toCome: this.toCome,
      ...series,
      orders: this.orders,
      adverts: this.spent.adverts,
      discounts: this.spent.discounts,
      fixed,
      oneOffs: this.in_.oneOffs,
    };
  }

  /** VAT periods that are paid, or come in, on a day. */
  private settle(t: number): void {
    const { settledAfter, reclaimedAfter } = this.in_.plan.vat;
    const paid = t - settledAfter;
    const back = t - reclaimedAfter;
    if (paid >= 0 && (this.vat[paid] as number) > 0) this.close(paid, t);
    if (back >= 0 && (this.vat[back] as number) < 0) this.close(back, t);
  }
  private close(end: number, t: number): void {
    this.flow(this.flows.vat, t, -(this.vat[end] as number));
    this.vat[end] = 0;
  }

  /** Launch adverts of a day, the last of them maybe a part of one. */
  private advertise(t: number): void {
    const { launch } = this.in_;
    const onDay = Math.min(1, launch.days - (t - this.onSale));
    this.flow(this.flows.adverts, t, -launch.perDay * onDay);
    this.owe(t, launch.vat * onDay);
    this.spent.adverts += (launch.perDay + launch.vat) * onDay;
  }

  /** What a day's sales take and bring at once; payouts come by their periods. */
  private sell(t: number, sold: number): void {
    const { sale, discounts, ships, order, days, plan } = this.in_;
    const lines = sale.dispatch + sale.storage + sale.returns + sale.other - sale.freeExtra;
    this.flow(this.flows.other, t, -sold * lines);
    this.flow(this.flows.adverts, t, -sold * sale.adverts);
    this.owe(t, sold * sale.vat);
    const cheaper = Math.min(sold, discounts.units - this.spent.discounted);
    if (cheaper > 0) {
      this.spent.discounted += cheaper;
      this.spent.discounts += cheaper * discounts.discount;
      this.flow(this.flows.other, t, -cheaper * discounts.discount);
    }
    if (!ships) return;
    // A supplier who ships is paid for what is sold.
    const vat = order.goodsVat + order.wayVat + order.readyVat;
    const due = t + days.credit;
    this.due(this.flows.goods, 'goods', due, -sold * order.goods);
    this.due(this.flows.way, 'way', due, -sold * order.way);
    this.due(this.flows.ready, 'ready', due, -sold * order.ready);
    this.owe(due, -sold * vat);
    if (order.cashback !== 0)
      this.due(this.flows.goods, 'cashback', t + plan.cashbackAfter, sold * order.cashback);
  }

  /** Places a reorder where stock and orders no longer reach; answers the saleable units that are on order for it. */
  private reorder(t: number, stock: number, onOrder: number, cumulated: Float64Array): number {
    const { plan, quantity, order, orderOf, atLeast, days, cash, reserve } = this.in_;
    const { reorder, safetyDays } = plan;
    const L = daysToShelf(days);
    const position = stock + onOrder;
    const need = this.demandOf(t + 1, t + L + safetyDays);
    if (position >= need - 1e-9) return 0;
    let n = quantity;
    if (reorder.kind === 'cover') {
      const from = t + L + safetyDays + 1;
      n = atLeast(need - position + this.demandOf(from, from + reorder.days - 1));
    }
    const own = n === quantity ? order : orderOf(n);
    if (plan.selfFunding) {
      const closing = cash + (t === 0 ? 0 : (cumulated[t - 1] as number));
      if (closing - this.paysAtOnce(n, own, days) < reserve - 1e-9) return 0;
    }
    this.place(t, n, own, false);
    return n * this.saleable;
  }

  /** What an order pays on the day it is placed. */
  private paysAtOnce(n: number, own: OrderCash, d: Days): number {
    let now = d.deposit * own.goods;
    if (d.lead + d.credit === 0) now += (1 - d.deposit) * own.goods;
    if (d.lead + d.transit === 0) now += own.way;
    if (daysToShelf(d) === 0) now += own.ready;
    return n * now;
  }
}

/** Payouts by periods of days from the first day on sale; a share of a positive one waits for the next pay day. */
class Payouts {
  private sum = 0;
  private held = 0;
  private end: number;

  constructor(
    private readonly in_: RunInput,
    onSale: number,
    private readonly pay: (day: number, amount: number, kind: 'payouts' | 'reserves') => void,
  ) {
    this.end = onSale + in_.days.payoutEvery - 1;
  }

  day(t: number, sold: number): void {
    this.sum += sold * this.in_.sale.payout;
    if (t !== this.end) return;
    this.close();
    this.end += this.in_.days.payoutEvery;
  }

  /** The period that runs is paid after it ends, with what was held back of the one before. */
  close(): void {
    const { payoutDelay, payoutEvery } = this.in_.days;
    const { reserveShare } = this.in_.plan;
    const day = this.end + payoutDelay;
    if (this.held !== 0) this.pay(day, this.held, 'reserves');
    const waits = this.sum > 0 ? reserveShare * this.sum : 0;
    this.pay(day, this.sum - waits, 'payouts');
    this.held = waits;
    this.sum = 0;
    // Nothing is sold after the horizon: what waits comes with the next pay day.
    if (this.end > this.in_.horizon && waits !== 0) this.pay(day + payoutEvery, waits, 'reserves');
  }
}
