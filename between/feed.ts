/**
 * The contract of a market feed: what it may be asked, and what an answer has to be. Anybody may implement it; the
 * description in docs/feed.openapi.json is made from these schemas (`openApiOfFeed`).
 */
import { z } from 'zod';
import { MATCHES, PERMISSIONS } from '../core/evidence/schema.ts';
import { MAX_AMOUNT } from '../core/money/money.ts';
import { shop, shopGoods } from '../core/shops/schema.ts';

/** Plain numbers and texts: an answer says what it means, and no default stands in for what it leaves out. */
const amount = z.number().min(0).max(MAX_AMOUNT);
const count = z.number().min(0).max(MAX_AMOUNT);
const share = z.number().min(0).max(1);
const text = z.string().max(400);
const day = z.iso.date();
const month = z.string().regex(/^\d{4}-(?:0[1-9]|1[0-2])$/, 'monthShape');
const currency = z.string().regex(/^[A-Z]{3}$/);
const head = {
  asOf: day.meta({ description: 'Day that the answer speaks of' }),
  coverage: share.meta({ description: 'Part of the market that the feed sees' }),
};
const money = { currency, tax: z.enum(['included', 'excluded']) };

const row = z.object({
  listing: text.min(1),
  title: text,
  brand: text.meta({ description: 'Blank: none' }),
  seller: text,
  category: text,
  price: amount.nullable(),
  units: count.nullable().meta({ description: 'A month' }),
  rank: z.number().min(1).nullable(),
  reviews: count.nullable(),
  rating: z.number().min(0).max(5).nullable(),
  daysListed: count.nullable(),
  offers: count.nullable(),
  kg: z.number().positive().nullable(),
  gtin: z
    .string()
    .regex(/^\d{8,14}$/)
    .nullable(),
  paid: z.boolean().meta({ description: 'A paid place' }),
});
export type FeedRow = z.output<typeof row>;
export { row as feedRow };
const rows = z.object({ ...head, ...money, listings: z.array(row).max(500) });
const volumes = z.array(z.object({ month, value: count })).max(240);
const term = z.object({ term: text.min(1), language: text, volumes, sales: count.nullable() });

/** Kinds of pictures: what a page shows and nothing can hide in. */
export const PICTURE_TYPES = ['image/png', 'image/jpeg', 'image/webp'] as const;

