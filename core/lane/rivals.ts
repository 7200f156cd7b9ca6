/** Rivals' prices that are typed on a lane, and how a price of one's own stands among them. */
import type { LaneDocument } from './schema.ts';

/**
 * Rivals' prices with delivery, each once, rising: those of the offer split and those typed beside the price
 * ladder (`ladder`). Sales currency; what was opened and not filled in is left out.
 */
export function rivalPrices(
  demand: LaneDocument['demand'],
  ladder: readonly number[] = [],
): readonly number[] {
  const split = demand?.kind === 'offerSplit' ? demand.rivals.filter((x) => x !== null) : [];
  return [...new Set([...ladder, ...split])].sort((a, b) => a - b);
}

export type AboveRivals = { readonly above: number; readonly of: number; readonly dearest: number };

/**
 * How many rivals ask less than a price with delivery; null where none does, or nothing is known. A price
 * within 1e-9 of a rival's is not above it.
 */
export function aboveRivals(gross: number | null, rivals: readonly number[]): AboveRivals | null {
  if (gross === null) return null;
  const above = rivals.filter((x) => gross > x + 1e-9).length;
  return above === 0 ? null : { above, of: rivals.length, dearest: Math.max(...rivals) };
}
