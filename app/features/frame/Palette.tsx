/** The command bar, opened. */
import { Box, Dialog, InputBase, List, ListItemButton, ListItemText } from '@mui/material';
import { useEffect, useLayoutEffect, useMemo, useState } from 'react';
import { useFetcher, useNavigate } from 'react-router';
import { useAnything } from '../find/useAnything.ts';
import { useWords } from '../../ui/useWords.ts';

const PLACES = ['find', 'weigh', 'fund', 'order', 'selling', 'rates', 'settings'] as const;

type Found = { key: string; label: string; hint: string; to: string; isPage?: boolean };

/** Search and commands in one place: type, choose with the arrow keys, Enter. */
export default function Palette({
  base,
  started,
  onClose,
}: {
  base: string;
  /** What was typed, and whether Enter was pressed, before this stood here. */
  started: { text: string; enter: boolean };
  onClose: () => void;
}) {
  const { t } = useWords();
  const navigate = useNavigate();
  const fetcher = useFetcher<{ names: { id: string; name: string }[] }>({ key: 'names' });
  const [text, setText] = useState(started.text);
  const [at, setAt] = useState(0);
  // Enter pressed before the names have come goes on as soon as they have.
  const [waiting, setWaiting] = useState(started.enter);
  // Keys pressed between the first drawing of this and the moment it stands went to the field that was there before.
  useLayoutEffect(() => {
    setText(started.text);
    if (started.enter) setWaiting(true);
  }, [started]);
  if (fetcher.state === 'idle' && fetcher.data === undefined) void fetcher.load(`${base}/names`);
  const all = useMemo<Found[]>(
    () => [
      ...PLACES.map((p) => ({
        key: p,
        label: t('palette.go', { place: t(`nav.${p}`) }),
        hint: '',
        to: `${base}/${p}`,
      })),
      { key: 'lists', label: t('find.lists'), hint: '', to: `${base}/lists` },
      { key: 'shop', label: t('palette.shop'), hint: '', to: `${base}/lists/shop` },
      { key: 'sellers', label: t('palette.sellers'), hint: '', to: `${base}/find/seller` },
      { key: 'suppliers', label: t('palette.suppliers'), hint: '', to: `${base}/suppliers` },
      { key: 'export', label: t('settings.export'), hint: '', to: `${base}/settings#export` },
      ...(fetcher.data?.names ?? []).map((c) => ({
        key: c.id,
        label: c.name,
        hint: t('palette.candidate'),
        to: `${base}/weigh/${c.id}`,
      })),
    ],
    [fetcher.data, base, t],
  );
  const anything = useAnything(base, text);
  const named = all.filter((x) => x.label.toLowerCase().includes(text.trim().toLowerCase()));
  const others = anything.ways.filter((w) => named.every((x) => x.key !== w.key));
  const found: Found[] = [...named, ...others].slice(0, 12);
  const go = (x: Found | undefined) => {
    if (x === undefined) return;
    onClose();
    if (x.isPage === true) window.location.assign(x.to);
    else void navigate(x.to);
  };
  /** A field of one line drops the ends of lines: rows go on as rows. */
  const takeRows = (e: { clipboardData: DataTransfer; preventDefault: () => void }): void => {
    const pasted = e.clipboardData.getData('text');
    if (!/[\n\t]/.test(pasted.trim())) return;
    e.preventDefault();
    onClose();
    void navigate(`${base}/find`, { state: { pasted } });
  };
  const first = found[0];
  useEffect(() => {
    if (!waiting || fetcher.data === undefined) return;
    setWaiting(false);
    if (first !== undefined) {
      onClose();
      void navigate(first.to);
    }
  }, [waiting, fetcher.data, first, navigate, onClose]);
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      aria-label={t('nav.search')}
      sx={{ '& .MuiDialog-container': { alignItems: 'flex-start', pt: 8 } }}>
      <InputBase
        autoFocus
        value={text}
        placeholder={t('nav.search')}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onPaste={takeRows}
        inputProps={{
          'aria-label': t('nav.search'),
          role: 'combobox',
          'aria-expanded': true,
          'aria-controls': 'palette-list',
          'aria-activedescendant': found[at] ? `palette-${found[at].key}` : undefined,
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown') {
            e.preventDefault();
            setAt(Math.min(at + 1, found.length - 1));
          } else if (e.key === 'ArrowUp') {
            e.preventDefault();
            setAt(Math.max(at - 1, 0));
          } else if (e.key === 'Enter') {
            e.preventDefault();
            fetcher.data === undefined && named.length === 0 ? setWaiting(true) : go(found[at]);
          }
        }}
        sx={{ px: 2, py: 1.25, fontSize: '1.05rem', borderBottom: '1px solid', borderColor: 'hairline' }}
      />
      {[anything.is, ...anything.wrong].filter(Boolean).map((said) => (
        <Box key={said} role="status" sx={{ px: 2, pt: 1, color: 'text.secondary', fontSize: '0.88rem' }}>
          {said}
        </Box>
      ))}
      <List id="palette-list" role="listbox" dense>
        {found.map((x, i) => (
          <ListItemButton
            key={x.key}
            id={`palette-${x.key}`}
            role="option"
            aria-selected={i === at}
            selected={i === at}
            onClick={() => go(x)}>
            <ListItemText primary={x.label} secondary={x.hint || null} />
          </ListItemButton>
        ))}
        {named.length === 0 && (found.length === 0 || anything.recognised.kind === 'words') && (
          <Box sx={{ px: 2, py: 1, color: 'text.secondary' }}>{t('palette.nothing')}</Box>
        )}
      </List>
    </Dialog>
  );
}
