/** What is left of a row: returns, conversion of the payout, the result (economics, sections 6 and 8). */
import { feeVat } from '../rules/fees.ts';
import { breakage, currencyConversion, feeBack, payout, refundFee } from '../rules/returns.ts';
import { refundFeeBeforeMax, returnsAllowance } from '../rules/returns.ts';
import { contribution, proceeds, profitPerMonth, ratio, unitProfit } from '../rules/result.ts';
import { BENDS } from './block.ts';
import type { Block, Slice } from './block.ts';
import { charged } from './sale.ts';
import type { Terms } from './terms.ts';

/** Fees of row j that come back on a return, with the VAT they bear. */
const feesBackOf = (b: Block, j: number, back: Terms['back'], vat: Terms['backVat']): number =>
  feeBack(back.referral, b.referral[j] as number, vat.referral) +
  feeBack(back.itemFee, b.itemFee[j] as number, vat.itemFee) +
  feeBack(back.payment, b.payment[j] as number, vat.payment) +
  feeBack(back.surcharges, b.surcharges[j] as number, vat.surcharges);

/** The refund administration fee of row j. */
function adminOf(b: Block, j: number, terms: Terms, bends: Float64Array | null): number {
  const { adminPct, adminMax, back, power } = terms;
  if (adminPct <= 0) return 0;
  const beforeMax = refundFeeBeforeMax(adminPct, back.referral, b.referral[j] as number);
  if (bends !== null) bends[BENDS.refundFee] = adminMax === null ? 0 : beforeMax - adminMax;
  return charged(refundFee(beforeMax, adminMax), power, bends);
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

/** What turning the payout of row j into the home currency costs. */
function conversionOf({ block: b, terms, bends }: Slice, j: number, admin: number): number {
  if (!terms.isConverted) return 0;
  const q = terms.returnRate;
  const feesBack = q > 0 ? feesBackOf(b, j, terms.back, terms.backVatPaid) : 0;
  const paidOut = payout(
    q,
    b.gross[j] as number,
    b.withheldVat[j] as number,
    feesChargedOf(b, j, terms),
    feesBack,
    admin * terms.adminCharged,
  );
  if (bends !== null) bends[BENDS.payout] = paidOut;
  return currencyConversion(terms.conversionSpread, paidOut);
}

/** What returns cost row j. */
function returnsOf({ block: b, terms }: Slice, j: number, admin: number): number {
  const q = terms.returnRate;
  return q === 0
    ? 0
    : returnsAllowance(
        q,
        b.netRevenue[j] as number,
        feesBackOf(b, j, terms.back, terms.backVat),
        admin * terms.adminCost,
        terms.handling,
        terms.resaleShare,
        terms.disposal,
        b.landedCost[j] as number,
      );
}

/** The result of each row, and all its figures into the columns. */
export function reckonOutcomes(slice: Slice): void {
  const { block: b, terms, out, shift, from, count, bends } = slice;
  const { feeVatCost, breakageShare, other, adverts, returnRate } = terms;
  for (let j = 0; j < count; j++) {
    const at = from + j - shift;
    const net = b.netRevenue[j] as number;
    const landed = b.landedCost[j] as number;
    const [referral, itemFee, payment] = [
      b.referral[j] as number,
      b.itemFee[j] as number,
      b.payment[j] as number,
    ];
    const extra = b.surcharges[j] as number;
    const vat = feeVat(b.feesWithVat[j] as number, feeVatCost);
    const admin = returnRate > 0 ? adminOf(b, j, terms, bends) : 0;
    const conversion = conversionOf(slice, j, admin);
    const returns = returnsOf(slice, j, admin);
    const [fulfilment, stored] = [b.fulfilment[j] as number, b.storage[j] as number];
    const left = proceeds(net, referral, itemFee, payment, extra, 0, vat, fulfilment, stored, conversion);
    const before = contribution(left, landed, breakage(landed, breakageShare), returns, other, 0);
    out.fees[at] = referral + itemFee + payment + extra + vat;
    out.proceeds[at] = left;
    out.contribution[at] = before;
    out.unitProfit[at] = unitProfit(before, adverts);
  }
  writeRest(slice);
}

/** The ratios, and what the steps before have left. */
function writeRest({ block: b, out, shift, from, count }: Slice): void {
  for (let j = 0; j < count; j++) {
    const at = from + j - shift;
    const profit = out.unitProfit[at] as number;
    out.gross[at] = b.gross[j] as number;
    out.netRevenue[at] = b.netRevenue[j] as number;
    out.fulfilment[at] = b.fulfilment[j] as number;
    out.goods[at] = b.goods[j] as number;
    out.landedCost[at] = b.landedCost[j] as number;
    out.landedCash[at] = b.landedCash[j] as number;
    out.margin[at] = ratio(profit, b.netRevenue[j] as number);
    out.roi[at] = ratio(profit, b.landedCost[j] as number);
    out.profitPerMonth[at] = profitPerMonth(profit, b.sells[j] as number, 0);
    out.quantity[at] = b.quantity[j] as number;
    out.paid[at] = b.paid[j] as number;
    out.blanks[at] = b.blanks[j] as number;
    out.trouble[at] = b.troubles[j] as number;
  }
}
