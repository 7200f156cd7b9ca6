/** Which way an order may go, and what has come in of it. */
import type { Order, OrderLine, OrderProgress, OrderState } from './schema.ts';

/** From each state on to these. What was sent is never a draft again. */
export const ORDER_WAYS: Readonly<Record<OrderState, readonly OrderState[]>> = {
  draft: ['sent', 'cancelled'],
  sent: ['confirmed', 'onItsWay', 'received', 'cancelled'],
  confirmed: ['onItsWay', 'received', 'cancelled'],
  onItsWay: ['received', 'cancelled'],
  received: ['closed'],
  closed: [],
  cancelled: [],
};

/** States in which the money of an order is promised: nobody should spend it a second time. */
export const PROMISED = ['sent', 'confirmed', 'onItsWay', 'received'] as const satisfies OrderState[];
/** States of an order that the supplier has had and that was not called off. */
export const SENT = [...PROMISED, 'closed'] as const satisfies OrderState[];
/** States in which the supplier has agreed to an order: its figures stand in place of the plan's. */
export const AGREED = ['confirmed', 'onItsWay', 'received', 'closed'] as const satisfies OrderState[];

export const isPromised = (state: OrderState): boolean => (PROMISED as readonly string[]).includes(state);
export const isAgreed = (state: OrderState): boolean => (AGREED as readonly string[]).includes(state);

/** The state before the present one, to which a step taken by mistake leads back; null: none, or it was a draft. */
export function stateBefore({ progress: { steps } }: Pick<Order, 'progress'>): OrderState | null {
  const before = steps[steps.length - 2]?.state ?? null;
  return before === 'draft' ? null : before;
}

export type Arrived = {
  readonly ordered: number | null;
  readonly good: number;
  readonly damaged: number;
  /** Units that were ordered and are neither here nor damaged; below 0: more came than was ordered. */
  readonly open: number | null;
};

/** What has come in of a line. */
export function arrivedOf(line: OrderLine, { receipts }: Pick<OrderProgress, 'receipts'>): Arrived {
  const own = receipts.flatMap((r) => r.lines.filter((l) => l.line === line.id));
  const ordered = line.confirmed?.units ?? line.units;
  const good = own.reduce((s, l) => s + l.units, 0);
  const damaged = own.reduce((s, l) => s + l.damaged, 0);
  return { ordered, good, damaged, open: ordered === null ? null : ordered - good - damaged };
}

/** Whether everything that was ordered has come in. */
export const isAllHere = (order: Pick<Order, 'terms' | 'progress'>): boolean =>
  order.terms.lines.every((l) => (arrivedOf(l, order.progress).open ?? 1) <= 1e-9);
