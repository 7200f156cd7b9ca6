import { Alert, Box, Button, Typography } from '@mui/material';
import { useEffect } from 'react';
import { Link, useNavigation, useRevalidator, useSearchParams } from 'react-router';
import { useFormat } from '../../ui/locale.ts';
import { SetupCheck } from './SetupCheck.tsx';
import { SetupColumns } from './SetupColumns.tsx';
import { SetupFigures } from './SetupFigures.tsx';
import { SetupTerms } from './SetupTerms.tsx';
import { useSetup } from './useSetup.ts';
import type { SetupData } from './useSetup.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

/** Says once how a list is read and on what terms its rows are weighed, with the first rows as they will be read. */
export function ListSetupPage(p: SetupData) {
  const { t } = useWords();
  const f = useFormat();
  const busy = useNavigation().state !== 'idle';
  const [search] = useSearchParams();
  const { revalidate } = useRevalidator();
  const setup = useSetup(p);
  const { name, issues, send } = setup;
  const working = p.check !== null && (p.check.state === 'waiting' || p.check.state === 'running');
  useEffect(() => {
    if (!working) return;
    const timer = setInterval(() => void revalidate(), 700);
    return () => clearInterval(timer);
  }, [working, revalidate]);
  const size =
    p.list.file.bytes < 1e6
      ? `${f.number(Math.max(1, p.list.file.bytes / 1e3), 0)} kB`
      : `${f.number(p.list.file.bytes / 1e6, 1)} MB`;
  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1">{name || p.list.name}</Typography>
        <Typography color="text.secondary">{t('setup.lead', { file: p.list.file.name, size })}</Typography>
        <Box sx={{ ml: 'auto', display: 'flex', gap: 1 }}>
          <Button component={Link} to={`${p.root}/lists`} size="small">
            {t('list.back')}
          </Button>
          {p.list.hasRun && (
            <Button component={Link} to={`${p.root}/lists/${p.list.id}`} size="small">
              {t('setup.back')}
            </Button>
          )}
        </Box>
      </Box>
      {search.get('same') !== null && (
        <Alert severity="info" sx={{ mb: 1.5 }}>
          {t('lists.sameAs', { name: search.get('same') })}
        </Alert>
      )}
      {p.error !== null && (
        <Alert severity="error" sx={{ mb: 1.5 }}>
          {p.error}
        </Alert>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 350px' }, gap: 4 }}>
        <Box sx={{ minWidth: 0 }}>
          <SetupColumns data={p} setup={setup} />
        </Box>
        <Box>
          <SetupTerms data={p} setup={setup} />
          <SetupFigures data={p} setup={setup} />
          {p.canEdit && (
            <Box
              sx={{
                mt: 3,
                display: 'flex',
                gap: 1.5,
                alignItems: 'center',
                position: 'sticky',
                bottom: 0,
                py: 1.5,
                bgcolor: 'background.default',
                zIndex: 1,
              }}>
              <Button
                variant="contained"
                color="primary"
                disabled={busy || issues.length > 0 || name.trim() === ''}
                onClick={() => send('run')}>
                {t('setup.run')}
              </Button>
              <Button
                variant="outlined"
                disabled={busy || working || issues.length > 0 || name.trim() === ''}
                onClick={() => send('check')}
                sx={{ bgcolor: 'background.paper' }}>
                {t('setup.check')}
              </Button>
            </Box>
          )}
          {p.check !== null && <SetupCheck data={p} check={p.check} working={working} />}
        </Box>
      </Box>
    </Box>
  );
}
