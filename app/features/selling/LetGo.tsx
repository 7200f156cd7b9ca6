/** The decision to let a lane go, with its reason, and back. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { STOP_REASONS } from '../../../core/actuals/letGo.ts';
import type { Stopped } from '../../../core/actuals/letGo.ts';
import { ChoiceLine, TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useLaneAct } from './LaneActs.ts';
import { useWords } from '../../ui/useWords.ts';

export function LetGo({ stopped, canEdit }: { stopped: Stopped | null; canEdit: boolean }) {
  const { t } = useWords();
  const f = useFormat();
  const { act, error, isBusy } = useLaneAct();
  const [reason, setReason] = useState<Stopped['reason'] | ''>('');
  const [note, setNote] = useState('');
  if (stopped === null && !canEdit) return null;
  return (
    <Box component="section" aria-label={t('launched.letGo.title')} sx={{ mt: 3 }}>
      <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
        {t('launched.letGo.title')}
      </Typography>
      {stopped !== null && (
        <Typography>
          {t('selling.stopped', { day: f.day(stopped.day), reason: t(`selling.reason.${stopped.reason}`) })}{' '}
          {stopped.note} {stopped.by !== '' && t('launched.letGo.by', { name: stopped.by })}
        </Typography>
      )}
      {error !== undefined && <Alert severity="error">{error}</Alert>}
      {canEdit && stopped !== null && (
        <Button disabled={isBusy} onClick={() => act({ intent: 'goOn' })}>
          {t('launched.letGo.goOn')}
        </Button>
      )}
      {canEdit && stopped === null && (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'end', flexWrap: 'wrap' }}>
          <ChoiceLine
            label={t('launched.letGo.reason')}
            width={240}
            value={reason}
            onChange={setReason}
            options={[
              { value: '', label: t('launched.letGo.choose') },
              ...STOP_REASONS.map((r) => ({ value: r, label: t(`selling.reason.${r}`) })),
            ]}
          />
          <TextLine
            label={t('launched.letGo.note')}
            value={note}
            onChange={setNote}
            width={260}
            maxLength={1000}
          />
          <Button variant="outlined" disabled={isBusy} onClick={() => act({ intent: 'letGo', reason, note })}>
            {t('launched.letGo.do')}
          </Button>
        </Box>
      )}
    </Box>
  );
}
