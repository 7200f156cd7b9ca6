/** Below the cost families: what a unit keeps, and the demand that a month comes of. */
import { Box } from '@mui/material';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import { useResultFigures } from '../../ui/resultFigures.ts';
import { DemandForm } from './forms.tsx';
import type { LaneView } from './useFigures.ts';
import { Figure } from './Workings.tsx';
import { useWords } from '../../ui/useWords.ts';

/** What a unit keeps after everything, and what is left of the price on the way there. */
export function KeepsLine({ view, profitShown }: { view: LaneView; profitShown: number | null }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  const said = useResultFigures();
  const { result, doc } = view;
  const profit = result.figures.unitProfit;
  const lacking = result.incomplete.unitProfit;
  return (
    <Box
      sx={{
        borderTop: '2px solid',
        borderColor: 'text.primary',
        display: 'grid',
        gridTemplateColumns: 'minmax(106px, 136px) 1fr auto 60px',
        columnGap: 1,
        alignItems: 'baseline',
        py: 0.75,
      }}>
      <Box sx={{ fontWeight: 700 }}>
        {profit !== null && profit < 0 ? (
          t('sheet.loses')
        ) : (
          <Box
            component="span"
            sx={{ display: 'inline-block', '&::first-letter': { textTransform: 'uppercase' } }}>
            {t(`bar.${bounds.keeps(lacking)}`)}
          </Box>
        )}
      </Box>
      <Box sx={{ fontSize: '0.82rem', color: 'text.secondary' }}>
        {t('sheet.afterFees')}{' '}
        <Figure doc={doc} of="proceeds" label={t('sheet.afterFees')}>
          {said(result, 'proceeds', 'plain')}
        </Figure>{' '}
        · {t('sheet.afterCost')}{' '}
        <Figure doc={doc} of="contribution" label={t('sheet.afterCost')}>
          {said(result, 'contribution', 'plain')}
        </Figure>{' '}
        · {t('sheet.afterAdverts')}
      </Box>
      <Box
        data-testid="unit-profit"
        sx={{
          textAlign: 'right',
          fontWeight: 720,
          color: profit !== null && profit < 0 ? 'error.main' : 'primary.main',
        }}>
        <Figure doc={doc} of="unitProfit" label={t('figure.unitProfit')}>
          {f.plain(profitShown, doc.currency)}
        </Figure>
      </Box>
      <Box sx={{ textAlign: 'right', fontSize: '0.82rem', fontWeight: 650 }}>
        {result.figures.marginOnShelfPrice === null ? '' : f.percent(result.figures.marginOnShelfPrice)}
      </Box>
    </Box>
  );
}

/** Expected demand, and the profit a month that comes of it; opens its form. */
export function DemandPart({
  view,
  candidateId,
  open,
  toggle,
}: {
  view: LaneView;
  candidateId: string;
  open: boolean;
  toggle: () => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const said = useResultFigures();
  const { result, doc } = view;
  return (
    <Box sx={{ borderTop: '1px solid', borderColor: 'hairline', mt: 1, pt: 0.5 }}>
      <Box
        component="button"
        type="button"
        aria-expanded={open}
        onClick={toggle}
        sx={{
          font: 'inherit',
          border: 0,
          p: 0,
          py: 0.75,
          bgcolor: 'transparent',
          color: 'inherit',
          cursor: 'pointer',
          display: 'flex',
          gap: 1,
        }}>
        <b>{t('sheet.demand')}</b>
        <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.84rem' }}>
          {result.figures.expectedMonthlyUnits === null
            ? t('line.blank')
            : t('sheet.demandText', {
                units: f.number(result.figures.expectedMonthlyUnits, 1),
                profit: said(result, 'profitPerMonth'),
              })}
        </Box>
      </Box>
      {open && <DemandForm laneId={view.id} candidateId={candidateId} doc={doc} />}
    </Box>
  );
}
