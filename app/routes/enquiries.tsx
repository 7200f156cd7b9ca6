import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { candidateNames } from '../../server/use/candidates.ts';
import { draftEnquiry, loadEnquiries } from '../../server/use/enquiries.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { EnquiriesPage } from '../features/order/EnquiriesPage.tsx';
import type { Route } from './+types/enquiries.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  return {
    lines: await loadEnquiries(entry.workspaceId),
    candidates: await candidateNames(entry.workspaceId),
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Enquiries · Bold Margin' }];

const asked = z.strictObject({ candidate: z.string().max(64) });

/** Drafts an enquiry about a candidate. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = asked.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const id = await draftEnquiry(entry.workspaceId, parsed.data.candidate, entry.person.id);
  throw redirect(`/w/${entry.slug}/order/enquiries/${id}`);
});

export default function Enquiries() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <EnquiriesPage {...loaded} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
