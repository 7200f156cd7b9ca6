/** What the assumptions decide for all rows of a list: worked out once, read by every step. */
import { advertVatFactor } from '../rules/adverts.ts';
import { feeVatCostRate } from '../rules/fees.ts';
import { isUnknown, meanOfYear, roundMinor } from '../rules/numbers.ts';
import { atCost, withoutVat } from '../rules/revenue.ts';
import { coverOfMonthsHeld } from '../rules/storage.ts';
import { BIT } from '../lane/blanks.ts';
import type { FeeBase, FeeKey, MarketplaceCard, Referral } from '../cards/rates.ts';
import { exchangeFactor, minorDigits, powerOfTen } from '../money/money.ts';
import type { PurchasedLine } from '../money/schema.ts';
import type { Assumptions, ListRates } from './assumptions.ts';
import { wholeDispatch } from './assumptions.ts';
import { FEE_COLUMNS } from './block.ts';
import type { FeeColumn } from './block.ts';
import { TROUBLES } from './columns.ts';
import type { Trouble } from './columns.ts';

/** Troubles by the number they have in the columns. */
export const CODE = Object.fromEntries(TROUBLES.map((t, i) => [t, i])) as Readonly<Record<Trouble, number>>;

/** A category of the card; its item fee rounded as it is charged. */
export type Category = { readonly rule: Referral; readonly base: FeeBase; readonly itemFee: number };
/** A surcharge and the fees it is charged on. */
export type Surcharge = { readonly pct: number; readonly on: readonly FeeColumn[] };
export type Terms = ReturnType<typeof termsOf>;

const GIVEN_BACK = ['referral', 'itemFee', 'payment', 'surcharges'] as const;
type GivenBack = (typeof GIVEN_BACK)[number];
/** A fee of which a part comes back on a return, and the VAT it bears: as a cost, and as it is paid out. */
export type FeeBack = {
  readonly fee: GivenBack;
  readonly part: number;
  readonly costVat: number;
  readonly paidVat: number;
};

/** A yearly amount from twelve monthly ones: that of the sale month where one is set, else their mean. */
export const overTheYear = (months: readonly number[], saleMonth: number | null): number =>
  saleMonth === null ? meanOfYear(months) : (months[saleMonth - 1] as number);

/** 1: VAT that is paid is a cost; 0: it comes back; unknown where the standing is. */
export function vatIsCostOf(standing: Assumptions['standing']): number {
  if (standing === null) return Number.NaN;
  if (standing.kind === 'registered') return 0;
  return standing.kind === 'marketplaceRemits' && standing.recoverable ? 0 : 1;
}

/** A purchased line at cost in the sales currency; unknown where its amount is blank. */
export function lineAtCost(line: Omit<PurchasedLine, 'currency'>, factor: number, vatIsCost: number): number {
  const amount = line.amount ?? Number.NaN;
  const bare = line.vat === 'included' ? withoutVat(amount, line.vatRate) : amount;
  const net = bare === 0 ? 0 : bare * factor;
  const isCost = line.recoverable === null ? vatIsCost : line.recoverable ? 0 : 1;
  return line.vat === 'none' ? net : atCost(net, line.vatRate, isCost);
}

