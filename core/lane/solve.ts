import { priceOfGross } from '../rules/revenue.ts';
import { isKnown } from '../rules/numbers.ts';
import { reckon } from './reckon.ts';
import { FIGURE_BLANKS } from './figures.ts';
import { blanksIn } from './blanks.ts';
import { boundWithout } from './bounds.ts';
import type { Bound } from './bounds.ts';
import type { Blank } from './blanks.ts';
import { PriceSearch, priceLimits, roundingNoise } from './priceSearch.ts';
import { Reckoning } from './reckoning.ts';
import type { Component, LaneDocument } from './schema.ts';
import { newQuote } from './defaults.ts';

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

/** Holds all else equal while prices are tried: units a month are those of the lane, unknown where they are. */
function hold(doc: LaneDocument, r: Reckoning): void {
  r.tried.release();
  reckon(doc, r);
  r.tried.holdUnits(r.units);
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
  const highest = Math.max(doc.price ?? 0, isKnown(r.landedCost) ? r.landedCost : 0);
  // A price nobody typed yet is no bound; the landed cost then is.
  const top = Math.max(1, Math.min(Math.floor(100 * highest * power), 1e14));
  const bends = new Float64Array(4);
  const gapAt = (price: number, rounding: boolean): number => {
    r.tried.rounding = rounding;
    r.tried.price = price;
    reckon(doc, r);
    bends[0] = r.bendReferralMin;
    bends[1] = r.bendReferralMax;
    bends[2] = r.bendAdmin;
    bends[3] = r.bendPayout;
    return gap(r, target);
  };
  const noise = roundingNoise(doc, r.returnRate, power, target);
  const s = new PriceSearch({ gapAt, bends }, power, noise);
  if (highest <= 0) return { price: null, reason: 'unknown', dips: [], incomplete, bound, evaluations: 1 };

  const limits = priceLimits(doc, power).filter((l) => l.last < top);
  const ends = limits.map((l) => l.last);
  const m = s.lowestFrom(1, ends, top);
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
    const again = s.lowestFrom(first + 1, ends, top);
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

/**
 * The same lane with a quote to be filled in, where it has no goods yet: sales currency, EXW, no VAT, any
 * quantity.
 */
function withSomeQuote(doc: LaneDocument): LaneDocument {
  if (doc.goods !== null && doc.goods !== 'none') return doc;
  const source = newQuote(doc.currency);
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
  r.tried.component = index;
  const at = (u: number): number => {
    r.tried.unitPrice = u;
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
  // Free it is known, at a price it is not: an exchange rate is missing, say.
  if (Number.isNaN(fhi)) return answer(null, 'unknown');
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

/**
 * The highest purchase cost that still meets a target, the other components of a bundle as they stand (section
 * 9).
 */
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
    r.tried.price = priceOfGross(gross, doc.shippingCharged, doc.averageDiscount);
    if (r.tried.price < 0) return { gross, unitProfit: null };
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
