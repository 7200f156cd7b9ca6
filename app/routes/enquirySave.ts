import { enquiryPart } from '../../core/enquiries/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { saveEnquiry } from '../../server/use/enquiries.ts';
import type { Route } from './+types/enquirySave.ts';
import { answering, unfit } from '../answers.ts';

/** Saves what of an enquiry was changed. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = enquiryPart.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  await saveEnquiry(entry.workspaceId, params.enquiry, parsed.data);
  return {};
});
