/** What a cash run is asked: when it starts, how sales grow, when one orders again, when VAT is settled. */
import { z } from 'zod';
import { launchPlan } from '../launch/schema.ts';
import { day, orBlank, share } from '../money/schema.ts';

const wholeDays = z.number().int().min(0).max(3650);
const factor = z.number().min(0).max(1000);

export const cashCases = z
  .strictObject({ low: factor.default(0.6), expected: factor.default(1), high: factor.default(1.3) })
  .prefault({})
  .meta({ description: 'Factors on the expected units a month' });
export type CashCase = keyof z.output<typeof cashCases>;
export const CASH_CASES: readonly CashCase[] = ['low', 'expected', 'high'];

/** When a launch starts, how sales grow, when one orders again and VAT is settled: all of a plan but what it costs. */
export const cashTerms = z.strictObject({
  start: orBlank(day).meta({ description: 'Day 0; blank: the day of the lane' }),
  horizon: z.number().int().min(1).max(1825).default(365).meta({ description: 'Days that are looked at' }),
  ramp: z
    .array(factor)
    .min(1)
    .max(60)
    .default([1])
    .refine((r) => r.some((x) => x > 0), 'rampSellsNothing')
    .meta({ description: 'Factors for the first, second, third ... month on sale; the last repeats' }),
  cases: cashCases,
  reorder: z
    .discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('none') }),
      z.strictObject({ kind: z.literal('same'), notBefore: orBlank(wholeDays) }),
      z.strictObject({
        kind: z.literal('cover'),
        days: z.number().int().min(1).max(1825),
        notBefore: orBlank(wholeDays),
      }),
    ])
    .default({ kind: 'same', notBefore: null })
    .meta({ description: 'Not before a day; blank: the first day on sale' }),
  safetyDays: wholeDays.default(14),
  selfFunding: z
    .boolean()
    .default(false)
    .meta({ description: 'A reorder waits until the balance pays what it takes that day' }),
  vat: z
    .strictObject({
      period: z.enum(['month', 'quarter', 'year']).default('month'),
      settledAfter: wholeDays.default(40),
      reclaimedAfter: wholeDays.default(40),
    })
    .prefault({})
    .meta({ description: 'Days after the last day of the period' }),
  cashbackAfter: wholeDays.default(60),
  returnedAfter: z.number().int().min(1).max(3650).default(14),
  reserveShare: share.default(0).meta({ description: 'Share of a payout that waits for the next' }),
});
export type CashTerms = z.output<typeof cashTerms>;

export const cashPlan = cashTerms.extend({
  format: z.literal('bold-margin/cash-plan').default('bold-margin/cash-plan'),
  version: z.literal(1).default(1),
  launch: launchPlan.prefault({}),
});
export type CashPlan = z.output<typeof cashPlan>;
