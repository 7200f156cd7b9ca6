/** Says of a price that it is above the rivals that are typed on a lane. */
import { aboveRivals, rivalPrices } from '../../../core/lane/rivals.ts';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { grossAt } from '../../../core/lane/steps/revenue.ts';
import { useFormat } from '../../ui/locale.ts';
import { useValue } from './store.ts';
import { useWords } from '../../ui/useWords.ts';

/** For a shelf price of the lane: "above 2 of 3 rivals", "above every rival: …"; null where it is not. */
export function useRivals(laneId: string, doc: LaneDocument): (price: number | null) => string | null {
  const { t } = useWords();
  const f = useFormat();
  const ladder = useValue('lane', laneId, ['rivalPrices']) as number[] | undefined;
  const rivals = rivalPrices(doc.demand, ladder);
  return (price) => {
    const found = aboveRivals(price === null ? null : grossAt(doc, price), rivals);
    if (found === null) return null;
    const { above, of, dearest } = found;
    return above === of
      ? t('rivals.aboveAll', { count: of, dearest: f.money(dearest, doc.currency) })
      : t('rivals.above', { above, of });
  };
}
