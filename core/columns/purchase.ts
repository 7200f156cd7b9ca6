/** What buying a row costs: how much is ordered, the goods, the way in. */
import { BIT } from '../lane/lines.ts';
import { cashback, packRatio, percentOff, quotedGoods, retailGoods, salesTax } from '../rules/goods.ts';
import { isUnknown } from '../rules/numbers.ts';
import { shareOfMarket } from '../rules/demand.ts';
import { vatLost, vatRecovered, withoutVat } from '../rules/revenue.ts';
import { landedCash, landedCost, perUnit } from '../rules/wayIn.ts';
import { paidAt, quantityOf } from './assumptions.ts';
import type { Assumptions } from './assumptions.ts';
import type { Slice } from './block.ts';
import { CODE } from './terms.ts';

/** Units a month and the order: in the list's quantity, or as many as minimum and whole cartons take. */
export function reckonOrders(slice: Slice, set: Assumptions): void {
  const { columns, block, terms, from, count } = slice;
  const { units, soldPack, boughtPack, minimumOrder, carton } = columns;
  const { cost, breakFrom, breakCost, breakFrom2, breakCost2 } = columns;
  const { sells, packRatio: ratios, quantity, paid, blanks } = block;
  for (let j = 0; j < count; j++) {
    const i = from + j;
    const [sold, bought] = [soldPack[i] as number, boughtPack[i] as number];
    const ratio = packRatio(sold, bought);
    const order = quantityOf(set, sold, bought, minimumOrder[i] as number, carton[i] as number);
    const expected = shareOfMarket(units[i] as number, terms.unitsShare);
    if (isUnknown(expected)) blanks[j] = (blanks[j] as number) | BIT.demand;
    sells[j] = expected;
    ratios[j] = ratio;
    quantity[j] = order;
    paid[j] = paidAt(
      cost[i] as number,
      breakFrom[i] as number,
      breakCost[i] as number,
      breakFrom2[i] as number,
      breakCost2[i] as number,
      order * ratio,
    );
  }
}

/** The goods, from a quote or from a shop, and the VAT on them (economics, section 3). */
export function reckonGoods({ columns, block, terms, from, count }: Slice): void {
  const { vatRate } = columns;
  const { paid, packRatio: ratios, goods, recoverableVat, irrecoverableVat, blanks, troubles } = block;
  const { purchase, purchaseFx, isRetail, hasVat, isVatIncluded, purchaseVatIsCost } = terms;
  for (let j = 0; j < count; j++) {
    const price = isRetail ? percentOff(paid[j] as number, purchase.discount) : (paid[j] as number);
    const ownRate = vatRate[from + j] as number;
    const rate = !hasVat ? 0 : isUnknown(ownRate) ? purchase.vatRate : ownRate;
    const net = isVatIncluded ? withoutVat(price, rate) : price;
    const atQuote = quotedGoods(net, ratios[j] as number, purchaseFx);
    const vat = rate === 0 ? 0 : atQuote * rate;
    goods[j] = atQuote;
    recoverableVat[j] = vatRecovered(vat, purchaseVatIsCost);
    irrecoverableVat[j] = vatLost(vat, purchaseVatIsCost);
    if (isUnknown(price)) blanks[j] = (blanks[j] as number) | BIT.goods;
    else if (isUnknown(atQuote) && troubles[j] === 0) troubles[j] = CODE.noExchangeRate;
  }
  if (isRetail) takeShopTerms({ columns, block, terms, from, count } as Slice);
  else block.cashback.fill(0, 0, count);
}

/** Goods from a shop: its sales tax on top, cashback off, which comes later. */
function takeShopTerms({ columns, block, terms, from, count }: Slice): void {
  const { vatRate } = columns;
  const { paid, packRatio: ratios, goods, cashback: toCome } = block;
  const { purchase, purchaseFx, hasVat, isVatIncluded } = terms;
  for (let j = 0; j < count; j++) {
    const price = percentOff(paid[j] as number, purchase.discount);
    const ownRate = vatRate[from + j] as number;
    const rate = !hasVat ? 0 : isUnknown(ownRate) ? purchase.vatRate : ownRate;
    const net = isVatIncluded ? withoutVat(price, rate) : price;
    const back = cashback(net, purchase.cashback, 0);
    const ratio = ratios[j] as number;
    goods[j] = retailGoods(net, salesTax(net, purchase.salesTax), 0, back, purchaseFx, 0, ratio);
    toCome[j] = quotedGoods(back, ratio, purchaseFx);
  }
}

/** The way in, per unit and per kg, and what a unit costs landed; nothing crosses a customs border (section 4). */
export function reckonWayIn({ columns, block, terms, from, count }: Slice): void {
  const { kg } = columns;
  const { goods, irrecoverableVat, recoverableVat, cashback: toCome, quantity, blanks, troubles } = block;
  const { landedCost: cost, landedCash: cash } = block;
  const { inboundPerUnit, inboundPerKg, homeFx, prep } = terms;
  for (let j = 0; j < count; j++) {
    const order = quantity[j] as number;
    let freight = inboundPerUnit > 0 ? perUnit(inboundPerUnit * order * homeFx, order) : 0;
    if (inboundPerKg > 0) {
      const weight = kg[from + j] as number;
      if (isUnknown(weight)) blanks[j] = (blanks[j] as number) | BIT.freight;
      else {
        freight += perUnit(inboundPerKg * (order * weight) * homeFx, order);
        if (isUnknown(homeFx)) troubles[j] = CODE.noExchangeRate;
      }
    }
    cost[j] = landedCost(goods[j] as number, 0, freight, 0, 0, 0, prep, irrecoverableVat[j] as number);
    cash[j] = landedCash(cost[j] as number, recoverableVat[j] as number, toCome[j] as number);
  }
}
