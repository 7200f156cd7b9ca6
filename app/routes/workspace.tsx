import { data, Outlet, useLoaderData } from 'react-router';
import { enterWorkspace, workspacesOf } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { latestRates, setWorkspaceDeleted, settingsWith } from '../../server/use/workspaces.ts';
import { DeletedWorkspace, Shell } from '../features/frame/Shell.tsx';
import type { Route } from './+types/workspace.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { settings, also: ratesOf } = await settingsWith(entry.workspaceId, (tx) =>
    latestRates(tx, entry.workspaceId, today()),
  );
  const workspaces = await workspacesOf(entry.person.id);
  const head = {
    slug: entry.slug,
    name: entry.name,
    role: entry.role,
    person: { name: entry.person.name, email: entry.person.email },
    workspaces: workspaces.map(({ slug, name }) => ({ slug, name })),
  };
  return { ...head, deleted: settings === null, homeCurrency: settings?.homeCurrency ?? '', ratesOf };
});

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'own');
  const intent = (await request.formData()).get('intent');
  if (intent === 'restore') await setWorkspaceDeleted(entry.workspaceId, false);
  return data({ ok: true });
});

/** The frame changes with what is saved, not with every limit or lane that stands in the address. */
export const shouldRevalidate = ({
  currentParams,
  nextParams,
  formMethod,
}: {
  currentParams: { workspace?: string };
  nextParams: { workspace?: string };
  formMethod?: string;
}) => formMethod !== undefined || currentParams.workspace !== nextParams.workspace;

export default function Workspace() {
  const head = useLoaderData<typeof loader>();
  if (head.deleted) return <DeletedWorkspace head={head} />;
  return (
    <Shell head={head}>
      <Outlet context={head} />
    </Shell>
  );
}
