/** The days of a launch that count: orders, what falls due for the first of them, arrival, VAT, the first payout. */
import type { CashRuns } from '../../../core/cash/cash.ts';

export type Mark = {
  readonly day: number;
  readonly what: 'order' | 'reorder' | 'balance' | 'way' | 'onSale' | 'payout' | 'vat';
  /** Units, of an order. */
  readonly units: number | null;
};

const first = (flows: Float64Array, from: number, is: (x: number) => boolean): number | null => {
  const at = flows.findIndex((x, t) => t >= from && is(x));
  return at < 0 ? null : at;
};

/** In the order of their days. */
export function marksOf({ cases, onSale, horizon }: CashRuns): Mark[] {
  const { run } = cases.expected;
  const marks: Mark[] = run.orders.map((o, i) => ({
    day: o.day,
    what: i === 0 ? 'order' : 'reorder',
    units: o.quantity,
  }));
  const second = run.orders[1]?.day ?? Number.POSITIVE_INFINITY;
  const add = (what: Mark['what'], day: number | null): void => {
    if (day !== null && day <= horizon) marks.push({ day, what, units: null });
  };
  const balance = first(run.flows.goods, 1, (x) => x < 0);
  if (balance !== null && balance < second) add('balance', balance);
  add(
    'way',
    first(run.flows.way, 0, (x) => x < 0),
  );
  if (run.orders.length > 0) add('onSale', onSale);
  add(
    'payout',
    first(run.flows.payouts, 0, (x) => x > 0),
  );
  run.flows.vat.forEach((x, t) => {
    if (x !== 0) add('vat', t);
  });
  return marks.sort((a, b) => a.day - b.day);
}
