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

/** Where a lane sells, and in which currency its workspace counts. */
export type CardPlace = { readonly country: string; readonly homeCurrency: string };
type Kind<S extends z.ZodType> = {
  readonly schema: S;
  /** What a card is about, the same in all its versions. */
  readonly key: (card: z.output<S>) => string;
  /** Whether a lane takes the card with this key unless another is chosen; absent: one is always chosen. */
  readonly usualFor?: (key: string, place: CardPlace) => boolean;
};
const kind = <S extends z.ZodType>(k: Kind<S>): Kind<S> => k;

/**
 * The kinds of cards. How each is written as sheets stands in `forms.ts`, which field of a lane names it in
 * `workspace/records.ts` (`CARD_FIELDS`).
 */
const CARDS = {
  marketplace: kind({ schema: marketplaceCard, key: (c) => `${c.marketplace}/${c.country}` }),
  tax: kind({ schema: taxCard, key: (c) => c.country, usualFor: (key, { country: to }) => key === to }),
  freight: kind({ schema: freightCard, key: (c) => c.name }),
  postage: kind({ schema: postageCard, key: (c) => c.name }),
  exchange: kind({ schema: exchangeTable, key: () => 'exchange', usualFor: () => true }),
  benchmark: kind({
    schema: benchmarkCard,
    key: (c) => c.currency,
    usualFor: (key, { homeCurrency }) => key === homeCurrency,
  }),
} as const;
export type CardKind = keyof typeof CARDS;
export type CardOf<K extends CardKind> = z.output<(typeof CARDS)[K]['schema']>;
export type CardData = CardOf<CardKind>;
export const CARD_KINDS = Object.keys(CARDS) as readonly CardKind[];

export const isCardKind = (kind: unknown): kind is CardKind =>
  typeof kind === 'string' && Object.hasOwn(CARDS, kind);
export const cardSchema = (kind: CardKind): z.ZodType<CardData> => CARDS[kind].schema;

/** Of the versions in force, those that a lane takes unless others are chosen. */
export function usualCards<C extends { readonly kind: CardKind; readonly key: string }>(
  cards: readonly C[],
  place: CardPlace,
): Partial<Record<CardKind, C>> {
  const usual: Partial<Record<CardKind, C>> = {};
  for (const card of cards) {
    const { usualFor }: { usualFor?: (key: string, place: CardPlace) => boolean } = CARDS[card.kind];
    if (usual[card.kind] === undefined && usualFor?.(card.key, place)) usual[card.kind] = card;
  }
  return usual;
}

/** Ids of cards by their kind. */
export const idsOf = (
  cards: Partial<Record<CardKind, { readonly id: string }>>,
): Partial<Record<CardKind, string>> => Object.fromEntries(Object.entries(cards).map(([k, c]) => [k, c.id]));

/** A whole card in a file. */
export const cardDocument = z.discriminatedUnion(
  'kind',
  CARD_KINDS.map((kind) =>
    z.strictObject({
      format: z.literal('bold-margin/rate-card'),
      version: z.literal(1),
      kind: z.literal(kind),
      data: cardSchema(kind),
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

/**
 * What a card is about, the same in all its versions: marketplace and country, country, name, or the one there
 * is.
 */
export const cardKey = (kind: CardKind, data: CardData): string =>
  (CARDS[kind].key as (card: CardData) => string)(data);

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
