import { Alert, Box, Button, LinearProgress, Menu, MenuItem, Typography } from '@mui/material';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { MouseEvent } from 'react';
import { useTranslation } from 'react-i18next';
import { Link, useNavigate, useRevalidator, useSearchParams } from 'react-router';
import type { Answer, ListRow } from '../../../screening/ask.ts';
import { packsAsNamed } from '../../../core/goods/packs.ts';
import { blanksIn } from '../../../core/lane/lines.ts';
import {
  DEFAULT_LOOK,
  extraOf,
  isListFigure,
  LIST_FIGURES,
  queryIn,
  searchOf,
  SHORT_LIST,
} from '../../../core/lists/query.ts';
import type { ListColumn, ListFigure, ListLook, ListQuery, ListSort } from '../../../core/lists/query.ts';
import type { ListSettings, ScreenSettings } from '../../../core/lists/settings.ts';
import { minorDigits } from '../../../core/money/money.ts';
import { useBounds } from '../../ui/bounds.ts';
import { fieldInput } from '../../ui/Field.tsx';
import { MarginBar } from '../../ui/MarginBar.tsx';
import { floorTo, useFormat } from '../../ui/locale.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { Assumptions } from './Assumptions.tsx';
import { ColumnsDialog, ViewDialog } from './Dialogs.tsx';
import { Grid } from './Grid.tsx';
import type { Column } from './Grid.tsx';
import { Limits } from './Limits.tsx';
import { figureText } from './RangeLimit.tsx';
import { RowPane } from './RowPane.tsx';
import { CopyCode } from './RowParts.tsx';
import { usePanes } from './usePanes.ts';
import type { Change } from './RowDecisions.tsx';
import { useScreen } from './useScreen.ts';
import './words.ts';
import { lackingWord, Nothing, Progress } from './Nothing.tsx';

type Tally = { kept: number; shortlisted: number; dropped: number; ordered: number; profitPerMonth: number };
type View = { id: string; name: string; look: ListLook; assumptions: ListSettings['assumptions'] | null };
type Props = {
  list: {
    id: string;
    name: string;
    extras: string[];
    listCurrency: string;
    hasPrevious: boolean;
    hasReference: boolean;
    has: string[];
  };
  supplierName: string;
  own: ListSettings;
  screen: ScreenSettings;
  look: ListLook;
  query: ListQuery;
  answer: Answer | null;
  work: {
    id: string;
    state: string;
    done: number;
    total: number;
    error: string | null;
    startedAt: string | null;
    shown: boolean;
  } | null;
  home: string;
  counts: {
    valid: number;
    invalid: number;
    repaired: number;
    completed: number;
    garbled: number;
    changes: Record<string, number>;
    gone: number | null;
  };
  views: View[];
  tally: Tally;
  root: string;
  canEdit: boolean;
};
/** Rows that become candidates with one request. */
const AT_ONCE = 100;
const VERDICTS = ['pass', 'near', 'fail', 'unknown'] as const;

/**
 * A screened list: the answer in a sentence, the limits as a funnel, the rows, and the assumptions or an
 * opened row beside them.
 */
