import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { findIn } from '../../server/use/findIn.ts';
import { listingSaid } from '../../server/use/listingSaid.ts';
import { inWords } from '../../words/index.ts';
import { ListingPage } from '../features/find/ListingPage.tsx';
import { marksShown } from '../features/find/useFound.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { answering } from '../answers.ts';
import { readAgainFor } from '../readAgain.ts';
import type { Route } from './+types/findListing.ts';

const asked = z.object({ market: z.string().max(300).catch(''), code: z.string().max(200).catch('') });

/** A listing of a market of which there is a card; of any other nothing is known. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { market, code } = asked.parse(Object.fromEntries(new URL(request.url).searchParams));
  const at = await findIn(entry.workspaceId, market);
  if (at === null) throw redirect(`/w/${entry.slug}`);
  const { feed, marks, markets: _, ...frame } = at;
  const { said, faults } =
    feed === null || code === '' || at.market !== market
      ? { said: null, faults: [] }
      : await listingSaid(feed, market, code, request.signal);
  return { ...frame, marks: marksShown(marks), said, wrong: [...new Set(faults.map((f) => inWords(f)))] };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.said?.listing.title ?? 'Listing'} · Bold Margin` },
];
export const shouldRevalidate = readAgainFor('market', 'code');

export default function FindListing() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <ListingPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
