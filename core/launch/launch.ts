import { chargedKg, buyerPaysLeg, incotermOf } from '../lane/steps/wayIn.ts';
import { shipmentOf } from '../lane/steps/shipment.ts';
import { commonMultiple, orderStep } from '../goods/orders.ts';
import { seasonIndex } from '../lane/steps/demand.ts';
import { reckon } from '../lane/reckon.ts';
import { DAYS_A_MONTH } from '../rules/result.ts';
import { boundWithout } from '../lane/bounds.ts';
import type { Bound } from '../lane/bounds.ts';
import { blanksIn } from '../lane/blanks.ts';
import { FIGURE_BLANKS } from '../lane/figures.ts';
import { Reckoning } from '../lane/reckoning.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { breakEvenUnits, highestUnitPrice } from '../lane/solve.ts';
import { exchangeFactor } from '../money/money.ts';
import { within } from '../rules/numbers.ts';
import type { BudgetAt, LaunchPlan, LaunchResult } from './schema.ts';
import type { LaneResult } from '../lane/result.ts';

const orNull = (x: number): number | null => (Number.isFinite(x) ? x : null);

/** Which order quantities (sold units) a supplier takes: every multiple of `step` not under `first`. */
export type Admissible = { readonly step: number; readonly first: number };

/**
 * Admissible orders (economics, section 11): Q whole and, of every component, a whole number of cartons
 * (without a carton: of bought units), not under the minimum order or the first price break.
 */
export function admissibleOrders(doc: LaneDocument): Admissible {
  let step = 1;
  let least = 1;
  if (doc.goods !== null && doc.goods !== 'none')
    for (const c of doc.goods) {
      const lot = c.source.kind === 'quote' ? (c.source.carton?.units ?? 1) : 1;
      step = commonMultiple(step, orderStep(c.unitsInSoldPack, c.unitsInBoughtPack, lot));
      if (c.source.kind === 'quote') {
        const minimum = Math.max(c.source.minimumOrder, c.source.priceBreaks[0]?.minQty ?? 0);
        least = Math.max(least, (minimum * c.unitsInBoughtPack) / c.unitsInSoldPack);
      }
    }
  return { step, first: Math.max(1, Math.ceil(least / step - 1e-9)) * step };
}

/** Half, all and twice an order quantity, each as the supplier takes it, each once. */
export function quantitiesToCompare(orders: Admissible, quantity: number): number[] {
  const taken = (q: number): number => Math.max(orders.first, Math.round(q / orders.step) * orders.step);
  return [...new Set([taken(quantity / 2), taken(quantity), taken(quantity * 2)])];
}

/**
 * The lane's own order quantity, and the least admissible order that reaches each further price break;
 * rising, each once. None where no quantity is known.
 */
export function breakQuantities(doc: LaneDocument): number[] {
  const { orderQuantity } = doc;
  if (orderQuantity === null) return [];
  const { step, first } = admissibleOrders(doc);
  const reached = new Set([orderQuantity]);
  if (doc.goods !== null && doc.goods !== 'none')
    for (const c of doc.goods)
      if (c.source.kind === 'quote')
        for (const b of c.source.priceBreaks)
          reached.add(
            Math.max(
              first,
              orderQuantity,
              Math.ceil((b.minQty * c.unitsInBoughtPack) / c.unitsInSoldPack / step - 1e-9) * step,
            ),
          );
  return [...reached].sort((x, y) => x - y);
}

/** The lane at another order quantity. */
const at = (doc: LaneDocument, orderQuantity: number): LaneDocument => ({ ...doc, orderQuantity });

/**
 * Order quantities at which the cash for the order may fall although more is ordered: price breaks, and
 * weights at which a band of a leg changes its rate. Between them cash never falls as Q rises.
 */
function cashSteps(doc: LaneDocument, orders: Admissible, most: number): number[] {
  const steps = new Set<number>();
  const add = (q: number): void => {
    const m = Math.ceil(q / orders.step - 1e-9) * orders.step;
    if (m > orders.first && m <= most) steps.add(m);
  };
  if (doc.goods !== null && doc.goods !== 'none')
    for (const c of doc.goods)
      if (c.source.kind === 'quote')
        for (const b of c.source.priceBreaks) add((b.minQty * c.unitsInBoughtPack) / c.unitsInSoldPack);
  const route = doc.route;
  if (route !== null && route !== 'none' && doc.method !== 'supplierShips') {
    const s = { cartons: 0, kg: 0, m3: 0 };
    const rule = incotermOf(doc);
    for (const leg of route.legs) {
      if (leg.basis !== 'perKg' || !buyerPaysLeg(leg, rule)) continue;
      for (const band of leg.bands) {
        // The first admissible order past the band: chargeable weight never falls as Q rises.
        let lo = Math.floor(orders.first / orders.step);
        let hi = Math.floor(most / orders.step);
        while (lo < hi) {
          const mid = Math.floor((lo + hi) / 2);
          if (!within(chargedKg(leg, shipmentOf(doc, route, mid * orders.step, s)), band.upToKg)) hi = mid;
          else lo = mid + 1;
        }
        add(lo * orders.step);
      }
    }
  }
  return [...steps].sort((a, b) => a - b);
}

