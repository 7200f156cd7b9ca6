/** Which goods of a shop are left out before anything is worked out. */
import { Box, Typography } from '@mui/material';
import type { CatalogueFilters } from '../../../core/shops/schema.ts';
import { NumField } from '../../ui/Field.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = { filters: CatalogueFilters; currency: string; onChange: (f: CatalogueFilters) => void };

export function ShopLimits({ filters, currency, onChange }: Props) {
  const { t } = useWords();
  return (
    <Box component="section" aria-label={t('shops.limits')}>
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {t('shops.limits')}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '6px 14px', fontSize: '0.86rem' }}>
        {(['priceFrom', 'priceTo'] as const).map((k) => (
          <NumField
            key={k}
            label={t(`shops.${k}`)}
            kind="money"
            currency={currency}
            value={filters[k]}
            onChange={(x) => onChange({ ...filters, [k]: x })}
            width="100%"
          />
        ))}
        <NumField
          label={t('shops.reviewsFrom')}
          kind="number"
          value={filters.reviewsFrom}
          onChange={(reviewsFrom) => onChange({ ...filters, reviewsFrom })}
          width="100%"
        />
        <Box sx={{ gridColumn: '1 / -1' }}>
          {(['inStock', 'promotedOnly'] as const).map((k) => (
            <Box
              key={k}
              component="label"
              sx={{ display: 'flex', gap: 1, py: 0.3, alignItems: 'baseline', cursor: 'pointer' }}>
              <input
                type="checkbox"
                checked={filters[k]}
                onChange={(e) => onChange({ ...filters, [k]: e.target.checked })}
              />
              {t(`shops.${k}`)}
            </Box>
          ))}
        </Box>
      </Box>
      <Typography variant="body2" color="text.secondary">
        {t('shops.limitsHelp')}
      </Typography>
    </Box>
  );
}
