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
import type { FeeKey } from '../../cards/rates.ts';
import type { Reckoning } from '../reckoning.ts';
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

/** Fees of which a part may be given back on a return. */
const GIVEN_BACK = ['referral', 'itemFee', 'payment', 'surcharges'] as const;

/** Surcharges, subscription and VAT on the marketplace's fees (economics, section 5). Needs the other fees reckoned. */
export function reckonCardCharges(r: Reckoning): void {
  const doc = r.doc;
  const card = doc.rates.marketplace;
  r.surcharges = 0;
  r.subscription = 0;
  r.feeVat = 0;
  r.feeVatCostRate = 0;
  if (card !== null) {
    for (let i = 0; i < card.surcharges.length; i++) {
      const s = card.surcharges[i] as (typeof card.surcharges)[number];
      let base = 0;
      for (let j = 0; j < s.of.length; j++) base += feeOf(r, s.of[j] as FeeKey);
      const amount = r.fee(surcharge(s.pct, base));
      r.surcharges += amount;
      r.trace?.line('surcharges', amount, 'round(pct * fees)', [
        ['name', s.name, 'text', 'rates.marketplace.surcharges'],
        ['pct', s.pct, 'share', 'rates.marketplace.surcharges'],
        ['fees', base, 'money', ''],
      ]);
    }
  }

  const monthly = doc.typed.subscriptionMonthly ?? card?.subscriptionMonthly ?? 0;
  if (monthly > 0) {
    const spread = doc.accountUnitsPerMonth ?? r.units;
    if (spread <= 1e-9)
      r.subscription = r.problem(
        'zeroUnits',
        'subscription',
        doc.accountUnitsPerMonth === null ? 'demand' : 'accountUnitsPerMonth',
      );
    else if (isUnknown(spread)) r.blank('subscription');
    else if (doc.typed.subscriptionMonthly === null && card !== null && card.currency !== doc.currency)
      r.subscription = Number.NaN;
    else {
      r.subscription = subscription(monthly, spread);
      r.trace?.line('subscription', r.subscription, 'monthlyFee / unitsAMonth', [
        [
          'monthlyFee',
          monthly,
          'money',
          doc.typed.subscriptionMonthly !== null ? 'typed.subscriptionMonthly' : 'rates.marketplace',
        ],
        [
          'unitsAMonth',
          spread,
          'pieces',
          doc.accountUnitsPerMonth === null ? 'demand' : 'accountUnitsPerMonth',
        ],
      ]);
    }
  }

  if (card === null || card.feeVat.treatment === 'none' || card.feeVat.rate === 0) return;
  let bearing = 0;
  for (let i = 0; i < card.feeVat.bears.length; i++) bearing += feeOf(r, card.feeVat.bears[i] as FeeKey);
  r.feeVatCostRate = feeVatCostRate(card.feeVat.rate, r.vatIsCost);
  r.feeVat = feeVat(bearing, r.feeVatCostRate);
  r.trace?.line('feeVat', r.feeVat, r.vatIsCost === 1 ? 'feeVatRate * fees' : '0', [
    ['feeVatRate', card.feeVat.rate, 'share', 'rates.marketplace.feeVat'],
    ['fees', bearing, 'money', ''],
    ['treatment', card.feeVat.treatment, 'text', 'rates.marketplace.feeVat'],
    ['standing', doc.standing?.kind ?? null, 'text', 'standing'],
  ]);
}

function bears(r: Reckoning, key: FeeKey): boolean {
  const card = r.doc.rates.marketplace;
  return card !== null && card.feeVat.treatment !== 'none' && card.feeVat.bears.includes(key);
}

/**
 * Fees given back on a return, the refund administration fee, what the marketplace pays out, and the cost of
 * converting it (economics, sections 6 and 8). Decision: where VAT on fees is `charged`, the fees given back
 * and the refund fee carry it in the payout too, as the fees themselves do.
 */
