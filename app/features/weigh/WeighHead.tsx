/** The head of Weigh's table: what can be ordered by, and how the bars are drawn. */
import { Box, TableCell, TableHead, TableRow } from '@mui/material';
import type { SetAddress } from '../../ui/useAddress.ts';
import type { Sort, Weighed } from './weighed.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  weighed: Weighed;
  set: SetAddress;
  homeCurrency: string;
  /** Bars are drawn per hundred of the price, not in money. */
  hundred: boolean;
  allTicked: boolean;
  /** null: nothing may be ticked. */
  onTickAll: ((all: boolean) => void) | null;
};

export function WeighHead({ weighed, set, homeCurrency, hundred, allTicked, onTickAll }: Props) {
  const { t } = useWords();
  const { sort, down } = weighed;
  const head = (name: Sort, label: string, align: 'left' | 'right' = 'right', width?: string) => (
    <TableCell
      align={align}
      aria-sort={sort === name ? (down ? 'descending' : 'ascending') : 'none'}
      sx={{
        width: { md: width ?? 'auto' },
        lineHeight: 1.25,
        display: name === 'launch' || name === 'roi' ? { xs: 'none', md: 'table-cell' } : undefined,
      }}>
      <Box
        component="button"
        type="button"
        onClick={() => set({ sort: name, down: sort === name && down ? '0' : null })}
        sx={{
          font: 'inherit',
          color: 'inherit',
          border: 0,
          p: 0,
          bgcolor: 'transparent',
          cursor: 'pointer',
          fontWeight: sort === name ? 700 : 400,
        }}>
        {label}
        {sort === name ? (down ? ' ↓' : ' ↑') : ''}
      </Box>
    </TableCell>
  );
  return (
    <TableHead>
      <TableRow>
        {onTickAll !== null && (
          <TableCell padding="none" sx={{ width: 26 }}>
            <input
              type="checkbox"
              checked={allTicked}
              onChange={(e) => onTickAll(e.target.checked)}
              aria-label={t('weigh.tickAll')}
            />
          </TableCell>
        )}
        {head('name', t('weigh.candidate'), 'left', '24%')}
        <TableCell sx={{ width: '22%', display: { xs: 'none', sm: 'table-cell' } }}>
          {t('weigh.where')}{' '}
          <Box
            component="button"
            type="button"
            aria-pressed={!hundred}
            onClick={() => set({ bars: hundred ? 'money' : null })}
            sx={{
              font: 'inherit',
              color: 'text.secondary',
              border: 0,
              borderBottom: '1px dotted',
              p: 0,
              bgcolor: 'transparent',
              cursor: 'pointer',
              whiteSpace: 'nowrap',
              minHeight: 24,
            }}>
            {hundred ? t('weigh.perHundred') : t('weigh.inMoney', { currency: homeCurrency })}
          </Box>
        </TableCell>
        {head('keeps', t('weigh.keeps', { currency: homeCurrency }), 'right', '96px')}
        {head('margin', t('figure.margin'))}
        {head('roi', t('figure.roi'), 'right', '66px')}
        <TableCell align="right" sx={{ display: { xs: 'none', md: 'table-cell' } }}>
          {t('weigh.breaksEven')}
        </TableCell>
        <TableCell align="right" sx={{ width: 104, display: { xs: 'none', md: 'table-cell' } }}>
          {t('weigh.payAtMost')}
        </TableCell>
        {head('launch', t('weigh.launchCash', { currency: homeCurrency }), 'right', '80px')}
        <TableCell sx={{ width: 138, pl: 3, display: { xs: 'none', md: 'table-cell' } }}>
          {t('weigh.gates')}
        </TableCell>
        <TableCell sx={{ p: 0, width: 36 }}>
          <span className="hidden-text">{t('sheet.more')}</span>
        </TableCell>
      </TableRow>
    </TableHead>
  );
}
