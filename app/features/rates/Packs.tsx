/** Cards with their proofs as one file: given to others, or taken in from them after a look at what it brings. */
import { Box, Typography } from '@mui/material';
import { addWords } from '../../i18n.ts';
import { packWords } from '../../locales/en.packs.ts';
import type { Version } from './Rates.tsx';
import { GivePack } from './GivePack.tsx';
import { TakePack } from './TakePack.tsx';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

addWords(packWords);

export function PacksPage({
  versions,
  today,
  name,
  canEdit,
}: {
  versions: readonly Version[];
  today: string;
  /** Of the workspace. */
  name: string;
  canEdit: boolean;
}) {
  const { t } = useWords();
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1">{t('packs.title')}</Typography>
        <Typography color="text.secondary">{t('packs.lead')}</Typography>
      </Box>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: canEdit ? '300px minmax(0, 1fr)' : '300px' },
          gap: 4,
        }}>
        <GivePack versions={versions} today={today} name={name} />
        {canEdit && <TakePack />}
      </Box>
    </Box>
  );
}
