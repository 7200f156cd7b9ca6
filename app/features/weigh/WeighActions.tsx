/** What is done with candidates in the list: one by its menu, several that are ticked together. */
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Menu,
  MenuItem,
  TextField,
} from '@mui/material';
import { Form, Link } from 'react-router';
import type { CandidateLine } from './weighed.ts';
import { useWords } from '../../ui/useWords.ts';

type Post = (body: Record<string, string>) => void;

export function CandidateMenu({
  el,
  line,
  onClose,
  onDrop,
  post,
}: {
  el: HTMLElement;
  line: CandidateLine;
  onClose: () => void;
  onDrop: () => void;
  post: Post;
}) {
  const { t } = useWords();
  return (
    <Menu open anchorEl={el} onClose={onClose} onClick={onClose}>
      <MenuItem onClick={() => post({ intent: 'duplicate', id: line.id })}>{t('weigh.duplicate')}</MenuItem>
      {line.dropped === null ? (
        <MenuItem onClick={onDrop}>{t('weigh.drop')}</MenuItem>
      ) : (
        <MenuItem onClick={() => post({ intent: 'undrop', ids: line.id })}>{t('weigh.undrop')}</MenuItem>
      )}
      <MenuItem onClick={() => post({ intent: line.archived ? 'unarchive' : 'archive', ids: line.id })}>
        {t(line.archived ? 'weigh.unarchive' : 'weigh.archive')}
      </MenuItem>
      <MenuItem onClick={() => post({ intent: 'delete', ids: line.id })}>{t('weigh.delete')}</MenuItem>
    </Menu>
  );
}

/** Asks why; one reason for all of them. */
export function DropDialog({
  lines,
  base,
  onClose,
}: {
  lines: readonly CandidateLine[];
  base: string;
  onClose: () => void;
}) {
  const { t } = useWords();
  const [first] = lines;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <Form method="post" action={`${base}/weigh`} onSubmit={onClose}>
        <DialogTitle>
          {lines.length === 1
            ? t('weigh.dropTitle', { name: first?.name })
            : t('weigh.dropMany', { count: lines.length })}
        </DialogTitle>
        <DialogContent>
          <input type="hidden" name="intent" value="drop" />
          <input type="hidden" name="ids" value={lines.map((l) => l.id).join(',')} />
          <TextField
            name="reason"
            label={t('weigh.reason')}
            autoFocus
            margin="dense"
            slotProps={{ htmlInput: { maxLength: 300 } }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{t('cancel')}</Button>
          <Button type="submit" variant="contained">
            {t('weigh.drop')}
          </Button>
        </DialogActions>
      </Form>
    </Dialog>
  );
}

/** The candidates that are ticked, and what can be done with all of them. */
export function Ticked({
  lines,
  base,
  onDrop,
  onUntick,
  post,
}: {
  lines: readonly CandidateLine[];
  base: string;
  onDrop: () => void;
  onUntick: () => void;
  post: Post;
}) {
  const { t } = useWords();
  const ids = lines.map((l) => l.id).join(',');
  const name = t('weigh.ticked', { count: lines.length });
  const then = (intent: string) => () => {
    post({ intent, ids });
    onUntick();
  };
  const all = (has: (l: CandidateLine) => boolean): boolean => lines.every(has);
  return (
    <Box
      role="toolbar"
      aria-label={name}
      sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
      <b>{name}</b>
      {all((l) => l.dropped === null) && (
        <Button size="small" variant="outlined" onClick={onDrop}>
          {t('weigh.drop')}
        </Button>
      )}
      {all((l) => l.dropped !== null) && (
        <Button size="small" variant="outlined" onClick={then('undrop')}>
          {t('weigh.undrop')}
        </Button>
      )}
      {all((l) => !l.archived) && (
        <Button size="small" onClick={then('archive')}>
          {t('weigh.archive')}
        </Button>
      )}
      {all((l) => l.archived) && (
        <Button size="small" onClick={then('unarchive')}>
          {t('weigh.unarchive')}
        </Button>
      )}
      {all((l) => l.dropped === null && !l.archived) && (
        <Button
          component={Link}
          to={`${base}/order/new?candidates=${lines.map((l) => l.id).join(',')}`}
          size="small">
          {t('weigh.order')}
        </Button>
      )}
      <Button size="small" onClick={then('delete')}>
        {t('weigh.delete')}
      </Button>
      <Button size="small" onClick={onUntick}>
        {t('weigh.untick')}
      </Button>
    </Box>
  );
}
