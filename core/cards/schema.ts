/** The kinds of rate cards, what identifies one, and the document in which a whole card travels. */
import { z } from 'zod';
import { country, currency, day, exchangeTable, share, shortText } from '../money/schema.ts';
import { marketplaceCard, taxCard } from './rates.ts';
import { ownDispatch, route } from './carriage.ts';

const head = { name: shortText.min(1, 'cardNoName'), inForceFrom: day, note: shortText.default('') };
const anyCountry = country.nullable().default(null);

/** A freight route as a card: legs with their rates, and the countries it runs between (null: any). */
export const freightCard = z.strictObject({
  ...head,
  from: anyCountry,
  to: anyCountry,
  mode: z.enum(['sea', 'air', 'road', 'rail', 'parcel']),
  route: route.omit({ name: true }),
});
export type FreightCard = z.output<typeof freightCard>;

/** Postage for parcels that the seller dispatches, to buyers in one country (null: any). */
export const postageCard = z
  .strictObject({
    ...head,
    country: anyCountry,
    ...ownDispatch.pick({ zones: true, vat: true, vatRate: true, recoverable: true, packagingKg: true })
      .shape,
  })
  .refine(
    (c) => c.zones.every((x) => x.name !== '') && new Set(c.zones.map((x) => x.name)).size === c.zones.length,
    'zoneNames',
  );
export type PostageCard = z.output<typeof postageCard>;

/** What the bank pays a year on money left with it, as a fraction. */
export const benchmarkCard = z.strictObject({ ...head, currency, rate: share });
export type BenchmarkCard = z.output<typeof benchmarkCard>;

export const CARD_SCHEMAS = {
  marketplace: marketplaceCard,
  tax: taxCard,
  freight: freightCard,
  postage: postageCard,
  exchange: exchangeTable,
  benchmark: benchmarkCard,
} as const;
export const CARD_KINDS = ['marketplace', 'tax', 'freight', 'postage', 'exchange', 'benchmark'] as const;
export type CardKind = keyof typeof CARD_SCHEMAS;
export type CardOf<K extends CardKind> = z.output<(typeof CARD_SCHEMAS)[K]>;
export type CardData = CardOf<CardKind>;

/** A whole card in a file. */
export const cardDocument = z.discriminatedUnion(
  'kind',
  CARD_KINDS.map((kind) =>
    z.strictObject({
      format: z.literal('bold-margin/rate-card'),
      version: z.literal(1),
      kind: z.literal(kind),
      data: CARD_SCHEMAS[kind],
    }),
  ) as unknown as [
    z.ZodObject<{
      format: z.ZodLiteral<'bold-margin/rate-card'>;
      version: z.ZodLiteral<1>;
      kind: z.ZodLiteral<CardKind>;
      data: z.ZodType<CardData>;
    }>,
  ],
);

/** What a card is about, the same in all its versions: marketplace and country, country, name, or the one there is. */
export function cardKey(kind: CardKind, data: CardData): string {
  switch (kind) {
    case 'marketplace':
      return `${(data as CardOf<'marketplace'>).marketplace}/${(data as CardOf<'marketplace'>).country}`;
    case 'tax':
      return (data as CardOf<'tax'>).country;
    case 'freight':
    case 'postage':
      return (data as FreightCard | PostageCard).name;
    case 'exchange':
      return 'exchange';
    case 'benchmark':
      return (data as BenchmarkCard).currency;
  }
}

/** The day from which a card is in force. */
export function cardDay(data: CardData): string {
  return 'inForceFrom' in data ? data.inForceFrom : data.date;
}

export function cardName(data: CardData): string {
  return 'name' in data ? data.name : 'Exchange rates';
}

/** The same card in force from another day. */
export function cardFrom(data: CardData, from: string): CardData {
  return 'inForceFrom' in data ? { ...data, inForceFrom: from } : { ...data, date: from };
}
