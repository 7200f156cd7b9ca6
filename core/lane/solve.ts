import type { FeeBase } from './rates.ts';
import { reckon } from './evaluate.ts';
import { FIGURE_BLANKS, blanksIn } from './lines.ts';
import { boundWithout } from './bounds.ts';
import type { Bound } from './bounds.ts';
import type { Blank } from './lines.ts';
import { Reckoning } from './reckoning.ts';
import type { Component, LaneDocument } from './schema.ts';
import { quote } from './schema.ts';

/** What a price or a purchase cost has to reach. Values: money per unit in the sales currency, or a fraction. */
export type Target = {
  readonly figure: 'unitProfit' | 'margin' | 'roi' | 'marginOnShelfPrice' | 'markup' | 'priceMultiple';
  readonly value: number;
};
export const BREAK_EVEN: Target = { figure: 'unitProfit', value: 0 };

/** How far a reckoning is above a target, as a function linear in its inputs; at least 0 means met. */
export function gap(r: Reckoning, t: Target): number {
  switch (t.figure) {
    case 'unitProfit':
      return r.unitProfit - t.value;
    case 'margin':
      return r.unitProfit - t.value * r.netRevenue;
    case 'roi':
      return r.unitProfit - t.value * r.landedCost;
    case 'marginOnShelfPrice':
      return r.unitProfit - t.value * r.gross;
    case 'markup':
      return r.netRevenue - (1 + t.value) * r.landedCost;
    case 'priceMultiple':
      return r.gross - t.value * r.goods;
  }
}

export type Unsolved = 'unknown' | 'neverReached' | 'losesEvenFree' | 'noLimit';
/** A price range above the answer, both ends included, in which the target is missed again. `to` null: open. */
export type Dip = { readonly from: number; readonly to: number | null };
export type PriceAnswer = {
  readonly price: number | null;
  readonly reason: Unsolved | null;
  readonly dips: readonly Dip[];
  readonly incomplete: readonly Blank[];
  /** A price found without some costs is a lower bound of the real one; null: it is whole. */
  readonly bound: Bound | null;
  /** How many times the lane was reckoned. */
  readonly evaluations: number;
};

const MEETS = -1e-9;
const LONGEST_WALK = 5000;

class PriceSearch {
  evaluations = 0;
  readonly step: number;
  /** Whether the profit was known at any price tried: a price band without an answer leaves the others. */
  known = false;
  private readonly bends = new Float64Array(8);
  constructor(
    readonly doc: LaneDocument,
    readonly r: Reckoning,
    readonly target: Target,
    readonly power: number,
    readonly noise: number,
  ) {
    this.step = 1 / power;
  }
  /** Gap at the grid price m (in minor units). */
  at(m: number, rounding: boolean): number {
    this.evaluations++;
    this.r.rounding = rounding;
    this.r.price$ = m / this.power;
    reckon(this.doc, this.r);
    const g = gap(this.r, this.target);
    if (g === g) this.known = true;
    return g;
  }
  meets(m: number): boolean {
    return this.at(m, true) >= MEETS;
  }
  private bendsInto(at: number): void {
    const r = this.r;
    this.bends[at] = r.bendReferralMin;
    this.bends[at + 1] = r.bendReferralMax;
    this.bends[at + 2] = r.bendAdmin;
    this.bends[at + 3] = r.bendPayout;
  }
  /** Lowest grid price in [a, b] that meets the target, where no tier or band limit lies inside; -1 where none does. */
  lowestIn(a: number, b: number): number {
    if (a > b) return -1;
    if (a === b) return this.meets(a) ? a : -1;
    const ua = this.at(a, false);
    // Where a price band has no answer (its weights end), none of its prices has.
    if (ua !== ua) return -1;
    this.bendsInto(0);
    const ub = this.at(b, false);
    this.bendsInto(4);
    return this.lowestBetween(a, b, ua, ub, this.bends.slice());
  }
  private lowestBetween(a: number, b: number, ua: number, ub: number, bends: Float64Array): number {
    // Between tier and band limits only bounds of fees and a payout that turns positive bend the line: cut it
    // there.
    for (let i = 0; i < 4 && b - a > 1; i++) {
      const ka = bends[i] as number;
      const kb = bends[i + 4] as number;
      if (!((ka < 0 && kb > 0) || (ka > 0 && kb < 0))) continue;
      const cut = Math.min(b - 1, Math.max(a, a + Math.floor(((b - a) * ka) / (ka - kb))));
      const left = this.at(cut, false);
      this.bendsInto(4);
      const leftBends = bends.slice();
      leftBends.set(this.bends.subarray(4), 4);
      const found = cut === a ? (this.meets(a) ? a : -1) : this.lowestBetween(a, cut, ua, left, leftBends);
      if (found >= 0) return found;
      const right = this.at(cut + 1, false);
      this.bendsInto(0);
      const rightBends = bends.slice();
      rightBends.set(this.bends.subarray(0, 4), 0);
      return cut + 1 === b ? (this.meets(b) ? b : -1) : this.lowestBetween(cut + 1, b, right, ub, rightBends);
    }
    return this.walk(a, b, ua, ub);
  }
  /** On a straight stretch: start where rounding could first make the target met, and try each grid price. */
  private walk(a: number, b: number, ua: number, ub: number): number {
    if (Math.max(ua, ub) + this.noise < MEETS) return -1;
    const slope = (ub - ua) / (b - a);
    let m = a;
    if (ua + this.noise < MEETS)
      m = Math.max(a, Math.min(b, a + Math.ceil((MEETS - this.noise - ua) / slope - 1e-6)));
    for (let n = 0; m <= b; m++, n++) {
      if (this.meets(m)) return m;
      if (n > LONGEST_WALK) {
        // Nearly level: skip to where rounding cannot decide any more, then come back to the first of that
        // run.
        const sure = slope > 0 ? Math.min(b, a + Math.ceil((this.noise - ua) / slope)) : b;
        if (!this.meets(sure)) return -1;
        m = sure;
        for (let back = 0; back < LONGEST_WALK && m > a && this.meets(m - 1); back++) m--;
        return m;
      }
    }
    return -1;
  }
}

