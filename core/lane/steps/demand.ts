import { isUnknown } from '../../rules/numbers.ts';
import { offerSplit, runningLimit, shareOfMarket } from '../../rules/demand.ts';
import type { Reckoning } from '../reckoning.ts';
import type { LaneDocument } from '../schema.ts';

/**
 * Units a month one may expect to sell (economics, section 10): typed, a share of the market, or a split
 * among the offers near one's own price. Every rival's price includes delivery. Sets `units` (NaN where
 * blank) and, with a reason, 0 where the offer is not in the running.
 */
export function reckonDemand(r: Reckoning): void {
  const d = r.doc.demand;
  if (d === null || lacksFigures(d)) r.blank('demand');
  if (r.tried.holdsUnits) {
    r.units = r.tried.units;
    return;
  }
  if (d === null || lacksFigures(d)) {
    r.units = Number.NaN;
  } else if (d.kind === 'typed') {
    r.units = d.units ?? Number.NaN;
    r.trace?.line(
      'expectedMonthlyUnits',
      r.units,
      'units',
      [['units', d.units, 'pieces', 'demand']],
      'pieces',
    );
  } else if (d.kind === 'marketShare') {
    r.units = shareOfMarket(d.marketUnits ?? Number.NaN, d.share ?? Number.NaN);
    r.trace?.line(
      'expectedMonthlyUnits',
      r.units,
      'marketUnits * share',
      [
        ['marketUnits', d.marketUnits, 'pieces', 'demand.marketUnits'],
        ['share', d.share, 'share', 'demand.share'],
      ],
      'pieces',
    );
  } else {
    let floor = r.gross;
    for (let i = 0; i < d.rivals.length; i++) floor = Math.min(floor, d.rivals[i] as number);
    const limit = runningLimit(floor, d.band);
    let running = 0;
    for (let i = 0; i < d.rivals.length; i++) if ((d.rivals[i] as number) <= limit) running++;
    if (isUnknown(r.gross)) r.units = Number.NaN;
    else if (r.gross <= limit)
      r.units = offerSplit(d.listingUnits ?? Number.NaN, d.variationShare, d.retailArmShare, running);
    else {
      r.units = 0;
      r.notice('outOfTheRunning', 'price', { rivals: running });
    }
    r.trace?.line(
      'expectedMonthlyUnits',
      r.units,
      'listingUnits * variationShare * (1 - retailArmShare) / (rivalsInTheRunning + 1)',
      [
        ['listingUnits', d.listingUnits, 'pieces', 'demand.listingUnits'],
        ['variationShare', d.variationShare, 'share', 'demand.variationShare'],
        ['retailArmShare', d.retailArmShare, 'share', 'demand.retailArmShare'],
        ['rivalsInTheRunning', running, 'number', 'demand.rivals'],
      ],
      'pieces',
    );
  }
}

/** Whether demand was opened and a figure of it is not filled in yet. */
export function lacksFigures(d: NonNullable<LaneDocument['demand']>): boolean {
  if (d.kind === 'typed') return d.units === null;
  if (d.kind === 'marketShare') return d.marketUnits === null || d.share === null;
  return d.listingUnits === null || d.rivals.includes(null);
}

/** A season as an index with mean 1: each of the twelve values over their mean. */
export function seasonIndex(season: readonly number[]): number[] {
  const mean = season.reduce((a, b) => a + b, 0) / season.length;
  return season.map((v) => v / mean);
}

/** Expected units in a calendar month (1 to 12): the yearly average times the season's index. */
export function unitsInMonth(units: number, season: readonly number[] | null, month: number): number {
  return season === null ? units : units * (seasonIndex(season)[month - 1] ?? 1);
}
