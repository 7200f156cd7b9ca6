/** A unit's profit in a table: the bound it is, green or red, and said in a word where it loses. */
import { Box } from '@mui/material';
import type { LaneResult } from '../../core/lane/result.ts';
import { useResultFigures } from './resultFigures.ts';
import { useWords } from './useWords.ts';

/** Less than half a cent below nothing is a rounded 0, no loss. */
const LOSS = -0.005;
export const loses = (profit: number | null): boolean => profit !== null && profit <= LOSS;

/** The cell of a row that is not known (null) holds a dash. `plain`: without the currency's sign. */
export function ProfitCell({ result, sign }: { result: LaneResult | null; sign?: 'plain' }) {
  const { t } = useWords();
  const said = useResultFigures();
  const losing = loses(result?.figures.unitProfit ?? null);
  return (
    <Box component="td" sx={{ fontWeight: 650, color: losing ? 'error.main' : 'primary.main' }}>
      {said(result, 'unitProfit', sign)}
      {losing && (
        <Box component="span" sx={{ fontWeight: 400, fontSize: '0.76rem' }}>
          {' '}
          {t('lanes.losesWord')}
        </Box>
      )}
    </Box>
  );
}
