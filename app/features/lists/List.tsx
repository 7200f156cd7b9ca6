import { Box, Button, LinearProgress } from '@mui/material';
import { useCallback, useMemo, useState } from 'react';
import { useTranslation } from 'react-i18next';
import { useNavigate, useRevalidator } from 'react-router';
import type { ListRow } from '../../../between/ask.ts';
import { extraOf, SHORT_LIST } from '../../../core/lists/query.ts';
import { figuresOf, isListFigure } from '../../../core/lists/figures.ts';
import type { ListColumn, ListLook, ListSort } from '../../../core/lists/query.ts';
import type { ListFigure } from '../../../core/lists/figures.ts';
import type { ListSettings } from '../../../core/lists/settings.ts';
import { useFormat } from '../../ui/locale.ts';
import { useLatest } from '../../ui/useLatest.ts';
import { Assumptions } from './Assumptions.tsx';
import { useCell } from './Cell.tsx';
import { ColumnsDialog, ViewDialog } from './Dialogs.tsx';
import { Grid } from './Grid.tsx';
import type { Column } from './Grid.tsx';
import { Limits } from './Limits.tsx';
import { ListBar, TickedRows } from './ListBar.tsx';
import type { VerdictName } from './ListBar.tsx';
import { NewerCards, WeighedWith } from './ListCards.tsx';
import type { ListData } from './listData.ts';
import { ListHead } from './ListHead.tsx';
import { ExportMenu, ViewMenu } from './ListMenus.tsx';
import { Nothing } from './Nothing.tsx';
import { RowPane } from './RowPane.tsx';
import { useAct, useDecisions } from './useDecisions.ts';
import { useFoot, useRevalidatedWhenRead, useRowsTop } from './useFoot.tsx';
import { useListQuery } from './useListQuery.ts';
import { usePanes } from './usePanes.ts';
import { useScreen } from './useScreen.ts';
import { useSavedLook, useSettings } from './useSettings.ts';
import './words.ts';

/**
 * A screened list: the answer in a sentence, the limits as a funnel, the rows, and the assumptions or an
 * opened row beside them.
 */
