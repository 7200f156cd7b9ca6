import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { findIn } from '../../server/use/findIn.ts';
import { loadSeller, unwatchSeller, watchedSellers, watchSeller } from '../../server/use/sellers.ts';
import { inWords } from '../../words/index.ts';
import { SellerPage } from '../features/find/SellerPage.tsx';
import { marksShown } from '../features/find/useFound.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/findSeller.ts';

const asked = z.object({ market: z.string().max(300).catch(''), seller: z.string().max(400).catch('') });

/** A seller's shop in a market of which there is a card; without a seller those that are followed. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { market, seller } = asked.parse(Object.fromEntries(new URL(request.url).searchParams));
  const at = await findIn(entry.workspaceId, market);
  if (at === null) throw redirect(`/w/${entry.slug}`);
  const { feed, marks, markets: _, ...frame } = at;
  const { workspaceId } = entry;
  const named = seller !== '' && market === at.market;
  const shop = named
    ? await loadSeller(workspaceId, feed, at.settings.evidence, market, seller, request.signal)
    : null;
  return {
    ...frame,
    marks: marksShown(marks),
    seller,
    shop: shop === null ? null : { ...shop, fault: shop.fault === null ? null : inWords(shop.fault) },
    watched: await watchedSellers(workspaceId),
  };
});

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `${loaderData?.seller || 'Sellers'} · Bold Margin` },
];

const act = z.strictObject({
  what: z.enum(['watch', 'unwatch']),
  market: z.string().min(1).max(300),
  seller: z.string().min(1).max(400),
});

/** Follows a seller (or notes that one has seen what changed), or no longer does. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const sent = act.safeParse(await request.json().catch(() => null));
  if (!sent.success) return unfit(sent.error);
  const { what, market, seller } = sent.data;
  if (what === 'watch') await watchSeller(entry.workspaceId, market, seller, entry.person.id);
  else await unwatchSeller(entry.workspaceId, market, seller);
  return data({ ok: true as const });
});

export default function FindSeller() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <SellerPage {...loaded} root={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
