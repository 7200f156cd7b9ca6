/** How far a line of a lane on sale may go from its plan, as a workspace decides. */
import { z } from 'zod';
import { nonNegative, pieces, share } from '../money/schema.ts';

/** How far a line may go from its plan unnoticed: both must be passed, in each of two periods of so many units. */
export const driftWidth = z.strictObject({
  /** Of what the line comes to a unit at the price that is paid. */
  share: share.default(0.1),
  /** Home currency a unit. */
  amount: nonNegative.default(0.25),
  /** Units sold that make a period: whole months, together until they have as many. */
  units: pieces.max(1_000_000).default(15),
});
export type DriftWidth = z.output<typeof driftWidth>;
