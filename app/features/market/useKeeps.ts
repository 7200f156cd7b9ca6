/** What a unit keeps, in words, as the bound that it is where the lane lacks costs. */
import { useMemo } from 'react';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import type { LaneView } from '../weigh/useFigures.ts';

type Amount = number | null;
export type Keeps = {
  /** An amount in the lane's currency; `loss`: it is said as what is lost. */
  readonly money: (amount: Amount, loss?: 'loss') => string;
  /** The same without the currency, for a table that says it at its head. */
  readonly plain: (amount: Amount) => string;
  /** A break-even price, without the currency. */
  readonly even: (price: number) => string;
  /** How many or which share of days lose: no fewer than these. */
  readonly lost: (count: string) => string;
  /** Whether any of these is a bound. */
  readonly bounded: boolean;
};

export function useKeeps({ doc, result }: Pick<LaneView, 'doc' | 'result'>): Keeps {
  const f = useFormat();
  const bounds = useBounds();
  return useMemo(() => {
    const { currency } = doc;
    const blanks = result.incomplete.unitProfit;
    const said = (text: string, amount: Amount, way: 'atMost' | 'atLeast' = 'atMost'): string =>
      amount === null ? text : bounds.of(text, blanks, way);
    return {
      money: (amount, loss) =>
        said(f.money(amount, currency), amount, loss === undefined ? 'atMost' : 'atLeast'),
      plain: (amount) => said(f.plain(amount, currency), amount),
      even: (price) => bounds.of(f.plain(price, currency), blanks, 'above'),
      lost: (count) => bounds.of(count, blanks, 'orMore'),
      bounded: bounds.lacks(blanks),
    };
  }, [f, bounds, doc, result]);
}
