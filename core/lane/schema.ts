/**
 * The lane document: one candidate product sold on one marketplace, in one country, fulfilled one way, bought
 * on one quote at one order quantity, moved along one route, at one price, with the rates it is computed
 * with.
 *
 * In any cost line `null` is blank (not known yet), `"none"` is "does not apply" and a number, 0 too, is a
 * number. Percentages are fractions, lengths cm, weights kg, volumes m3. Defaults filled in here are (opt)
 * inputs of the rules.
 */
import { z } from 'zod';
import {
  amount,
  country,
  currency,
  day,
  exchangeTable,
  month,
  nonNegative,
  orBlank,
  pieces,
  positive,
  purchasedLine,
  rate,
  share,
  shortText,
  twelve,
} from '../money/schema.ts';
import { ownDispatch, route } from '../cards/carriage.ts';
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import { INCOTERMS, WAYS } from './choices.ts';
import { NO_TYPED_RATES } from './defaults.ts';

const none = z.literal('none');
// ---- goods
// ---------------------------------------------------------------------------------------------------------

export const carton = z.strictObject({
  units: pieces.meta({ description: 'Bought units in a carton' }),
  volumeM3: orBlank(positive),
  kg: orBlank(positive),
});

export const quote = z.strictObject({
  kind: z.literal('quote'),
  supplier: shortText.default(''),
  date: orBlank(day),
  validUntil: orBlank(day),
  currency,
  incoterm: z.enum(INCOTERMS).default('EXW'),
  priceBreaks: z
    .array(z.strictObject({ minQty: nonNegative, unitPrice: orBlank(nonNegative) }))
    .min(1)
    .max(50)
    .refine((b) => b.every((x, i) => i === 0 || x.minQty > (b[i - 1]?.minQty ?? 0)), 'breaksRise'),
  firstPrice: orBlank(nonNegative).meta({
    description: 'Unit price first asked, before negotiation; for the record',
  }),
  minimumOrder: nonNegative.default(0),
  extras: z
    .array(z.strictObject({ name: shortText, amount: orBlank(nonNegative) }))
    .max(50)
    .default([]),
  perOrder: z
    .array(z.strictObject({ name: shortText, amount: orBlank(nonNegative) }))
    .max(50)
    .default([]),
  oneOffs: z
    .array(z.strictObject({ name: shortText, amount: orBlank(nonNegative) }))
    .max(50)
    .default([]),
  freightInPrice: nonNegative
    .default(0)
    .meta({
      description:
        'Freight and insurance inside the unit price, net of VAT, per bought unit; leaves an FOB ' +
        'customs value. Counts under the C and D rules alone',
    }),
  vat: z.enum(['none', 'included', 'added']).default('none'),
  vatRate: rate.default(0),
  recoverable: z.boolean().nullable().default(null),
  carton: orBlank(carton),
  leadDays: orBlank(nonNegative),
  depositShare: orBlank(share).meta({ description: 'Paid with the order; blank counts as 1, all of it' }),
  creditDays: nonNegative.default(0),
});
export type Quote = z.output<typeof quote>;

export const discount = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('percent'), share: orBlank(share) }),
  z.strictObject({ kind: z.literal('coupon'), amount: orBlank(nonNegative), covers: pieces.default(1) }),
]);

export const retailPurchase = z.strictObject({
  kind: z.literal('retail'),
  supplier: shortText.default(''),
  date: orBlank(day),
  validUntil: orBlank(day),
  currency,
  shelfPrice: orBlank(nonNegative),
  discounts: z.array(discount).max(20).default([]),
  reordered: z
    .boolean()
    .default(false)
    .meta({ description: 'false: percentages first; true: in the order listed' }),
  vat: z.enum(['none', 'included', 'added']).default('none'),
  vatRate: rate.default(0),
  recoverable: z.boolean().nullable().default(null),
  salesTax: share.default(0),
  exempt: z.boolean().default(false),
  giftCard: orBlank(z.strictObject({ discount: orBlank(share), part: share.default(1) })),
  cashback: orBlank(
    z.strictObject({
      share: orBlank(share),
      taxCounts: z.boolean().default(false),
      giftCardsCount: z.boolean().default(true),
    }),
  ),
  delivery: orBlank(purchasedLine),
  stock: orBlank(nonNegative).meta({ description: 'Units the shop has left' }),
  exclusions: shortText.default('').meta({ description: 'What its discounts and cashback leave out' }),
  leadDays: orBlank(nonNegative),
  creditDays: nonNegative.default(0),
});
export type RetailPurchase = z.output<typeof retailPurchase>;

