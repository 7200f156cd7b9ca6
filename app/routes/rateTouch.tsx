import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { listsOnCard } from '../../server/use/listCards.ts';
import { askedAbout, touchedBy } from '../../server/use/touched.ts';
import { loadTask, startTask } from '../../server/use/tasks.ts';
import { settingsOf } from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { TouchPage } from '../features/rates/Touch.tsx';
import type { Route } from './+types/rateTouch.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const search = new URL(request.url).searchParams;
  const about = await askedAbout(entry.workspaceId, search);
  if (about === 'gone') throw data(null, 404);
  if (about === null) throw redirect(`/w/${entry.slug}/rates/draft/${search.get('draft')}`);
  const settings = await settingsOf(entry.workspaceId);
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  const touched = await touchedBy(entry.workspaceId, about.kind, about.key, about.data, about.versionId);
  const lists = await listsOnCard(entry.workspaceId, about.kind, about.key, about.versionId);
  const taskId = search.get('task');
  return {
    touched: touched.slice(0, 500),
    all: touched.length,
    candidates: new Set(touched.map((t) => t.candidateId)).size,
    falls: touched.filter((t) => t.change !== null && t.change < -0.005).length,
    under: touched.filter((t) => t.dropped.length > 0).length,
    lists,
    name: about.name,
    day: about.day,
    kind: about.kind,
    back: about.back,
    draft: about.versionId === null,
    homeCurrency: settings.homeCurrency,
    today: today(),
    task: taskId === null ? null : await loadTask(entry.workspaceId, taskId),
  };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.name ?? ''} · Bold Margin` },
];

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const search = new URL(request.url).searchParams;
  const about = await askedAbout(entry.workspaceId, search);
  if (about === 'gone' || about === null || about.versionId === null) return data(null, 400);
  const touched = await touchedBy(entry.workspaceId, about.kind, about.key, about.data, about.versionId);
  const task = await startTask(
    entry.workspaceId,
    'bringUpToDate',
    { kind: about.kind, key: about.key },
    touched.length,
    entry.person.id,
  );
  throw redirect(`/w/${entry.slug}/rates/touch?card=${about.versionId}&task=${task}`);
});

export default function RateTouch() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <TouchPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
