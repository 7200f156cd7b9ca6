/** What else decides, one tap away: the market, the price it is reckoned with, the till, the pack. */
import { Box } from '@mui/material';
import type { CheckKit } from '../../../between/checkKit.ts';
import { PRICE_BASES } from '../../../core/check/bases.ts';
import { CURRENCIES } from '../../../core/money/iso.ts';
import { ChoiceLine, NumField } from '../../ui/Field.tsx';
import { OwnFacts, twoAbreast } from './OwnFacts.tsx';
import type { Check } from './useCheck.ts';
import { useWords } from '../../ui/useWords.ts';

/** `ownFacts`: what one says of the goods oneself is asked here, and not where the goods are. */
export function Till({ check, kit, ownFacts }: { check: Check; kit: CheckKit; ownFacts: boolean }) {
  const { t } = useWords();
  const { terms, changeTerms, own, change, market } = check;
  const { till } = terms;
  const set = (part: Partial<typeof till>): void => changeTerms({ till: { ...till, ...part } });
  const currencies = [...new Set([till.currency, kit.settings.homeCurrency, ...CURRENCIES])];
  return (
    <Box component="details" sx={{ borderTop: '1px solid', borderColor: 'hairline', pt: 1 }}>
      <Box component="summary" sx={{ cursor: 'pointer', fontWeight: 600, py: 0.5 }}>
        {t('check.more')}
      </Box>
      <Box sx={{ ...twoAbreast, my: 1.5 }}>
        <ChoiceLine
          label={t('check.market')}
          value={market?.key ?? ''}
          options={kit.markets.map((m) => ({ value: m.key, label: m.name }))}
          onChange={(key) => changeTerms({ market: key })}
          width="100%"
        />
        <ChoiceLine
          label={t('check.basisField')}
          value={terms.basis === 'typed' ? 'now' : terms.basis}
          options={PRICE_BASES.filter((b) => b !== 'typed').map((b) => ({
            value: b,
            label: t(`check.basis.${b}`),
          }))}
          onChange={(basis) => changeTerms({ basis })}
          width="100%"
        />
        <NumField
          label={t('check.coupon')}
          value={till.coupon}
          onChange={(x) => set({ coupon: x ?? 0 })}
          kind="money"
          currency={till.currency}
          width="100%"
        />
        <NumField
          label={t('check.cashback')}
          value={till.cashback}
          onChange={(x) => set({ cashback: x ?? 0 })}
          kind="percent"
          max={1}
          width="100%"
        />
        <NumField
          label={t('check.vat')}
          value={till.vatRate}
          onChange={(x) => set({ vatRate: x ?? 0 })}
          kind="percent"
          max={1}
          width="100%"
        />
        <NumField
          label={t('check.salesTax')}
          value={till.salesTax}
          onChange={(x) => set({ salesTax: x ?? 0 })}
          kind="percent"
          max={1}
          width="100%"
        />
        <ChoiceLine
          label={t('check.shopCurrency')}
          value={till.currency}
          options={currencies.map((c) => ({ value: c, label: c }))}
          onChange={(currency) => set({ currency })}
          width="100%"
        />
        <NumField
          label={t('check.boughtPack')}
          value={own.boughtPack}
          onChange={(x) => change({ boughtPack: x ?? 1 })}
          kind="number"
          min={1}
          max={10_000}
          whole
          required
          width="100%"
        />
      </Box>
      {ownFacts && <OwnFacts check={check} kit={kit} />}
    </Box>
  );
}
