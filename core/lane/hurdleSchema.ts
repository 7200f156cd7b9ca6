/** A hurdle, as settings and documents hold it. */
import { z } from 'zod';
import { MAX_AMOUNT } from '../money/money.ts';
import { share } from '../money/schema.ts';
import { HURDLE_FIGURES } from './hurdles.ts';

/**
 * A level of one's own. Money levels are in the home currency; `near` is how much of the level may be missing
 * to be near.
 */
export const hurdle = z.strictObject({
  figure: z.enum(HURDLE_FIGURES),
  bound: z.enum(['atLeast', 'atMost']),
  level: z.number().min(-MAX_AMOUNT).max(MAX_AMOUNT),
  near: share.default(0.1),
});
export type Hurdle = z.output<typeof hurdle>;
