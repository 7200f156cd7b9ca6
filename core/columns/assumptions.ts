/**
 * The one set of assumptions a supplier's list is screened under, and the lane document that a single row of
 * it is.
 */
import { z } from 'zod';
import { priceBreakAt } from '../rules/goods.ts';
import { isKnown, isUnknown } from '../rules/numbers.ts';
import { orderStep } from '../goods/orders.ts';
import { hurdle } from '../lane/hurdleSchema.ts';
import type { MarketplaceCard, TaxCard } from '../cards/rates.ts';
import { laneDocument, returnsTerms, standing } from '../lane/schema.ts';
import { ownDispatch } from '../cards/carriage.ts';
import type { LaneDocument, LaneDocumentInput } from '../lane/schema.ts';
import type { ExchangeTable } from '../money/money.ts';
import { currency, day, month, nonNegative, orBlank, rate, share, shortText } from '../money/schema.ts';

/**
 * Assumptions for all rows of a list. Percentages are fractions. `purchase` is in the list's own currency;
 * inbound, preparation and handling in the home currency; `advertPerSale` in the sales currency.
 */
export const assumptions = z.strictObject({
  homeCurrency: currency,
  date: day,
  standing: orBlank(standing),
  method: z.enum(['warehouse', 'ownDispatch']).default('warehouse'),
  purchase: z.strictObject({
    currency,
    /** `asTyped`: prices count as they stand, no VAT is taken out or added. */
    vat: z.enum(['asTyped', 'included', 'added']).default('asTyped'),
    /** Where a row names no rate of its own. */
    vatRate: rate.default(0),
    recoverable: orBlank(z.boolean()),
    /** Store-wide discount, sales tax at the till, cashback on the net. */
    discount: share.default(0),
    salesTax: share.default(0),
    cashback: share.default(0),
  }),
  /** Order quantity in sold units where a row asks for no more; the row's minimum and carton raise it. */
  orderQuantity: z.number().min(1e-6).max(1e9).default(10),
  inbound: z
    .strictObject({ perUnit: nonNegative.default(0), perKg: nonNegative.default(0) })
    .default({ perUnit: 0, perKg: 0 }),
  /** Blank: preparation is not known, and every row says so. */
  prep: orBlank(nonNegative),
  dispatch: orBlank(ownDispatch),
  returns: z
    .union([z.literal('none'), returnsTerms])
    .nullable()
    .default(null),
  breakage: z.number().min(0).max(0.99).default(0),
  advertPerSale: orBlank(nonNegative),
  /** Months a unit is held; blank: order quantity over the row's monthly units. */
  monthsHeld: orBlank(nonNegative),
  saleMonth: orBlank(month),
  /** Share of a row's monthly units that would be one's own. */
  unitsShare: share.default(1),
  conversionSpread: share.default(0),
  otherPerUnit: nonNegative.default(0),
  /** Category of the marketplace card for rows that name none. */
  category: orBlank(shortText),
  hurdles: z.array(hurdle).max(12).default([]),
});
export type Assumptions = z.output<typeof assumptions>;

/** The rate cards a list is screened with. */
export type ListRates = {
  readonly marketplace: MarketplaceCard | null;
  readonly tax: TaxCard | null;
  readonly exchange: ExchangeTable | null;
  readonly country: string;
  readonly currency: string;
};

/** What a row says of itself; null is not known. `price` in the sales currency, `cost` in the list's own. */
export type RowInputs = {
  readonly cost: number | null;
  readonly price: number | null;
  readonly units: number | null;
  readonly unitsInSoldPack: number;
  readonly unitsInBoughtPack: number;
  readonly sides: readonly [number, number, number] | null;
  readonly kg: number | null;
  readonly category: string | null;
  readonly taxClass: string;
  /** VAT rate on the purchase that the row names; null: that of the list. */
  readonly vatRate: number | null;
  /** Least order, and units in a carton, bought units; a carton that is not whole counts as none. */
  readonly minimumOrder: number | null;
  readonly carton: number | null;
  /** Other prices, each with the bought units from which it holds. */
  readonly breaks: readonly { readonly from: number; readonly cost: number }[];
};

/**
 * Sold units a row is ordered in: the list's quantity, or as many as its minimum order takes, up to the next
 * admissible order: a whole number of cartons, or of bought units where it comes singly (economics, section
 * 11). `minimumOrder` and `carton` in bought units, NaN: none.
 */
export function quantityOf(
  a: Assumptions,
  soldPack: number,
  boughtPack: number,
  minimumOrder: number,
  carton: number,
): number {
  const ratio = soldPack / boughtPack;
  const least =
    isKnown(minimumOrder) && minimumOrder > a.orderQuantity * ratio
      ? Math.ceil(minimumOrder / ratio - 1e-9)
      : a.orderQuantity;
  const lot = boughtPack * (isUnknown(carton) ? 1 : carton);
  // Most rows are bought and sold by the piece.
  const step = lot === 1 ? 1 : orderStep(soldPack, boughtPack, isUnknown(carton) ? 1 : carton);
  return Math.ceil(least / step - 1e-9) * step;
}

/**
 * What a bought unit costs in an order of so many: the price of the highest break not above it (economics,
 * section 3). NaN: not known.
 */
export function paidAt(
  cost: number,
  from: number,
  breakCost: number,
  from2: number,
  breakCost2: number,
  bought: number,
): number {
  const first = isKnown(breakCost) && from <= bought + 1e-9;
  const second = isKnown(breakCost2) && from2 <= bought + 1e-9;
  return second && (!first || from2 > from) ? breakCost2 : first ? breakCost : cost;
}

