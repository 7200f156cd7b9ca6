import { Typography } from '@mui/material';
import type { conversionsOf } from '../../core/money/money.ts';
import { useFormat } from './locale.ts';
import { useWords } from './useWords.ts';

/**
 * The exchange rates that figures here are converted at, each with its day and age. Nothing where none is
 * converted.
 */
export function RatesUsed({ rates }: { rates: ReturnType<typeof conversionsOf> }) {
  const { t } = useWords();
  const f = useFormat();
  if (rates.length === 0) return null;
  const said = rates
    .slice(0, 30)
    .map((c) =>
      t('rateUsed', {
        rate: f.number(c.factor, c.factor < 0.1 ? 6 : 4),
        from: c.from,
        to: c.to,
        date: f.day(c.date),
        count: c.days,
      }),
    );
  return (
    <Typography
      variant="body2"
      color="text.secondary"
      data-testid="rates-used"
      sx={{ mt: 1, fontSize: '0.78rem' }}>
      {t('ratesUsed')} {said.join(' · ')}
    </Typography>
  );
}
