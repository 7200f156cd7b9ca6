/** What orders of a lane took from the account, and what of them is still to be paid. */
import type { LaneDocument } from '../lane/schema.ts';
import { exchangeFactor } from '../money/money.ts';
import { partsBy } from '../orders/bills.ts';
import type { Measures } from '../orders/bills.ts';
import type { Order } from '../orders/schema.ts';
import { orderSaid } from '../orders/totals.ts';
import type { OrderSaid } from '../orders/totals.ts';

/** Home currency; `home` with its VAT, of which `vat` may be reclaimed. `day` null: nothing says when. */
export type Paid = { readonly day: string | null; readonly home: number; readonly vat: number };
export type LanePaid = {
  readonly paid: readonly Paid[];
  readonly open: readonly Paid[];
  /** Orders of which the lane's part, or what is open, is not known: none of theirs is in either. */
  readonly unknown: number;
};

/** The lane's part of what lines of an order share; null: it is not known. */
function partOf(
  by: Parameters<typeof partsBy>[0],
  order: Order,
  said: OrderSaid,
  laneId: string,
  measures: ReadonlyMap<string, Measures>,
): number | null {
  const parts = partsBy(by, said, measures);
  if (parts === null) return null;
  return order.terms.lines.filter((l) => l.laneId === laneId).reduce((s, l) => s + (parts.get(l.id) ?? 0), 0);
}

function ofOrder(
  order: Order,
  laneId: string,
  doc: LaneDocument,
  measures: ReadonlyMap<string, Measures>,
): { paid: Paid[]; open: Paid[] } | null {
  const { terms, progress } = order;
  const said = orderSaid(terms, terms.placedOn ?? '');
  const part = partOf('value', order, said, laneId, measures);
  const bills = progress.bills.map((b) => ({
    day: b.day,
    home: b.amount * (partOf(b.by, order, said, laneId, measures) ?? Number.NaN),
    vat: 0,
  }));
  if (part === null || bills.some((b) => Number.isNaN(b.home))) return null;
  const vatShare = said.total > 0 ? said.vat / said.total : 0;
  const paidPart = (day: string | null, home: number): Paid => ({
    day,
    home: home * part,
    vat: home * part * vatShare,
  });
  const rest = said.total - progress.payments.reduce((s, p) => s + p.amount, 0);
  const home = rest <= 0 ? 0 : rest * exchangeFactor(doc.rates.exchange, terms.currency, doc.homeCurrency);
  if (Number.isNaN(home) || said.lacks.length > 0) return null;
  return {
    paid: [...progress.payments.map((p) => paidPart(p.day, p.home)), ...bills],
    // Of an order that is closed nothing more is paid.
    open: home > 0 && order.state !== 'closed' ? [paidPart(said.due.at(-1)?.day ?? null, home)] : [],
  };
}

/** Of orders that were sent and not called off: payments by the value of their lines, bills as each is shared out. */
export function paidFor(
  orders: readonly Order[],
  laneId: string,
  doc: LaneDocument,
  measures: ReadonlyMap<string, Measures>,
): LanePaid {
  const of = orders
    .filter((o) => o.state !== 'cancelled' && o.state !== 'draft')
    .filter((o) => o.terms.lines.some((l) => l.laneId === laneId))
    .map((o) => ofOrder(o, laneId, doc, measures));
  const known = of.flatMap((o) => o ?? []);
  return {
    paid: known.flatMap((o) => o.paid),
    open: known.flatMap((o) => o.open),
    unknown: of.length - known.length,
  };
}
