import { data } from 'react-router';
import { z } from 'zod';
import { sayIssue } from '../../core/issues.ts';
import { launchPlan } from '../../core/launch/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { saveLaunchPlan } from '../../server/use/candidates.ts';
import type { Route } from './+types/fundSave.ts';

const body = z.strictObject({ plan: launchPlan, candidate: z.string().max(64) });

export async function action({ request, params }: Route.ActionArgs) {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = body.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return data({ error: sayIssue(parsed.error) }, 422);
  const found = await saveLaunchPlan(entry.workspaceId, parsed.data.candidate, parsed.data.plan);
  return data({ error: found ? null : 'gone' }, found ? 200 : 404);
}
