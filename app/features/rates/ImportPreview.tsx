import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import type { Tables } from '../../../core/cards/reader.ts';
import { TextLine } from '../../ui/Field.tsx';
import { useFormat } from '../../ui/locale.ts';
import { ChangeList } from './ChangeList.tsx';
import { ErrorList } from './draftParts.tsx';
import type { Answer } from './Rates.tsx';
import { useWords } from '../../ui/useWords.ts';

type Body = {
  intent: string;
  id: string;
  cells?: Tables;
  from?: string;
  comma?: boolean;
  tables?: { date: string; base: string; rates: Record<string, number>; source: string }[];
};

/** What an imported file would add, change and take out, row by row; nothing is stored before one says so. */
export function ImportPreview({
  answer,
  cardId,
  busy,
  submit,
  onClose,
}: {
  answer: Answer;
  cardId: string;
  busy: boolean;
  submit: (body: Body) => void;
  onClose: () => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const { preview, rates } = answer;
  const [from, setFrom] = useState(preview?.from ?? '');
  const [comma, setComma] = useState(preview?.comma ?? false);
  const [lastPreview, setLastPreview] = useState(preview);
  if (preview !== lastPreview) {
    setLastPreview(preview);
    setFrom(preview?.from ?? '');
    setComma(preview?.comma ?? false);
  }
  const errors = [...(answer.errors ?? []), ...(answer.rateErrors ?? []), ...(preview?.errors ?? [])];
  const counted =
    preview === undefined
      ? []
      : (['added', 'changed', 'removed'] as const)
          .filter((k) => preview.counts[k] > 0)
          .map((k) => t(`import.${k}`, { count: preview.counts[k] }));
  const dayIsGood = /^\d{4}-\d{2}-\d{2}$/.test(from) && !Number.isNaN(Date.parse(from));
  return (
    <Box
      component="section"
      aria-label={t('import.title')}
      sx={{
        border: '1px solid',
        borderColor: 'text.primary',
        borderRadius: 1,
        p: 2,
        mb: 2,
        bgcolor: 'background.paper',
      }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, mb: 1 }}>
        <Typography variant="h3" component="h2">
          {t('import.title')}
        </Typography>
        <Button size="small" sx={{ ml: 'auto' }} onClick={onClose}>
          {t('cancel')}
        </Button>
      </Box>
      {errors.length > 0 && (
        <>
          <Typography color="error" role="alert" sx={{ mb: 0.5 }}>
            {t('import.wrong', { count: errors.length })}
          </Typography>
          <ErrorList errors={errors} />
        </>
      )}
      {preview !== undefined && errors.length === 0 && (
        <Typography role="status" sx={{ mb: 1, fontWeight: 650 }}>
          {counted.length === 0 ? t('import.nothing') : counted.join(', ')}
        </Typography>
      )}
      {preview !== undefined && errors.length === 0 && (
        <Box
          tabIndex={0}
          role="group"
          aria-label={t('import.title')}
          sx={{ maxHeight: 300, overflowY: 'auto', mb: 1 }}>
          <ChangeList kind={preview.kind} changes={preview.changes} />
        </Box>
      )}
      {rates !== undefined && (
        <Typography role="status" sx={{ mb: 1 }}>
          <b>{t('import.tables', { count: rates.tables.length })}</b>{' '}
          {rates.tables.length > 0 &&
            t('import.days', {
              first: f.day(rates.tables[0]?.date ?? ''),
              last: f.day(rates.tables[rates.tables.length - 1]?.date ?? ''),
            })}
          . {t('import.kept')}
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-end', flexWrap: 'wrap', mt: 1 }}>
        {preview !== undefined && (
          <>
            {errors.length === 0 && (
              <TextLine
                label={t('import.from')}
                value={from}
                onChange={setFrom}
                width={130}
                error={dayIsGood ? null : '2026-12-01'}
              />
            )}
            {errors.length === 0 && (
              <Button
                variant="contained"
                disabled={busy || !dayIsGood}
                onClick={() => submit({ intent: 'applyImport', id: cardId, cells: preview.cells, from })}>
                {t('import.apply', { date: dayIsGood ? f.day(from) : '…' })}
              </Button>
            )}
            <Button
              disabled={busy}
              onClick={() => submit({ intent: 'importAsDraft', id: cardId, cells: preview.cells, from })}>
              {t('import.asDraft')}
            </Button>
            <FormControlLabel
              control={
                <Checkbox
                  size="small"
                  checked={comma}
                  onChange={(e) => {
                    setComma(e.target.checked);
                    submit({
                      intent: 'readAgain',
                      id: cardId,
                      cells: preview.cells,
                      comma: e.target.checked,
                      from,
                    });
                  }}
                />
              }
              label={
                <Box component="span" sx={{ fontSize: '0.84rem' }}>
                  {t('import.comma')}
                </Box>
              }
            />
          </>
        )}
        {rates !== undefined && errors.length === 0 && (
          <Button
            variant="contained"
            disabled={busy}
            onClick={() =>
              submit({
                intent: 'applyRates',
                id: cardId,
                tables: rates.tables as NonNullable<Body['tables']>,
              })
            }>
            {t('import.applyRates')}
          </Button>
        )}
      </Box>
    </Box>
  );
}
