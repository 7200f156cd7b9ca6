import { enterWorkspace } from '../../server/auth/session.ts';
import { cancelTask, latestNotices, readNotices, tasksNow } from '../../server/use/tasks.ts';
import type { Route } from './+types/pulse.ts';
import { answering } from '../answers.ts';
import { lastAnswer, unlessAway } from '../whenAway.ts';

/** Long work under way and the newest notices, for the frame. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const [tasks, notices] = [await tasksNow(entry.workspaceId), await latestNotices(entry.workspaceId)];
  return {
    tasks: tasks.map(({ id, kind, state, done, total, data }) => ({
      id,
      kind,
      state,
      done,
      total,
      changed: Number(data.changed ?? 0),
    })),
    notices: notices.map((n) => ({ ...n, at: n.at.toISOString() })),
  };
});

export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const form = await request.formData();
  if (form.get('intent') === 'read') await readNotices(entry.workspaceId);
  if (form.get('intent') === 'cancel' && entry.role !== 'viewer')
    await cancelTask(entry.workspaceId, String(form.get('id')));
  return { ok: true };
});

/** Without a network the frame goes on with what it knew. */
export const clientLoader = lastAnswer<Awaited<ReturnType<typeof loader>>>({ tasks: [], notices: [] });
export const clientAction = unlessAway;
