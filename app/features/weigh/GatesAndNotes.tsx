/** What one finds out about a candidate by hand: gates, notes, stage, tags, scores. */
import { Box, Button, Typography } from '@mui/material';
import { memo, useState } from 'react';
import { STAGES_OF_WORK } from '../../../core/workspace/records.ts';
import type { CandidateData } from '../../../core/workspace/records.ts';
import { Num, Text } from './bound.tsx';
import { useStore, useValue } from './store.ts';
import { useWords } from '../../ui/useWords.ts';

export const GatesAndNotes = memo(function GatesAndNotes({ candidateId }: { candidateId: string }) {
  const { t } = useWords();
  const store = useStore();
  const gates = useValue('candidate', candidateId, ['gates']) as CandidateData['gates'];
  const stage = useValue('candidate', candidateId, ['stage']) as string;
  const tags = useValue('candidate', candidateId, ['tags']) as string[];
  return (
    <Box
      component="section"
      sx={{
        mt: 4,
        borderTop: '1px solid',
        borderColor: 'hairline',
        pt: 2,
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' },
        gap: 4,
      }}>
      <Box>
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          {t('gates.byHand')}
        </Typography>
        {(['demanded', 'enterable', 'permitted'] as const).map((g) => (
          <Box key={g} sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', mb: 1, flexWrap: 'wrap' }}>
            <Box sx={{ width: 150 }}>
              <Box component="label" htmlFor={`gate-${g}`} sx={{ fontSize: '0.84rem' }}>
                {t(`gates.${g}`)}
              </Box>
              <Box
                component="select"
                id={`gate-${g}`}
                value={gates[g] === null ? '' : gates[g].passed ? 'yes' : 'no'}
                onChange={(e: { target: { value: string } }) =>
                  store.edit([
                    {
                      entity: 'candidate',
                      id: candidateId,
                      path: ['gates', g],
                      to:
                        e.target.value === ''
                          ? null
                          : { passed: e.target.value === 'yes', note: gates[g]?.note ?? '' },
                    },
                  ])
                }
                sx={{
                  width: '100%',
                  height: 31,
                  font: 'inherit',
                  color: 'text.primary',
                  bgcolor: 'background.paper',
                  border: 0,
                  borderBottom: '1.5px solid',
                  borderColor: 'fieldLine',
                }}>
                <option value="">{t('gates.open')}</option>
                <option value="yes">{t('gates.passed')}</option>
                <option value="no">{t('gates.failed')}</option>
              </Box>
            </Box>
            {gates[g] !== null && (
              <Text
                entity="candidate"
                id={candidateId}
                path={['gates', g, 'note']}
                label={t('gates.note')}
                width={300}
                maxLength={2000}
              />
            )}
          </Box>
        ))}
      </Box>
      <Box>
        <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
          {t('sheet.notes')}
        </Typography>
        <Text
          entity="candidate"
          id={candidateId}
          path={['notes']}
          label={t('sheet.notesLabel')}
          width="100%"
          multiline
          maxLength={10000}
        />
        <Box sx={{ display: 'flex', gap: 2, mt: 1.5, alignItems: 'flex-end', flexWrap: 'wrap' }}>
          <Box sx={{ width: 150 }}>
            <Box component="label" htmlFor="stage" sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
              {t('form.stageOfWork')}
            </Box>
            <Box
              component="select"
              id="stage"
              value={stage}
              onChange={(e: { target: { value: string } }) =>
                store.edit([{ entity: 'candidate', id: candidateId, path: ['stage'], to: e.target.value }])
              }
              sx={{
                width: '100%',
                height: 31,
                font: 'inherit',
                color: 'text.primary',
                bgcolor: 'background.paper',
                border: 0,
                borderBottom: '1.5px solid',
                borderColor: 'fieldLine',
              }}>
              {STAGES_OF_WORK.map((s) => (
                <option key={s} value={s}>
                  {t(`stageOfWork.${s}`)}
                </option>
              ))}
            </Box>
          </Box>
          <TagsField candidateId={candidateId} tags={tags} />
          <ScoreField candidateId={candidateId} />
        </Box>
      </Box>
    </Box>
  );
});

function TagsField({ candidateId, tags }: { candidateId: string; tags: readonly string[] }) {
  const { t } = useWords();
  const store = useStore();
  const [text, setText] = useState<string | null>(null);
  return (
    <Box>
      <Box component="label" htmlFor="tags" sx={{ fontSize: '0.76rem', color: 'text.secondary' }}>
        {t('form.tags')}
      </Box>
      <Box
        component="input"
        id="tags"
        value={text ?? tags.join(', ')}
        onChange={(e: { target: { value: string } }) => setText(e.target.value)}
        onBlur={() => {
          if (text !== null)
            store.edit([
              {
                entity: 'candidate',
                id: candidateId,
                path: ['tags'],
                to: [
                  ...new Set(
                    text
                      .split(',')
                      .map((x) => x.trim().slice(0, 40))
                      .filter(Boolean),
                  ),
                ].slice(0, 20),
              },
            ]);
          setText(null);
        }}
        sx={{
          display: 'block',
          width: 200,
          height: 31,
          font: 'inherit',
          color: 'text.primary',
          bgcolor: 'background.paper',
          border: 0,
          borderBottom: '1.5px solid',
          borderColor: 'fieldLine',
          px: 0.75,
        }}
      />
    </Box>
  );
}

/** One's own judgement, beside the figures and with its reason. */
function ScoreField({ candidateId }: { candidateId: string }) {
  const { t } = useWords();
  const store = useStore();
  const score = useValue('candidate', candidateId, ['score']) as CandidateData['score'];
  if (score === null)
    return (
      <Button
        size="small"
        onClick={() =>
          store.edit([
            { entity: 'candidate', id: candidateId, path: ['score'], to: { value: null, reason: '' } },
          ])
        }>
        {t('sheet.addScore')}
      </Button>
    );
  return (
    <>
      <Num
        entity="candidate"
        id={candidateId}
        path={['score', 'value']}
        label={t('sheet.score')}
        kind="number"
        max={10}
        width={110}
      />
      <Text
        entity="candidate"
        id={candidateId}
        path={['score', 'reason']}
        label={t('sheet.scoreReason')}
        width={220}
      />
    </>
  );
}
