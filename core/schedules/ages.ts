/** How long goods have been stored, and how often a rate falls. */
import type { Range } from './forms.ts';
import type { LongStayPart } from './understood.ts';
import { COLUMN_WORDS, means } from './vocabulary.ts';

export const DAYS_A_MONTH = 30.4375;

/** Rates by the day and by the week. */
export const PER_DAY = means(
  '(?:per|a|each) day|daily|pro tag|täglich|par jour|al día|por día|al giorno|dziennie|za dzień|1日',
);
export const PER_WEEK = means(
  '(?:per|a|each) week|weekly|pro woche|par semaine|por semana|a settimana|za tydzień|週',
);
/** The age at which a range begins, in its own unit. */
export const ageBegins = ({ from, upTo }: Range): number =>
  upTo === null ? (from ?? 0) : Math.max(0, (from ?? 1) - 1);
const WEEKS = means('weeks?|wochen?|semaines?|semanas?|settiman[ae]|tygodni[ea]?|週');
/** From and to months of an age in days, weeks or months, as its cell says or else its heading. */
export function agedFrom(
  { from, upTo }: Range,
  words: string,
): Pick<LongStayPart, 'fromMonths' | 'toMonths'> {
  const [said] = [WEEKS, COLUMN_WORDS.month].filter((w) => w.test(words));
  const days = said === undefined ? 1 : said === WEEKS ? 7 : DAYS_A_MONTH;
  // "181 to 270 days" begins where 180 days end.
  const begins = from === null ? 0 : upTo === null || days > 1 ? from : Math.max(0, from - 1);
  return { fromMonths: monthsIn(begins * days), toMonths: upTo === null ? null : monthsIn(upTo * days) };
}
/** Days as months, whole where they are nearly so. */
const monthsIn = (days: number): number => {
  const months = days / DAYS_A_MONTH;
  return Math.abs(months - Math.round(months)) < 0.06 ? Math.round(months) : months;
};
