/** What a workspace decides once: money, standing, ways of working, hurdles and the defaults of a new candidate. */
import { z } from 'zod';
import { driftWidth } from '../actuals/driftWidth.ts';
import { country, currency, nonNegative, share } from '../money/schema.ts';
import { MEASURES } from '../compare/measures.ts';
import { hurdle as evidenceHurdle } from '../evidence/hurdles.ts';
import { evidenceSettings } from '../evidence/settings.ts';
import { hurdle } from '../lane/hurdleSchema.ts';
import type { Hurdle } from '../lane/hurdleSchema.ts';
import { standing } from '../lane/schema.ts';
import { WAYS } from '../lane/choices.ts';
import type { Way } from '../lane/choices.ts';
import { launchPlan } from '../launch/schema.ts';
import { NOISE } from '../match/tokens.ts';
import { purseKept } from '../purse/schema.ts';
import { rangeWidths } from '../risk/offered.ts';

/** Percentages as fractions; money in the home currency. Blank (null): a new lane starts with that line blank. */
export const laneDefaults = z.strictObject({
  orderQuantity: nonNegative.nullable().default(200),
  prep: nonNegative.nullable().default(0.25),
  returnRate: share.nullable().default(0.04),
  resaleShare: share.default(0.5),
  returnHandling: nonNegative.default(0.8),
  clickLow: nonNegative.nullable().default(0.35),
  clickHigh: nonNegative.nullable().default(0.65),
  conversionRate: share.nullable().default(0.1),
  adShare: share.default(0.35),
  monthlyUnits: nonNegative.nullable().default(60),
  mainFreightPerCbm: nonNegative.nullable().default(160),
  inboundPerUnit: nonNegative.nullable().default(0.3),
  postagePerParcel: nonNegative.nullable().default(4.2),
  insuranceRate: share.default(0.003),
  transitDays: nonNegative.default(35),
  leadDays: nonNegative.default(30),
  benchmarkRate: share.default(0.025),
  conversionSpread: share.default(0),
});

const HURDLES: Readonly<Record<Way, readonly Hurdle[]>> = {
  ownBrand: [
    { figure: 'unitProfit', bound: 'atLeast', level: 4, near: 0.15 },
    { figure: 'margin', bound: 'atLeast', level: 0.25, near: 0.15 },
    { figure: 'roi', bound: 'atLeast', level: 0.6, near: 0.15 },
    { figure: 'expectedMonthlyUnits', bound: 'atLeast', level: 60, near: 0.2 },
  ],
  retail: [
    { figure: 'unitProfit', bound: 'atLeast', level: 3, near: 0.15 },
    { figure: 'roi', bound: 'atLeast', level: 0.3, near: 0.15 },
  ],
  wholesale: [
    { figure: 'unitProfit', bound: 'atLeast', level: 2, near: 0.15 },
    { figure: 'margin', bound: 'atLeast', level: 0.12, near: 0.15 },
    { figure: 'roi', bound: 'atLeast', level: 0.25, near: 0.15 },
  ],
  supplierShips: [
    { figure: 'unitProfit', bound: 'atLeast', level: 2.5, near: 0.15 },
    { figure: 'margin', bound: 'atLeast', level: 0.1, near: 0.15 },
  ],
  feeCheck: [{ figure: 'unitProfit', bound: 'atLeast', level: 1, near: 0.2 }],
};

export const settings = z.strictObject({
  homeCurrency: currency.default('EUR'),
  homeCountry: country.default('DE'),
  ways: z
    .array(z.enum(WAYS))
    .min(1)
    .default([...WAYS]),
  /** VAT standing by country; a country that is missing has not been decided. */
  standings: z.record(country, standing).default({}),
  hurdles: z
    .record(z.enum(WAYS), z.array(hurdle).max(12))
    .default(() => structuredClone(HURDLES) as Record<Way, Hurdle[]>),
  /** Who orders: name and address as they stand on orders; blank: the workspace's name alone. */
  letterhead: z.string().max(1000).default(''),
  /** Words that say nothing of goods: left out where goods are matched by their titles. */
  noiseWords: z
    .array(z.string().trim().min(1).max(40))
    .max(1000)
    .default([...NOISE]),
  /** Whether the invented marketplaces, freight and postage are kept out of sight. */
  hideExamples: z.boolean().default(false),
  /** What decides which lane of a candidate is best. */
  bestBy: z.enum(MEASURES).default('unitProfit'),
  defaults: laneDefaults.default(laneDefaults.parse({})),
  /** Levels by which evidence is read; revenue in the home currency. */
  evidence: evidenceSettings.prefault({}),
  /** Searches of a market under a name: the query of their address. */
  savedSearches: z
    .array(z.strictObject({ name: z.string().trim().min(1).max(60), query: z.string().max(1000) }))
    .max(50)
    .default([]),
  /** What must be true of a market before one enters it. */
  evidenceHurdles: z.array(evidenceHurdle).max(30).default([]),
  launch: launchPlan.default(launchPlan.parse({})),
  /** Rules and ticks of the launches that share the workspace's cash. */
  purse: purseKept.prefault({}),
  /** How far from the most likely value a range of an input goes, by how sure its figure is. */
  widths: rangeWidths.prefault({}),
  /** How far a line of a lane on sale may go from its plan before one is told. */
  drift: driftWidth.prefault({}),
});
export type Settings = z.output<typeof settings>;
