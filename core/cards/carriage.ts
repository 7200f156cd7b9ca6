/**
 * How goods are carried, as cards and lanes hold it: routes to the market leg by leg, postage to buyers zone by
 * zone.
 */
import { z } from 'zod';
import {
  currency,
  nonNegative,
  orBlank,
  positive,
  purchasedLine,
  rate,
  share,
  shortText,
} from '../money/schema.ts';
import { openPostageTable } from './rates.ts';

export const STAGES = ['origin', 'main', 'destination', 'inbound'] as const;
export type Stage = (typeof STAGES)[number];
export const FREIGHT_BASES = [
  'perUnit',
  'perKg',
  'perCbm',
  'perCarton',
  'perShipment',
  'perContainer',
] as const;

export const leg = z.strictObject({
  name: shortText.default(''),
  stage: z.enum(STAGES),
  basis: z.enum(FREIGHT_BASES),
  rate: orBlank(nonNegative),
  currency,
  vat: z.enum(['none', 'included', 'added']).default('none'),
  vatRate: rate.default(0),
  recoverable: z.boolean().nullable().default(null),
  minCharge: nonNegative.default(0),
  fuelSurcharge: rate.default(0),
  divisor: orBlank(positive).meta({ description: 'cm3 per kg; blank: volume is not counted' }),
  minKg: nonNegative.default(0),
  minCbm: nonNegative.default(0),
  usableM3: orBlank(positive),
  bands: z
    .array(z.strictObject({ upToKg: positive, rate: nonNegative }))
    .max(50)
    .default([])
    .refine((b) => b.every((x, i) => i === 0 || x.upToKg > (b[i - 1]?.upToKg ?? 0)), 'weightBandsRise'),
  buyerPays: z.boolean().nullable().default(null).meta({ description: 'Beats the rule of the quote' }),
});
export type Leg = z.output<typeof leg>;

export const route = z.strictObject({
  name: shortText.default(''),
  legs: z.array(leg).max(20),
  packingAllowance: rate.default(0),
  insuranceRate: rate.default(0),
  transitDays: orBlank(nonNegative),
  inboundDays: nonNegative.default(0),
});
export type Route = z.output<typeof route>;

export const ownDispatch = z.strictObject({
  zones: z
    .array(z.strictObject({ name: shortText.default(''), share, postage: openPostageTable }))
    .min(1)
    .max(20)
    .refine((z) => Math.abs(z.reduce((s, x) => s + x.share, 0) - 1) < 1e-6, 'zonesAddUp'),
  vat: z.enum(['none', 'included', 'added']).default('none'),
  vatRate: rate.default(0),
  recoverable: z.boolean().nullable().default(null),
  packagingKg: nonNegative.default(0),
  packaging: orBlank(purchasedLine),
  pickAndPack: orBlank(purchasedLine),
});

export type OwnDispatch = z.output<typeof ownDispatch>;
