/** Everything a list is screened with, in one document: where the goods are sold, the rate cards, the assumptions. */
import { z } from 'zod';
import { assumptions } from '../columns/assumptions.ts';
import { marketplaceCard, taxCard } from '../cards/rates.ts';
import { country, currency, exchangeTable } from '../money/schema.ts';

export const screenSettings = z.strictObject({
  format: z.literal('bold-margin/screen'),
  version: z.literal(1),
  country,
  currency: currency.meta({ description: 'Sales currency' }),
  rates: z.strictObject({
    marketplace: marketplaceCard.nullable().default(null),
    tax: taxCard.nullable().default(null),
    exchange: exchangeTable.nullable().default(null),
  }),
  assumptions,
  packs: z
    .enum(['single', 'bought'])
    .default('single')
    .meta({
      description: 'bought: where words say that the price is for a pack, its pieces are sold one by one',
    }),
  taxClass: z.string().max(200).default('standard'),
});
export type ScreenSettings = z.output<typeof screenSettings>;

/**
 * What a workspace keeps of a list: which cards it is weighed on, and its assumptions; home currency, day and
 * VAT standing are those of the workspace. `basis`: which shelf price counts, where the file has it.
 * `categories`: the supplier's words for the card's categories.
 */
export const listSettings = z.strictObject({
  country,
  marketplaceCardId: z.string().max(100).nullable().default(null),
  taxCardId: z.string().max(100).nullable().default(null),
  exchangeCardId: z.string().max(100).nullable().default(null),
  basis: z.enum(['now', '30', '90']).default('now'),
  packs: z.enum(['single', 'bought']).default('single'),
  taxClass: z.string().max(200).default('standard'),
  categories: z.record(z.string().max(200), z.string().max(200)).default({}),
  assumptions: assumptions.omit({ homeCurrency: true, date: true, standing: true }),
});
export type ListSettings = z.output<typeof listSettings>;
