/**
 * The rules of a lane over the columns of a list, in the lane's own order. One file: what all rows share is
 * worked out once and then read by the loop over the rows, and both have to be seen together.
 */
import { countedKg, parcelOf, sizeTierOf, stepFee } from '../rules/parcel.ts';
import { agedShare } from '../rules/storage.ts';
import type { Parcel } from '../rules/parcel.ts';
import { referralBeforeBounds } from '../rules/fees.ts';
import { BIT } from '../lane/lines.ts';
import type { FeeBase, FeeKey, MarketplaceCard, Referral, SizeTier } from '../lane/rates.ts';
import { exchangeFactor, minorDigits, powerOfTen } from '../money/money.ts';
import { clamp, roundMinor, within } from '../rules/numbers.ts';
import type { Assumptions, ListRates } from './assumptions.ts';
import { paidAt, quantityOf, wholeDispatch } from './assumptions.ts';
import { TROUBLES } from './columns.ts';
import type { ListColumns, ListResults, Trouble } from './columns.ts';

const CODE = Object.fromEntries(TROUBLES.map((t, i) => [t, i])) as Readonly<Record<Trouble, number>>;
/** A category of the card as numbers. */
type Category = { readonly rule: Referral; readonly base: FeeBase; readonly itemFee: number };
/** In place of a size tier: the weight is past the postage table. */
const NO_STEP = -2;
/** What size and weight alone decide of each row. */
export type Prepared = { readonly bandFees: Float64Array; readonly tiers: Int16Array };

/** Room for what is prepared for so many rows; `width`: that of the evaluator. */
export const makePrepared = (length: number, width: number): Prepared => ({
  bandFees: new Float64Array(length * width),
  tiers: new Int16Array(length),
});

/** What `prepare` reads of settings: as long as it stays the same, what was prepared can be used again. */
export const preparedBy = (a: Assumptions, rates: ListRates): string =>
  JSON.stringify([rates, a.method, a.dispatch, a.saleMonth, a.standing]);

/** A fee that follows the price: rounded to the minor unit, unless the solver asks for the unrounded function. */
const fee = (x: number, power: number, free: Float64Array | null): number =>
  free === null ? roundMinor(x, power) : x;

const parcel: Parcel = { L: 0, W: 0, H: 0, kg: 0 };

/** Mean of twelve monthly amounts, or that of the sale month (economics, section 5, without a season). */
function overTheYear(months: readonly number[], saleMonth: number | null): number {
  if (saleMonth !== null) return months[saleMonth - 1] as number;
  let sum = 0;
  for (let i = 0; i < 12; i++) sum += months[i] as number;
  return sum / 12;
}

/**
 * The formulas of a lane over columns (economics, section 15): what the assumptions decide for all rows is
 * worked out once, what a row decides is read from typed arrays, and nothing is allocated for a row. Each
 * formula is the lane's own, in the lane's own order, and bulk and single evaluation agree to 1e-9
 * (evaluate.test.ts). Scope: what `laneOfRow` can say.
 */
export class ListEvaluator {
  readonly assumptions: Assumptions;
  readonly rates: ListRates;
  private readonly power: number;
  private readonly card: MarketplaceCard | null;
  private readonly cardFits: boolean;
  private readonly categories: readonly Category[];
  private readonly vatIsCost: number;
  private readonly kind: 'registered' | 'notRegistered' | 'flatRate' | 'marketplaceRemits' | 'missing';
  /** By row: the fulfilment fee in each price band of its tier (or its postage), and the place of its tier. */
  private bandFees: Float64Array = new Float64Array(0);
  private tiers: Int16Array = new Int16Array(0);
  /** Fees that are prepared for a row: one for each price band of the tier with the most. */
  readonly width: number;
  private prepared: ListColumns | null = null;
  private terms: ReturnType<ListEvaluator['termsOf']> | null = null;

  /** One's own dispatch; null where a part of it was opened and not filled in. */
  private readonly dispatch: Assumptions['dispatch'];

