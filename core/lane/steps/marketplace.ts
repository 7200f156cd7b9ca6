import { isKnown, isUnknown } from '../../rules/numbers.ts';
import { feeVat, feeVatCostRate, subscription, surcharge } from '../../rules/fees.ts';
import {
  breakage,
  currencyConversion,
  feeBack,
  payout,
  refundFee,
  refundFeeBeforeMax,
  returnsAllowance,
} from '../../rules/returns.ts';
import { withVat } from '../../rules/revenue.ts';
import type { FeeKey, MarketplaceCard } from '../../cards/rates.ts';
import type { Reckoning, Trace } from '../reckoning.ts';
import type { LaneDocument } from '../schema.ts';

const feeOf = (r: Reckoning, key: FeeKey): number => {
  switch (key) {
    case 'referral':
      return r.referral;
    case 'itemFee':
      return r.itemFee;
    case 'payment':
      return r.payment;
    case 'surcharges':
      return r.surcharges;
    case 'subscription':
      return r.subscription;
    case 'fulfilment':
      return r.fulfilmentIsMarketplaces ? r.fulfilment : 0;
    case 'storage':
      return r.storageIsMarketplaces ? r.storage : 0;
  }
};

function sumOfFees(r: Reckoning, keys: readonly FeeKey[]): number {
  let sum = 0;
  for (let i = 0; i < keys.length; i++) sum += feeOf(r, keys[i] as FeeKey);
  return sum;
}

/**
 * Surcharges, subscription and VAT on the marketplace's fees (economics, section 5). Needs the other fees
 * reckoned.
 */
export function reckonCardCharges(r: Reckoning): void {
  const card = r.doc.rates.marketplace;
  r.surcharges = 0;
  r.subscription = 0;
  r.feeVat = 0;
  r.feeVatCostRate = 0;
  if (card !== null) reckonSurcharges(r, card);
  reckonSubscription(r, card);
  if (card !== null) reckonFeeVat(r, card);
}

function reckonSurcharges(r: Reckoning, card: MarketplaceCard): void {
  for (let i = 0; i < card.surcharges.length; i++) {
    const s = card.surcharges[i] as (typeof card.surcharges)[number];
    const base = sumOfFees(r, s.of);
    const amount = r.fee(surcharge(s.pct, base));
    r.surcharges += amount;
    r.trace?.line('surcharges', amount, 'round(pct * fees)', [
      ['name', s.name, 'text', 'rates.marketplace.surcharges'],
      ['pct', s.pct, 'share', 'rates.marketplace.surcharges'],
      ['fees', base, 'money', ''],
    ]);
  }
}

/** The account's subscription, spread over the units it sells a month: typed, or those of this lane. */
function reckonSubscription(r: Reckoning, card: MarketplaceCard | null): void {
  const { doc } = r;
  const typed = doc.typed.subscriptionMonthly;
  const monthly = typed ?? card?.subscriptionMonthly ?? 0;
  if (monthly <= 0) return;
  const spread = doc.accountUnitsPerMonth ?? r.units;
  const unitsPath = doc.accountUnitsPerMonth === null ? 'demand' : 'accountUnitsPerMonth';
  if (spread <= 1e-9) r.subscription = r.problem('zeroUnits', 'subscription', unitsPath);
  else if (isUnknown(spread)) r.blank('subscription');
  else if (typed === null && card !== null && card.currency !== doc.currency) r.subscription = Number.NaN;
  else {
    r.subscription = subscription(monthly, spread);
    r.trace?.line('subscription', r.subscription, 'monthlyFee / unitsAMonth', [
      ['monthlyFee', monthly, 'money', typed !== null ? 'typed.subscriptionMonthly' : 'rates.marketplace'],
      ['unitsAMonth', spread, 'pieces', unitsPath],
    ]);
  }
}

function reckonFeeVat(r: Reckoning, { feeVat: terms }: MarketplaceCard): void {
  if (terms.treatment === 'none' || terms.rate === 0) return;
  const bearing = sumOfFees(r, terms.bears);
  r.feeVatCostRate = feeVatCostRate(terms.rate, r.vatIsCost);
  r.feeVat = feeVat(bearing, r.feeVatCostRate);
  r.trace?.line('feeVat', r.feeVat, r.vatIsCost === 1 ? 'feeVatRate * fees' : '0', [
    ['feeVatRate', terms.rate, 'share', 'rates.marketplace.feeVat'],
    ['fees', bearing, 'money', ''],
    ['treatment', terms.treatment, 'text', 'rates.marketplace.feeVat'],
    ['standing', r.doc.standing?.kind ?? null, 'text', 'standing'],
  ]);
}

/** A rate of VAT where this fee bears it; 0 where it does not, or where there is none to bear. */
function vatBorne(card: MarketplaceCard | null, key: FeeKey, rate: number): number {
  if (rate === 0 || card === null || card.feeVat.treatment === 'none') return 0;
  return card.feeVat.bears.includes(key) ? rate : 0;
}