export function reckonPayout(r: Reckoning): void {
  const doc = r.doc;
  const card = doc.rates.marketplace;
  const terms = doc.returns;
  const converts = doc.conversionSpread > 0 && doc.currency !== doc.homeCurrency;
  const blank = returnsAreBlank(terms);
  if (blank) {
    r.blank('returns');
    if (converts) r.blank('returnsInConversion');
  }
  r.returnRate = blank || terms === null || terms === 'none' ? 0 : rateTried(r, terms.rate ?? 0);
  r.feesBack = 0;
  r.feesBackCost = 0;
  r.refundAdmin = 0;
  r.bendAdmin = 0;
  const charged = card !== null && card.feeVat.treatment === 'charged' ? card.feeVat.rate : 0;
  let feesBackPaid = 0;
  let adminPaid = 0;
  const back = card?.refund.back;
  if (r.returnRate > 0) {
    for (let i = 0; i < GIVEN_BACK.length; i++) {
      const key = GIVEN_BACK[i] as (typeof GIVEN_BACK)[number];
      const part = back === undefined ? (key === 'referral' ? 1 : 0) : back[key];
      const carries = bears(r, key);
      r.feesBack += feeBack(part, feeOf(r, key), 0);
      r.feesBackCost += feeBack(part, feeOf(r, key), carries ? r.feeVatCostRate : 0);
      feesBackPaid += feeBack(part, feeOf(r, key), carries ? charged : 0);
    }
    if (card !== null && card.refund.adminPct > 0) {
      const beforeMax = refundFeeBeforeMax(card.refund.adminPct, card.refund.back.referral, r.referral);
      const max = card.refund.adminMax;
      if (max !== null) r.bendAdmin = beforeMax - max;
      r.refundAdmin = r.fee(refundFee(beforeMax, max));
      adminPaid = withVat(r.refundAdmin, bears(r, 'referral') ? charged : 0);
    }
  }

  let fees = r.referral + r.itemFee + r.payment + r.surcharges + r.subscription;
  if (r.fulfilmentIsMarketplaces) fees += r.fulfilment;
  if (r.storageIsMarketplaces) fees += r.storage;
  if (charged > 0 && card !== null) {
    let bearing = 0;
    for (let i = 0; i < card.feeVat.bears.length; i++) bearing += feeOf(r, card.feeVat.bears[i] as FeeKey);
    fees += bearing * charged;
  }
  r.payout = payout(r.returnRate, r.gross, r.withheldVat, fees, feesBackPaid, adminPaid);
  r.trace?.line(
    'payout',
    r.payout,
    '(1 - returnRate) * (gross - vatWithheld) - feesCharged + returnRate * (feesBack - refundFee)',
    [
      ['returnRate', r.returnRate, 'share', 'returns.rate'],
      ['gross', r.gross, 'money', ''],
      ['vatWithheld', r.withheldVat, 'money', 'standing'],
      ['feesCharged', fees, 'money', 'rates.marketplace'],
      ['feesBack', feesBackPaid, 'money', 'rates.marketplace.refund'],
      ['refundFee', adminPaid, 'money', 'rates.marketplace.refund'],
    ],
  );
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
  const doc = r.doc;
  const terms = doc.returns;
  r.returns = 0;
  if (terms !== null && terms !== 'none' && r.returnRate > 0) {
    const admin = withVat(r.refundAdmin, bears(r, 'referral') ? r.feeVatCostRate : 0);
    const handling = terms.handling === null ? 0 : r.cost(terms.handling, 'returns');
    const disposal = terms.disposal === null ? 0 : r.cost(terms.disposal, 'returns');
    const s = terms.resaleShare;
    r.returns = returnsAllowance(
      r.returnRate,
      r.netRevenue,
      r.feesBackCost,
      admin,
      handling,
      s,
      disposal,
      r.landedCost,
    );
    r.trace?.line(
      'returns',
      r.returns,
      'returnRate * (netRevenue - feesBack + refundFee + handling + (1 - resaleShare) * disposal - ' +
        'resaleShare * landedCost)',
      [
        ['returnRate', r.returnRate, 'share', 'returns.rate'],
        ['netRevenue', r.netRevenue, 'money', ''],
        ['feesBack', r.feesBackCost, 'money', 'rates.marketplace.refund'],
        ['refundFee', admin, 'money', 'rates.marketplace.refund'],
        ['handling', handling, 'money', 'returns.handling'],
        ['resaleShare', s, 'share', 'returns.resaleShare'],
        ['disposal', disposal, 'money', 'returns.disposal'],
        ['landedCost', r.landedCost, 'money', ''],
      ],
    );
  } else if (terms !== null) r.trace?.line('returns', 0, '0', []);
  const b = doc.breakage;
  r.breakage = breakage(r.landedCost, b);
  if (b > 0)
    r.trace?.line('breakage', r.breakage, 'landedCost * breakage / (1 - breakage)', [
      ['landedCost', r.landedCost, 'money', ''],
      ['breakage', b, 'share', 'breakage'],
    ]);
}