  constructor(a: Assumptions, rates: ListRates) {
    this.assumptions = a;
    this.dispatch = wholeDispatch(a.dispatch);
    this.rates = rates;
    this.power = powerOfTen(minorDigits(rates.currency));
    this.card = rates.marketplace;
    this.cardFits = this.card !== null && this.card.currency === rates.currency;
    this.categories = (this.card?.categories ?? []).map((c) => ({
      rule: c.referral,
      base: c.referral.base,
      itemFee: c.itemFee ?? this.card?.itemFee ?? 0,
    }));
    this.kind = a.standing === null ? 'missing' : a.standing.kind;
    this.vatIsCost =
      a.standing === null
        ? Number.NaN
        : a.standing.kind === 'registered'
          ? 0
          : a.standing.kind === 'marketplaceRemits'
            ? a.standing.recoverable
              ? 0
              : 1
            : 1;
    this.width = Math.max(1, ...(this.card?.warehouse?.tiers ?? []).map((t) => t.bands.length));
  }

  /**
   * Places of the card's categories by key, for filling the column `category`; -2 where the card has none of
   * that key.
   */
  categoryAt(key: string | null): number {
    const wanted = key ?? this.assumptions.category;
    if (wanted === null) return -1;
    const at = (this.card?.categories ?? []).findIndex((c) => c.key === wanted);
    return at < 0 ? -2 : at;
  }

  private fx(currency: string): number {
    return exchangeFactor(this.rates.exchange, currency, this.rates.currency);
  }

  /** An amount in the sales currency; nothing is nothing in any currency. */
  private inSales(amount: number, currency: string): number {
    return amount === 0 ? 0 : amount * this.fx(currency);
  }

  /** What size and weight alone decide, once for every row: size tier and fulfilment fee in each of its price bands. */
  prepare(columns: ListColumns, into: Prepared = makePrepared(columns.length, this.width)): void {
    const n = columns.length;
    this.takePrepared(columns, into);
    into.bandFees.fill(0);
    into.tiers.fill(-1);
    const { a, b, c, kg } = columns;
    const { power, width, bandFees, tiers } = this;
    if (this.assumptions.method === 'ownDispatch') {
      const d = this.dispatch;
      const zones = d === null ? [] : d.zones.map((z) => ({ ...z, fx: this.fx(z.postage.currency) }));
      const vatCost = d === null ? 0 : d.recoverable === null ? this.vatIsCost : d.recoverable ? 0 : 1;
      const cost = (amount: number, fx: number, vat: string, vatRate: number, isCost: number): number => {
        const net = amount === 0 ? 0 : (vat === 'included' ? amount / (1 + vatRate) : amount) * fx;
        if (vat === 'none' || vatRate === 0) return net;
        const due = net * vatRate;
        return due === 0 ? net : net + due * isCost;
      };
      const own = (line: NonNullable<Assumptions['dispatch']>['packaging']): number =>
        line === null
          ? 0
          : cost(
              line.amount ?? Number.NaN,
              this.fx(line.currency),
              line.vat,
              line.vatRate,
              line.recoverable === null ? this.vatIsCost : line.recoverable ? 0 : 1,
            );
      const packaging = d === null ? 0 : own(d.packaging);
      const picking = d === null ? 0 : own(d.pickAndPack);
      for (let i = 0; i < n; i++) {
        if (d === null || kg[i] !== kg[i]) continue;
        let postage = 0;
        for (const z of zones) {
          const fee = stepFee(z.postage, (kg[i] as number) + d.packagingKg);
          if (fee !== fee) tiers[i] = NO_STEP;
          postage += z.share * cost(fee, z.fx, d.vat, d.vatRate, vatCost);
        }
        bandFees[i * width] = postage + packaging + picking;
      }
      return;
    }
    const warehouse = this.card?.warehouse ?? null;
    if (warehouse === null) return;
    const peak = warehouse.peak === null ? 0 : overTheYear(warehouse.peak, this.assumptions.saleMonth);
    for (let i = 0; i < n; i++) {
      const [x, y, z, w] = [a[i] as number, b[i] as number, c[i] as number, kg[i] as number];
      if (x !== x || y !== y || z !== z || w !== w) continue;
      const p = parcelOf(x, y, z, w, parcel);
      const at = sizeTierOf(warehouse.tiers, p);
      tiers[i] = at;
      if (at < 0) continue;
      const tier = warehouse.tiers[at] as SizeTier;
      const billable = countedKg(tier, p) + tier.packagingKg;
      for (let k = 0; k < tier.bands.length; k++) {
        const base = stepFee((tier.bands[k] as SizeTier['bands'][number]).table, billable);
        bandFees[i * width + k] = Math.floor((base + 0 + peak) * power + 0.5 + 1e-7) / power;
      }
    }
  }

