/** The search for the lowest price that meets a target: one way for a lane and for a million rows. */
import { isKnown, isUnknown } from '../rules/numbers.ts';
import type { FeeBase } from '../cards/rates.ts';
import type { LaneDocument } from './schema.ts';
import type { Target } from './solve.ts';

const MEETS = -1e-9;
const LONGEST_WALK = 5000;

/** What is put to the test at one price after another: a lane, or a row of a list. */
export type Priced = {
  /**
   * How far a unit sold at this shelf price is above the target; at least 0 means met, NaN: not known. Without
   * rounding it also notes in `bends` where the price function bends: raw referral over its least and most,
   * refund fee over its most, payout.
   */
  gapAt(price: number, rounding: boolean): number;
  readonly bends: Float64Array;
};

/** Looks for the lowest price on the minor-unit grid that meets a target (economics, section 9). */
export class PriceSearch {
  evaluations = 0;
  /** Whether the gap was known at any price tried: a price band without an answer leaves the others. */
  known = false;
  private readonly bends = new Float64Array(8);
  constructor(
    readonly priced: Priced,
    readonly power: number,
    /** How far rounding can move the gap. */
    public noise: number,
  ) {}
  /**
   * Lowest grid price from `from` up to `top` that meets the target, in minor units; -1 where none does.
   * `limits`: the last grid prices before a price limit, rising.
   */
  lowestFrom(from: number, limits: readonly number[], top: number): number {
    let a = from;
    for (let i = 0; i <= limits.length && a <= top; i++) {
      const b = i === limits.length ? top : Math.min(top, limits[i] as number);
      if (b < a) continue;
      const found = this.lowestIn(a, b);
      if (found >= 0) return found;
      a = b + 1;
    }
    return -1;
  }
  /** Gap at the grid price m (in minor units). */
  private at(m: number, rounding: boolean): number {
    this.evaluations++;
    const g = this.priced.gapAt(m / this.power, rounding);
    if (isKnown(g)) this.known = true;
    return g;
  }
  meets(m: number): boolean {
    return this.at(m, true) >= MEETS;
  }
  private bendsInto(at: number): void {
    this.bends.set(this.priced.bends, at);
  }
  /**
   * Lowest grid price in [a, b] that meets the target, where no tier or band limit lies inside; -1 where none
   * does.
   */
  private lowestIn(a: number, b: number): number {
    if (a > b) return -1;
    if (a === b) return this.meets(a) ? a : -1;
    const ua = this.at(a, false);
    // Where a price band has no answer (its weights end), none of its prices has.
    if (isUnknown(ua)) return -1;
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
export type PriceLimit = { readonly last: number; readonly jump: boolean };

/** The grid indexes at which a referral tier or a price band of the fulfilment table ends, rising. */
export function priceLimits(doc: LaneDocument, power: number): PriceLimit[] {
  const card = doc.rates.marketplace;
  if (card === null || card.currency !== doc.currency) return [];
  const limits: PriceLimit[] = [];
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
export function roundingNoise(doc: LaneDocument, returnRate: number, power: number, target: Target): number {
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
  const admin = card !== null && card.refund.adminPct > 0 ? returnRate * (2 + card.refund.adminPct) : 0;
  return (
    ((0.5 + 1e-6) / power) * (fees + admin) * ride * (1 + returnRate) * (1 + doc.conversionSpread) + 1e-9
  );
}
