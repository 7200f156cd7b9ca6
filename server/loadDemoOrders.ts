/** The demo's orders and its enquiry, made by the steps a person would take. */
import { and, eq } from 'drizzle-orm';
import { demoOrders } from '../demo/orders.ts';
import { inWorkspace } from './db/client.ts';
import { candidate, lane } from './db/schema.ts';
import { today } from './env.ts';
import { draftEnquiry, saveEnquiry, sendEnquiry } from './use/enquiries.ts';
import { draftOrders } from './use/draftOrders.ts';
import { loadOrder } from './use/orders.ts';
import { moveOrder, saveOrder } from './use/orderSteps.ts';

/** Ids of the demo's candidates by name, and the first lane of each. */
async function named(workspaceId: string): Promise<Map<string, { id: string; lane: string }>> {
  const rows = await inWorkspace(workspaceId, (tx) =>
    tx
      .select({ id: candidate.id, data: candidate.data, lane: lane.id })
      .from(candidate)
      .innerJoin(lane, and(eq(lane.workspaceId, candidate.workspaceId), eq(lane.candidateId, candidate.id)))
      .where(and(eq(candidate.workspaceId, workspaceId), eq(lane.position, 0))),
  );
  return new Map(rows.map((r) => [r.data.name, { id: r.id, lane: r.lane }]));
}

/** One order that the supplier confirmed, one draft of two lines, one enquiry that nobody has answered yet. */
export async function loadDemoOrders(workspaceId: string, by: string): Promise<void> {
  const goods = await named(workspaceId);
  const wish = (names: readonly string[]) => ({
    lanes: names.flatMap((n) => goods.get(n)?.lane ?? []),
    goods: [],
    byHand: false,
  });
  const step = async (id: string, to: 'sent' | 'confirmed'): Promise<void> => {
    const { edition } = (await loadOrder(workspaceId, id)).order;
    await moveOrder(workspaceId, id, { to, note: '', edition }, by);
  };
  const { ids } = await draftOrders(workspaceId, wish(demoOrders.ordered), by);
  for (const id of ids) {
    await saveOrder(workspaceId, id, { terms: { delivery: 0, placedOn: today() }, lines: {} }, by);
    await step(id, 'sent');
    await step(id, 'confirmed');
  }
  await draftOrders(workspaceId, wish(demoOrders.drafted), by);
  const asked = goods.get(demoOrders.asked.name);
  if (asked === undefined) return;
  const enquiry = await draftEnquiry(workspaceId, asked.id, by);
  const { subject, text } = demoOrders.asked;
  await saveEnquiry(workspaceId, enquiry, { subject, text });
  await sendEnquiry(workspaceId, enquiry, 'another', { id: by, email: '' });
}
