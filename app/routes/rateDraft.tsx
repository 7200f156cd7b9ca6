import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { readTables } from '../../core/cards/tables.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import type { MarketplaceCard, TaxCard } from '../../core/cards/rates.ts';
import { today } from '../../server/env.ts';
import { putInForce } from '../../server/use/cards.ts';
import { loadProofs } from '../../server/use/proofs.ts';
import { cardsInForce, settingsWith } from '../../server/use/workspaces.ts';
import { loadDraft, throwDraft } from '../../server/use/cardDrafts.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { DraftPage } from '../features/rates/Draft.tsx';
import type { Route } from './+types/rateDraft.ts';
import { answering } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const loaded = await loadDraft(entry.workspaceId, params.draft);
  if (loaded === null) throw data(null, 404);
  const { draft, base } = loaded;
  const { settings, also: inForce } = await settingsWith(entry.workspaceId, (tx) =>
    cardsInForce(tx, entry.workspaceId, today()),
  );
  const of = base?.kind === 'marketplace' ? base : null;
  const country = of === null ? null : (of.data as MarketplaceCard).country;
  return {
    proofs: of === null ? [] : await loadProofs(entry.workspaceId, of.key),
    tax: (inForce.find((c) => c.kind === 'tax' && c.key === country)?.data ?? null) as TaxCard | null,
    by: { homeCurrency: settings?.homeCurrency ?? '', standings: settings?.standings ?? {}, today: today() },
    draft: { id: draft.id, kind: draft.kind, name: draft.name, cells: draft.cells, edition: draft.edition },
    base:
      base === null ? null : { id: base.id, name: base.name, data: base.data, inForceFrom: base.inForceFrom },
  };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.draft.name ?? ''} · Bold Margin` },
];
/** What is typed is saved by itself; moving between the sheets asks nothing of the server. */
export const shouldRevalidate = ({ formMethod }: { formMethod?: string }) => formMethod !== undefined;

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const intent = (await request.formData()).get('intent');
  const root = `/w/${entry.slug}/rates`;
  if (intent === 'throwAway') {
    await throwDraft(entry.workspaceId, params.draft, false);
    throw redirect(`${root}?thrown=${params.draft}`);
  }
  const loaded = await loadDraft(entry.workspaceId, params.draft);
  if (loaded === null) throw data(null, 404);
  const { draft } = loaded;
  const read = readTables(draft.kind, draft.cells);
  if (!read.ok) return data({ errors: read.errors }, 422);
  const put = await putInForce(
    entry.workspaceId,
    draft.kind,
    read.data,
    draft.basedOn,
    entry.person.id,
    draft.id,
  );
  if (!put.ok) return data({ errors: put.errors }, 422);
  throw redirect(`${root}/touch?card=${put.id}`);
});

export default function RateDraft() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <DraftPage key={loaded.draft.id} {...loaded} canEdit={head.role !== 'viewer'} root={`/w/${head.slug}`} />
  );
}
