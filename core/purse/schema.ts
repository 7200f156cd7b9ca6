/** Several launches that share one purse: what there is, which lanes may be launched, and by which rules. */
import { z } from 'zod';
import { cashPlan } from '../cash/schema.ts';
import { laneDocument } from '../lane/schema.ts';
import { amount, day, nonNegative, share, shortText } from '../money/schema.ts';

const week = z.number().int().min(0).max(260);

const mustBe = z.union([z.boolean(), z.strictObject({ quantity: z.number().min(1e-6).max(1e9), week })]);

export const purseLane = z.strictObject({
  key: shortText.meta({ description: 'What rules and answers name the lane by' }),
  candidate: shortText,
  name: z.string().max(300).default(''),
  lane: laneDocument,
  plan: cashPlan
    .prefault({})
    .meta({
      description: 'Ramp, cases, VAT, launch costs; start, horizon and reorders are those of the purse',
    }),
  quantities: z
    .array(z.number().min(1e-6).max(1e9))
    .max(50)
    .default([])
    .meta({ description: 'Order quantities to choose among; none: the one of the lane' }),
  lastStart: week.nullable().default(null).meta({ description: 'Latest week; blank: that of the purse' }),
  must: mustBe
    .default(false)
    .meta({ description: 'Launched in any case: with any option (true), or with this one' }),
});
export type PurseLane = z.output<typeof purseLane>;

/** By which rules launches are chosen. */
export const purseRules = z.strictObject({
  weeks: z
    .number()
    .int()
    .min(1)
    .max(260)
    .default(52)
    .meta({ description: 'The last week; weeks count from 0' }),
  caution: share
    .default(0)
    .meta({ description: 'Share of what the low case would lack that counts against' }),
  salvage: share.default(0).meta({ description: 'Share of landed cost that unsold goods fetch' }),
  lastStart: week.default(0).meta({ description: 'Latest start; every second week up to it is offered' }),
  lanesPerCandidate: z.number().int().min(1).max(100).default(1),
  most: z.number().int().min(0).max(1000).nullable().default(null).meta({ description: 'Launches at most' }),
  perWeek: z
    .number()
    .int()
    .min(0)
    .max(1000)
    .nullable()
    .default(null)
    .meta({ description: 'Starts in one week at most' }),
  neverTogether: z.array(z.array(shortText).min(2).max(100)).max(100).default([]),
  seconds: z.number().min(0.1).max(600).default(5).meta({ description: 'How long the solver may think' }),
});

/** What a workspace keeps of its purse: the rules, lanes that must be launched, and lanes that stay out. */
export const purseKept = purseRules.extend({
  lastStart: week.default(26),
  must: z.record(shortText, mustBe).default({}),
  out: z.array(shortText).max(2000).default([]),
});

export const purseDocument = purseRules
  .extend({
    format: z.literal('bold-margin/purse'),
    version: z.literal(1),
    start: day,
    cash: amount,
    reserve: nonNegative.default(0),
    monthlyFixedCosts: nonNegative.default(0).meta({ description: 'Taken once, whatever is launched' }),
    lanes: z.array(purseLane).max(500),
  })
  .refine((p) => new Set(p.lanes.map((l) => l.key)).size === p.lanes.length, 'purseLaneTwice')
  .refine((p) => {
    const keys = new Set(p.lanes.map((l) => l.key));
    return p.neverTogether.every((set) => set.every((key) => keys.has(key)));
  }, 'purseNoSuchLane')
  .refine((p) => p.reserve <= p.cash, 'reserveOverCash');
export type PurseDocument = z.output<typeof purseDocument>;
