/** A dialog in which something that happened to an order is noted. */
import { Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import type { ReactNode } from 'react';
import { useWords } from '../../ui/useWords.ts';

export function NoteDialog({
  title,
  width = 'xs',
  onNote,
  onClose,
  children,
}: {
  title: string;
  width?: 'xs' | 'sm';
  /** Null: something lacks still. */
  onNote: (() => void) | null;
  onClose: () => void;
  children: ReactNode;
}) {
  const { t } = useWords();
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth={width}>
      <DialogTitle>{title}</DialogTitle>
      <DialogContent sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>{children}</DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{t('cancel')}</Button>
        <Button
          variant="contained"
          disabled={onNote === null}
          onClick={() => {
            onNote?.();
            onClose();
          }}>
          {t('order.noteNow')}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