export const component = z.strictObject({
  name: shortText.default(''),
  unitsInSoldPack: pieces.default(1),
  unitsInBoughtPack: pieces.default(1),
  source: z.discriminatedUnion('kind', [quote, retailPurchase]),
});
export type Component = z.output<typeof component>;

// ---- selling
// -------------------------------------------------------------------------------------------------------

export const METHODS = ['warehouse', 'ownDispatch', 'supplierShips'] as const;

export const keyword = z.strictObject({
  text: shortText.default(''),
  low: orBlank(nonNegative),
  high: orBlank(nonNegative),
  weight: share.default(0.5),
  conversionRate: orBlank(share),
  expectedClicks: orBlank(nonNegative),
});

export type Keyword = z.output<typeof keyword>;

export const adverts = z.strictObject({
  keywords: z.array(keyword).min(1).max(500),
  adShare: share.default(1),
});

export const returnsTerms = z.strictObject({
  rate: orBlank(z.number().min(0).max(0.99)).meta({ description: 'Returns per unit shipped' }),
  resaleShare: share.default(0),
  handling: orBlank(purchasedLine),
  disposal: orBlank(purchasedLine),
});

export type ReturnsTerms = z.output<typeof returnsTerms>;

export const demand = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('typed'), units: orBlank(nonNegative) }),
  z.strictObject({
    kind: z.literal('marketShare'),
    marketUnits: orBlank(nonNegative),
    share: orBlank(share),
  }),
  z.strictObject({
    kind: z.literal('offerSplit'),
    listingUnits: orBlank(nonNegative),
    variationShare: share.default(1),
    retailArmShare: share.default(0),
    band: rate.default(0),
    rivals: z.array(nonNegative.nullable()).max(1000),
  }),
]);

export const standing = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('registered') }),
  z.strictObject({ kind: z.literal('notRegistered') }),
  z.strictObject({ kind: z.literal('flatRate'), rate: share }),
  z.strictObject({ kind: z.literal('marketplaceRemits'), recoverable: z.boolean().default(false) }),
]);
export type Standing = z.output<typeof standing>;

/** Fees, rates and taxes typed on the lane itself; each beats the card. */
export const typedRates = z.strictObject({
  vatRate: orBlank(share),
  importVatRate: orBlank(share),
  dutyPct: orBlank(rate),
  referralPct: orBlank(share).meta({ description: 'Replaces tiers, minimum and maximum by one percentage' }),
  itemFee: orBlank(nonNegative),
  paymentPct: orBlank(share),
  paymentFixed: orBlank(nonNegative),
  subscriptionMonthly: orBlank(nonNegative),
  fulfilmentFee: orBlank(nonNegative),
  storagePerM3Month: orBlank(nonNegative),
});
export type TypedRates = z.output<typeof typedRates>;

export const product = z.strictObject({
  sides: orBlank(z.tuple([positive, positive, positive])).meta({ description: 'Packaged sides, cm' }),
  kg: orBlank(positive).meta({ description: 'Packaged weight, kg' }),
  category: orBlank(shortText).meta({ description: 'Key of a category on the marketplace card' }),
  taxClass: shortText.default('standard'),
  hsCode: orBlank(z.string().regex(/^\d{4,10}$/, 'headingShape')),
  origin: orBlank(country),
  dangerous: z.boolean().default(false),
  oversize: z.boolean().default(false),
});
export type Product = z.output<typeof product>;

export const SOURCES = [
  'typed',
  'default',
  'quote',
  'card',
  'evidence',
  'guess',
  'estimate',
  'borrowed',
  'actual',
] as const;
export const provenance = z.record(
  z.string(),
  z.strictObject({
    source: z.enum(SOURCES),
    date: orBlank(day),
    note: shortText.default(''),
    /** Units sold behind a figure that really came. */
    units: pieces.optional(),
  }),
);
export type Provenance = z.output<typeof provenance>;

