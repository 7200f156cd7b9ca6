import { Box } from '@mui/material';
import { Link, useParams } from 'react-router';
import type { LaneDocument } from '../../../core/lane/schema.ts';
import { meetsSaid } from '../rates/scheduleWords.ts';
import { useProven } from './useProven.ts';
import { useWords } from '../../ui/useWords.ts';

/** How well proven the fees of a lane are: how many proofs its card meets, and the way to them. */
export default function Proven({ doc }: { doc: LaneDocument }) {
  const { t } = useWords();
  const { workspace } = useParams();
  const { key, known, held } = useProven(doc);
  if (key === null || !known) return null;
  return (
    <Box
      sx={{
        fontSize: '0.84rem',
        mt: 1,
        color: held !== null && held.fails > 0 ? 'error.main' : 'text.secondary',
      }}>
      {held === null ? t('proofs.unproven') : meetsSaid(t, held)}{' '}
      <Box
        component={Link}
        to={`/w/${workspace}/rates?kind=marketplace&key=${encodeURIComponent(key)}`}
        sx={{ color: 'inherit' }}>
        {t('proofs.toCard')}
      </Box>
    </Box>
  );
}
