import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { cellText } from '../../../core/cards/cells.ts';
import type { CellValue } from '../../../core/cards/cells.ts';
import type { CardKind } from '../../../core/cards/schema.ts';
import { columnAt, sheetsOf } from '../../../core/cards/tables.ts';
import type { RowChange } from '../../../core/cards/tables.ts';
import { CARD_SHEET } from '../../../core/cards/reader.ts';
import { shownCell } from './choiceWords.ts';
import { useWords } from '../../ui/useWords.ts';

const FIRST = 40;

/** Rows that were added, changed or taken out, by table, with both values. */
export function ChangeList({ kind, changes }: { kind: CardKind; changes: readonly RowChange[] }) {
  const { t } = useWords();
  const [all, setAll] = useState(false);
  const shown = all ? changes : changes.slice(0, FIRST);
  const text = (sheet: string, column: string, value: CellValue): string => {
    const c =
      sheet === CARD_SHEET
        ? columnAt(kind, CARD_SHEET, 1, column)
        : (sheetsOf(kind)
            .find((s) => s.key === sheet)
            ?.columns.find((x) => x.key === column) ?? null);
    const out = c === null ? String(value ?? '') : shownCell(t, c, cellText(c, value));
    return out === '' ? t('line.blank') : out;
  };
  if (changes.length === 0) return null;
  return (
    <Box sx={{ fontSize: '0.86rem' }}>
      {sheetsOf(kind).map((s) => {
        const own = shown.filter((c) => c.sheet === s.key);
        if (own.length === 0) return null;
        return (
          <Box key={s.key} sx={{ mb: 1 }}>
            <Typography component="h3" sx={{ fontWeight: 650, fontSize: '0.82rem' }}>
              {t(`cards.sheet.${s.key}`)}
            </Typography>
            {own.map((c) => (
              <Box
                key={`${c.row}${c.kind}`}
                sx={{ display: 'grid', gridTemplateColumns: '76px 1fr', gap: 1, py: 0.15 }}>
                <Box
                  sx={{ color: c.kind === 'removed' ? 'error.main' : 'text.secondary', fontSize: '0.8rem' }}>
                  {c.kind === 'added' ? '+ ' : c.kind === 'removed' ? '− ' : '± '}
                  {t(`change.${c.kind}`)}
                </Box>
                <Box>
                  {c.sheet !== CARD_SHEET && (
                    <>
                      {c.row.replace(/ · $/, '')}
                      {c.cells.length > 0 && ': '}
                    </>
                  )}
                  {c.cells.map((x, i) => (
                    <span key={x.column}>
                      {i > 0 && ', '}
                      {t(`cards.column.${x.column}`)}{' '}
                      {c.kind === 'added' ? (
                        <b>{text(c.sheet, x.column, x.to)}</b>
                      ) : c.kind === 'removed' ? (
                        <s>{text(c.sheet, x.column, x.from)}</s>
                      ) : (
                        <>
                          <s>{text(c.sheet, x.column, x.from)}</s> → <b>{text(c.sheet, x.column, x.to)}</b>
                        </>
                      )}
                    </span>
                  ))}
                </Box>
              </Box>
            ))}
          </Box>
        );
      })}
      {!all && changes.length > FIRST && (
        <Button size="small" onClick={() => setAll(true)}>
          {t('draft.more', { count: changes.length - FIRST })}
        </Button>
      )}
    </Box>
  );
}