/**
 * One-offs of the quotes (tooling, samples), restated in `currency` (the sales currency unless given); NaN
 * without a rate.
 */
export function quotedOneOffs(
  doc: LaneDocument,
  currency = doc.currency,
): { name: string; amount: number }[] {
  if (doc.goods === null || doc.goods === 'none') return [];
  return doc.goods.flatMap(({ source }) =>
    source.kind === 'quote'
      ? source.oneOffs.map((o) => ({
          name: o.name,
          amount:
            o.amount === null ? 0 : o.amount * exchangeFactor(doc.rates.exchange, source.currency, currency),
        }))
      : [],
  );
}

/**
 * What a launch takes beside the goods, home currency: one-offs, adverts, discounts; NaN where unknown. `r`
 * is the reckoned lane.
 */
function besideGoods(
  doc: LaneDocument,
  plan: LaunchPlan,
  r: Reckoning,
): {
  toHome: number;
  quoted: { name: string; amount: number }[];
  oneOffs: number;
  advertising: number;
  discounts: number;
} {
  const toHome = exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);
  const quoted = quotedOneOffs(doc, doc.homeCurrency);
  let advertising = 0;
  if (plan.advertising?.kind === 'daily')
    advertising = (plan.advertising.perDay ?? 0) * (plan.advertising.days ?? 0);
  else if (plan.advertising?.kind === 'units') {
    const card = doc.rates.marketplace;
    const v = card?.advertVat.treatment === 'charged' ? 1 + card.advertVat.rate : r.advertVatFactor;
    const { units } = plan.advertising;
    if (units !== null && units > 0)
      advertising = r.conversionRate >= 1e-9 ? ((units * r.cpc * v) / r.conversionRate) * toHome : Number.NaN;
  }
  return {
    toHome,
    quoted,
    oneOffs: [...plan.oneOffs, ...quoted].reduce((sum, o) => sum + (o.amount ?? 0), 0),
    advertising,
    discounts: plan.discounts.units * plan.discounts.discount,
  };
}

/** Whether what launch adverts take is not said, or not wholly. */
function advertsAreOpen({ advertising: a }: LaunchPlan): boolean {
  return a === null || (a.kind === 'daily' ? a.perDay === null || a.days === null : a.units === null);
}

const cashReckoning = new Reckoning();

/**
 * What the launch of a lane takes at its own order quantity, home currency (economics, section 11); null
 * where unknown.
 */
export function launchCash(doc: LaneDocument, plan: LaunchPlan): number | null {
  const r = reckon(doc, cashReckoning);
  const { toHome, oneOffs, advertising, discounts } = besideGoods(doc, plan, r);
  const before = oneOffs + r.quantity * (r.landedCash * toHome) + advertising + discounts;
  return orNull(before + plan.contingency * before);
}

/**
 * Launch budget, affordability and goal of a lane (economics, section 11), in the home currency. Cash terms:
 * VAT paid is in. Unknown figures are null, with a reason; blanks the sums had to leave out are named in
 * `incomplete`.
 *
 * Decisions: the quote's one-offs (tooling, samples) are among the one-offs; launch adverts by units count
 * the advert VAT that is charged or is a cost; break-even month counts calendar months from a first full
 * month of sales.
 */