  /** Takes what was prepared for these columns before, under settings with the same `preparedBy`. */
  takePrepared(columns: ListColumns, { bandFees, tiers }: Prepared): void {
    this.bandFees = bandFees;
    this.tiers = tiers;
    this.prepared = columns;
    this.terms = null;
  }

  /**
   * Evaluates rows `from` up to `to` of the columns into `out`. Money per unit sold in the sales currency;
   * unknown is NaN. The shelf price of row i is that at `i - shift` of `prices`, and its place in `out` is the
   * same. `free`, where given (for one row): fees that follow the price stay unrounded, and it notes where the
   * price function bends: raw referral over its least and most, refund fee over its most, payout (economics,
   * section 9).
   */
  run(
    columns: ListColumns,
    out: ListResults,
    from = 0,
    to = columns.length,
    prices: Float64Array = columns.price,
    shift = 0,
    free: Float64Array | null = null,
  ): void {
    if (this.prepared !== columns) this.prepare(columns);
    this.terms ??= this.termsOf(columns);
    const { assumptions: set, card, cardFits, categories, kind, power, bandFees, tiers, width } = this;
    const {
      cost,
      units,
      soldPack,
      boughtPack,
      a,
      b,
      c,
      kg,
      vatRate,
      minimumOrder,
      carton,
      breakFrom,
      breakCost,
      breakFrom2,
      breakCost2,
      category,
      taxClass,
    } = columns;
    const {
      p,
      tax,
      inclusive,
      classRates,
      checkout,
      flat,
      purchaseFx,
      homeFx,
      isRetail,
      noVat,
      included,
      purchaseVatCost,
      legUnit,
      legKg,
      prep,
      prepBit,
      other,
      payment,
      cardItemFee,
      surcharges,
      feeVat,
      bears,
      feeVatCost,
      charged,
      back,
      backCost,
      backPaid,
      adminCost,
      adminCharged,
      returnsBit,
      q,
      resale,
      handling,
      disposal,
      breakage,
      adverts,
      advertsBit,
      warehouseMethod,
      bandLimits,
      storageRate,
      longStay,
      fixedCover,
      converts,
      noRate,
    } = this.terms;
    for (let i = from; i < to; i++) {
      const at = i - shift;
      const shelf = prices[at] as number;
      let blanks = prepBit | returnsBit | advertsBit;
      let trouble = noRate ? CODE.noExchangeRate : 0;
      const marketUnits = units[i] as number;
      if (shelf !== shelf) blanks |= BIT.price;

      if (free !== null) free.fill(0);

      // -- revenue and output VAT (section 2); without discount or charged delivery gross is the shelf price
      const gross = shelf;
      const rate = tax === null ? Number.NaN : (classRates[taxClass[i] as number] as number);
      let outputVat = 0;
      let netBase = gross;
      let withheld = 0;
      let buyerPays = gross;
      if (!inclusive) buyerPays = gross * checkout;
      else if (kind === 'missing') outputVat = netBase = Number.NaN;
      else if (kind !== 'notRegistered') {
        netBase = gross / (1 + rate);
        outputVat = kind === 'flatRate' ? gross * flat : (gross * rate) / (1 + rate);
        if (kind === 'marketplaceRemits') withheld = outputVat;
      }
      if (kind === 'missing') trouble = CODE.standingMissing;
      if (tax === null) trouble = CODE.noTaxCard;
      else if (inclusive && rate !== rate) trouble = CODE.noTaxClass;
      const netRevenue = gross - outputVat;

      // -- demand and the order
      const sells = marketUnits * set.unitsShare;
      if (sells !== sells) blanks |= BIT.demand;
      const ratio = (soldPack[i] as number) / (boughtPack[i] as number);
      const Q = quantityOf(
        set,
        soldPack[i] as number,
        boughtPack[i] as number,
        minimumOrder[i] as number,
        carton[i] as number,
      );
      const paid = paidAt(
        cost[i] as number,
        breakFrom[i] as number,
        breakCost[i] as number,
        breakFrom2[i] as number,
        breakCost2[i] as number,
        Q * ratio,
      );

      // -- goods (section 3)
      const ownRate = vatRate[i] as number;
      const pv = noVat ? 0 : ownRate === ownRate ? ownRate : p.vatRate;
      let goods: number;
      let cashback = 0;
      let recoverable = 0;
      let irrecoverable = 0;
      if (paid !== paid) {
        blanks |= BIT.goods;
        goods = Number.NaN;
      } else {
        if (isRetail) {
          const p1 = p.discount === 0 ? paid : paid * (1 - p.discount);
          const net1 = included ? p1 / (1 + pv) : p1;
          const salesTax = p.salesTax * net1;
          cashback = p.cashback * net1;
          const landed = net1 * ratio * purchaseFx;
          if (!noVat && pv !== 0) {
            const vat = landed * pv;
            if (purchaseVatCost === 0) recoverable += vat;
            else if (purchaseVatCost === 1) irrecoverable += vat;
            else if (vat !== 0) recoverable = irrecoverable = Number.NaN;
          }
          goods = (net1 + salesTax - 0 - cashback) * purchaseFx * ratio;
          cashback = cashback * ratio * purchaseFx;
        } else {
          goods = (included ? paid / (1 + pv) : paid) * ratio * purchaseFx;
          if (!noVat && pv !== 0) {
            const vat = goods * pv;
            if (purchaseVatCost === 0) recoverable += vat;
            else if (purchaseVatCost === 1) irrecoverable += vat;
            else if (vat !== 0) recoverable = irrecoverable = Number.NaN;
          }
        }
        if (goods !== goods && trouble === 0) trouble = CODE.noExchangeRate;
      }

      // -- the way in (section 4): inbound per unit and per kg; nothing crosses a customs border
      let freight = 0;
      if (legUnit > 0) freight += (legUnit * Q * homeFx) / Q;
      if (legKg > 0) {
        const weight = kg[i] as number;
        if (weight !== weight) blanks |= BIT.freight;
        else {
          freight += (legKg * (Q * weight) * homeFx) / Q;
          if (homeFx !== homeFx) trouble = CODE.noExchangeRate;
        }
      }

      // -- fulfilment (section 5)
      let fulfilment = 0;
      if (warehouseMethod) {
        if (card === null) fulfilment = Number.NaN;
        else if (card.warehouse === null) {
          fulfilment = Number.NaN;
          trouble = CODE.noWarehouse;
        } else if (!cardFits) fulfilment = Number.NaN;
        else if (a[i] !== a[i] || b[i] !== b[i] || c[i] !== c[i] || kg[i] !== kg[i]) blanks |= BIT.fulfilment;
        else {
          const tier = tiers[i] as number;
          if (tier < 0) {
            fulfilment = Number.NaN;
            trouble = CODE.noSizeTier;
          } else {
            const limits = bandLimits[tier] as readonly (number | null)[];
            let band = 0;
            if (limits.length > 1) {
              if (shelf !== shelf) band = -1;
              else
                while (
                  band < limits.length - 1 &&
                  !(limits[band] === null || within(shelf, limits[band] as number))
                )
                  band++;
            }
            fulfilment = band < 0 ? Number.NaN : (bandFees[i * width + band] as number);
            if (band >= 0 && fulfilment !== fulfilment) trouble = CODE.noSizeTier;
          }
        }
      } else if (this.dispatch === null || kg[i] !== kg[i]) blanks |= BIT.fulfilment;
      else {
        fulfilment = bandFees[i * width] as number;
        if (fulfilment !== fulfilment)
          trouble = tiers[i] === NO_STEP ? CODE.noPostageStep : trouble === 0 ? CODE.noExchangeRate : trouble;
      }

      const landedCost = goods + freight + prep + irrecoverable;
      const landedCash = landedCost + recoverable + cashback;

      // -- fees of the sale (section 5)
      let referral = 0;
      let itemFee = 0;
      let paymentFee = 0;
      if (card === null) {
        referral = Number.NaN;
        trouble = CODE.noMarketplaceCard;
      } else if (!cardFits) {
        referral = itemFee = paymentFee = Number.NaN;
        trouble = CODE.cardCurrency;
      } else {
        const place = category[i] as number;
        const own = place >= 0 ? (categories[place] as Category) : null;
        if (own !== null) {
          const base = own.base === 'net' ? netBase : own.base === 'buyerPays' ? buyerPays : gross;
          const raw = referralBeforeBounds(own.rule, base);
          referral = fee(clamp(raw, own.rule.min, own.rule.max), power, free);
          if (free !== null) {
            free[0] = own.rule.min === null ? 0 : raw - own.rule.min;
            free[1] = own.rule.max === null ? 0 : raw - own.rule.max;
          }
        } else if (place === -1) blanks |= BIT.referral;
        else {
          referral = Number.NaN;
          trouble = CODE.categoryNotOnCard;
        }
        itemFee = Math.floor((own === null ? cardItemFee : own.itemFee) * power + 0.5 + 1e-7) / power;
        if (payment !== null)
          paymentFee = fee(
            payment.pct *
              (payment.base === 'net' ? netBase : payment.base === 'buyerPays' ? buyerPays : gross) +
              payment.fixed,
            power,
            free,
          );
      }

      // -- storage
      let storage = 0;
      const cover = set.monthsHeld !== null ? fixedCover : sells > 1e-9 ? Q / sells : Number.NaN;
      if (warehouseMethod) {
        const m3 = ((a[i] as number) * (b[i] as number) * (c[i] as number)) / 1e6;
        if (m3 !== m3) blanks |= BIT.storage;
        else if (set.monthsHeld === null && sells <= 1e-9) {
          storage = Number.NaN;
          trouble = CODE.zeroUnits;
        } else if (cover !== cover) blanks |= BIT.storage;
        else if (card === null || card.storage === null) {
          storage = Number.NaN;
          if (trouble === 0) trouble = CODE.noStorageRates;
        } else if (!cardFits) storage = Number.NaN;
        else {
          let aged = 0;
          for (let k = 0; k < longStay.length; k++) {
            const s = longStay[k] as (typeof longStay)[number];
            aged +=
              s.rate *
              (agedShare(cover, s.fromMonths) - (s.toMonths === null ? 0 : agedShare(cover, s.toMonths)));
          }
          storage = m3 * ((storageRate * cover) / 2 + aged);
        }
      }

      // -- surcharges and VAT on fees
      const ffmMarket = warehouseMethod ? fulfilment : 0;
      let extra = 0;
      for (let k = 0; k < surcharges.length; k++) {
        const s = surcharges[k] as (typeof surcharges)[number];
        let base = 0;
        for (let j = 0; j < s.of.length; j++) {
          const key = s.of[j] as FeeKey;
          base +=
            key === 'referral'
              ? referral
              : key === 'itemFee'
                ? itemFee
                : key === 'payment'
                  ? paymentFee
                  : key === 'fulfilment'
                    ? ffmMarket
                    : key === 'storage'
                      ? storage
                      : 0;
        }
        extra += fee(s.pct * base, power, free);
      }
      const bearing =
        feeVat === null
          ? 0
          : (bears.referral === 0 ? 0 : referral) +
            (bears.itemFee === 0 ? 0 : itemFee) +
            (bears.payment === 0 ? 0 : paymentFee) +
            (bears.surcharges === 0 ? 0 : extra) +
            (bears.fulfilment === 0 ? 0 : ffmMarket) +
            (bears.storage === 0 ? 0 : storage);
      const vatOnFees = feeVat === null ? 0 : bearing * feeVatCost;

      // -- payout, returns, breakage (sections 6 and 8)
      let feesBack = 0;
      let feesBackPaid = 0;
      let admin = 0;
      if (q > 0) {
        feesBack =
          referral * backCost.referral +
          itemFee * backCost.itemFee +
          paymentFee * backCost.payment +
          extra * backCost.surcharges;
        feesBackPaid =
          referral * backPaid.referral +
          itemFee * backPaid.itemFee +
          paymentFee * backPaid.payment +
          extra * backPaid.surcharges;
        if (card !== null && card.refund.adminPct > 0) {
          const raw = back.referral === 0 ? 0 : card.refund.adminPct * back.referral * referral;
          const most = card.refund.adminMax;
          admin = fee(most !== null && raw > most ? most : raw, power, free);
          if (free !== null) free[2] = most === null ? 0 : raw - most;
        }
      }
      let conversion = 0;
      if (converts) {
        let fees = referral + itemFee + paymentFee + extra;
        if (warehouseMethod) fees += fulfilment + storage;
        if (charged > 0) fees += bearing * charged;
        const payout = (1 - q) * (gross - withheld) - fees + q * (feesBackPaid - admin * adminCharged);
        conversion = set.conversionSpread * Math.max(0, payout);
        if (free !== null) free[3] = payout;
      }
      const returns =
        q === 0
          ? 0
          : q *
            (netRevenue -
              feesBack +
              admin * adminCost +
              handling +
              (1 - resale) * disposal -
              (resale === 0 ? 0 : resale * landedCost));
      const broken = breakage === 0 ? 0 : (landedCost * breakage) / (1 - breakage);

      // -- the result (section 8)
      const proceeds =
        netRevenue - referral - itemFee - paymentFee - extra - vatOnFees - fulfilment - storage - conversion;
      const contribution = proceeds - landedCost - broken - returns - other;
      const unitProfit = contribution - adverts;
      out.gross[at] = gross;
      out.netRevenue[at] = netRevenue;
      out.fees[at] = referral + itemFee + paymentFee + extra + vatOnFees;
      out.fulfilment[at] = fulfilment;
      out.goods[at] = goods;
      out.landedCost[at] = landedCost;
      out.landedCash[at] = landedCash;
      out.proceeds[at] = proceeds;
      out.contribution[at] = contribution;
      out.unitProfit[at] = unitProfit;
      out.margin[at] = netRevenue > 1e-12 ? unitProfit / netRevenue : Number.NaN;
      out.roi[at] = landedCost > 1e-12 ? unitProfit / landedCost : Number.NaN;
      out.profitPerMonth[at] = unitProfit * sells;
      out.quantity[at] = Q;
      out.paid[at] = paid;
      out.blanks[at] = blanks;
      out.trouble[at] = trouble;
    }
  }

