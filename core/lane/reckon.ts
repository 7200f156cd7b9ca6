import {
  cashCycleDays,
  contribution,
  proceeds,
  profitPerMonth,
  turnsAYear,
  unitProfit,
} from '../rules/result.ts';
import { landedCash } from '../rules/wayIn.ts';
import { reckonAdverts } from './steps/adverts.ts';
import { reckonDemand } from './steps/demand.ts';
import { reckonFulfilment, reckonStorage } from './steps/fulfilment.ts';
import { reckonCardCharges, reckonPayout, reckonReturns } from './steps/marketplace.ts';
import { reckonSaleFees } from './steps/referral.ts';
import { reckonFreight, reckonPrep } from './steps/wayIn.ts';
import { reckonImport } from './steps/customs.ts';
import { reckonGoods } from './steps/goods.ts';
import { amountOf, LINES_OF, reckonOwnLines, SUM_LINES } from './costLines.ts';
import type { Sum } from './costLines.ts';
import type { Reckoning, Term, Trace } from './reckoning.ts';
import type { Component, LaneDocument } from './schema.ts';
import { reckonRevenue } from './steps/revenue.ts';

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
  r.landedCost = LINES_OF.landedCost(r);
  r.landedCash = landedCash(r.landedCost, r.recoverableVat, r.cashback);

  reckonSaleFees(r);
  reckonStorage(r);
  reckonCardCharges(r);
  reckonPayout(r);
  reckonReturns(r);
  reckonAdverts(r);

  reckonOwnLines(r);

  r.proceeds = proceeds(r.netRevenue, LINES_OF.proceeds(r));
  r.contribution = contribution(r.proceeds, r.landedCost, LINES_OF.contribution(r));
  r.unitProfit = unitProfit(r.contribution, LINES_OF.unitProfit(r));
  r.profitPerMonth = profitPerMonth(r.unitProfit, r.units, doc.monthlyFixedCosts);
  r.cashCycleDays = cashCycle(r, doc);
  r.turns = turnsAYear(r.cover, r.cashCycleDays);

  if (r.trace !== null) traceResult(r, doc, r.trace);
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

const amount = (name: string, value: number): Term => [name, value, 'money', ''];

/** The lines of a sum as terms, and as the formula that takes them from what stands before (or adds them up). */
function traceSum(
  r: Reckoning,
  sum: Sum,
  total: number,
  before: readonly [string, number][],
  t: Trace,
): void {
  const lines = SUM_LINES[sum];
  const [first] = before;
  const formula =
    first === undefined
      ? lines.join(' + ')
      : [first[0], ...before.slice(1).map(([n]) => n), ...lines].join(' - ');
  t.line(sum, total, formula, [
    ...before.map(([name, value]) => amount(name, value)),
    ...lines.map((line) => amount(line, amountOf(r, line))),
  ]);
}

function traceResult(r: Reckoning, doc: LaneDocument, t: Trace): void {
  if (r.irrecoverableVat !== 0)
    t.line('irrecoverableVat', r.irrecoverableVat, 'purchaseVat + importVat', [
      ['standing', doc.standing?.kind ?? null, 'text', 'standing'],
      amount('importVat', r.importVat),
      amount('purchaseVat', r.irrecoverableVat - r.importVat),
    ]);
  traceSum(r, 'landedCost', r.landedCost, [], t);
  t.line('landedCash', r.landedCash, 'landedCost + recoverableVat + cashbackToCome', [
    amount('landedCost', r.landedCost),
    amount('recoverableVat', r.recoverableVat),
    amount('cashbackToCome', r.cashback),
  ]);
  traceSum(r, 'proceeds', r.proceeds, [['netRevenue', r.netRevenue]], t);
  const left = [
    ['proceeds', r.proceeds],
    ['landedCost', r.landedCost],
  ] as const;
  traceSum(
    r,
    'contribution',
    r.contribution,
    left.map(([n, v]) => [n, v]),
    t,
  );
  traceSum(r, 'unitProfit', r.unitProfit, [['contribution', r.contribution]], t);
}