export function ListPage(p: Props) {
  const { t } = useTranslation();
  const f = useFormat();
  const navigate = useNavigate();
  const { revalidate } = useRevalidator();
  const [search, setSearch] = useSearchParams();
  const url = `${p.root}/lists/${p.list.id}`;
  const [query, setQueryState] = useState(p.query);
  const [removed, setRemoved] = useState(search.get('removed') === '1');
  const [columns, setColumns] = useState(p.look.columns);
  const [own, setOwn] = useState(p.own);
  const [base, setBase] = useState(p.own);
  const [saved, setSaved] = useState<'saved' | 'saving' | 'tried'>('saved');
  const [views, setViews] = useState(p.views);
  const [tally, setTally] = useState(p.tally);
  const { showLimits, side, toggleLimits, closeRow, openSide: setSide } = usePanes();
  const [openLine, setOpenLine] = useState<number | null>(null);
  const [edition, setEdition] = useState(0);
  const [ticked, setTicked] = useState<ReadonlyMap<number, ListRow>>(new Map());
  const [menu, setMenu] = useState<{ el: HTMLElement; which: 'view' | 'export' } | null>(null);
  const [dialog, setDialog] = useState<'columns' | 'view' | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const lastTicked = useRef<number | null>(null);
  const above = useRef<HTMLDivElement>(null);
  /** Where the rows begin: what stands above them may take a line more or less. */
  const [top, setTop] = useState(176);
  useEffect(() => {
    const el = above.current;
    if (el === null) return;
    const watch = new ResizeObserver(() =>
      setTop(Math.round(el.getBoundingClientRect().bottom + window.scrollY)),
    );
    watch.observe(el);
    return () => watch.disconnect();
  }, []);

  const sales = p.screen.currency;
  const list = own.assumptions.purchase.currency;
  // Figures that this list can have, of all there are.
  const can = useMemo(
    () =>
      LIST_FIGURES.filter((x) =>
        ['rank', 'offers', 'stock', 'minimumOrder', 'carton'].includes(x)
          ? p.list.has.includes(x)
          : x === 'paid'
            ? p.list.has.includes('breakCost') || p.list.has.includes('breakCost2')
            : x === 'before'
              ? p.list.hasPrevious
              : true,
      ),
    [p.list],
  );
  const figures = useMemo(
    () => [
      ...new Set([
        ...columns.map((c) => c.id).filter(isListFigure),
        ...query.filters.flatMap((x) => (x.kind === 'range' ? [x.figure] : [])),
      ]),
    ],
    [columns, query.filters],
  );
  const tried = own === base ? null : own;
  const ask = useMemo(
    () => ({
      query,
      show: removed ? ('removed' as const) : ('kept' as const),
      settings: tried,
      more: columns.some((c) => extraOf(c.id) !== null),
    }),
    [query, removed, tried, columns],
  );
  const screen = useScreen(`${url}/ask`, ask, p.answer, figures, p.work);
  const { answer } = screen;

  const setQuery = useLatest((next: ListQuery, showRemoved: boolean = removed): void => {
    setQueryState(next);
    setRemoved(showRemoved);
    const s = searchOf(next);
    if (next.filters.length === 0 && next.text === '') s.set('all', '1');
    if (showRemoved) s.set('removed', '1');
    setSearch(s, { replace: true, preventScrollReset: true });
  });
  // Back and a link that is followed bring their query with them.
  const address = search.toString();
  const ours = useRef(address);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the address alone decides
  useEffect(() => {
    const mine = searchOf(query);
    if (query.filters.length === 0 && query.text === '') mine.set('all', '1');
    if (removed) mine.set('removed', '1');
    if (address === ours.current || address === mine.toString()) {
      ours.current = address;
      return;
    }
    ours.current = address;
    setQueryState(address === '' ? p.look.query : queryIn(search));
    setRemoved(search.get('removed') === '1');
  }, [address]);

  const act = useCallback(
    async (body: object): Promise<{ ok?: true; kept: string[]; tally: Tally; error?: string } | null> => {
      const res = await fetch(`${url}/act`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      }).catch(() => null);
      const got =
        res === null
          ? null
          : ((await res.json().catch(() => null)) as {
              ok?: true;
              kept: string[];
              tally: Tally;
              error?: string;
            } | null);
      if (got?.tally !== undefined) setTally(got.tally);
      if (got?.error !== undefined) setSaid(got.error);
      return got;
    },
    [url],
  );

  // Assumptions answer at once and are kept a moment later; so is the look.
  useEffect(() => {
    if (own === base) return;
    setSaved('tried');
    if (!p.canEdit) return;
    const timer = setTimeout(() => {
      setSaved('saving');
      void act({ what: 'settings', settings: own }).then((got) => {
        if (got?.ok === undefined) return setSaved('tried');
        setBase(own);
        setSaved('saved');
        setEdition((n) => n + 1);
      });
    }, 700);
    return () => clearTimeout(timer);
  }, [own, base, act, p.canEdit]);
  const first = useRef(true);
  useEffect(() => {
    if (first.current) {
      first.current = false;
      return;
    }
    if (!p.canEdit) return;
    const timer = setTimeout(() => void act({ what: 'look', look: { columns, query } }), 1500);
    return () => clearTimeout(timer);
  }, [columns, query, act, p.canEdit]);

  const mark = useLatest(async (rows: readonly ListRow[], change: Change): Promise<void> => {
    await act({
      what: 'mark',
      change: {
        rows: rows.map((r) => ({
          key: r.key,
          name: r.title.slice(0, 500),
          profitPerMonth: r.figures.profitPerMonth ?? null,
        })),
        ...change,
      },
    });
    setEdition((n) => n + 1);
    screen.refresh();
  });
  /** Confirms the packs that the words of each row name: one request for each ratio, whatever the number of rows. */
  const confirmPacks = async (chosen: readonly ListRow[]): Promise<void> => {
    const byRatio = new Map<string, { pack: ReturnType<typeof packsAsNamed>; rows: ListRow[] }>();
    for (const r of chosen) {
      const pack = packsAsNamed(r.figures.pack ?? 0, r.listingPack);
      const group = byRatio.get(`${pack.sold}/${pack.bought}`) ?? { pack, rows: [] as ListRow[] };
      group.rows.push(r);
      byRatio.set(`${pack.sold}/${pack.bought}`, group);
    }
    for (const { pack, rows: same } of byRatio.values()) await mark(same, { pack });
    setTicked(new Map());
  };
  const keep = useLatest(async (rows: readonly ListRow[], quantity: number | null = null): Promise<void> => {
    // They are kept under the assumptions that are seen.
    if (own !== base && (await act({ what: 'settings', settings: own }))?.ok === undefined) return;
    let kept = 0;
    for (let i = 0; i < rows.length; i += AT_ONCE) {
      const got = await act({
        what: 'keep',
        lines: rows.slice(i, i + AT_ONCE).map((r) => r.line),
        ...(quantity === null ? {} : { quantity }),
      });
      if (got?.ok === undefined) return;
      kept += got.kept.length;
      setSaid(t('list.keptNow', { count: kept }));
    }
    setTicked(new Map());
    setEdition((n) => n + 1);
    screen.refresh();
  });
  const open = useLatest((row: ListRow): void => {
    setOpenLine(row.line);
    setSide('row');
  });
  const tick = useLatest((row: ListRow, at: number, range: boolean): void => {
    const next = new Map(ticked);
    if (range && lastTicked.current !== null) {
      for (let i = Math.min(at, lastTicked.current); i <= Math.max(at, lastTicked.current); i++) {
        const r = screen.rowAt(i);
        if (r !== undefined) next.set(r.key, r);
      }
    } else if (next.has(row.key)) next.delete(row.key);
    else next.set(row.key, row);
    lastTicked.current = at;
    setTicked(next);
  });

  const titled = (id: ListColumn): string => {
    const extra = extraOf(id);
    if (extra !== null) return ['link', 'picture', 'notes'].includes(extra) ? t(`role.${extra}`) : extra;
    return t(isListFigure(id) ? `listFigure.${id}` : `listText.${id}`);
  };
  /** Whether this list has a column: a look may come from another. */
  const has = (id: ListColumn): boolean => {
    const extra = extraOf(id);
    return extra !== null ? p.list.extras.includes(extra) : !isListFigure(id) || can.includes(id);
  };
  // Near misses and unknown rows say why, which takes room.
  const explains = query.filters.some(
    (x) =>
      x.kind === 'verdict' && (x.only.includes('near') || x.only.includes('unknown')) && x.only.length === 1,
  );
  const grid: Column[] = columns
    .filter((c) => has(c.id))
    .map((c) => ({
      ...c,
      width: c.id === 'verdict' && explains ? Math.max(c.width, 210) : c.width,
      title: titled(c.id),
      right: isListFigure(c.id),
    }));
  const scale = useMemo(() => {
    const s = screen.sums?.stats.find((x) => x.figure === 'price');
    return s === undefined ? 0 : s.to;
  }, [screen.sums]);
  const bounds = useBounds();
  const cell = useCallback(
    (row: ListRow, id: ListColumn) => {
      const extra = extraOf(id);
      if (extra !== null) {
        const text = row.more?.[extra] ?? '';
        return /^https?:\/\//i.test(text) ? (
          <a href={text} target="_blank" rel="noreferrer noopener" onClick={(e) => e.stopPropagation()}>
            {extra === 'picture' ? t('list.openPicture') : extra === 'link' ? t('list.openLink') : text}
          </a>
        ) : (
          <span dir="auto" title={text}>
            {text}
          </span>
        );
      }
      switch (id) {
        case 'title':
          return (
            <span className="list-title" dir="auto" title={row.title}>
              {row.title || row.code}
              {row.mark !== '' && <em>{t(`listFlag.${row.mark}`)}</em>}
              {row.removedBy.length > 0 && (
                <em>
                  {t('list.takenBy')}{' '}
                  {row.removedBy.map((k) => (k < 0 ? t('list.textLimit') : k + 1)).join(', ')}
                </em>
              )}
            </span>
          );
        case 'brand':
        case 'category':
          return <span dir="auto">{row[id]}</span>;
        case 'code':
          return <CopyCode code={row.code} />;
        case 'verdict': {
          const [r] = row.remedies;
          const at =
            r?.unitPrice != null && r.unitPrice > 0
              ? t('list.pays', {
                  price: f.money(
                    floorTo(Math.min(...row.remedies.map((x) => x.unitPrice ?? 0)), minorDigits(list)),
                    list,
                  ),
                  now: f.money(row.figures.paid ?? row.figures.cost ?? null, list),
                })
              : '';
          return (
            <span
              className={`verdict-${row.verdict}`}
              title={
                row.trouble !== ''
                  ? t(`listTrouble.${row.trouble}`)
                  : row.verdict === 'unknown'
                    ? t('answer.incomplete', { blanks: bounds.list(blanksIn(row.blanks)) })
                    : at
              }>
              {t(`listVerdict.${row.verdict}`)}
              {at !== '' && <small>{at}</small>}
              {row.verdict === 'unknown' && (
                <small>
                  {row.trouble !== ''
                    ? t(`listTrouble.${row.trouble}`)
                    : row.figures.price === null
                      ? t('list.unknownPrice')
                      : blanksIn(row.blanks)
                          .map((b) => t(`blank.${b}`))
                          .join(', ')}
                </small>
              )}
            </span>
          );
        }
        case 'bar': {
          const [
            tax = null,
            goods = null,
            wayIn = null,
            marketplace = null,
            fulfilment = null,
            returns = null,
            adverts = null,
          ] = row.families;
          return row.gross === null || (row.figures.unitProfit ?? null) === null ? null : (
            <MarginBar
              height={9}
              scale={Math.max(scale, row.gross)}
              result={{
                currency: sales,
                families: { tax, goods, wayIn, marketplace, fulfilment, returns, other: 0, adverts },
                figures: { gross: row.gross, unitProfit: row.figures.unitProfit ?? null },
                incomplete: { unitProfit: blanksIn(row.blanks).filter((b) => b !== 'demand') },
              }}
            />
          );
        }
        case 'cost':
          return (
            <span>
              {figureText(f, 'cost', row.figures.cost, list, sales)}
              {row.figures.before != null &&
                Math.abs(row.figures.before - (row.figures.cost ?? 0)) >= 0.005 && (
                  <small>{t('list.before', { price: f.plain(row.figures.before, list) })}</small>
                )}
            </span>
          );
        case 'unitProfit':
        case 'profitPerMonth': {
          const x = row.figures[id] ?? null;
          return (
            <b className={x !== null && x < 0 ? 'loses' : 'keeps'}>
              {x === null
                ? figureText(f, id, x, list, sales)
                : bounds.of(figureText(f, id, x, list, sales), blanksIn(row.blanks))}
            </b>
          );
        }
        case 'breakEvenPrice':
        case 'mostToPay': {
          const x = row.figures[id] ?? null;
          if (x === null && (row.figures.unitProfit ?? null) === null) return '–';
          if (x === null) return <small>{t(`list.noAnswer.${id}`)}</small>;
          const blanks = blanksIn(row.blanks).filter((b) => b !== 'goods');
          return bounds.of(
            figureText(f, id, x, list, sales),
            blanks,
            id === 'mostToPay' ? 'lessThan' : 'above',
          );
        }
        case 'margin':
        case 'roi':
          return row.figures[id] == null
            ? figureText(f, id, row.figures[id], list, sales)
            : bounds.of(figureText(f, id, row.figures[id], list, sales), blanksIn(row.blanks));
        default:
          return figureText(f, id as ListFigure, row.figures[id as ListFigure], list, sales);
      }
    },
    [t, f, bounds, list, sales, scale],
  );
  const shownCount = answer === null ? 0 : removed ? answer.rows - answer.kept : answer.kept;
  const foot = useCallback(
    (c: Column) => {
      const s = screen.sums?.stats.find((x) => x.figure === c.id);
      if (c.id === 'title')
        return (
          <>
            {t('list.shown', { count: shownCount, n: f.number(shownCount, 0) })}
            <small>
              {t('list.median')} · {t('list.sum')}
            </small>
          </>
        );
      if (s === undefined || s.known === 0) return null;
      const adds = ['profitPerMonth', 'units', 'quantity', 'stock'].includes(c.id);
      return (
        <>
          {figureText(f, c.id as ListFigure, s.median, list, sales)}
          <small>{adds ? figureText(f, c.id as ListFigure, s.sum, list, sales) : ' '}</small>
        </>
      );
    },
    [screen.sums, shownCount, f, t, list, sales],
  );

  const only = query.filters.find((x) => x.kind === 'verdict');
  const showVerdict = (v: (typeof VERDICTS)[number] | null): void => {
    const rest = query.filters.filter((x) => x.kind !== 'verdict');
    setQuery(
      {
        ...query,
        filters: v === null ? rest : [{ kind: 'verdict', only: [v] }, ...rest],
        sort: v === 'near' && query.sort.length === 0 ? SHORT_LIST.sort : query.sort,
      },
      false,
    );
  };
  const sortBy = useLatest((by: ListColumn, add: boolean): void => {
    if (by === 'bar' || by.startsWith('extra:')) return;
    const now = query.sort.find((k) => k.by === by);
    const figure = isListFigure(by);
    const next = (now === undefined ? { by, down: figure } : { by, down: !now.down }) as ListSort;
    setQuery({ ...query, sort: add ? [...query.sort.filter((k) => k.by !== by), next].slice(-4) : [next] });
  });
  const widen = useLatest((id: ListColumn, width: number): void =>
    setColumns(columns.map((c) => (c.id === id ? { ...c, width } : c))),
  );
  const moveTo = useLatest((id: ListColumn, to: ListColumn): void => {
    const next = columns.filter((c) => c.id !== id);
    const [from, at] = [columns.findIndex((c) => c.id === id), columns.findIndex((c) => c.id === to)];
    const place = next.findIndex((c) => c.id === to);
    next.splice(from < at ? place + 1 : place, 0, ...columns.filter((c) => c.id === id));
    setColumns(next);
  });
  const apply = (look: ListLook, assumptions: ListSettings['assumptions'] | null): void => {
    setMenu(null);
    setColumns(look.columns);
    setQuery(look.query, false);
    if (assumptions !== null) setOwn({ ...own, assumptions });
  };
  const files = (what: string, as: string): string =>
    `${url}/file?${new URLSearchParams([...searchOf(query), ['what', what], ['as', as]]).toString()}`;
  const running = screen.work?.state === 'waiting' || screen.work?.state === 'running';
  // What stands above the rows (rows to mend, the edition before) is known once all are read.
  const wasRunning = useRef(running);
  useEffect(() => {
    if (wasRunning.current && !running) void revalidate();
    wasRunning.current = running;
  }, [running, revalidate]);
  const question = JSON.stringify([query, removed]);
  const rows = [...ticked.values()];
  const monthly = tally.kept + tally.ordered;

  const tall = { maxHeight: `max(360px, calc(100vh - ${top + 8}px))` };

  return (
    <Box sx={{ mx: { sm: -1.5 } }}>
      <div ref={above}>
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap' }}>
          <Typography variant="h1" dir="auto" sx={{ fontSize: '1.4rem' }}>
            {p.list.name}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {p.supplierName !== '' && `${p.supplierName} · `}
            {p.screen.rates.marketplace?.marketplace} {p.screen.country}
            {p.counts.invalid > 0 && (
              <>
                {' '}
                · <a href={`${url}/file?what=refused`}>{t('list.toMend', { count: p.counts.invalid })}</a>
              </>
            )}
            {p.list.hasPrevious && p.work?.state === 'done' && (
              <>
                {' '}
                ·{' '}
                {t('list.edition', {
                  fresh: f.number(p.counts.changes.new ?? 0, 0),
                  dearer: f.number(p.counts.changes.dearer ?? 0, 0),
                  cheaper: f.number(p.counts.changes.cheaper ?? 0, 0),
                })}
                {p.counts.gone !== null && p.counts.gone > 0 && (
                  <>
                    , <a href={`${url}/file?what=gone&as=xlsx`}>{t('list.gone', { count: p.counts.gone })}</a>
                  </>
                )}
              </>
            )}
            {p.counts.garbled > 0 && <> · {t('list.garbled', { count: p.counts.garbled })}</>}
            {answer !== null && answer.unknown.noMarket > 0 && (
              <> · {t('list.noMarket', { count: f.number(answer.unknown.noMarket, 0) as never })}</>
            )}
            {answer !== null && answer.unknown.noCategory > 0 && (
              <> · {t('list.noCategory', { count: f.number(answer.unknown.noCategory, 0) as never })}</>
            )}
          </Typography>
          <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5, alignItems: 'baseline' }}>
            <Button component={Link} to={`${p.root}/lists`} size="small">
              {t('list.back')}
            </Button>
            <Button component={Link} to={`${url}/setup`} size="small">
              {t('list.setup')}
            </Button>
          </Box>
        </Box>
        {running && (
          <Progress
            work={screen.work}
            startedAt={p.work?.startedAt ?? null}
            onStop={p.canEdit ? () => void act({ what: 'cancel' }) : null}
          />
        )}
        {screen.work?.state === 'cancelled' && (
          <Alert severity="warning" sx={{ my: 0.5, py: 0 }}>
            {t('list.stopped')}
          </Alert>
        )}
        {screen.work?.state === 'failed' && (
          <Alert severity="error" sx={{ my: 0.5, py: 0 }}>
            {t('list.failed', { error: screen.work.error })}
          </Alert>
        )}
        {screen.away && (
          <Alert severity="info" role="status" sx={{ my: 0.5, py: 0 }}>
            {t('list.away')}
          </Alert>
        )}
        {answer !== null && (
          <Typography
            sx={{
              fontFamily: '"Bricolage Grotesque Variable", sans-serif',
              fontSize: '1.12rem',
              lineHeight: 1.35,
            }}>
            {running && `${t('list.soFar')}: `}
            {t('list.sentence', {
              rows: f.number(answer.rows, 0),
              pass: f.number(answer.verdicts.pass, 0),
              near: f.number(answer.verdicts.near, 0),
              fail: f.number(answer.verdicts.fail, 0),
              unknown: f.number(answer.verdicts.unknown, 0),
            })}
            {monthly > 0 && (
              <Box component="span" sx={{ color: 'primary.main' }}>
                {' '}
                {t('list.tally', {
                  kept: f.number(monthly, 0),
                  amount: f.money(tally.profitPerMonth, p.home),
                })}
                .
              </Box>
            )}
          </Typography>
        )}
        {answer !== null &&
          shownCount > 0 &&
          answer.verdicts.unknown * 2 > answer.rows &&
          answer.lacking[0] !== undefined && (
            <Typography variant="body2" color="text.secondary">
              {t('list.mostUnknown', {
                what: lackingWord(answer.lacking[0][0], t),
                count: answer.lacking[0][1],
                n: f.number(answer.lacking[0][1], 0),
              })}{' '}
              {t(`listRemedy.${answer.lacking[0][0]}`, { defaultValue: '' })}{' '}
              <Button size="small" sx={{ py: 0 }} onClick={() => setSide('assumptions')}>
                {t('list.assumptions')}
              </Button>
              <Button size="small" sx={{ py: 0 }} component={Link} to={`${url}/setup`}>
                {t('list.setup')}
              </Button>
            </Typography>
          )}
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', my: 0.75 }}>
          <Box
            role="group"
            aria-label={t('list.hurdles')}
            sx={{
              display: 'flex',
              border: '1px solid',
              borderColor: 'fieldLine',
              borderRadius: 1,
              overflow: 'hidden',
            }}>
            {([null, ...VERDICTS] as const).map((v) => {
              const on =
                v === null
                  ? only === undefined && !removed
                  : only?.kind === 'verdict' && only.only.length === 1 && only.only[0] === v && !removed;
              return (
                <Box
                  key={v ?? 'all'}
                  component="button"
                  type="button"
                  aria-pressed={on}
                  onClick={() => showVerdict(v)}
                  sx={{
                    font: 'inherit',
                    fontSize: '0.82rem',
                    border: 0,
                    px: 1.25,
                    height: 30,
                    cursor: 'pointer',
                    bgcolor: on ? 'text.primary' : 'transparent',
                    color: on ? 'background.default' : 'text.primary',
                    fontWeight: on ? 640 : 450,
                  }}>
                  {t(v === null ? 'list.all' : `list.${v}`)}{' '}
                  <Box component="span" sx={{ opacity: 0.75 }}>
                    {answer === null ? '' : f.number(v === null ? answer.rows : answer.verdicts[v], 0)}
                  </Box>
                </Box>
              );
            })}
          </Box>
          <Box
            component="input"
            type="search"
            value={query.text}
            aria-label={t('list.search')}
            placeholder={t('list.search')}
            onChange={(e: { target: { value: string } }) =>
              setQuery({ ...query, text: e.target.value.slice(0, 200) })
            }
            sx={{
              ...fieldInput(false),
              width: 230,
              height: 30,
              border: 0,
              borderBottom: '1.5px solid',
              borderColor: 'fieldLine',
              font: 'inherit',
              fontSize: '0.86rem',
              color: 'text.primary',
            }}
          />
          {ticked.size > 0 ? (
            <Box
              role="toolbar"
              aria-label={t('list.chosen', { count: ticked.size })}
              sx={{ display: 'flex', gap: 0.5, alignItems: 'center' }}>
              <b>{t('list.chosen', { count: ticked.size })}</b>
              {p.canEdit && (
                <>
                  <Button
                    size="small"
                    variant="contained"
                    color="primary"
                    onClick={() =>
                      void mark(rows, { state: 'shortlisted', reason: '' }).then(() => setTicked(new Map()))
                    }>
                    {t('list.shortlist')}
                  </Button>
                  <Button size="small" onClick={() => void keep(rows)}>
                    {t('list.keepMany')}
                  </Button>
                  <Button
                    size="small"
                    onClick={() => void mark(rows, { state: 'dropped' }).then(() => setTicked(new Map()))}>
                    {t('list.drop')}
                  </Button>
                  {rows.some((r) => (r.figures.pack ?? 0) > 1 || r.listingPack > 1) && (
                    <Button size="small" onClick={() => void confirmPacks(rows)}>
                      {t('list.packBulk')}
                    </Button>
                  )}
                </>
              )}
              <Button size="small" onClick={() => setTicked(new Map())}>
                {t('list.untick')}
              </Button>
            </Box>
          ) : said !== null ? (
            <Box role="status" sx={{ fontSize: '0.84rem' }}>
              {said}
            </Box>
          ) : tally.shortlisted > 0 ? (
            <Button
              size="small"
              onClick={() =>
                setQuery(
                  { ...query, text: '', filters: [{ kind: 'flag', flag: 'shortlisted', is: true }] },
                  false,
                )
              }>
              {t('list.tallyShort', { count: f.number(tally.shortlisted, 0) as never })}
            </Button>
          ) : null}
          <Box sx={{ ml: 'auto', display: 'flex', gap: 0.5 }}>
            <Button
              size="small"
              aria-pressed={removed}
              onClick={() => setQuery(query, !removed)}
              disabled={query.filters.length === 0 && query.text === ''}>
              {t(removed ? 'list.keptShown' : 'list.showRemoved')}
            </Button>
            <Button
              size="small"
              aria-haspopup="menu"
              onClick={(e) => setMenu({ el: e.currentTarget, which: 'view' })}>
              {t('list.view')} ▾
            </Button>
            <Button
              size="small"
              aria-haspopup="menu"
              onClick={(e) => setMenu({ el: e.currentTarget, which: 'export' })}>
              {t('list.export')} ▾
            </Button>
            <Button size="small" aria-pressed={showLimits} onClick={toggleLimits}>
              {t('list.limits')}
            </Button>
            <Button
              size="small"
              aria-pressed={side === 'assumptions'}
              onClick={() => setSide(side === 'assumptions' ? null : 'assumptions')}>
              {t('list.assumptions')}
            </Button>
          </Box>
        </Box>
      </div>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: {
            xs: '1fr',
            md: [showLimits && '204px', 'minmax(0, 1fr)', side !== null && '292px'].filter(Boolean).join(' '),
          },
          gap: 2,
          alignItems: 'start',
        }}>
        {showLimits && (
          <Box sx={{ overflow: 'auto', pr: 0.5 }} style={tall}>
            <Limits
              query={query}
              onQuery={setQuery}
              answer={answer}
              sums={screen.sums}
              listCurrency={list}
              salesCurrency={sales}
              figures={can}
            />
          </Box>
        )}
        <Box sx={{ minWidth: 0, position: 'relative' }}>
          <Box sx={{ height: 2 }}>
            {screen.busy && <LinearProgress aria-label={t('nav.loading')} sx={{ height: 2 }} />}
          </Box>
          {answer !== null && shownCount === 0 && !screen.busy ? (
            <Nothing
              answer={answer}
              short={query.text === '' && query.filters.length === 1 && only?.only.join() === 'pass'}
              onUnknown={() => showVerdict('unknown')}
              onNear={() => showVerdict('near')}
              setup={`${url}/setup`}
              refused={
                p.counts.invalid > 0 ? { count: p.counts.invalid, url: `${url}/file?what=refused` } : null
              }
              onAssume={() => setSide('assumptions')}
            />
          ) : (
            <Grid
              columns={grid}
              count={shownCount}
              rowAt={screen.rowAt}
              inView={screen.inView}
              cell={cell}
              foot={foot}
              sort={query.sort}
              onSort={sortBy}
              onWidth={widen}
              onMove={moveTo}
              ticked={new Set(ticked.keys())}
              onTick={tick}
              opened={side === 'row' ? openLine : null}
              onOpen={open}
              question={question}
              label={t('list.grid')}
              height={`max(360px, calc(100vh - ${top + 12}px))`}
            />
          )}
        </Box>
        {side !== null && (
          <Box
            style={tall}
            sx={{ overflow: 'auto', pl: 2, borderLeft: '1px solid', borderColor: 'hairline' }}>
            {side === 'assumptions' || openLine === null ? (
              <Assumptions
                own={own}
                onChange={setOwn}
                home={p.home}
                sales={sales}
                categories={p.screen.rates.marketplace?.categories ?? []}
                hasBasis={p.list.has.filter((r) => r === 'price30' || r === 'price90')}
                strange={screen.sums?.strange ?? []}
                saved={saved}
                canEdit={p.canEdit}
              />
            ) : (
              <RowPane
                url={url}
                line={openLine}
                edition={edition}
                tried={tried}
                hurdles={own.assumptions.hurdles}
                root={p.root}
                canEdit={p.canEdit}
                onClose={closeRow}
                onMark={(row, change) => void mark([row], change)}
                onKeep={(row, quantity) => void keep([row], quantity)}
              />
            )}
          </Box>
        )}
      </Box>
      <Menu open={menu?.which === 'view'} anchorEl={menu?.el ?? null} onClose={() => setMenu(null)}>
        <MenuItem onClick={() => apply(DEFAULT_LOOK, null)}>{t('list.ready')}</MenuItem>
        {views.map((v) => (
          <MenuItem key={v.id} onClick={() => apply(v.look, v.assumptions)}>
            {v.name}
            {p.canEdit && (
              <Box
                component="button"
                type="button"
                aria-label={t('list.deleteView', { name: v.name })}
                onClick={(e) => (
                  e.stopPropagation(),
                  setViews(views.filter((x) => x.id !== v.id)),
                  void act({ what: 'removeView', id: v.id })
                )}
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
        <MenuItem onClick={() => (setMenu(null), setDialog('columns'))}>{t('list.columns')}</MenuItem>
        {p.canEdit && (
          <MenuItem onClick={() => (setMenu(null), setDialog('view'))}>{t('list.saveView')}</MenuItem>
        )}
      </Menu>
      <Menu open={menu?.which === 'export'} anchorEl={menu?.el ?? null} onClose={() => setMenu(null)}>
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
              onClick={(e: MouseEvent) => {
                setMenu(null);
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
      {dialog === 'columns' && (
        <ColumnsDialog
          columns={columns}
          can={can}
          extras={p.list.extras}
          onChange={setColumns}
          onClose={() => setDialog(null)}
          titled={titled}
        />
      )}
      {dialog === 'view' && (
        <ViewDialog
          onClose={() => setDialog(null)}
          onSave={(name, withAssumptions) => {
            const assumptions = withAssumptions ? own.assumptions : null;
            setDialog(null);
            void act({ what: 'saveView', name, look: { columns, query }, assumptions })
              .then(
                (got) =>
                  got?.ok !== undefined &&
                  setViews([
                    ...views.filter((v) => v.name.toLowerCase() !== name.toLowerCase()),
                    { id: name, name, look: { columns, query }, assumptions },
                  ]),
              )
              .then(() => navigate('.', { replace: true, preventScrollReset: true }));
          }}
        />
      )}
    </Box>
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
