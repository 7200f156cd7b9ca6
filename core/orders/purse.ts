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

export function ordersPurse(
  orders: readonly Order[],
  { cash, reserve }: { readonly cash: number | null; readonly reserve: number },
  { exchange, home, today }: { exchange: ExchangeTable | null; home: string; today: string },
): OrdersPurse {
  let promised = 0;
  const lacking: number[] = [];
  const noRate: number[] = [];
  for (const o of orders) {
    if (!isPromised(o.state)) continue;
    const said = orderSaid(o.terms, today);
    if (said.lacks.length > 0) lacking.push(o.number);
    const factor = exchangeFactor(exchange, o.terms.currency, home);
    if (Number.isNaN(factor)) noRate.push(o.number);
    else promised += openOf(o, said) * factor;
  }
  const toSpend = cash === null ? null : cash - reserve;
  return { toSpend, promised, lacking, noRate, left: toSpend === null ? null : toSpend - promised };
}
