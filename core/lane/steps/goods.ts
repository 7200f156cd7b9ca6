import { atLeast, isUnknown } from '../../rules/numbers.ts';
import { buyingCosts, packRatio, priceBreakAt, quotedGoods, retailGoods } from '../../rules/goods.ts';
import { WHEN_PAID } from '../reckoning.ts';
import type { Reckoning } from '../reckoning.ts';
import { netOf } from '../../money/net.ts';
import type { Component, Quote, RetailPurchase } from '../schema.ts';
import { lacksTerms, retailSteps } from './retail.ts';

/** Bought units per sold unit of a component. */
export const ratioOf = (c: Component): number => packRatio(c.unitsInSoldPack, c.unitsInBoughtPack);

/**
 * What the goods cost (economics, section 3), net of VAT, per unit sold, in the sales currency.
 * Sets goods, buyingCosts, cashback to come and the VAT on the purchase.
 *
 * Decisions: an order quantity that is not typed is 1 where the supplier ships or the goods are bought
 * retail; else the goods are blank. Charges per order carry no VAT of their own. paySpread falls on the goods
 * whatever their currency.
 */
export function reckonGoods(r: Reckoning): void {
  const doc = r.doc;
  r.buyingCosts = 0;
  if (doc.goods === 'none') {
    r.quantity = doc.orderQuantity ?? (doc.method === 'supplierShips' ? 1 : Number.NaN);
    r.goods = 0;
    r.trace?.line('goods', 0, '0', []);
    return;
  }
  const retailOnly = doc.goods !== null && allRetail(doc.goods);
  r.quantity = doc.orderQuantity ?? (doc.method === 'supplierShips' || retailOnly ? 1 : Number.NaN);
  if (doc.goods === null) {
    r.blank('goods');
    r.goods = Number.NaN;
    return;
  }
  let goods = 0;
  let perOrder = 0;
  for (let i = 0; i < doc.goods.length; i++) {
    const c = doc.goods[i] as Component;
    const k = ratioOf(c);
    if (c.source.kind === 'quote') {
      goods += reckonQuote(r, c.source, i, k);
      let charges = 0;
      for (let j = 0; j < c.source.perOrder.length; j++)
        charges += (c.source.perOrder[j] as { amount: number | null }).amount ?? Number.NaN;
      if (charges !== 0) perOrder += charges * r.fx(c.source.currency, 'goods');
    } else goods += reckonRetail(r, c.source, i, k);
  }
  r.goods = goods;
  r.buyingCosts = buyingCosts(perOrder, r.quantity, doc.buyingSpread, goods);
  r.trace?.line('buyingCosts', r.buyingCosts, 'chargesPerOrder / orderQuantity + buyingSpread * goods', [
    ['chargesPerOrder', perOrder, 'money', 'goods'],
    ['orderQuantity', r.quantity, 'pieces', 'orderQuantity'],
    ['buyingSpread', doc.buyingSpread, 'share', 'buyingSpread'],
    ['goods', goods, 'money', ''],
  ]);
}

function allRetail(goods: readonly Component[]): boolean {
  for (let i = 0; i < goods.length; i++) if ((goods[i] as Component).source.kind !== 'retail') return false;
  return true;
}

/** Whether one of these amounts was opened and not filled in yet. */
function isOpen(amounts: readonly { readonly amount: number | null }[]): boolean {
  for (let i = 0; i < amounts.length; i++) if (amounts[i]?.amount === null) return true;
  return false;
}