  /** What the assumptions decide for all rows of the columns. */
  private termsOf(columns: ListColumns) {
    const { assumptions: set, rates, card, cardFits, vatIsCost } = this;
    const tax = rates.tax;
    const inclusive = tax === null || tax.regime === 'inclusive';

    const { purchase: p } = set;
    const homeFx = this.fx(set.homeCurrency);
    const legUnit = set.inbound.perUnit;
    const feeVat =
      card !== null && card.feeVat.treatment !== 'none' && card.feeVat.rate !== 0 ? card.feeVat : null;
    const carries = (key: FeeKey): number =>
      card !== null && card.feeVat.treatment !== 'none' && card.feeVat.bears.includes(key) ? 1 : 0;
    const bears = {
      referral: feeVat === null ? 0 : carries('referral'),
      itemFee: feeVat === null ? 0 : carries('itemFee'),
      payment: feeVat === null ? 0 : carries('payment'),
      surcharges: feeVat === null ? 0 : carries('surcharges'),
      fulfilment: feeVat === null ? 0 : carries('fulfilment'),
      storage: feeVat === null ? 0 : carries('storage'),
    };
    const feeVatCost = feeVat === null ? 0 : feeVat.rate * vatIsCost;
    const charged = card !== null && card.feeVat.treatment === 'charged' ? card.feeVat.rate : 0;
    const back = card?.refund.back ?? { referral: 1, itemFee: 0, payment: 0, surcharges: 0 };
    // Of each fee the part that comes back on a return, as a cost and as it is paid out, with the VAT it
    // bears.
    const carried = (key: keyof typeof back, vat: number): number =>
      back[key] === 0 ? 0 : back[key] * (1 + (bears[key] === 0 ? 0 : vat));
    // The refund fee is part of the referral, and bears VAT as it does.
    const adminCost = 1 + (bears.referral === 0 ? 0 : feeVatCost);

    const open =
      set.returns !== null &&
      set.returns !== 'none' &&
      (set.returns.rate === null ||
        (set.returns.rate > 0 &&
          (set.returns.handling?.amount === null || set.returns.disposal?.amount === null)));
    const terms = open ? null : set.returns;
    const q = terms === null || terms === 'none' ? 0 : (terms.rate ?? 0);
    const line = (
      l: {
        amount: number | null;
        currency: string;
        vat: string;
        vatRate: number;
        recoverable: boolean | null;
      } | null,
    ): number => {
      if (l === null) return 0;
      const amount = l.amount ?? Number.NaN;
      const net = this.inSales(l.vat === 'included' ? amount / (1 + l.vatRate) : amount, l.currency);
      const due = l.vat === 'none' ? 0 : net * l.vatRate;
      return due === 0 ? net : net + due * (l.recoverable === null ? vatIsCost : l.recoverable ? 0 : 1);
    };

    const advertFactor =
      card !== null && card.advertVat.treatment !== 'none' && card.advertVat.rate > 0
        ? 1 + card.advertVat.rate * vatIsCost
        : 1;
    const foreign = (l: { amount: number | null; currency: string } | null): boolean =>
      l !== null && l.amount !== 0 && Number.isNaN(this.fx(l.currency));

    return {
      p,
      tax,
      inclusive,
      homeFx,
      legUnit,
      feeVat,
      bears,
      feeVatCost,
      charged,
      back,
      adminCost,
      q,
      classRates: columns.taxClasses.map((k) => tax?.vatRates[k] ?? (inclusive ? Number.NaN : 0)),
      checkout: 1 + (tax?.checkoutTax ?? 0),
      flat: set.standing?.kind === 'flatRate' ? set.standing.rate : 0,
      purchaseFx: this.fx(p.currency),
      isRetail: p.discount !== 0 || p.salesTax !== 0 || p.cashback !== 0,
      noVat: p.vat === 'asTyped',
      included: p.vat === 'included',
      purchaseVatCost: p.recoverable === null ? vatIsCost : p.recoverable ? 0 : 1,
      legKg: set.inbound.perKg,
      prep: set.prep === null ? 0 : this.inSales(set.prep, set.homeCurrency),
      prepBit: set.prep === null ? BIT.prep : 0,
      other: set.otherPerUnit === 0 ? 0 : set.otherPerUnit * homeFx,
      payment: cardFits ? (card?.payment ?? null) : null,
      cardItemFee: card?.itemFee ?? 0,
      surcharges: (card?.surcharges ?? []).map((s) => ({ pct: s.pct, of: s.of as readonly FeeKey[] })),
      backCost: {
        referral: carried('referral', feeVatCost),
        itemFee: carried('itemFee', feeVatCost),
        payment: carried('payment', feeVatCost),
        surcharges: carried('surcharges', feeVatCost),
      },
      backPaid: {
        referral: carried('referral', charged),
        itemFee: carried('itemFee', charged),
        payment: carried('payment', charged),
        surcharges: carried('surcharges', charged),
      },
      adminCharged: 1 + (bears.referral === 0 ? 0 : charged),
      returnsBit: terms === null ? BIT.returns : 0,
      resale: terms === null || terms === 'none' ? 0 : terms.resaleShare,
      handling: terms === null || terms === 'none' ? 0 : line(terms.handling),
      disposal: terms === null || terms === 'none' ? 0 : line(terms.disposal),
      breakage: set.breakage,
      adverts: set.advertPerSale === null || set.advertPerSale === 0 ? 0 : set.advertPerSale * advertFactor,
      advertsBit: set.advertPerSale === null ? BIT.adverts : 0,
      warehouseMethod: set.method === 'warehouse',
      bandLimits: (card?.warehouse?.tiers ?? []).map((t) => t.bands.map((x) => x.upToPrice)),
      storageRate: card?.storage ? overTheYear(card.storage.perM3Month, set.saleMonth) : Number.NaN,
      longStay: card?.storage?.longStay ?? [],
      fixedCover: set.monthsHeld === null ? Number.NaN : 2 * set.monthsHeld,
      converts: set.conversionSpread > 0 && rates.currency !== set.homeCurrency,
      noRate:
        (homeFx !== homeFx && ((set.prep ?? 0) !== 0 || legUnit > 0 || set.otherPerUnit !== 0)) ||
        (q > 0 && terms !== null && terms !== 'none' && (foreign(terms.handling) || foreign(terms.disposal))),
    };
  }
}
