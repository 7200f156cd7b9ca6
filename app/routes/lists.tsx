import { data, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { LARGEST_FILE } from '../../server/files/store.ts';
import { QUOTA, usageOf } from '../../server/use/quotas.ts';
import { clearDeletedLists, setListDeleted } from '../../server/use/deleteLists.ts';
import { loadLists, startList } from '../../server/use/lists.ts';
import { tallyOf } from '../../server/use/goods.ts';
import { cancelTask, tasksNow } from '../../server/use/tasks.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { ListsPage } from '../features/lists/Lists.tsx';
import type { Route } from './+types/lists.ts';
import { inWords } from '../../words/index.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const [lists, tally, usage] = [
    await loadLists(entry.workspaceId),
    await tallyOf(entry.workspaceId, null),
    await usageOf(entry.workspaceId),
  ];
  return {
    lists: lists.map((l) => ({
      ...l,
      createdAt: l.createdAt.toISOString(),
      error: l.error === null ? null : inWords(l.error),
    })),
    tally: { ...tally, since: tally.since?.toISOString() ?? null },
    usage,
    quota: QUOTA,
    largest: LARGEST_FILE,
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Supplier lists · Bold Margin' }];

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const id = String(form.get('id') ?? '');
  switch (form.get('intent')) {
    case 'delete':
      await setListDeleted(entry.workspaceId, id, true);
      await clearDeletedLists(entry.workspaceId);
      return data({ deleted: id });
    case 'undelete':
      await setListDeleted(entry.workspaceId, id, false);
      return data({ ok: true });
    case 'again':
      await startList(entry.workspaceId, id, 'readList', entry.person.id);
      return data({ ok: true });
    case 'cancel': {
      for (const t of await tasksNow(entry.workspaceId))
        if (t.data.listId === id) await cancelTask(entry.workspaceId, t.id);
      return data({ ok: true });
    }
    default:
      return data({ error: 'unknown' }, 400);
  }
});

export default function Lists() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <ListsPage
      {...loaded}
      root={`/w/${head.slug}`}
      home={head.homeCurrency}
      canEdit={head.role !== 'viewer'}
    />
  );
}
