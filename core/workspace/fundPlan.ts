/** A launch as Fund plans it: what it costs, when it starts and grows, and what of it is not certain. */
import { z } from 'zod';
import { cashTerms } from '../cash/schema.ts';
import type { CashPlan, CashTerms } from '../cash/schema.ts';
import { launchPlan } from '../launch/schema.ts';
import type { LaunchPlan } from '../launch/schema.ts';
import { sureTerms } from '../risk/schema.ts';
import { fieldsOf, partOf } from './part.ts';
import type { CandidateData } from './records.ts';
import { planOf } from './summary.ts';

/** All fields beside each other, so that two people who change different ones keep both. */
const fundPlan = launchPlan.extend(cashTerms.shape).extend({ sure: z.record(z.string().max(64), sureTerms) });
export type FundPlan = z.output<typeof fundPlan>;
/** Some fields of a plan, as a change sends them. */
export const fundPart = partOf(fundPlan);

/** The plan of a candidate, with the workspace's cash and reserve and the defaults of what nobody has said. */
export const fundPlanOf = (candidate: CandidateData, workspacePlan: LaunchPlan): FundPlan => ({
  ...planOf(candidate, workspacePlan),
  ...(candidate.overTime ?? cashTerms.parse({})),
  // A candidate that was stored before there were ranges has none.
  sure: candidate.sure ?? {},
});

/** The fields of a plan that say what the launch costs. */
export const launchOf = (plan: FundPlan): LaunchPlan => fieldsOf(launchPlan, plan);
/** Those that say when it starts and how it grows. */
export const termsOf = (plan: FundPlan): CashTerms => fieldsOf(cashTerms, plan);

/** What a cash run is asked of a plan; a blank start is `today`. */
export const cashPlanOf = (plan: FundPlan, today: string): CashPlan => ({
  format: 'bold-margin/cash-plan',
  version: 1,
  ...termsOf(plan),
  start: plan.start ?? today,
  launch: launchOf(plan),
});