/** VAT that the marketplace charges on top of its fees, as a rate; 0 where it charges none. */
const chargedVat = (card: MarketplaceCard | null): number =>
  card !== null && card.feeVat.treatment === 'charged' ? card.feeVat.rate : 0;

/**
 * Fees given back on a return, the refund administration fee, what the marketplace pays out, and the cost of
 * converting it (economics, sections 6 and 8). Decision: where VAT on fees is `charged`, the fees given back
 * and the refund fee carry it in the payout too, as the fees themselves do.
 */
export function reckonPayout(r: Reckoning): void {
  const { doc } = r;
  const card = doc.rates.marketplace;
  const converts = doc.conversionSpread > 0 && doc.currency !== doc.homeCurrency;
  reckonReturnRate(r, converts);
  const charged = chargedVat(card);
  const feesBack = reckonFeesBack(r, card, charged);
  const refundFee = reckonRefundFee(r, card, charged);
  const fees = feesCharged(r, card, charged);
  r.payout = payout(r.returnRate, r.gross, r.withheldVat, fees, feesBack, refundFee);
  if (r.trace !== null) tracePayout(r, r.trace, fees, feesBack, refundFee);
  r.bendPayout = 0;
  r.currencyConversion = 0;
  if (converts) {
    r.bendPayout = r.payout;
    r.currencyConversion = currencyConversion(doc.conversionSpread, r.payout);
    r.trace?.line('currencyConversion', r.currencyConversion, 'conversionSpread * max(0, payout)', [
      ['conversionSpread', doc.conversionSpread, 'share', 'conversionSpread'],
      ['payout', r.payout, 'money', ''],
    ]);
  }
}

/** The share of units that come back: typed, or tried; 0 where returns are blank, which is said. */
function reckonReturnRate(r: Reckoning, converts: boolean): void {
  const terms = r.doc.returns;
  const blank = returnsAreBlank(terms);
  if (blank) {
    r.blank('returns');
    if (converts) r.blank('returnsInConversion');
  }
  r.returnRate = blank || terms === null || terms === 'none' ? 0 : rateTried(r, terms.rate ?? 0);
}

/** Where no card says what is given back, the referral is. */
const REFERRAL_ALONE: MarketplaceCard['refund']['back'] = {
  referral: 1,
  itemFee: 0,
  payment: 0,
  surcharges: 0,
};

/** Fees given back on a returned unit, without and with the VAT that is a cost; answers what is paid out of them. */
function reckonFeesBack(r: Reckoning, card: MarketplaceCard | null, charged: number): number {
  r.feesBack = 0;
  r.feesBackCost = 0;
  if (r.returnRate <= 0) return 0;
  const back = card === null ? REFERRAL_ALONE : card.refund.back;
  return (
    giveBack(r, card, charged, 'referral', back.referral, r.referral) +
    giveBack(r, card, charged, 'itemFee', back.itemFee, r.itemFee) +
    giveBack(r, card, charged, 'payment', back.payment, r.payment) +
    giveBack(r, card, charged, 'surcharges', back.surcharges, r.surcharges)
  );
}

/** Adds what is given back of one fee; answers what is paid out of it. */
function giveBack(
  r: Reckoning,
  card: MarketplaceCard | null,
  charged: number,
  key: FeeKey,
  part: number,
  fee: number,
): number {
  r.feesBack += feeBack(part, fee, 0);
  r.feesBackCost += feeBack(part, fee, vatBorne(card, key, r.feeVatCostRate));
  return feeBack(part, fee, vatBorne(card, key, charged));
}

/** What the marketplace keeps of the fees on a return; answers it with the VAT charged on it. */
function reckonRefundFee(r: Reckoning, card: MarketplaceCard | null, charged: number): number {
  r.refundAdmin = 0;
  r.bendAdmin = 0;
  if (r.returnRate <= 0 || card === null || card.refund.adminPct <= 0) return 0;
  const beforeMax = refundFeeBeforeMax(card.refund.adminPct, card.refund.back.referral, r.referral);
  const max = card.refund.adminMax;
  if (max !== null) r.bendAdmin = beforeMax - max;
  r.refundAdmin = r.fee(refundFee(beforeMax, max));
  return withVat(r.refundAdmin, vatBorne(card, 'referral', charged));
}

/** All that the marketplace charges for a sale, with the VAT it charges on it. */
function feesCharged(r: Reckoning, card: MarketplaceCard | null, charged: number): number {
  let fees = r.referral + r.itemFee + r.payment + r.surcharges + r.subscription;
  if (r.fulfilmentIsMarketplaces) fees += r.fulfilment;
  if (r.storageIsMarketplaces) fees += r.storage;
  return charged > 0 && card !== null ? fees + sumOfFees(r, card.feeVat.bears) * charged : fees;
}

