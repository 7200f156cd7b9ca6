import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { askCloser, dropLooks, loadCloser, looksAsked } from '../../server/use/closerLooks.ts';
import { loadList } from '../../server/use/lists.ts';
import { inWords } from '../../words/index.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { CloserPage } from '../features/lists/Closer.tsx';
import type { Route } from './+types/listCloser.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const page = await loadList(entry.workspaceId, params.list);
  if (page === null) throw data(null, 404);
  const { work, rows } = await loadCloser(entry.workspaceId, page);
  return {
    list: { id: page.list.id, name: page.list.name },
    home: page.settings.homeCurrency,
    work: work === null ? null : { done: work.done, total: work.total },
    rows: rows.map((r) => ({ ...r, fault: r.fault === null ? null : inWords(r.fault) })),
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Second look · Bold Margin' }];

const act = z.discriminatedUnion('what', [
  looksAsked.extend({ what: z.literal('look') }),
  z.strictObject({ what: z.literal('clear') }),
]);

/** Has rows of the list looked at a second time, or takes all off. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const sent = act.safeParse(await request.json().catch(() => null));
  if (!sent.success) return unfit(sent.error);
  const page = await loadList(entry.workspaceId, params.list);
  if (page === null) throw data(null, 404);
  if (sent.data.what === 'clear') await dropLooks(entry.workspaceId, page.list.id);
  else await askCloser(entry.workspaceId, page, sent.data.rows, entry.person.id);
  throw redirect(`/w/${entry.slug}/lists/${page.list.id}/closer`);
});

export default function ListCloser() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <CloserPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