/** A price limit: the last grid index within it, and whether a jump may follow it (whole tier, price band). */
type Limit = { readonly last: number; readonly jump: boolean };

/** The grid indexes at which a referral tier or a price band of the fulfilment table ends, rising. */
function priceLimits(doc: LaneDocument, power: number): Limit[] {
  const card = doc.rates.marketplace;
  if (card === null || card.currency !== doc.currency) return [];
  const limits: Limit[] = [];
  const toGross = (base: FeeBase, amount: number): number => {
    const tax = doc.rates.tax;
    const inclusive = tax === null || tax.regime === 'inclusive';
    if (base === 'net' && inclusive && doc.standing !== null && doc.standing.kind !== 'notRegistered')
      return amount * (1 + (doc.typed.vatRate ?? tax?.vatRates[doc.product.taxClass] ?? 0));
    if (base === 'buyerPays' && !inclusive) return amount / (1 + (tax?.checkoutTax ?? 0));
    return amount;
  };
  const add = (base: FeeBase, amount: number, jump: boolean): void => {
    // The rules count an amount as within a limit up to 1e-9 past it.
    const gross = toGross(base, amount + 1e-9);
    const price = (gross - (base === 'item' ? 0 : doc.shippingCharged)) / (1 - doc.averageDiscount);
    const last = Math.floor(price * power + 1e-9);
    if (last >= 1) limits.push({ last, jump });
  };
  if (doc.referralApplies && doc.typed.referralPct === null) {
    const rule = card.categories.find((c) => c.key === doc.product.category)?.referral;
    if (rule !== undefined)
      for (const t of rule.tiers) if (t.upTo !== null) add(rule.base, t.upTo, rule.mode === 'whole');
  }
  if (doc.method === 'warehouse' && doc.typed.fulfilmentFee === null && card.warehouse !== null)
    for (const tier of card.warehouse.tiers)
      for (const band of tier.bands) if (band.upToPrice !== null) add('item', band.upToPrice, true);
  limits.sort((x, y) => x.last - y.last);
  // Several tiers of a size table often share their bands: each price once.
  return limits
    .filter((l, i) => i === limits.length - 1 || limits[i + 1]?.last !== l.last)
    .map((l) => ({ last: l.last, jump: l.jump || limits.some((o) => o.last === l.last && o.jump) }));
}

