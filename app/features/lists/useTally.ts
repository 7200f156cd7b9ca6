/** What the goods kept add up to in a month, as the bound it is, and of how many it is not known. */
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import type { Tally } from './listData.ts';
import { useWords } from '../../ui/useWords.ts';

/** Null where the profit of none of them is known. `home`: the workspace's currency, which the sum is in. */
export function useTally(tally: Tally, home: string): { amount: string | null; unknown: string } {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const known = tally.kept + tally.ordered - tally.unknownProfit;
  return {
    amount: known <= 0 ? null : bounds.of(f.money(tally.profitPerMonth, home), tally.lacks),
    unknown:
      known <= 0 || tally.unknownProfit === 0 ? '' : t('lists.tallyUnknown', { count: tally.unknownProfit }),
  };
}
