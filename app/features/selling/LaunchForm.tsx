/** Puts a lane on sale: which, since when, and how reports name its goods. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useFetcher } from 'react-router';
import { TextLine } from '../../ui/Field.tsx';
import { SearchChoice } from '../../ui/SearchChoice.tsx';
import { useWords } from '../../ui/useWords.ts';

export type LaneChoice = { readonly id: string; readonly name: string; readonly lane: string };

export function LaunchForm({
  choices,
  codes: first,
  today,
  onDone,
}: {
  choices: readonly LaneChoice[];
  codes: string;
  today: string;
  onDone: () => void;
}) {
  const { t } = useWords();
  const act = useFetcher<{ launched?: string; error?: string }>();
  const [laneId, setLane] = useState('');
  const [codes, setCodes] = useState(first);
  const [since, setSince] = useState(today);
  const done = act.data?.launched !== undefined && act.state === 'idle';
  useEffect(() => {
    if (done) onDone();
  }, [done, onDone]);
  const keep = (): void => {
    const list = [...new Set(codes.split(',').map((c) => c.trim()))].filter(Boolean);
    void act.submit(JSON.stringify({ laneId, codes: list, since }), {
      method: 'post',
      encType: 'application/json',
    });
  };
  return (
    <Box
      component="section"
      aria-label={t('selling.form.title')}
      sx={{ bgcolor: 'paperTint', p: 2, borderRadius: 1, mb: 2 }}>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'start' }}>
        <SearchChoice
          label={t('selling.form.lane')}
          value={laneId}
          onChange={setLane}
          width={360}
          options={[
            { value: '', label: '' },
            ...choices.map((c) => ({ value: c.id, label: `${c.name} · ${c.lane}` })),
          ]}
        />
        <TextLine
          label={t('selling.form.codes')}
          value={codes}
          onChange={setCodes}
          width={260}
          placeholder={t('selling.form.codesHint')}
        />
        <TextLine label={t('selling.form.since')} value={since} onChange={setSince} width={130} type="date" />
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ my: 1 }}>
        {t(choices.length === 0 ? 'selling.form.none' : 'selling.form.note')}
      </Typography>
      {act.data?.error !== undefined && (
        <Alert severity="error" sx={{ mb: 1 }}>
          {act.data.error}
        </Alert>
      )}
      <Button variant="contained" onClick={keep} disabled={act.state !== 'idle'}>
        {t('selling.form.keep')}
      </Button>{' '}
      <Button onClick={onDone}>{t('selling.form.cancel')}</Button>
    </Box>
  );
}
