/**
 * What a unit pays and brings, and when: the amounts of a lane as cash (planning, section 1). They come out of the
 * one set of rules by reckoning it twice, once as it is and once with every VAT as a cost, so that the difference of a
 * line is the VAT that is reclaimed.
 */
import { amountOf } from '../lane/costLines.ts';
import { reckon } from '../lane/reckon.ts';
import { Reckoning, WHEN_PAID } from '../lane/reckoning.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { feesBearingVat } from '../lane/steps/marketplace.ts';
import { exchangeFactor } from '../money/money.ts';

/** Of a unit of an order, home currency: what is paid when, VAT included, and what of it is reclaimed. */
export type OrderCash = {
  /** Goods, buying costs, cashback still to come, the VAT on them: with the order and after the lead time. */
  readonly goods: number;
  /** Legs on the way, insurance, duty, import charges and VAT: on arrival in the country. */
  readonly way: number;
  /** Preparation and the way to the warehouse: when it is on sale. */
  readonly ready: number;
  readonly goodsVat: number;
  readonly wayVat: number;
  readonly readyVat: number;
  /** Comes in later. */
  readonly cashback: number;
  readonly landedCost: number;
};
/** Of a unit sold, home currency. What goes out is above 0, VAT included where it is charged. */
export type SaleCash = {
  /** After conversion; what the marketplace pays out, by its periods. */
  readonly payout: number;
  readonly dispatch: number;
  readonly storage: number;
  /** Handling and disposal, by the share that is returned. */
  readonly returns: number;
  readonly other: number;
  readonly adverts: number;
  readonly freeExtra: number;
  /** What a sale adds to the VAT account: output VAT and reverse charge, less what is reclaimed. */
  readonly vat: number;
  /** Of that, what adverts add, and what is reclaimed of dispatch, storage, returns and other costs. */
  readonly advertsVat: number;
  readonly ownVat: number;
  /** Share that comes back, and of that the share that is sold again as new. */
  readonly returned: number;
  readonly resold: number;
  readonly unitProfit: number;
};
export type CashPerUnit = { readonly order: OrderCash; readonly sale: SaleCash };

const asIs = new Reckoning();
const withVat = new Reckoning();

/**
 * Cash of a unit of an order of so many, home currency. Units a month are held. A line that is not known is left out:
 * what a lane lacks is asked first (`cashOf`).
 */
export function orderCash(doc: LaneDocument, quantity: number, units: number): OrderCash {
  asIs.tried.release();
  asIs.tried.holdUnits(units);
  return orderOf(reckon({ ...doc, orderQuantity: quantity }, asIs), homeFactor(doc));
}

const homeFactor = (doc: LaneDocument): number =>
  exchangeFactor(doc.rates.exchange, doc.currency, doc.homeCurrency);

function orderOf(r: Reckoning, h: number): OrderCash {
  const paid = (when: number): number => r.vatPaid[when] as number;
  const back = (when: number): number => r.vatBack[when] as number;
  const { goods, way, ready } = WHEN_PAID;
  const legs = r.originLegs + r.mainLegs + r.destinationLegs;
  return {
    goods: (r.goods + r.buyingCosts + r.cashback + paid(goods)) * h,
    way: (legs + r.insurance + r.duty + r.importCharges + paid(way)) * h,
    ready: (r.prep + r.inboundLegs + paid(ready)) * h,
    goodsVat: back(goods) * h,
    wayVat: back(way) * h,
    readyVat: back(ready) * h,
    cashback: r.cashback * h,
    landedCost: r.landedCost * h,
  };
}

/**
 * Cash of a unit of the lane at so many units a month.
 *
 * Decisions: VAT on adverts and fees under reverse charge is no cash where it is recovered, and leaves through the VAT
 * account where it is a cost; a supplier's own delivery goes out on the day of the sale.
 */
export function cashPerUnit(doc: LaneDocument, units: number): CashPerUnit {
  asIs.tried.release();
  asIs.tried.holdUnits(units);
  withVat.tried.release();
  withVat.tried.holdUnits(units);
  withVat.tried.allVatIsCost = true;
  const r = reckon(doc, asIs);
  const v = reckon(doc, withVat);
  const h = homeFactor(doc);
  const terms = doc.returns === null || doc.returns === 'none' ? null : doc.returns;
  const s = terms?.resaleShare ?? 0;
  const ownCost = (x: Reckoning): number[] => [
    x.fulfilmentIsMarketplaces ? 0 : x.fulfilment,
    x.storageIsMarketplaces ? 0 : x.storage,
    x.returnRate * (x.handling + (1 - s) * x.disposal),
    amountOf(x, 'other'),
  ];
  const [dispatch = 0, storage = 0, returns = 0, other = 0] = ownCost(v);
  const cost = ownCost(r).reduce((a, b) => a + b, 0);
  const reclaimed = dispatch + storage + returns + other - cost;
  const fees = feeVatOf(r);
  const adverts = advertsOf(r);
  const outputVat = (1 - r.returnRate) * (r.outputVat - r.withheldVat);
  return {
    order: orderOf(r, h),
    sale: {
      payout: (r.payout - r.currencyConversion) * h,
      dispatch: dispatch * h,
      storage: storage * h,
      returns: returns * h,
      other: other * h,
      adverts: adverts.paid * h,
      freeExtra: -amountOf(r, 'freeExtra') * h,
      vat: (outputVat + fees + adverts.vat - reclaimed) * h,
      advertsVat: adverts.vat * h,
      ownVat: reclaimed * h,
      returned: r.returnRate,
      resold: s,
      unitProfit: r.unitProfit * h,
    },
  };
}

/**
 * What VAT on the marketplace's fees adds to the VAT account: reverse charge that is a cost, less what is
 * reclaimed.
 */
function feeVatOf(r: Reckoning): number {
  const terms = r.doc.rates.marketplace?.feeVat;
  if (terms === undefined || terms.treatment === 'none') return 0;
  const vat = feesBearingVat(r) * terms.rate;
  if (vat === 0) return 0;
  return terms.treatment === 'charged' ? (r.vatIsCost === 1 ? 0 : -vat) : r.vatIsCost === 0 ? 0 : vat;
}

/** What adverts take in cash, and what their VAT adds to the VAT account. */
function advertsOf(r: Reckoning): { readonly paid: number; readonly vat: number } {
  const { charged, account } = advertVat(r);
  const net = r.adverts / r.advertVatFactor;
  return { paid: net * (1 + charged), vat: net * account };
}

/** VAT on a click, as shares of its net cost: what is charged with it, and what it adds to the VAT account. */
export function advertVat(r: Reckoning): { readonly charged: number; readonly account: number } {
  const terms = r.doc.rates.marketplace?.advertVat;
  if (terms === undefined || terms.treatment === 'none' || terms.rate <= 0) return { charged: 0, account: 0 };
  if (terms.treatment === 'charged')
    return { charged: terms.rate, account: r.vatIsCost === 1 ? 0 : -terms.rate };
  return { charged: 0, account: r.vatIsCost === 0 ? 0 : terms.rate };
}
