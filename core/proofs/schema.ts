/**
 * A proof: an item, and what was really charged for it by an invoice, a settlement or the marketplace's own
 * estimate. It says whether a card is right, and which row is not.
 */
import { z } from 'zod';
import { day, nonNegative, orBlank, positive, shortText } from '../money/schema.ts';

/** The fees a proof may name: what a sale costs, and what the warehouse takes for a unit. */
export const PROVED = ['referral', 'itemFee', 'payment', 'fulfilment'] as const;
export type Proved = (typeof PROVED)[number];

export const proof = z
  .strictObject({
    date: orBlank(day),
    /** Packaged sides in cm, weight in kg. */
    sides: orBlank(z.tuple([positive, positive, positive])),
    kg: orBlank(positive),
    /** Key of a category of the card; '' the only one there is. */
    category: shortText.default(''),
    /** What the buyer paid, currency of the card. */
    price: orBlank(nonNegative),
    charged: z.strictObject(
      Object.fromEntries(PROVED.map((f) => [f, orBlank(nonNegative)])) as Record<
        Proved,
        ReturnType<typeof orBlank<typeof nonNegative>>
      >,
    ),
    /** Where it is from: an invoice, a settlement line. */
    note: shortText.default(''),
  })
  .refine((p) => PROVED.some((f) => p.charged[f] !== null), 'proofNoFee');
export type Proof = z.output<typeof proof>;
export const MOST_PROOFS = 10_000;
