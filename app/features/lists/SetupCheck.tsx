/** What a check of the rows has found. */
import { Alert, Box, LinearProgress } from '@mui/material';
import { useFormat } from '../../ui/locale.ts';
import type { Check, SetupData } from './useSetup.ts';
import { useWords } from '../../ui/useWords.ts';

export function SetupCheck({ data: p, check, working }: { data: SetupData; check: Check; working: boolean }) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Box role="status" sx={{ mt: 1.5, fontSize: '0.88rem' }}>
      {working ? (
        <>
          {t('setup.checking', {
            done: f.number(check.done, 0),
            total: f.number(Math.max(check.done, check.total), 0),
          })}
          <LinearProgress
            variant={check.total === 0 ? 'indeterminate' : 'determinate'}
            value={check.total === 0 ? 0 : Math.min(100, (100 * check.done) / check.total)}
            aria-label={t('setup.check')}
            sx={{ mt: 0.5 }}
          />
        </>
      ) : check.state === 'failed' ? (
        <Alert severity="error">{t('setup.failed', { error: check.error })}</Alert>
      ) : check.state === 'done' ? (
        <Found check={check} mend={p.refused ? `${p.root}/lists/${p.list.id}/file?what=refused` : null} />
      ) : null}
    </Box>
  );
}

/** How many rows are good, what is wrong with the others, and where they are mended. */
function Found({ check, mend }: { check: Check; mend: string | null }) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <>
      <b>
        {t('setup.checked', {
          rows: f.number(check.valid + check.invalid, 0),
          valid: f.number(check.valid, 0),
          invalid: f.number(check.invalid, 0),
        })}
      </b>
      {Object.keys(check.troubles).length > 0 && (
        <Box>
          {Object.entries(check.troubles)
            .map(([k, n]) => `${f.number(n, 0)} ${t(`setup.troubles.${k}`)}`)
            .join(' · ')}
        </Box>
      )}
      {check.repaired > 0 && <Box>{t('setup.repaired', { count: check.repaired })}</Box>}
      {check.completed > 0 && <Box>{t('setup.completed', { count: check.completed })}</Box>}
      {check.invalid > 0 && mend !== null && (
        <Box sx={{ mt: 0.5 }}>
          <a href={mend}>{t('setup.mend')}</a>{' '}
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {t('setup.mendHelp')}
          </Box>
        </Box>
      )}
    </>
  );
}
