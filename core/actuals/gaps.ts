/** Whether reports of a place speak of all days, or one is missing. */
import { dayAfter, daysBefore, daysBetween } from '../money/days.ts';

/** First and last day, both included. */
export type Span = { readonly from: string; readonly to: string };

/** Days without any line after which a report is asked for: marketplaces settle every week or two. */
export const GAP_DAYS = 8;

/** Spans of days between the first and the last that no report speaks of, at least so many days long. */
export function gapsOf(spans: readonly Span[], least = GAP_DAYS): Span[] {
  const sorted = [...spans].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
  const gaps: Span[] = [];
  let until: string | null = null;
  for (const { from, to } of sorted) {
    if (until !== null && daysBetween(until, from) - 1 >= least)
      gaps.push({ from: dayAfter(until), to: daysBefore(from, 1) });
    if (until === null || to > until) until = to;
  }
  return gaps;
}
