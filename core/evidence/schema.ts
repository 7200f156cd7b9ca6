/**
 * The document that says what is known of a product in one market, as it is downloaded and as the command line
 * reads it.
 */
import { z } from 'zod';
import {
  country,
  currency,
  day,
  month,
  nonNegative,
  orBlank,
  pieces,
  positive,
  share,
  shortText,
} from '../money/schema.ts';
import { MAX_AMOUNT } from '../money/money.ts';
import { hurdle } from './hurdles.ts';
import { evidenceSettings } from './settings.ts';

const monthOfYear = z.string().regex(/^\d{4}-(?:0[1-9]|1[0-2])$/, 'monthShape');
export const volumes = z
  .array(z.strictObject({ month: monthOfYear, value: nonNegative }))
  .max(600)
  .meta({ description: 'Monthly volumes; a month that is not known is left out, 0 is a value' });

// ---- terms

export const MATCHES = ['exact', 'phrase', 'broad'] as const;
export const bid = z.strictObject({
  source: shortText.default(''),
  match: z.enum(MATCHES).default('exact'),
  low: orBlank(nonNegative),
  high: orBlank(nonNegative),
});
export type Bid = z.output<typeof bid>;

export const term = z.strictObject({
  term: shortText.min(1, 'termNoText'),
  language: shortText.default(''),
  weight: nonNegative.default(1).meta({ description: 'Weight in the season of several terms' }),
  volumes: volumes.default([]),
  sales: orBlank(nonNegative).meta({ description: 'Sales made under the term in its last month' }),
  bids: z.array(bid).max(20).default([]),
  ticked: z.boolean().default(false).meta({ description: 'Belongs to the product' }),
  broad: z.boolean().default(false).meta({ description: 'Marked as broad, whatever its words' }),
  confirmed: z.boolean().default(false).meta({ description: 'Such goods were seen to appear under it' }),
  ofRival: z.boolean().default(false).meta({ description: "Holds a rival's name" }),
  note: z.string().max(2000).default(''),
  freePlace: orBlank(pieces).meta({ description: 'Place of the listing among the free results' }),
  paidPlace: orBlank(pieces),
});
export type Term = z.output<typeof term>;

// ---- a listing

export const dayRow = z.strictObject({
  day,
  price: nonNegative.nullable(),
  rank: orBlank(z.number().min(1).max(MAX_AMOUNT)),
  offers: orBlank(nonNegative),
  ownShop: z
    .boolean()
    .nullable()
    .default(null)
    .meta({ description: "Whether the marketplace's own shop offered" }),
  promotion: z.boolean().default(false),
});
export type DayRow = z.output<typeof dayRow>;

export const estimate = z.strictObject({
  units: nonNegative,
  low: orBlank(nonNegative),
  high: orBlank(nonNegative),
});
export const unitsKnown = z.strictObject({
  typed: orBlank(nonNegative),
  statedVariation: orBlank(nonNegative),
  statedListing: orBlank(nonNegative),
  estimatedVariation: orBlank(estimate),
  estimatedListing: orBlank(estimate),
  rank: orBlank(positive).meta({ description: 'Place among the best sellers of the category, from 1' }),
  curve: z
    .array(z.strictObject({ rank: positive, units: positive }))
    .max(100)
    .default([])
    .meta({ description: 'Units a month by rank in the category' }),
  hasVariations: z.boolean().default(false),
  ratingsVariation: orBlank(nonNegative),
  ratingsListing: orBlank(nonNegative),
  typedShare: orBlank(share),
});
export type UnitsKnown = z.output<typeof unitsKnown>;

export const marketVariation = z.strictObject({
  code: shortText.default(''),
  name: shortText.default(''),
  price: orBlank(nonNegative),
  ratings: orBlank(nonNegative),
});

/** A variation with what it costs at one's own source, and how many are to be had there. */
export const ownVariation = marketVariation.extend({
  cost: orBlank(nonNegative).meta({ description: 'A bought unit, currency of the first quote of the lane' }),
  stock: orBlank(nonNegative),
});

/** What a comparable listing lends: its packaged size and weight, and the category it stands in. */
export const about = z.strictObject({
  sides: orBlank(z.tuple([positive, positive, positive])).meta({ description: 'cm' }),
  kg: orBlank(positive),
  category: shortText.default(''),
});

export const OFFER_OF = ['other', 'ownShop', 'ours'] as const;
export const offer = z.strictObject({
  seller: shortText.default(''),
  price: nonNegative,
  delivery: orBlank(nonNegative).meta({ description: 'null: not known' }),
  warehouse: z.boolean().nullable().default(null).meta({ description: "From the marketplace's warehouse" }),
  of: z.enum(OFFER_OF).default('other'),
  isDefault: z.boolean().default(false),
});
export type Offer = z.output<typeof offer>;

// ---- rivals

