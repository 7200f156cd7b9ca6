/** Figures of lanes' results in words, each as the bound it is: the same in every table. */
import { useCallback } from 'react';
import { FIGURE } from '../../core/lane/figures.ts';
import type { Figure } from '../../core/lane/figures.ts';
import type { LaneResult } from '../../core/lane/result.ts';
import { useBounds } from './bounds.ts';
import { useFormat } from './locale.ts';
import { useWords } from './useWords.ts';

/** Decimals of a share: returns on cost are read whole. */
const WHOLE: readonly Figure[] = ['roi', 'yearlyReturnOnCash'];

/** The text of a result's figure as the bound it is; as it stands where nothing is missing. */
export function useBoundOf(): (text: string, result: LaneResult, of: Figure) => string {
  const { t } = useWords();
  const bounds = useBounds();
  return useCallback(
    (text, result, of) => {
      const lacks = result.incomplete[of];
      const bound = result.bounds[of];
      // Without costs a figure that errs neither way for sure says no more than that.
      return bound === 'notKnown' && !lacks?.includes('returns')
        ? t('bound.soFar', { amount: text })
        : bounds.of(text, lacks, bound === 'atLeast' ? 'atLeast' : 'atMost');
    },
    [bounds, t],
  );
}

type Said = (result: LaneResult | null, of: Figure, sign?: 'plain') => string;
/**
 * A figure in its own unit: an amount in the result's currency (`plain`: without its sign), a share, a number;
 * under or over where it lacks costs, a dash where it is not known.
 */
export function useResultFigures(): Said {
  const f = useFormat();
  const boundOf = useBoundOf();
  return useCallback(
    (result, of, sign) => {
      const x = result?.figures[of] ?? null;
      if (result === null || x === null) return '–';
      const { unit } = FIGURE[of];
      const text =
        unit === 'share'
          ? f.percent(x, WHOLE.includes(of) ? 0 : 1)
          : unit !== 'money'
            ? f.number(x)
            : sign === 'plain'
              ? f.plain(x, result.currency)
              : f.money(x, result.currency);
      return boundOf(text, result, of);
    },
    [f, boundOf],
  );
}

/** The word for what a unit's profit is, for tables that are taken along: whole, at most, before returns. */
export function useBoundColumn(): { title: string; of: (result: LaneResult | null) => string } {
  const { t } = useWords();
  return {
    title: t('bound.column'),
    of: (result) =>
      result === null || result.figures.unitProfit === null
        ? ''
        : t(`bound.word.${result.bounds.unitProfit ?? 'whole'}`),
  };
}
