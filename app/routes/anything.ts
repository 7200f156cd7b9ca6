import { enterWorkspace } from '../../server/auth/session.ts';
import { gone } from '../../server/refusal.ts';
import { anythingSaid } from '../../server/use/anything.ts';
import { inWords } from '../../words/index.ts';
import { answering } from '../answers.ts';
import type { Route } from './+types/anything.ts';

/** Where something that somebody typed or pasted leads. */
export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace);
  const text = (new URL(request.url).searchParams.get('text') ?? '').slice(0, 2000);
  const said = await anythingSaid(entry.workspaceId, text, request.signal);
  if (said === null) throw gone();
  const { faults, ...rest } = said;
  return Response.json({ ...rest, wrong: faults.map((f) => inWords(f)) });
});
