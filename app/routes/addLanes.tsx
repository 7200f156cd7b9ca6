import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import type { MarketplaceCard } from '../../core/cards/rates.ts';
import { METHODS } from '../../core/lane/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { generateLanes, generation, loadProposals } from '../../server/use/proposals.ts';
import { AddLanesPage } from '../features/compare/AddLanes.tsx';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import type { Route } from './+types/addLanes.ts';
import { fault } from '../../core/fault.ts';
import { inWords } from '../../words/index.ts';
import { answering } from '../answers.ts';

/** What is chosen, from the address; without any choice what most people want. */
function choiceIn(search: URLSearchParams) {
  const all = (key: string): string[] => search.getAll(key);
  return {
    marketplaces: all('m'),
    methods: METHODS.filter((x) => all('f').includes(x)),
    quotes: all('q'),
    routes: all('r'),
  };
}

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const page = await loadProposals(
    entry.workspaceId,
    params.candidate,
    choiceIn(new URL(request.url).searchParams),
  );
  if (page === null) throw data(null, 404);
  return {
    name: page.candidate.data.name,
    way: page.candidate.data.way,
    candidateId: page.candidate.id,
    proposals: page.proposals,
    quotes: page.quotes.map((q) => ({ id: q.id, supplier: q.data.supplier })),
    lanes: page.lanes
      .slice(0, 200)
      .map((l) => ({
        id: l.id,
        country: l.data.country,
        marketplace: l.data.marketplace,
        method: l.data.method,
      })),
    markets: page.cards
      .filter((c) => c.kind === 'marketplace')
      .map((c) => ({
        id: c.id,
        key: c.key,
        marketplace: (c.data as MarketplaceCard).marketplace,
        country: (c.data as MarketplaceCard).country,
      })),
    routes: page.cards
      .filter((c) => c.kind === 'freight')
      .map((c) => ({ id: c.id, key: c.key, name: c.name })),
  };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.name ?? ''} · Bold Margin` },
];

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const parsed = generation.safeParse({
    ...choiceIn(new URL(request.url).searchParams),
    without: String(form.get('without') ?? '')
      .split(',')
      .filter(Boolean)
      .map(Number),
    like: String(form.get('like') ?? '') || null,
    habit: form.get('habit') ?? '99',
  });
  if (!parsed.success) return data({ error: inWords(fault('choiceNotRead')) }, 400);
  const made = await generateLanes(entry.workspaceId, params.candidate, parsed.data, entry.person.id);
  if (made === null) throw data(null, 404);
  if ('tooMany' in made) return data({ tooMany: made.tooMany }, 422);
  throw redirect(`/w/${entry.slug}/weigh/${params.candidate}/compare`);
});

export default function AddLanes() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <AddLanesPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
