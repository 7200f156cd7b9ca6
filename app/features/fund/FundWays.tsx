/** The ways through Fund: what of one launch, and what all of them share. */
import { Box } from '@mui/material';
import { Link } from 'react-router';
import { useWords } from '../../ui/useWords.ts';

export type FundView = 'budget' | 'time' | 'quantities' | 'sure';
const VIEWS: readonly FundView[] = ['budget', 'time', 'quantities', 'sure'];

export function FundWays({
  base,
  candidate,
  lane,
  here,
}: {
  base: string;
  candidate: string | null;
  lane: string | null;
  here: FundView | 'purse' | 'months';
}) {
  const { t } = useWords();
  const of = new URLSearchParams({
    ...(candidate !== null && { candidate }),
    ...(lane !== null && { lane }),
  });
  const ways = [
    ...VIEWS.map((view) => ({
      key: view,
      to: `${base}/fund?${new URLSearchParams([...of, ['view', view]])}`,
    })),
    { key: 'purse' as const, to: `${base}/fund/purse` },
    { key: 'months' as const, to: `${base}/fund/months` },
  ];
  return (
    <Box
      component="nav"
      aria-label={t('fundViews.label')}
      className="no-print"
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        columnGap: 2.5,
        mb: 1.5,
        borderBottom: '1px solid',
        borderColor: 'hairline',
      }}>
      {ways.map(({ key, to }) => (
        <Box
          key={key}
          component={Link}
          to={to}
          prefetch="intent"
          preventScrollReset
          aria-current={key === here ? 'page' : undefined}
          sx={{
            py: 0.75,
            minHeight: 24,
            fontSize: '0.92rem',
            color: 'text.primary',
            textDecoration: 'none',
            borderBottom: '3px solid',
            borderColor: key === here ? 'keep.main' : 'transparent',
            fontWeight: key === here ? 680 : 400,
            ...(key === 'purse' && { ml: { sm: 2 } }),
          }}>
          {t(`fundViews.${key}`)}
        </Box>
      ))}
    </Box>
  );
}
