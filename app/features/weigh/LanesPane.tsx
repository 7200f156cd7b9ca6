/** The lanes of a candidate beside its sheet. */
import { Box, Button, IconButton, MenuItem, Typography } from '@mui/material';
import { Menu } from '../../ui/later.tsx';
import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { memo, useRef, useState } from 'react';
import { FileField } from '../../ui/FileField.tsx';
import { Link, useFetcher } from 'react-router';
import { conversionsOf } from '../../../core/money/money.ts';
import { useBounds } from '../../ui/bounds.ts';
import { barExtent, MarginBar } from '../../ui/MarginBar.tsx';
import { useFormat } from '../../ui/locale.ts';
import { RatesUsed } from '../../ui/RatesUsed.tsx';
import { countryName } from '../../ui/names.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { useStore } from './store.ts';
import type { LaneView } from './useFigures.ts';
import { Pane } from './Pane.tsx';
import { MOST_SHOWN } from './panes.tsx';
import { useWords } from '../../ui/useWords.ts';

export const LanesPane = memo(function LanesPane({
  views,
  cardHeads,
  chosen,
  onChoose,
  base,
}: {
  views: readonly LaneView[];
  cardHeads: readonly { id: string; kind: string; name: string }[];
  chosen: string | null;
  onChoose: (id: string) => void;
  base: string;
}) {
  const { t } = useWords();
  const store = useStore();
  const fetcher = useFetcher<{ error?: string; undo?: unknown }>();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const [gone, setGone] = useState<{ row: unknown; name: string } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  // Of many lanes the first stand here, and the chosen one; the rest side by side on their own page.
  const first = views.slice(0, MOST_SHOWN);
  const own = views.find((v) => v.id === chosen);
  const shown = own === undefined || first.includes(own) ? first : [...first, own];
  const scale = Math.max(...shown.map((v) => (v.home === null ? 0 : barExtent(v.home))), 1e-9);
  const home = views[0]?.doc.homeCurrency ?? '';
  const { candidate } = store.get().state;
  const post = (body: Record<string, string>) =>
    void fetcher.submit(body, { method: 'post', action: `${base}/${candidate.id}` });
  const remove = useLatest((view: LaneView, name: string) => {
    setGone({ row: view.state, name });
    post({ intent: 'removeLane', id: view.id });
  });
  return (
    <Pane
      title={t('lanes.title')}
      aside={
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <span>{views.length > 0 ? t('lanes.scale', { currency: home }) : ''}</span>
          {views.length > 0 && (
            <Box
              component={Link}
              to={`${base}/${candidate.id}/compare`}
              sx={{
                ml: 'auto',
                color: 'inherit',
                display: 'inline-block',
                minHeight: 24,
                lineHeight: '24px',
              }}>
              {t('lanes.compare')}
            </Box>
          )}
          {store.canEdit && (
            <Button
              size="small"
              startIcon={<AddIcon />}
              sx={{ ml: views.length > 0 ? 0 : 'auto', py: 0 }}
              onClick={(e) => setMenu(e.currentTarget)}
              aria-haspopup="menu">
              {t('lanes.add')}
            </Button>
          )}
        </Box>
      }>
      <Menu
        open={menu !== null}
        anchorEl={menu}
        onClose={() => setMenu(null)}
        onClick={() => setMenu(null)}
        slotProps={{ paper: { sx: { maxHeight: 380 } } }}>
        <MenuItem component={Link} to={`${base}/${candidate.id}/add-lanes`}>
          {t('lanes.many')}
        </MenuItem>
        <MenuItem onClick={() => file.current?.click()}>{t('lanes.open')}</MenuItem>
        {cardHeads
          .filter((c) => c.kind === 'marketplace')
          .map((c) => (
            <MenuItem key={c.id} onClick={() => post({ intent: 'addLane', marketplaceCardId: c.id })}>
              {c.name}
            </MenuItem>
          ))}
      </Menu>
      <FileField
        ref={file}
        label={t('lanes.open')}
        accept="application/json,.json"
        onFile={(f) => void f.text().then((text) => post({ intent: 'openLane', document: text }))}
      />
      {fetcher.data?.error && (
        <Typography role="alert" color="error" variant="body2" sx={{ mb: 1 }}>
          {fetcher.data.error}
        </Typography>
      )}
      {gone !== null && (
        <Box role="status" sx={{ fontSize: '0.84rem', mb: 1 }}>
          {t('lanes.removed', { name: gone.name })}{' '}
          <Button
            size="small"
            onClick={() => {
              post({ intent: 'putLane', row: JSON.stringify(gone.row) });
              setGone(null);
            }}>
            {t('undo')}
          </Button>
        </Box>
      )}
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {shown.map((v) => (
          <LaneRow
            key={v.id}
            view={v}
            scale={scale}
            chosen={v.id === chosen}
            onChoose={onChoose}
            removable={store.canEdit && views.length > 1}
            onRemove={remove}
          />
        ))}
      </Box>
      <RatesUsed
        rates={conversionsOf(
          shown.map((v) => v.doc),
          home,
        )}
      />
      {views.length > shown.length && (
        <Box
          component={Link}
          to={`${base}/${candidate.id}/compare`}
          sx={{ display: 'inline-block', fontSize: '0.84rem', color: 'inherit', mt: 0.75 }}>
          {t('lanes.rest', { count: views.length - shown.length })}
        </Box>
      )}
    </Pane>
  );
});