export function ListPage(p: ListData) {
  const { t } = useTranslation();
  const f = useFormat();
  const navigate = useNavigate();
  const { revalidate } = useRevalidator();
  const url = `${p.root}/lists/${p.list.id}`;
  const { query, removed, setQuery } = useListQuery(p.query, p.look.query);
  const [columns, setColumns] = useState(p.look.columns);
  const { act, tally, said, setSaid } = useAct(url, p.tally);
  const settings = useSettings(p, act, () => void revalidate());
  const { own, setOwn, tried } = settings;
  const [views, setViews] = useState(p.views);
  const { showLimits, side, toggleLimits, closeRow, openSide } = usePanes();
  const [openLine, setOpenLine] = useState<number | null>(null);
  const [menu, setMenu] = useState<{ el: HTMLElement; which: 'view' | 'export' } | null>(null);
  const [dialog, setDialog] = useState<'columns' | 'view' | null>(null);
  const { above, top } = useRowsTop();
  const closeMenu = (): void => setMenu(null);

  const sales = p.screen.currency;
  const list = own.assumptions.purchase.currency;
  const hasBasis = useMemo(() => p.list.has.filter((r) => r === 'price30' || r === 'price90'), [p.list.has]);
  const can = useMemo(() => figuresOf(p.list.has, p.list.hasPrevious), [p.list]);
  const figures = useMemo(
    () => [
      ...new Set([
        ...columns.map((c) => c.id).filter(isListFigure),
        ...query.filters.flatMap((x) => (x.kind === 'range' ? [x.figure] : [])),
      ]),
    ],
    [columns, query.filters],
  );
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
  const shownCount = answer === null ? 0 : removed ? answer.rows - answer.kept : answer.kept;
  const decisions = useDecisions({ screen, count: shownCount, act, setSaid, saveSettings: settings.saveNow });
  const { ticked, untick, mark } = decisions;
  useSavedLook(p.canEdit, { columns, query }, act);
  useRevalidatedWhenRead(screen, () => void revalidate());

  const open = useLatest((row: ListRow): void => {
    setOpenLine(row.line);
    openSide('row');
  });
  const titled = useTitled();
  // Near misses and unknown rows say why, which takes room.
  const explains = query.filters.some(
    (x) =>
      x.kind === 'verdict' && (x.only.includes('near') || x.only.includes('unknown')) && x.only.length === 1,
  );
  const grid = useMemo(
    () =>
      columns
        .filter((c) => hasColumn(c.id, p.list.extras, can))
        .map(
          (c): Column => ({
            ...c,
            width: c.id === 'verdict' && explains ? Math.max(c.width, 210) : c.width,
            title: titled(c.id),
            right: isListFigure(c.id),
          }),
        ),
    [columns, p.list.extras, can, explains, titled],
  );
  const scale = screen.sums?.stats.find((x) => x.figure === 'price')?.to ?? 0;
  const cell = useCell({ list, sales, scale });
  const foot = useFoot(screen, shownCount, list, sales);

  const only = query.filters.find((x) => x.kind === 'verdict');
  const showVerdict = (v: VerdictName | null): void => {
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
    setColumns(look.columns);
    setQuery(look.query, false);
    if (assumptions !== null) setOwn({ ...own, assumptions });
  };
  const rows = [...ticked.values()];
  const tall = { maxHeight: `max(360px, calc(100vh - ${top + 8}px))` };

  return (
    <Box sx={{ mx: { sm: -1.5 } }}>
      <div ref={above}>
        <ListHead
          data={p}
          url={url}
          screen={screen}
          tally={tally}
          shownCount={shownCount}
          onStop={p.canEdit ? () => void act({ what: 'cancel' }) : null}
          onAssumptions={() => openSide('assumptions')}
        />
        {answer !== null && (
          <NewerCards
            cards={p.cards}
            before={answer.verdicts}
            ask={(ids) => screen.verdictsUnder({ ...own, ...ids })}
            onTake={p.canEdit ? (ids) => setOwn({ ...own, ...ids }) : null}
          />
        )}
        <ListBar
          query={query}
          removed={removed}
          answer={answer}
          onVerdict={showVerdict}
          onText={(text) => setQuery({ ...query, text })}
          middle={
            <>
              {ticked.size > 0 && (
                <TickedRows
                  rows={rows}
                  canEdit={p.canEdit}
                  onMark={(change) => void mark(rows, change).then(untick)}
                  onKeep={() => void decisions.keep(rows)}
                  onPacks={() => void decisions.confirmPacks(rows)}
                  onUntick={untick}
                />
              )}
              {said !== null ? (
                <Box role="status" sx={{ fontSize: '0.84rem' }}>
                  {said}
                </Box>
              ) : (
                ticked.size === 0 &&
                tally.shortlisted > 0 && (
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
                )
              )}
            </>
          }>
          <Button
            size="small"
            aria-pressed={removed}
            onClick={() => setQuery(query, !removed)}
            disabled={query.filters.length === 0 && query.text === ''}>
            {t(removed ? 'list.keptShown' : 'list.showRemoved')}
          </Button>
          {(['view', 'export'] as const).map((which) => (
            <Button
              key={which}
              size="small"
              aria-haspopup="menu"
              onClick={(e) => setMenu({ el: e.currentTarget, which })}>
              {t(`list.${which}`)} ▾
            </Button>
          ))}
          <Button size="small" aria-pressed={showLimits} onClick={toggleLimits}>
            {t('list.limits')}
          </Button>
          <Button
            size="small"
            aria-pressed={side === 'assumptions'}
            onClick={() => openSide(side === 'assumptions' ? null : 'assumptions')}>
            {t('list.assumptions')}
          </Button>
        </ListBar>
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
              onAssume={() => openSide('assumptions')}
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
              allTicked={decisions.allTicked}
              onTick={decisions.tick}
              onTickAll={() => void decisions.tickAll()}
              opened={side === 'row' ? openLine : null}
              onOpen={open}
              question={JSON.stringify([query, removed])}
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
              <>
                <Assumptions
                  own={own}
                  onChange={setOwn}
                  home={p.home}
                  sales={sales}
                  categories={p.screen.rates.marketplace?.categories ?? NONE}
                  hasBasis={hasBasis}
                  strange={screen.sums?.strange ?? NONE}
                  saved={settings.saved}
                  canEdit={p.canEdit}
                />
                <WeighedWith cards={p.cards} />
              </>
            ) : (
              <RowPane
                url={url}
                line={openLine}
                edition={decisions.edition + settings.edition}
                tried={tried}
                hurdles={own.assumptions.hurdles}
                root={p.root}
                canEdit={p.canEdit}
                onClose={closeRow}
                onMark={(row, change) => void mark([row], change)}
                onKeep={(row, quantity) => void decisions.keep([row], quantity)}
              />
            )}
          </Box>
        )}
      </Box>
      <ViewMenu
        el={menu?.which === 'view' ? menu.el : null}
        onClose={closeMenu}
        views={views}
        canEdit={p.canEdit}
        onApply={apply}
        onRemove={(id) => {
          setViews(views.filter((x) => x.id !== id));
          void act({ what: 'removeView', id });
        }}
        onColumns={() => setDialog('columns')}
        onSave={() => setDialog('view')}
      />
      <ExportMenu
        el={menu?.which === 'export' ? menu.el : null}
        onClose={closeMenu}
        url={url}
        query={query}
        tried={tried}
      />
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
                  got !== null &&
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

const NONE: readonly never[] = [];

/** Whether this list has a column: a look may come from another. */
function hasColumn(id: ListColumn, extras: readonly string[], can: readonly ListFigure[]): boolean {
  const extra = extraOf(id);
  return extra !== null ? extras.includes(extra) : !isListFigure(id) || can.includes(id);
}

/** The heading of a column. */
function useTitled(): (id: ListColumn) => string {
  const { t } = useTranslation();
  return useCallback(
    (id) => {
      const extra = extraOf(id);
      if (extra !== null) return ['link', 'picture', 'notes'].includes(extra) ? t(`role.${extra}`) : extra;
      return t(isListFigure(id) ? `listFigure.${id}` : `listText.${id}`);
    },
    [t],
  );
}