/**
 * Net fees of a unit sold that bear VAT, less those given back on the share that is returned, the refund fee added;
 * sales currency. 0 where the card knows no VAT on fees.
 */
export function feesBearingVat(r: Reckoning): number {
  const card = r.doc.rates.marketplace;
  if (card === null || card.feeVat.treatment === 'none' || card.feeVat.rate === 0) return 0;
  const { bears } = card.feeVat;
  const { back } = card.refund;
  let given = 0;
  for (const key of ['referral', 'itemFee', 'payment', 'surcharges'] as const)
    if (bears.includes(key) && r.returnRate > 0) given += back[key] === 0 ? 0 : back[key] * feeOf(r, key);
  const admin = bears.includes('referral') ? r.refundAdmin : 0;
  return sumOfFees(r, bears) - r.returnRate * (given - admin);
}

function tracePayout(r: Reckoning, trace: Trace, fees: number, feesBack: number, refundFee: number): void {
  const formula =
    '(1 - returnRate) * (gross - vatWithheld) - feesCharged + returnRate * (feesBack - refundFee)';
  trace.line('payout', r.payout, formula, [
    ['returnRate', r.returnRate, 'share', 'returns.rate'],
    ['gross', r.gross, 'money', ''],
    ['vatWithheld', r.withheldVat, 'money', 'standing'],
    ['feesCharged', fees, 'money', 'rates.marketplace'],
    ['feesBack', feesBack, 'money', 'rates.marketplace.refund'],
    ['refundFee', refundFee, 'money', 'rates.marketplace.refund'],
  ]);
}

const rateTried = (r: Reckoning, rate: number): number =>
  isKnown(r.tried.returnRate) ? r.tried.returnRate : rate;

/** Whether what returns cost is not known: nothing is said of them, or a part of it is left open. */
const returnsAreBlank = (terms: LaneDocument['returns']): boolean =>
  terms === null ||
  (terms !== 'none' &&
    (terms.rate === null ||
      (terms.rate > 0 && (terms.handling?.amount === null || terms.disposal?.amount === null))));

/** Returns and breakage (economics, section 6), per unit shipped, sales currency. Needs the landed cost. */
export function reckonReturns(r: Reckoning): void {
  const terms = r.doc.returns;
  r.returns = r.handling = r.disposal = 0;
  if (terms !== null && terms !== 'none' && r.returnRate > 0) reckonReturnsAllowance(r, terms);
  else if (terms !== null) r.trace?.line('returns', 0, '0', []);
  const b = r.doc.breakage;
  r.breakage = breakage(r.landedCost, b);
  if (b > 0)
    r.trace?.line('breakage', r.breakage, 'landedCost * breakage / (1 - breakage)', [
      ['landedCost', r.landedCost, 'money', ''],
      ['breakage', b, 'share', 'breakage'],
    ]);
}

type ReturnTerms = Exclude<LaneDocument['returns'], 'none' | null>;

function reckonReturnsAllowance(r: Reckoning, terms: ReturnTerms): void {
  const admin = withVat(r.refundAdmin, vatBorne(r.doc.rates.marketplace, 'referral', r.feeVatCostRate));
  const handling = terms.handling === null ? 0 : r.cost(terms.handling, 'returns');
  const disposal = terms.disposal === null ? 0 : r.cost(terms.disposal, 'returns');
  r.handling = handling;
  r.disposal = disposal;
  const s = terms.resaleShare;
  const { returnRate, netRevenue, feesBackCost, landedCost } = r;
  r.returns = returnsAllowance(
    returnRate,
    netRevenue,
    feesBackCost,
    admin,
    handling,
    s,
    disposal,
    landedCost,
  );
  if (r.trace !== null) traceReturns(r, r.trace, s, admin, handling, disposal);
}

function traceReturns(
  r: Reckoning,
  trace: Trace,
  resaleShare: number,
  admin: number,
  handling: number,
  disposal: number,
): void {
  const formula =
    'returnRate * (netRevenue - feesBack + refundFee + handling + (1 - resaleShare) * disposal - ' +
    'resaleShare * landedCost)';
  trace.line('returns', r.returns, formula, [
    ['returnRate', r.returnRate, 'share', 'returns.rate'],
    ['netRevenue', r.netRevenue, 'money', ''],
    ['feesBack', r.feesBackCost, 'money', 'rates.marketplace.refund'],
    ['refundFee', admin, 'money', 'rates.marketplace.refund'],
    ['handling', handling, 'money', 'returns.handling'],
    ['resaleShare', resaleShare, 'share', 'returns.resaleShare'],
    ['disposal', disposal, 'money', 'returns.disposal'],
    ['landedCost', r.landedCost, 'money', ''],
  ]);
}
