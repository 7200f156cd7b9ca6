import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import {
  answerEnquiry,
  closeEnquiry,
  loadEnquiry,
  quoteBefore,
  sendEnquiry,
} from '../../server/use/enquiries.ts';
import { settingsOf } from '../../server/use/workspaces.ts';
import { quote } from '../../core/lane/schema.ts';
import { positive } from '../../core/money/schema.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { EnquiryPage } from '../features/order/EnquiryPage.tsx';
import type { Route } from './+types/enquiry.ts';
import { answering, unfit } from '../answers.ts';
import { mailsShown, sender } from '../mailsShown.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const settings = await settingsOf(entry.workspaceId);
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  const row = await loadEnquiry(entry.workspaceId, params.enquiry);
  return {
    row,
    ...(await mailsShown(entry.workspaceId, `enquiry/${row.id}/`)),
    from: sender(entry, settings),
    before: await quoteBefore(entry.workspaceId, row),
    today: today(),
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Enquiry · Bold Margin' }];

const told = z.discriminatedUnion('intent', [
  z.strictObject({ intent: z.literal('send'), how: z.enum(['mail', 'another']) }),
  z.strictObject({ intent: z.enum(['close', 'reopen']) }),
  z.strictObject({
    intent: z.literal('answer'),
    quote: quote.omit({ supplier: true, date: true }),
    sides: z.tuple([positive, positive, positive]).nullable(),
    kg: positive.nullable(),
  }),
]);

/** Sends an enquiry, records its answer as a quote, ends it. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = told.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const { workspaceId, person } = entry;
  const act = parsed.data;
  if (act.intent === 'send') await sendEnquiry(workspaceId, params.enquiry, act.how, person);
  else if (act.intent === 'answer') await answerEnquiry(workspaceId, params.enquiry, act, person.id);
  else await closeEnquiry(workspaceId, params.enquiry, act.intent === 'close');
  return { error: undefined };
});

export default function Enquiry() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <EnquiryPage key={loaded.row.id} {...loaded} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />
  );
}
