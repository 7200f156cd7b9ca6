/** A card's name, its versions, and what can be done with it. */
import { Alert, Box, Button, Chip, Menu, MenuItem, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, type useFetcher } from 'react-router';
import type { CardData } from '../../../core/cards/schema.ts';
import { sheetsOf } from '../../../core/cards/tables.ts';
import { useFormat } from '../../ui/locale.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { ImportPreview } from './ImportPreview.tsx';
import type { Version, Props, Answer } from './Rates.tsx';
import { daysBetween } from '../../../core/money/days.ts';
import { useWords } from '../../ui/useWords.ts';

type Fetcher = ReturnType<typeof useFetcher<Answer>>;
/** Name, versions, and what one can do with a card. */
export function CardHead({
  versions,
  chosen,
  against,
  label,
  today,
  canEdit,
  fetcher,
  outside,
  base,
}: Props & { chosen: Version & { data: CardData }; label: string; fetcher: Fetcher }) {
  const { t } = useWords();
  const f = useFormat();
  const [, setAddress] = useAddress();
  const [dismissed, setDismissed] = useState<unknown>(null);
  const own = versions.filter((v) => v.kind === chosen.kind && v.key === chosen.key);
  const post = (body: Record<string, string>): void =>
    void fetcher.submit({ id: chosen.id, ...body }, { method: 'post' });
  const state = chosen.withdrawn
    ? t('cards.withdrawn')
    : chosen.inForceFrom > today
      ? t('cards.notYet', { date: f.day(chosen.inForceFrom) })
      : t('cards.inForce', { date: f.day(chosen.inForceFrom) });
  const days = daysBetween(chosen.inForceFrom, today);
  const said = fetcher.data !== dismissed ? fetcher.data : undefined;
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'baseline', mb: 1, flexWrap: 'wrap' }}>
        <Typography variant="h2" dir="auto">
          {label}
        </Typography>
        {own.length > 1 ? (
          <Box
            component="select"
            aria-label={t('cards.version')}
            value={chosen.id}
            onChange={(e: { target: { value: string } }) => setAddress({ card: e.target.value, with: null })}
            sx={{
              font: 'inherit',
              fontSize: '0.88rem',
              color: 'text.secondary',
              bgcolor: 'background.paper',
              border: 0,
              borderBottom: '1.5px solid',
              borderColor: 'fieldLine',
            }}>
            {own.map((v) => (
              <option key={v.id} value={v.id}>
                {v.withdrawn
                  ? `${f.day(v.inForceFrom)}, ${t('cards.withdrawn')}`
                  : v.inForceFrom > today
                    ? t('cards.notYet', { date: f.day(v.inForceFrom) })
                    : t('cards.inForce', { date: f.day(v.inForceFrom) })}
              </option>
            ))}
          </Box>
        ) : (
          <Typography color="text.secondary">{state}</Typography>
        )}
        {chosen.kind === 'exchange' && days >= 0 && (
          <Typography variant="body2" color={days > 14 ? 'error' : 'text.secondary'}>
            {days === 0 ? t('cards.ageToday') : t('cards.age', { days })}
          </Typography>
        )}
        {chosen.example && <Chip size="small" variant="outlined" label={t('cards.example')} />}
        <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5, alignItems: 'center', flexWrap: 'wrap' }}>
          {canEdit && chosen.kind === 'exchange' && outside && (
            <Button
              size="small"
              variant="contained"
              disabled={fetcher.state !== 'idle'}
              onClick={() => post({ intent: 'fetchRates' })}>
              {t('cards.fetchRates')}
            </Button>
          )}
          {canEdit && chosen.kind === 'freight' && outside && (
            <Button
              size="small"
              disabled={fetcher.state !== 'idle'}
              onClick={() => post({ intent: 'freightQuote' })}>
              {t('cards.freightQuote')}
            </Button>
          )}
          {canEdit && (
            <Button
              size="small"
              variant={chosen.kind === 'exchange' ? 'text' : 'contained'}
              onClick={() => post({ intent: 'next' })}>
              {t('cards.next')}
            </Button>
          )}
          {canEdit && chosen.kind === 'marketplace' && (
            <Button component={Link} to={`${base}/rates/read?card=${chosen.id}`} size="small">
              {t('read.into1')}
            </Button>
          )}
          {canEdit && <ImportFile cardId={chosen.id} fetcher={fetcher} />}
          <CardMenus
            chosen={chosen}
            others={own.filter((v) => v.id !== chosen.id)}
            base={base}
            canEdit={canEdit}
            post={post}
          />
        </Box>
      </Box>
      {against !== null && (
        <Box sx={{ mb: 1 }}>
          <Button size="small" onClick={() => setAddress({ with: null })}>
            {t('touch.back')}
          </Button>
        </Box>
      )}
      {chosen.withdrawn && (
        <Alert severity="warning" variant="outlined" sx={{ mb: 1 }}>
          {t('cards.withdrawnText')}
        </Alert>
      )}
      {said?.fetched !== undefined && (
        <Fetched fetched={said.fetched} base={base} onClose={() => setDismissed(fetcher.data)} />
      )}
      {said !== undefined &&
        (said.preview !== undefined ||
          said.errors !== undefined ||
          said.rates !== undefined ||
          said.rateErrors !== undefined) && (
          <ImportPreview
            answer={said}
            cardId={chosen.id}
            busy={fetcher.state !== 'idle'}
            submit={(body) => void fetcher.submit(body, { method: 'post', encType: 'application/json' })}
            onClose={() => setDismissed(fetcher.data)}
          />
        )}
    </>
  );
}

