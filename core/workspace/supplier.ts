import { z } from 'zod';
import { isCountry, isCurrency } from '../cards/cells.ts';
import { mailAddress } from '../mail/schema.ts';
import { country, currency } from '../money/schema.ts';

/** Languages in which there are templates to write to a supplier. */
export const LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'pl'] as const;
export type Language = (typeof LANGUAGES)[number];

const capitals = (x: unknown): unknown => (typeof x === 'string' ? x.trim().toUpperCase() || null : x);

/** What is kept of a supplier beside what is bought there. */
export const supplierRecord = z.object({
  name: z.string('supplierNoName').trim().min(1, 'supplierNoName').max(200),
  country: z.preprocess(capitals, country.refine(isCountry, 'countryShape').nullable().default(null)),
  currency: z.preprocess(capitals, currency.refine(isCurrency, 'currencyShape').nullable().default(null)),
  contact: z.string().trim().max(500).default(''),
  mail: z.union([z.literal(''), mailAddress]).default(''),
  language: z.enum(LANGUAGES).default('en'),
  notes: z.string().trim().max(5000).default(''),
});
export type SupplierRecord = z.output<typeof supplierRecord>;
