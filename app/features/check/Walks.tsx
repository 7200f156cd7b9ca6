/** Walks through shops, the latest first. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useRef, useState } from 'react';
import { Link, useSubmit } from 'react-router';
import { minutesOf } from '../../../core/check/session.ts';
import type { CheckSession } from '../../../core/check/schema.ts';
import { addWords } from '../../i18n.ts';
import { checkWords } from '../../locales/en.check.ts';
import { FileField } from '../../ui/FileField.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useWords } from '../../ui/useWords.ts';

addWords(checkWords);
type Props = {
  lines: readonly { session: CheckSession; checked: number; kept: number }[];
  now: string;
  told: { error?: string; taken?: number; refused?: readonly string[] } | null;
  root: string;
  canEdit: boolean;
};

export function Walks({ lines, now, told, root, canEdit }: Props) {
  const { t } = useWords();
  const f = useFormat();
  return (
    <Box sx={{ maxWidth: 760 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', mb: 1.5, flexWrap: 'wrap' }}>
        <Typography variant="h1">{t('walks.title')}</Typography>
        <Button component={Link} to={`${root}/check`} variant="contained" sx={{ ml: 'auto' }}>
          {t('walks.start')}
        </Button>
      </Box>
      {lines.length === 0 && <Typography>{t('walks.none')}</Typography>}
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
        {lines.map(({ session: s, checked, kept }) => (
          <Box
            component="li"
            key={s.id}
            sx={{ display: 'flex', gap: 2, borderBottom: '1px solid', borderColor: 'hairline', py: 1 }}>
            <Box component={Link} to={`${root}/checks/${s.id}`} sx={{ flex: 1, color: 'text.primary' }}>
              {t('walks.from', {
                day: f.day((s.stretches[0]?.from ?? now).slice(0, 10)),
                minutes: t('check.minutes', { count: Math.floor(minutesOf(s.stretches, now)) }),
              })}
            </Box>
            <span>{t('walks.checked', { count: checked })}</span>
            <span>{t('walks.kept', { count: kept })}</span>
          </Box>
        ))}
      </Box>
      {canEdit && <TakeIn told={told} />}
    </Box>
  );
}

/** A file that a device could not send, taken in here. */
function TakeIn({ told }: { told: Props['told'] }) {
  const { t } = useWords();
  const submit = useSubmit();
  const file = useRef<HTMLInputElement>(null);
  const [isWrong, setWrong] = useState(false);
  const take = async (chosen: File): Promise<void> => {
    try {
      setWrong(false);
      await submit(JSON.parse(await chosen.text()), { method: 'post', encType: 'application/json' });
    } catch {
      setWrong(true);
    }
  };
  return (
    <Box sx={{ mt: 2 }}>
      <FileField
        ref={file}
        label={t('walks.takeIn')}
        accept="application/json,.json"
        onFile={(chosen) => void take(chosen)}
      />
      <Button onClick={() => file.current?.click()}>{t('walks.takeIn')}</Button>
      {(isWrong || told?.error !== undefined) && (
        <Alert severity="error">{isWrong ? t('walks.notAFile') : told?.error}</Alert>
      )}
      {told?.taken !== undefined && (
        <Alert severity="success">{t('walks.takenIn', { count: told.taken })}</Alert>
      )}
      {told?.refused?.map((why) => (
        <Alert key={why} severity="error">
          {why}
        </Alert>
      ))}
    </Box>
  );
}