/** Takes a card's tables from a file. */
function ImportFile({ cardId, fetcher }: { cardId: string; fetcher: Fetcher }) {
  const { t } = useWords();
  return (
    <Box
      component="label"
      sx={{
        position: 'relative',
        fontSize: '0.82rem',
        fontWeight: 600,
        px: 0.75,
        py: 0.5,
        borderRadius: 1,
        cursor: 'pointer',
        '&:hover': { bgcolor: 'paperTint' },
        '&:focus-within': { outline: '2px solid', outlineColor: 'primary.main', outlineOffset: 2 },
      }}>
      {t('cards.importTitle')}
      <input
        type="file"
        accept=".xlsx,.csv,.json,.xml,text/csv,application/json"
        aria-label={t('cards.importTitle')}
        style={{ position: 'absolute', inset: 0, opacity: 0, cursor: 'pointer' }}
        onChange={(e) => {
          const chosenFile = e.target.files?.[0];
          if (chosenFile === undefined) return;
          const form = new FormData();
          form.set('intent', 'import');
          form.set('id', cardId);
          form.set('file', chosenFile);
          void fetcher.submit(form, { method: 'post', encType: 'multipart/form-data' });
          e.target.value = '';
        }}
      />
    </Box>
  );
}

/** Files of a card to take along, and what else can be done with it. */
function CardMenus({
  chosen,
  others,
  base,
  canEdit,
  post,
}: {
  chosen: Version;
  others: readonly Version[];
  base: string;
  canEdit: boolean;
  post: (body: Record<string, string>) => void;
}) {
  const { t } = useWords();
  const f = useFormat();
  const [, setAddress] = useAddress();
  const [menu, setMenu] = useState<{ el: HTMLElement; which: 'more' | 'export' } | null>(null);
  const file = (as: string, sheet = ''): string =>
    `rates/file?card=${chosen.id}&as=${as}${sheet === '' ? '' : `&sheet=${sheet}`}`;
  return (
    <>
      <Button
        size="small"
        onClick={(e) => setMenu({ el: e.currentTarget, which: 'export' })}
        aria-haspopup="menu">
        {t('cards.exportTitle')}
      </Button>
      <Button
        size="small"
        onClick={(e) => setMenu({ el: e.currentTarget, which: 'more' })}
        aria-haspopup="menu">
        {t('cards.more')}
      </Button>
      <Menu
        open={menu?.which === 'export'}
        anchorEl={menu?.el ?? null}
        onClose={() => setMenu(null)}
        onClick={() => setMenu(null)}>
        <MenuItem component="a" href={file('xlsx')}>
          {t('cards.exportXlsx')}
        </MenuItem>
        <MenuItem component="a" href={file('json')}>
          {t('cards.exportJson')}
        </MenuItem>
        {sheetsOf(chosen.kind).map((s) => (
          <MenuItem key={s.key} component="a" href={file('csv', s.key)}>
            {t('cards.exportCsv', { sheet: t(`cards.sheet.${s.key}`) })}
          </MenuItem>
        ))}
      </Menu>
      <Menu
        open={menu?.which === 'more'}
        anchorEl={menu?.el ?? null}
        onClose={() => setMenu(null)}
        onClick={() => setMenu(null)}>
        <MenuItem component={Link} to={`${base}/rates/touch?card=${chosen.id}`}>
          {t('cards.touches')}
        </MenuItem>
        {others.map((v) => (
          <MenuItem key={v.id} onClick={() => setAddress({ card: chosen.id, with: v.id })}>
            {t('cards.compare')} {f.day(v.inForceFrom)}
          </MenuItem>
        ))}
        {canEdit && <MenuItem onClick={() => post({ intent: 'copy' })}>{t('cards.copy')}</MenuItem>}
        {canEdit && (
          <MenuItem onClick={() => post({ intent: chosen.withdrawn ? 'putBack' : 'withdraw' })}>
            {t(chosen.withdrawn ? 'cards.putBack' : 'cards.withdraw')}
          </MenuItem>
        )}
      </Menu>
    </>
  );
}

/** What fetching rates came to. */
function Fetched({
  fetched,
  base,
  onClose,
}: {
  fetched: NonNullable<Answer['fetched']> | null;
  base: string;
  onClose: () => void;
}) {
  const { t } = useWords();
  return (
    <Alert
      severity={fetched === null ? 'warning' : fetched.stale ? 'warning' : 'info'}
      variant="outlined"
      sx={{ mb: 1 }}
      onClose={onClose}>
      {fetched === null
        ? t('cards.fetchFailed')
        : t(fetched.stale ? 'cards.fetchStale' : 'cards.fetched', {
            at: fetched.at.replace('T', ' ').slice(0, 16),
          })}
      {fetched?.card != null && !fetched.stale && (
        <Box
          component={Link}
          to={`${base}/rates/touch?card=${fetched.card}`}
          sx={{ color: 'inherit', ml: 1 }}>
          {t('cards.fetchedLanes')}
        </Box>
      )}
    </Alert>
  );
}
