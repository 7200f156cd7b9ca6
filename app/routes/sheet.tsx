import { data, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { loadSheet, sheetState } from '../../server/use/candidates.ts';
import { addLane, putLanes, removedLane, removeLane } from '../../server/use/candidateLanes.ts';
import { openLaneDocument, readLaneDocument } from '../../server/use/laneDocuments.ts';
import { componentsFrom } from '../../server/use/bundles.ts';
import { addQuote } from '../../server/use/lanes.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { Sheet } from '../features/weigh/Sheet.tsx';
import { jsonIn } from '../jsonIn.ts';
import type { Route } from './+types/sheet.ts';
import { fault } from '../../core/fault.ts';
import { readAgainFor } from '../readAgain.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const sheet = await loadSheet(entry.workspaceId, params.candidate);
  if (sheet === null) throw data(null, 404);
  return {
    settings: sheet.settings,
    today: sheet.today,
    cards: sheet.cards,
    cardHeads: sheet.cardHeads,
    usedHeads: sheet.usedHeads,
    dropped: sheet.candidate.droppedReason,
    state: sheetState(sheet),
  };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.state.candidate.data.name ?? ''} · Bold Margin` },
];
export const shouldRevalidate = readAgainFor();

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const { workspaceId, person } = entry;
  switch (form.get('intent')) {
    case 'addLane':
      return {
        lane: await addLane(
          workspaceId,
          params.candidate,
          { marketplaceCardId: String(form.get('marketplaceCardId')), country: 'DE', price: null },
          person.id,
        ),
      };
    case 'removeLane':
      return { removed: (await removeLane(workspaceId, String(form.get('id')))) !== null };
    case 'putLane': {
      const row = removedLane.safeParse(jsonIn(form.get('row')));
      if (!row.success) return unfit(row.error);
      await putLanes(workspaceId, params.candidate, [row.data], person.id);
      return { lane: row.data.id };
    }
    case 'addQuote':
      return { quote: await addQuote(workspaceId, params.candidate) };
    case 'addComponentOf':
      return { components: await componentsFrom(workspaceId, params.candidate, String(form.get('product'))) };
    case 'openLane': {
      const doc = readLaneDocument(form.get('document'));
      const lane = await openLaneDocument(workspaceId, params.candidate, doc, person.id);
      return lane === null ? unfit(fault('otherProduct')) : { lane };
    }
    default:
      return data({ error: 'unknown' }, 400);
  }
});

export default function SheetRoute() {
  const { state, settings, today, cards, cardHeads, usedHeads, dropped } = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <Sheet
      key={state.candidate.id}
      state={state}
      frame={{ settings, cards, today }}
      cardHeads={cardHeads}
      usedHeads={usedHeads}
      canEdit={head.role !== 'viewer'}
      base={`/w/${head.slug}/weigh`}
      dropped={dropped}
    />
  );
}
