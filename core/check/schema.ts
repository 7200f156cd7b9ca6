/** A check of goods at a shop's shelf: what is typed there, what is known of the listing, and what was decided. */
import { z } from 'zod';
import { isGtin } from '../goods/gtin.ts';
import { PRICE_BASES } from './bases.ts';
import { PERMISSIONS } from '../evidence/schema.ts';
import {
  currency,
  day,
  nonNegative,
  orBlank,
  pieces,
  positive,
  rate,
  share,
  shortText,
} from '../money/schema.ts';

/**
 * A listing as it is known at the shelf; null is not known. Prices with delivery in the market's currency, units a
 * month: those of the listing, and what of them would be one's own; `ownShop`: share of 90 days on which the
 * marketplace's own shop offered.
 */
export const shelfListing = z.strictObject({
  code: shortText.default(''),
  title: z.string().max(400).default(''),
  brand: shortText.default(''),
  prices: z
    .strictObject({ now: orBlank(nonNegative), mean30: orBlank(nonNegative), mean90: orBlank(nonNegative) })
    .default({ now: null, mean30: null, mean90: null }),
  units: orBlank(nonNegative),
  mine: orBlank(nonNegative),
  rank: orBlank(nonNegative),
  offers: orBlank(nonNegative),
  ownShop: orBlank(share),
  permission: z.enum(PERMISSIONS).nullable().default(null),
  sides: orBlank(z.tuple([positive, positive, positive])),
  kg: orBlank(positive),
  category: shortText.nullable().default(null),
  /** Pieces in its pack. */
  pack: pieces.default(1),
  /** Day that this speaks of. */
  asOf: day,
  source: z.enum(['feed', 'list']),
});
export type ShelfListing = z.output<typeof shelfListing>;

/**
 * What a shop's till does to the price on the shelf, a bought unit, in the shop's currency; percentages as fractions.
 * These are kept from one check to the next. `vatRate` above 0: the shelf price holds that much VAT.
 */
export const tillTerms = z.strictObject({
  currency,
  off: share.default(0),
  coupon: nonNegative.default(0),
  cashback: share.default(0),
  salesTax: share.default(0),
  vatRate: rate.default(0),
});
export type TillTerms = z.output<typeof tillTerms>;

export const CHECK_STATES = ['kept', 'left'] as const;

/** One check. `cards`: the versions it was reckoned with. */
export const shelfCheck = z.strictObject({
  id: z.uuid(),
  session: z.uuid(),
  at: z.iso.datetime(),
  gtin: z.string().refine(isGtin, 'wrongCheckDigit').nullable().default(null),
  /** What it is called where no listing says so. */
  name: z.string().trim().max(200).default(''),
  /** The market's card key: marketplace and country. */
  market: z.string().min(1).max(300),
  cards: z.strictObject({
    marketplace: z.string().max(64),
    tax: z.string().max(64).nullable(),
    exchange: z.string().max(64).nullable(),
  }),
  listing: shelfListing.nullable().default(null),
  /** What one says of the goods oneself; it beats what is known of the listing. */
  typed: z
    .strictObject({
      sides: orBlank(z.tuple([positive, positive, positive])),
      kg: orBlank(positive),
      category: shortText.nullable().default(null),
    })
    .default({ sides: null, kg: null, category: null }),
  basis: z.enum(PRICE_BASES).default('now'),
  /** Where the basis is one's own. */
  typedPrice: orBlank(nonNegative),
  shelf: orBlank(nonNegative),
  till: tillTerms,
  /** Bought units that one would take. */
  take: z.number().int().min(1).max(1_000_000).default(1),
  /** Pieces in the pack on the shelf. */
  boughtPack: pieces.default(1),
  state: z.enum(CHECK_STATES),
  reason: z.string().trim().max(500).default(''),
  /** When it was decided last, by the clock of the device: of two that are sent the later counts. */
  changedAt: z.iso.datetime(),
});
export type ShelfCheck = z.output<typeof shelfCheck>;

const instant = z.iso.datetime();
/** A walk through shops: when one was at it. An open stretch has no end. */
export const checkSession = z.strictObject({
  id: z.uuid(),
  name: z.string().trim().max(120).default(''),
  stretches: z
    .array(z.strictObject({ from: instant, to: instant.nullable().default(null) }))
    .min(1)
    .max(500),
  ended: z.boolean().default(false),
  /** When it was changed last, by the clock of the device: of two that are sent the later counts. */
  changedAt: instant,
});
export type CheckSession = z.output<typeof checkSession>;
