/** What the launch is asked to pay against the cash at hand, in a sentence and line by line. */
import { Box, Typography } from '@mui/material';
import { Trans } from 'react-i18next';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { FundBudget } from './FundBudget.tsx';
import { FundCompare } from './FundCompare.tsx';
import { FundMoney } from './FundMoney.tsx';
import type { FundPart } from './fundParts.tsx';
import { useWords } from '../../ui/useWords.ts';

export function BudgetView(part: FundPart) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const { result, home } = part;
  const b = result.budget;
  return (
    <>
      <Typography
        variant="h4"
        component="p"
        data-testid="fund-answer"
        sx={{ mb: 2.5, '& strong': { fontWeight: 720 } }}
        aria-live="polite">
        {b?.total == null ? (
          t('fund.unknown')
        ) : (
          <Trans
            i18nKey={
              b.leftOfCash === null
                ? 'fund.answerNoCash'
                : b.leftOfCash < 0
                  ? 'fund.answerShort'
                  : 'fund.answer'
            }
            values={{
              quantity: f.number(b.quantity),
              total: bounds.of(f.money(b.total, home), result.incomplete, 'atLeast'),
              left: bounds.of(
                f.money(Math.abs(b.leftOfCash ?? 0), home),
                result.incomplete,
                (b.leftOfCash ?? 0) < 0 ? 'atLeast' : 'atMost',
              ),
            }}
            components={{
              b: <strong />,
              k: (
                <Box
                  component="strong"
                  sx={{ color: (b.leftOfCash ?? 0) < 0 ? 'error.main' : 'primary.main' }}
                />
              ),
            }}
          />
        )}{' '}
        {result.mostUnits !== null &&
          (result.mostUnits > 0
            ? t(result.bounds.mostUnits === undefined ? 'fund.most' : 'fund.mostBound', {
                units: f.number(result.mostUnits),
              })
            : t('fund.mostNone', {
                units: f.number(result.smallestOrder),
                short: bounds.of(f.money(result.shortfall, home), result.incomplete, 'atLeast'),
              }))}
        {result.incomplete.length > 0 && (
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {' '}
            {t('launch.incomplete', { blanks: bounds.list(result.incomplete) })}
          </Box>
        )}
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: {
            xs: 'minmax(0, 1fr)',
            md: 'repeat(2, minmax(0, 1fr))',
            lg: 'minmax(0, 1.1fr) minmax(0, 1fr) minmax(0, 1.1fr)',
          },
          gap: 4,
        }}>
        <FundMoney {...part} />
        <FundBudget {...part} />
        <FundCompare {...part} />
      </Box>
    </>
  );
}
