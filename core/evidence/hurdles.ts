/** Hurdles that are set on evidence: what must be true of a market before one enters it (evidence, section 8). */
import { z } from 'zod';
import { share } from '../money/schema.ts';
import { MAX_AMOUNT } from '../money/money.ts';

export const EVIDENCE_FIGURES = [
  'searches',
  'units',
  'rank',
  'direction',
  'reviews',
  'rating',
  'offers',
  'ownShopShare',
  'price',
  'brandShare',
] as const;
export type EvidenceFigure = (typeof EVIDENCE_FIGURES)[number];

/**
 * `near`: how much of the level may be missing. Money in the currency of the market; shares and changes as
 * fractions.
 */
export const hurdle = z.strictObject({
  figure: z.enum(EVIDENCE_FIGURES),
  bound: z.enum(['atLeast', 'atMost']),
  level: z.number().min(-MAX_AMOUNT).max(MAX_AMOUNT),
  near: share.default(0.1),
});
export type EvidenceHurdle = z.output<typeof hurdle>;