/**
 * Bound on what rounding price-dependent fees can move the profit by: half a minor unit for each, with what
 * rides on it.
 */
function roundingNoise(doc: LaneDocument, r: Reckoning, power: number, target: Target): number {
  if (target.figure === 'markup' || target.figure === 'priceMultiple') return 1e-9;
  const card = doc.rates.marketplace;
  let fees = doc.referralApplies ? 1 : 0;
  let ride = 1 + (card === null ? 0 : card.feeVat.rate);
  if ((doc.typed.paymentPct ?? card?.payment?.pct ?? 0) > 0) fees++;
  if (card !== null)
    for (const s of card.surcharges) {
      fees++;
      ride *= 1 + s.pct * s.of.length;
    }
  const admin = card !== null && card.refund.adminPct > 0 ? r.returnRate * (2 + card.refund.adminPct) : 0;
  return (
    ((0.5 + 1e-6) / power) * (fees + admin) * ride * (1 + r.returnRate) * (1 + doc.conversionSpread) + 1e-9
  );
}

/** Holds all else equal while prices are tried: units a month are those of the lane, unknown where they are. */
function hold(doc: LaneDocument, r: Reckoning): void {
  r.release();
  reckon(doc, r);
  r.holdUnits(r.units);
}

/**
 * The lowest price on the minor-unit grid, from one minor unit to 100 * max(price, landedCost), that meets a
 * target, and the dips above it (economics, section 9). The price is a shelf price in the sales currency.
 * Unrounded profit is a line between limits: each stretch is solved there and then walked where rounding
 * decides; the answer has been put back through the model. `price` null: unknown (a blank or a problem stands
 * in the way) or never reached.
 */
export function priceFor(doc: LaneDocument, target: Target = BREAK_EVEN): PriceAnswer {
  const r = new Reckoning();
  hold(doc, r);
  const incomplete = blanksIn(r.blanks & FIGURE_BLANKS.unitProfit & ~FIGURE_BLANKS.itemPrice);
  const bound = boundWithout(incomplete, 'atLeast');
  const power = r.power;
  const highest = Math.max(doc.price ?? 0, r.landedCost === r.landedCost ? r.landedCost : 0);
  // A price nobody typed yet is no bound; the landed cost then is.
  const top = Math.max(1, Math.min(Math.floor(100 * highest * power), 1e14));
  const s = new PriceSearch(doc, r, target, power, roundingNoise(doc, r, power, target));
  if (highest <= 0) return { price: null, reason: 'unknown', dips: [], incomplete, bound, evaluations: 1 };

  const limits = priceLimits(doc, power).filter((l) => l.last < top);
  const ends = [...limits.map((l) => l.last), top];
  /** Lowest grid price from `from` on that meets the target. */
  const lowestFrom = (from: number): number => {
    let a = from;
    for (const b of ends) {
      if (b < a) continue;
      const found = s.lowestIn(a, b);
      if (found >= 0) return found;
      a = b + 1;
    }
    return -1;
  };
  const m = lowestFrom(1);
  if (m < 0)
    return {
      price: null,
      reason: s.known ? 'neverReached' : 'unknown',
      dips: [],
      incomplete,
      bound,
      evaluations: s.evaluations + 1,
    };
  const dips: Dip[] = [];
  let past = m;
  for (const limit of limits) {
    if (!limit.jump || limit.last < past) continue;
    const first = limit.last + 1;
    if (s.meets(first)) continue;
    const again = lowestFrom(first + 1);
    dips.push({ from: first / power, to: again < 0 ? null : (again - 1) / power });
    if (again < 0) break;
    past = again;
  }
  return { price: m / power, reason: null, dips, incomplete, bound, evaluations: s.evaluations + 1 };
}

export type CostAnswer = {
  /** Highest unit price as quoted: supplier currency, VAT in or out as the quote says; retail: the shelf price. */
  readonly unitPrice: number | null;
  readonly currency: string;
  readonly reason: Unsolved | null;
  readonly incomplete: readonly Blank[];
  /** A cost found without some costs is an upper bound of the real one; null: it is whole. */
  readonly bound: Bound | null;
};

