/**
 * Whether the days one looks at are a peak, so that their figures say little of a usual month (evidence, section
 * 2).
 */
import { dayAfter, daysBetween } from '../money/days.ts';
import { monthsBefore } from './season.ts';
import type { MonthValue, Season } from './season.ts';
import { median } from './statistics.ts';

export type Peak = {
  /** Mean over the window's days of the index of their month; null without a season. */
  readonly index: number | null;
  /** Median of the twelve months before; null with fewer than six of them. */
  readonly usual: number | null;
  readonly warning: 'season' | 'units' | 'both' | null;
  /** Units over the index: what a mean month would bring; null without either. */
  readonly meanMonth: number | null;
};
const PEAK = 1.2;
const FAR_OVER = 1.5;
const LEAST_MONTHS = 6;
/** A window longer than this says no more than the years it is made of. */
const MOST_DAYS = 3660;

/**
 * @param window days, both included, and the units sold in them, brought to a month; null: not known
 * @param units units by month, of which the twelve before the window count
 */
export function peakOf(
  window: { readonly from: string; readonly to: string; readonly units: number | null },
  season: Season,
  units: readonly MonthValue[],
): Peak {
  const days = daysBetween(window.from, window.to) + 1;
  const index =
    !season.known || days < 1 || days > MOST_DAYS ? null : meanIndex(season.index, window.from, days);
  const before = monthsBefore(units, window.from);
  const start = 12 * Number(window.from.slice(0, 4)) + Number(window.from.slice(5, 7)) - 1;
  const year = [...before].flatMap(([n, value]) => (n >= start - 12 ? [value] : []));
  const usual = year.length < LEAST_MONTHS ? null : median(year);
  const bySeason = index !== null && index >= PEAK - 1e-9;
  const byUnits =
    window.units !== null && usual !== null && usual > 0 && window.units >= FAR_OVER * usual - 1e-9;
  return {
    index,
    usual,
    warning: bySeason ? (byUnits ? 'both' : 'season') : byUnits ? 'units' : null,
    meanMonth: window.units === null || index === null || index <= 0 ? null : window.units / index,
  };
}

function meanIndex(index: readonly number[], from: string, days: number): number {
  let sum = 0;
  let day = from;
  for (let i = 0; i < days; i++) {
    sum += index[Number(day.slice(5, 7)) - 1] as number;
    day = dayAfter(day);
  }
  return sum / days;
}
