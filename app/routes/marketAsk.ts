import { data } from 'react-router';
import { z } from 'zod';
import { fault } from '../../core/fault.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { feedOf } from '../../server/use/feeds.ts';
import { askedTask, startTask } from '../../server/use/tasks.ts';
import { inWords } from '../../words/index.ts';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/marketAsk.ts';

/** How far the asking is, and what the feed did wrong. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const task = await askedTask(entry.workspaceId, new URL(request.url).searchParams.get('task') ?? '');
  const over = task === null || !['waiting', 'running'].includes(task.state);
  return Response.json({ over, seen: task?.seen ?? 0, wrong: (task?.faults ?? []).map((f) => inWords(f)) });
});

const asked = z.strictObject({ market: z.string().min(1).max(300) });

/** Has the feed asked about one market of a candidate, now. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = asked.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  if ((await feedOf(entry.workspaceId)) === null) return unfit(fault('feedNone'));
  const about = { candidateId: params.candidate, market: parsed.data.market };
  return data({ task: await startTask(entry.workspaceId, 'watchMarkets', about, 1, entry.person.id) });
});
