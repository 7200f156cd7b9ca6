/** Purchase orders as they stand. How they begin: `draftOrders.ts`; their steps: `orderSteps.ts`. */
import { and, asc, desc, eq, inArray, or } from 'drizzle-orm';
import type { ExchangeTable } from '../../core/money/money.ts';
import type { Order, OrderState, OrderStep } from '../../core/orders/schema.ts';
import { AGREED, PROMISED } from '../../core/orders/states.ts';
import type { Settings } from '../../core/workspace/settings.ts';
import { inWorkspace } from '../db/client.ts';
import type { Tx } from '../db/client.ts';
import { purchaseOrder, supplier } from '../db/schema.ts';
import { today } from '../env.ts';
import { gone } from '../refusal.ts';
import { cardsInForce, settingsIn } from './workspaces.ts';

export const orderColumns = {
  id: purchaseOrder.id,
  number: purchaseOrder.number,
  state: purchaseOrder.state,
  terms: purchaseOrder.terms,
  progress: purchaseOrder.progress,
  edition: purchaseOrder.edition,
  updatedAt: purchaseOrder.updatedAt,
};
export type OrderRow = Order & { readonly edition: number; readonly updatedAt: Date };

/** Orders of a workspace in these states (absent: in any), the latest first. */
export const ordersIn = (tx: Tx, workspaceId: string, states?: readonly OrderState[]): Promise<OrderRow[]> =>
  tx
    .select(orderColumns)
    .from(purchaseOrder)
    .where(
      and(
        eq(purchaseOrder.workspaceId, workspaceId),
        states === undefined ? undefined : inArray(purchaseOrder.state, [...states]),
      ),
    )
    .orderBy(desc(purchaseOrder.number));

/** One order. @throws Refusal `gone` */
export async function orderIn(tx: Tx, workspaceId: string, id: string): Promise<OrderRow> {
  const [row] = await tx
    .select(orderColumns)
    .from(purchaseOrder)
    .where(and(eq(purchaseOrder.workspaceId, workspaceId), eq(purchaseOrder.id, id)));
  if (row === undefined) throw gone();
  return row;
}

/** Ended orders and drafts that the list shows beside all that are under way. */
const SHOWN = 500;

export type OrdersPage = {
  readonly orders: readonly OrderRow[];
  readonly settings: Settings;
  readonly exchange: ExchangeTable | null;
  readonly today: string;
};

async function around(tx: Tx, workspaceId: string): Promise<Omit<OrdersPage, 'orders'>> {
  const settings = await settingsIn(tx, workspaceId);
  if (settings === null) throw gone();
  const cards = await cardsInForce(tx, workspaceId, today());
  const exchange = cards.find((c) => c.kind === 'exchange')?.data as ExchangeTable | undefined;
  return { settings, exchange: exchange ?? null, today: today() };
}

/** All orders under way and the latest of the others, with what their money is held against. */
export const loadOrders = (workspaceId: string): Promise<OrdersPage> =>
  inWorkspace(workspaceId, async (tx) => {
    const latest = tx
      .select({ id: purchaseOrder.id })
      .from(purchaseOrder)
      .where(eq(purchaseOrder.workspaceId, workspaceId))
      .orderBy(desc(purchaseOrder.number))
      .limit(SHOWN);
    const orders = await tx
      .select(orderColumns)
      .from(purchaseOrder)
      .where(
        and(
          eq(purchaseOrder.workspaceId, workspaceId),
          or(inArray(purchaseOrder.state, [...PROMISED]), inArray(purchaseOrder.id, latest)),
        ),
      )
      .orderBy(desc(purchaseOrder.number));
    return { orders, ...(await around(tx, workspaceId)) };
  });

/** One order, and those under way that spend of the same purse. */
export const loadOrder = (
  workspaceId: string,
  id: string,
): Promise<Omit<OrdersPage, 'orders'> & { order: OrderRow; promised: readonly OrderRow[] }> =>
  inWorkspace(workspaceId, async (tx) => ({
    order: await orderIn(tx, workspaceId, id),
    promised: await ordersIn(tx, workspaceId, PROMISED),
    ...(await around(tx, workspaceId)),
  }));

/** A step as it is noted. */
export const stepTo = (state: OrderState, by: string, note = ''): OrderStep => ({
  state,
  at: new Date().toISOString(),
  by,
  note,
});

/** Suppliers that orders can be made out to, by name. */
export const supplierNames = (workspaceId: string): Promise<{ id: string; name: string; mail: string }[]> =>
  inWorkspace(workspaceId, (tx) =>
    tx
      .select({ id: supplier.id, name: supplier.name, mail: supplier.mail })
      .from(supplier)
      .where(eq(supplier.workspaceId, workspaceId))
      .orderBy(asc(supplier.name)),
  );

/** Agreed orders that have goods of a candidate. */
export const agreedOrders = async (workspaceId: string, candidateId: string): Promise<Order[]> =>
  (await inWorkspace(workspaceId, (tx) => ordersIn(tx, workspaceId, AGREED))).filter((o) =>
    o.terms.lines.some((l) => l.candidateId === candidateId),
  );
