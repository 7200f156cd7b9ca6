import { Alert, Box, Button, IconButton, Tab, Tabs, Tooltip, Typography } from '@mui/material';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import { useDeferredValue, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useTranslation } from 'react-i18next';
import { Link, useFetcher } from 'react-router';
import { columnAt, compareCards, readTables, sheetsOf } from '../../../core/cards/tables.ts';
import { CARD_SHEET } from '../../../core/cards/reader.ts';
import { inWords, sayFault } from '../../../words/index.ts';
import type { CellError, Grid, Tables } from '../../../core/cards/reader.ts';
import { cardDay } from '../../../core/cards/schema.ts';
import type { CardData, CardKind } from '../../../core/cards/schema.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { useFormat } from '../../ui/locale.ts';
import { ChangeList } from './ChangeList.tsx';
import { DraftGrid } from './DraftGrid.tsx';
import type { CellEdit } from './gridCells.ts';
import { useDraft } from './useDraft.ts';
import type { DraftSaving } from './useDraft.ts';
import './words.ts';

type Sheet = ReturnType<typeof sheetsOf>[number];
type Props = {
  draft: { id: string; kind: CardKind; name: string; cells: Tables; edition: number };
  base: { id: string; name: string; data: CardData; inForceFrom: string } | null;
  canEdit: boolean;
  root: string;
};

/** Saving came to nothing, and not because it goes on. */
const isBad = (saving: DraftSaving): boolean => !['saved', 'saving', 'unsaved'].includes(saving);

/**
 * A card edited like a sheet: its tables, what is wrong in them, what differs from the version before, and
 * the way into force.
 */
