import { redirect, useLoaderData, useOutletContext } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { inWorkspace } from '../../server/db/client.ts';
import { today } from '../../server/env.ts';
import { cardsInForce, settingsIn } from '../../server/use/workspaces.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { RatesPage } from '../features/rates/Rates.tsx';
import type { Route } from './+types/rates.ts';

export async function loader({ request, params }: Route.LoaderArgs) {
  const entry = await enterWorkspace(request, params.workspace);
  const wanted = new URL(request.url).searchParams.get('card');
  return inWorkspace(entry.workspaceId, async (tx) => {
    const settings = await settingsIn(tx, entry.workspaceId);
    if (settings === null) throw redirect(`/w/${entry.slug}`);
    const cards = await cardsInForce(tx, entry.workspaceId, today());
    const chosen = cards.find((c) => c.id === wanted) ?? cards.find((c) => c.kind === 'marketplace' && c.key.endsWith(`/${settings.homeCountry}`)) ?? cards[0] ?? null;
    const country = chosen?.kind === 'marketplace' ? chosen.key.split('/')[1] : null;
    const tax = cards.find((c) => c.kind === 'tax' && c.key === country) ?? null;
    return { heads: cards.map(({ data: _, ...head }) => head), chosen, tax: tax?.data ?? null, homeCurrency: settings.homeCurrency, standings: settings.standings, today: today() };
  });
}

export const meta: Route.MetaFunction = () => [{ title: 'Rates · Bold Margin' }];
/** Sizes and prices that are tried stand in the URL, but ask nothing of the server. */
export const shouldRevalidate = ({ currentUrl, nextUrl, defaultShouldRevalidate }: { currentUrl: URL; nextUrl: URL; defaultShouldRevalidate: boolean }) =>
  currentUrl.pathname === nextUrl.pathname && currentUrl.searchParams.get('card') === nextUrl.searchParams.get('card') ? false : defaultShouldRevalidate;

export default function Rates() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <RatesPage {...loaded} base={`/w/${head.slug}`} />;
}
