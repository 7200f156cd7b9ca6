/** A figure that lacks cost lines, in words: under, over, or before returns (core/lane/bounds.ts). */
import { useMemo } from 'react';
import { useFormat } from './locale.ts';
import { useWords } from './useWords.ts';

/** Below or above, in the word that goes with a profit, a cost that is paid, cash that is taken, a price, a count. */
type Way = 'atMost' | 'lessThan' | 'atLeast' | 'above' | 'orMore';
export type BoundWords = {
  /**
   * The amount as the bound it is: "under €10.66", "over €4.00", "€3.20 before returns"; as it stands where
   * nothing is missing.
   */
  readonly of: (amount: string, blanks: readonly string[] | undefined, way?: Way) => string;
  /** The lines that are missing as a list in words. */
  readonly list: (blanks: readonly string[]) => string;
  /** Which words lead what is kept: keeps, keeps under, or before returns (keys of `bar`). */
  readonly keeps: (blanks: readonly string[] | undefined) => 'keepsWord' | 'keepsUnder' | 'keepsBefore';
  /** Whether the costs among these blanks make a figure a bound. */
  readonly lacks: (blanks: readonly string[] | undefined) => boolean;
};

const costs = (blanks: readonly string[] | undefined): readonly string[] =>
  (blanks ?? []).filter((b) => b !== 'demand' && b !== 'price');

export function useBounds(): BoundWords {
  const { t } = useWords();
  const { locale } = useFormat();
  return useMemo(() => {
    const and = new Intl.ListFormat(locale.startsWith('en') ? locale : 'en', { type: 'conjunction' });
    return {
      list: (blanks) => and.format(blanks.map((b) => t(`blank.${b}`, { defaultValue: b }))),
      lacks: (blanks) => costs(blanks).length > 0,
      // Returns alone bound nothing: what stands is what is kept before them.
      keeps: (blanks) =>
        costs(blanks).length === 0
          ? 'keepsWord'
          : costs(blanks).every((b) => b === 'returns')
            ? 'keepsBefore'
            : 'keepsUnder',
      of: (amount, blanks, way = 'atMost') => {
        const missing = costs(blanks);
        if (missing.length === 0) return amount;
        const others = missing.some((b) => b !== 'returns');
        const bounded = others ? t(`bound.${way}`, { amount }) : amount;
        return missing.includes('returns') ? t('bound.beforeReturns', { amount: bounded }) : bounded;
      },
    };
  }, [t, locale]);
}
