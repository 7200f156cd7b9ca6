import { data, redirect, useLoaderData, useOutletContext, useSearchParams } from 'react-router';
import { z } from 'zod';
import { MEASURES } from '../../core/compare/measures.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import type { Entry } from '../../server/auth/session.ts';
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
import { readAgainFor } from '../readAgain.ts';
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
    markets: c.markets,
    ...packLanes(c.lanes),
  };
  // One text instead of some ten thousand values: it travels and is read many times faster.
  return { payload: JSON.stringify(payload), name: c.candidate.data.name };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.name ?? ''} · Bold Margin` },
];
/** What is sorted, grouped, pinned and asked stands in the address, but asks nothing of the server. */
export const shouldRevalidate = readAgainFor();

type Doing = { readonly entry: Entry; readonly candidate: string; readonly form: FormData };
const failed = (code: string) => unfit(fault(code));

/** One field of a lane, saved as the sheet saves it. */
async function saveField({ entry, candidate, form }: Doing, path: (string | number)[], to: string) {
  const patch = { entity: 'lane', id: String(form.get('lane')), path, from: null, to } as const;
  const saved = await savePatches(entry.workspaceId, candidate, [patch], entry.person.id, true);
  return saved.ok ? {} : failed('laneChanged');
}

const intents: Readonly<Record<string, (doing: Doing) => Promise<unknown>>> = {
  drop: async ({ entry, candidate, form }) => {
    const ids = String(form.get('ids') ?? '').split(',');
    const gone = await removeLanes(entry.workspaceId, candidate, ids.filter(Boolean));
    return { dropped: gone.length, undo: JSON.stringify(gone) };
  },
  putLanes: async ({ entry, candidate, form }) => {
    const rows = z
      .array(removedLane)
      .max(2000)
      .safeParse(jsonIn(form.get('rows')));
    if (!rows.success) return failed('lanesNotBack');
    await putLanes(entry.workspaceId, candidate, rows.data, entry.person.id);
    return { dropped: 0 };
  },
  measure: async ({ entry, form }) => {
    const measure = MEASURES.find((m) => m === form.get('measure'));
    if (measure !== undefined) await saveSettings(entry.workspaceId, (s) => ({ ...s, bestBy: measure }));
    return {};
  },
  quantity: async ({ entry, candidate, form }) => {
    const quantity = Number(form.get('quantity'));
    if (!(quantity > 0 && quantity <= 1e9)) return failed('quantityAboveZero');
    await setQuantity(entry.workspaceId, candidate, quantity, entry.person.id);
    return {};
  },
  route: (doing) => saveField(doing, ['freightCardId'], String(doing.form.get('card'))),
  quote: (doing) => saveField(doing, ['components', 0, 'quoteId'], String(doing.form.get('quote'))),
  addQuote: async ({ entry, candidate }) => {
    const id = await addQuote(entry.workspaceId, candidate);
    const weigh = `/w/${entry.slug}/weigh`;
    throw redirect(id === null ? weigh : `${weigh}/${candidate}?quote=${id}`);
  },
};

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const act = Object.entries(intents).find(([name]) => name === form.get('intent'))?.[1];
  return act === undefined ? data({}, 400) : act({ entry, candidate: params.candidate, form });
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