/** What a lane says for itself, without the product, the sources of its goods and the rates. */
export const laneTerms = z.strictObject({
  name: shortText.default(''),
  marketplace: shortText.default(''),
  country,
  currency: currency.meta({ description: 'Sales currency' }),
  imported: z.boolean().default(false).meta({ description: 'The goods cross a customs border' }),
  price: orBlank(nonNegative).meta({
    description: 'Shelf price in the sales currency, with VAT in an inclusive regime',
  }),
  averageDiscount: z.number().min(0).max(0.99).default(0),
  shippingCharged: nonNegative.default(0),
  standing: orBlank(standing),
  orderQuantity: orBlank(z.number().min(1e-6).max(1e9)).meta({ description: 'Q, in sold units' }),
  buyingSpread: rate
    .default(0)
    .meta({ description: "The bank's cut on foreign payments, as a share of the goods" }),
  route: z.union([none, route]).nullable().default(null),
  importVatPostponed: z.boolean().default(false),
  prep: z
    .union([
      none,
      z.strictObject({
        standard: orBlank(nonNegative),
        oversize: orBlank(nonNegative),
        currency,
        vat: z.enum(['none', 'included', 'added']).default('none'),
        vatRate: rate.default(0),
        recoverable: z.boolean().nullable().default(null),
      }),
    ])
    .nullable()
    .default(null),
  method: z.enum(METHODS).default('warehouse'),
  dispatch: z
    .union([none, ownDispatch])
    .nullable()
    .default(null)
    .meta({ description: 'Used when the method is ownDispatch' }),
  supplierDelivery: z
    .union([none, purchasedLine])
    .nullable()
    .default(null)
    .meta({ description: 'Used when the method is supplierShips; per order' }),
  storage: z
    .union([
      none,
      z.literal('card'),
      z.strictObject({ own: purchasedLine.meta({ description: 'Per m3 and month' }) }),
    ])
    .nullable()
    .default(null),
  monthsHeld: orBlank(nonNegative),
  saleMonth: orBlank(month),
  referralApplies: z.boolean().default(true).meta({ description: 'false: no referral fee on this lane' }),
  accountUnitsPerMonth: orBlank(nonNegative),
  returns: z.union([none, returnsTerms]).nullable().default(null),
  breakage: z.number().min(0).max(0.99).default(0),
  otherPerUnit: z
    .array(z.strictObject({ name: shortText, line: purchasedLine }))
    .max(50)
    .default([]),
  freeExtraProfit: amount.default(0),
  conversionSpread: share.default(0),
  adverts: z.union([none, adverts]).nullable().default(null),
  demand: orBlank(demand),
  season: orBlank(twelve.refine((s) => s.some((x) => x >= 1e-9), 'oneMonthSells')),
  monthlyFixedCosts: nonNegative.default(0),
  payoutEveryDays: orBlank(nonNegative),
  payoutDelayDays: orBlank(nonNegative),
  typed: typedRates.default(NO_TYPED_RATES),
  provenance: provenance.default({}),
});

export type LaneTerms = z.output<typeof laneTerms>;

export const rates = z.strictObject({
  exchange: orBlank(exchangeTable),
  tax: orBlank(taxCard),
  marketplace: orBlank(marketplaceCard),
  benchmark: orBlank(z.strictObject({ rate: share, date: day })).meta({
    description: 'What the bank pays a year on money left with it',
  }),
});

/** A lane with everything it is computed from. */
export const laneDocument = laneTerms.extend({
  format: z.literal('bold-margin/lane'),
  version: z.literal(1),
  date: day.meta({ description: 'Day of the rates' }),
  homeCurrency: currency,
  way: z.enum(WAYS).default('ownBrand'),
  product: product.default(product.parse({})),
  goods: z
    .union([none, z.array(component).min(1).max(50)])
    .nullable()
    .default(null),
  rates,
});
export type LaneDocument = z.output<typeof laneDocument>;
export type LaneDocumentInput = z.input<typeof laneDocument>;
