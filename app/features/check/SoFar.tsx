/** What was checked on this walk, the latest first; each can be taken back into one's hand. */
import { Box, Button, Typography } from '@mui/material';
import type { ShelfCheck } from '../../../core/check/schema.ts';
import { goodsName } from '../../../core/check/session.ts';
import { useBounds } from '../../ui/bounds.ts';
import { useFormat } from '../../ui/locale.ts';
import type { Walk } from './useWalk.ts';
import { useWords } from '../../ui/useWords.ts';

export function SoFar({ walk, onTakeBack }: { walk: Walk; onTakeBack: (c: ShelfCheck) => void }) {
  const { t } = useWords();
  const f = useFormat();
  const bounds = useBounds();
  return (
    <Box component="section">
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('check.sofar')}
      </Typography>
      {walk.checks.length === 0 && <Typography color="text.secondary">{t('check.nothing')}</Typography>}
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {[...walk.checks].reverse().map(({ id, data, said }) => (
          <Box
            component="li"
            key={id}
            sx={{
              display: 'flex',
              gap: 1,
              alignItems: 'baseline',
              borderBottom: '1px solid',
              borderColor: 'hairline',
              py: 0.5,
            }}>
            <Box
              sx={{
                flex: 1,
                minWidth: 0,
                overflow: 'hidden',
                textOverflow: 'ellipsis',
                whiteSpace: 'nowrap',
              }}>
              <bdi>{goodsName(data)}</bdi>
            </Box>
            <Box sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>
              {said.unitProfit !== null && bounds.of(f.money(said.unitProfit, said.currency), said.lacks)}
            </Box>
            <Box sx={{ minWidth: 36 }}>
              {t(data.state === 'kept' ? 'walks.keptState' : 'walks.leftState')}
            </Box>
            <Button
              size="small"
              onClick={() => onTakeBack(data)}
              aria-label={`${t('check.takeBack')}: ${goodsName(data)}`}>
              {t('check.takeBack')}
            </Button>
          </Box>
        ))}
      </Box>
    </Box>
  );
}
