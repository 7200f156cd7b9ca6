/** The days a lane takes: lead time, way, credit, payouts; and what it lacks for a cash run. */
import type { Component, LaneDocument } from '../lane/schema.ts';

export type Days = {
  readonly lead: number;
  readonly transit: number;
  readonly inbound: number;
  readonly credit: number;
  /** Share of the goods that is paid with the order. */
  readonly deposit: number;
  readonly payoutEvery: number;
  readonly payoutDelay: number;
};
/** Days are whole: a part of a day rounds up; no days are 0, not -0. */
const up = (x: number): number => Math.ceil(x - 1e-9) + 0;

/**
 * The days of a lane, and which of them are not known. Decisions as in the cash cycle: a blank deposit is all with the
 * order, goods from a shop have no lead time unless it is typed, no route takes no days; payouts come every day at the
 * most often.
 */
export function daysOf(doc: LaneDocument): { readonly days: Days; readonly lacks: readonly string[] } {
  const lacks: string[] = [];
  const known = (name: string, x: number | null | undefined): number => {
    if (x == null) lacks.push(name);
    return x == null ? Number.NaN : up(x);
  };
  const ships = doc.method === 'supplierShips';
  const source = doc.goods === null || doc.goods === 'none' ? null : (doc.goods[0] as Component).source;
  const card = doc.rates.marketplace;
  const noGoods = doc.goods === 'none';
  const lead = source?.leadDays ?? (source?.kind === 'retail' || noGoods ? 0 : null);
  const route = doc.route === 'none' ? null : doc.route;
  const days = {
    lead: ships ? 0 : known('leadDays', lead),
    transit: ships || doc.route === 'none' ? 0 : known('transitDays', route?.transitDays ?? null),
    inbound: ships || route === null ? 0 : up(route.inboundDays),
    credit: up(source?.creditDays ?? 0),
    deposit: source?.kind === 'quote' ? (source.depositShare ?? 1) : 1,
    payoutEvery: Math.max(1, known('payoutEvery', doc.payoutEveryDays ?? card?.payoutEveryDays)),
    payoutDelay: known('payoutDelay', doc.payoutDelayDays ?? card?.payoutDelayDays),
  };
  return { days, lacks };
}
