/** The plan of a candidate's launch while it is edited. */
import { fundPart } from '../../../core/workspace/fundPlan.ts';
import type { FundPlan } from '../../../core/workspace/fundPlan.ts';
import { useSavedFields } from '../../ui/useSavedFields.ts';

export const usePlan = (stored: FundPlan, candidate: string, url: string, canEdit: boolean) =>
  useSavedFields<FundPlan>(stored, {
    tab: `bm-unsaved-plan-${candidate}`,
    url,
    canEdit,
    part: fundPart,
    bodyOf: (changed) => ({ changed, candidate }),
  });
