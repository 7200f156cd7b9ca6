import { data, redirect, useLoaderData, useOutletContext, useSearchParams } from 'react-router';
import { z } from 'zod';
import { MEASURES } from '../../core/compare/measures.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { putLanes, removedLane } from '../../server/use/candidateLanes.ts';
import { savePatches } from '../../server/use/savePatches.ts';
import { addQuote, loadComparison, packLanes, removeLanes, setQuantity } from '../../server/use/lanes.ts';
import { saveSettings } from '../../server/use/workspaces.ts';
import { ComparePage } from '../features/compare/Compare.tsx';
import type { Payload } from '../features/compare/Compare.tsx';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { jsonIn } from '../jsonIn.ts';
import type { Route } from './+types/compare.ts';
import { fault } from '../../core/fault.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const c = await loadComparison(entry.workspaceId, params.candidate);
  if (c === null) throw data(null, 404);
  const payload: Payload = {
    candidate: c.candidate.data,
    candidateId: c.candidate.id,
    quotes: c.quotes,
    cards: c.cards,
    settings: c.settings,
    today: c.today,
    cardHeads: c.cardHeads,
    newest: c.newest,
    freight: c.freight,
    ...packLanes(c.lanes),
  };
  // One text instead of some ten thousand values: it travels and is read many times faster.
  return { payload: JSON.stringify(payload), name: c.candidate.data.name };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.name ?? ''} · Bold Margin` },
];
/** What is sorted, grouped, pinned and asked stands in the address, but asks nothing of the server. */
export const shouldRevalidate = ({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: {
  currentUrl: URL;
  nextUrl: URL;
  formMethod?: string;
  defaultShouldRevalidate: boolean;
}) =>
  formMethod === undefined && currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search
    ? false
    : defaultShouldRevalidate;

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const { workspaceId, person } = entry;
  const form = await request.formData();
  const failed = (code: string) => unfit(fault(code));
  switch (form.get('intent')) {
    case 'drop': {
      const gone = await removeLanes(
        workspaceId,
        params.candidate,
        String(form.get('ids') ?? '')
          .split(',')
          .filter(Boolean),
      );
      return { dropped: gone.length, undo: JSON.stringify(gone) };
    }
    case 'putLanes': {
      const rows = z
        .array(removedLane)
        .max(2000)
        .safeParse(jsonIn(form.get('rows')));
      if (!rows.success) return failed('lanesNotBack');
      await putLanes(workspaceId, params.candidate, rows.data, person.id);
      return { dropped: 0 };
    }
    case 'measure': {
      const measure = MEASURES.find((m) => m === form.get('measure'));
      if (measure !== undefined) await saveSettings(workspaceId, (s) => ({ ...s, bestBy: measure }));
      return {};
    }
    case 'quantity': {
      const quantity = Number(form.get('quantity'));
      if (!(quantity > 0 && quantity <= 1e9)) return failed('quantityAboveZero');
      await setQuantity(workspaceId, params.candidate, quantity, person.id);
      return {};
    }
    case 'route': {
      const saved = await savePatches(
        workspaceId,
        params.candidate,
        [
          {
            entity: 'lane',
            id: String(form.get('lane')),
            path: ['freightCardId'],
            from: null,
            to: String(form.get('card')),
          },
        ],
        person.id,
        true,
      );
      return saved.ok ? {} : failed('laneChanged');
    }
    case 'quote': {
      const saved = await savePatches(
        workspaceId,
        params.candidate,
        [
          {
            entity: 'lane',
            id: String(form.get('lane')),
            path: ['components', 0, 'quoteId'],
            from: null,
            to: String(form.get('quote')),
          },
        ],
        person.id,
        true,
      );
      return saved.ok ? {} : failed('laneChanged');
    }
    case 'addQuote': {
      const id = await addQuote(workspaceId, params.candidate);
      throw redirect(
        id === null ? `/w/${entry.slug}/weigh` : `/w/${entry.slug}/weigh/${params.candidate}?quote=${id}`,
      );
    }
    default:
      return data({}, 400);
  }
});

export default function Compare() {
  const { payload } = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  const [search] = useSearchParams();
  return (
    <ComparePage
      payload={payload}
      root={`/w/${head.slug}`}
      canEdit={head.role !== 'viewer'}
      print={search.get('print') === '1'}
    />
  );
}
