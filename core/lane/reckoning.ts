import { isUnknown, roundMinor } from '../rules/numbers.ts';
import { atCost, vatLost, vatRecovered } from '../rules/revenue.ts';
import { exchangeFactor, minorDigits, powerOfTen } from '../money/money.ts';
import { netOf } from '../money/net.ts';
import type { Vatable } from '../money/net.ts';
import type { PurchasedLine } from '../money/schema.ts';
import { BIT } from './blanks.ts';
import type { Blank, Reach } from './blanks.ts';
import { OWN_LINES } from './costLines.ts';
import type { Notice, NoticeCode, Problem, ProblemCode } from './problems.ts';
import type { LaneDocument } from './schema.ts';
import { noRetailSteps } from './steps/retail.ts';
import type { RetailSteps } from './steps/retail.ts';
import type { Shipment } from './steps/shipment.ts';
import { Tried } from './tried.ts';

/** When what is landed is paid: with the goods, on their way, when they are ready to be sold. */
export const WHEN_PAID = { goods: 0, way: 1, ready: 2 } as const;

export type TermUnit = 'money' | 'share' | 'number' | 'kg' | 'm3' | 'pieces' | 'days' | 'months' | 'text';
/**
 * One number in a formula: its name there, its value, its unit, and the path of the input it came from ('' =
 * reckoned).
 */
export type Term = readonly [name: string, value: number | string | null, unit: TermUnit, path: string];
/** Gathers workings while a lane is reckoned; absent in the hot path. */
export interface Trace {
  line(key: string, amount: number, formula: string, terms: Term[], unit?: TermUnit): void;
  /** An exchange rate was read: `factor` sales currency for one of `currency`. */
  rate(currency: string, factor: number): void;
}

/**
 * All figures of one lane while they are reckoned: a flat record of numbers that is used again for the next
 * lane, so that a million evaluations allocate nothing. Unknown is NaN. Amounts are per unit sold, in the
 * sales currency, unrounded unless the rules round them. A later form over columns fills the same fields from
 * arrays.
 */
export class Reckoning {
  // -- how to reckon
  /** What beats the lane's own inputs; solvers and draws set it. */
  readonly tried = new Tried();
  trace: Trace | null = null;

  // -- context
  doc!: LaneDocument;
  power = 100;
  /** Currency of the first source of the goods; that of the lane where it has none. */
  quoteCurrency = '';
  blanks = 0;
  readonly problems: Problem[] = [];
  readonly notices: Notice[] = [];
  /** 1: VAT paid is a cost; 0: it is recovered; NaN: the standing is not known. */
  vatIsCost = 0;
  vatRate = 0;

  // -- revenue
  price = 0;
  itemPrice = 0;
  gross = 0;
  outputVat = 0;
  withheldVat = 0;
  netRevenue = 0;
  buyerPays = 0;
  netBase = 0;
  // -- goods
  quantity = 0;
  goods = 0;
  buyingCosts = 0;
  cashback = 0;
  recoverableVat = 0;
  irrecoverableVat = 0;
  /** VAT paid on what is landed, and what of it is reclaimed, by when it is paid (`WHEN_PAID`). */
  readonly vatPaid = new Float64Array(3);
  readonly vatBack = new Float64Array(3);
  // -- way in
  /** Cartons, weight and volume of the whole order. */
  readonly shipment: Shipment = { cartons: 0, kg: 0, m3: 0 };
  /** A purchase at a shop on its way from the shelf to what it costs. */
  readonly retail: RetailSteps = noRetailSteps();
  originLegs = 0;
  mainLegs = 0;
  destinationLegs = 0;
  inboundLegs = 0;
  freight = 0;
  insurance = 0;
  cifValue = 0;
  customsValue = 0;
  duty = 0;
  importCharges = 0;
  importVat = 0;
  prep = 0;
  landedCost = 0;
  landedCash = 0;
  // -- demand
  units = 0;
  cover = 0;
  // -- marketplace
  referral = 0;
  itemFee = 0;
  payment = 0;
  surcharges = 0;
  subscription = 0;
  feeVat = 0;
  fulfilment = 0;
  storage = 0;
  fulfilmentIsMarketplaces = false;
  storageIsMarketplaces = false;
  /** Share of fees that VAT adds as a cost (w of section 6), 0 where it is recovered. */
  feeVatCostRate = 0;
  supplierDeliveryNet = 0;
  payout = 0;
  currencyConversion = 0;
  // -- returns and adverts
  returnRate = 0;
  feesBack = 0;
  feesBackCost = 0;
  refundAdmin = 0;
  /** What a returned unit costs to handle, and to be rid of where it is not sold again; at cost. */
  handling = 0;
  disposal = 0;
  returns = 0;
  breakage = 0;
  /** Lines that are worked out by themselves, in the order of `OWN_LINES`. */
  readonly own = new Float64Array(OWN_LINES.length);
  cpc = 0;
  conversionRate = 0;
  advertVatFactor = 1;
  adShare = 1;
  adCostPerAdSale = 0;
  adverts = 0;
  // -- result
  proceeds = 0;
  contribution = 0;
  unitProfit = 0;
  profitPerMonth = 0;
  cashCycleDays = 0;
  turns = 0;
  // -- where the price function bends: raw referral over its bounds, raw refund fee over its maximum, payout
  bendReferralMin = 0;
  bendReferralMax = 0;
  bendAdmin = 0;
  bendPayout = 0;

