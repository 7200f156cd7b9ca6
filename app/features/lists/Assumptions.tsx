import { Box } from '@mui/material';
import { memo } from 'react';
import { BuyingTerms, CostTerms, HurdleTerms, SaleTerms } from './assumed.tsx';
import type { Terms } from './assumed.tsx';
import { useWords } from '../../ui/useWords.ts';

type Props = Terms & { saved: 'saved' | 'saving' | 'tried'; canEdit: boolean };

/** The assumptions all rows are weighed under, beside them: each change answers for the whole list at once. */
export const Assumptions = memo(function Assumptions({
  own,
  onChange,
  home,
  sales,
  categories,
  hasBasis,
  strange,
  saved,
  canEdit,
}: Props) {
  const { t } = useWords();
  const terms: Terms = { own, onChange, home, sales, categories, hasBasis, strange };
  return (
    <Box component="section" aria-label={t('list.assumptions')} sx={{ fontSize: '0.86rem' }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline' }}>
        <Box
          component="h2"
          sx={{ m: 0, fontSize: '1rem', fontFamily: '"Bricolage Grotesque Variable", sans-serif' }}>
          {t('list.assumptions')}
        </Box>
        <Box role="status" sx={{ ml: 'auto', fontSize: '0.76rem', color: 'text.secondary' }}>
          {t(canEdit ? `assume.${saved}` : 'assume.tried')}
        </Box>
      </Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: '6px 14px', alignItems: 'start' }}>
        <BuyingTerms {...terms} />
        <CostTerms {...terms} />
        <SaleTerms {...terms} />
        <HurdleTerms {...terms} />
      </Box>
    </Box>
  );
});
