import { data, redirect, useActionData, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { needList, startList } from '../../server/use/lists.ts';
import { listSetup } from '../../core/lists/setup.ts';
import { loadSetup, saveSetup } from '../../server/use/listSetup.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { ListSetupPage } from '../features/lists/Setup.tsx';
import type { Route } from './+types/listSetup.ts';
import { inWords } from '../../words/index.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { catalogue } = await needList(entry.workspaceId, params.list);
  // What a shop is read by is chosen where shops are.
  if (catalogue !== null)
    throw redirect(`/w/${entry.slug}/lists/shop?shop=${encodeURIComponent(catalogue.shop)}`);
  const page = await loadSetup(
    entry.workspaceId,
    params.list,
    new URL(request.url).searchParams.get('sheet'),
  );
  if (page === null) throw data(null, 404);
  const check = page.work.find((w) => w.kind === 'checkList') ?? null;
  const refused = page.work.find((w) => (w.data.refusedBytes ?? 0) > 0) !== undefined;
  return {
    list: {
      id: page.list.id,
      name: page.list.name,
      file: page.list.file,
      sheet: page.list.sheet,
      previousId: page.list.previousId,
      hasRun: page.list.runId !== null,
      mapped: page.list.map !== null,
      reference: page.list.reference,
    },
    supplierName: page.supplierName,
    sheets: page.sheets,
    referenceSheets: page.referenceSheets,
    map: page.map,
    own: page.own,
    suppliers: page.suppliers,
    markets: page.markets,
    earlier: page.earlier,
    home: page.settings.homeCurrency,
    check:
      check === null
        ? null
        : {
            id: check.id,
            state: check.state,
            done: check.done,
            total: check.total,
            error: check.error === null ? null : inWords(check.error),
            valid: check.data.valid ?? 0,
            invalid: check.data.invalid ?? 0,
            repaired: check.data.repaired ?? 0,
            completed: check.data.completed ?? 0,
            troubles: check.data.troubles ?? {},
          },
    refused,
  };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.list.name ?? ''} · Bold Margin` },
];

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const body = (await request.json().catch(() => null)) as { setup?: unknown; then?: unknown } | null;
  const setup = listSetup.safeParse(body?.setup);
  if (!setup.success) return unfit(setup.error);
  await saveSetup(entry.workspaceId, params.list, setup.data);
  if (body?.then === 'check') await startList(entry.workspaceId, params.list, 'checkList', entry.person.id);
  if (body?.then === 'run') {
    await startList(entry.workspaceId, params.list, 'readList', entry.person.id);
    throw redirect(`/w/${entry.slug}/lists/${params.list}`);
  }
  return data({ ok: true });
});

export default function ListSetup() {
  const loaded = useLoaderData<typeof loader>();
  const failed = useActionData<{ error?: string }>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <ListSetupPage
      key={loaded.list.id}
      {...loaded}
      root={`/w/${head.slug}`}
      canEdit={head.role !== 'viewer'}
      error={failed?.error ?? null}
    />
  );
}
