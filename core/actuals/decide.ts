/** What a lane on sale asks to be decided, each with the sum behind it. Amounts in the sales currency. */
import type { NextOrder } from '../cash/nextOrder.ts';
import type { LaneDocument } from '../lane/schema.ts';
import { priceFor } from '../lane/solve.ts';
import { daysBetween } from '../money/days.ts';
import { unitAt } from './actual.ts';
import type { Compared } from './compare.ts';
import type { Lately } from './drift.ts';

/** Days before the last day to order on which an order is asked to be decided. */
export const ORDER_AHEAD_DAYS = 30;

export type Decision =
  /** `price`: what a unit would have to cost the buyer to keep what was planned; `gap`: what it keeps less now. */
  | { readonly what: 'raisePrice'; readonly from: number; readonly price: number; readonly gap: number }
  /** What adverts cost a unit sold beside the plan, and over a year at this pace. */
  | { readonly what: 'cutAdverts'; readonly planned: number; readonly actual: number; readonly year: number }
  /** Fees above the card's. */
  | { readonly what: 'claim'; readonly amount: number; readonly count: number }
  | ({ readonly what: 'reorder' } & NextOrder)
  /** A unit loses even at the planned price. */
  | { readonly what: 'letGo'; readonly each: number; readonly year: number };

/** Nobody raises a price by more than this share of it at once. */
const MOST_RISE = 0.5;

/** The lowest price at which a unit keeps so much more by the lane's own rates; null: none that is near. */
function priceThatAdds(doc: LaneDocument, from: number, gap: number): number | null {
  const now = unitAt(doc, from).unitProfit;
  if (!Number.isFinite(now)) return null;
  const { price } = priceFor(doc, { figure: 'unitProfit', value: now + gap });
  return price === null || price <= from || price > from * (1 + MOST_RISE) ? null : price;
}

/** What of a unit's price and rates is beside the plan; below 0: it keeps less. Null: not known. */
const gapOf = ({ parts, actual }: Compared): number | null =>
  parts === null || actual.shipped === 0 ? null : (parts.price + parts.rate) / actual.shipped;

/**
 * What is to be decided. How it stands lately goes before how it stood since the launch.
 *
 * @param claims open claims
 * @param next the next order, where stock and pace say one
 */
export function decisionsOf(
  doc: LaneDocument,
  whole: Compared | null,
  lately: Lately | null,
  claims: { readonly amount: number; readonly count: number },
  next: NextOrder | null,
  today: string,
): Decision[] {
  const out: Decision[] = [];
  const c = lately?.compared ?? whole;
  const gap = c === null ? null : gapOf(c);
  const lets = c === null ? null : letsGo(c, lately);
  if (lets !== null) out.push(lets);
  if (claims.count > 0) out.push({ what: 'claim', ...claims });
  const adverts = lately?.drifts.find((d) => d.what === 'adverts' && d.each < 0);
  if (adverts !== undefined)
    out.push({ what: 'cutAdverts', planned: adverts.planned, actual: adverts.actual, year: adverts.year });
  const price = c?.actual.price ?? null;
  const pays = lately?.stands.standing ?? null;
  if (gap !== null && price !== null && (pays === 'paysLess' || pays === 'loses')) {
    const to = priceThatAdds(doc, price, -gap);
    if (to !== null) out.push({ what: 'raisePrice', from: price, price: to, gap: -gap });
  }
  const goesOn = !out.some((d) => d.what === 'letGo');
  if (goesOn && next !== null && daysBetween(today, next.day) <= ORDER_AHEAD_DAYS)
    out.push({ what: 'reorder', ...next });
  return out;
}

/** A unit that loses in two periods although the price is the planned one, or would lose at it. */
function letsGo(c: Compared, lately: Lately | null): Decision | null {
  const { unitProfit, parts, actual } = c;
  if (lately === null || unitProfit === null || parts === null) return null;
  const atPlanned = unitProfit - Math.min(0, parts.price / actual.shipped);
  if (atPlanned >= 0) return null;
  const days = Math.max(1, daysBetween(lately.from, lately.to) + 1);
  return { what: 'letGo', each: unitProfit, year: (unitProfit * actual.shipped * 365) / days };
}
