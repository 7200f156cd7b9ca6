import {
  cashCycleDays,
  contribution,
  proceeds,
  profitPerMonth,
  turnsAYear,
  unitProfit,
} from '../rules/result.ts';
import { landedCash, landedCost } from '../rules/wayIn.ts';
import { reckonAdverts } from '../adverts/adverts.ts';
import { reckonDemand } from '../demand/demand.ts';
import { reckonFulfilment, reckonStorage } from '../fees/fulfilment.ts';
import { reckonCardCharges, reckonPayout, reckonReturns } from '../fees/marketplace.ts';
import { reckonSaleFees } from '../fees/referral.ts';
import { reckonFreight, reckonPrep } from '../freight/wayIn.ts';
import { reckonImport } from '../freight/customs.ts';
import { reckonGoods } from '../goods/goods.ts';
import type { Reckoning } from './reckoning.ts';
import type { Component, LaneDocument } from './schema.ts';
import { reckonRevenue } from '../tax/revenue.ts';

/**
 * Reckons every figure of a lane into `r` (economics, sections 2 to 8). The one set of formulas: screens,
 * solvers, bulk runs and the command line all come through here. Total on a validated document; allocates
 * only where a problem is found.
 */
export function reckon(doc: LaneDocument, r: Reckoning): Reckoning {
  r.begin(doc);
  reckonRevenue(r);
  reckonDemand(r);
  reckonGoods(r);
  reckonFreight(r);
  reckonFulfilment(r);
  reckonImport(r);
  reckonPrep(r);
  r.landedCost = landedCost(
    r.goods,
    r.buyingCosts,
    r.freight,
    r.insurance,
    r.duty,
    r.importCharges,
    r.prep,
    r.irrecoverableVat,
  );
  r.landedCash = landedCash(r.landedCost, r.recoverableVat, r.cashback);

  reckonSaleFees(r);
  reckonStorage(r);
  reckonCardCharges(r);
  reckonPayout(r);
  reckonReturns(r);
  reckonAdverts(r);

  r.other = 0;
  for (let i = 0; i < doc.otherPerUnit.length; i++) {
    const o = doc.otherPerUnit[i] as (typeof doc.otherPerUnit)[number];
    if (o.line.amount === null) {
      r.blank('other');
      continue;
    }
    const cost = r.cost(o.line, 'other');
    r.other += cost;
    r.trace?.line('other', cost, 'amount', [
      ['name', o.name, 'text', `otherPerUnit.${i}`],
      ['amount', o.line.amount, 'number', `otherPerUnit.${i}`],
    ]);
  }

  r.proceeds = proceeds(
    r.netRevenue,
    r.referral,
    r.itemFee,
    r.payment,
    r.surcharges,
    r.subscription,
    r.feeVat,
    r.fulfilment,
    r.storage,
    r.currencyConversion,
  );
  r.contribution = contribution(
    r.proceeds,
    r.landedCost,
    r.breakage,
    r.returns,
    r.other,
    doc.freeExtraProfit,
  );
  r.unitProfit = unitProfit(r.contribution, r.adverts);
  r.profitPerMonth = profitPerMonth(r.unitProfit, r.units, doc.monthlyFixedCosts);
  r.cashCycleDays = cashCycle(r, doc);
  r.turns = turnsAYear(r.cover, r.cashCycleDays);

  if (r.trace !== null) traceResult(r, doc);
  return r;
}

/**
 * Days from paying the supplier to having the payout (economics, section 8); NaN where an input is blank.
 * Decisions: a blank deposit share counts as all paid with the order (the cautious reading); goods from a
 * shop have no lead time unless typed; `none` as a route takes no days.
 */
function cashCycle(r: Reckoning, doc: LaneDocument): number {
  const P = doc.payoutEveryDays ?? doc.rates.marketplace?.payoutEveryDays ?? Number.NaN;
  const D = doc.payoutDelayDays ?? doc.rates.marketplace?.payoutDelayDays ?? Number.NaN;
  const source = doc.goods === null || doc.goods === 'none' ? null : (doc.goods[0] as Component).source;
  const credit = source?.creditDays ?? 0;
  if (doc.method === 'supplierShips') return P / 2 + D - credit;
  const lead =
    source === null ? Number.NaN : (source.leadDays ?? (source.kind === 'retail' ? 0 : Number.NaN));
  const deposit = source?.kind === 'quote' ? (source.depositShare ?? 1) : 1;
  const transit = doc.route === 'none' ? 0 : (doc.route?.transitDays ?? Number.NaN);
  const inbound = doc.route === 'none' || doc.route === null ? 0 : doc.route.inboundDays;
  return cashCycleDays(deposit, lead, transit, inbound, credit, r.cover, P, D);
}

function traceResult(r: Reckoning, doc: LaneDocument): void {
  const t = r.trace;
  if (t === null) return;
  const m = (name: string, value: number): [string, number, 'money', string] => [name, value, 'money', ''];
  if (r.irrecoverableVat !== 0)
    t.line('irrecoverableVat', r.irrecoverableVat, 'purchaseVat + importVat', [
      ['standing', doc.standing?.kind ?? null, 'text', 'standing'],
      m('importVat', r.importVat),
      m('purchaseVat', r.irrecoverableVat - r.importVat),
    ]);
  if (doc.freeExtraProfit !== 0)
    t.line('freeExtra', -doc.freeExtraProfit, '-freeExtraProfit', [
      ['freeExtraProfit', doc.freeExtraProfit, 'money', 'freeExtraProfit'],
    ]);
  t.line(
    'landedCost',
    r.landedCost,
    'goods + buyingCosts + freight + insurance + duty + importCharges + prep + irrecoverableVat',
    [
      m('goods', r.goods),
      m('buyingCosts', r.buyingCosts),
      m('freight', r.freight),
      m('insurance', r.insurance),
      m('duty', r.duty),
      m('importCharges', r.importCharges),
      m('prep', r.prep),
      m('irrecoverableVat', r.irrecoverableVat),
    ],
  );
  t.line('landedCash', r.landedCash, 'landedCost + recoverableVat + cashbackToCome', [
    m('landedCost', r.landedCost),
    m('recoverableVat', r.recoverableVat),
    m('cashbackToCome', r.cashback),
  ]);
  t.line(
    'proceeds',
    r.proceeds,
    'netRevenue - referral - itemFee - payment - surcharges - subscription - feeVat - fulfilment - ' +
      'storage - currencyConversion',
    [
      m('netRevenue', r.netRevenue),
      m('referral', r.referral),
      m('itemFee', r.itemFee),
      m('payment', r.payment),
      m('surcharges', r.surcharges),
      m('subscription', r.subscription),
      m('feeVat', r.feeVat),
      m('fulfilment', r.fulfilment),
      m('storage', r.storage),
      m('currencyConversion', r.currencyConversion),
    ],
  );
  t.line(
    'contribution',
    r.contribution,
    'proceeds - landedCost - breakage - returns - other + freeExtraProfit',
    [
      m('proceeds', r.proceeds),
      m('landedCost', r.landedCost),
      m('breakage', r.breakage),
      m('returns', r.returns),
      m('other', r.other),
      m('freeExtraProfit', doc.freeExtraProfit),
    ],
  );
  t.line('unitProfit', r.unitProfit, 'contribution - adverts', [
    m('contribution', r.contribution),
    m('adverts', r.adverts),
  ]);
}
