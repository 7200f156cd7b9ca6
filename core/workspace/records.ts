/** What a workspace keeps of a candidate, its quotes and its lanes. */
import { z } from 'zod';
import { laneTerms, product, quote, retailPurchase } from '../lane/schema.ts';
import { WAYS } from '../lane/choices.ts';
import type { Quote, RetailPurchase } from '../lane/schema.ts';
import { day, nonNegative, pieces, share, shortText } from '../money/schema.ts';
import { cashTerms } from '../cash/schema.ts';
import { isGtin } from '../goods/gtin.ts';
import { launchPlan } from '../launch/schema.ts';
import { sureTerms } from '../risk/schema.ts';
import { variation } from './variations.ts';

export const STAGES_OF_WORK = ['idea', 'checking', 'sampling', 'ordering', 'selling', 'letGo'] as const;
export const GATES = ['affordable', 'demanded', 'enterable', 'profitable', 'permitted'] as const;
export type Gate = (typeof GATES)[number];
/** Gates ticked by hand; the other two are computed. */
export const handGates = z.strictObject({
  demanded: z
    .strictObject({ passed: z.boolean(), note: z.string().max(2000).default('') })
    .nullable()
    .default(null),
  enterable: z
    .strictObject({ passed: z.boolean(), note: z.string().max(2000).default('') })
    .nullable()
    .default(null),
  permitted: z
    .strictObject({ passed: z.boolean(), note: z.string().max(2000).default('') })
    .nullable()
    .default(null),
});

export const quoteSource = z.discriminatedUnion('kind', [quote, retailPurchase]);
export type QuoteSource = Quote | RetailPurchase;

export const candidateData = z.strictObject({
  name: z.string().trim().min(1, 'productNoName').max(200),
  way: z.enum(WAYS),
  stage: z.enum(STAGES_OF_WORK).default('idea'),
  tags: z.array(z.string().trim().min(1).max(40)).max(20).default([]),
  notes: z.string().max(10_000).default(''),
  gates: handGates.default(handGates.parse({})),
  score: z
    .strictObject({ value: z.number().min(0).max(10).nullable(), reason: z.string().max(2000).default('') })
    .nullable()
    .default(null),
  /** Its barcode, where one is known. */
  gtin: z.string().refine(isGtin, 'wrongCheckDigit').nullable().default(null),
  product: product.default(product.parse({})),
  variations: z.array(variation).max(500).default([]),
  /** Overrides of the workspace's launch plan; null: that of the workspace. */
  launch: launchPlan.nullable().default(null),
  /** When it is launched and how it grows; null: the defaults. */
  overTime: cashTerms.nullable().default(null),
  /** The lane that is to be launched, once that is decided. */
  launchLane: z.string().max(64).nullable().default(null),
  /** Ranges of what is not certain, by lane. */
  sure: z.record(z.string().max(64), sureTerms).default({}),
});
export type CandidateData = z.output<typeof candidateData>;

export const storedLane = laneTerms.extend({
  components: z
    .array(
      z.strictObject({
        quoteId: z.string().max(64),
        name: shortText.default(''),
        unitsInSoldPack: pieces.default(1),
        unitsInBoughtPack: pieces.default(1),
        /** The candidate whose goods these are, where a bundle is put together of candidates. */
        candidateId: z.string().max(64).nullable().default(null),
      }),
    )
    .max(50)
    .default([]),
  noGoods: z.boolean().default(false),
  category: shortText.nullable().default(null),
  marketplaceCardId: z.string().max(64).nullable().default(null),
  taxCardId: z.string().max(64).nullable().default(null),
  exchangeCardId: z.string().max(64).nullable().default(null),
  /**
   * Where set, the card's legs stand in place of `route`, its zones in place of the postage, its rate in
   * place of `benchmark`.
   */
  freightCardId: z.string().max(64).nullable().default(null),
  postageCardId: z.string().max(64).nullable().default(null),
  benchmarkCardId: z.string().max(64).nullable().default(null),
  benchmark: z.strictObject({ rate: share, date: day }).nullable().default(null),
  /** Rivals' prices with delivery, sales currency, for the ladder. */
  rivalPrices: z.array(nonNegative).max(50).default([]),
});
export type StoredLane = z.output<typeof storedLane>;