  begin(doc: LaneDocument): void {
    this.doc = doc;
    this.power = powerOfTen(minorDigits(doc.currency));
    const { goods } = doc;
    this.quoteCurrency =
      goods === null || goods === 'none' ? doc.currency : (goods[0]?.source.currency ?? doc.currency);
    this.blanks = 0;
    if (this.problems.length > 0) this.problems.length = 0;
    if (this.notices.length > 0) this.notices.length = 0;
    this.recoverableVat = 0;
    this.irrecoverableVat = 0;
    // Written out: a million lanes begin here.
    this.vatPaid[0] = this.vatPaid[1] = this.vatPaid[2] = 0;
    this.vatBack[0] = this.vatBack[1] = this.vatBack[2] = 0;
    this.cashback = 0;
    this.supplierDeliveryNet = 0;
  }

  blank(what: Blank | Reach): void {
    this.blanks |= BIT[what];
  }

  isBlank(what: Blank): boolean {
    return (this.blanks & BIT[what]) !== 0;
  }

  /** Records a problem once a line and returns NaN, the unknown amount. */
  problem(
    code: ProblemCode,
    line: string,
    path: string,
    detail: Record<string, string | number> = {},
  ): number {
    for (let i = 0; i < this.problems.length; i++) {
      const p = this.problems[i] as Problem;
      if (p.code === code && p.path === path && p.line === line) return Number.NaN;
    }
    this.problems.push({ code, line, path, detail });
    return Number.NaN;
  }

  notice(code: NoticeCode, path: string, detail: Record<string, string | number> = {}): void {
    this.notices.push({ code, path, detail });
  }

  /** Factor from `currency` into the sales currency; a problem of `line` where no rate is known. */
  fx(currency: string, line: string): number {
    const doc = this.doc;
    if (currency === doc.currency) return 1;
    const f = exchangeFactor(doc.rates.exchange, currency, doc.currency);
    if (isUnknown(f)) {
      const exchange = doc.rates.exchange;
      const known =
        exchange !== null && (exchange.base === currency || exchange.rates[currency] !== undefined);
      return this.problem('noExchangeRate', line, 'rates.exchange', {
        currency: known ? doc.currency : currency,
        date: exchange?.date ?? doc.date,
      });
    }
    const tried = currency === this.quoteCurrency ? f * this.tried.exchange : f;
    this.trace?.rate(currency, tried);
    return tried;
  }

  /** An amount in the sales currency. Nothing is nothing in any currency: 0 needs no rate. */
  inSales(amount: number, currency: string, line: string): number {
    return amount === 0 ? 0 : amount * this.fx(currency, line);
  }

  /** Whether VAT on a line is a cost: 1, 0, or NaN where the standing is unknown. */
  costOfVat(line: Vatable): number {
    if (this.tried.allVatIsCost) return 1;
    return line.recoverable === null ? this.vatIsCost : line.recoverable ? 0 : 1;
  }

  /** Adds the VAT of a landed purchase to what is recovered or to what is a cost. Amounts in the sales currency. */
  landVat(net: number, line: Vatable, when: number): void {
    if (line.vat === 'none' || line.vatRate === 0) return;
    this.landVatAmount(net * line.vatRate, this.costOfVat(line), when);
  }

  /** The same for an amount of VAT: `vatIsCost` 1 a cost, 0 recovered, NaN not known. */
  landVatAmount(vat: number, vatIsCost: number, when: number): void {
    const back = vatRecovered(vat, vatIsCost);
    this.recoverableVat += back;
    this.irrecoverableVat += vatLost(vat, vatIsCost);
    this.vatPaid[when] = (this.vatPaid[when] as number) + vat;
    this.vatBack[when] = (this.vatBack[when] as number) + back;
  }

  /**
   * A purchased line at cost (net and the VAT that is not recovered), in the sales currency; NaN where its
   * amount is blank.
   */
  cost(line: PurchasedLine, costLine: string): number {
    if (line.amount === null) return Number.NaN;
    const net = this.inSales(netOf(line.amount, line), line.currency, costLine);
    return line.vat === 'none' ? net : atCost(net, line.vatRate, this.costOfVat(line));
  }

  /** Rounds a fee that follows the price, unless the solver asked for the unrounded function. */
  fee(x: number): number {
    return this.tried.rounding ? roundMinor(x, this.power) : x;
  }
}
