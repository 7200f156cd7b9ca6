import { data, redirect, useLoaderData, useOutletContext } from 'react-router';
import type { EvidenceGate } from '../../core/evidence/gates.ts';
import type { MarketStored } from '../../core/evidence/stored.ts';
import type { CandidateData } from '../../core/workspace/records.ts';
import { gatesOf } from '../../core/workspace/summary.ts';
import { conversionsIn } from '../../core/workspace/weighLine.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { duplicateCandidate, setFate } from '../../server/use/candidates.ts';
import { loadWeighed, loadWeighedLanes } from '../../server/use/weigh.ts';
import type { WorkspaceHead } from '../features/frame/Shell.tsx';
import { WeighList } from '../features/weigh/WeighList.tsx';
import type { CandidateLine } from '../features/weigh/weighed.ts';
import type { Route } from './+types/weigh.ts';
import { readAgainFor } from '../readAgain.ts';
import { answering } from '../answers.ts';
import { defaults } from '../../words/en/fileNames.ts';
import { fillIn } from '../../words/index.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const all = await loadWeighed(entry.workspaceId);
  if (all === null) throw redirect(`/w/${entry.slug}`);
  const { settings } = all;
  const lines = all.candidates.map(
    ({ row: c, laneCount, best, market, newer }): CandidateLine => ({
      id: c.id,
      name: c.data.name,
      way: c.data.way,
      stage: c.data.stage,
      tags: c.data.tags,
      archived: c.archivedAt !== null,
      dropped: c.droppedReason,
      changed: c.updatedAt.toISOString().slice(0, 10),
      gates: gatesOf(c.data, best, market),
      market: market === null ? null : withoutHand(market, c.data),
      newer,
      best,
      laneCount,
    }),
  );
  const opened = new URL(request.url).searchParams.get('open');
  const { cash, reserve } = settings.launch;
  return {
    lines,
    opened: opened === null ? null : { id: opened, lanes: await loadWeighedLanes(entry.workspaceId, opened) },
    rates: conversionsIn(lines.flatMap((l) => l.best ?? [])),
    homeCurrency: settings.homeCurrency,
    toSpend: cash === null ? null : cash - reserve,
  };
});

/** What evidence says, without what decided a gate that was set by hand. */
function withoutHand({ gates: said, old }: MarketStored, { gates }: CandidateData): CandidateLine['market'] {
  const own = Object.entries(said).map(([g, gate]) => [
    g,
    gates[g as EvidenceGate] === null ? gate : { ...gate, figure: null, value: null },
  ]);
  return { old, gates: Object.fromEntries(own) as MarketStored['gates'] };
}

export const meta: Route.MetaFunction = () => [{ title: 'Weigh · Bold Margin' }];
export const shouldRevalidate = readAgainFor();

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const form = await request.formData();
  const ids = String(form.get('ids') ?? '')
    .split(',')
    .filter(Boolean);
  const list = `/w/${entry.slug}/weigh`;
  switch (form.get('intent')) {
    case 'duplicate': {
      const id = await duplicateCandidate(entry.workspaceId, String(form.get('id')), (old) =>
        fillIn(defaults.copy, { name: old.slice(0, 190) }),
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
            .slice(0, 300) || defaults.noReason,
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
});

export default function Weigh() {
  const loaded = useLoaderData<typeof loader>();
  const head = useOutletContext<WorkspaceHead>();
  return <WeighList {...loaded} base={`/w/${head.slug}`} canEdit={head.role !== 'viewer'} />;
}