const RemoveLane = memo(function RemoveLane({ name, onRemove }: { name: string; onRemove: () => void }) {
  const { t } = useWords();
  return (
    <IconButton size="small" aria-label={t('lanes.remove', { name })} onClick={onRemove}>
      <CloseIcon sx={{ fontSize: 14 }} />
    </IconButton>
  );
});

/** One lane on the scale of its neighbours. */
const LaneRow = memo(function LaneRow({
  view: v,
  scale,
  chosen,
  onChoose,
  removable,
  onRemove,
}: {
  view: LaneView;
  scale: number;
  chosen: boolean;
  onChoose: (id: string) => void;
  removable: boolean;
  onRemove: (view: LaneView, name: string) => void;
}) {
  const { t, i18n } = useWords();
  const f = useFormat();
  const profit = v.home?.figures.unitProfit ?? v.result.figures.unitProfit;
  const bounds = useBounds();
  const lacking = v.result.incomplete.unitProfit;
  const name = `${countryName(v.doc.country, i18n.language)} · ${v.doc.marketplace || t('sheet.noMarketplace')}`;
  const remove = useLatest(() => onRemove(v, name));
  return (
    <li className={chosen ? 'lane chosen' : 'lane'}>
      <button type="button" onClick={() => onChoose(v.id)} aria-current={chosen}>
        <span className="lane-where">
          <span>{countryName(v.doc.country, i18n.language)}</span>
          <small>
            {v.doc.marketplace || t('sheet.noMarketplace')} · {f.money(v.doc.price, v.doc.currency)}
          </small>
        </span>
        {v.home === null ? (
          <small>{t('lanes.noRate')}</small>
        ) : (
          <MarginBar result={v.home} scale={scale} height={12} />
        )}
        <span className="lane-keeps">
          <b className={profit === null ? 'unknown' : profit < 0 ? 'loses' : ''}>
            {profit === null ? '–' : bounds.of(f.plain(profit, v.home?.currency ?? v.doc.currency), lacking)}
          </b>
          <small>
            {profit === null
              ? t('lanes.unknown')
              : bounds.lacks(lacking)
                ? t('weigh.incomplete', { blanks: bounds.list(lacking ?? []) })
                : `${profit < 0 ? `${t('lanes.losesWord')} · ` : ''}${f.percent(v.result.figures.margin)}`}
          </small>
        </span>
      </button>
      {removable && <RemoveLane name={name} onRemove={remove} />}
    </li>
  );
});