export function DraftPage({ draft, base, canEdit, root }: Props) {
  const { t } = useTranslation();
  const f = useFormat();
  const [search, setAddress] = useAddress();
  const { cells, saving, change, undo, redo, flush } = useDraft(
    draft.cells,
    draft.edition,
    `${root}/rates/draft/${draft.id}/save`,
    canEdit,
  );
  const sheets = sheetsOf(draft.kind);
  // The sheet changes at once; the address follows.
  const [sheetKey, setSheetKey] = useState(search.get('sheet'));
  const chosen = sheets.find((s) => s.key === sheetKey) ?? sheets[0];
  const [focus, setFocus] = useState<{ row: number; column: number; at: number } | null>(null);
  const turnTo = (key: string): void => {
    setSheetKey(key);
    setFocus(null);
    setAddress({ sheet: key });
  };
  const late = useDeferredValue(cells);
  const read = useMemo(() => readTables(draft.kind, late), [draft.kind, late]);
  const errors = read.ok ? [] : read.errors;
  const changes = useMemo(
    () => (read.ok && base !== null ? compareCards(draft.kind, base.data, read.data) : []),
    [read, base, draft.kind],
  );
  const fetcher = useFetcher<{ errors?: CellError[] }>();
  const refused = fetcher.data?.errors ?? [];
  useUndoKeys(undo, redo);
  if (chosen === undefined) return null;

  const rows: Grid = cells[chosen.key] ?? [];
  const fieldRows = chosen.key === CARD_SHEET;
  const edit = (edits: readonly CellEdit[]): void => {
    if (edits.length === 0) return;
    const next = rows.map((r) => [...r]);
    for (const e of edits) {
      const row = next[e.row];
      if (row !== undefined) row[e.column] = e.text;
    }
    change({ ...cells, [chosen.key]: next });
  };
  const show = (e: CellError): void => {
    const sheet = sheets.find((s) => s.key === e.sheet) ?? chosen;
    turnTo(sheet.key);
    setFocus({ ...placeOf(e, sheet, cells), at: Date.now() });
  };
  const putInForce = async (): Promise<void> => {
    if (await flush()) void fetcher.submit({ intent: 'putInForce' }, { method: 'post' });
  };
  const title =
    String((cells.card ?? []).find((r) => r[0] === 'name')?.[1] ?? draft.name) ||
    draft.name ||
    t(`cards.one.${draft.kind}`);
  const bad = isBad(saving);

  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5, flexWrap: 'wrap', mb: 0.5 }}>
        <Typography component="span" color="text.secondary">
          <Box component={Link} to={`${root}/rates`} sx={{ color: 'inherit', textDecoration: 'none' }}>
            {t('nav.rates')}
          </Box>{' '}
          /
        </Typography>
        <Typography variant="h1" sx={{ fontSize: '1.4rem' }} dir="auto">
          {title}
        </Typography>
        <Typography color="text.secondary">
          {t('draft.title')},{' '}
          {base === null
            ? t('draft.new')
            : t('draft.of', { name: `${base.name} ${f.day(base.inForceFrom)}` })}
        </Typography>
        <SavingAndUndo
          saving={saving}
          url={`${root}/rates/draft/${draft.id}`}
          canEdit={canEdit}
          undo={undo}
          redo={redo}
        />
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {t('draft.lead')}
      </Typography>
      <SheetTabs kind={draft.kind} chosen={chosen.key} cells={cells} errors={errors} onChoose={turnTo} />
      <DraftGrid
        key={chosen.key}
        label={t(`cards.sheet.${chosen.key}`)}
        columns={chosen.columns}
        rows={rows}
        errors={[...errors, ...refused]
          .filter((e) => e.sheet === chosen.key)
          .map((e) =>
            e.row === null && fieldRows ? { ...e, row: rows.findIndex((r) => r[0] === e.column) + 2 } : e,
          )}
        readOnly={!canEdit}
        canAddRows={!fieldRows}
        focus={focus}
        columnOf={(row, column) => columnAt(draft.kind, chosen.key, column, String(rows[row]?.[0] ?? ''))}
        {...(fieldRows ? { fixed: (row: number) => t(`cards.column.${String(rows[row]?.[0] ?? '')}`) } : {})}
        onEdit={edit}
        onRows={(next) => change({ ...cells, [chosen.key]: next })}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' }, gap: 3, mt: 2 }}>
        <Box component="section" aria-label={t('draft.errors', { count: errors.length })}>
          <Typography
            variant="h3"
            component="h2"
            sx={{ mb: 0.5 }}
            color={errors.length > 0 ? 'error' : 'text.primary'}>
            {errors.length === 0 ? t('draft.noErrors') : t('draft.errors', { count: errors.length })}
          </Typography>
          {refused.map((e) => (
            <Alert key={inWords(e)} severity="error" variant="outlined" sx={{ mb: 1 }}>
              {inWords(e)}
            </Alert>
          ))}
          <ErrorList errors={errors} onChoose={show} />
          {canEdit && (
            <IntoForce
              day={read.ok ? f.day(cardDay(read.data)) : null}
              touches={`${root}/rates/touch?draft=${draft.id}`}
              busy={fetcher.state !== 'idle' || bad}
              onForce={() => void putInForce()}
              onThrow={() => void fetcher.submit({ intent: 'throwAway' }, { method: 'post' })}
            />
          )}
        </Box>
        {base !== null && read.ok && (
          <Box
            component="section"
            aria-label={t('draft.changes', { count: changes.length, name: base.name })}>
            <Typography variant="h3" component="h2" sx={{ mb: 0.5 }}>
              {changes.length === 0
                ? t('draft.noChanges', { name: base.name })
                : t('draft.changes', { count: changes.length, name: base.name })}
            </Typography>
            <ChangeList kind={draft.kind} changes={changes} />
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** Ctrl or ⌘ with Z goes back, with Shift or Y forth, in fields as well. */
function useUndoKeys(undo: () => void, redo: () => void): void {
  useHotkeys(
    'mod+z',
    (e) => {
      e.preventDefault();
      undo();
    },
    { enableOnFormTags: false },
  );
  useHotkeys(
    'mod+shift+z, mod+y',
    (e) => {
      e.preventDefault();
      redo();
    },
    { enableOnFormTags: false },
  );
}

/** The cell, from 0, that a fault is about; the first where it names none. */
function placeOf(e: CellError, sheet: Sheet, cells: Tables): { row: number; column: number } {
  const named = (at: number): number => Math.max(0, at);
  const fields = sheet.key === CARD_SHEET;
  return {
    row: e.row === null ? named((cells[sheet.key] ?? []).findIndex((r) => r[0] === e.column)) : e.row - 2,
    column: fields ? 1 : named(sheet.columns.findIndex((c) => c.key === e.column)),
  };
}

/** What is wrong, each with its place and remedy; `onChoose` leads to the cell. */
export function ErrorList({
  errors,
  onChoose,
}: {
  errors: readonly CellError[];
  onChoose?: (e: CellError) => void;
}) {
  const { t } = useTranslation();
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
function SavingAndUndo({
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
  const { t } = useTranslation();
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
function SheetTabs({
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
  const { t } = useTranslation();
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
function IntoForce({
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
  const { t } = useTranslation();
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
