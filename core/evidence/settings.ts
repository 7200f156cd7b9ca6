/** Levels by which evidence is read: ages, ranges of estimates, what counts as few, wide, weak. Each may be changed. */
import { z } from 'zod';
import { nonNegative, orBlank, rate, share } from '../money/schema.ts';

/** Parts of the opportunity, by the way of working: poor and good level, and weight. */
export const OWN_BRAND_PARTS = [
  'demand',
  'steadiness',
  'room',
  'freedom',
  'priceRoom',
  'margin',
  'permission',
] as const;
export const RESALE_PARTS = [
  'myUnits',
  'priceSteadiness',
  'ownShopAway',
  'offers',
  'margin',
  'permission',
] as const;
export type Part = (typeof OWN_BRAND_PARTS)[number] | (typeof RESALE_PARTS)[number];

const level = z.strictObject({ poor: z.number(), good: z.number(), weight: nonNegative.default(1) });
const LEVELS: Readonly<Record<Part, z.input<typeof level>>> = {
  demand: { poor: 30, good: 300 },
  steadiness: { poor: 0.3, good: 0.85 },
  room: { poor: 0, good: 0.3 },
  freedom: { poor: 0.5, good: 0.85 },
  priceRoom: { poor: 0.1, good: 0.6 },
  margin: { poor: 0.08, good: 0.25 },
  permission: { poor: 0, good: 1 },
  myUnits: { poor: 5, good: 40 },
  priceSteadiness: { poor: 0.5, good: 0.1 },
  ownShopAway: { poor: 0.5, good: 1 },
  offers: { poor: 15, good: 3 },
};
const levels = Object.fromEntries(
  Object.entries(LEVELS).map(([part, own]) => [part, level.default(level.parse(own))]),
) as Record<Part, z.ZodDefault<typeof level>>;

export const evidenceSettings = z.strictObject({
  ages: z
    .strictObject({
      prices: nonNegative.default(7),
      offers: nonNegative.default(3),
      units: nonNegative.default(30),
      searches: nonNegative.default(45),
    })
    .prefault({})
    .meta({ description: 'Days after which a figure is stale' }),
  estimateUnder: share.default(0.4).meta({ description: 'How far under an estimate the truth may be' }),
  estimateOver: rate.default(0.6).meta({ description: 'How far over it' }),
  fewReviews: z
    .strictObject({
      cap: nonNegative.default(250),
      revenueFrom: nonNegative.default(1000),
      revenueTo: orBlank(nonNegative),
    })
    .prefault({})
    .meta({ description: 'Who earns with few reviews: at most so many, revenue a month within' }),
  brandListings: nonNegative.default(3).meta({ description: 'More listings of one brand: it owns the page' }),
  brandRevenue: share.default(0.5).meta({ description: 'At least this share of the revenue: it does too' }),
  newcomerDays: nonNegative.default(180),
  sellsUnits: nonNegative.default(10).meta({ description: 'Units a month from which a row sells' }),
  ceiling: share.default(0.9).meta({ description: 'Percentile of the prices that is the ceiling' }),
  weakVolume: nonNegative.default(200),
  clickShare: orBlank(share).meta({ description: 'Clicks of adverts per search' }),
  undercutBy: share.default(0.02).meta({ description: 'Step by which one undercuts, of the lowest price' }),
  opportunity: z.strictObject(levels).prefault({}),
});
export type EvidenceSettings = z.output<typeof evidenceSettings>;
