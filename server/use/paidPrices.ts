/** What was paid for goods that came in, as the source of the lane they were ordered for. */
import { and, eq } from 'drizzle-orm';
import { orderName } from '../../core/orders/name.ts';
import { arrivedOf } from '../../core/orders/states.ts';
import { orderSaid } from '../../core/orders/totals.ts';
import { inWorkspace } from '../db/client.ts';
import { lane, quote } from '../db/schema.ts';
import { today } from '../env.ts';
import { gone, refused } from '../refusal.ts';
import { orderIn } from './orders.ts';
import { savePatches } from './savePatches.ts';
import { newId } from './workspaces.ts';

/**
 * Puts what was paid for a line that has come in into its lane, as a quote of its own that says so; what was quoted
 * stays. The price holds for any quantity: it was paid for this one.
 */
export async function takePaidPrice(
  workspaceId: string,
  orderId: string,
  lineId: string,
  by: string,
): Promise<void> {
  const found = await inWorkspace(workspaceId, async (tx) => {
    const order = await orderIn(tx, workspaceId, orderId);
    const line = order.terms.lines.find((l) => l.id === lineId);
    if (line === undefined || line.laneId === null || line.quoteId === null) return null;
    const [own] = await tx
      .select({ data: lane.data, candidateId: lane.candidateId })
      .from(lane)
      .where(and(eq(lane.workspaceId, workspaceId), eq(lane.id, line.laneId)));
    const [source] = await tx
      .select({ data: quote.data })
      .from(quote)
      .where(and(eq(quote.workspaceId, workspaceId), eq(quote.id, line.quoteId)));
    return own === undefined || source?.data.kind !== 'quote'
      ? null
      : { order, line, laneId: line.laneId, own, source: source.data };
  });
  if (found === null) throw gone();
  const { order, line, laneId, own, source } = found;
  const price = orderSaid(order.terms, today()).lines.find((l) => l.id === lineId)?.unitPrice ?? null;
  const at = own.data.components.findIndex((c) => c.quoteId === line.quoteId);
  if (price === null || at < 0 || arrivedOf(line, order.progress).good <= 0)
    throw refused('orderNothingPaid', { name: line.name });
  const quoteId = newId();
  const day = order.progress.receipts.at(-1)?.day ?? today();
  await inWorkspace(workspaceId, (tx) =>
    tx.insert(quote).values({
      workspaceId,
      id: quoteId,
      candidateId: own.candidateId,
      data: {
        ...source,
        date: day,
        validUntil: null,
        priceBreaks: [{ minQty: 0, unitPrice: price }],
        // Its price has what is packed around a unit in it.
        extras: [],
      },
    }),
  );
  const said = { source: 'actual' as const, date: day, note: orderName(order.number) };
  const saved = await savePatches(
    workspaceId,
    own.candidateId,
    [
      { entity: 'lane', id: laneId, path: ['components', at, 'quoteId'], from: line.quoteId, to: quoteId },
      {
        entity: 'lane',
        id: laneId,
        path: ['provenance', 'goods'],
        from: own.data.provenance.goods ?? null,
        to: said,
      },
    ],
    by,
    true,
  );
  if (!saved.ok) throw refused('orderNothingPaid', { name: line.name });
}
