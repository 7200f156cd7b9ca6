/** The cash there is and what of it is kept back. */
import { NumField } from '../../ui/Field.tsx';
import { useWords } from '../../ui/useWords.ts';

type Money = { readonly cash: number | null; readonly reserve: number };
type Props = {
  money: Money;
  set: (change: Partial<Money>) => void;
  currency: string;
  /** What is wrong with what is kept back. */
  wrong?: string | null;
};

export function CashFields({ money, set, currency, wrong = null }: Props) {
  const { t } = useWords();
  return (
    <>
      <NumField
        label={t('fund.cash')}
        value={money.cash}
        onChange={(cash) => set({ cash })}
        kind="money"
        currency={currency}
        step={100}
        width={130}
      />
      <NumField
        label={t('fund.reserve')}
        value={money.reserve}
        onChange={(x) => set({ reserve: x ?? 0 })}
        kind="money"
        currency={currency}
        step={100}
        width={130}
        message={wrong}
      />
    </>
  );
}
