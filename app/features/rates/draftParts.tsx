/** Parts of a draft's page: what is wrong, whether it is saved, its tables, the ways out of it. */
import { Box, Button, IconButton, Tab, Tabs, Tooltip, Typography } from '@mui/material';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import { Link } from 'react-router';
import { sheetsOf } from '../../../core/cards/tables.ts';
import { CARD_SHEET } from '../../../core/cards/reader.ts';
import { sayFault } from '../../../words/index.ts';
import type { CellError, Tables } from '../../../core/cards/reader.ts';
import type { CardKind } from '../../../core/cards/schema.ts';
import type { DraftSaving } from './useDraft.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

/** Saving came to nothing, and not because it goes on. */
export const isBad = (saving: DraftSaving): boolean => !['saved', 'saving', 'unsaved'].includes(saving);

/** What is wrong, each with its place and remedy; `onChoose` leads to the cell. */
export function ErrorList({
  errors,
  onChoose,
}: {
  errors: readonly CellError[];
  onChoose?: (e: CellError) => void;
}) {
  const { t } = useWords();
  const shown = errors.slice(0, 30);
  return (
    <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, fontSize: '0.86rem' }}>
      {shown.map((e) => {
        const said = sayFault(e);
        const sheet = t(`cards.sheet.${e.sheet || 'card'}`, { defaultValue: e.sheet });
        const column = e.column === null ? '' : t(`cards.column.${e.column}`, { defaultValue: e.column });
        const where =
          e.row === null
            ? column === ''
              ? sheet
              : t('draft.wherePlain', { sheet, column })
            : column === ''
              ? t('draft.whereRow', { sheet, row: e.row })
              : t('draft.where', { sheet, row: e.row, column });
        return (
          <Box component="li" key={`${e.sheet}${e.row}${e.column}${e.code}`} sx={{ py: 0.4 }}>
            {onChoose === undefined ? (
              <b>{where}</b>
            ) : (
              <Box
                component="button"
                type="button"
                onClick={() => onChoose(e)}
                sx={{
                  font: 'inherit',
                  fontWeight: 650,
                  border: 0,
                  p: 0,
                  bgcolor: 'transparent',
                  color: 'error.main',
                  cursor: 'pointer',
                  textDecoration: 'underline',
                }}>
                {where}
              </Box>
            )}
            : {said.problem}.{' '}
            <Box component="span" sx={{ color: 'text.secondary' }}>
              {said.remedy}
            </Box>
          </Box>
        );
      })}
      {errors.length > shown.length && <li>{t('draft.more', { count: errors.length - shown.length })}</li>}
    </Box>
  );
}

/** Whether what was typed is saved, and the way back and forth. */
export function SavingAndUndo({
  saving,
  url,
  canEdit,
  undo,
  redo,
}: {
  saving: DraftSaving;
  url: string;
  canEdit: boolean;
  undo: () => void;
  redo: () => void;
}) {
  const { t } = useWords();
  const bad = isBad(saving);
  return (
    <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5, alignItems: 'center' }}>
      {canEdit && (
        <Typography variant="body2" role="status" color={bad ? 'error' : 'text.secondary'}>
          {saving === 'saved'
            ? t('draft.saved')
            : saving === 'unsaved' || saving === 'saving'
              ? t('draft.saving')
              : saving === 'conflict' || saving === 'gone' || saving === 'offline'
                ? t(`draft.${saving}`)
                : t(`saving.${saving}`)}{' '}
          {saving === 'signedOut' && (
            <a href={`/sign-in?to=${encodeURIComponent(url)}`}>{t('account.signIn')}</a>
          )}
          {saving === 'conflict' && <a href={url}>{t('draft.load')}</a>}
        </Typography>
      )}
      <Tooltip title={t('sheet.undo')}>
        <span>
          <IconButton size="small" onClick={undo} aria-label={t('sheet.undo')}>
            <UndoIcon fontSize="small" />
          </IconButton>
        </span>
      </Tooltip>
      <Tooltip title={t('sheet.redo')}>
        <span>
          <IconButton size="small" onClick={redo} aria-label={t('sheet.redo')}>
            <RedoIcon fontSize="small" />
          </IconButton>
        </span>
      </Tooltip>
    </Box>
  );
}

/** The tables of a card, each with how many rows or faults it has. */
export function SheetTabs({
  kind,
  chosen,
  cells,
  errors,
  onChoose,
}: {
  kind: CardKind;
  chosen: string;
  cells: Tables;
  errors: readonly CellError[];
  onChoose: (key: string) => void;
}) {
  const { t } = useWords();
  return (
    <Tabs
      value={chosen}
      onChange={(_, key: string) => onChoose(key)}
      variant="scrollable"
      sx={{
        minHeight: 34,
        mb: 1,
        '& .MuiTab-root': {
          minHeight: 34,
          py: 0,
          textTransform: 'none',
          fontSize: '0.86rem',
          minWidth: 0,
          px: 1.5,
        },
      }}>
      {sheetsOf(kind).map((s) => {
        const wrong = errors.filter((e) => e.sheet === s.key).length;
        return (
          <Tab
            key={s.key}
            value={s.key}
            label={
              <span>
                {t(`cards.sheet.${s.key}`)}
                {wrong > 0 && (
                  <Box component="b" sx={{ color: 'error.main' }}>
                    {' '}
                    {wrong}
                  </Box>
                )}
                {s.key !== CARD_SHEET && wrong === 0 && (
                  <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.76rem' }}>
                    {' '}
                    {(cells[s.key] ?? []).length}
                  </Box>
                )}
              </span>
            }
          />
        );
      })}
    </Tabs>
  );
}

/** The ways out of a draft: into force, to what it would touch, away. */
export function IntoForce({
  day,
  touches,
  busy,
  onForce,
  onThrow,
}: {
  day: string | null;
  touches: string;
  busy: boolean;
  onForce: () => void;
  onThrow: () => void;
}) {
  const { t } = useWords();
  return (
    <Box sx={{ display: 'flex', gap: 1.5, mt: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
      <Button variant="contained" disabled={day === null || busy} onClick={onForce}>
        {t('draft.putInForce', { date: day ?? '…' })}
      </Button>
      {day !== null && (
        <Button component={Link} to={touches}>
          {t('draft.touches')}
        </Button>
      )}
      <Button color="error" onClick={onThrow}>
        {t('draft.throwAway')}
      </Button>
    </Box>
  );
}
