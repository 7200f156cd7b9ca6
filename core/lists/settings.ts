/** Everything a list is screened with, in one document: where the goods are sold, the rate cards, the assumptions. */
import { z } from 'zod';
import { assumptions } from '../columns/assumptions.ts';
import { marketplaceCard, taxCard } from '../lane/rates.ts';
import { country, currency, exchangeTable } from '../money/schema.ts';

export const screenSettings = z.strictObject({
  format: z.literal('bold-margin/screen'),
  version: z.literal(1),
  country,
  currency: currency.meta({ description: 'Sales currency' }),
  rates: z.strictObject({ marketplace: marketplaceCard.nullable().default(null), tax: taxCard.nullable().default(null), exchange: exchangeTable.nullable().default(null) }),
  assumptions,
  packs: z.enum(['single', 'bought']).default('single').meta({ description: 'bought: where words say that the price is for a pack, its pieces are sold one by one' }),
  taxClass: z.string().max(200).default('standard'),
});
