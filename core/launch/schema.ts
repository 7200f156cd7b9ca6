import { z } from 'zod';
import { amount, currency, day, nonNegative, share, shortText } from '../money/schema.ts';
import { BOUNDS } from '../lane/bounds.ts';
import { laneDocument } from '../lane/schema.ts';

/** What a launch takes beside the goods, and the money at hand. Amounts in the home currency, VAT paid included. */
export const launchPlan = z.strictObject({
  cash: nonNegative.nullable().default(null).meta({ description: 'Cash at hand' }),
  reserve: nonNegative.default(0).meta({ description: 'Cash kept back' }),
  contingency: z.number().min(0).max(10).default(0).meta({ description: 'Share of all other launch costs' }),
  oneOffs: z
    .array(z.strictObject({ name: shortText, amount: nonNegative.nullable() }))
    .max(100)
    .default([]),
  advertising: z
    .discriminatedUnion('kind', [
      z.strictObject({
        kind: z.literal('daily'),
        perDay: nonNegative.nullable(),
        days: nonNegative.nullable(),
      }),
      z.strictObject({ kind: z.literal('units'), units: nonNegative.nullable() }),
    ])
    .nullable()
    .default(null),
  discounts: z.strictObject({ units: nonNegative, discount: nonNegative }).default({ units: 0, discount: 0 }),
  monthlyProfitGoal: amount.nullable().default(null),
  dailyProfitGoal: amount.nullable().default(null),
  monthlyFixedCosts: nonNegative.default(0),
  priceMultiples: z.strictObject({ low: nonNegative, high: nonNegative }).default({ low: 3, high: 5 }),
  goodsShareOfLanded: share
    .nullable()
    .default(null)
    .meta({ description: "The workspace's goods over landed cash, used where the lane has none" }),
  quantities: z.array(z.number().min(1e-6).max(1e9)).max(20).default([]),
});
export type LaunchPlan = z.output<typeof launchPlan>;

export const launchDocument = z.strictObject({
  format: z.literal('bold-margin/launch'),
  version: z.literal(1),
  lane: laneDocument,
  plan: launchPlan,
});

const known = z.number().nullable();
export const budgetAt = z.object({
  quantity: z.number(),
  admissible: z.boolean(),
  unitLandedCash: known,
  lines: z.object({ oneOffs: known, goods: known, advertising: known, discounts: known, contingency: known }),
  total: known,
  leftOfCash: known,
  unitProfit: known,
  coverMonths: known,
});
export const launchResult = z.object({
  format: z.literal('bold-margin/launch-result'),
  version: z.literal(1),
  currency,
  date: day,
  oneOffs: z
    .array(z.object({ name: z.string(), amount: known, source: z.enum(['plan', 'quote']) }))
    .meta({ description: 'Each one-off, home currency' }),
  budget: budgetAt.nullable(),
  compared: z.array(budgetAt),
  productBudget: known,
  smallestOrder: known,
  mostUnits: known,
  shortfall: known,
  mostPerUnit: known.meta({
    description: 'Landed cash a unit may cost at the order quantity, home currency',
  }),
  mostPerUnitSmallest: known.meta({ description: 'The same at the smallest order that the supplier takes' }),
  mostUnitPrice: known.meta({ description: 'The unit price that gives it, in the currency of the quote' }),
  mostUnitPriceCurrency: z.string(),
  shelfPriceBand: z.object({ low: z.number(), high: z.number() }).nullable(),
  breakEvenUnits: known,
  breakEvenMonth: known,
  unitsADay: known,
  monthsToPayBack: known.meta({
    description:
      'About: launch cash over what a month brings in, the goods already paid for; null where that is beyond the cover',
  }),
  incomplete: z.array(z.string()),
  bounds: z
    .record(z.string(), z.enum(BOUNDS))
    .default({})
    .meta({ description: 'Of each figure that lacks costs: what it is a bound of' }),
  reasons: z.record(z.string(), z.string()),
});
export type BudgetAt = z.output<typeof budgetAt>;
export type LaunchResult = z.output<typeof launchResult>;
