/** What of a lane is not certain, as it is kept and as it is drawn. */
import type { Hurdle } from '../../../core/lane/hurdleSchema.ts';
import { rangesDocument, sureTerms } from '../../../core/risk/schema.ts';
import type { RangesDocument, SureTerms } from '../../../core/risk/schema.ts';
import type { LaunchPlan } from '../../../core/launch/schema.ts';
import type { FundPlan } from '../../../core/workspace/fundPlan.ts';

const NOTHING = sureTerms.parse({});
const EMPTY = rangesDocument.parse({});

export const sureOf = (plan: FundPlan, lane: string): SureTerms => plan.sure[lane] ?? NOTHING;

/** Whether anything of a lane has a range. */
export const isRanged = ({ ranges }: SureTerms): boolean => Object.values(ranges).some((r) => r !== null);

/** The document a lane is drawn by. */
export const rangesOf = (
  sure: SureTerms,
  hurdles: readonly Hurdle[],
  launch: LaunchPlan,
): RangesDocument => ({ ...EMPTY, ...sure, hurdles: [...hurdles], launch });