export const ANSWERS = {
  markets: z.object({
    ...head,
    markets: z
      .array(
        z.object({
          market: text.meta({ description: 'Marketplace and country, as rate cards name them: Alderway/DE' }),
          marketplace: text,
          country: z.string().length(2),
          currency,
          languages: z.array(text).max(20),
          listings: count,
          historyDays: count,
        }),
      )
      .max(2000),
  }),
  categories: z.object({
    ...head,
    categories: z
      .array(
        z.object({
          key: text,
          returnRate: share.nullable(),
          curve: z.array(z.object({ rank: z.number().min(1), units: z.number().positive() })).max(100),
        }),
      )
      .max(5000),
  }),
  search: rows.extend({ total: count, next: z.string().max(200).nullable() }),
  listing: row
    .omit({ paid: true })
    .extend({
      ...head,
      currency,
      sides: z.array(z.number().positive()).length(3).nullable(),
      units: z
        .object({ units: count, stated: z.boolean(), low: count.nullable(), high: count.nullable() })
        .nullable(),
      unitsByMonth: volumes,
      curve: z.array(z.object({ rank: z.number().min(1), units: z.number().positive() })).max(100),
      returnRate: share.nullable(),
      variations: z
        .array(
          z.object({ code: text.min(1), name: text, price: amount.nullable(), ratings: count.nullable() }),
        )
        .max(2000),
    }),
  history: z.object({
    ...head,
    listing: text,
    currency,
    days: z
      .array(
        z.object({
          day,
          price: amount.nullable().meta({ description: 'With delivery; null: nobody offered' }),
          rank: z.number().min(1).nullable(),
          offers: count.nullable(),
          ownShop: z.boolean().nullable(),
          promotion: z.boolean(),
        }),
      )
      .max(4000),
  }),
  offers: z.object({
    ...head,
    listing: text,
    currency,
    offers: z
      .array(
        z.object({
          seller: text,
          price: amount,
          delivery: amount.nullable(),
          warehouse: z.boolean().nullable(),
          ownShop: z.boolean(),
          isDefault: z.boolean(),
        }),
      )
      .max(1000),
  }),
  permission: z.object({
    ...head,
    listing: text,
    state: z.enum(PERMISSIONS),
    by: z.enum(['documents', 'purchase']).nullable(),
    units: count.nullable(),
    price: amount.nullable(),
  }),
  complaints: z.object({
    ...head,
    listing: text,
    complaints: z
      .array(z.object({ theme: text.min(1), share: share.nullable(), count: count.nullable() }))
      .max(200),
  }),
  'listing-terms': z.object({
    ...head,
    listing: text,
    terms: z
      .array(
        term.extend({
          freePlace: z.number().int().min(1).nullable(),
          paidPlace: z.number().int().min(1).nullable(),
        }),
      )
      .max(2000),
  }),
  terms: z.object({ ...head, terms: z.array(term).max(2000) }),
  bids: z.object({
    ...head,
    currency,
    bids: z
      .array(
        z.object({
          term: text.min(1),
          language: text,
          source: text,
          match: z.enum(MATCHES),
          low: amount.nullable(),
          high: amount.nullable(),
        }),
      )
      .max(5000),
  }),
  barcode: z.object({
    ...head,
    ...money,
    listings: z.array(row.extend({ pack: z.number().int().min(1) })).max(200),
  }),
  barcodes: z.object({
    ...head,
    ...money,
    listings: z
      .array(
        row.extend({
          pack: z.number().int().min(1).max(100_000),
          sides: z.array(z.number().positive()).length(3).nullable().meta({ description: 'cm' }),
        }),
      )
      .max(2000),
  }),
  picks: rows,
  picture: z.object({
    ...head,
    type: z.enum(PICTURE_TYPES),
    base64: z.base64().min(1).max(600_000).meta({ description: 'The picture, some 450 kB at most' }),
  }),
  shops: z.object({ ...head, shops: z.array(shop).max(1000) }),
  catalogue: z.object({
    ...head,
    ...money,
    edition: text.meta({ description: 'Another one: the catalogue has changed since the page before' }),
    total: count.meta({ description: 'Goods of what was asked for' }),
    next: z.string().max(200).nullable(),
    goods: z.array(shopGoods).max(500),
  }),
} as const;
export type Question = keyof typeof ANSWERS;
export type FeedAnswer<Q extends Question> = z.output<(typeof ANSWERS)[Q]>;

/** Figures that a search may be limited by, from and to. */
export const RANGE_FIGURES = ['price', 'units', 'rank', 'reviews', 'rating', 'daysListed', 'kg'] as const;
export const SORTS = ['relevance', 'units', 'price', 'reviews', 'newest'] as const;
export const PICKS = ['new', 'rising', 'best', 'random'] as const;

