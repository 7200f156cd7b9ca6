/** The document that says what is known of a product in one market, as the command line reads it. */
import { z } from 'zod';
import { currency, day, nonNegative, shortText } from '../money/schema.ts';

const month = z.string().regex(/^\d{4}-(?:0[1-9]|1[0-2])$/, 'monthShape');
const volumes = z
  .array(z.strictObject({ month, value: nonNegative }))
  .max(600)
  .meta({ description: 'Monthly volumes; a month that is not known is left out, 0 is a value' });

export const evidenceDocument = z.strictObject({
  format: z.literal('bold-margin/evidence'),
  version: z.literal(1),
  /** As of which day; blank: of the last row. */
  now: day.nullable().default(null),
  terms: z
    .array(z.strictObject({ term: shortText, weight: nonNegative.default(1), volumes }))
    .max(200)
    .default([]),
  prices: z
    .strictObject({
      currency,
      days: z
        .array(z.strictObject({ day, price: nonNegative.nullable() }))
        .max(20_000)
        .meta({ description: 'What a buyer paid, delivery included; null: nobody offered that day' }),
    })
    .nullable()
    .default(null),
});
export type EvidenceDocument = z.output<typeof evidenceDocument>;