export function launch(doc: LaneDocument, plan: LaunchPlan): LaunchResult {
  const home = doc.homeCurrency;
  const r = reckon(doc, new Reckoning());
  const units = r.units;
  const incomplete: string[] = [
    ...blanksIn(
      r.blanks &
        (FIGURE_BLANKS.landedCash | (plan.advertising?.kind === 'units' ? FIGURE_BLANKS.adCostPerAdSale : 0)),
    ),
  ];
  const reasons: Record<string, string> = {};

  const { toHome, quoted, oneOffs, advertising, discounts } = besideGoods(doc, plan, r);
  const named: LaunchResult['oneOffs'] = [
    ...plan.oneOffs.map((o) => ({ ...o, source: 'plan' as const })),
    ...quoted.map((o) => ({ ...o, amount: orNull(o.amount), source: 'quote' as const })),
  ];
  // What was opened and not filled in yet is not counted, and named.
  if (advertsAreOpen(plan)) incomplete.push('advertising');
  const quotedOpen =
    Array.isArray(doc.goods) &&
    doc.goods.some((c) => c.source.kind === 'quote' && c.source.oneOffs.some((o) => o.amount === null));
  if (quotedOpen || plan.oneOffs.some((o) => o.amount === null)) incomplete.push('oneOffs');

  const scratch = new Reckoning();
  scratch.tried.holdUnits(units);
  const orders = admissibleOrders(doc);
  /** Cash for an order of Q units, home currency. */
  const orderCash = (q: number): number => reckon(at(doc, q), scratch).landedCash * q * toHome;

  const budget = (quantity: number): BudgetAt => {
    reckon(at(doc, quantity), scratch);
    const unitLandedCash = scratch.landedCash * toHome;
    const goods = quantity * unitLandedCash;
    const before = oneOffs + goods + advertising + discounts;
    const contingency = plan.contingency * before;
    const total = before + contingency;
    return {
      quantity,
      admissible:
        quantity >= orders.first - 1e-9 &&
        Math.abs(quantity / orders.step - Math.round(quantity / orders.step)) < 1e-9,
      unitLandedCash: orNull(unitLandedCash),
      lines: {
        oneOffs: orNull(oneOffs),
        goods: orNull(goods),
        advertising: advertsAreOpen(plan) ? null : orNull(advertising),
        discounts,
        contingency: orNull(contingency),
      },
      total: orNull(total),
      leftOfCash: plan.cash === null ? null : orNull(plan.cash - plan.reserve - total),
      unitProfit: orNull(scratch.unitProfit * toHome),
      coverMonths: orNull(scratch.cover),
    };
  };

  const Q = Number.isNaN(r.quantity) ? null : r.quantity;
  const own = Q === null ? null : budget(Q);
  if (own === null) reasons.budget = 'blank: orderQuantity';
  else if (own.total === null)
    reasons.budget = incomplete.includes('goods')
      ? 'blank: goods'
      : `problem: ${r.problems.map((p) => p.code).join(', ') || 'unknown'}`;

  // affordability
  const productBudget =
    plan.cash === null
      ? Number.NaN
      : (plan.cash - plan.reserve) / (1 + plan.contingency) - oneOffs - advertising - discounts;
  if (plan.cash === null) reasons.productBudget = 'blank: cash';
  let mostUnits: number | null = null;
  let shortfall: number | null = null;
  const smallestCash = orderCash(orders.first);
  // A smaller order may be unknown (a price break still to be quoted) while a larger one is known to fit.
  const most = Number.isNaN(productBudget) ? 0 : mostAffordable(doc, orders, productBudget, orderCash);
  if (most > 0 || !(Number.isNaN(productBudget) || Number.isNaN(smallestCash))) {
    mostUnits = most;
    shortfall = most > 0 ? 0 : smallestCash - productBudget;
  } else reasons.mostUnits = plan.cash === null ? 'blank: cash' : 'unknown: landed cash';

  const mostPerUnit = Q === null ? Number.NaN : productBudget / Q;
  let mostUnitPrice: number | null = null;
  let mostUnitPriceCurrency = doc.currency;
  if (!Number.isNaN(mostPerUnit) && mostPerUnit > 0) {
    const found = highestUnitPrice(doc, 0, (x) => mostPerUnit / toHome - x.landedCash);
    mostUnitPrice = found.unitPrice;
    mostUnitPriceCurrency = found.currency;
    if (found.reason !== null) reasons.mostUnitPrice = found.reason;
  }
  const share = r.goods / r.landedCash;
  const goodsShare = Number.isFinite(share) && share > 0 ? share : (plan.goodsShareOfLanded ?? Number.NaN);
  const band =
    mostPerUnit > 0 && Number.isFinite(goodsShare)
      ? {
          low: plan.priceMultiples.low * mostPerUnit * goodsShare,
          high: plan.priceMultiples.high * mostPerUnit * goodsShare,
        }
      : null;

  // goal
  const unitProfit = r.unitProfit * toHome;
  const goal =
    plan.monthlyProfitGoal ?? (plan.dailyProfitGoal === null ? null : plan.dailyProfitGoal * DAYS_A_MONTH);
  const unitsADay =
    goal === null
      ? Number.NaN
      : unitProfit > 1e-12
        ? (goal + plan.monthlyFixedCosts) / unitProfit / DAYS_A_MONTH
        : Number.NaN;
  if (goal !== null && Number.isNaN(unitsADay)) reasons.unitsADay = 'not above zero: unitProfit';
  const perMonth = units * (unitProfit + r.landedCash * toHome) - doc.monthlyFixedCosts * toHome;
  let monthsToPayBack = own?.total != null && perMonth > 1e-12 ? own.total / perMonth : Number.NaN;
  if (Number.isNaN(monthsToPayBack))
    reasons.monthsToPayBack =
      perMonth <= 1e-12 ? 'not above zero: what a month brings in' : 'blank: demand or budget';
  else if (!within(monthsToPayBack, r.cover)) {
    monthsToPayBack = Number.NaN;
    reasons.monthsToPayBack = 'beyond the cover: this order alone does not bring the launch money back';
  }
  const back = breakEvenUnits(oneOffs, orNull(unitProfit));

  return {
    format: 'bold-margin/launch-result',
    version: 1,
    currency: home,
    date: doc.date,
    oneOffs: named,
    budget: own,
    compared: plan.quantities.map(budget),
    productBudget: orNull(productBudget),
    smallestOrder: orders.first,
    mostUnits,
    shortfall,
    mostPerUnit: orNull(mostPerUnit),
    mostUnitPrice,
    mostUnitPriceCurrency,
    shelfPriceBand: band,
    breakEvenUnits: back,
    breakEvenMonth: back === null ? null : monthOf(back, units, doc.season),
    unitsADay: orNull(unitsADay),
    monthsToPayBack: orNull(monthsToPayBack),
    incomplete,
    bounds: launchBounds(incomplete, blanksIn(r.blanks & FIGURE_BLANKS.unitProfit)),
    reasons,
  };
}

