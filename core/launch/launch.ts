import { chargedKg, buyerPaysLeg, incotermOf } from '../lane/steps/wayIn.ts';
import { shipmentOf } from '../lane/steps/shipment.ts';
import { seasonIndex } from '../lane/steps/demand.ts';
import { reckon } from '../lane/reckon.ts';
import { DAYS_A_MONTH } from '../rules/result.ts';
import { blanksIn } from '../lane/blanks.ts';
import { FIGURE_BLANKS } from '../lane/figures.ts';
import { Reckoning } from '../lane/reckoning.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { breakEvenUnits, highestUnitPrice } from '../lane/solve.ts';
import { exchangeFactor } from '../money/money.ts';
import { within } from '../rules/numbers.ts';
import type { BudgetAt, LaunchPlan, LaunchResult } from './schema.ts';
import { admissibleOrders } from './orders.ts';
import type { Admissible } from './orders.ts';
import { launchBounds } from './bounds.ts';

const orNull = (x: number): number | null => (Number.isFinite(x) ? x : null);

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
  const asked = askedOf(doc, plan);
  const { r, units, beside, incomplete, orders } = asked;
  const own = Number.isNaN(r.quantity) ? null : budgetAt(asked, r.quantity);
  const reasons: Record<string, string> = {};
  if (own === null) reasons.budget = 'blank: orderQuantity';
  else if (own.total === null)
    reasons.budget = incomplete.includes('goods')
      ? 'blank: goods'
      : `problem: ${r.problems.map((p) => p.code).join(', ') || 'unknown'}`;
  const back = breakEvenUnits(beside.oneOffs, orNull(r.unitProfit * beside.toHome));
  return {
    format: 'bold-margin/launch-result',
    version: 1,
    currency: doc.homeCurrency,
    date: doc.date,
    oneOffs: [
      ...plan.oneOffs.map((o) => ({ ...o, source: 'plan' as const })),
      ...beside.quoted.map((o) => ({ ...o, amount: orNull(o.amount), source: 'quote' as const })),
    ],
    budget: own,
    compared: plan.quantities.map((q) => budgetAt(asked, q)),
    smallestOrder: orders.first,
    ...affordable(asked, reasons),
    breakEvenUnits: back,
    breakEvenMonth: back === null ? null : monthOf(back, units, doc.season),
    unitsADay: goalADay(asked, reasons),
    monthsToPayBack: paidBackAfter(asked, own?.total ?? null, reasons),
    incomplete,
    bounds: launchBounds(incomplete, blanksIn(r.blanks & FIGURE_BLANKS.unitProfit)),
    reasons,
  };
}

/** A launch as it is asked about: the lane reckoned, and what the launch takes beside the goods. */
type Asked = {
  readonly doc: LaneDocument;
  readonly plan: LaunchPlan;
  readonly r: Reckoning;
  /** Units a month, kept whatever quantity is tried. */
  readonly units: number;
  readonly beside: ReturnType<typeof besideGoods>;
  /** Blanks that the sums had to leave out. */
  readonly incomplete: string[];
  readonly orders: Admissible;
  /** For other quantities than the lane's own. */
  readonly scratch: Reckoning;
};

function askedOf(doc: LaneDocument, plan: LaunchPlan): Asked {
  const r = reckon(doc, new Reckoning());
  const scratch = new Reckoning();
  scratch.tried.holdUnits(r.units);
  return {
    doc,
    plan,
    r,
    units: r.units,
    beside: besideGoods(doc, plan, r),
    incomplete: leftOut(doc, plan, r),
    orders: admissibleOrders(doc),
    scratch,
  };
}

/** What the sums had to leave out: blanks of the goods' way in, and what was opened in the plan and not filled in. */
function leftOut(doc: LaneDocument, plan: LaunchPlan, r: Reckoning): string[] {
  const byUnits = plan.advertising?.kind === 'units' ? FIGURE_BLANKS.adCostPerAdSale : 0;
  const out: string[] = [...blanksIn(r.blanks & (FIGURE_BLANKS.landedCash | byUnits))];
  if (advertsAreOpen(plan)) out.push('advertising');
  const quotedOpen =
    Array.isArray(doc.goods) &&
    doc.goods.some((c) => c.source.kind === 'quote' && c.source.oneOffs.some((o) => o.amount === null));
  if (quotedOpen || plan.oneOffs.some((o) => o.amount === null)) out.push('oneOffs');
  return out;
}

/** The budget of a launch at an order quantity. */
function budgetAt({ doc, plan, beside, orders, scratch }: Asked, quantity: number): BudgetAt {
  reckon(at(doc, quantity), scratch);
  const { oneOffs, advertising, discounts, toHome } = beside;
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
}

