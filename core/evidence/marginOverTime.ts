/** The margin over the market's own history: the lane at every day's price, at today's cards (evidence, section 3). */
import type { LaneDocument } from '../lane/schema.ts';
import { priceLadder } from '../lane/solve.ts';
import { byDay } from './history.ts';
import type { DayPrice } from './history.ts';
import { median } from './statistics.ts';

/** A day's price is a loss below this; what is nearer to nothing is nothing. */
const LOSS = -1e-9;

export type MarginOverTime = {
  /** Profit of a unit on each day, sales currency; null where the lane has no answer at that price. */
  readonly days: readonly { readonly day: string; readonly unitProfit: number | null }[];
  readonly answered: number;
  readonly unanswered: number;
  /** Share of the answered days at a loss; null without any. */
  readonly lossShare: number | null;
  readonly median: number | null;
  readonly worst: number | null;
};

/**
 * What a unit would have kept on each priced day up to `now`. The prices are what buyers paid, delivery included:
 * the shelf price is what is left of them by the lane's own delivery and discount; units a month stay.
 */
export function marginOverTime(
  doc: LaneDocument,
  rows: readonly DayPrice[],
  now: string | null = null,
): MarginOverTime {
  const priced = byDay(rows).flatMap(({ day, price }) =>
    price === null || (now !== null && day > now) ? [] : [{ day, price }],
  );
  const ladder = priceLadder(
    doc,
    priced.map((d) => d.price),
  );
  const days = priced.map(({ day }, i) => ({ day, unitProfit: ladder[i]?.unitProfit ?? null }));
  const known = days.flatMap((d) => (d.unitProfit === null ? [] : [d.unitProfit]));
  return {
    days,
    answered: known.length,
    unanswered: days.length - known.length,
    lossShare: known.length === 0 ? null : known.filter((x) => x < LOSS).length / known.length,
    median: median(known),
    worst: known.length === 0 ? null : Math.min(...known),
  };
}
