/** What was understood of what was given: in a sentence, cell by cell, and what is still rough. */
import { Box, Typography } from '@mui/material';
import { Fragment } from 'react';
import { Trans } from 'react-i18next';
import { inWords } from '../../../words/index.ts';
import { useFormat } from '../../ui/locale.ts';
import { UnderstoodTable } from './UnderstoodTable.tsx';
import type { ReadState } from './useReadTable.ts';
import './scheduleWords.ts';
import { useWords } from '../../ui/useWords.ts';

/** What was read, in a sentence; before that, what is asked for. */
export function ReadSentence({ state: { understood, text } }: { state: ReadState }) {
  const { t } = useWords();
  const f = useFormat();
  const { counts } = understood;
  const all = counts.sure + counts.doubtful + counts.notUnderstood + counts.leftOut;
  const parts = { b: <strong />, r: <Box component="strong" sx={{ color: 'error.main' }} /> };
  return (
    <Typography
      variant="h1"
      sx={{ fontSize: '1.4rem', fontWeight: 500, mt: 0.5, mb: 1.5 }}
      aria-live="polite"
      data-testid="read-sentence">
      {text.trim() === '' || all === 0 ? (
        t('read.empty')
      ) : (
        <>
          <Trans
            i18nKey="read.sentence"
            values={{ sure: f.number(counts.sure + counts.leftOut, 0), all: f.number(all, 0) }}
            components={parts}
          />{' '}
          {(['doubtful', 'notUnderstood'] as const).map(
            (state) =>
              counts[state] > 0 && (
                <Fragment key={state}>
                  <Trans
                    i18nKey={`read.${state}`}
                    values={{ count: counts[state] }}
                    count={counts[state]}
                    components={parts}
                  />{' '}
                </Fragment>
              ),
          )}
        </>
      )}
    </Typography>
  );
}

/** Tables cell by cell, sentences, what is wrong between rows, and what is still rough. */
export function Understanding({ state }: { state: ReadState }) {
  const { t } = useWords();
  const { understood: u, made, currency } = state;
  return (
    <Box component="section" aria-label={t('read.understood')} sx={{ minWidth: 0 }}>
      <Typography variant="h2" sx={{ mb: 0.5, fontSize: '1.05rem' }}>
        {t('read.understood')}{' '}
        <Typography component="span" variant="body2" color="text.secondary">
          {t('read.kept')}
        </Typography>
      </Typography>
      {state.text.trim() === '' && <Typography color="text.secondary">{t('read.nothing')}</Typography>}
      {u.tables.map((table, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: tables stand in the order in which they were given
        <UnderstoodTable key={i} table={table} currency={currency} onChoose={state.choose} />
      ))}
      {state.text.trim() !== '' &&
        u.faults.map((f) => (
          <Typography key={`${f.line} ${f.code}`} variant="body2" sx={{ mt: 0.5 }}>
            {f.line !== null && (
              <Box component="b" sx={{ color: 'error.main' }}>
                {t('read.line', { line: f.line })}{' '}
              </Box>
            )}
            {inWords(f)}
          </Typography>
        ))}
      {u.notes.length > 0 && (
        <Box sx={{ mt: 1.5, fontSize: '0.84rem' }}>
          <b>{t('read.notes')}</b>
          {u.notes.slice(0, 40).map((n) => (
            <Box key={n.line} dir="auto">
              {n.text}{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                ({t(n.read ? 'read.noteRead' : 'read.noteUnread')})
              </Box>
            </Box>
          ))}
        </Box>
      )}
      {made.rough.length > 0 && (
        <Box sx={{ mt: 2, borderTop: '1px solid', borderColor: 'hairline', pt: 1, fontSize: '0.88rem' }}>
          <b>{t('read.rough')}</b>{' '}
          <Box component="span" sx={{ color: 'text.secondary' }}>
            {t('read.roughHelp')}
          </Box>
          <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
            {made.rough.map((r) => (
              <li key={r.code}>
                {t(`read.roughs.${r.code}`, r.code === 'noSides' ? { tiers: r.tiers } : {})}
              </li>
            ))}
          </Box>
        </Box>
      )}
    </Box>
  );
}
