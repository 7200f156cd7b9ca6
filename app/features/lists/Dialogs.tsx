import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useState } from 'react';
import { DEFAULT_LOOK, LIST_COLUMNS } from '../../../core/lists/query.ts';
import { isListFigure } from '../../../core/lists/figures.ts';
import type { ListColumn, ListLook } from '../../../core/lists/query.ts';
import type { ListFigure } from '../../../core/lists/figures.ts';
import { TextLine } from '../../ui/Field.tsx';
import { useWords } from '../../ui/useWords.ts';

const plain = {
  font: 'inherit',
  color: 'text.primary',
  bgcolor: 'transparent',
  border: '1px solid',
  borderColor: 'fieldLine',
  borderRadius: 1,
  minWidth: 26,
  height: 26,
  cursor: 'pointer',
} as const;

/** Which columns stand in the grid, in which order, and which stay in view. */
export function ColumnsDialog({
  columns,
  can,
  extras,
  onChange,
  onClose,
  titled,
}: {
  columns: ListLook['columns'];
  can: readonly ListFigure[];
  extras: readonly string[];
  onChange: (c: ListLook['columns']) => void;
  onClose: () => void;
  titled: (id: ListColumn) => string;
}) {
  const { t } = useWords();
  const others = [...LIST_COLUMNS, ...extras.map((h): ListColumn => `extra:${h}`)].filter(
    (id) => !columns.some((c) => c.id === id) && (!isListFigure(id) || can.includes(id)),
  );
  const move = (i: number, by: number): void => {
    const next = [...columns];
    const [c] = next.splice(i, 1);
    if (c !== undefined) next.splice(i + by, 0, c);
    onChange(next);
  };
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <DialogTitle>{t('list.columns')}</DialogTitle>
      <DialogContent>
        {columns.map((c, i) => (
          <Box key={c.id} sx={{ display: 'flex', gap: 0.75, alignItems: 'center', minHeight: 32 }}>
            <Box component="label" sx={{ flex: 1, display: 'flex', gap: 0.75 }}>
              <input
                type="checkbox"
                checked
                disabled={columns.length === 1}
                onChange={() => onChange(columns.filter((x) => x.id !== c.id))}
              />
              {titled(c.id)}
            </Box>
            <Box
              component="button"
              type="button"
              aria-pressed={c.pinned}
              aria-label={t('list.pin', { name: titled(c.id) })}
              title={t('list.pin', { name: titled(c.id) })}
              onClick={() => onChange(columns.map((x) => (x.id === c.id ? { ...x, pinned: !x.pinned } : x)))}
              sx={{
                ...plain,
                ...(c.pinned ? { bgcolor: 'text.primary', color: 'background.default' } : {}),
              }}>
              ⇤
            </Box>
            <Box
              component="button"
              type="button"
              disabled={i === 0}
              aria-label={t('list.columnUp', { name: titled(c.id) })}
              onClick={() => move(i, -1)}
              sx={plain}>
              ←
            </Box>
            <Box
              component="button"
              type="button"
              disabled={i === columns.length - 1}
              aria-label={t('list.columnDown', { name: titled(c.id) })}
              onClick={() => move(i, 1)}
              sx={plain}>
              →
            </Box>
          </Box>
        ))}
        {others.map((id) => (
          <Box
            key={id}
            component="label"
            sx={{ display: 'flex', gap: 0.75, minHeight: 30, alignItems: 'center', color: 'text.secondary' }}>
            <input
              type="checkbox"
              checked={false}
              onChange={() =>
                onChange([
                  ...columns,
                  { id, width: DEFAULT_LOOK.columns.find((c) => c.id === id)?.width ?? 90, pinned: false },
                ])
              }
            />
            {titled(id)}
          </Box>
        ))}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t('list.close')}</Button>
      </DialogActions>
    </Dialog>
  );
}

/** Keeps a way of looking under a name. */
export function ViewDialog({
  onSave,
  onClose,
}: {
  onSave: (name: string, withAssumptions: boolean) => void;
  onClose: () => void;
}) {
  const { t } = useWords();
  const [name, setName] = useState('');
  const [assumptions, setAssumptions] = useState(false);
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (name.trim() !== '') onSave(name.trim(), assumptions);
        }}>
        <DialogTitle>{t('list.saveView')}</DialogTitle>
        <DialogContent>
          <TextLine
            label={t('list.viewName')}
            value={name}
            onChange={setName}
            width="100%"
            maxLength={80}
            required
          />
          <Box sx={{ fontSize: '0.82rem', color: 'text.secondary', my: 0.5 }}>{t('list.viewHelp')}</Box>
          <Box component="label" sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
            <input type="checkbox" checked={assumptions} onChange={(e) => setAssumptions(e.target.checked)} />
            {t('list.withAssumptions')}
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t('cancel')}</Button>
          <Button type="submit" variant="contained" color="primary" disabled={name.trim() === ''}>
            {t('list.save')}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