/** `(unitPrice(B) + extras) * k`, net of VAT. */
function reckonQuote(r: Reckoning, q: Quote, index: number, k: number): number {
  const doc = r.doc;
  if (q.validUntil !== null && doc.date > q.validUntil)
    r.notice('quoteExpired', `goods.${index}.source.validUntil`, {
      supplier: q.supplier || '—',
      date: q.validUntil,
    });
  const bought = r.quantity * k;
  const overridden = r.tried.component === index;
  let unitPrice: number | null = r.tried.unitPrice;
  let at = -1;
  if (isUnknown(bought)) {
    // The quantity is blank: a quote with a single price still has no order to be checked against.
    r.blank('goods');
    return Number.NaN;
  }
  at = priceBreakAt(q.priceBreaks, bought);
  // A price that is tried needs no break: it is then the price to ask for.
  if ((at < 0 && !overridden) || !atLeast(bought, q.minimumOrder)) {
    r.landVat(Number.NaN, q, WHEN_PAID.goods);
    return at < 0 && !overridden
      ? r.problem('underFirstBreak', 'goods', 'orderQuantity', {
          minQty: q.priceBreaks[0]?.minQty ?? 0,
          bought,
        })
      : r.problem('underMinimumOrder', 'goods', 'orderQuantity', { minimum: q.minimumOrder, bought });
  }
  if (!overridden) unitPrice = (q.priceBreaks[at] as { unitPrice: number | null }).unitPrice;
  if (unitPrice === null || isOpen(q.extras) || isOpen(q.perOrder)) {
    r.blank('goods');
    return Number.NaN;
  }
  let extras = 0;
  for (let j = 0; j < q.extras.length; j++)
    extras += (q.extras[j] as { amount: number | null }).amount ?? Number.NaN;
  const fx = r.fx(q.currency, 'goods');
  const net = quotedGoods(netOf(unitPrice + extras, q), k, fx);
  r.landVat(net, q, WHEN_PAID.goods);
  r.trace?.line(
    'goods',
    net,
    q.vat === 'included'
      ? '(unitPrice + extras) / (1 + vatRate) * packRatio * exchangeRate'
      : '(unitPrice + extras) * packRatio * exchangeRate',
    [
      ['unitPrice', unitPrice, 'number', `goods.${index}.source.priceBreaks.${at}.unitPrice`],
      ['extras', extras, 'number', `goods.${index}.source.extras`],
      ['packRatio', k, 'number', `goods.${index}.unitsInSoldPack`],
      ['exchangeRate', fx, 'number', q.currency === doc.currency ? '' : 'rates.exchange'],
      ['vatRate', q.vatRate, 'share', `goods.${index}.source.vatRate`],
      ['orderQuantity', r.quantity, 'pieces', 'orderQuantity'],
    ],
  );
  return net;
}

/** A retail purchase in the order of section 3: discounts, sales tax, gift cards, cashback, delivery. */
function reckonRetail(r: Reckoning, s: RetailPurchase, index: number, k: number): number {
  const doc = r.doc;
  if (s.validUntil !== null && doc.date > s.validUntil)
    r.notice('quoteExpired', `goods.${index}.source.validUntil`, {
      supplier: s.supplier || '—',
      date: s.validUntil,
    });
  const p0 = r.tried.component === index ? r.tried.unitPrice : s.shelfPrice;
  if (p0 === null || lacksTerms(s)) {
    r.blank('goods');
    return Number.NaN;
  }
  const {
    afterDiscounts: p1,
    net: net1,
    salesTax: tax,
    giftCardSaving: saving,
    cashback: toCome,
  } = retailSteps(s, p0, r.retail);
  const fx = r.fx(s.currency, 'goods');
  r.landVat(net1 * k * fx, s, WHEN_PAID.goods);
  let delivery = 0;
  if (s.delivery !== null) {
    const bought = r.quantity * k;
    const net =
      (netOf(s.delivery.amount ?? Number.NaN, s.delivery) * r.fx(s.delivery.currency, 'goods')) / bought;
    r.landVat(net * k, s.delivery, WHEN_PAID.goods);
    delivery = net;
  }
  r.cashback += toCome * k * fx;
  const net = retailGoods(net1, tax, saving, toCome, fx, delivery, k);
  r.trace?.line(
    'goods',
    net,
    '((net + salesTax - giftCardSaving - cashback) * exchangeRate + delivery) * packRatio',
    [
      ['shelfPrice', p0, 'number', `goods.${index}.source.shelfPrice`],
      ['afterDiscounts', p1, 'number', `goods.${index}.source.discounts`],
      ['net', net1, 'number', ''],
      ['salesTax', tax, 'number', `goods.${index}.source.salesTax`],
      ['giftCardSaving', saving, 'number', `goods.${index}.source.giftCard`],
      ['cashback', toCome, 'number', `goods.${index}.source.cashback`],
      ['exchangeRate', fx, 'number', s.currency === doc.currency ? '' : 'rates.exchange'],
      ['delivery', delivery, 'money', `goods.${index}.source.delivery`],
      ['packRatio', k, 'number', `goods.${index}.unitsInSoldPack`],
    ],
  );
  return net;
}