export const rival = z.strictObject({
  listing: shortText.default(''),
  title: shortText.default(''),
  brand: shortText.default(''),
  seller: shortText.default(''),
  price: orBlank(nonNegative),
  units: orBlank(nonNegative),
  reviews: orBlank(nonNegative),
  rating: orBlank(z.number().min(0).max(5)),
  daysListed: orBlank(nonNegative),
  offers: orBlank(nonNegative),
  paid: z.boolean().default(false).meta({ description: 'A paid place' }),
  struck: z
    .boolean()
    .nullable()
    .default(null)
    .meta({ description: 'Struck out or taken back by hand; null: paid places are struck out' }),
});
export type Rival = z.output<typeof rival>;

export const MAX_RIVALS = 2000;
export const rivals = z.strictObject({
  currency,
  tax: z.enum(['included', 'excluded']).default('included'),
  from: shortText.default('').meta({ description: 'The search, the category or the file' }),
  rows: z.array(rival).max(MAX_RIVALS),
});

// ---- permission and care

export const PERMISSIONS = ['open', 'approval', 'closed', 'rightsAlert'] as const;
export const permission = z.strictObject({
  state: z.enum(PERMISSIONS),
  by: z
    .enum(['documents', 'purchase'])
    .nullable()
    .default(null)
    .meta({ description: 'What an approval asks for' }),
  units: orBlank(nonNegative),
  price: orBlank(nonNegative).meta({
    description: 'Of a unit of the first purchase, currency of the market',
  }),
  asked: orBlank(day),
  answered: orBlank(day),
  who: shortText.default(''),
});
export type Permission = z.output<typeof permission>;

export const CARE_STATES = ['open', 'fine', 'trouble', 'notNeeded'] as const;
export const careItem = z.strictObject({
  what: shortText.min(1),
  state: z.enum(CARE_STATES).default('open'),
  note: z.string().max(2000).default(''),
  date: orBlank(day),
  who: shortText.default(''),
});
export type CareItem = z.output<typeof careItem>;

export const complaint = z.strictObject({
  theme: shortText.min(1),
  share: orBlank(share).meta({ description: 'Of the complaints' }),
  count: orBlank(nonNegative),
  improvement: z.string().max(2000).default(''),
  cost: orBlank(nonNegative).meta({
    description: 'What the improvement costs a unit, currency of the market',
  }),
  price: orBlank(nonNegative).meta({ description: 'The shelf price it may carry' }),
});

export type Complaint = z.output<typeof complaint>;

// ---- the whole

const shape = z.strictObject({
  format: z.literal('bold-margin/evidence'),
  version: z.literal(1),
  /** As of which day; blank: of the last row. */
  now: day.nullable().default(null),
  market: z.strictObject({ marketplace: shortText, country }).nullable().default(null),
  terms: z.array(term).max(20_000).default([]),
  match: z.enum(MATCHES).default('exact').meta({ description: 'Match type whose bids count' }),
  prices: z
    .strictObject({
      currency,
      days: z
        .array(dayRow)
        .max(20_000)
        .meta({ description: 'What a buyer paid, delivery included; null: nobody offered that day' }),
    })
    .nullable()
    .default(null),
  units: unitsKnown.nullable().default(null),
  variations: z.array(ownVariation).max(2000).default([]),
  about: about.nullable().default(null),
  unitsByMonth: volumes.default([]).meta({ description: 'Units of the listing by month' }),
  window: z
    .strictObject({ from: day, to: day, units: orBlank(nonNegative) })
    .nullable()
    .default(null)
    .meta({ description: 'The days whose figures one looks at, and the units sold in them, for a month' }),
  offers: z
    .strictObject({ currency, list: z.array(offer).max(1000) })
    .nullable()
    .default(null),
  mine: z
    .strictObject({
      price: orBlank(nonNegative).meta({ description: 'With delivery, currency of the market' }),
      band: share.default(0.03).meta({ description: 'How far above the lowest offer one still sells' }),
    })
    .prefault({}),
  rivals: rivals.nullable().default(null),
  permission: permission.nullable().default(null),
  care: z.array(careItem).max(200).default([]),
  complaints: z.array(complaint).max(200).default([]),
  returnRate: orBlank(share).meta({ description: 'Of the category' }),
  saleMonth: orBlank(month),
  hurdles: z.array(hurdle).max(30).default([]),
  settings: evidenceSettings.prefault({}),
});

/** Prices, offers and rivals of one market are in its one currency. */
export const evidenceDocument = shape.superRefine((doc, ctx) => {
  const named = (['prices', 'offers', 'rivals'] as const).flatMap((part) => {
    const own = doc[part];
    return own === null ? [] : [{ part, currency: own.currency }];
  });
  for (const { part, currency } of named.slice(1))
    if (currency !== named[0]?.currency)
      ctx.addIssue({ code: 'custom', path: [part, 'currency'], message: 'twoCurrencies' });
});
export type EvidenceDocument = z.output<typeof evidenceDocument>;