/**
 * One's own dispatch as rows are weighed with it; null, so blank, where a part of it was opened and not
 * filled in yet.
 */
export function wholeDispatch(d: Assumptions['dispatch']): Assumptions['dispatch'] {
  const open =
    d !== null &&
    (d.packaging?.amount === null ||
      d.pickAndPack?.amount === null ||
      d.zones.some((z) => z.postage.steps.some((s) => s.fee === null)));
  return open ? null : d;
}

type Source = Exclude<LaneDocumentInput['goods'], 'none' | null | undefined>[number]['source'];

/** Prices by quantity of a row: the cost from the first piece on, then its breaks, each quantity once. */
function priceBreaksOf(row: RowInputs): { minQty: number; unitPrice: number | null }[] {
  const breaks = [...row.breaks]
    .sort((x, y) => x.from - y.from)
    .filter((b, i, all) => b.from > 0 && b.from !== all[i - 1]?.from);
  return [{ minQty: 0, unitPrice: row.cost }, ...breaks.map((b) => ({ minQty: b.from, unitPrice: b.cost }))];
}

/** Where a row's goods come from: a quote; with a discount, sales tax or cashback, a shop at the price that holds. */
function sourceOf(a: Assumptions, row: RowInputs, bought: number): Source {
  const { purchase: p } = a;
  const vat = p.vat === 'asTyped' ? ('none' as const) : p.vat;
  const vatRate = vat === 'none' ? 0 : (row.vatRate ?? p.vatRate);
  const terms = { currency: p.currency, vat, vatRate, recoverable: p.recoverable };
  const priceBreaks = priceBreaksOf(row);
  if (p.discount === 0 && p.salesTax === 0 && p.cashback === 0)
    return {
      kind: 'quote',
      ...terms,
      incoterm: 'DAP',
      priceBreaks,
      minimumOrder: row.minimumOrder ?? 0,
      carton: row.carton === null ? null : { units: row.carton },
      leadDays: 0,
    };
  const held = priceBreaks[priceBreakAt(priceBreaks, bought)];
  return {
    kind: 'retail',
    ...terms,
    shelfPrice: held?.unitPrice ?? null,
    discounts: p.discount === 0 ? [] : [{ kind: 'percent' as const, share: p.discount }],
    salesTax: p.salesTax,
    cashback: p.cashback === 0 ? null : { share: p.cashback },
  };
}

/** The way in of a row's goods: so much a unit, so much a kg; none where both are 0. */
function routeOf(a: Assumptions): LaneDocumentInput['route'] {
  const inbound = { name: '', stage: 'inbound' as const, currency: a.homeCurrency };
  const legs = [
    { ...inbound, basis: 'perUnit' as const, rate: a.inbound.perUnit },
    { ...inbound, basis: 'perKg' as const, rate: a.inbound.perKg },
  ].filter((leg) => leg.rate > 0);
  return legs.length === 0 ? 'none' : { legs };
}

/** Adverts of so much a sale, as one click that sells. */
function advertsOf({ advertPerSale: x }: Assumptions): LaneDocumentInput['adverts'] {
  if (x === null) return null;
  return x === 0 ? 'none' : { keywords: [{ low: x, high: x, conversionRate: 1 }] };
}

/**
 * The lane document of one row: what opens on a sheet, and what the columns must agree with. The subscription
 * is left out: it is paid whatever is bought, and decides about no single row.
 */
export function laneOfRow(a: Assumptions, rates: ListRates, row: RowInputs, name = ''): LaneDocument {
  const { unitsInSoldPack, unitsInBoughtPack } = row;
  const [least, carton] = [row.minimumOrder ?? Number.NaN, row.carton ?? Number.NaN];
  const orderQuantity = quantityOf(a, unitsInSoldPack, unitsInBoughtPack, least, carton);
  const bought = (orderQuantity * unitsInSoldPack) / unitsInBoughtPack;
  const { exchange } = rates;
  const input: LaneDocumentInput = {
    format: 'bold-margin/lane',
    version: 1,
    date: a.date,
    homeCurrency: a.homeCurrency,
    way: 'wholesale',
    name: name.slice(0, 200),
    marketplace: rates.marketplace?.marketplace ?? '',
    country: rates.country,
    currency: rates.currency,
    price: row.price,
    standing: a.standing,
    orderQuantity,
    method: a.method,
    route: routeOf(a),
    prep: a.prep === null ? null : { standard: a.prep, currency: a.homeCurrency },
    dispatch: a.method === 'ownDispatch' ? wholeDispatch(a.dispatch) : null,
    storage: a.method === 'warehouse' ? 'card' : 'none',
    monthsHeld: a.monthsHeld,
    saleMonth: a.saleMonth,
    returns: a.returns,
    breakage: a.breakage,
    adverts: advertsOf(a),
    demand: row.units === null ? null : { kind: 'marketShare', marketUnits: row.units, share: a.unitsShare },
    otherPerUnit:
      a.otherPerUnit === 0 ? [] : [{ name: '', line: { amount: a.otherPerUnit, currency: a.homeCurrency } }],
    conversionSpread: a.conversionSpread,
    typed: { subscriptionMonthly: 0 },
    product: {
      sides: row.sides === null ? null : [...row.sides],
      kg: row.kg,
      category: row.category ?? a.category,
      taxClass: row.taxClass,
    },
    goods: [{ unitsInSoldPack, unitsInBoughtPack, source: sourceOf(a, row, bought) }],
    rates: {
      exchange: exchange === null ? null : { ...exchange, rates: { ...exchange.rates }, source: '' },
      tax: rates.tax,
      marketplace: rates.marketplace,
    },
  };
  return laneDocument.parse(input);
}
