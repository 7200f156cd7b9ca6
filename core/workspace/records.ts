/** What a workspace keeps of a candidate, its quotes and its lanes, and how a lane document is put together from them. */
import { z } from 'zod';
import type { Standing } from '../lane/schema.ts';
import { laneTerms, product, quote, retailPurchase, WAYS } from '../lane/schema.ts';
import type { LaneDocument, Product, Quote, RetailPurchase, Way } from '../lane/schema.ts';
import type { MarketplaceCard, TaxCard } from '../lane/rates.ts';
import { marketplaceCard, taxCard } from '../lane/rates.ts';
import { day, exchangeTable, pieces, share, shortText } from '../money/schema.ts';
import type { ExchangeTable } from '../money/money.ts';
import { launchPlan } from '../launch/schema.ts';

export const STAGES_OF_WORK = ['idea', 'checking', 'sampling', 'ordering', 'selling'] as const;
export const GATES = ['affordable', 'demanded', 'enterable', 'profitable', 'permitted'] as const;
export type Gate = (typeof GATES)[number];
/** Gates ticked by hand; the other two are computed. */
export const handGates = z.strictObject({
  demanded: z.strictObject({ passed: z.boolean(), note: z.string().max(2000).default('') }).nullable().default(null),
  enterable: z.strictObject({ passed: z.boolean(), note: z.string().max(2000).default('') }).nullable().default(null),
  permitted: z.strictObject({ passed: z.boolean(), note: z.string().max(2000).default('') }).nullable().default(null),
});

export const quoteSource = z.discriminatedUnion('kind', [quote, retailPurchase]);
export type QuoteSource = Quote | RetailPurchase;

export const candidateData = z.strictObject({
  name: z.string().trim().min(1, 'Give the candidate a name').max(200),
  way: z.enum(WAYS),
  stage: z.enum(STAGES_OF_WORK).default('idea'),
  tags: z.array(z.string().trim().min(1).max(40)).max(20).default([]),
  notes: z.string().max(10_000).default(''),
  gates: handGates.default(handGates.parse({})),
  score: z.strictObject({ value: z.number().min(0).max(10), reason: z.string().max(2000).default('') }).nullable().default(null),
  product: product.default(product.parse({})),
  /** Overrides of the workspace's launch plan; null: that of the workspace. */
  launch: launchPlan.nullable().default(null),
});
export type CandidateData = z.output<typeof candidateData>;

export const storedLane = laneTerms.extend({
  components: z
    .array(z.strictObject({ quoteId: z.string().max(64), name: shortText.default(''), unitsInSoldPack: pieces.default(1), unitsInBoughtPack: pieces.default(1) }))
    .max(50)
    .default([]),
  noGoods: z.boolean().default(false),
  category: shortText.nullable().default(null),
  marketplaceCardId: z.string().max(64).nullable().default(null),
  taxCardId: z.string().max(64).nullable().default(null),
  exchangeCardId: z.string().max(64).nullable().default(null),
  benchmark: z.strictObject({ rate: share, date: day }).nullable().default(null),
});
export type StoredLane = z.output<typeof storedLane>;

export const CARD_SCHEMAS = { marketplace: marketplaceCard, tax: taxCard, exchange: exchangeTable } as const;
export type CardKind = keyof typeof CARD_SCHEMAS;
export type CardData = MarketplaceCard | TaxCard | ExchangeTable;

export type Parts = {
  readonly candidate: { readonly way: Way; readonly product: Product };
  readonly lane: StoredLane;
  readonly quotes: ReadonlyMap<string, QuoteSource> | Readonly<Record<string, QuoteSource>>;
  readonly cards: Readonly<Record<string, CardData>>;
  readonly homeCurrency: string;
  readonly standings: Readonly<Record<string, Standing>>;
  /** Day of the answer, year-month-day. */
  readonly today: string;
};

/**
 * Puts a self-contained lane document together. A standing on the lane beats the workspace's for that country; a category
 * on the lane beats the product's.
 */
export function composeLane(p: Parts): LaneDocument {
  const { components, noGoods, category, marketplaceCardId, taxCardId, exchangeCardId, benchmark, ...terms } = p.lane;
  const quoteOf = (id: string): QuoteSource | undefined => (p.quotes instanceof Map ? p.quotes.get(id) : (p.quotes as Record<string, QuoteSource>)[id]);
  const goods = components.flatMap((c) => {
    const source = quoteOf(c.quoteId);
    return source === undefined ? [] : [{ name: c.name, unitsInSoldPack: c.unitsInSoldPack, unitsInBoughtPack: c.unitsInBoughtPack, source }];
  });
  return {
    ...terms,
    format: 'bold-margin/lane', version: 1, date: p.today, homeCurrency: p.homeCurrency, way: p.candidate.way,
    standing: terms.standing ?? p.standings[terms.country] ?? null,
    product: category === null ? p.candidate.product : { ...p.candidate.product, category },
    goods: noGoods ? 'none' : goods.length === 0 ? null : goods,
    rates: {
      marketplace: marketplaceCardId === null ? null : ((p.cards[marketplaceCardId] as MarketplaceCard | undefined) ?? null),
      tax: taxCardId === null ? null : ((p.cards[taxCardId] as TaxCard | undefined) ?? null),
      exchange: exchangeCardId === null ? null : ((p.cards[exchangeCardId] as LaneDocument['rates']['exchange'] | undefined) ?? null),
      benchmark,
    },
  };
}