/**
 * What a line of the budget lacks: the goods cost lines of their way in, the contingency whatever any line of
 * the launch lacks.
 */
export function lacksOfLine(line: string, unit: LaneResult, launched: LaunchResult): readonly string[] {
  if (line === 'goods') return unit.incomplete.landedCash ?? [];
  return line === 'contingency' && (launched.budget?.lines.contingency ?? 0) > 0 ? launched.incomplete : [];
}

/**
 * Launch figures that missing launch costs lower, those that they raise, and those that missing costs of a
 * unit raise.
 */
const LOWERED = ['mostUnits', 'mostUnitPrice', 'shelfPriceBand'];
/** The same, where the goods do not count. */
const LOWERED_BESIDE_GOODS = ['productBudget', 'mostPerUnit'];
const RAISED = ['total', 'shortfall'];
const RAISED_BY_UNIT = ['unitsADay', 'breakEvenUnits', 'monthsToPayBack'];

/** What each figure of a launch is a bound of, given the blanks of the launch and those of the unit profit. */
function launchBounds(ofLaunch: readonly string[], ofUnit: readonly string[]): Record<string, Bound> {
  const bounds: Record<string, Bound> = {};
  const put = (names: readonly string[], bound: Bound | null): void => {
    if (bound !== null) for (const name of names) bounds[name] = bound;
  };
  put(LOWERED, boundWithout(ofLaunch, 'atMost'));
  put(
    LOWERED_BESIDE_GOODS,
    boundWithout(
      ofLaunch.filter((b) => b === 'advertising' || b === 'adverts' || b === 'oneOffs'),
      'atMost',
    ),
  );
  put(RAISED, boundWithout(ofLaunch, 'atLeast'));
  put(RAISED_BY_UNIT, boundWithout([...ofUnit, ...ofLaunch], 'atLeast'));
  return bounds;
}

/**
 * Largest admissible order whose cash is not above the budget; 0 where none is. More can cost less at a price
 * break.
 */
function mostAffordable(
  doc: LaneDocument,
  orders: Admissible,
  budget: number,
  orderCash: (q: number) => number,
): number {
  const most = Math.floor(1e9 / orders.step) * orders.step;
  const starts = [orders.first, ...cashSteps(doc, orders, most)];
  const fits = (q: number): boolean => orderCash(q) <= budget + 1e-9;
  for (let i = starts.length - 1; i >= 0; i--) {
    const first = (starts[i] as number) / orders.step;
    if (!fits(first * orders.step)) continue;
    const end = i === starts.length - 1 ? most / orders.step : (starts[i + 1] as number) / orders.step - 1;
    let lo = first;
    let hi = end;
    while (lo < hi) {
      const mid = Math.ceil((lo + hi) / 2);
      if (fits(mid * orders.step)) lo = mid;
      else hi = mid - 1;
    }
    return lo * orders.step;
  }
  return 0;
}

/** The month (1 = the first) in which cumulated sales reach `count`; null where they never do within 50 years. */
export function monthOf(
  count: number,
  unitsAMonth: number,
  season: readonly number[] | null,
  firstMonth = 1,
): number | null {
  if (!(unitsAMonth > 1e-9)) return null;
  const index = season === null ? null : seasonIndex(season);
  let sold = 0;
  for (let n = 0; n < 600; n++) {
    sold += unitsAMonth * (index === null ? 1 : (index[(firstMonth - 1 + n) % 12] as number));
    if (sold >= count - 1e-9) return n + 1;
  }
  return null;
}