type Affordable = Pick<
  LaunchResult,
  | 'productBudget'
  | 'mostUnits'
  | 'shortfall'
  | 'mostPerUnit'
  | 'mostPerUnitSmallest'
  | 'mostUnitPrice'
  | 'mostUnitPriceCurrency'
  | 'shelfPriceBand'
>;

/** What the cash allows: the budget for goods, the units it buys, the most a unit may cost, prices to look in. */
function affordable(asked: Asked, reasons: Record<string, string>): Affordable {
  const { plan, r, beside, doc } = asked;
  const productBudget =
    plan.cash === null
      ? Number.NaN
      : (plan.cash - plan.reserve) / (1 + plan.contingency) -
        beside.oneOffs -
        beside.advertising -
        beside.discounts;
  if (plan.cash === null) reasons.productBudget = 'blank: cash';
  const mostPerUnit = Number.isNaN(r.quantity) ? Number.NaN : productBudget / r.quantity;
  let unitPrice: number | null = null;
  let currency = doc.currency;
  if (mostPerUnit > 0) {
    const found = highestUnitPrice(doc, 0, (x) => mostPerUnit / beside.toHome - x.landedCash);
    unitPrice = found.unitPrice;
    currency = found.currency;
    if (found.reason !== null) reasons.mostUnitPrice = found.reason;
  }
  return {
    productBudget: orNull(productBudget),
    ...unitsFor(asked, productBudget, reasons),
    mostPerUnit: orNull(mostPerUnit),
    mostPerUnitSmallest: orNull(productBudget / asked.orders.first),
    mostUnitPrice: unitPrice,
    mostUnitPriceCurrency: currency,
    shelfPriceBand: priceBand(plan, r, mostPerUnit),
  };
}

/** The units that a budget for goods buys, and what is short where it buys no order at all. */
function unitsFor(
  { doc, plan, orders, scratch, beside }: Asked,
  productBudget: number,
  reasons: Record<string, string>,
): Pick<LaunchResult, 'mostUnits' | 'shortfall'> {
  /** Cash for an order of Q units, home currency. */
  const orderCash = (q: number): number => reckon(at(doc, q), scratch).landedCash * q * beside.toHome;
  const smallestCash = orderCash(orders.first);
  // A smaller order may be unknown (a price break still to be quoted) while a larger one is known to fit.
  const most = Number.isNaN(productBudget) ? 0 : mostAffordable(doc, orders, productBudget, orderCash);
  if (most > 0) return { mostUnits: most, shortfall: 0 };
  if (!(Number.isNaN(productBudget) || Number.isNaN(smallestCash)))
    return { mostUnits: 0, shortfall: smallestCash - productBudget };
  reasons.mostUnits = plan.cash === null ? 'blank: cash' : 'unknown: landed cash';
  return { mostUnits: null, shortfall: null };
}

/** Shelf prices to look in: multiples of what the goods of a unit may cost. */
function priceBand(plan: LaunchPlan, r: Reckoning, mostPerUnit: number): LaunchResult['shelfPriceBand'] {
  const share = r.goods / r.landedCash;
  const goodsShare = Number.isFinite(share) && share > 0 ? share : (plan.goodsShareOfLanded ?? Number.NaN);
  if (!(mostPerUnit > 0 && Number.isFinite(goodsShare))) return null;
  const { low, high } = plan.priceMultiples;
  return { low: low * mostPerUnit * goodsShare, high: high * mostPerUnit * goodsShare };
}

/** Units a day that bring in the profit wanted and the fixed costs. */
function goalADay({ plan, r, beside }: Asked, reasons: Record<string, string>): number | null {
  const unitProfit = r.unitProfit * beside.toHome;
  const goal =
    plan.monthlyProfitGoal ?? (plan.dailyProfitGoal === null ? null : plan.dailyProfitGoal * DAYS_A_MONTH);
  if (goal === null) return null;
  if (unitProfit > 1e-12) return orNull((goal + plan.monthlyFixedCosts) / unitProfit / DAYS_A_MONTH);
  reasons.unitsADay = 'not above zero: unitProfit';
  return null;
}

/** Months of sales after which this order has brought the launch money back. */
function paidBackAfter(
  { doc, units, r, beside }: Asked,
  total: number | null,
  reasons: Record<string, string>,
): number | null {
  const kept = (r.unitProfit + r.landedCash) * beside.toHome;
  const perMonth = units * kept - doc.monthlyFixedCosts * beside.toHome;
  const months = total !== null && perMonth > 1e-12 ? total / perMonth : Number.NaN;
  if (Number.isNaN(months))
    reasons.monthsToPayBack =
      perMonth <= 1e-12 ? 'not above zero: what a month brings in' : 'blank: demand or budget';
  else if (within(months, r.cover)) return orNull(months);
  else reasons.monthsToPayBack = 'beyond the cover: this order alone does not bring the launch money back';
  return null;
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
