/** Shops whose catalogues are read: what such a catalogue says of goods, and what is wanted of it. */
import { z } from 'zod';
import { listSettings } from '../lists/settings.ts';
import { country, currency, nonNegative, orBlank } from '../money/schema.ts';
import { MAX_AMOUNT } from '../money/money.ts';

const text = z.string().max(400);
const day = z.iso.date();

/** Goods as a shop's catalogue names them. `price`: of what is sold as one, in the shop's currency and tax basis. */
export const shopGoods = z.object({
  code: text.min(1).meta({ description: "The shop's own number of the goods" }),
  title: text,
  brand: text.meta({ description: 'Blank: not named' }),
  category: text,
  gtin: z.string().max(40).nullable().meta({ description: 'As the shop has it, right or wrong' }),
  price: z.number().min(0).max(MAX_AMOUNT).nullable(),
  promotion: z
    .object({ price: z.number().min(0).max(MAX_AMOUNT), until: day.nullable() })
    .nullable()
    .meta({ description: 'A price that holds for a while, its last day' }),
  stock: z.number().min(0).max(MAX_AMOUNT).nullable(),
  pieces: z.number().int().min(1).max(100_000).nullable().meta({ description: 'In what is sold as one' }),
  kg: z.number().positive().max(1e6).nullable(),
  vatRate: z.number().min(0).max(1).nullable(),
  reviews: z.number().min(0).max(MAX_AMOUNT).nullable(),
});
export type ShopGoods = z.output<typeof shopGoods>;

/** A shop as the feed names it. */
export const shop = z.object({
  key: text.min(1),
  name: text.min(1),
  country,
  currency,
  tax: z.enum(['included', 'excluded']).meta({ description: 'Whether VAT is in its prices' }),
  mail: z.string().max(254).nullable().meta({ description: 'Where orders go' }),
  categories: z.array(z.object({ key: text.min(1), name: text.min(1), goods: z.number().min(0) })).max(2000),
});
export type Shop = z.output<typeof shop>;

/** Which goods are left out before anything is worked out. Prices in the shop's currency, as goods are paid. */
export const catalogueFilters = z.strictObject({
  priceFrom: orBlank(nonNegative),
  priceTo: orBlank(nonNegative),
  reviewsFrom: orBlank(nonNegative),
  inStock: z.boolean().default(true),
  promotedOnly: z.boolean().default(false),
});
export type CatalogueFilters = z.output<typeof catalogueFilters>;

/** Categories that one reading takes at most. */
export const MOST_CATEGORIES = 500;

/** What a list that is read from a shop is read of: it is asked for again as it was. */
export const catalogueChoice = z.strictObject({
  shop: z.string().min(1).max(400),
  name: z.string().min(1).max(200),
  country,
  currency,
  tax: z.enum(['included', 'excluded']),
  categories: z
    .array(
      z.strictObject({
        key: z.string().min(1).max(400),
        name: z.string().max(400),
        /** That the shop said it has when it was chosen. */
        goods: z.number().min(0),
      }),
    )
    .min(1, 'catalogueNoCategory')
    .max(MOST_CATEGORIES),
  /** Market whose listings complete the goods; null: none. */
  market: z.string().max(400).nullable(),
  filters: catalogueFilters,
});
export type CatalogueChoice = z.output<typeof catalogueChoice>;

/** What starts a reading: what of which shop, and how its goods are weighed. */
export const catalogueSetup = z.strictObject({ choice: catalogueChoice, settings: listSettings });
export type CatalogueSetup = z.output<typeof catalogueSetup>;

const asText = (c: CatalogueChoice): string =>
  JSON.stringify([c.shop, c.market, c.filters, c.categories.map((x) => x.key).sort()]);
/** Whether two readings are of the same goods, so that what one lacks has gone and what it has more is new. */
export const sameReading = (a: CatalogueChoice, b: CatalogueChoice): boolean => asText(a) === asText(b);
