import { z } from 'zod';
import { enterWorkspace } from '../../server/auth/session.ts';
import { keepChecks, MOST_CHECKS } from '../../server/use/checks.ts';
import { inWords } from '../../words/index.ts';
import { answering, unfit } from '../answers.ts';
import type { Route } from './+types/checkKeep.ts';

const sent = z.strictObject({
  /** Whose queue it is: a device that two people use sends each one's own. */
  person: z.string().max(64),
  sessions: z.array(z.unknown()).max(MOST_CHECKS),
  checks: z.array(z.unknown()).max(MOST_CHECKS),
});

/** Takes in what a device has kept, each once however often it is sent. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const body: unknown = await request.json().catch(() => null);
  const parsed = sent.safeParse(body);
  if (!parsed.success) return unfit(parsed.error);
  if (parsed.data.person !== entry.person.id) return Response.json({ error: 'notYours' }, { status: 409 });
  const { sessions, checks, refused } = await keepChecks(entry.workspaceId, parsed.data, entry.person.id);
  return Response.json({
    taken: [...sessions, ...checks],
    refused: refused.map((r) => ({ id: r.id, why: inWords(r.fault) })),
  });
});
