import { Alert, Box, Typography } from '@mui/material';
import { useDeferredValue, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Link, useFetcher } from 'react-router';
import { columnAt, compareCards, readTables, sheetsOf } from '../../../core/cards/tables.ts';
import { CARD_SHEET } from '../../../core/cards/reader.ts';
import { inWords } from '../../../words/index.ts';
import type { CellError, Grid, Tables } from '../../../core/cards/reader.ts';
import { cardDay } from '../../../core/cards/schema.ts';
import type { MarketplaceCard, TaxCard } from '../../../core/cards/rates.ts';
import type { CardData, CardKind } from '../../../core/cards/schema.ts';
import type { Trier } from '../../../core/compare/tryItem.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { useFormat } from '../../ui/locale.ts';
import { ChangeList } from './ChangeList.tsx';
import { DraftGrid } from './DraftGrid.tsx';
import { Broken, ProofsPane } from './ProofsPane.tsx';
import type { Kept } from './ProofsPane.tsx';
import type { CellEdit } from './gridCells.ts';
import { useDraft } from './useDraft.ts';
import './words.ts';
import { ErrorList, IntoForce, isBad, SavingAndUndo, SheetTabs } from './draftParts.tsx';
import { useWords } from '../../ui/useWords.ts';

type Sheet = ReturnType<typeof sheetsOf>[number];
type Props = {
  draft: { id: string; kind: CardKind; name: string; cells: Tables; edition: number };
  base: { id: string; name: string; data: CardData; inForceFrom: string } | null;
  proofs: readonly Kept[];
  tax: TaxCard | null;
  by: Trier;
  canEdit: boolean;
  root: string;
};

/**
 * A card edited like a sheet: its tables, what is wrong in them, what differs from the version before, and
 * the way into force.
 */
export function DraftPage({ draft, base, proofs, tax, by, canEdit, root }: Props) {
  const { t } = useWords();
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
            {draft.kind === 'marketplace' && proofs.length > 0 && (
              <Box sx={{ mt: 2 }}>
                <Broken before={base.data} after={read.data} tax={tax} by={by} proofs={proofs} />
                <ProofsPane
                  card={read.data as MarketplaceCard}
                  tax={tax}
                  by={by}
                  proofs={proofs}
                  onAdd={null}
                  onDrop={() => undefined}
                />
              </Box>
            )}
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
