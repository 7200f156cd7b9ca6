/** The menus of a list: saved views, and files of what is shown. */
import { Box, Menu, MenuItem } from '@mui/material';
import { DEFAULT_LOOK, searchOf } from '../../../core/lists/query.ts';
import type { ListLook, ListQuery } from '../../../core/lists/query.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import type { View } from './listData.ts';
import { useWords } from '../../ui/useWords.ts';

type At = { el: HTMLElement | null; onClose: () => void };

export function ViewMenu({
  el,
  onClose,
  views,
  canEdit,
  onApply,
  onRemove,
  onColumns,
  onSave,
}: At & {
  views: readonly View[];
  canEdit: boolean;
  onApply: (look: ListLook, assumptions: ListSettings['assumptions'] | null) => void;
  onRemove: (id: string) => void;
  onColumns: () => void;
  onSave: () => void;
}) {
  const { t } = useWords();
  const then = (what: () => void) => () => {
    onClose();
    what();
  };
  return (
    <Menu open={el !== null} anchorEl={el} onClose={onClose}>
      <MenuItem onClick={then(() => onApply(DEFAULT_LOOK, null))}>{t('list.ready')}</MenuItem>
      {views.map((v) => (
        <MenuItem key={v.id} onClick={then(() => onApply(v.look, v.assumptions))}>
          {v.name}
          {canEdit && (
            <Box
              component="button"
              type="button"
              aria-label={t('list.deleteView', { name: v.name })}
              onClick={(e) => {
                e.stopPropagation();
                onRemove(v.id);
              }}
              sx={{
                ml: 'auto',
                pl: 2,
                border: 0,
                bgcolor: 'transparent',
                color: 'text.secondary',
                font: 'inherit',
                cursor: 'pointer',
              }}>
              ×
            </Box>
          )}
        </MenuItem>
      ))}
      <MenuItem divider disabled sx={{ minHeight: 0, py: 0 }} />
      <MenuItem onClick={then(onColumns)}>{t('list.columns')}</MenuItem>
      {canEdit && <MenuItem onClick={then(onSave)}>{t('list.saveView')}</MenuItem>}
    </Menu>
  );
}

/** `tried`: assumptions that are seen and not saved; they go along, so that the file is what is seen. */
export function ExportMenu({
  el,
  onClose,
  url,
  query,
  tried,
}: At & { url: string; query: ListQuery; tried: ListSettings | null }) {
  const { t } = useWords();
  const files = (what: string, as: string): string =>
    `${url}/file?${new URLSearchParams([...searchOf(query), ['what', what], ['as', as]]).toString()}`;
  return (
    <Menu open={el !== null} anchorEl={el} onClose={onClose}>
      {(
        [
          ['shown', 'exportShown'],
          ['all', 'exportAll'],
          ['shortlist', 'exportShort'],
        ] as const
      ).flatMap(([what, word]) =>
        (['csv', 'xlsx', 'parquet'] as const).map((as) => (
          <MenuItem
            key={what + as}
            component="a"
            href={files(what, as)}
            onClick={(e) => {
              onClose();
              if (tried === null) return;
              // What is tried goes along, so that the file is what is seen.
              e.preventDefault();
              postForm(files(what, as), { settings: JSON.stringify(tried) });
            }}
            dense>
            {t('list.as', {
              what: t(`list.${word}`),
              format: as === 'parquet' ? 'Parquet' : as.toUpperCase(),
            })}
          </MenuItem>
        )),
      )}
    </Menu>
  );
}

/** Sends a form whose answer is a file. */
function postForm(action: string, fields: Record<string, string>): void {
  const form = Object.assign(document.createElement('form'), { method: 'post', action });
  for (const [name, value] of Object.entries(fields))
    form.append(Object.assign(document.createElement('input'), { type: 'hidden', name, value }));
  document.body.append(form);
  form.submit();
  form.remove();
}
