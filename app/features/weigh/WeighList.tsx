import {
  Alert,
  Box,
  Button,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useFetcher, useSubmit } from 'react-router';
import type { GateState } from '../../../core/workspace/summary.ts';
import type { Gate } from '../../../core/workspace/records.ts';
import { boundWithout } from '../../../core/lane/bounds.ts';
import type { WeighLine } from '../../../core/workspace/weighLine.ts';
import { barExtent } from '../../ui/MarginBar.tsx';
import { parseNumber } from '../../ui/parseNumber.ts';
import { useFormat } from '../../ui/locale.ts';
import { RatesUsed } from '../../ui/RatesUsed.tsx';
import { TableFile } from '../../ui/TableFile.tsx';
import type { TableToSave } from '../../ui/TableFile.tsx';
import { useAddress } from '../../ui/useAddress.ts';
import { CandidateMenu, DropDialog, Ticked } from './WeighActions.tsx';
import { perHundred } from './WeighCells.tsx';
import { CandidateRow } from './WeighRow.tsx';
import { Limit, Pick, Empty } from './WeighLimits.tsx';

export type LaneLine = WeighLine & { readonly id: string };
export type CandidateLine = {
  id: string;
  name: string;
  way: string;
  stage: string;
  tags: string[];
  archived: boolean;
  dropped: string | null;
  changed: string;
  gates: Record<Gate, GateState>;
  best: LaneLine | null;
  laneCount: number;
};
type Opened = { id: string; lanes: LaneLine[] };
type Props = {
  lines: CandidateLine[];
  /** The lanes of the candidate that the address opens. */
  opened: Opened | null;
  rates: Parameters<typeof RatesUsed>[0]['rates'];
  homeCurrency: string;
  toSpend: number | null;
  base: string;
  canEdit: boolean;
};
/** Rows that are drawn at first; the others follow as one comes near them. */
const FIRST_ROWS = 24;

const SORTS = ['keeps', 'margin', 'roi', 'launch', 'name', 'changed'] as const;
type Sort = (typeof SORTS)[number];

export function WeighList({ lines, opened, rates, homeCurrency, toSpend, base, canEdit }: Props) {
  const { t } = useTranslation();
  const f = useFormat();
  const [search, set] = useAddress();
  const submit = useSubmit();
  const [menu, setMenu] = useState<{ el: HTMLElement; line: CandidateLine } | null>(null);
  const [dropping, setDropping] = useState<CandidateLine[] | null>(null);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const tick = (id: string): void => {
    const next = new Set(ticked);
    if (!next.delete(id)) next.add(id);
    setTicked(next);
  };

  const show = search.get('show') ?? 'live';
  const shelf = lines.filter((l) =>
    show === 'archived'
      ? l.archived
      : show === 'dropped'
        ? l.dropped !== null
        : !l.archived && l.dropped === null,
  );
  const best = (l: CandidateLine): LaneLine | null => l.best;
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
        b === null
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
  const openLanes = useOpenLanes(opened, openId, base);
  const { drawn, more } = useRowsAsNeeded(shown.length);
  const barOf = (x: LaneLine) => (hundred ? perHundred(x.bar) : x.bar);
  const scale = Math.max(
    1e-9,
    ...shown.flatMap((l) => l.best ?? []).map((x) => barExtent(barOf(x))),
    ...openLanes.map((x) => barExtent(barOf(x))),
  );
  const cleared = lines.filter((l) => !l.archived && l.dropped === null && clears(best(l))).length;
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
          {ticked.size > 0 && (
            <Ticked
              lines={lines.filter((l) => ticked.has(l.id))}
              onDrop={() => setDropping(lines.filter((l) => ticked.has(l.id)))}
              onUntick={() => setTicked(new Set())}
              post={post}
            />
          )}
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
                  {canEdit && (
                    <TableCell padding="none" sx={{ width: 26 }}>
                      <input
                        type="checkbox"
                        checked={shown.length > 0 && shown.every((l) => ticked.has(l.id))}
                        onChange={(e) => setTicked(new Set(e.target.checked ? shown.map((l) => l.id) : []))}
                        aria-label={t('weigh.tickAll')}
                      />
                    </TableCell>
                  )}
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
                {shown.slice(0, drawn).map((l) => (
                  <CandidateRow
                    key={l.id}
                    line={l}
                    barOf={barOf}
                    scale={scale}
                    base={base}
                    homeCurrency={homeCurrency}
                    isOpen={l.id === openId}
                    lanes={l.id === openId ? openLanes : []}
                    ticked={ticked.has(l.id)}
                    onOpen={() => set({ open: l.id === openId ? null : l.id })}
                    onTick={canEdit ? () => tick(l.id) : null}
                    onMenu={canEdit ? (el) => setMenu({ el, line: l }) : null}
                  />
                ))}
              </TableBody>
            </Table>
          </Box>
          {shown.length > drawn && <div ref={more}>{t('weigh.more', { count: shown.length - drawn })}</div>}
          {shown.length === 0 && <Typography sx={{ my: 3 }}>{t('weigh.nothing')}</Typography>}
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', mt: 0.5 }}>
            <Box sx={{ flex: 1 }}>
              <RatesUsed rates={rates} />
            </Box>
            {shown.length > 0 && <TableFile table={() => tableOf(shown)} />}
          </Box>
        </>
      )}
      {menu !== null && (
        <CandidateMenu
          {...menu}
          onClose={() => setMenu(null)}
          onDrop={() => setDropping([menu.line])}
          post={post}
        />
      )}
      {dropping !== null && (
        <DropDialog
          lines={dropping}
          base={base}
          onClose={() => {
            setDropping(null);
            setTicked(new Set());
          }}
        />
      )}
    </Box>
  );
}

/** Whether a lane clears all hurdles there are. */
const clears = (b: LaneLine | null): boolean =>
  b !== null && b.hurdles.length > 0 && b.hurdles.every((h) => h.verdict === 'pass');

/** The lanes of the candidate that is opened: those that came with the page, else asked for. */
function useOpenLanes(first: Opened | null, openId: string | null, base: string): readonly LaneLine[] {
  const fetcher = useFetcher<Opened>();
  const { load } = fetcher;
  const has = first?.id === openId ? first : fetcher.data?.id === openId ? fetcher.data : null;
  const isMissing = openId !== null && has === null;
  useEffect(() => {
    if (isMissing) void load(`${base}/weigh/${openId}/lanes`);
  }, [isMissing, openId, base, load]);
  return has?.lanes ?? [];
}

/** How many rows are drawn, and what to put below them: as it comes near the view, more are. */
function useRowsAsNeeded(all: number) {
  const [drawn, setDrawn] = useState(FIRST_ROWS);
  const more = useRef<HTMLDivElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the mark below the rows comes and goes with them
  useEffect(() => {
    const el = more.current;
    if (el === null) return;
    const near = new IntersectionObserver(([e]) => e?.isIntersecting && setDrawn((n) => n + FIRST_ROWS), {
      rootMargin: '600px',
    });
    near.observe(el);
    return () => near.disconnect();
  }, [drawn, all]);
  return { drawn, more };
}
