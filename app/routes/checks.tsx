import { useActionData, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { keepChecks, MOST_CHECKS, sessionsOf } from '../../server/use/checks.ts';
import { inWords } from '../../words/index.ts';
import { Walks } from '../features/check/Walks.tsx';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/checks.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  return { lines: await sessionsOf(entry.workspaceId), now: new Date().toISOString() };
});

export const meta: Route.MetaFunction = () => [{ title: 'Walks · Bold Margin' }];

const file = z.object({
  format: z.literal('bold-margin/checks', 'checksNoFile'),
  version: z.literal(1),
  sessions: z.array(z.unknown()).max(10 * MOST_CHECKS),
  checks: z.array(z.unknown()).max(10 * MOST_CHECKS),
});

/** Takes in a file of checks that a device could not send. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = file.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const { checks, refused } = await keepChecks(entry.workspaceId, parsed.data, entry.person.id);
  return { taken: checks.length, refused: refused.map((r) => inWords(r.fault)) };
});

export default function Checks() {
  const loaded = useLoaderData<typeof loader>();
  const told = useActionData<typeof action>();
  const head = useOutletContext<WorkspaceHead>();
  return <Walks {...loaded} told={told ?? null} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
