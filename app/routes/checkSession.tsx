import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { gone } from '../../server/refusal.ts';
import { candidatesOfChecks, decideChecks, listOfSession, sessionOf } from '../../server/use/checks.ts';
import { WalkPage } from '../features/check/WalkPage.tsx';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/checkSession.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const found = await sessionOf(entry.workspaceId, params.session);
  // One that this device has and has not sent yet is not known here.
  return { found, id: params.session, now: new Date().toISOString(), person: entry.person.id };
});

export const meta: Route.MetaFunction = () => [{ title: 'Walk · Bold Margin' }];

const ids = z.array(z.string().max(64)).min(1).max(500);
const told = z.discriminatedUnion('intent', [
  z.strictObject({
    intent: z.literal('decide'),
    ids,
    state: z.enum(['kept', 'left']),
    reason: z.string().trim().max(500).default(''),
  }),
  z.strictObject({ intent: z.literal('weigh'), ids, notes: z.string().max(500) }),
  z.strictObject({ intent: z.literal('list'), name: z.string().trim().min(1).max(200) }),
]);

/** What becomes of the checks of a walk. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = told.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const { workspaceId, slug, person } = entry;
  const act = parsed.data;
  switch (act.intent) {
    case 'decide':
      await decideChecks(workspaceId, act.ids, { state: act.state, reason: act.reason });
      return {};
    case 'weigh': {
      const made = await candidatesOfChecks(workspaceId, act.ids, () => act.notes, person.id);
      if (made.length === 0) throw gone();
      throw redirect(made.length === 1 ? `/w/${slug}/weigh/${made[0]}` : `/w/${slug}/weigh?sort=changed`);
    }
    default: {
      const id = await listOfSession(workspaceId, params.session, act.name, person.id);
      throw redirect(`/w/${slug}/lists/${id}/setup`);
    }
  }
});

export default function CheckSession() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <WalkPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
