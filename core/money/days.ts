/** Days as text, year-month-day: they compare as they stand, and have no hour and no time zone. */
const DAY = 86_400_000;
const at = (day: string): number => Date.parse(`${day}T00:00:00Z`);
const dayOf = (time: number): string => new Date(time).toISOString().slice(0, 10);

/**
 * Days from one day to another; below 0 where the second is the earlier.
 * @example daysBetween('2026-02-27', '2026-03-01') // 2
 */
export const daysBetween = (from: string, to: string): number => Math.round((at(to) - at(from)) / DAY);

/** Days up to 1 March of the year, and of the months from there on, as the calendar has had them since 1582. */
const upToMarch = (year: number): number =>
  365 * year + Math.floor(year / 4) - Math.floor(year / 100) + Math.floor(year / 400);

/**
 * A day as a number that grows by one each day, for many days at once: nothing is parsed as a time.
 * @example dayNumber('2026-03-01') - dayNumber('2026-02-27') // 2
 */
export function dayNumber(day: string): number {
  const month = Number(day.slice(5, 7));
  // Years begin with March here, so that a leap day is their last.
  const year = Number(day.slice(0, 4)) - (month <= 2 ? 1 : 0);
  const monthsIn = month <= 2 ? month + 9 : month - 3;
  return upToMarch(year) + Math.floor((153 * monthsIn + 2) / 5) + Number(day.slice(8, 10));
}

/**
 * @example dayAfter('2026-12-31') // '2027-01-01'
 */
export const dayAfter = (day: string): string => dayOf(at(day) + DAY);

/**
 * @example daysBefore('2027-01-01', 30) // '2026-12-02'
 */
export const daysBefore = (day: string, n: number): string => dayOf(at(day) - n * DAY);

/**
 * The first day of the month that follows.
 * @example firstOfNextMonth('2026-12-31') // '2027-01-01'
 */
export function firstOfNextMonth(day: string): string {
  const first = new Date(at(`${day.slice(0, 7)}-01`));
  first.setUTCMonth(first.getUTCMonth() + 1);
  return dayOf(first.getTime());
}

/**
 * The month so many after that of a day, as year-month.
 * @example monthText('2026-11-30', 2) // '2027-01'
 */
export function monthText(day: string, after: number): string {
  const n = 12 * Number(day.slice(0, 4)) + Number(day.slice(5, 7)) - 1 + after;
  return `${String(Math.floor(n / 12)).padStart(4, '0')}-${String((n % 12) + 1).padStart(2, '0')}`;
}