/** The same lane with a quote to be filled in, where it has no goods yet: sales currency, EXW, no VAT, any quantity. */
function withSomeQuote(doc: LaneDocument): LaneDocument {
  if (doc.goods !== null && doc.goods !== 'none') return doc;
  const source = quote.parse({
    kind: 'quote',
    currency: doc.currency,
    priceBreaks: [{ minQty: 0, unitPrice: null }],
  });
  return {
    ...doc,
    goods: [{ name: '', unitsInSoldPack: 1, unitsInBoughtPack: 1, source }],
    orderQuantity: doc.orderQuantity ?? 1,
  };
}

/**
 * The highest value of component `index`'s unit price (retail: shelf price) for which `test` is at least 0.
 * `test` must not rise with the price. Brackets, then secant and halving in turn; the answer always meets the
 * test (exact to about 1e-12).
 */
export function highestUnitPrice(
  doc0: LaneDocument,
  index: number,
  test: (r: Reckoning) => number,
): CostAnswer {
  const doc = withSomeQuote(doc0);
  const goods = doc.goods as Component[];
  const source = (goods[index] as Component).source;
  const r = new Reckoning();
  hold(doc, r);
  r.component$ = index;
  const at = (u: number): number => {
    r.unitPrice$ = u;
    return test(reckon(doc, r));
  };
  const answer = (unitPrice: number | null, reason: Unsolved | null): CostAnswer => {
    const incomplete = blanksIn(r.blanks & FIGURE_BLANKS.unitProfit);
    return {
      unitPrice,
      reason,
      currency: source.currency,
      incomplete,
      bound: boundWithout(incomplete, 'atMost'),
    };
  };
  let lo = 0;
  let flo = at(0);
  if (Number.isNaN(flo)) return answer(null, 'unknown');
  if (flo < 0) return answer(null, 'losesEvenFree');
  let hi = 1;
  let fhi = at(hi);
  while (fhi >= 0) {
    lo = hi;
    flo = fhi;
    hi *= 8;
    if (hi > 1e13) return answer(null, 'noLimit');
    fhi = at(hi);
  }
  for (let i = 0; i < 200 && hi - lo > 1e-13 * Math.max(1, hi); i++) {
    // A secant lands on the root of a straight stretch; halving gets past bends and jumps.
    let mid = i % 3 === 2 ? (lo + hi) / 2 : lo + ((hi - lo) * flo) / (flo - fhi);
    if (!(mid > lo && mid < hi)) mid = (lo + hi) / 2;
    if (mid <= lo || mid >= hi) break;
    const f = at(mid);
    if (f >= 0) {
      lo = mid;
      flo = f;
    } else {
      hi = mid;
      fhi = f;
    }
  }
  return answer(lo, null);
}

/** The highest purchase cost that still meets a target, the other components of a bundle as they stand (section 9). */
export function highestPurchaseCost(doc: LaneDocument, target: Target = BREAK_EVEN, index = 0): CostAnswer {
  return highestUnitPrice(doc, index, (r) => gap(r, target));
}

/** `(price - breakEvenPrice) / price`; null where either is unknown or the price is not above 0. */
export function priceHeadroom(price: number | null, breakEvenPrice: number | null): number | null {
  return price === null || breakEvenPrice === null || price <= 0 ? null : (price - breakEvenPrice) / price;
}

/** Unit profit with gross at each price with delivery, units a month held; sales currency; null where unknown. */
export function priceLadder(
  doc: LaneDocument,
  pricesWithDelivery: readonly number[],
): { gross: number; unitProfit: number | null }[] {
  const r = new Reckoning();
  hold(doc, r);
  return pricesWithDelivery.map((gross) => {
    r.price$ = (gross - doc.shippingCharged) / (1 - doc.averageDiscount);
    if (r.price$ < 0) return { gross, unitProfit: null };
    reckon(doc, r);
    return { gross, unitProfit: Number.isNaN(r.unitProfit) ? null : r.unitProfit };
  });
}

/**
 * Units that pay the one-offs back: `up(oneOffs / unitProfit)`; null where a unit loses or is unknown. Same
 * currency.
 */
export function breakEvenUnits(oneOffs: number, unitProfit: number | null): number | null {
  return unitProfit === null || unitProfit <= 1e-12 ? null : Math.ceil(oneOffs / unitProfit - 1e-9);
}
