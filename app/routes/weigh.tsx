import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import { isQuoted } from '../../core/goods/goods.ts';
import type { LaneDocument } from '../../core/lane/schema.ts';
import { conversionsOf } from '../../core/money/money.ts';
import { bestLane, completeness, gatesOf, planOf, summarise } from '../../core/workspace/summary.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { documentsOf, duplicateCandidate, loadCandidates, setFate } from '../../server/use/candidates.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { WeighList } from '../features/weigh/WeighList.tsx';
import type { CandidateLine } from '../features/weigh/WeighList.tsx';
import type { Route } from './+types/weigh.ts';

export async function loader({ request, params }: Route.LoaderArgs) {
  const entry = await enterWorkspace(request, params.workspace);
  const all = await loadCandidates(entry.workspaceId);
  if (all === null) throw redirect(`/w/${entry.slug}`);
  const { settings } = all;
  const converted: LaneDocument[] = [];
  const lines: CandidateLine[] = all.candidates.map((c) => {
    const lanes = all.lanes.filter((l) => l.candidateId === c.id);
    const docs = documentsOf(
      { settings, lanes, cards: all.cards, today: all.today },
      c.data,
      all.quotes.filter((q) => q.candidateId === c.id),
    );
    converted.push(...docs);
    const hurdles = settings.hurdles[c.data.way] ?? [];
    const summaries = docs.map((d) => summarise(d, hurdles, planOf(c.data, settings.launch)));
    const best = bestLane(summaries, settings.bestBy);
    return {
      id: c.id,
      name: c.data.name,
      way: c.data.way,
      stage: c.data.stage,
      tags: c.data.tags,
      archived: c.archivedAt !== null,
      dropped: c.droppedReason,
      score: c.data.score?.value ?? null,
      changed: c.updatedAt.toISOString().slice(0, 10),
      gates: gatesOf(c.data, summaries[best] ?? null),
      best,
      laneCount: all.laneCounts[c.id] ?? 0,
      lanes: summaries.map((s, i) => {
        const shown = s.home ?? s.result;
        return {
          id: lanes[i]?.id ?? '',
          country: docs[i]?.country ?? '',
          marketplace: docs[i]?.marketplace ?? '',
          currency: s.result.currency,
          bar: {
            currency: shown.currency,
            families: shown.families,
            figures: { gross: shown.figures.gross, unitProfit: shown.figures.unitProfit },
            incomplete: { unitProfit: s.result.incomplete.unitProfit },
          },
          margin: s.result.figures.margin,
          roi: s.result.figures.roi,
          breakEven: s.breakEvenPrice,
          mostToPay: s.mostToPay,
          mostToPayCurrency: s.mostToPayCurrency,
          launchCash: s.launchCash,
          launchLacks: s.launchLacks,
          missed: s.hurdles
            .filter((h) => h.verdict === 'fail' || h.verdict === 'near')
            .map((h) => ({ figure: h.hurdle.figure, verdict: h.verdict })),
          cleared: s.hurdles.length > 0 && s.hurdles.every((h) => h.verdict === 'pass'),
          blanks: s.result.blanks,
          problems: s.result.problems.map((p) => p.code),
          stale: s.result.notices.some((n) => n.code === 'quoteExpired'),
          quoteDate: quoteDateOf(docs[i]),
          complete: completeness(s.result),
        };
      }),
    };
  });
  const { cash, reserve } = settings.launch;
  return {
    lines,
    rates: conversionsOf(converted, settings.homeCurrency),
    homeCurrency: settings.homeCurrency,
    toSpend: cash === null ? null : cash - reserve,
    today: all.today,
  };
}

/** Day of the oldest quote a lane is bought on. */
function quoteDateOf(doc: LaneDocument | undefined): string | null {
  const days = Array.isArray(doc?.goods)
    ? doc.goods.flatMap((c) => (isQuoted(c.source) ? (c.source.date ?? []) : []))
    : [];
  return days.length === 0 ? null : days.reduce((a, b) => (a < b ? a : b));
}

export const meta: Route.MetaFunction = () => [{ title: 'Weigh · Bold Margin' }];
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
  formMethod === undefined && currentUrl.pathname === nextUrl.pathname ? false : defaultShouldRevalidate;

export async function action({ request, params }: Route.ActionArgs) {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const ids = String(form.get('ids') ?? '')
    .split(',')
    .filter(Boolean);
  const list = `/w/${entry.slug}/weigh`;
  switch (form.get('intent')) {
    case 'duplicate': {
      const id = await duplicateCandidate(
        entry.workspaceId,
        String(form.get('id')),
        (old) => `${old.slice(0, 190)} (copy)`,
      );
      throw redirect(id === null ? list : `${list}/${id}`);
    }
    case 'archive':
      await setFate(entry.workspaceId, ids, { archived: true });
      throw redirect(`${list}?done=archive&ids=${ids.join(',')}`);
    case 'unarchive':
      await setFate(entry.workspaceId, ids, { archived: false });
      throw redirect(list);
    case 'drop':
      await setFate(entry.workspaceId, ids, {
        dropped:
          String(form.get('reason') ?? '')
            .trim()
            .slice(0, 300) || 'No reason given',
      });
      throw redirect(`${list}?done=drop&ids=${ids.join(',')}`);
    case 'undrop':
      await setFate(entry.workspaceId, ids, { dropped: null });
      throw redirect(list);
    case 'delete':
      await setFate(entry.workspaceId, ids, { deleted: true });
      throw redirect(`${list}?done=delete&ids=${ids.join(',')}`);
    case 'undelete':
      await setFate(entry.workspaceId, ids, { deleted: false });
      throw redirect(list);
    default:
      return data({ error: 'unknown' }, 400);
  }
}

export default function Weigh() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <WeighList {...loaded} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
