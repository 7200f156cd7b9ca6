/** What one says of the goods oneself, where the market says nothing or one knows better: price, size, weight. */
import { Box } from '@mui/material';
import type { CheckKit } from '../../../between/checkKit.ts';
import type { MarketplaceCard } from '../../../core/cards/rates.ts';
import { ChoiceLine, NumField, SidesField } from '../../ui/Field.tsx';
import type { Check } from './useCheck.ts';
import { useWords } from '../../ui/useWords.ts';

/** Two fields beside each other, on the narrowest phone too. */
export const twoAbreast = { display: 'grid', gridTemplateColumns: 'repeat(2, minmax(0, 1fr))', gap: 1.5 };

export function OwnFacts({ check, kit }: { check: Check; kit: CheckKit }) {
  const { t } = useWords();
  const { own, change, market, listing } = check;
  const card = market === null ? undefined : (kit.cards[market.cards.marketplace] as MarketplaceCard);
  return (
    <Box sx={twoAbreast}>
      <NumField
        label={t('check.sellsFor')}
        value={own.typedPrice}
        onChange={(typedPrice) => change({ typedPrice })}
        kind="money"
        {...(market === null ? {} : { currency: market.currency })}
        width="100%"
      />
      <ChoiceLine
        label={t('check.category')}
        value={own.typed.category ?? ''}
        options={[
          { value: '', label: t(listing === null ? 'check.chooseCategory' : 'check.noCategory') },
          ...(card?.categories ?? []).map((c) => ({ value: c.key, label: c.name })),
        ]}
        onChange={(c) => change({ typed: { ...own.typed, category: c === '' ? null : c } })}
        width="100%"
      />
      <SidesField
        label={t('check.size')}
        value={own.typed.sides}
        onChange={(sides) => change({ typed: { ...own.typed, sides } })}
        width="100%"
      />
      <NumField
        label={t('check.kg')}
        value={own.typed.kg}
        onChange={(kg) => change({ typed: { ...own.typed, kg } })}
        kind="weight"
        min={1e-6}
        width="100%"
      />
    </Box>
  );
}
