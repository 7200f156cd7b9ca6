import { useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import {
  decideMatch,
  loadMatches,
  MATCH_SHOWN,
  matchAct,
  saveNoise,
  startMatching,
  takeCertain,
  undecideMatch,
} from '../../server/use/matching.ts';
import { inWords } from '../../words/index.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { Matching } from '../features/lists/Matching.tsx';
import type { Route } from './+types/listMatch.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const asked = new URL(request.url).searchParams.get('show');
  const shown = MATCH_SHOWN.find((s) => s === asked) ?? 'open';
  const { work, ...page } = await loadMatches(entry.workspaceId, params.list, shown);
  return {
    ...page,
    work: work === null ? null : { ...work, error: work.error === null ? null : inWords(work.error) },
    shown,
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Match · Bold Margin' }];

/** Has rows matched, and notes what they are. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = matchAct.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const { workspaceId, person } = entry;
  const act = parsed.data;
  switch (act.intent) {
    case 'match':
      await startMatching(workspaceId, params.list, person.id);
      break;
    case 'decide':
      await decideMatch(workspaceId, act, person.id);
      break;
    case 'undecide':
      await undecideMatch(workspaceId, act.said);
      break;
    case 'takeCertain':
      await takeCertain(workspaceId, params.list, person.id);
      break;
    default:
      await saveNoise(workspaceId, act.words);
  }
  return { error: undefined };
});

export default function ListMatch() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <Matching {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
