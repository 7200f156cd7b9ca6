/** Calendar months that stand out, in words. */
import { useFormat } from '../../ui/locale.ts';
import type { Format } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

/** Months in a row as stretches, over the turn of the year too: 11, 12, 1 is November to January. */
export function stretchesOf(months: readonly number[]): [number, number][] {
  const on = new Set(months);
  if (on.size === 12) return [[1, 12]];
  return [...on]
    .filter((m) => !on.has(m === 1 ? 12 : m - 1))
    .sort((a, b) => a - b)
    .map((from) => {
      let to = from;
      while (on.has((to % 12) + 1)) to = (to % 12) + 1;
      return [from, to];
    });
}

export const monthsInWords = (
  months: readonly number[],
  f: Format,
  to: (a: string, b: string) => string,
): string =>
  stretchesOf(months)
    .map(([a, b]) => (a === b ? f.monthName(a) : to(f.monthName(a), f.monthName(b))))
    .join(', ');

/** When it sells: the months that stand out, all year where none does, a dash where that is not known. */
export function usePeaksInWords(): (peaks: readonly number[] | null) => string {
  const { t } = useWords();
  const f = useFormat();
  return (peaks) => {
    if (peaks === null) return '–';
    return peaks.length === 0
      ? t('market.allOf.always')
      : monthsInWords(peaks, f, (from, to) => t('market.fromTo', { from, to }));
  };
}
