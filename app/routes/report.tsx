import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { z } from 'zod';
import { settledPlace, settlementMap } from '../../core/actuals/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { takeBackSettlement } from '../../server/use/settlements.ts';
import { loadSettlement, placesOfCards } from '../../server/use/settlementPages.ts';
import { readingOf, readReport } from '../../server/use/readReports.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { ReportPage } from '../features/selling/ReportPage.tsx';
import { answering, unfit } from '../answers.ts';
import { inWords } from '../../words/index.ts';
import type { Route } from './+types/report.ts';

const SHOWN_REFUSED = 100;

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const { workspaceId } = await enterWorkspace(request, params.workspace);
  const search = new URL(request.url).searchParams;
  const { settlement, ...page } = await loadSettlement(workspaceId, params.report, search.get('sheet'));
  const reading = await readingOf(workspaceId, params.report);
  const { id, name, marketplace, country, currency, said, sheet } = settlement;
  return {
    ...page,
    id,
    name,
    sheet: search.get('sheet') ?? sheet,
    sameAs: search.get('same'),
    reading:
      reading === null
        ? null
        : {
            state: reading.state,
            done: reading.done,
            error: reading.error === null ? null : inWords(reading.error),
          },
    place:
      marketplace === null || country === null ? null : { marketplace, country, currency: currency ?? '' },
    places: await placesOfCards(workspaceId),
    said:
      said === null
        ? null
        : {
            ...said,
            refused: said.refused.slice(0, SHOWN_REFUSED).map((f) => ({ row: f.row, message: inWords(f) })),
          },
  };
});

export const meta: Route.MetaFunction = () => [{ title: 'Report · Bold Margin' }];

const told = z.discriminatedUnion('intent', [
  z.strictObject({
    intent: z.literal('read'),
    place: settledPlace,
    map: settlementMap,
    sheet: z.string().max(200).nullable(),
  }),
  z.strictObject({ intent: z.literal('takeBack') }),
]);

/** Reads the report as it is said to be read, or takes it back whole. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = told.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  if (parsed.data.intent === 'takeBack') {
    await takeBackSettlement(entry.workspaceId, params.report);
    throw redirect(`/w/${entry.slug}/selling`);
  }
  const { intent: _, ...how } = parsed.data;
  await readReport(entry.workspaceId, params.report, how, entry.person.id);
  return data({ read: true });
});

export default function Report() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return (
    <ReportPage
      key={`${loaded.id}/${loaded.sheet ?? ''}`}
      {...loaded}
      base={`/w/${head.slug}`}
      canEdit={head.role !== 'viewer'}
    />
  );
}
