/** A purse that takes longer than one waits at a screen: the server thinks about it, the page open or closed. */
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { useState } from 'react';
import type { PurseAnswered } from '../../../between/purseWork.ts';
import { NumField } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { Pane } from '../weigh/Pane.tsx';
import { usePurseWork } from './usePurseWork.ts';
import { useWords } from '../../ui/useWords.ts';

type Props = {
  answered: PurseAnswered | null;
  /** What the server said is what stands on the page. */
  isShown: boolean;
  /** The server solves what is stored: nothing may wait to be saved. */
  isSaved: boolean;
  canEdit: boolean;
  base: string;
};

export function ServerPurse({ answered, isShown, isSaved, canEdit, base }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const [minutes, setMinutes] = useState(2);
  const { work, error, start, stop } = usePurseWork(answered, base);
  const isWorking = work?.state === 'working';
  const said = (): string => {
    if (isWorking)
      return work.all === 0
        ? t('purse.server.begun')
        : t('purse.server.at', { done: f.number(work.done, 0), all: f.number(work.all, 0) });
    if (work?.state === 'ended') return t('purse.server.ended');
    if (answered?.said == null) return t('purse.server.what');
    return t(isShown ? 'purse.server.shown' : 'purse.server.old', {
      day: f.day(answered.at.slice(0, 10)),
      seconds: f.number(answered.took, 0),
    });
  };
  return (
    <Pane title={t('purse.server.title')}>
      <Box className="no-print" sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', flexWrap: 'wrap' }}>
        <NumField
          label={t('purse.server.minutes')}
          value={minutes}
          onChange={(x) => x !== null && setMinutes(x)}
          kind="number"
          min={0.1}
          max={10}
          required
          width={100}
        />
        {canEdit && !isWorking && (
          <Button variant="outlined" disabled={!isSaved} onClick={() => void start(60 * minutes)}>
            {t('purse.server.start')}
          </Button>
        )}
        {canEdit && isWorking && <Button onClick={() => void stop()}>{t('purse.server.stop')}</Button>}
      </Box>
      {isWorking && work.all > 0 && (
        <LinearProgress
          variant="determinate"
          value={(100 * work.done) / work.all}
          aria-label={t('purse.server.title')}
          sx={{ mt: 1 }}
        />
      )}
      <Typography
        role="status"
        variant="body2"
        color={error === null ? 'text.secondary' : 'error'}
        sx={{ mt: 1 }}>
        {error ?? said()}
      </Typography>
    </Pane>
  );
}