export function termsOf(set: Assumptions, rates: ListRates, taxClasses: readonly string[]) {
  const { tax, marketplace: card } = rates;
  const power = powerOfTen(minorDigits(rates.currency));
  const fx = (currency: string): number => exchangeFactor(rates.exchange, currency, rates.currency);
  const homeFx = fx(set.homeCurrency);
  /** An amount in the home currency; nothing is nothing in any currency. */
  const fromHome = (amount: number): number => (amount === 0 ? 0 : amount * homeFx);
  const vatIsCost = vatIsCostOf(set.standing);
  const isInclusive = tax === null || tax.regime === 'inclusive';
  const classRates = taxClasses.map((k) => tax?.vatRates[k] ?? (isInclusive ? Number.NaN : 0));
  const returns = returnTerms(set);
  return {
    power,
    card,
    cardFits: card !== null && card.currency === rates.currency,
    vatIsCost,
    ...standingTerms(set, rates, isInclusive),
    classRates,
    unitsShare: set.unitsShare,
    ...purchaseTerms(set, fx, vatIsCost),
    // the way in
    homeFx,
    inboundPerUnit: set.inbound.perUnit,
    inboundPerKg: set.inbound.perKg,
    prep: set.prep === null ? 0 : fromHome(set.prep),
    // the sale
    ...cardTerms(set, card, power, vatIsCost),
    isWarehouse: set.method === 'warehouse',
    dispatch: wholeDispatch(set.dispatch),
    isMonthsHeld: set.monthsHeld !== null,
    fixedCover: set.monthsHeld === null ? Number.NaN : coverOfMonthsHeld(set.monthsHeld),
    // returns and what else a unit costs
    returnRate: returns?.rate ?? 0,
    resaleShare: returns?.resaleShare ?? 0,
    handling: returns?.handling ? lineAtCost(returns.handling, fx(returns.handling.currency), vatIsCost) : 0,
    disposal: returns?.disposal ? lineAtCost(returns.disposal, fx(returns.disposal.currency), vatIsCost) : 0,
    breakageShare: set.breakage,
    other: fromHome(set.otherPerUnit),
    isConverted: set.conversionSpread > 0 && rates.currency !== set.homeCurrency,
    conversionSpread: set.conversionSpread,
    /** What is blank for every row. */
    blanks:
      (set.prep === null ? BIT.prep : 0) |
      (areReturnsBlank(set) ? BIT.returns : 0) |
      (set.advertPerSale === null ? BIT.adverts : 0),
    /** What keeps every row from an answer, before anything of its own is looked at. */
    trouble: troubleOfAll(set, rates, homeFx, returns, fx),
  };
}

/** How a price is taxed under the seller's standing. */
function standingTerms(set: Assumptions, { tax }: ListRates, isInclusive: boolean) {
  const kind = set.standing?.kind ?? 'missing';
  return {
    isInclusive,
    isStandingMissing: kind === 'missing',
    /** Whether prices contain VAT that the seller owes or has withheld. */
    owesVat: isInclusive && kind !== 'missing' && kind !== 'notRegistered',
    isWithheld: isInclusive && kind === 'marketplaceRemits',
    lacksTaxCard: tax === null,
    flatRate: set.standing?.kind === 'flatRate' ? set.standing.rate : null,
    checkoutTax: isInclusive ? 0 : (tax?.checkoutTax ?? 0),
  };
}

/** How goods are bought. */
function purchaseTerms(set: Assumptions, fx: (currency: string) => number, vatIsCost: number) {
  const { purchase } = set;
  return {
    purchase,
    purchaseFx: fx(purchase.currency),
    isRetail: purchase.discount !== 0 || purchase.salesTax !== 0 || purchase.cashback !== 0,
    hasVat: purchase.vat !== 'asTyped',
    isVatIncluded: purchase.vat === 'included',
    purchaseVatIsCost: purchase.recoverable === null ? vatIsCost : purchase.recoverable ? 0 : 1,
  };
}