type Parameter = {
  readonly name: string;
  readonly description: string;
  readonly required?: true;
  readonly schema: object;
};
const string = { type: 'string' };
const market: Parameter = {
  name: 'market',
  description: 'Marketplace and country',
  required: true,
  schema: string,
};
const code: Parameter = { name: 'code', description: 'Code of the listing', required: true, schema: string };
const limit: Parameter = {
  name: 'limit',
  description: 'Rows at most',
  schema: { type: 'integer', minimum: 1, maximum: 200 },
};
const PARAMETERS: Readonly<Record<Question, readonly Parameter[]>> = {
  markets: [],
  categories: [market],
  search: [
    market,
    { name: 'words', description: 'What is searched for', schema: string },
    { name: 'category', description: 'Key of a category', schema: string },
    { name: 'seller', description: 'Only the goods of one seller', schema: string },
    { name: 'brand', description: 'Only the goods of one brand', schema: string },
    { name: 'sort', description: 'Order', schema: { type: 'string', enum: [...SORTS] } },
    { name: 'cursor', description: 'Where the page before ended (`next`)', schema: string },
    limit,
    ...RANGE_FIGURES.flatMap((f): Parameter[] =>
      (['From', 'To'] as const).map((end) => ({
        name: `${f}${end}`,
        description: `${f}: ${end === 'From' ? 'at least' : 'at most'}`,
        schema: { type: 'number' },
      })),
    ),
  ],
  listing: [market, code],
  history: [
    market,
    code,
    { name: 'from', description: 'First day wanted', schema: { type: 'string', format: 'date' } },
  ],
  offers: [market, code],
  permission: [market, code],
  complaints: [market, code],
  'listing-terms': [market, code],
  terms: [
    market,
    { name: 'words', description: 'What such terms are about', required: true, schema: string },
  ],
  bids: [
    market,
    { name: 'terms', description: 'Terms with a stroke (|) between', required: true, schema: string },
  ],
  barcode: [market, { name: 'gtin', description: 'Barcode, 8 to 14 digits', required: true, schema: string }],
  barcodes: [
    market,
    {
      name: 'gtins',
      description: 'Barcodes with a stroke (|) between, 100 at most',
      required: true,
      schema: string,
    },
  ],
  picture: [
    {
      name: 'code',
      description: 'Code of the listing, or number of the goods in a shop',
      required: true,
      schema: string,
    },
    { name: 'market', description: 'Marketplace and country of the listing', schema: string },
    { name: 'shop', description: 'Key of the shop that the goods are in', schema: string },
  ],
  shops: [],
  catalogue: [
    { name: 'shop', description: 'Key of the shop', required: true, schema: string },
    { name: 'category', description: 'Key of one of its categories', required: true, schema: string },
    { name: 'cursor', description: 'Where the page before ended (`next`)', schema: string },
    limit,
  ],
  picks: [
    market,
    { name: 'what', description: 'Which list', required: true, schema: { type: 'string', enum: [...PICKS] } },
    limit,
  ],
};
export type FeedWords = {
  readonly title: string;
  readonly description: string;
  readonly answer: string;
  readonly trouble: Readonly<Record<'404' | '422' | '429' | '503', string>>;
  readonly about: Readonly<Record<Question, string>>;
};
/** The description of a feed that anybody can implement, in the words of a language (OpenAPI 3.1). */
export function openApiOfFeed(words: FeedWords): object {
  const trouble = (description: string): object => ({
    description,
    content: {
      'application/problem+json': {
        schema: {
          type: 'object',
          properties: { type: string, title: string, status: { type: 'integer' }, detail: string },
        },
      },
    },
  });
  const paths = Object.fromEntries(
    (Object.keys(ANSWERS) as Question[]).map((q) => [
      `/${q}`,
      {
        get: {
          summary: words.about[q],
          operationId: q,
          parameters: PARAMETERS[q].map((p) => ({ in: 'query', ...p })),
          responses: {
            '200': {
              description: words.answer,
              content: { 'application/json': { schema: z.toJSONSchema(ANSWERS[q]) } },
            },
            '404': trouble(words.trouble['404']),
            '422': trouble(words.trouble['422']),
            '429': trouble(words.trouble['429']),
            '503': trouble(words.trouble['503']),
          },
        },
      },
    ]),
  );
  return {
    openapi: '3.1.0',
    info: { title: words.title, version: '1', description: words.description },
    components: { securitySchemes: { secret: { type: 'http', scheme: 'bearer' } } },
    security: [{ secret: [] }],
    paths,
  };
}
