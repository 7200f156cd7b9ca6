/**
 * A pack: cards with their proofs in one document, so that who has done the work once can give it to others.
 * Every card says where it is from and when it was put down.
 */
import { z } from 'zod';
import { CARD_KINDS, cardDay, cardKey, cardSchema } from '../cards/schema.ts';
import type { CardData, CardKind } from '../cards/schema.ts';
import { day, shortText } from '../money/schema.ts';
import { proof } from '../proofs/schema.ts';
import type { Proof } from '../proofs/schema.ts';

export const MOST_CARDS = 500;
export const MOST_PACKED_PROOFS = 20_000;

/** Who put something down, and on which day. */
export const origin = z.strictObject({ source: shortText.default(''), day });
export type Origin = z.output<typeof origin>;

export type PackedCard<K extends CardKind = CardKind> = {
  readonly kind: K;
  readonly data: CardData;
  readonly from: Origin;
};
const packedCard = z.discriminatedUnion(
  'kind',
  CARD_KINDS.map((kind) =>
    z.strictObject({ kind: z.literal(kind), data: cardSchema(kind), from: origin }),
  ) as unknown as [
    z.ZodObject<{ kind: z.ZodLiteral<CardKind>; data: z.ZodType<CardData>; from: typeof origin }>,
  ],
);

/** A proof and the card it is of, by what the card is about: marketplace and country. */
export const packedProof = z.strictObject({ card: shortText.min(1), proof });
export type PackedProof = { readonly card: string; readonly proof: Proof };

const isOnce = (cards: readonly { kind: CardKind; data: CardData }[]): boolean =>
  new Set(cards.map((c) => JSON.stringify([c.kind, cardKey(c.kind, c.data), cardDay(c.data)]))).size ===
  cards.length;

export const cardPack = z
  .strictObject({
    format: z.literal('bold-margin/card-pack'),
    version: z.literal(1),
    name: shortText.min(1, 'packNoName'),
    madeOn: day,
    cards: z
      .array(packedCard)
      .min(1, 'packNoCards')
      .max(MOST_CARDS, 'packTooManyCards')
      .refine((cards) => isOnce(cards), 'packCardTwice'),
    proofs: z.array(packedProof).max(MOST_PACKED_PROOFS, 'packTooManyProofs').default([]),
  })
  .refine(({ cards, proofs }) => {
    const keys = new Set(cards.filter((c) => c.kind === 'marketplace').map((c) => cardKey(c.kind, c.data)));
    return proofs.every((p) => keys.has(p.card));
  }, 'packProofOfNone');
export type CardPack = {
  readonly format: 'bold-margin/card-pack';
  readonly version: 1;
  readonly name: string;
  readonly madeOn: string;
  readonly cards: readonly PackedCard[];
  readonly proofs: readonly PackedProof[];
};

/** What is in a pack that travels as a zip: each file with what it holds and its SHA-256, in hexadecimal digits. */
export const packManifest = z.strictObject({
  format: z.literal('bold-margin/card-pack-manifest'),
  version: z.literal(1),
  name: shortText.min(1, 'packNoName'),
  madeOn: day,
  files: z
    .array(
      z.discriminatedUnion('holds', [
        z.strictObject({
          path: z.string().regex(/^cards\/[\w.-]{1,100}\.json$/, 'packPath'),
          holds: z.literal('card'),
          from: origin,
          sha256: z.string().regex(/^[0-9a-f]{64}$/, 'packHash'),
        }),
        z.strictObject({
          path: z.string().regex(/^proofs\/[\w.-]{1,100}\.csv$/, 'packPath'),
          holds: z.literal('proofs'),
          /** What the card of these proofs is about. */
          card: shortText.min(1),
          sha256: z.string().regex(/^[0-9a-f]{64}$/, 'packHash'),
        }),
      ]),
    )
    .min(1, 'packNoCards')
    .max(2 * MOST_CARDS, 'packTooManyCards'),
});
export type PackManifest = z.output<typeof packManifest>;