/** What the marketplace's card says, and which of its fees bear VAT. */
function cardTerms(set: Assumptions, card: MarketplaceCard | null, power: number, vatIsCost: number) {
  const bears = (key: FeeKey): boolean =>
    card !== null && card.feeVat.treatment !== 'none' && card.feeVat.bears.includes(key);
  const hasFeeVat = card !== null && card.feeVat.treatment !== 'none' && card.feeVat.rate !== 0;
  const costRate = hasFeeVat ? feeVatCostRate(card.feeVat.rate, vatIsCost) : 0;
  const charged = card !== null && card.feeVat.treatment === 'charged' ? card.feeVat.rate : 0;
  const back = card?.refund.back ?? { referral: 1, itemFee: 0, payment: 0, surcharges: 0 };
  const advertVat = card !== null && card.advertVat.treatment !== 'none' ? card.advertVat.rate : 0;
  /** Fulfilment is the marketplace's where it comes from its warehouse. */
  const own = (keys: readonly FeeKey[]): FeeColumn[] =>
    FEE_COLUMNS.filter((k) => keys.includes(k) && (k !== 'fulfilment' || set.method === 'warehouse'));
  const share = (vat: number) => (key: GivenBack) => (bears(key) ? vat : 0);
  return {
    categories: (card?.categories ?? []).map(
      (c): Category => ({
        rule: c.referral,
        base: c.referral.base,
        itemFee: roundMinor(c.itemFee ?? card?.itemFee ?? 0, power),
      }),
    ),
    /** Whether a fee is charged on anything but the price. */
    hasOtherBases: [card?.payment?.base, ...(card?.categories ?? []).map((c) => c.referral.base)].some(
      (base) => base === 'net' || base === 'buyerPays',
    ),
    cardItemFee: roundMinor(card?.itemFee ?? 0, power),
    cardPayment: card?.payment ?? null,
    surchargeTerms: (card?.surcharges ?? []).map((x): Surcharge => ({ pct: x.pct, on: own(x.of) })),
    bandsOf: (card?.warehouse?.tiers ?? []).map((t) => t.bands),
    storageRate: card?.storage ? overTheYear(card.storage.perM3Month, set.saleMonth) : Number.NaN,
    longStay: card?.storage?.longStay ?? [],
    /** The fees that bear VAT. */
    bearing: hasFeeVat ? own(card.feeVat.bears) : [],
    feeVatCost: costRate,
    feeVatCharged: charged,
    feesBack: GIVEN_BACK.filter((k) => back[k] !== 0).map(
      (fee): FeeBack => ({
        fee,
        part: back[fee],
        costVat: share(costRate)(fee),
        paidVat: share(charged)(fee),
      }),
    ),
    adminBack: back.referral,
    adminPct: card?.refund.adminPct ?? 0,
    adminMax: card?.refund.adminMax ?? null,
    adminCostVat: share(costRate)('referral'),
    adminPaidVat: share(charged)('referral'),
    adverts:
      set.advertPerSale === null || set.advertPerSale === 0
        ? 0
        : set.advertPerSale * (advertVat > 0 ? advertVatFactor(advertVat, vatIsCost) : 1),
  };
}

/** The terms of returns; null where there are none, or where they are blank. */
const returnTerms = (set: Assumptions) =>
  set.returns === null || set.returns === 'none' || areReturnsBlank(set) ? null : set.returns;

/** Whether what returns cost is not known: nothing is said of them, or a part of it is left open. */
function areReturnsBlank({ returns }: Assumptions): boolean {
  if (returns === null) return true;
  if (returns === 'none') return false;
  return (
    returns.rate === null ||
    (returns.rate > 0 && (returns.handling?.amount === null || returns.disposal?.amount === null))
  );
}

function troubleOfAll(
  set: Assumptions,
  rates: ListRates,
  homeFx: number,
  returns: ReturnType<typeof returnTerms>,
  fx: (currency: string) => number,
): number {
  if (rates.tax === null) return CODE.noTaxCard;
  if (set.standing === null) return CODE.standingMissing;
  const isForeign = (line: { amount: number | null; currency: string } | null): boolean =>
    line !== null && line.amount !== 0 && isUnknown(fx(line.currency));
  const lacksHomeRate =
    isUnknown(homeFx) && ((set.prep ?? 0) !== 0 || set.inbound.perUnit > 0 || set.otherPerUnit !== 0);
  const lacksReturnsRate =
    returns !== null &&
    (returns.rate ?? 0) > 0 &&
    (isForeign(returns.handling) || isForeign(returns.disposal));
  return lacksHomeRate || lacksReturnsRate ? CODE.noExchangeRate : 0;
}
