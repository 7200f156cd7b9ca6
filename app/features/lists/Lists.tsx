import {
  Alert,
  Box,
  Button,
  LinearProgress,
  Menu,
  MenuItem,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { FileField } from '../../ui/FileField.tsx';
import { Link, useFetcher, useNavigate, useRevalidator, useSubmit } from 'react-router';
import { MoreButton } from '../../ui/MoreButton.tsx';
import { useFormat } from '../../ui/locale.ts';
import { countryName } from '../../ui/names.ts';
import type { Tally } from './listData.ts';
import { useDrop, useUpload } from '../../ui/useUpload.ts';
import { useTally } from './useTally.ts';
import './words.ts';
import { useWords } from '../../ui/useWords.ts';

export type ListLine = {
  id: string;
  name: string;
  supplier: string | null;
  file: { name: string; bytes: number };
  isCatalogue: boolean;
  country: string | null;
  createdAt: string;
  state: 'new' | 'working' | 'ready' | 'cancelled' | 'failed';
  done: number;
  total: number;
  valid: number;
  invalid: number;
  error: string | null;
};
type Props = {
  lists: ListLine[];
  tally: Tally;
  usage: Usage;
  quota: Usage;
  /** Largest file that is taken in, in bytes. */
  largest: number;
  root: string;
  home: string;
  canEdit: boolean;
};
type Usage = { lists: number; bytes: number; rows: number };

/** All suppliers' lists with their state, and the place where a new one is dropped. */
export function ListsPage({ lists, tally, usage, quota, largest, root, home, canEdit }: Props) {
  const { t } = useWords();
  const f = useFormat();
  const navigate = useNavigate();
  const submit = useSubmit();
  const act = useFetcher<{ deleted?: string }>();
  const { revalidate } = useRevalidator();
  const [menu, setMenu] = useState<{ el: HTMLElement; line: ListLine } | null>(null);
  const [gone, setGone] = useState<ListLine | null>(null);
  const upload = useUpload(
    `${root}/lists/upload`,
    ({ id, sameAs }) =>
      void navigate(
        `${root}/lists/${id}/setup${sameAs === null ? '' : `?same=${encodeURIComponent(sameAs)}`}`,
      ),
    t('lists.broken'),
    { most: largest, text: t('lists.tooLarge', { most: f.number(largest / 1024 / 1024, 0) }) },
  );
  const over = useDrop(canEdit ? upload.send : null);
  const working = lists.some((l) => l.state === 'working');
  useEffect(() => {
    if (!working) return;
    const timer = setInterval(() => void revalidate(), 1000);
    return () => clearInterval(timer);
  }, [working, revalidate]);
  const ask = (intent: string, line: ListLine): void => {
    setMenu(null);
    setGone(intent === 'delete' ? line : null);
    if (intent === 'again' && line.isCatalogue)
      void submit(JSON.stringify({ again: line.id }), {
        method: 'post',
        action: `${root}/lists/shop`,
        encType: 'application/json',
      });
    else void act.submit({ intent, id: line.id }, { method: 'post' });
  };
  return (
    <Box sx={{ maxWidth: 1120 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap' }}>
        <Typography variant="h1">{t('lists.title')}</Typography>
        <Button component={Link} to={`${root}/find`} size="small" sx={{ ml: 'auto' }}>
          {t('lists.byHand')}
        </Button>
      </Box>
      <Typography color="text.secondary" sx={{ mb: 2, maxWidth: 720 }}>
        {t('lists.lead')}
      </Typography>
      {canEdit && <DropPlace over={over} upload={upload} shop={`${root}/lists/shop`} />}
      {upload.error !== null && (
        <Alert severity="error" sx={{ mb: 2 }}>
          {upload.error}
        </Alert>
      )}
      {gone !== null && act.data?.deleted === gone.id && (
        <Alert
          severity="info"
          sx={{ mb: 2 }}
          action={
            <Button size="small" onClick={() => ask('undelete', gone)}>
              {t('undo')}
            </Button>
          }>
          {t('lists.removed', { name: gone.name })}
        </Alert>
      )}
      {lists.length === 0 ? (
        <Typography color="text.secondary" sx={{ py: 4 }}>
          {t('lists.none')}
        </Typography>
      ) : (
        <Table
          size="small"
          sx={{
            '& .wide': { display: { xs: 'none', sm: 'table-cell' } },
            '& td, & th': { px: { xs: 0.5, sm: 1 } },
          }}>
          <TableHead>
            <TableRow>
              <TableCell>{t('lists.name')}</TableCell>
              <TableCell className="wide">{t('lists.supplier')}</TableCell>
              <TableCell align="right">{t('lists.rows')}</TableCell>
              <TableCell>{t('lists.state')}</TableCell>
              <TableCell align="right" className="wide">
                {t('lists.taken')}
              </TableCell>
              <TableCell sx={{ width: 44 }} />
            </TableRow>
          </TableHead>
          <TableBody>
            {lists.map((l) => (
              <ListRow
                key={l.id}
                l={l}
                root={root}
                onMenu={canEdit ? (el) => setMenu({ el, line: l }) : null}
              />
            ))}
          </TableBody>
        </Table>
      )}
      <TallyLine tally={tally} home={home} />
      <QuotaLine usage={usage} quota={quota} />
      <Menu open={menu !== null} anchorEl={menu?.el ?? null} onClose={() => setMenu(null)}>
        <MenuItem component={Link} to={`${root}/lists/${menu?.line.id}/setup`}>
          {t('lists.setup')}
        </MenuItem>
        {menu?.line.state === 'working' && (
          <MenuItem onClick={() => ask('cancel', menu.line)}>{t('lists.cancel')}</MenuItem>
        )}
        {menu !== null && menu.line.state !== 'new' && menu.line.state !== 'working' && (
          <MenuItem onClick={() => ask('again', menu.line)}>{t('lists.again')}</MenuItem>
        )}
        <MenuItem onClick={() => menu !== null && ask('delete', menu.line)}>{t('lists.remove')}</MenuItem>
      </Menu>
    </Box>
  );
}

/** Where a file is chosen or dropped, and how far the sending of one is. */
function DropPlace({
  over,
  upload,
  shop,
}: {
  over: boolean;
  /** Where a shop is chosen instead. */
  shop: string;
  upload: Pick<ReturnType<typeof useUpload>, 'now' | 'send' | 'stop'>;
}) {
  const { t } = useWords();
  const f = useFormat();
  const choose = useRef<HTMLInputElement>(null);
  const { now, send, stop } = upload;
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        flexWrap: 'wrap',
        px: 2,
        py: 1.75,
        mb: 2,
        bgcolor: 'background.paper',
        border: '1.5px dashed',
        borderColor: over ? 'primary.main' : 'fieldLine',
        borderRadius: 1.5,
      }}>
      <Button
        variant="contained"
        color="primary"
        onClick={() => choose.current?.click()}
        disabled={now !== null}>
        {t('lists.choose')}
      </Button>
      <FileField ref={choose} label={t('lists.choose')} accept=".csv,.tsv,.txt,.xlsx" onFile={send} />
      <Box sx={{ fontSize: '0.9rem' }}>
        {over ? <b>{t('lists.dropNow')}</b> : t('lists.drop')}
        <Box component="span" sx={{ color: 'text.secondary', ml: 1 }}>
          {t('lists.limits')}
        </Box>
      </Box>
      <Button component={Link} to={shop} sx={{ ml: 'auto' }}>
        {t('shops.way')}
      </Button>
      {now !== null && (
        <Box role="status" sx={{ ml: 'auto', minWidth: 260, fontSize: '0.84rem' }}>
          {t('lists.sending', { name: now.name, share: f.percent(now.share, 0) })}{' '}
          <Button size="small" onClick={stop}>
            {t('lists.stop')}
          </Button>
          <LinearProgress variant="determinate" value={now.share * 100} aria-label={now.name} />
        </Box>
      )}
    </Box>
  );
}

