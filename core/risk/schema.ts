/** What is not certain about a lane: ranges of its inputs, and how often they are drawn. */
import { z } from 'zod';
import { hurdle } from '../lane/hurdleSchema.ts';
import { launchPlan } from '../launch/schema.ts';
import { share } from '../money/schema.ts';
import { MAX_AMOUNT } from '../money/money.ts';

/** The uncertain inputs, in the order in which a draw takes its numbers. */
export const RISK_INPUTS = [
  'price',
  'costPerClick',
  'conversionRate',
  'unitCost',
  'freight',
  'units',
  'returnRate',
  'exchangeRate',
] as const;
export type RiskInput = (typeof RISK_INPUTS)[number];

export type Range = { readonly low: number; readonly likely: number; readonly high: number };
const rangeOf = (value: z.ZodType<number>) =>
  z
    .strictObject({ low: value, likely: value, high: value })
    .refine((r) => r.low <= r.likely && r.likely <= r.high, 'rangeOutOfOrder')
    .nullable()
    .default(null);
const amount = z.number().min(0).max(MAX_AMOUNT);
const factor = z.number().min(0).max(1000);

export const riskRanges = z
  .strictObject({
    price: rangeOf(amount).meta({ description: 'Sales currency' }),
    costPerClick: rangeOf(factor).meta({ description: 'A factor on all bids' }),
    conversionRate: rangeOf(factor).meta({ description: 'A factor on what a click sells' }),
    unitCost: rangeOf(amount).meta({ description: 'Price of the first goods as quoted' }),
    freight: rangeOf(factor).meta({ description: 'A factor on all legs, after minimums' }),
    units: rangeOf(amount).meta({ description: 'Units a month' }),
    returnRate: rangeOf(z.number().min(0).max(0.99)).meta({ description: 'Returns per unit shipped' }),
    exchangeRate: rangeOf(factor).meta({
      description: 'A factor on the exchange rate of the currency quoted in',
    }),
  })
  .prefault({});

/** What is drawn, and how: all of a document but the hurdles and the launch it is held against. */
export const sureTerms = z.strictObject({
  ranges: riskRanges,
  shape: z.enum(['triangular', 'pert']).default('triangular'),
  draws: z.number().int().min(1).max(1_000_000).default(10_000),
  seed: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER).default(1),
  months: z.number().min(0).max(600).default(12).meta({ description: 'Months on sale' }),
  salvage: share.default(0).meta({ description: 'Share of landed cost that unsold goods fetch' }),
});
export type SureTerms = z.output<typeof sureTerms>;

export const rangesDocument = sureTerms.extend({
  format: z.literal('bold-margin/ranges').default('bold-margin/ranges'),
  version: z.literal(1).default(1),
  hurdles: z.array(hurdle).max(50).default([]),
  launch: launchPlan.prefault({}),
});
export type RangesDocument = z.output<typeof rangesDocument>;
