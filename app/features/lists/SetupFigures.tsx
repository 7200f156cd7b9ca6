/** Market figures of one's own that are joined to the rows by barcode. */
import { Alert, Box, Button, Typography } from '@mui/material';
import { useRef } from 'react';
import { FileField } from '../../ui/FileField.tsx';
import { useRevalidator } from 'react-router';
import { CHOICES } from '../../../core/lists/reference.ts';
import { ChoiceLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { useUpload } from '../../ui/useUpload.ts';
import type { Setup, SetupData } from './useSetup.ts';
import { useWords } from '../../ui/useWords.ts';

export function SetupFigures({ data: p, setup }: { data: SetupData; setup: Setup }) {
  const { t } = useWords();
  const f = useFormat();
  const { revalidate } = useRevalidator();
  const { choice, setChoice, without, setWithout } = setup;
  const chooseReference = useRef<HTMLInputElement>(null);
  const upload = useUpload(`${p.root}/lists/upload`, () => void revalidate(), t('lists.broken'));
  return (
    <>
      <Typography variant="h3" component="h2" sx={{ mt: 2.5, mb: 0.5 }}>
        {t('setup.reference')}
      </Typography>
      {p.list.reference === null || without ? (
        <>
          <Typography variant="body2" color="text.secondary">
            {t('setup.referenceHelp')}
          </Typography>
          {p.canEdit && (
            <Button
              size="small"
              sx={{ mt: 0.5 }}
              onClick={() => chooseReference.current?.click()}
              disabled={upload.now !== null}>
              {upload.now === null
                ? t('setup.referenceAdd')
                : t('lists.sending', { name: upload.now.name, share: f.percent(upload.now.share, 0) })}
            </Button>
          )}
          <FileField
            ref={chooseReference}
            label={t('setup.referenceAdd')}
            accept=".csv,.tsv,.txt,.xlsx"
            onFile={(file) => {
              upload.send(file, p.list.id);
              setWithout(false);
            }}
          />
        </>
      ) : (
        <Box sx={{ fontSize: '0.86rem' }}>
          {t('setup.referenceFile', { name: p.list.reference.file.name })}:{' '}
          {Object.entries(p.list.reference.map.columns)
            .map(([r, h]) => `${t(`role.${r}`)} = ${h}`)
            .join(', ')}
          <ChoiceLine
            label={t('setup.choice')}
            value={choice}
            options={CHOICES.map((c) => ({ value: c, label: t(`setup.choices.${c}`) }))}
            onChange={setChoice}
            width="100%"
          />
          <Button size="small" onClick={() => setWithout(true)}>
            {t('setup.referenceOut')}
          </Button>
        </Box>
      )}
      {upload.error !== null && (
        <Alert severity="error" sx={{ mt: 1 }}>
          {upload.error}
        </Alert>
      )}
    </>
  );
}
