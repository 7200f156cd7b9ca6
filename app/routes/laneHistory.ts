import { enterWorkspace } from '../../server/auth/session.ts';
import { laneHistoryOf } from '../../server/use/savePatches.ts';
import type { Route } from './+types/laneHistory.ts';
import { answering } from '../answers.ts';

/** Earlier results of a lane, read when somebody asks for them. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const earlier = await laneHistoryOf(
    entry.workspaceId,
    params.candidate,
    new URL(request.url).searchParams.get('lane') ?? '',
  );
  return { earlier: earlier.map((e) => ({ ...e, at: e.at.toISOString() })) };
});
