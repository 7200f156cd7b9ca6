import {
  Alert,
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  IconButton,
  Menu,
  MenuItem,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import DownIcon from '@mui/icons-material/ExpandMore';
import MoreIcon from '@mui/icons-material/MoreHoriz';
import { Fragment, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Form, Link, useSubmit } from 'react-router';
import type { GateState } from '../../../core/workspace/summary.ts';
import type { Gate } from '../../../core/workspace/records.ts';
import { boundWithout } from '../../../core/lane/bounds.ts';
import { barExtent, MarginBar } from '../../ui/MarginBar.tsx';
import type { BarResult } from '../../ui/MarginBar.tsx';
import { parseNumber } from '../../ui/parseNumber.ts';
import { useFormat } from '../../ui/locale.ts';
import { RatesUsed } from '../../ui/RatesUsed.tsx';
import { TableFile } from '../../ui/TableFile.tsx';
import type { TableToSave } from '../../ui/TableFile.tsx';
import { countryName } from '../../ui/names.ts';
import { useAddress } from '../../ui/useAddress.ts';
import { perHundred, LaneCells, Gates } from './WeighCells.tsx';
import { Limit, Pick, Empty } from './WeighLimits.tsx';

export type LaneLine = {
  id: string;
  country: string;
  marketplace: string;
  currency: string;
  bar: BarResult;
  margin: number | null;
  roi: number | null;
  breakEven: number | null;
  mostToPay: number | null;
  mostToPayCurrency: string;
  launchCash: number | null;
  launchLacks: readonly string[];
  missed: { figure: string; verdict: string }[];
  cleared: boolean;
  blanks: readonly string[];
  problems: string[];
  stale: boolean;
  quoteDate: string | null;
  complete: number;
};
export type CandidateLine = {
  id: string;
  name: string;
  way: string;
  stage: string;
  tags: string[];
  archived: boolean;
  dropped: string | null;
  score: number | null;
  changed: string;
  gates: Record<Gate, GateState>;
  best: number;
  laneCount: number;
  lanes: LaneLine[];
};
type Props = {
  lines: CandidateLine[];
  rates: Parameters<typeof RatesUsed>[0]['rates'];
  homeCurrency: string;
  toSpend: number | null;
  today: string;
  base: string;
  canEdit: boolean;
};

const SORTS = ['keeps', 'margin', 'roi', 'launch', 'name', 'changed'] as const;
type Sort = (typeof SORTS)[number];

export function WeighList({ lines, rates, homeCurrency, toSpend, base, canEdit }: Props) {
  const { t, i18n } = useTranslation();
  const f = useFormat();
  const [search, set] = useAddress();
  const submit = useSubmit();
  const [menu, setMenu] = useState<{ el: HTMLElement; line: CandidateLine } | null>(null);
  const [dropping, setDropping] = useState<CandidateLine | null>(null);

  const show = search.get('show') ?? 'live';
  const shelf = lines.filter((l) =>
    show === 'archived'
      ? l.archived
      : show === 'dropped'
        ? l.dropped !== null
        : !l.archived && l.dropped === null,
  );
  const best = (l: CandidateLine): LaneLine | undefined => l.lanes[l.best];
  const profit = (l: CandidateLine) => best(l)?.bar.figures.unitProfit ?? null;
  const bound = (key: string) => {
    const n = parseNumber(search.get(key) ?? '', f.locale);
    return n.kind === 'number' ? n.value : null;
  };
  const keeps = bound('keeps');
  const launch = bound('launch');
  // Each limit by itself, so that it can say what it takes away.
  const tests: Record<string, (l: CandidateLine) => boolean> = {
    q: (l) => l.name.toLowerCase().includes((search.get('q') ?? '').toLowerCase()),
    way: (l) => !search.get('way') || l.way === search.get('way'),
    stage: (l) => !search.get('stage') || l.stage === search.get('stage'),
    tag: (l) => !search.get('tag') || l.tags.includes(search.get('tag') as string),
    keeps: (l) => keeps === null || (profit(l) ?? Number.NEGATIVE_INFINITY) >= keeps,
    launch: (l) => launch === null || (best(l)?.launchCash ?? Number.POSITIVE_INFINITY) <= launch,
  };
  const tableOf = (list: readonly CandidateLine[]): TableToSave => ({
    name: t('nav.weigh'),
    columns: [
      t('weigh.candidate'),
      t('form.country'),
      t('family.marketplace'),
      t('weigh.keeps', { currency: homeCurrency }),
      t('figure.margin'),
      t('figure.roi'),
      t('form.currency'),
      t('weigh.breaksEven'),
      t('form.currency'),
      t('weigh.payAtMost'),
      t('weigh.launchCash', { currency: homeCurrency }),
      t('bound.column'),
    ].map((title, i) => ({ title, percent: i === 4 || i === 5 })),
    rows: list.map((l) => {
      const b = best(l);
      return [
        l.name,
        b?.country ?? null,
        b?.marketplace ?? null,
        b?.bar.currency === homeCurrency ? b.bar.figures.unitProfit : null,
        b?.margin ?? null,
        b?.roi ?? null,
        b?.currency ?? null,
        b?.breakEven ?? null,
        b?.mostToPayCurrency ?? null,
        b?.mostToPay ?? null,
        b?.launchCash ?? null,
        b === null || b === undefined
          ? null
          : t(`bound.word.${boundWithout(b.bar.incomplete.unitProfit ?? [], 'atMost') ?? 'whole'}`),
      ];
    }),
  });
  const takes = (key: string) =>
    shelf.filter((l) => Object.entries(tests).every(([k, ok]) => k === key || ok(l)) && !tests[key]?.(l))
      .length;
  const sort = (SORTS as readonly string[]).includes(search.get('sort') ?? '')
    ? (search.get('sort') as Sort)
    : 'keeps';
  const down = search.get('down') !== '0';
  const key = (l: CandidateLine): number | string => {
    switch (sort) {
      case 'name':
        return l.name.toLowerCase();
      case 'changed':
        return l.changed;
      case 'keeps':
        return profit(l) ?? -1e18;
      case 'margin':
        return best(l)?.margin ?? -1e18;
      case 'roi':
        return best(l)?.roi ?? -1e18;
      case 'launch':
        return best(l)?.launchCash ?? -1e18;
    }
  };
  const shown = shelf
    .filter((l) => Object.values(tests).every((ok) => ok(l)))
    .sort((a, b) => (key(a) < key(b) ? 1 : key(a) > key(b) ? -1 : 0) * (down ? 1 : -1));
  const hundred = search.get('bars') !== 'money';
  const openId = search.get('open');
  const barOf = (x: LaneLine) => (hundred ? perHundred(x.bar) : x.bar);
  const scale = Math.max(
    1e-9,
    ...shown.flatMap((l) =>
      (l.id === openId ? l.lanes : l.lanes.filter((_, i) => i === l.best)).map((x) => barExtent(barOf(x))),
    ),
  );
  const cleared = lines.filter((l) => !l.archived && l.dropped === null && best(l)?.cleared).length;
  const tags = [...new Set(lines.flatMap((l) => l.tags))].sort();
  const done = search.get('done');
  const post = (body: Record<string, string>) =>
    void submit(body, { method: 'post', action: `${base}/weigh` });
  const head = (name: Sort, label: string, align: 'left' | 'right' = 'right', width?: string) => (
    <TableCell
      align={align}
      aria-sort={sort === name ? (down ? 'descending' : 'ascending') : 'none'}
      sx={{
        width: { md: width ?? 'auto' },
        lineHeight: 1.25,
        display: name === 'launch' || name === 'roi' ? { xs: 'none', md: 'table-cell' } : undefined,
      }}>
      <Box
        component="button"
        type="button"
        onClick={() => set({ sort: name, down: sort === name && down ? '0' : null })}
        sx={{
          font: 'inherit',
          color: 'inherit',
          border: 0,
          p: 0,
          bgcolor: 'transparent',
          cursor: 'pointer',
          fontWeight: sort === name ? 700 : 400,
        }}>
        {label}
        {sort === name ? (down ? ' ↓' : ' ↑') : ''}
      </Box>
    </TableCell>
  );

  return (
    <Box sx={{ maxWidth: 1240 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, mb: 1.5, flexWrap: 'wrap' }}>
        <Typography variant="h1">{t('nav.weigh')}</Typography>
        <Typography color="text.secondary">
          {t('weigh.summary', { count: shelf.length })} · {t('weigh.cleared', { count: cleared })}
          {toSpend !== null && <> · {t('weigh.toSpend', { amount: f.money(toSpend, homeCurrency) })}</>}
        </Typography>
        <Button component={Link} to={`${base}/suppliers`} sx={{ ml: 'auto' }}>
          {t('palette.suppliers')}
        </Button>
        {canEdit && (
          <Button component={Link} to={`${base}/find`} variant="contained">
            {t('weigh.new')}
          </Button>
        )}
      </Box>
      {done !== null && (
        <Alert
          severity="info"
          sx={{ mb: 1.5 }}
          onClose={() => set({ done: null, ids: null })}
          action={
            <Button size="small" onClick={() => post({ intent: `un${done}`, ids: search.get('ids') ?? '' })}>
              {t('undo')}
            </Button>
          }>
          {t(`weigh.done.${done}`)}
        </Alert>
      )}
      {lines.length === 0 ? (
        <Empty base={base} canEdit={canEdit} />
      ) : (
        <>
          <Box
            sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1.5, alignItems: 'center' }}
            role="search">
            <Limit
              label={t('weigh.words')}
              value={search.get('q') ?? ''}
              onChange={(v) => set({ q: v })}
              width={84}
              takes={search.get('q') ? takes('q') : 0}
            />
            <Pick
              label={t('weigh.way')}
              value={search.get('way') ?? ''}
              options={['ownBrand', 'retail', 'wholesale', 'supplierShips', 'feeCheck'].map((w) => [
                w,
                t(`way.${w}`),
              ])}
              onChange={(v) => set({ way: v })}
              takes={search.get('way') ? takes('way') : 0}
            />
            <Pick
              label={t('weigh.stage')}
              value={search.get('stage') ?? ''}
              options={['idea', 'checking', 'sampling', 'ordering', 'selling'].map((w) => [
                w,
                t(`stageOfWork.${w}`),
              ])}
              onChange={(v) => set({ stage: v })}
              takes={search.get('stage') ? takes('stage') : 0}
            />
            {tags.length > 0 && (
              <Pick
                label={t('weigh.tag')}
                value={search.get('tag') ?? ''}
                options={tags.map((x) => [x, x])}
                onChange={(v) => set({ tag: v })}
                takes={search.get('tag') ? takes('tag') : 0}
              />
            )}
            <Limit
              label={t('weigh.keepsAtLeast')}
              value={search.get('keeps') ?? ''}
              onChange={(v) => set({ keeps: v })}
              width={40}
              takes={keeps === null ? 0 : takes('keeps')}
            />
            <Limit
              label={t('weigh.launchUpTo')}
              value={search.get('launch') ?? ''}
              onChange={(v) => set({ launch: v })}
              width={48}
              takes={launch === null ? 0 : takes('launch')}
            />
            <Pick
              label={t('weigh.show')}
              value={show === 'live' ? '' : show}
              none={t('weigh.live')}
              options={[
                ['archived', t('weigh.archived')],
                ['dropped', t('weigh.dropped')],
              ]}
              onChange={(v) => set({ show: v })}
              takes={0}
            />
            {['q', 'way', 'stage', 'tag', 'keeps', 'launch'].some((k) => search.get(k)) && (
              <Button
                size="small"
                onClick={() =>
                  set({ q: null, way: null, stage: null, tag: null, keeps: null, launch: null })
                }>
                {t('weigh.clear')}
              </Button>
            )}
          </Box>
          <Box sx={{ overflowX: 'auto', position: 'relative' }}>
            <Table
              size="small"
              sx={{
                minWidth: { md: 960 },
                tableLayout: { md: 'fixed' },
                '& thead th': {
                  lineHeight: 1.25,
                  verticalAlign: 'bottom',
                  borderBottom: '1.5px solid',
                  borderColor: 'text.primary',
                },
              }}>
              <TableHead>
                <TableRow>
                  {head('name', t('weigh.candidate'), 'left', '24%')}
                  <TableCell sx={{ width: '22%', display: { xs: 'none', sm: 'table-cell' } }}>
                    {t('weigh.where')}{' '}
                    <Box
                      component="button"
                      type="button"
                      aria-pressed={!hundred}
                      onClick={() => set({ bars: hundred ? 'money' : null })}
                      sx={{
                        font: 'inherit',
                        color: 'text.secondary',
                        border: 0,
                        borderBottom: '1px dotted',
                        p: 0,
                        bgcolor: 'transparent',
                        cursor: 'pointer',
                        whiteSpace: 'nowrap',
                        minHeight: 24,
                      }}>
                      {hundred ? t('weigh.perHundred') : t('weigh.inMoney', { currency: homeCurrency })}
                    </Box>
                  </TableCell>
                  {head('keeps', t('weigh.keeps', { currency: homeCurrency }), 'right', '96px')}
                  {head('margin', t('figure.margin'))}
                  {head('roi', t('figure.roi'), 'right', '66px')}
                  <TableCell align="right" sx={{ display: { xs: 'none', md: 'table-cell' } }}>
                    {t('weigh.breaksEven')}
                  </TableCell>
                  <TableCell align="right" sx={{ width: 104, display: { xs: 'none', md: 'table-cell' } }}>
                    {t('weigh.payAtMost')}
                  </TableCell>
                  {head('launch', t('weigh.launchCash', { currency: homeCurrency }), 'right', '80px')}
                  <TableCell sx={{ width: 138, pl: 3, display: { xs: 'none', md: 'table-cell' } }}>
                    {t('weigh.gates')}
                  </TableCell>
                  <TableCell sx={{ p: 0, width: 36 }}>
                    <span className="hidden-text">{t('sheet.more')}</span>
                  </TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {shown.map((l) => {
                  const b = best(l);
                  const isOpen = l.id === openId;
                  return (
                    <Fragment key={l.id}>
                      <TableRow
                        hover
                        sx={{
                          bgcolor: isOpen ? 'paperTint' : undefined,
                          '& td, & th': { borderBottomColor: isOpen ? 'transparent' : undefined },
                        }}>
                        <TableCell component="th" scope="row" sx={{ maxWidth: { xs: 190, md: 'none' } }}>
                          <Box
                            component={Link}
                            to={`${base}/weigh/${l.id}${b === undefined ? '' : `?lane=${b.id}`}`}
                            prefetch="intent"
                            dir="auto"
                            sx={{
                              color: 'inherit',
                              textDecoration: 'none',
                              display: 'inline-block',
                              minHeight: 24,
                              lineHeight: '24px',
                              fontWeight: 640,
                              fontSize: '0.9rem',
                              overflowWrap: 'anywhere',
                              '&:hover': { textDecoration: 'underline' },
                            }}>
                            {l.name}
                          </Box>
                          <Box sx={{ fontSize: '0.78rem', color: 'text.secondary' }}>
                            {b === undefined
                              ? t('weigh.noLane')
                              : `${countryName(b.country, i18n.language)} · ${b.marketplace || t('sheet.noMarketplace')}`}
                            {l.lanes.length > 1 && (
                              <Box
                                component="button"
                                type="button"
                                aria-expanded={isOpen}
                                onClick={() => set({ open: isOpen ? null : l.id })}
                                sx={{
                                  font: 'inherit',
                                  color: 'inherit',
                                  border: 0,
                                  bgcolor: 'transparent',
                                  cursor: 'pointer',
                                  p: 0,
                                  ml: 0.5,
                                  minHeight: 24,
                                  verticalAlign: 'middle',
                                  whiteSpace: 'nowrap',
                                }}>
                                · {t('weigh.bestOf', { count: l.laneCount })}
                                <DownIcon
                                  sx={{
                                    fontSize: 15,
                                    verticalAlign: 'text-bottom',
                                    transform: isOpen ? 'rotate(180deg)' : 'none',
                                  }}
                                />
                              </Box>
                            )}
                          </Box>
                          {b !== undefined && (
                            <Box sx={{ display: { sm: 'none' }, mt: 0.25 }}>
                              <MarginBar result={barOf(b)} scale={scale} height={8} />
                            </Box>
                          )}
                        </TableCell>
                        <LaneCells
                          lane={b}
                          bar={b === undefined ? undefined : barOf(b)}
                          scale={scale}
                          homeCurrency={homeCurrency}
                          bold
                        />
                        <TableCell sx={{ pl: 3, display: { xs: 'none', md: 'table-cell' } }}>
                          <Gates gates={l.gates} dropped={l.dropped} missed={b?.missed ?? []} />
                        </TableCell>
                        <TableCell sx={{ p: 0 }}>
                          {canEdit && (
                            <IconButton
                              size="small"
                              aria-label={t('weigh.actions', { name: l.name })}
                              aria-haspopup="menu"
                              onClick={(e) => setMenu({ el: e.currentTarget, line: l })}>
                              <MoreIcon fontSize="small" />
                            </IconButton>
                          )}
                        </TableCell>
                      </TableRow>
                      {isOpen &&
                        l.lanes.map(
                          (x, i) =>
                            i !== l.best && (
                              <TableRow
                                key={x.id}
                                sx={{
                                  bgcolor: 'paperTint',
                                  '& td': { borderBottomColor: 'transparent', py: 0.4 },
                                }}>
                                <TableCell sx={{ pl: 3, fontSize: '0.84rem' }}>
                                  <Box
                                    component={Link}
                                    to={`${base}/weigh/${l.id}?lane=${x.id}`}
                                    sx={{ color: 'inherit' }}>
                                    {countryName(x.country, i18n.language)} ·{' '}
                                    {x.marketplace || t('sheet.noMarketplace')}
                                  </Box>
                                </TableCell>
                                <LaneCells
                                  lane={x}
                                  bar={barOf(x)}
                                  scale={scale}
                                  homeCurrency={homeCurrency}
                                />
                                <TableCell sx={{ display: { xs: 'none', md: 'table-cell' } }} />
                                <TableCell />
                              </TableRow>
                            ),
                        )}
                    </Fragment>
                  );
                })}
              </TableBody>
            </Table>
          </Box>
          {shown.length === 0 && <Typography sx={{ my: 3 }}>{t('weigh.nothing')}</Typography>}
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', mt: 0.5 }}>
            <Box sx={{ flex: 1 }}>
              <RatesUsed rates={rates} />
            </Box>
            {shown.length > 0 && <TableFile table={() => tableOf(shown)} />}
          </Box>
        </>
      )}
      <Menu
        open={menu !== null}
        anchorEl={menu?.el ?? null}
        onClose={() => setMenu(null)}
        onClick={() => setMenu(null)}>
        <MenuItem onClick={() => post({ intent: 'duplicate', id: menu?.line.id ?? '' })}>
          {t('weigh.duplicate')}
        </MenuItem>
        {menu?.line.dropped === null ? (
          <MenuItem onClick={() => setDropping(menu.line)}>{t('weigh.drop')}</MenuItem>
        ) : (
          <MenuItem onClick={() => post({ intent: 'undrop', ids: menu?.line.id ?? '' })}>
            {t('weigh.undrop')}
          </MenuItem>
        )}
        <MenuItem
          onClick={() =>
            post({ intent: menu?.line.archived ? 'unarchive' : 'archive', ids: menu?.line.id ?? '' })
          }>
          {t(menu?.line.archived ? 'weigh.unarchive' : 'weigh.archive')}
        </MenuItem>
        <MenuItem onClick={() => post({ intent: 'delete', ids: menu?.line.id ?? '' })}>
          {t('weigh.delete')}
        </MenuItem>
      </Menu>
      {dropping !== null && (
        <Dialog open onClose={() => setDropping(null)} fullWidth maxWidth="xs">
          <Form method="post" action={`${base}/weigh`} onSubmit={() => setDropping(null)}>
            <DialogTitle>{t('weigh.dropTitle', { name: dropping.name })}</DialogTitle>
            <DialogContent>
              <input type="hidden" name="intent" value="drop" />
              <input type="hidden" name="ids" value={dropping.id} />
              <TextField
                name="reason"
                label={t('weigh.reason')}
                autoFocus
                margin="dense"
                slotProps={{ htmlInput: { maxLength: 300 } }}
              />
            </DialogContent>
            <DialogActions>
              <Button onClick={() => setDropping(null)}>{t('cancel')}</Button>
              <Button type="submit" variant="contained">
                {t('weigh.drop')}
              </Button>
            </DialogActions>
          </Form>
        </Dialog>
      )}
    </Box>
  );
}
