/** Days as text, year-month-day: they compare as they stand, and have no hour and no time zone. */
const DAY = 86_400_000;
const at = (day: string): number => Date.parse(`${day}T00:00:00Z`);
const dayOf = (time: number): string => new Date(time).toISOString().slice(0, 10);

/**
 * Days from one day to another; below 0 where the second is the earlier.
 * @example daysBetween('2026-02-27', '2026-03-01') // 2
 */
export const daysBetween = (from: string, to: string): number => Math.round((at(to) - at(from)) / DAY);

/**
 * @example dayAfter('2026-12-31') // '2027-01-01'
 */
export const dayAfter = (day: string): string => dayOf(at(day) + DAY);

/**
 * The first day of the month that follows.
 * @example firstOfNextMonth('2026-12-31') // '2027-01-01'
 */
export function firstOfNextMonth(day: string): string {
  const first = new Date(at(`${day.slice(0, 7)}-01`));
  first.setUTCMonth(first.getUTCMonth() + 1);
  return dayOf(first.getTime());
}
