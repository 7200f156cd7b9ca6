/** What keeps a launch from being looked ahead at, in words. */
import { useBounds } from '../../ui/bounds.ts';
import { useWords } from '../../ui/useWords.ts';

const OWN = ['leadDays', 'transitDays', 'payoutEvery', 'payoutDelay', 'orderQuantity', 'launch'] as const;
const PROBLEMS = ['shipsWithoutStock', 'noExchangeRate', 'reorderUnknown', 'unknown'] as const;

export function useLacks() {
  const { t } = useWords();
  const bounds = useBounds();
  return (lacks: readonly string[], problems: readonly string[]): string => {
    const own = OWN.filter((k) => lacks.includes(k)).map((k) => t(`overTime.lack.${k}`));
    const blanks = lacks.filter((k) => !OWN.includes(k as never));
    const said = problems.map((p) => t(`overTime.problem.${PROBLEMS.find((x) => x === p) ?? 'unknown'}`));
    return [...(blanks.length > 0 ? [bounds.list(blanks)] : []), ...own, ...new Set(said)].join('; ');
  };
}
