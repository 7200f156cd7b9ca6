import { redirect, useLoaderData } from 'react-router';
import { enterWorkspace } from '../../server/auth/session.ts';
import { draftOrders, loadToOrder, orderWish } from '../../server/use/draftOrders.ts';
import { NewOrders } from '../features/order/NewOrders.tsx';
import type { Route } from './+types/orderNew.ts';
import { answering, unfit } from '../answers.ts';

export const loader = answering(async ({ request, params }: Route.LoaderArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const toOrder = await loadToOrder(entry.workspaceId);
  // Who comes from candidates finds them ticked.
  const asked = new Set((new URL(request.url).searchParams.get('candidates') ?? '').split(','));
  const chosen = toOrder.candidates.filter((c) => c.isFirst && asked.has(c.candidateId)).map((c) => c.laneId);
  return { toOrder, chosen };
});

export const meta: Route.MetaFunction = () => [{ title: 'Drafts · Bold Margin' }];

/** Makes drafts of what was chosen. */
export const action = answering(async ({ request, params }: Route.ActionArgs) => {
  const entry = await enterWorkspace(request, params.workspace, 'edit');
  const parsed = orderWish.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return unfit(parsed.error);
  const { ids, left } = await draftOrders(entry.workspaceId, parsed.data, entry.person.id);
  const list = `/w/${entry.slug}/order`;
  throw redirect(
    ids.length === 1 && left === 0 ? `${list}/${ids[0]}` : `${list}${left > 0 ? `?left=${left}` : ''}`,
  );
});

export default function OrderNew() {
  return <NewOrders {...useLoaderData<typeof loader>()} />;
}