/** A list: its file, supplier, rows and how far it is. */
function ListRow({
  l,
  root,
  onMenu,
}: {
  l: ListLine;
  root: string;
  onMenu: ((el: HTMLElement) => void) | null;
}) {
  const { t, i18n } = useWords();
  const f = useFormat();
  return (
    <TableRow hover>
      <TableCell sx={{ maxWidth: { xs: 150, sm: 380 } }}>
        <Box
          component={Link}
          to={`${root}/lists/${l.id}${l.state === 'new' ? '/setup' : ''}`}
          sx={{
            color: 'text.primary',
            fontWeight: 640,
            textDecoration: 'none',
            '&:hover': { textDecoration: 'underline' },
          }}>
          {l.name}
        </Box>
        <Box sx={{ fontSize: '0.76rem', color: 'text.secondary', overflowWrap: 'anywhere' }}>
          {l.file.name}
          {l.country === null ? '' : ` · ${countryName(l.country, i18n.language)}`}
        </Box>
      </TableCell>
      <TableCell className="wide">{l.supplier ?? t('lists.noSupplier')}</TableCell>
      <TableCell align="right">
        {l.valid + l.invalid === 0 ? '–' : f.number(l.valid, 0)}
        {l.invalid > 0 && (
          <Box component="span" sx={{ display: 'block', fontSize: '0.76rem', color: 'text.secondary' }}>
            {t('lists.invalidToo', { count: l.invalid })}
          </Box>
        )}
      </TableCell>
      <TableCell sx={{ minWidth: { sm: 200 } }}>
        {t(`lists.states.${l.state}`, {
          done: f.number(l.done, 0),
          total: f.number(Math.max(l.done, l.total), 0),
        })}
        {l.state === 'working' && (
          <LinearProgress
            variant={l.total === 0 ? 'indeterminate' : 'determinate'}
            value={l.total === 0 ? 0 : Math.min(100, (100 * l.done) / l.total)}
            aria-label={l.name}
            sx={{ mt: 0.5 }}
          />
        )}
        {l.state === 'failed' && (
          <Box sx={{ fontSize: '0.78rem', color: 'error.main', maxWidth: 340 }}>{l.error}</Box>
        )}
      </TableCell>
      <TableCell align="right" className="wide">
        {f.dayShort(l.createdAt.slice(0, 10))}
      </TableCell>
      <TableCell>
        {onMenu !== null && <MoreButton label={t('lists.more', { name: l.name })} onOpen={onMenu} />}
      </TableCell>
    </TableRow>
  );
}

