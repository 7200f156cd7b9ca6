/** What buying a row costs: how much is ordered, the goods, the way in. */
import { BIT } from '../lane/blanks.ts';
import { cashback, packRatio, percentOff, quotedGoods, retailGoods, salesTax } from '../rules/goods.ts';
import { isUnknown } from '../rules/numbers.ts';
import { shareOfMarket } from '../rules/demand.ts';
import { vatLost, vatRecovered, withoutVat } from '../rules/revenue.ts';
import { landedCash, perUnit } from '../rules/wayIn.ts';
import { paidAt, quantityOf } from './assumptions.ts';
import { fillRows } from './block.ts';
import type { Assumptions } from './assumptions.ts';
import type { Slice } from './block.ts';
import { CODE } from './terms.ts';

/** What is blank, and what keeps an answer away, for every row alike. */
export function startRows({ terms, out, at, count }: Slice): void {
  out.blanks.fill(terms.blanks, at, at + count);
  out.trouble.fill(terms.trouble, at, at + count);
}

/** Units a month and the order: in the list's quantity, or as many as minimum and whole cartons take. */
export function reckonOrders(slice: Slice, set: Assumptions): void {
  const { columns, block, terms, out, from, at, count } = slice;
  const { units, soldPack, boughtPack, minimumOrder, carton } = columns;
  const { cost, breakFrom, breakCost, breakFrom2, breakCost2 } = columns;
  const { sells, packRatio: ratios } = block;
  const { quantity, paid, blanks } = out;
  const { unitsShare } = terms;
  for (let j = 0; j < count; j++) {
    const i = from + j;
    const sold = soldPack[i] as number;
    const bought = boughtPack[i] as number;
    const ratio = packRatio(sold, bought);
    const order = quantityOf(set, sold, bought, minimumOrder[i] as number, carton[i] as number);
    const expected = shareOfMarket(units[i] as number, unitsShare);
    if (isUnknown(expected)) blanks[at + j] = (blanks[at + j] as number) | BIT.demand;
    sells[j] = expected;
    ratios[j] = ratio;
    quantity[at + j] = order;
    paid[at + j] = paidAt(
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
export function reckonGoods(slice: Slice): void {
  const { columns, block, terms, out, from, at, count } = slice;
  const { vatRate } = columns;
  const { packRatio: ratios, recoverableVat, irrecoverableVat } = block;
  const { paid, goods, blanks, trouble } = out;
  const { purchase, purchaseFx, isRetail, hasVat, isVatIncluded, purchaseVatIsCost } = terms;
  for (let j = 0; j < count; j++) {
    const price = isRetail ? percentOff(paid[at + j] as number, purchase.discount) : (paid[at + j] as number);
    const ownRate = vatRate[from + j] as number;
    const rate = !hasVat ? 0 : isUnknown(ownRate) ? purchase.vatRate : ownRate;
    const net = isVatIncluded ? withoutVat(price, rate) : price;
    const atQuote = quotedGoods(net, ratios[j] as number, purchaseFx);
    const vat = rate === 0 ? 0 : atQuote * rate;
    goods[at + j] = atQuote;
    recoverableVat[j] = vatRecovered(vat, purchaseVatIsCost);
    irrecoverableVat[j] = vatLost(vat, purchaseVatIsCost);
    if (isUnknown(price)) blanks[at + j] = (blanks[at + j] as number) | BIT.goods;
    else if (isUnknown(atQuote) && trouble[at + j] === 0) trouble[at + j] = CODE.noExchangeRate;
  }
  if (isRetail) takeShopTerms(slice);
  else fillRows(block.cashback, 0, 0, count);
}

/** Goods from a shop: its sales tax on top, cashback off, which comes later. */
function takeShopTerms({ columns, block, terms, out, from, at, count }: Slice): void {
  const { vatRate } = columns;
  const { packRatio: ratios, cashback: toCome } = block;
  const { paid, goods } = out;
  const { purchase, purchaseFx, hasVat, isVatIncluded } = terms;
  for (let j = 0; j < count; j++) {
    const price = percentOff(paid[at + j] as number, purchase.discount);
    const ownRate = vatRate[from + j] as number;
    const rate = !hasVat ? 0 : isUnknown(ownRate) ? purchase.vatRate : ownRate;
    const net = isVatIncluded ? withoutVat(price, rate) : price;
    const back = cashback(net, purchase.cashback, 0);
    const ratio = ratios[j] as number;
    goods[at + j] = retailGoods(net, salesTax(net, purchase.salesTax), 0, back, purchaseFx, 0, ratio);
    toCome[j] = quotedGoods(back, ratio, purchaseFx);
  }
}

/** The way in, per unit and per kg, and what a unit costs landed; nothing crosses a customs border (section 4). */
export function reckonWayIn({ columns, block, terms, out, from, at, count }: Slice): void {
  const { kg } = columns;
  const { irrecoverableVat, recoverableVat, cashback: toCome } = block;
  const { goods, quantity, landedCost: costs, landedCash: cash, blanks, trouble } = out;
  const { inboundPerUnit, inboundPerKg, homeFx, prep } = terms;
  for (let j = 0; j < count; j++) {
    const order = quantity[at + j] as number;
    let freight = inboundPerUnit > 0 ? perUnit(inboundPerUnit * order * homeFx, order) : 0;
    if (inboundPerKg > 0) {
      const weight = kg[from + j] as number;
      if (isUnknown(weight)) blanks[at + j] = (blanks[at + j] as number) | BIT.freight;
      else {
        freight += perUnit(inboundPerKg * (order * weight) * homeFx, order);
        if (isUnknown(homeFx)) trouble[at + j] = CODE.noExchangeRate;
      }
    }
    const vat = irrecoverableVat[j] as number;
    // The lines of the landed cost that a list has.
    const cost = (goods[at + j] as number) + freight + prep + vat;
    costs[at + j] = cost;
    cash[at + j] = landedCash(cost, recoverableVat[j] as number, toCome[j] as number);
  }
}
