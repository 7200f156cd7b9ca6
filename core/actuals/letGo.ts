/** That a product is let go: a decision with its reason. */
import { z } from 'zod';
import { day } from '../money/schema.ts';

export const STOP_REASONS = ['loses', 'belowHurdle', 'noSupply', 'notAllowed', 'season', 'other'] as const;
export const stopped = z.strictObject({
  day,
  reason: z.enum(STOP_REASONS),
  note: z.string().trim().max(1000).default(''),
  /** Name of the person who decided. */
  by: z.string().max(200).default(''),
});
export type Stopped = z.output<typeof stopped>;
