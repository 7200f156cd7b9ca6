/** What is left of a row: returns, conversion of the payout, the result (economics, sections 6 and 8). */
import { feeVat } from '../rules/fees.ts';
import { breakage, currencyConversion, feeBack, payout, refundFee } from '../rules/returns.ts';
import { refundFeeBeforeMax, returnsAllowance } from '../rules/returns.ts';
import { contribution, proceeds, profitPerMonth, ratio, unitProfit } from '../rules/result.ts';
import { withVat } from '../rules/revenue.ts';
import { BENDS, fillRows } from './block.ts';
import type { Block, Slice } from './block.ts';
import { charged, feesIn } from './sale.ts';
import type { FeeBack, Terms } from './terms.ts';

/** The fees of each row that come back on a return, with the VAT they bear: as a cost, or as it is paid out. */
function sumFeesBack(
  block: Block,
  fees: Terms['feesBack'],
  vat: 'costVat' | 'paidVat',
  into: Float64Array,
  count: number,
): void {
  fillRows(into, 0, 0, count);
  for (let k = 0; k < fees.length; k++) {
    const back = fees[k] as FeeBack;
    const fee = feesIn(block, back.fee);
    const rate = vat === 'costVat' ? back.costVat : back.paidVat;
    for (let j = 0; j < count; j++)
      into[j] = (into[j] as number) + feeBack(back.part, fee[j] as number, rate);
  }
}

/** The refund administration fee, and what returns cost (section 6). */
export function reckonReturns({ block: b, terms, out, bends, at, count }: Slice): void {
  const { refundFee: admins, returns, referral, feeSum } = b;
  const { netRevenue, landedCost } = out;
  const { adminPct, adminMax, adminBack, adminCostVat, power, returnRate } = terms;
  const { handling, disposal, resaleShare } = terms;
  if (returnRate === 0) {
    fillRows(admins, 0, 0, count);
    fillRows(returns, 0, 0, count);
    return;
  }
  sumFeesBack(b, terms.feesBack, 'costVat', feeSum, count);
  for (let j = 0; j < count; j++) {
    const beforeMax = adminPct > 0 ? refundFeeBeforeMax(adminPct, adminBack, referral[j] as number) : 0;
    if (bends !== null)
      bends[BENDS.refundFee] = adminMax === null || adminPct <= 0 ? 0 : beforeMax - adminMax;
    const admin = charged(refundFee(beforeMax, adminPct > 0 ? adminMax : null), power, bends);
    admins[j] = admin;
    returns[j] = returnsAllowance(
      returnRate,
      netRevenue[at + j] as number,
      feeSum[j] as number,
      withVat(admin, adminCostVat),
      handling,
      resaleShare,
      disposal,
      landedCost[at + j] as number,
    );
  }
}

/** What turning the payout into the home currency costs (section 8). */
export function reckonConversions({ block: b, terms, out, bends, at, count }: Slice): void {
  const { conversion, refundFee: admins, feeSum } = b;
  const { gross, netRevenue } = out;
  const { isConverted, isWithheld, conversionSpread, returnRate, adminPaidVat, feesBack } = terms;
  if (!isConverted) {
    fillRows(conversion, 0, 0, count);
    return;
  }
  sumFeesBack(b, returnRate > 0 ? feesBack : [], 'paidVat', feeSum, count);
  for (let j = 0; j < count; j++) {
    const shelf = gross[at + j] as number;
    const paidOut = payout(
      returnRate,
      shelf,
      isWithheld ? shelf - (netRevenue[at + j] as number) : 0,
      feesChargedOf(b, j, terms),
      feeSum[j] as number,
      withVat(admins[j] as number, adminPaidVat),
    );
    if (bends !== null) bends[BENDS.payout] = paidOut;
    conversion[j] = currencyConversion(conversionSpread, paidOut);
  }
}

/** What the marketplace charges of row j, with VAT where it charges that. */
function feesChargedOf(b: Block, j: number, { isWarehouse, feeVatCharged }: Terms): number {
  let fees =
    (b.referral[j] as number) +
    (b.itemFee[j] as number) +
    (b.payment[j] as number) +
    (b.surcharges[j] as number);
  if (isWarehouse) fees += (b.fulfilment[j] as number) + (b.storage[j] as number);
  if (feeVatCharged > 0) fees += feeVat(b.feesWithVat[j] as number, feeVatCharged);
  return fees;
}

/** The result of each row (section 8). */
export function reckonResults({ block: b, terms, out, at: first, count }: Slice): void {
  const { referral, itemFee, payment, surcharges, feesWithVat, fulfilment, storage } = b;
  const { conversion, returns, sells } = b;
  const { netRevenue, landedCost } = out;
  const { feeVatCost, breakageShare, other, adverts } = terms;
  for (let j = 0; j < count; j++) {
    const at = first + j;
    const net = netRevenue[at] as number;
    const cost = landedCost[at] as number;
    const vat = feeVat(feesWithVat[j] as number, feeVatCost);
    const fees =
      (referral[j] as number) +
      (itemFee[j] as number) +
      (payment[j] as number) +
      (surcharges[j] as number) +
      vat;
    const sent = fulfilment[j] as number;
    const left = proceeds(net, fees + sent + (storage[j] as number) + (conversion[j] as number));
    const losses = (returns[j] as number) + breakage(cost, breakageShare) + other;
    const before = contribution(left, cost, losses);
    const profit = unitProfit(before, adverts);
    out.fees[at] = fees;
    out.fulfilment[at] = sent;
    out.proceeds[at] = left;
    out.contribution[at] = before;
    out.unitProfit[at] = profit;
    out.margin[at] = ratio(profit, net);
    out.roi[at] = ratio(profit, cost);
    out.profitPerMonth[at] = profitPerMonth(profit, sells[j] as number, 0);
  }
}
