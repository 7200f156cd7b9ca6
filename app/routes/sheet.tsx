import { data, useLoaderData, useOutletContext } from 'react-router';
import { laneDocument } from '../../core/lane/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { addLane, loadSheet, openLaneDocument, putLane, removeLane } from '../../server/use/candidates.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { Sheet } from '../features/weigh/Sheet.tsx';
import type { Route } from './+types/sheet.ts';

export async function loader({ request, params }: Route.LoaderArgs) {
  const entry = await enterWorkspace(request, params.workspace);
  const sheet = await loadSheet(entry.workspaceId, params.candidate);
  if (sheet === null) throw data(null, 404);
  return {
    settings: sheet.settings, today: sheet.today, cards: sheet.cards, cardHeads: sheet.cardHeads,
    dropped: sheet.candidate.droppedReason,
    state: { candidate: { id: sheet.candidate.id, data: sheet.candidate.data }, quotes: sheet.quotes.map(({ id, data: d }) => ({ id, data: d })), lanes: sheet.lanes.map(({ id, position, data: d }) => ({ id, position, data: d })) },
  };
}

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.state.candidate.data.name ?? ''} · Bold Margin` }];
export const shouldRevalidate = ({ currentUrl, nextUrl, formMethod, defaultShouldRevalidate }: { currentUrl: URL; nextUrl: URL; formMethod?: string; defaultShouldRevalidate: boolean }) =>
  formMethod === undefined && currentUrl.pathname === nextUrl.pathname ? false : defaultShouldRevalidate;

export async function action({ request, params }: Route.ActionArgs) {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const { workspaceId, person } = entry;
  switch (form.get('intent')) {
    case 'addLane':
      return { lane: await addLane(workspaceId, params.candidate, { marketplaceCardId: String(form.get('marketplaceCardId')), country: 'DE', price: null }, person.id) };
    case 'removeLane':
      return { removed: (await removeLane(workspaceId, String(form.get('id')))) !== null };
    case 'putLane': {
      const row = JSON.parse(String(form.get('row'))) as { id: string; position: number; data: unknown };
      return { lane: await putLane(workspaceId, params.candidate, row, person.id) };
    }
    case 'openLane': {
      let json: unknown;
      try {
        json = JSON.parse(String(form.get('document')));
      } catch {
        return data({ error: 'This file is not a lane document: it is not JSON. Choose a file that was downloaded from a sheet.' }, 422);
      }
      const parsed = laneDocument.safeParse(json);
      if (!parsed.success) {
        const issue = parsed.error.issues[0];
        return data({ error: `This file is not a lane document. At ${issue?.path.join('.') || 'the top'}: ${issue?.message ?? 'unreadable'}.` }, 422);
      }
      return { lane: await openLaneDocument(workspaceId, params.candidate, parsed.data, person.id) };
    }
    default:
      return data({ error: 'unknown' }, 400);
  }
}

export default function SheetRoute() {
  const { state, settings, today, cards, cardHeads, dropped } = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <Sheet key={state.candidate.id} state={state} frame={{ settings, cards, today }} cardHeads={cardHeads} canEdit={head.role !== 'viewer'} base={`/w/${head.slug}/weigh`} dropped={dropped} />;
}
