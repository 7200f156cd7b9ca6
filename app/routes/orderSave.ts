import { orderChange } from '../../core/orders/schema.ts';
import { enterWorkspace } from '../../server/auth/session.ts';
import { saveOrder } from '../../server/use/orderSteps.ts';
import type { Route } from './+types/orderSave.ts';
import { answering, unfit } from '../answers.ts';

/** Saves what of a draft was changed. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = orderChange.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  await saveOrder(entry.workspaceId, params.order, parsed.data, entry.person.id);
  return {};
});
