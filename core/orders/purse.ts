/** What orders leave of the cash there is, so that nobody orders twice with one purse. Home currency. */
import { exchangeFactor } from '../money/money.ts';
import type { ExchangeTable } from '../money/money.ts';
import type { Order } from './schema.ts';
import { isPromised } from './states.ts';
import { openOf, orderSaid } from './totals.ts';

export type OrdersPurse = {
  /** Cash at hand less what is kept back; null: the cash is not known. */
  readonly toSpend: number | null;
  /** What sent orders still take. */
  readonly promised: number;
  /** Numbers of orders whose total lacks something: they take more than that. */
  readonly lacking: readonly number[];
  /** Numbers of orders in a currency that the rates do not have: not counted. */
  readonly noRate: readonly number[];
  /** What is left to order with; null: the cash is not known. At most this where an order lacks something. */
  readonly left: number | null;
};

type Rates = { readonly exchange: ExchangeTable | null; readonly home: string };

/** An amount of an order in the home currency; null: the rates do not have its currency. */
export function inHome(amount: number, currency: string, { exchange, home }: Rates): number | null {
  const factor = exchangeFactor(exchange, currency, home);
  return Number.isNaN(factor) ? null : amount * factor;
}

/** What an order that is not sent yet would leave of what is left, home currency; null: one of the two is not known. */
export const leftAfter = (left: number | null, total: number | null): number | null =>
  left === null || total === null ? null : left - total;

export function ordersPurse(
  orders: readonly Order[],
  { cash, reserve }: { readonly cash: number | null; readonly reserve: number },
  { exchange, home, today }: Rates & { readonly today: string },
): OrdersPurse {
  let promised = 0;
  const lacking: number[] = [];
  const noRate: number[] = [];
  for (const o of orders) {
    if (!isPromised(o.state)) continue;
    const said = orderSaid(o.terms, today);
    if (said.lacks.length > 0) lacking.push(o.number);
    const open = inHome(openOf(o, said), o.terms.currency, { exchange, home });
    if (open === null) noRate.push(o.number);
    else promised += open;
  }
  const toSpend = cash === null ? null : cash - reserve;
  return { toSpend, promised, lacking, noRate, left: toSpend === null ? null : toSpend - promised };
}
