import { enterWorkspace } from '../../server/auth/session.ts';
import { loadProofs } from '../../server/use/proofs.ts';
import type { Route } from './+types/rateProofs.ts';
import { answering } from '../answers.ts';

/** What was really charged, by the card it is about: read when somebody asks how well proven a lane's fees are. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const key = (new URL(request.url).searchParams.get('key') ?? '').slice(0, 300);
  return { proofs: await loadProofs(entry.workspaceId, key) };
});
