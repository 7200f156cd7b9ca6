import { redirect, useActionData, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { loadShops, readShop, readShopAgain } from '../../server/use/catalogues.ts';
import { catalogueSetup } from '../../core/shops/schema.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { ShopPage } from '../features/lists/ShopPage.tsx';
import type { Route } from './+types/shop.ts';
import { inWords } from '../../words/index.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const { shops, markets, known, settings, wrong } = await loadShops(entry.workspaceId);
  return {
    shops,
    markets,
    known,
    home: settings.homeCurrency,
    standings: settings.standings,
    hasFeed: wrong?.code !== 'feedNone',
    wrong: wrong === null || wrong.code === 'feedNone' ? null : inWords(wrong),
    chosen: new URL(request.url).searchParams.get('shop'),
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Shops · Bold Margin' }];

/** What of a shop is read; or a list that was read of one, read again as its next edition. */
const act = z.union([z.strictObject({ again: z.string().max(100) }), catalogueSetup]);

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const { workspaceId, person } = entry;
  const sent = act.safeParse(await request.json().catch(() => null));
  if (!sent.success) return unfit(sent.error);
  const id =
    'again' in sent.data
      ? await readShopAgain(workspaceId, sent.data.again, person.id)
      : await readShop(workspaceId, sent.data, person.id);
  throw redirect(`/w/${entry.slug}/lists/${id}`);
});

export default function Shop() {
  const loaded = useLoaderData<typeof loader>();
  const failed = useActionData<{ error?: string }>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <ShopPage
      {...loaded}
      root={`/w/${head.slug}`}
      canEdit={head.role !== 'viewer'}
      error={failed?.error ?? null}
    />
  );
}