/** What was decided across all lists. */
function TallyLine({ tally, home }: { tally: Tally; home: string }) {
  const { t } = useWords();
  const f = useFormat();
  const adds = useTally(tally, home);
  return (
    tally.kept + tally.ordered + tally.shortlisted + tally.dropped > 0 && (
      <Typography variant="body2" sx={{ mt: 2 }}>
        {t('lists.tally', {
          kept: f.number(tally.kept + tally.ordered, 0),
          shortlisted: f.number(tally.shortlisted, 0),
          dropped: f.number(tally.dropped, 0),
        })}{' '}
        {adds.amount !== null && t('lists.tallyProfit', { amount: adds.amount })}
        {adds.amount !== null && `${adds.unknown}.`}
      </Typography>
    )
  );
}

/** How much of the workspace's room is taken, once little is left. */
function QuotaLine({ usage, quota }: { usage: Usage; quota: Usage }) {
  const { t } = useWords();
  const f = useFormat();
  return (
    (Object.keys(quota) as (keyof Usage)[]).some((k) => usage[k] > quota[k] * 0.7) && (
      <Alert severity="warning" variant="outlined" sx={{ mt: 2 }}>
        {t('lists.quota', {
          lists: f.number(usage.lists, 0),
          ofLists: f.number(quota.lists, 0),
          gb: f.number(usage.bytes / 1e9, 1),
          ofGb: f.number(quota.bytes / 1e9, 0),
          rows: f.number(usage.rows, 0),
          ofRows: f.number(quota.rows, 0),
        })}
      </Alert>
    )
  );
}
