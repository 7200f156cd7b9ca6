import { data, redirect, useActionData, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { firstIssue } from '../../core/issues.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { today } from '../../server/env.ts';
import { newCandidate } from '../../core/workspace/newCandidate.ts';
import { createCandidates } from '../../server/use/candidates.ts';
import { openAsCandidate, readLaneDocument } from '../../server/use/laneDocuments.ts';
import { firstMarket, isOffered } from '../../core/workspace/offered.ts';
import { cardsInForce, settingsWith } from '../../server/use/workspaces.ts';
import { NewCandidateForm } from '../features/find/NewCandidate.tsx';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import type { Route } from './+types/find.ts';
import { inWords } from '../../words/index.ts';
import { answering } from '../answers.ts';
import { usualCards } from '../../core/cards/schema.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const wanted = new URL(request.url).searchParams.get('card');
  const { settings, also: cards } = await settingsWith(entry.workspaceId, (tx) =>
    cardsInForce(tx, entry.workspaceId, today()),
  );
  if (settings === null) throw redirect(`/w/${entry.slug}`);
  // One's own before the examples.
  const markets = cards
    .filter((c) => c.kind === 'marketplace' && (isOffered(c, settings) || c.id === wanted))
    .sort((a, b) => Number(a.example) - Number(b.example));
  const chosen = markets.find((c) => c.id === wanted) ?? firstMarket(markets, settings.homeCountry);
  const country = chosen?.key.split('/')[1] ?? settings.homeCountry;
  // The form reckons as one types; it gets the cards that the first lane would use, and the names of the
  // others.
  const usual = usualCards(cards, { country, homeCurrency: settings.homeCurrency });
  const used = [chosen, usual.tax, usual.exchange].filter((c) => c != null);
  return {
    settings,
    today: today(),
    markets: markets.map(({ id, name, key }) => ({ id, name, key })),
    chosen: chosen?.id ?? null,
    country,
    cards: Object.fromEntries(used.map((c) => [c.id, c.data])),
    laneCards: { marketplace: chosen?.id, tax: usual.tax?.id, exchange: usual.exchange?.id },
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Find · Bold Margin' }];

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const body: unknown = await request.json().catch(() => null);
  if (body !== null && typeof body === 'object' && 'document' in body) {
    const doc = readLaneDocument(body.document);
    throw redirect(
      `/w/${entry.slug}/weigh/${await openAsCandidate(entry.workspaceId, doc, entry.person.id)}`,
    );
  }
  const parsed = z.array(newCandidate).min(1).max(500).safeParse(body);
  if (!parsed.success) {
    const { path, code, detail } = firstIssue(parsed.error);
    const [row, field] = path.split('.');
    const message = inWords({ code, detail });
    return data({ error: { row: Number(row ?? 0) + 1, field: field ?? '', message } }, 422);
  }
  const ids = await createCandidates(entry.workspaceId, parsed.data, entry.person.id);
  throw redirect(
    ids.length === 1 ? `/w/${entry.slug}/weigh/${ids[0]}` : `/w/${entry.slug}/weigh?sort=changed`,
  );
});

export default function Find() {
  const loaded = useLoaderData<typeof loader>();
  const failed = useActionData<typeof action>();
  const head = useOutletContext<WorkspaceHead>();
  return <NewCandidateForm {...loaded} canEdit={head.role !== 'viewer'} error={failed?.error ?? null} />;
}
