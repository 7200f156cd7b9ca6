import { z } from 'zod';
import { LEAST_MEASURE, MAX_AMOUNT } from './money.ts';

/** Any amount of money, minus included. */
export const amount = z.number().min(-MAX_AMOUNT).max(MAX_AMOUNT);
/** An amount or measure of 0 or more. */
export const nonNegative = z.number().min(0).max(MAX_AMOUNT);
/** A measure that must be above 0; the floor keeps quotients finite. */
export const positive = z.number().min(LEAST_MEASURE).max(MAX_AMOUNT);
/** An input that may be blank: not known yet. */
export const orBlank = <T extends z.ZodType>(schema: T) => schema.nullable().default(null);
/** A fraction of a whole, 0 to 1. */
export const share = z.number().min(0).max(1);
/** A rate that may pass 100 %, such as a duty; as a fraction, 0 to 100. */
export const rate = z.number().min(0).max(100);
/** Pieces: a whole number of units. */
export const pieces = z.number().int().min(1).max(1e9);
/** Calendar month, 1 to 12. */
export const month = z.number().int().min(1).max(12);
/** Twelve values by calendar month. */
export const twelve = z.array(nonNegative).length(12);
/** ISO 8601 day. */
export const day = z
  .string()
  .regex(/^\d{4}-\d{2}-\d{2}$/, 'dayShape')
  .refine((s) => {
    const at = new Date(`${s}T00:00:00Z`);
    return !Number.isNaN(at.getTime()) && at.toISOString().startsWith(s);
  }, 'noSuchDay');
/** ISO 4217 code, three capitals. */
export const currency = z.string().regex(/^[A-Z]{3}$/, 'currencyShape');
/** ISO 3166-1 alpha-2 code, two capitals. */
export const country = z.string().regex(/^[A-Z]{2}$/, 'countryShape');
export const shortText = z.string().max(200);

/** Something bought: an amount with its currency and the VAT on it (economics, section 2). */
export const purchasedLine = z.strictObject({
  amount: amount
    .nullable()
    .meta({
      description: 'Major units of `currency`; null: not known yet, and the cost line it belongs to is blank',
    }),
  currency,
  vat: z
    .enum(['none', 'included', 'added'])
    .default('none')
    .meta({ description: 'Whether VAT is in the amount, on top of it, or not charged' }),
  vatRate: rate.default(0),
  recoverable: z
    .boolean()
    .nullable()
    .default(null)
    .meta({ description: 'Beats the standing: false for foreign VAT or a missing receipt' }),
});
export type PurchasedLine = z.output<typeof purchasedLine>;

export const exchangeTable = z.strictObject({
  date: day,
  base: currency,
  rates: z
    .record(currency, positive)
    .meta({ description: 'Units of each currency per one unit of the base' }),
  source: shortText.default(''),
});
